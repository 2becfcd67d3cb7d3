"""Bits by pulse length: a start, an answer, then a long or short pulse for each bit."""

from __future__ import annotations

from collections.abc import Iterator, Mapping, Sequence
from typing import Any

import numpy as np

from lesart.core.block import Bools, Floats, Mark
from lesart.core.dataclass_later import dataclass
from lesart.core.parameters import Parameter
from lesart.core.quantity import plain_number
from lesart.core.raw.decode.record import GLITCH, Bits, Decoded, DecoderKind, seconds
from lesart.core.raw.edges import HIGH, UNKNOWN, Edges, without_glitches
from lesart.core.raw.messages.frames import ByteFrame

RETRY = 0.5
"""Of the usual time between two requests: one that comes sooner after a silence is a retry of the same reading."""


@dataclass(frozen=True, eq=False)
class _Pulses:
    """High pulses with the low time before each; shape (n,)."""

    start: Floats
    end: Floats
    low: Floats


def _pulses(edges: Edges) -> _Pulses:
    """Pulses with a known level before and after."""
    if len(edges) < 2:
        nothing = np.zeros(0)
        return _Pulses(nothing, nothing, nothing)
    rises = np.flatnonzero(edges.level[:-1] == HIGH)
    rises = rises[edges.level[rises + 1] != UNKNOWN]
    before = np.concatenate(([edges.start_s], edges.t))[rises]
    return _Pulses(edges.t[rises], edges.t[rises + 1], edges.t[rises] - before)


def _decode(lines: Mapping[str, Edges], values: Mapping[str, Any]) -> Decoded:
    edges, removed = without_glitches(lines["line"], values["shortest"])
    if values["level"] == "low":
        edges = edges.inverted()
    pulses = _pulses(edges)
    length = pulses.end - pulses.start
    threshold = (
        values["ratio"] * pulses.low if values["by"] == "low time" else np.full(len(length), values["threshold"])
    )
    with np.errstate(divide="ignore", invalid="ignore"):
        margin = np.where(threshold > 0, np.abs(length - threshold) / threshold, 0.0)
    is_one = length > threshold
    frames, used = [], np.zeros(len(length), bool)
    for start, first, last in _frames(pulses, values):
        place = slice(first, min(first + values["bits"], last))
        used[place] = True
        asked = float(pulses.start[start])
        frames.append(_frame(pulses, is_one, place, values, asked))
    bits = Bits(pulses.start[used], pulses.end[used], is_one[used].astype(np.uint8), margin[used])
    found = {"least margin": float(margin[used].min())} if used.any() else {}
    if again := _asked_again(frames):
        found["asked again"] = float(again)
    return Decoded(frames=tuple(frames), bits=bits, removed=removed, found=found)


def _asked_again(frames: Sequence[ByteFrame]) -> int:
    """Silences followed by another request sooner than usual: a program that retries."""
    if len(frames) < 2:
        return 0
    steps = np.diff([frame.t for frame in frames])
    silent = np.array([not frame.data for frame in frames[:-1]])
    return int((silent & (steps < RETRY * np.median(steps))).sum())


def _frames(pulses: _Pulses, values: Mapping[str, Any]) -> Iterator[tuple[int, int, int]]:
    """The pulse after a start, the first one of its bits, and the pulse of the next start.

    A start is a low time that no bit has.
    """
    starts = np.flatnonzero(pulses.low >= values["start"])
    for place, start in enumerate(starts):
        last = int(starts[place + 1]) if place + 1 < len(starts) else len(pulses.low)
        yield int(start), min(int(start) + values["skip"], last), last


def _frame(pulses: _Pulses, is_one: Bools, place: slice, values: Mapping[str, Any], asked_s: float) -> ByteFrame:
    """Bits to bytes, highest first; a bit that is too long, or missing, breaks the frame."""
    bits, wanted = is_one[place], values["bits"]
    if place.start >= place.stop:
        return ByteFrame(asked_s, asked_s, b"", int(Mark.MISSING), "no bit came: there was no answer")
    t, end = float(pulses.start[place.start]), float(pulses.end[place.stop - 1])
    data = np.packbits(bits).tobytes()
    if len(bits) < wanted:
        return ByteFrame(t, end, data, int(Mark.MISSING), f"{len(bits)} of {wanted} bits came")
    longest = float((pulses.end[place] - pulses.start[place]).max())
    if longest > values["longest"]:
        return ByteFrame(
            t, end, data, int(Mark.MISSING), f"a bit of {plain_number(longest * 1e6, 3)} µs is too long for one"
        )
    return ByteFrame(t, end, data)


BY_LENGTH = DecoderKind(
    name="bits by length",
    title="bits by pulse length",
    says="a start, an answer, a long or short pulse for each bit",
    lines=("line",),
    needed=1,
    parameters=(
        Parameter("level", "bits are in", "choice", "pulses that carry the bits", "high", choices=("high", "low")),
        Parameter("bits", "bits", "integer", "of a frame", 40, lowest=1, highest=65_536),
        seconds("start", "start", "shortest rest before a frame, which the start signal makes", "500 µs", above=True),
        Parameter(
            "skip", "skip", "integer", "pulses after the start that carry no bit: the answer", 2, lowest=0, highest=100
        ),
        Parameter(
            "by",
            "decided by",
            "choice",
            "what a pulse is compared with",
            "threshold",
            choices=("threshold", "low time"),
        ),
        seconds("threshold", "threshold", "longer pulses are a one", "48 µs", above=True),
        Parameter(
            "ratio",
            "ratio",
            "quantity",
            "of the low time before it, above which a pulse is a one",
            "1",
            lowest=0.0,
            above=True,
            highest=100,
        ),
        seconds("longest", "longest bit", "longer ones break the frame", "200 µs", above=True),
        GLITCH,
    ),
    decode=_decode,
)
