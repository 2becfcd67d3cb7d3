"""The time axis of a capture, the same for every format: seconds from its start, never running back.

What is no time, and what lies further away than any recording can, has the latest time so far.
"""

from __future__ import annotations

import numpy as np

from lesart.core.block import Floats

FURTHEST_S = 1e12
"""From the first time of a file: thirty thousand years. A clock that says more is broken, or the cell is not a time."""


def time_axis(found: Floats, start: float | None = None) -> tuple[Floats, int] | None:
    """Seconds from ``start``, or from the first time there is, and how many rows came with a time before one above.

    ``found`` are times in seconds, shape (n,), NaN where there is none. None where there is no time at all.
    """
    known = np.isfinite(found)
    if not known.any():
        return None
    with np.errstate(all="ignore"):
        since = found - (found[known][0] if start is None else start)
        known &= np.abs(since) <= FURTHEST_S
    t = np.where(known, since, -np.inf)
    latest = np.maximum(np.maximum.accumulate(t), 0.0)
    return latest, int(np.count_nonzero(known & (t < latest)))
