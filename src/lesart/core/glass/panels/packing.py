"""How the pixels of a frame are packed into a controller's bytes: by pages of eight rows, or row by row.

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

PAGES, ROWS, MODULE_ROWS, MODULE_COLUMNS = BYTES = (
    "pages of eight rows",
    "rows of eight columns",
    "rows of chained modules",
    "columns of chained modules",
)
"""Arrangements of bytes.

The last two are for chained 8×8 modules, each with a driver that takes a number from 1 to 8 and the eight pixels of
that row, or column.
"""
BYTE = 8
TOLD = 2
"""Bytes of a module in each transmission: a number, and its pixels."""
Bytes = npt.NDArray[np.uint8]

PARAMETERS = (
    Parameter("bytes", "bytes are", "choice", "how eight pixels share one", PAGES, choices=BYTES),
    Parameter("low_first", "low bit first", "flag", "the lowest bit is on top of a page, or leftmost in a row", True),
    Parameter(
        "from_bottom",
        "from the bottom",
        "flag",
        "the lowest page or row is sent first; of modules number 1 is the last row, or column",
        False,
    ),
    Parameter(
        "from_right",
        "from the right",
        "flag",
        "the rightmost column is sent first, or of modules the rightmost one",
        False,
    ),
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

    @property
    def is_modules(self) -> bool:
        """True where its pixels are in chained modules."""
        return self.bytes in (MODULE_ROWS, MODULE_COLUMNS)

    def size(self, width: int, height: int) -> int:
        """Bytes of a frame."""
        if self.is_modules:
            return TOLD * BYTE * modules_in(width, height)
        wide = width + self.offset + self.beyond
        return wide * -(-height // BYTE) if self.bytes == PAGES else -(-wide // BYTE) * height

    def padded(self, width: int, height: int) -> tuple[int, int]:
        """Columns and rows sent beyond those of the glass, because a byte holds eight."""
        if self.is_modules:
            return -width % BYTE, -height % BYTE
        wide = width + self.offset + self.beyond
        return (0, -height % BYTE) if self.bytes == PAGES else (-wide % BYTE, 0)


def pack(frame: PixelFrame, packing: Packing) -> bytes:
    """All bytes of a frame in sending order; padding pixels are dark."""
    pixels = np.pad(pixels_of(frame), ((0, 0), (packing.offset, packing.beyond)))
    more_columns, more_rows = packing.padded(frame.width, frame.height)
    pixels = np.pad(pixels, ((0, more_rows), (0, more_columns))) ^ packing.inverted
    order = _order(packing)
    if packing.is_modules:
        return _of_modules(pixels, packing)
    if packing.bytes == PAGES:
        packed = np.packbits(pixels.reshape(-1, BYTE, pixels.shape[1]), axis=1, bitorder=order)[:, 0, :]
    else:
        packed = np.packbits(pixels, axis=1, bitorder=order)
    return bytes(_in_order(packed, packing).tobytes())


def unpack(data: bytes, width: int, height: int, packing: Packing) -> PixelFrame:
    """The frame of some bytes. Raises ValueError with a clause where there are too few or too many."""
    size = packing.size(width, height)
    if len(data) != size:
        raise ValueError(f"a frame of {width}×{height} pixels has {size} bytes in this packing, not {len(data)}")
    wide = width + packing.offset + packing.beyond
    order = _order(packing)
    raw = np.frombuffer(data, np.uint8)
    if packing.is_modules:
        return frame_of(_to_modules(raw, width, height, packing)[:height, :width] ^ packing.inverted)
    if packing.bytes == PAGES:
        packed = _in_order(raw.reshape(-1, wide), packing)
        pixels = np.unpackbits(packed[:, None, :], axis=1, bitorder=order).reshape(-1, wide)
    else:
        packed = _in_order(raw.reshape(height, -1), packing)
        pixels = np.unpackbits(packed, axis=1, bitorder=order)
    lit: Bools = pixels.astype(bool) ^ packing.inverted
    return frame_of(lit[:height, packing.offset : packing.offset + width])


def modules_in(width: int, height: int) -> int:
    """Number of 8×8 modules for a number of pixels."""
    return -(-width // BYTE) * -(-height // BYTE)


def _of_modules(pixels: Bools, packing: Packing) -> bytes:
    """For each number the two bytes of every module, in sending order."""
    down, across = pixels.shape[0] // BYTE, pixels.shape[1] // BYTE
    blocks = pixels.reshape(down, BYTE, across, BYTE).transpose(0, 2, 1, 3).reshape(-1, BYTE, BYTE)
    bits = np.packbits(_in_chain(blocks, packing), axis=2, bitorder=_order(packing))[:, :, 0]
    told = np.empty((BYTE, len(bits), TOLD), np.uint8)
    told[:, :, 0] = np.arange(1, BYTE + 1, dtype=np.uint8)[:, None]
    told[:, :, 1] = bits.T
    return told.tobytes()


def _to_modules(raw: Bytes, width: int, height: int, packing: Packing) -> Bools:
    down, across = -(-height // BYTE), -(-width // BYTE)
    bits = raw.reshape(BYTE, down * across, TOLD)[:, :, 1].T
    blocks = np.unpackbits(bits[:, :, None], axis=2, bitorder=_order(packing)).astype(np.bool_)
    there = _in_chain(blocks.transpose(0, 2, 1) if packing.bytes == MODULE_COLUMNS else blocks, packing, back=True)
    found: Bools = there.reshape(down, across, BYTE, BYTE).transpose(0, 2, 1, 3).reshape(down * BYTE, across * BYTE)
    return found


def _in_chain(blocks: Bools, packing: Packing, *, back: bool = False) -> Bools:
    """Pixels as modules in sending order, each by its numbers; with ``back`` the reverse."""
    by_column = packing.bytes == MODULE_COLUMNS
    found = blocks.transpose(0, 2, 1) if by_column and not back else blocks
    number = 2 if by_column and back else 1
    found = np.flip(found, axis=number) if packing.from_bottom else found
    return found[::-1] if packing.from_right else found


def _order(packing: Packing) -> Literal["little", "big"]:
    return "little" if packing.low_first else "big"


def _in_order(packed: Bytes, packing: Packing) -> Bytes:
    """Pages or rows, and columns, in sending order; its own inverse."""
    down = -1 if packing.from_bottom else 1
    across = -1 if packing.from_right else 1
    return packed[::down, ::across]


def build_packing(values: dict[str, Any]) -> Packing:
    """The packing from values by parameter name."""
    return Packing(**values)
