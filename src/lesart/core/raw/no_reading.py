"""Raw values that mean no reading: a logger's -9999, a thermometer's -127, a register with every bit set."""

from __future__ import annotations

from collections.abc import Sequence

import numpy as np

from lesart.core.block import Block, Mark

MOST_VALUES = 8
"""With more of them a range is meant."""
_WANTED = "it must be raw values as plain numbers with commas between, like -9999 or -127, 85"


def no_reading_from(written: str) -> tuple[float, ...]:
    """The raw values written in ``no_reading``, each once. Raises ValueError with a clause."""
    if not written.strip():
        return ()
    parts = written.replace("−", "-").replace(";", ",").split(",")
    try:
        values = tuple(dict.fromkeys(float(part) for part in parts))
    except ValueError:
        raise ValueError(_WANTED) from None
    if not all(np.isfinite(values)) or "_" in written:
        raise ValueError(_WANTED)
    if len(values) > MOST_VALUES:
        raise ValueError(f"{_WANTED}, {MOST_VALUES} at most")
    return values


def no_reading_text(values: Sequence[float]) -> str:
    """The values as the project file writes them."""
    return ", ".join(f"{value:.12g}" for value in dict.fromkeys(values))


def with_none_marked(block: Block, values: Sequence[float]) -> Block:
    """The block with samples that are one of ``values`` MISSING and NaN."""
    none = np.isin(block.x, values)
    if not none.any():
        return block
    mark = np.where(none, block.mark | np.uint8(Mark.MISSING), block.mark)
    return Block(block.t, np.where(none, np.nan, block.x), mark)
