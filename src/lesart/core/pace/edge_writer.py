"""Edges as firmware would make them: transmissions on two or four wires or on one line, and scanned digits."""

from __future__ import annotations

from collections.abc import Iterable, Sequence

from lesart.core.glass.bus.transmissions import Transmission
from lesart.core.raw.edges import HIGH, LOW, Edges, edges_of

BITS, ANSWERED, HALF = 8, 9, 4
"""Bits of a byte, of a byte with acknowledge, and of half a byte."""


class Line:
    """One line with an idle level, drawn from left to right."""

    def __init__(self, level: int) -> None:
        self.first = self.level = level
        self.t: list[float] = []
        self.levels: list[int] = []

    def to(self, t: float, level: int) -> None:
        """Go to this level from here on."""
        if level != self.level:
            self.t.append(t)
            self.levels.append(level)
            self.level = level

    def edges(self, end_s: float) -> Edges:
        """The edges up to the end of the trace."""
        return edges_of(self.t, self.levels, self.first, 0.0, end_s)


def two_wire(
    told: Iterable[tuple[float, Transmission]],
    address: int | None,
    clock_hz: float,
    end_s: float,
    *,
    lowest_first: bool = False,
) -> dict[str, Edges]:
    """Each transmission from its moment on, or as soon as the one before is done; everything is answered.

    Without an address as to a driver of digits, which has none and takes the lowest bit first.

    From start to start of two that follow at once it takes nine clocks a byte, its address too, and two more. Source:
    the bus standard, data change while the clock is low.
    """
    clock, data = Line(HIGH), Line(HIGH)
    period, free = 1.0 / clock_hz, 0.0
    for due, each in told:
        t = max(due, free)
        data.to(t, LOW)
        low = t + period / 2
        clock.to(low, LOW)
        for byte in each.data if address is None else (address << 1, *each.data):
            for place in range(ANSWERED):
                # The answer is a low level that the display makes.
                shift = place if lowest_first else BITS - 1 - place
                bit = byte >> shift & 1 if place < BITS else LOW
                data.to(low + period / 4, bit)
                clock.to(low + period / 2, HIGH)
                low += period
                clock.to(low, LOW)
        data.to(low + period / 4, LOW)
        clock.to(low + period / 2, HIGH)
        data.to(low + period, HIGH)
        free = low + 1.5 * period
    return {"clock": clock.edges(end_s), "data": data.edges(end_s)}


def four_wire(told: Iterable[tuple[float, Transmission]], clock_hz: float, end_s: float) -> dict[str, Edges]:
    """The highest bit first, sampled on the rising edge of the clock; select is active low, high means data."""
    lines = {"clock": Line(LOW), "data": Line(LOW), "select": Line(HIGH), "command": Line(HIGH)}
    period, free = 1.0 / clock_hz, 0.0
    for due, each in told:
        t = max(due, free)
        lines["command"].to(t, HIGH if each.is_data else LOW)
        lines["select"].to(t, LOW)
        for byte in each.data:
            for place in range(BITS):
                lines["data"].to(t + period / 4, byte >> (BITS - 1 - place) & 1)
                lines["clock"].to(t + period / 2, HIGH)
                t += period
                lines["clock"].to(t, LOW)
        lines["select"].to(t + period / 2, HIGH)
        free = t + period
    return {name: line.edges(end_s) for name, line in lines.items()}


ZERO_SHARE, ONE_SHARE = 0.32, 0.64
"""Share of a bit's time that its pulse is high. Source: data sheets of lamps in a chain."""


def one_line(
    told: Iterable[tuple[float, Transmission]], clock_hz: float, rest_s: float, end_s: float
) -> dict[str, Edges]:
    """A pulse for each bit, the highest first, long for a one; behind each transmission the line rests."""
    data, period, free = Line(LOW), 1.0 / clock_hz, 0.0
    for due, each in told:
        t = max(due, free)
        for byte in each.data:
            for place in range(BITS):
                data.to(t, HIGH)
                data.to(t + period * (ONE_SHARE if byte >> (BITS - 1 - place) & 1 else ZERO_SHARE), LOW)
                t += period
        free = t + rest_s
    return {"data": data.edges(end_s)}


def parallel(told: Iterable[tuple[float, Transmission]], width: int, write_s: float, end_s: float) -> dict[str, Edges]:
    """A strobe of the enable line per byte on eight lines, or per half of it on four; ``write_s`` apart.

    Data lines are ``d0`` to ``d7``, or ``d4`` to ``d7``, since four lines use the upper ones.
    """
    first = BITS - width
    data = {f"d{place}": Line(LOW) for place in range(first, BITS)}
    lines = {"enable": Line(LOW), "command": Line(LOW), **data}
    free = 0.0
    for due, each in told:
        t = max(due, free)
        for byte in each.data:
            for value in (byte,) if width == BITS else (byte >> HALF, byte & 0x0F):
                lines["command"].to(t, HIGH if each.is_data else LOW)
                for place, line in enumerate(data.values()):
                    line.to(t, value >> place & 1)
                lines["enable"].to(t + write_s / 4, HIGH)
                lines["enable"].to(t + write_s / 2, LOW)
                t += write_s
        free = t
    return {name: line.edges(end_s) for name, line in lines.items()}


def scanned(
    slots: Iterable[tuple[float, float, int, int]],
    digits: int,
    segments: int,
    end_s: float,
    *,
    on_level: int = HIGH,
    lit_level: int = HIGH,
) -> tuple[list[Edges], list[Edges]]:
    """Lines of digits and of segments. A slot: when a digit goes on and off in seconds, which one, and its bits.

    Segments change when a slot begins, and stay as they are until the next one.
    """
    on, lit = [Line(1 - on_level) for _ in range(digits)], [Line(1 - lit_level) for _ in range(segments)]
    for start, end, digit, bits in slots:
        for place, line in enumerate(lit):
            line.to(start, lit_level if bits >> place & 1 else 1 - lit_level)
        on[digit].to(start, on_level)
        on[digit].to(end, 1 - on_level)
    return [line.edges(end_s) for line in on], [line.edges(end_s) for line in lit]


def evenly(on_s: float, blanking_s: float, bits: Sequence[int], end_s: float) -> list[tuple[float, float, int, int]]:
    """Slots of digits in turn, each lit equally long, from the segment bits of each digit."""
    found, t, place = [], 0.0, 0
    while t + on_s + blanking_s <= end_s:
        digit = place % len(bits)
        found.append((t, t + on_s, digit, bits[digit]))
        t += on_s + blanking_s
        place += 1
    return found
