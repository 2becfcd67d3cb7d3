"""What channels read before a moment, for trends: in as many steps as a trend has pixels."""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import replace

import numpy as np

from lesart.core.block import Block
from lesart.core.fit.field import Reading
from lesart.core.glass.face import Face, Trend
from lesart.desk.bench import Run


def trends_of(faces: Iterable[Face]) -> dict[str, set[tuple[float, int]]]:
    """Spans and steps that trends ask for, by channel."""
    found: dict[str, set[tuple[float, int]]] = {}
    for face in faces:
        for item in face.items:
            if isinstance(item, Trend):
                found.setdefault(item.channel, set()).add((item.span_s, item.width))
    return found


def with_past(reading: Reading, run: Run, at_s: float, wanted: Iterable[tuple[float, int]]) -> Reading:
    """The reading with what was before it."""
    past = tuple((span_s, steps, past_of(run.calm, at_s, span_s, steps)) for span_s, steps in sorted(wanted))
    return replace(reading, past=past)


def past_of(block: Block, at_s: float, span_s: float, steps: int) -> tuple[float, ...]:
    """The last sample of each step, the last step ending at ``at_s``; NaN where none came in it, or a bad one."""
    edges = at_s - span_s + span_s * np.arange(steps + 1) / steps
    places = np.searchsorted(block.t, edges, side="right")
    last = places[1:] - 1
    came = places[1:] > places[:-1]
    if not len(block):
        return (float("nan"),) * steps
    usable = block.usable[np.maximum(last, 0)]
    return tuple(np.where(came & usable, block.x[np.maximum(last, 0)], np.nan).tolist())
