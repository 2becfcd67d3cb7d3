"""A picture sent to the terminal under a number, and placeholder letters that position it.

Source: the open graphics protocol of terminals that take images by number, section on placeholders. A private-use
character stands for each cell; its colour is the image's number, and combining marks give row and column.
"""

from __future__ import annotations

import base64
from collections.abc import Sequence
from typing import TYPE_CHECKING

if TYPE_CHECKING:
    from lesart.draw.raster import Indices

PLACEHOLDER, FIRST = "\U0010eeee", "\u0305"
"""Placeholder of a cell, and the mark for row or column 0; a cell without marks continues from the previous one."""
PART = 4096
"""Most characters of a chunk."""
ASKED = "\x1b_Gi=31,s=1,v=1,a=q,t=d,f=24;AAAA\x1b\\"
"""A one-pixel query image, answered but not shown."""


def placed(indices: Indices, colours: Sequence[str], number: int, cells: int) -> str:
    """Send an image one row of cells high, under a number below 2²⁴."""
    import numpy as np

    table = np.array([list(bytes.fromhex(colour[1:])) for colour in colours], np.uint8)
    data = base64.standard_b64encode(table[indices].tobytes()).decode("ascii")
    height, width = indices.shape
    parts = [data[at : at + PART] for at in range(0, len(data), PART)]
    first = f"a=T,U=1,q=2,f=24,i={number},s={width},v={height},c={cells},r=1"
    return "".join(
        f"\x1b_G{first + ',' if at == 0 else ''}m={int(at < len(parts) - 1)};{part}\x1b\\"
        for at, part in enumerate(parts)
    )


def cells_of(cells: int) -> str:
    """The placeholder letters of one row."""
    return PLACEHOLDER + FIRST + FIRST + PLACEHOLDER * (cells - 1)


def colour_of(number: int) -> str:
    """The colour that encodes the image number."""
    return f"#{number:06x}"
