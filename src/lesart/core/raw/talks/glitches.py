"""Pulses that no device made: a slow edge that a probe saw twice, a spike from the line beside it."""

from __future__ import annotations

from collections.abc import Mapping

import numpy as np

from lesart.core.block import Floats
from lesart.core.raw.talks.seen_line import SeenLine

APART = 2.5
"""A line's glitches are all shorter than its shortest pulse by this factor, and nothing is between."""
MOST = 0.4
"""Of a line's pulses; of more, short ones are what it says. An edge that bounces once makes two pulses of one."""
MOST_TRIED = 3


def shortest_pulses(lines: Mapping[str, SeenLine]) -> tuple[float, ...]:
    """Times in seconds between glitches and what is meant, the shortest first; none where no line has rare pulses far
    shorter than its others. Which of them is right, what the lines then talk says."""
    found = [each for line in lines.values() if (each := _between(line.pulses)) is not None]
    tried: list[float] = []
    for glitch, meant in sorted(found):
        # One time for all lines: beyond the glitches of one, below what every other one means.
        limit = min([meant, *(other for short, other in found if short <= glitch)])
        if limit > 1.2 * glitch and not any(glitch < each < limit for each in tried):
            tried.append(float(np.sqrt(glitch * limit)))
    return tuple(tried[:MOST_TRIED])


def _between(lasts: Floats) -> tuple[float, float] | None:
    """The longest glitch of a line and its shortest pulse that is none: the first wide step among sorted lengths."""
    if len(lasts) < 4:
        return None
    some = np.sort(lasts)
    ratio = some[1:] / np.maximum(some[:-1], 1e-12)
    wide = np.flatnonzero(ratio[: max(int(MOST * len(some)), 1)] >= APART)
    return (float(some[wide[-1]]), float(some[wide[-1] + 1])) if len(wide) else None
