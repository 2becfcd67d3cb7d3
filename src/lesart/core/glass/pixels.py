"""Pixels lit or dark: a frame of them, turned and mirrored."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from lesart.core.block import Bools

MOST_SIDE = 4096
"""Pixels to a side that a frame may have; no panel Lesart knows of has so many."""


@dataclass(frozen=True)
class PixelFrame:
    """``rows`` from the top: whole numbers of ``width`` bits, the leftmost pixel the highest."""

    width: int
    height: int
    rows: tuple[int, ...]

    def lit(self, x: int, y: int) -> bool:
        """Is a pixel lit? Outside nothing is."""
        return 0 <= x < self.width and 0 <= y < self.height and bool(self.rows[y] >> (self.width - 1 - x) & 1)

    @property
    def lit_share(self) -> float:
        """Of all pixels."""
        return sum(row.bit_count() for row in self.rows) / max(self.width * self.height, 1)


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
