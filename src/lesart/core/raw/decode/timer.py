"""A timer that captures its count at edges, as the one in a small processor does: it wraps, and does not say so.

What firmware works out is the difference of two captures, modulo the timer's width. Where more than a whole round
passed between them, that difference is short by rounds that nobody counted: such a value is marked, not believed.
"""

from __future__ import annotations

from collections.abc import Mapping
from typing import Any

import numpy as np

from lesart.core.block import Block, Floats, Mark
from lesart.core.parameters import Parameter
from lesart.core.raw.decode.record import DATED, FIRST_EDGE, GLITCH, Decoded, DecoderKind
from lesart.core.raw.edges import HIGH, LOW, UNKNOWN, Edges, without_glitches

SPANS = ("rising to rising", "falling to falling", "high", "low")
HAIR = 1e-6
"""Of a tick: an edge this close to a tick is on it, however its time was rounded."""


def _decode(lines: Mapping[str, Edges], values: Mapping[str, Any]) -> Decoded:
    edges, removed = without_glitches(lines["line"], values["shortest"], from_first=values["dated"] == FIRST_EDGE)
    starts, ends = _spans(edges, values["of"])
    tick_hz, round_ = values["clock"] / values["prescaler"], float(2 ** values["bits"])
    before, after = (np.floor((t - edges.start_s) * tick_hz + HAIR) for t in (starts, ends))
    passed = after - before
    marks = np.where(passed >= round_, np.uint8(Mark.RANGE), np.uint8(0))
    good = np.zeros(len(ends), np.uint8)
    columns = {"ticks": Block(ends, np.mod(passed, round_), marks), "counter": Block(ends, np.mod(after, round_), good)}
    rounds = float(np.floor(after[-1] / round_)) if len(after) else 0.0
    found = {"one tick": 1.0 / tick_hz, "a whole round": round_ / tick_hz, "times it wrapped": rounds}
    return Decoded(columns, {"ticks": "ct", "counter": "ct"}, removed=removed, found=found)


def _spans(edges: Edges, of: str) -> tuple[Floats, Floats]:
    """Starts and ends of the measured times, shape (n,) each."""
    was = np.concatenate(([edges.first], edges.level[:-1])) if len(edges) else edges.level
    rises = edges.t[(edges.level == HIGH) & (was == LOW)]
    falls = edges.t[(edges.level == LOW) & (was == HIGH)]
    if of in SPANS[:2]:
        moments = rises if of == SPANS[0] else falls
        known = np.diff(np.searchsorted(edges.t[edges.level == UNKNOWN], moments)) == 0
        return moments[:-1][known], moments[1:][known]
    first, second = (rises, falls) if of == "high" else (falls, rises)
    places = np.searchsorted(second, first, side="right")
    known = places < len(second)
    # Where the level was unknown in between, two starts share an end: the later one is the pulse.
    starts, ends = first[known], second[places[known]]
    unknown = edges.t[edges.level == UNKNOWN]
    whole = np.searchsorted(unknown, starts) == np.searchsorted(unknown, ends)
    starts, ends = starts[whole], ends[whole]
    last = np.append(np.diff(ends) > 0, True) if len(ends) else np.zeros(0, bool)
    return starts[last], ends[last]


TIMER = DecoderKind(
    name="timer ticks",
    title="ticks of a timer that wraps",
    says="what a processor's timer captures between two edges",
    lines=("line",),
    needed=1,
    parameters=(
        Parameter("of", "between", "choice", "edges or level that is timed", SPANS[0], choices=SPANS),
        Parameter(
            "clock",
            "clock",
            "quantity",
            "of the timer, before its prescaler",
            "1 MHz",
            unit="Hz",
            lowest=0.0,
            above=True,
            highest=1e10,
        ),
        Parameter("prescaler", "prescaler", "integer", "clocks a tick", 1, lowest=1, highest=65_536),
        Parameter("bits", "bits", "integer", "width of the timer", 16, lowest=4, highest=32),
        GLITCH,
        DATED,
    ),
    decode=_decode,
    gives_values=True,
)
