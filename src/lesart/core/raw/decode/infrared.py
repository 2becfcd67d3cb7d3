"""Infrared remote controls: a long mark, a pause, then one bit per distance between two short marks.

Source: pulse distance coding as remote controls publish it: 9 ms and 4.5 ms, marks of 560 µs, a zero 1.125 ms from mark
to mark, a one 2.25 ms, lowest bit first; 9 ms and 2.25 ms repeat the last code. A receiver's line is low while there is
light; the emitter's own is high, and its marks are modulated by a carrier.
"""

from __future__ import annotations

from collections.abc import Mapping
from typing import Any

import numpy as np

from lesart.core.block import Mark
from lesart.core.parameters import Parameter
from lesart.core.raw.decode.record import GLITCH, Bits, Decoded, DecoderKind, seconds
from lesart.core.raw.edges import HIGH, LOW, Edges, without_glitches
from lesart.core.raw.messages.frames import ByteFrame

CARRIER_S = 60e-6
"""A gap shorter than this within a mark belongs to the carrier, which has 30 kHz or more."""
REPEATS = 0.7
"""A pause after the long mark shorter than this share of the usual one means that the last code is repeated."""


def _decode(lines: Mapping[str, Edges], values: Mapping[str, Any]) -> Decoded:
    line, removed = without_glitches(lines["line"], values["shortest"])
    starts, ends = marks_of(line, HIGH if values["light"] == "high" else LOW)
    length, rest = ends - starts, np.append(starts[1:] - ends[:-1], np.inf)
    longs = np.flatnonzero(length >= values["start"])
    frames: list[ByteFrame] = []
    t, ones, over = [], [], []
    for place, long in enumerate(longs.tolist()):
        last = int(longs[place + 1]) if place + 1 < len(longs) else len(starts)
        first = long + 1
        # A pause longer than any bit ends the code.
        stop = next((each for each in range(first, last) if rest[each] > values["longest"]), last)
        gaps = rest[first : min(stop, first + values["bits"])]
        bits = (gaps > values["threshold"]).astype(np.uint8)
        t += starts[first : first + len(bits)].tolist()
        ones += bits.tolist()
        over += gaps.tolist()
        frames.append(_frame(float(starts[long]), float(ends[min(stop, last - 1)]), bits, float(rest[long]), values))
    begin, value, gap = np.array(t, np.float64), np.array(ones, np.uint8), np.array(over, np.float64)
    margin = np.abs(gap - values["threshold"]) / values["threshold"]
    return Decoded(frames=tuple(frames), bits=Bits(begin, begin + gap, value, margin), removed=removed)


def marks_of(line: Edges, level: int) -> tuple[np.ndarray, np.ndarray]:
    """Starts and ends of marks, shape (n,), with the gaps of a carrier closed."""
    places = np.flatnonzero(line.level[:-1] == level) if len(line) else np.zeros(0, np.int64)
    starts, ends = line.t[places], line.t[places + 1]
    if not len(starts):
        return starts, ends
    apart = starts[1:] - ends[:-1] > CARRIER_S
    return starts[np.concatenate(([True], apart))], ends[np.concatenate((apart, [True]))]


def _frame(start_s: float, end_s: float, bits: np.ndarray, rest_s: float, values: Mapping[str, Any]) -> ByteFrame:
    if not len(bits) and rest_s < REPEATS * values["rest"]:
        return ByteFrame(start_s, end_s, b"", 0, "", "repeats the last")
    if len(bits) < values["bits"]:
        return ByteFrame(start_s, end_s, b"", int(Mark.MISSING), f"{len(bits)} of {values['bits']} bits came", "code")
    left = len(bits) % 8
    rows = np.pad(bits, (0, (8 - left) % 8)).reshape(-1, 8)
    if values["first"] == "lowest":
        rows = rows[:, ::-1]
    return ByteFrame(start_s, end_s, np.packbits(rows, axis=1).tobytes(), 0, "", "code")


INFRARED = DecoderKind(
    name="infrared by distance",
    title="infrared remote control, by pulse distance",
    says="a long mark, then a bit for each distance between short ones",
    lines=("line",),
    needed=1,
    parameters=(
        Parameter(
            "light", "light is", "choice", "level of the line while there is light", "low", choices=("low", "high")
        ),
        Parameter("bits", "bits", "integer", "of a code", 32, lowest=1, highest=256),
        Parameter("first", "first bit", "choice", "that is sent", "lowest", choices=("lowest", "highest")),
        seconds("start", "start", "a mark at least so long begins a code", "2.5 ms", above=True),
        seconds("rest", "rest", "after that mark; a shorter one repeats the last code", "4.5 ms", above=True),
        seconds("threshold", "threshold", "a rest that is longer is a one", "1.1 ms", above=True),
        seconds("longest", "longest rest", "a longer one ends the code", "4 ms", above=True),
        GLITCH,
    ),
    decode=_decode,
)
