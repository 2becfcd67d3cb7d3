"""Traces written by hand-made senders, for decoders to read: independent of the code that reads them."""

from __future__ import annotations

import random
from collections.abc import Iterable, Mapping, Sequence
from typing import Any

import numpy as np

from lesart.core.parameters import read_table
from lesart.core.raw.decode import KINDS, Decoded
from lesart.core.raw.edges import Edges, edges_of


class Line:
    """A line that is driven: ``to`` a level ``after`` a time, from a level it rests at."""

    def __init__(self, rests: int = 1) -> None:
        self.now, self.level = 0.0, rests
        self.first = rests
        self.t: list[float] = []
        self.levels: list[int] = []

    def to(self, level: int) -> Line:
        if level != self.level:
            self.t.append(self.now)
            self.levels.append(level)
            self.level = level
        return self

    def stay(self, seconds: float) -> Line:
        self.now += seconds
        return self

    def edges(self, end_s: float | None = None) -> Edges:
        return edges_of(self.t, self.levels, self.first, 0.0, self.now if end_s is None else end_s)


def decode(kind: str, lines: Mapping[str, Edges] | Edges, **written: object) -> Decoded:
    """By a decoder, its values as the project file writes them."""
    values, problems = read_table(KINDS[kind].parameters, written, "d")
    assert not problems, problems
    named = {"line": lines} if isinstance(lines, Edges) else dict(lines)
    return KINDS[kind].decode(named, values)


def by_length(frames: Iterable[bytes], jitter: Iterable[float] = (), *, skip_bits: int = 0) -> Line:
    """A sensor asked by 18 ms low, answering by 80 µs low and high, then 50 µs low and 26 or 70 µs high for each
    bit."""
    shift = iter(jitter)
    line = Line().stay(0.1)
    for data in frames:
        line.to(0).stay(0.018).to(1).stay(30e-6).to(0).stay(80e-6).to(1).stay(80e-6)
        bits = "".join(f"{byte:08b}" for byte in data)
        for bit in bits[: len(bits) - skip_bits]:
            line.to(0).stay(50e-6).to(1).stay((70e-6 if bit == "1" else 26e-6) + next(shift, 0.0))
        line.to(0).stay(50e-6).to(1).stay(0.1)
    return line


def uart(frames: Sequence[bytes], baud: float, *, parity: str = "none", stop: int = 1, gap_bits: float = 60) -> Line:
    """Words lowest bit first; frames apart by some bits of rest."""
    line, bit = Line().stay(gap_bits / baud), 1 / baud
    for data in frames:
        for byte in data:
            line.to(0).stay(bit)
            ones = 0
            for place in range(8):
                ones += byte >> place & 1
                line.to(byte >> place & 1).stay(bit)
            if parity != "none":
                line.to(ones % 2 if parity == "even" else 1 - ones % 2).stay(bit)
            line.to(1).stay(stop * bit)
        line.stay(gap_bits * bit)
    return line


class TwoWire:
    """A bus of two lines, driven as its standard says, by 10 µs a bit."""

    def __init__(self, bit_s: float = 10e-6) -> None:
        self.clock, self.data, self.quarter = Line(), Line(), bit_s / 4
        self._both(8)

    def _both(self, quarters: float) -> TwoWire:
        self.clock.stay(quarters * self.quarter)
        self.data.stay(quarters * self.quarter)
        return self

    def start(self) -> TwoWire:
        self.data.to(1)
        self._both(1)
        self.clock.to(1)
        self._both(1)
        self.data.to(0)
        self._both(1)
        self.clock.to(0)
        return self._both(1)

    def bit(self, one: int, *, held: float = 0.0) -> TwoWire:
        self.data.to(one)
        self._both(1 + held)
        self.clock.to(1)
        self._both(2)
        self.clock.to(0)
        return self._both(1)

    def byte(self, value: int, *, acknowledged: bool = True, held: float = 0.0) -> TwoWire:
        for place in range(7, -1, -1):
            self.bit(value >> place & 1)
        return self.bit(0 if acknowledged else 1, held=held)

    def stop(self) -> TwoWire:
        self.data.to(0)
        self._both(1)
        self.clock.to(1)
        self._both(1)
        self.data.to(1)
        return self._both(8)

    @property
    def lines(self) -> dict[str, Edges]:
        return {"clock": self.clock.edges(), "data": self.data.edges()}


def four_wire(frames: Sequence[bytes], mode: int, *, lowest_first: bool = False, command: int = 1) -> dict[str, Edges]:
    """A clock that rests at its mode's level; data changes half a bit before it is read."""
    idle, half = int(mode in (2, 3)), 0.5e-6
    clock, data, select, what = Line(idle), Line(0), Line(1), Line(command)
    lines = (clock, data, select, what)

    def wait(seconds: float) -> None:
        for line in lines:
            line.stay(seconds)

    wait(5e-6)
    for frame in frames:
        select.to(0)
        wait(half)
        for byte in frame:
            for place in range(8):
                bit = byte >> (place if lowest_first else 7 - place) & 1
                if mode in (0, 2):
                    data.to(bit)
                    wait(half)
                    clock.to(1 - idle)
                    wait(half)
                    clock.to(idle)
                else:
                    clock.to(1 - idle)
                    data.to(bit)
                    wait(half)
                    clock.to(idle)
                    wait(half)
        wait(half)
        select.to(1)
        wait(5e-6)
    return {
        "clock": clock.edges(),
        "data": data.edges(),
        "select": select.edges(),
        "command": what.edges(),
    }


def one_wire(frames: Sequence[bytes], *, present: bool = True, begins: int = 1, answer_s: float = 120e-6) -> Line:
    """Resets of 500 µs, an answer 30 µs later for ``answer_s``, slots of 70 µs: a one low for 6 µs, a zero for 60. It begins
    low where the recording does before the supply comes."""
    line = Line(begins).stay(1e-3).to(1).stay(1e-3)
    for data in frames:
        line.to(0).stay(500e-6).to(1).stay(30e-6)
        if present:
            line.to(0).stay(answer_s).to(1)
        line.stay(400e-6)
        for byte in data:
            for place in range(8):
                low = 6e-6 if byte >> place & 1 else 60e-6
                line.to(0).stay(low).to(1).stay(75e-6 - low)
        line.stay(5e-3)
    return line


def infrared(codes: Sequence[bytes], *, repeats: int = 0, light: int = 0) -> Line:
    """Marks of 560 µs at the light's level; 9 ms and 4.5 ms before a code, 9 ms and 2.25 ms for a repeat."""
    line = Line(1 - light).stay(0.02)

    def mark(on: float, rest: float) -> None:
        line.to(light).stay(on).to(1 - light).stay(rest)

    for data in codes:
        mark(9e-3, 4.5e-3)
        for byte in data:
            for place in range(8):
                mark(560e-6, 1690e-6 if byte >> place & 1 else 560e-6)
        mark(560e-6, 0.04)
        for _ in range(repeats):
            mark(9e-3, 2.25e-3)
            mark(560e-6, 0.09)
    return line


def quadrature(steps: Sequence[int], quarter_s: float = 1e-3) -> dict[str, Edges]:
    """Quarters of a period, on or back: a leads where it goes on."""
    lines, place = {"a": Line(0), "b": Line(0)}, 0
    for step in steps:
        for line in lines.values():
            line.stay(quarter_s)
        place = (place + step) % 4
        lines["a"].to(int(place in (1, 2)))
        lines["b"].to(int(place in (2, 3)))
    return {name: line.stay(quarter_s).edges() for name, line in lines.items()}


class TwoLines(TwoWire):
    """A driver of digits: no address, lowest bit first."""

    def byte(self, value: int, *, acknowledged: bool = True, held: float = 0.0) -> TwoLines:
        for place in range(8):
            self.bit(value >> place & 1)
        self.bit(0 if acknowledged else 1, held=held)
        return self


def random_edges(seed: int, count: int, unknown: bool = True) -> Edges:
    """Any trace at all."""
    random: Any = np.random.default_rng(seed)
    t = np.cumsum(random.exponential(10.0 ** random.uniform(-7, -2), count))
    return edges_of(t, random.integers(0, 3 if unknown else 2, count), int(random.integers(0, 3)))


def glitched(lines: Mapping[str, Edges], dice: random.Random) -> dict[str, Edges]:
    """One edge in a hundred, and one at least of each line, bounces back once, for an eighth of the shortest pulse and
    at most 5 µs."""
    lasts = [float(np.diff(line.t).min()) for line in lines.values() if len(line) > 1]
    short = min(min(lasts) / 8, 5e-6)
    found = {}
    for name, line in lines.items():
        must = dice.randrange(max(len(line), 1))
        told = []
        for place, (t, level) in enumerate(zip(line.t.tolist(), line.level.tolist(), strict=True)):
            told.append((t, level))
            if place == must or dice.random() < 0.01:
                told += [(t + short, 1 - level), (t + 2 * short, level)]
        found[name] = edges_of(*zip(*told, strict=True), line.first, line.start_s, line.end_s) if told else line
    return found
