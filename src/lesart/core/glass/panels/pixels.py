"""Pixels lit or dark: a frame of them, turned and mirrored."""

from __future__ import annotations

import numpy as np

from lesart.core.block import Bools
from lesart.core.glass.panels.frame import PixelFrame

MOST_SIDE = 4096
"""Pixels to a side that a frame may have; no panel Lesart knows of has so many."""


def frame_of(pixels: Bools) -> PixelFrame:
    """From an array of shape (height, width)."""
    height, width = pixels.shape
    packed = np.packbits(pixels, axis=1)
    shift = 8 * packed.shape[1] - width
    return PixelFrame(width, height, tuple(int.from_bytes(row.tobytes(), "big") >> shift for row in packed))


def pixels_of(frame: PixelFrame) -> Bools:
    """An array of shape (height, width), lit or not."""
    size = -(-frame.width // 8)
    shift = 8 * size - frame.width
    data = b"".join((row << shift).to_bytes(size, "big") for row in frame.rows)
    packed = np.frombuffer(data, np.uint8).reshape(frame.height, size)
    return np.unpackbits(packed, axis=1, count=frame.width).astype(bool)


def turned(frame: PixelFrame, quarters: int) -> PixelFrame:
    """Turned clockwise by so many quarters."""
    return frame_of(np.rot90(pixels_of(frame), -quarters))


def mirrored(frame: PixelFrame) -> PixelFrame:
    """Left and right changed, as a see-through panel looks from behind."""
    return frame_of(pixels_of(frame)[:, ::-1])


def inverted(frame: PixelFrame) -> PixelFrame:
    """What is lit dark, and the other way round."""
    full = (1 << frame.width) - 1
    return PixelFrame(frame.width, frame.height, tuple(row ^ full for row in frame.rows))
