"""What a filter did to a signal: how much noise is left, how far it lags."""

from __future__ import annotations

import numpy as np

from lesart.core.block import Block
from lesart.core.calm.window import sliding_sum


def noise_about_trend(block: Block, half_span: int = 25) -> float:
    """Robust standard deviation of the good samples about a centred mean of ± ``half_span`` samples.

    1.4826 × the median distance. About a trend and not between neighbours, because neighbours of a filtered signal
    share most of their window. 0 when there are too few samples.
    """
    good = block.x[block.usable]
    width = 2 * half_span + 1
    if len(good) < 2 * width:
        width = max(len(good) // 4, 1) * 2 - 1
        half_span = width // 2
    if width < 3 or len(good) <= width:
        return 0.0
    trend = sliding_sum(good, width) / width
    return 1.4826 * float(np.median(np.abs(good[half_span : half_span + len(trend)] - trend)))
