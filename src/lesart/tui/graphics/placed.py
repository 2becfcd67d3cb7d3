"""A picture handed to the terminal under a number, and letters that say where it stands.

Source: the open graphics protocol of terminals that take images by number, section on placeholders. A letter of the
private use area stands for each cell; its colour is the image's number, a mark above it counts rows and columns.
"""

from __future__ import annotations

import base64
from collections.abc import Sequence
from typing import TYPE_CHECKING

if TYPE_CHECKING:
    from lesart.draw.raster import Indices

PLACEHOLDER, FIRST = "\U0010eeee", "\u0305"
"""A cell of an image, and the mark for row or column 0; a cell without marks goes on from the one before it."""
PART = 4096
"""Letters of a part at most."""
ASKED = "\x1b_Gi=31,s=1,v=1,a=q,t=d,f=24;AAAA\x1b\\"
"""A picture of one pixel, to be answered and not to be shown."""


def placed(indices: Indices, colours: Sequence[str], number: int, cells: int) -> str:
    """One row of cells high, under a number below 2²⁴."""
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
    """The letters of one row."""
    return PLACEHOLDER + FIRST + FIRST + PLACEHOLDER * (cells - 1)


def colour_of(number: int) -> str:
    """That says which image stands there."""
    return f"#{number:06x}"
