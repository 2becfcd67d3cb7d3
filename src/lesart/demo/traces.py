"""Logic traces of the yard: the air sensor that answers in forty bits by length, and the beam at the entrance.

Both have what real ones have: jitter, a spoiled bit, a missing reading, needles of noise, bouncing contacts.
"""

from __future__ import annotations

import numpy as np

from lesart.core.raw.edges import HIGH, LOW, Edges, edges_of
from lesart.demo.signals import DURATION_S, SEED

EVERY_S = 60.0
"""The air is asked once a minute; such a sensor wants two seconds between readings."""
ASK_S, WAIT_S, ANSWER_S, LOW_S, ZERO_S, ONE_S = 18e-3, 30e-6, 80e-6, 50e-6, 26e-6, 70e-6
"""Start signal, rest, answer low and high, low before a bit, a zero, a one: as the sheets of such sensors have it."""
SILENT, SPOILED = (17, 63), (41, 90)
"""Missing readings, and readings with a bit lengthened by noise."""
BOUNCE_S, PULSE_S = 0.4e-3, 35e-3


class Pen:
    """Draws edges of one line with an idle level, until the trace ends."""

    def __init__(self, level: int, end_s: float = DURATION_S) -> None:
        self.end_s = end_s
        self.first = self.level = level
        self.t: list[float] = []
        self.levels: list[int] = []

    def at(self, t: float, level: int) -> None:
        if level != self.level:
            self.t.append(t)
            self.levels.append(level)
            self.level = level

    def edges(self) -> Edges:
        return edges_of(self.t, self.levels, self.first, 0.0, self.end_s)


def air_reading(minute: int) -> tuple[float, float]:
    """Relative humidity in % and temperature in °C of a morning that warms up."""
    day = minute / 120
    return round(78.0 - 21.0 * day + 1.2 * np.sin(minute / 7), 1), round(11.4 + 6.3 * day + 0.3 * np.sin(minute / 9), 1)


def air_frame(minute: int) -> bytes:
    """Humidity and temperature in tenths, two bytes each, and the sum of all four."""
    humidity, temperature = air_reading(minute)
    data = round(humidity * 10).to_bytes(2, "big") + round(temperature * 10).to_bytes(2, "big")
    return data + bytes((sum(data) & 0xFF,))


def air_trace() -> Edges:
    """Asked each minute for two hours."""
    random = np.random.default_rng(SEED + 2)
    pen = Pen(HIGH)
    for minute in range(int(DURATION_S / EVERY_S)):
        t = minute * EVERY_S + 10.0
        pen.at(t, LOW)
        t += ASK_S
        pen.at(t, HIGH)
        if minute in SILENT:
            continue
        t += WAIT_S
        pen.at(t, LOW)
        pen.at(t + ANSWER_S, HIGH)
        t += 2 * ANSWER_S
        bits = "".join(f"{byte:08b}" for byte in air_frame(minute))
        spoiled = int(random.integers(0, 32)) if minute in SPOILED else -1
        for place, bit in enumerate(bits):
            pen.at(t, LOW)
            t += LOW_S + float(random.normal(0, 1e-6))
            pen.at(t, HIGH)
            length = ONE_S if (bit == "1") != (place == spoiled) else ZERO_S
            t += length + float(random.normal(0, 3e-6))
        pen.at(t, LOW)
        pen.at(t + LOW_S, HIGH)
        if minute % 11 == 5:
            # A needle from the pump's relay, some time after the answer.
            pen.at(t + 2.0, LOW)
            pen.at(t + 2.0 + 2e-6, HIGH)
    return pen.edges()


def beam_times() -> list[float]:
    """When something passed the beam: more as the morning warms, in bursts."""
    random = np.random.default_rng(SEED + 3)
    times, t = [], 3.0
    while t < DURATION_S - 1:
        busy = 0.25 + 0.9 * t / DURATION_S
        t += PULSE_S + 0.1 + float(random.exponential(1.0 / busy))
        times.append(t)
    return [moment for moment in times if moment < DURATION_S - 1]


def beam_trace() -> Edges:
    """A pulse for each that passes; the edge of a wing makes it bounce now and then."""
    random = np.random.default_rng(SEED + 4)
    pen = Pen(LOW)
    for t in beam_times():
        if random.random() < 0.3:
            for part in range(int(random.integers(1, 4))):
                pen.at(t - (3 - part) * BOUNCE_S, HIGH)
                pen.at(t - (3 - part) * BOUNCE_S + BOUNCE_S / 2, LOW)
        pen.at(t, HIGH)
        pen.at(t + PULSE_S, LOW)
    return pen.edges()
