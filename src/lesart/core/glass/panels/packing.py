"""How the pixels of a frame lie in the bytes that a controller wants: by pages of eight rows, or row by row.

A wrong bit order shows a picture cut into strips that are upside down; a wrong page order shows the strips in the wrong
places. Both are found by looking, once one knows what each would look like.
"""

from __future__ import annotations

from typing import Any, Literal

import numpy as np
import numpy.typing as npt

from lesart.core.block import Bools
from lesart.core.dataclass_later import dataclass
from lesart.core.glass.panels.frame import PixelFrame
from lesart.core.glass.panels.pixels import frame_of, pixels_of
from lesart.core.parameters import Parameter

PAGES, ROWS = BYTES = ("pages of eight rows", "rows of eight columns")
BYTE = 8
Bytes = npt.NDArray[np.uint8]

PARAMETERS = (
    Parameter("bytes", "bytes are", "choice", "how eight pixels share one", PAGES, choices=BYTES),
    Parameter("low_first", "low bit first", "flag", "the lowest bit is on top of a page, or leftmost in a row", True),
    Parameter("from_bottom", "from the bottom", "flag", "the lowest page or row is sent first", False),
    Parameter("from_right", "from the right", "flag", "the rightmost column is sent first", False),
    Parameter("inverted", "inverted", "flag", "a bit that is 0 lights its pixel", False),
    Parameter(
        "offset", "column offset", "integer", "columns of the controller left of the glass", 0, lowest=0, highest=512
    ),
    Parameter("beyond", "columns beyond", "integer", "of the controller right of the glass", 0, lowest=0, highest=512),
)


@dataclass(frozen=True)
class Packing:
    """``low_first``: in a page bit 0 is on top, in a row bit 0 is leftmost."""

    bytes: str = PAGES
    low_first: bool = True
    from_bottom: bool = False
    from_right: bool = False
    inverted: bool = False
    offset: int = 0
    beyond: int = 0

    def size(self, width: int, height: int) -> int:
        """Bytes of a frame."""
        wide = width + self.offset + self.beyond
        return wide * -(-height // BYTE) if self.bytes == PAGES else -(-wide // BYTE) * height

    def padded(self, width: int, height: int) -> tuple[int, int]:
        """Columns and rows that are sent beside those of the glass, because a byte holds eight."""
        wide = width + self.offset + self.beyond
        return (0, -height % BYTE) if self.bytes == PAGES else (-wide % BYTE, 0)


def pack(frame: PixelFrame, packing: Packing) -> bytes:
    """All bytes of a frame in the order they are sent; pixels that are no pixels of the glass are dark."""
    pixels = np.pad(pixels_of(frame), ((0, 0), (packing.offset, packing.beyond)))
    more_columns, more_rows = packing.padded(frame.width, frame.height)
    pixels = np.pad(pixels, ((0, more_rows), (0, more_columns))) ^ packing.inverted
    order = _order(packing)
    if packing.bytes == PAGES:
        packed = np.packbits(pixels.reshape(-1, BYTE, pixels.shape[1]), axis=1, bitorder=order)[:, 0, :]
    else:
        packed = np.packbits(pixels, axis=1, bitorder=order)
    return bytes(_in_order(packed, packing).tobytes())


def unpack(data: bytes, width: int, height: int, packing: Packing) -> PixelFrame:
    """The frame that bytes put on the glass. Raises ValueError with a clause when there are too few or too many."""
    size = packing.size(width, height)
    if len(data) != size:
        raise ValueError(f"a frame of {width}×{height} pixels has {size} bytes in this packing, not {len(data)}")
    wide = width + packing.offset + packing.beyond
    order = _order(packing)
    raw = np.frombuffer(data, np.uint8)
    if packing.bytes == PAGES:
        packed = _in_order(raw.reshape(-1, wide), packing)
        pixels = np.unpackbits(packed[:, None, :], axis=1, bitorder=order).reshape(-1, wide)
    else:
        packed = _in_order(raw.reshape(height, -1), packing)
        pixels = np.unpackbits(packed, axis=1, bitorder=order)
    lit: Bools = pixels.astype(bool) ^ packing.inverted
    return frame_of(lit[:height, packing.offset : packing.offset + width])


def _order(packing: Packing) -> Literal["little", "big"]:
    return "little" if packing.low_first else "big"


def _in_order(packed: Bytes, packing: Packing) -> Bytes:
    """Pages or rows, and columns, in the order of sending; the same turns them back."""
    down = -1 if packing.from_bottom else 1
    across = -1 if packing.from_right else 1
    return packed[::down, ::across]


def build_packing(values: dict[str, Any]) -> Packing:
    """From values by parameter name."""
    return Packing(**values)
