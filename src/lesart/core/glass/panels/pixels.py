"""Pixels lit or dark, and in colours: a frame of them, turned and mirrored."""

from __future__ import annotations

from collections.abc import Callable
from typing import Any

import numpy as np

from lesart.core.block import Bools
from lesart.core.glass.panels.frame import ColourFrame, PixelFrame
from lesart.core.glass.panels.pixel_colours import Colours

MOST_SIDE = 4096
"""Most pixels to a side of a frame; no panel that Lesart knows has as many."""


def frame_of(pixels: Bools) -> PixelFrame:
    """A frame from an array of shape (height, width)."""
    height, width = pixels.shape
    packed = np.packbits(pixels, axis=1)
    shift = 8 * packed.shape[1] - width
    return PixelFrame(width, height, tuple(int.from_bytes(row.tobytes(), "big") >> shift for row in packed))


def pixels_of(frame: PixelFrame) -> Bools:
    """Lit pixels as an array of shape (height, width)."""
    size = -(-frame.width // 8)
    shift = 8 * size - frame.width
    data = b"".join((row << shift).to_bytes(size, "big") for row in frame.rows)
    packed = np.frombuffer(data, np.uint8).reshape(frame.height, size)
    return np.unpackbits(packed, axis=1, count=frame.width).astype(bool)


def colour_frame(colours: Colours, ground: Colours) -> ColourFrame:
    """A colour frame from an array of shape (height, width, 3); pixels not of the colour ``ground`` are lit."""
    red, green, blue = (colours[..., place] != ground[place] for place in range(3))
    lit = frame_of(red | green | blue)
    return ColourFrame(lit.width, lit.height, lit.rows, colours.tobytes())


def colours_of(frame: ColourFrame) -> Colours:
    """Colours as an array of shape (height, width, 3)."""
    return np.frombuffer(frame.colours, np.uint8).reshape(frame.height, frame.width, 3)


def turned(frame: PixelFrame, quarters: int) -> PixelFrame:
    """The frame turned clockwise by quarters."""
    return moved(frame, lambda pixels: np.rot90(pixels, -quarters))


def mirrored(frame: PixelFrame) -> PixelFrame:
    """The frame with left and right swapped, as a see-through panel looks from behind."""
    return moved(frame, lambda pixels: pixels[:, ::-1])


def moved(frame: PixelFrame, to: Callable[[Any], Any]) -> PixelFrame:
    """The frame with its pixels moved by ``to``, a function of arrays whose first axes are rows and columns."""
    plain = frame_of(to(pixels_of(frame)))
    if isinstance(frame, ColourFrame):
        return ColourFrame(plain.width, plain.height, plain.rows, to(colours_of(frame)).tobytes())
    return plain


def inverted(frame: PixelFrame) -> PixelFrame:
    """The frame with lit and dark exchanged."""
    full = (1 << frame.width) - 1
    return PixelFrame(frame.width, frame.height, tuple(row ^ full for row in frame.rows))
