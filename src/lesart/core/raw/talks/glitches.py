"""Pulses that no device made: a slow edge seen twice, a spike from the next line."""

from __future__ import annotations

from collections.abc import Mapping

import numpy as np

from lesart.core.block import Floats
from lesart.core.raw.talks.seen_line import SeenLine

APART = 2.5
"""All glitches of a line are shorter than its shortest real pulse by this factor, with nothing between."""
MOST = 0.4
"""Most glitches as a share of a line's pulses; with more, short pulses are its signal.

An edge that bounces once splits one pulse in two.
"""
MOST_TRIED = 3


def shortest_pulses(lines: Mapping[str, SeenLine]) -> tuple[float, ...]:
    """Candidate limits in seconds between glitches and real pulses, the shortest first; none where no line has rare
    pulses far shorter than its others. The right one shows by what the lines then talk."""
    found = [each for line in lines.values() if (each := _between(line.pulses)) is not None]
    tried: list[float] = []
    for glitch, meant in sorted(found):
        # One limit for all lines: above the glitches of one, below the real pulses of every other one.
        limit = min([meant, *(other for short, other in found if short <= glitch)])
        if limit > 1.2 * glitch and not any(glitch < each < limit for each in tried):
            tried.append(float(np.sqrt(glitch * limit)))
    return tuple(tried[:MOST_TRIED])


def _between(lasts: Floats) -> tuple[float, float] | None:
    """A line's longest glitch and its shortest real pulse: the first wide step among sorted lengths."""
    if len(lasts) < 4:
        return None
    some = np.sort(lasts)
    ratio = some[1:] / np.maximum(some[:-1], 1e-12)
    wide = np.flatnonzero(ratio[: max(int(MOST * len(some)), 1)] >= APART)
    return (float(some[wide[-1]]), float(some[wide[-1] + 1])) if len(wide) else None
