"""Captures away from hive 2: pulses of the mast and the tank, a sound, counts of a node."""

from __future__ import annotations

import io
import wave

import numpy as np

from lesart.core.law.thermocouple import emf_mv
from lesart.core.raw.edges import LOW, Edges
from lesart.demo.signals import DURATION_S, SEED
from lesart.demo.traces import Pen
from lesart.live.rig.signals import weather

PULSES_A_TURN, METRES_A_TURN = 2, 1.36
CLOSED = 0.3
"""Share of the time between two pulses of the cups in which the contact is closed."""
SHOWER_S, TIP_MM = (4300.0, 5600.0), 0.25
PING_S, SOUND_M_S = 0.5, 343.2
TANK_S, CUPS_S = 600.0, 1800.0
SOUND_HZ, SOUND_S = 8000, 8.0


def cups_trace() -> Edges:
    """A pulse each half turn, for half an hour; the contact chatters a little when it closes."""
    random = np.random.default_rng(SEED + 6)
    pen, t = Pen(LOW, CUPS_S), 0.4
    while True:
        wind_m_s = max(weather(t).wind_m_s, 0.15)
        apart_s = METRES_A_TURN / wind_m_s / PULSES_A_TURN * (1 + 0.02 * float(random.standard_normal()))
        if t + apart_s >= CUPS_S:
            return pen.edges()
        _closes(pen, t, CLOSED * apart_s, random, 0.6e-3)
        t += apart_s


def bucket_trace() -> Edges:
    """One shower of two hours."""
    random = np.random.default_rng(SEED + 7)
    pen, t = Pen(LOW, DURATION_S), SHOWER_S[0]
    while t < SHOWER_S[1]:
        middle = (t - SHOWER_S[0]) / (SHOWER_S[1] - SHOWER_S[0])
        t += TIP_MM / (0.008 * np.sin(np.pi * min(max(middle, 0.02), 0.98)) + 1e-4) * float(random.uniform(0.9, 1.1))
        if t < DURATION_S - 1:
            _closes(pen, t, 90e-3, random, 1.5e-3)
    return pen.edges()


def _closes(pen: Pen, t: float, lasts_s: float, random: np.random.Generator, bounce_s: float) -> None:
    for part in range(int(random.integers(0, 3))):
        pen.at(t + part * bounce_s, 1)
        pen.at(t + (part + 0.5) * bounce_s, 0)
    pen.at(t + 3 * bounce_s, 1)
    pen.at(t + lasts_s, 0)


def tank_trace() -> Edges:
    """Two pings a second for ten minutes while syrup is drawn; some echoes are lost, some come off the wall."""
    random = np.random.default_rng(SEED + 8)
    pen = Pen(LOW, TANK_S)
    for ping in range(int(TANK_S / PING_S)):
        t = 0.2 + ping * PING_S
        below_m = 0.212 + 0.18 * np.clip((t - 150) / 220, 0, 1) + 0.0006 * float(random.standard_normal())
        odd = random.random()
        # Lost ones time out; a wall answers from nearer.
        width_s = 38e-3 if odd < 0.012 else 2 * (0.41 * below_m if odd < 0.02 else below_m) / SOUND_M_S
        pen.at(t, 1)
        pen.at(t + float(width_s), 0)
    return pen.edges()


def lid_sound() -> bytes:
    """16-bit mono: a colony's hum at 235 Hz with its harmonics, fanning, and a knock on the lid that is too loud."""
    random = np.random.default_rng(SEED + 9)
    t = np.arange(int(SOUND_HZ * SOUND_S)) / SOUND_HZ
    hum = sum(
        level * np.sin(2 * np.pi * 235.0 * order * t + order) for order, level in ((1, 0.11), (2, 0.05), (3, 0.02))
    )
    fanning = (0.6 + 0.4 * np.sin(2 * np.pi * t / 3.1)) * 0.035 * random.standard_normal(len(t))
    knock = 1.9 * np.exp(-np.clip(t - 5.2, 0, None) / 0.05) * np.sin(2 * np.pi * 90 * t) * (t >= 5.2)
    samples = np.clip(np.rint((hum + fanning + knock) * 32_767), -32_768, 32_767).astype("<i2")
    file = io.BytesIO()
    with wave.open(file, "wb") as sound:
        sound.setnchannels(1)
        sound.setsampwidth(2)
        sound.setframerate(SOUND_HZ)
        sound.writeframes(samples.tobytes())
    return file.getvalue()


def node_text() -> str:
    """CSV of the node: milliseconds since it started, battery and three axes in counts, and the couple in the smoker.

    The smoker is lit after half an hour, and glows down. One row a second.
    """
    random = np.random.default_rng(SEED + 10)
    rows = ["ms,battery_ct,x_ct,y_ct,z_ct,smoker_mv"]
    seconds = np.arange(int(DURATION_S))
    smoker_c = 14 + 310 * np.clip((seconds - 1800) / 240, 0, 1) * np.exp(-np.clip(seconds - 2040, 0, None) / 2600)
    # 14 °C is about what the clamp has all morning; the couple gives the difference.
    couple_mv = emf_mv("K", smoker_c) - emf_mv("K", np.array([14.0])) + 0.004 * random.standard_normal(len(seconds))
    sun = np.clip(np.sin(np.pi * (seconds / DURATION_S - 0.05)), 0.0, None)
    volts = 12.45 + 1.15 * sun
    # The stand sinks a little on one side when the shower has softened the ground.
    lean = 0.012 + 0.02 * np.clip((seconds - 5000) / 1500, 0, 1)
    axes = np.column_stack((lean, np.full(len(lean), -0.006), np.sqrt(1 - lean**2))) * 16_384
    for second, (volt, axis, couple) in enumerate(zip(volts.tolist(), axes.tolist(), couple_mv.tolist(), strict=True)):
        battery = round((volt + 0.01 * float(random.standard_normal())) / 5.7 / 3.3 * 4095)
        noise = random.standard_normal(3).tolist()
        moment = second * 1000 + int(random.integers(0, 6))
        x, y, z = (round(still + 40 * each) for still, each in zip(axis, noise, strict=True))
        rows.append(f"{moment},{battery},{x},{y},{z},{couple:.3f}")
    return "\n".join(rows) + "\n"
