"""Two lines a quarter period apart: an encoder's position, and steps that it cannot have made."""

from __future__ import annotations

from collections.abc import Mapping
from typing import Any

import numpy as np

from lesart.core.block import Block, Mark
from lesart.core.parameters import Parameter
from lesart.core.raw.decode.record import DATED, FIRST_EDGE, GLITCH, Decoded, DecoderKind
from lesart.core.raw.edges import HIGH, UNKNOWN, Edges, without_glitches

_PLACE = np.array([0, 1, 3, 2])
"""Quarter of the period by the levels of both lines, a as bit 0 and b as bit 1: forwards is a before b."""


def _decode(lines: Mapping[str, Edges], values: Mapping[str, Any]) -> Decoded:
    from_first = values["dated"] == FIRST_EDGE
    a, removed = without_glitches(lines["a"], values["shortest"], from_first=from_first)
    b, more = without_glitches(lines["b"], values["shortest"], from_first=from_first)
    t, steps = steps_of(a, b)
    position = np.cumsum(np.where(steps == 2, 0, steps)) / values["edges"]
    marks = np.where(steps == 2, np.uint8(Mark.MISSING), np.uint8(0))
    column = Block(t, np.where(marks != 0, np.nan, position), marks)
    found = {"steps that are impossible": float((steps == 2).sum())}
    return Decoded({"position": column}, {"position": "ct"}, removed=removed + more, found=found)


def steps_of(a: Edges, b: Edges) -> tuple[np.ndarray, np.ndarray]:
    """Times of changes, and the step there: 1 forwards, −1 backwards, 2 where both lines changed at once."""
    t = np.union1d(a.t, b.t)
    levels = [line.level_at(t) for line in (a, b)]
    first = [line.first for line in (a, b)]
    known = (levels[0] != UNKNOWN) & (levels[1] != UNKNOWN)
    place = _PLACE[(levels[0] == HIGH) + 2 * (levels[1] == HIGH)]
    before = np.concatenate(([_PLACE[(first[0] == HIGH) + 2 * (first[1] == HIGH)]], place[:-1])) if len(t) else place
    was_known = np.concatenate(([UNKNOWN not in first], known[:-1])) if len(t) else known
    moved = (place - before) % 4
    steps = np.where(moved == 3, -1, moved)
    kept = known & was_known & (moved != 0)
    return t[kept], steps[kept]


QUADRATURE = DecoderKind(
    name="quadrature",
    title="two lines a quarter apart (quadrature)",
    says="an encoder's position, one way up and the other way down",
    lines=("a", "b"),
    needed=2,
    parameters=(
        Parameter(
            "edges", "edges a count", "integer", "1: every edge counts; 4: a count a period", 1, lowest=1, highest=4
        ),
        GLITCH,
        DATED,
    ),
    decode=_decode,
    gives_values=True,
)
