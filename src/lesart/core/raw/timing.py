"""Timing of a capture: rate, gaps, jitter, steps backwards."""

from __future__ import annotations

import numpy as np

from lesart.core.block import Block, Floats, Mark
from lesart.core.dataclass_later import dataclass
from lesart.core.ranked import median, noise_of_neighbours
from lesart.core.some_of import MOST, some_of

GAP_INTERVALS = 1.5
"""An interval longer than this many usual ones is a gap: at least one sample is missing."""


@dataclass(frozen=True)
class Timing:
    """``interval_s`` is the median interval; ``jitter_s`` the median distance from it; gaps are counted."""

    samples: int
    duration_s: float
    interval_s: float
    jitter_s: float
    gaps: int
    longest_gap_s: float
    steps_back: int
    repeats: int

    @property
    def rate_hz(self) -> float:
        """Samples per second by the median interval; 0 for fewer than two samples."""
        return 1.0 / self.interval_s if self.interval_s > 0 else 0.0


def timing_of(t: Floats) -> Timing:
    """Timing of samples at times in seconds, shape (n,), in the order they came."""
    if len(t) < 2:
        return Timing(
            samples=len(t),
            duration_s=0.0,
            interval_s=0.0,
            jitter_s=0.0,
            gaps=0,
            longest_gap_s=0.0,
            steps_back=0,
            repeats=0,
        )
    intervals = np.diff(t)
    is_forward = intervals > 0
    forward = intervals if is_forward.all() else intervals[is_forward]
    some = forward[:: max(len(forward) // MOST, 1)]
    usual = median(some) if len(some) else 0.0
    gaps = forward[forward > GAP_INTERVALS * usual]
    return Timing(
        samples=len(t),
        duration_s=float(t[-1] - t[0]),
        interval_s=usual,
        jitter_s=median(np.abs(some - usual)) if len(some) else 0.0,
        gaps=len(gaps),
        longest_gap_s=float(gaps.max()) if len(gaps) else 0.0,
        steps_back=int((intervals < 0).sum()),
        repeats=int((intervals == 0).sum()),
    )


@dataclass(frozen=True)
class RawFacts:
    """Figures of a raw block: the number of samples with each mark, and extremes and noise of the good ones."""

    marked: dict[str, int]
    least: float
    greatest: float
    noise: float

    @property
    def missing(self) -> int:
        """Number of samples that never came as a number."""
        return self.marked.get("missing", 0)


def raw_facts(block: Block) -> RawFacts:
    """Noise is that between neighbours, so that what the signal does and spikes do not count.

    Counts differ by whole steps, and so would their median: those that are alike are taken as spread over their step.
    """
    usable = block.usable
    good = block.x if usable.all() else block.x[usable]
    marked = {
        flag.name.lower(): count
        for flag in Mark
        if flag and flag.name and not block.is_good and (count := int(((block.mark & np.uint8(flag)) != 0).sum()))
    }
    if len(good) < 2:
        value = float(good[0]) if len(good) else float("nan")
        return RawFacts(marked, value, value, 0.0)
    some = some_of(block)
    noise = noise_of_neighbours(some.x[some.usable])
    return RawFacts(marked, float(good.min()), float(good.max()), noise)
