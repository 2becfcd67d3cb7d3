"""A lit panel as true pixels: the same lattice and the same segments as everywhere, dot by dot."""

from __future__ import annotations

import io
from collections.abc import Iterable, Sequence

import numpy as np

from lesart.core.glass.panels.frame import PixelFrame, SegmentFrame
from lesart.draw.raster import Raster, png, raster_of_digits, raster_of_dots
from lesart.study.lit.lattice import Lattice, dark_at, lattice_of
from lesart.study.views import Glass

DOT_PIXELS = 6
"""Default pixels per dot of a picture file."""
MOST_DOT = 64
MM_A_DOT = 1.0
"""Millimetres per dot in the drawing of a digit: its segments are a good two dots thick."""


def raster_of(glass: Glass, dot_pixels: float) -> Raster:
    """A panel in pixels per dot, or for digits in pixels per millimetre of their drawing."""
    if isinstance(glass.frame, SegmentFrame):
        return digits_of(glass, dot_pixels / MM_A_DOT)
    lattice = lattice_of(glass)
    if dot_pixels == 1 and isinstance(glass.frame, PixelFrame):
        # One pixel per pixel: without the margin it is the frame itself, for use as a picture elsewhere.
        lattice = lattice.part((1, 1, glass.frame.width, glass.frame.height))
    return dots_of(glass, lattice, int(dot_pixels))


def digits_of(glass: Glass, pixels_per_mm: float) -> Raster:
    """Digits, in pixels per millimetre of their drawing."""
    assert isinstance(glass.frame, SegmentFrame)
    dark = [dark_at(glass, 0, digit) for digit in range(len(glass.frame.masks))]
    return raster_of_digits(glass.frame, glass.ground, glass.lit, dark, pixels_per_mm)


def dots_of(glass: Glass, lattice: Lattice, pitch: int) -> Raster:
    """A lattice or a part of it."""
    return raster_of_dots(lattice.rows, lattice.colours, lattice.gaps, pitch, is_round=glass.round)


def picture_file(glass: Glass, dot_pixels: float = DOT_PIXELS) -> bytes:
    """The panel as PNG."""
    return png(raster_of(glass, dot_pixels))


def moving_file(glasses: Iterable[Glass], seconds: Sequence[float], dot_pixels: float = DOT_PIXELS) -> bytes:
    """A looping animated GIF; each picture lasts its ``seconds``, in hundredths as the format has them.

    All must be of one panel.
    """
    from PIL import Image

    rasters = [raster_of(glass, dot_pixels) for glass in glasses]
    colours = list(dict.fromkeys(colour for raster in rasters for colour in raster.colours))[:256]
    palette = bytes.fromhex("".join(colour[1:] for colour in colours))
    frames = []
    for raster in rasters:
        # A glow may have more shades than the format has room for; the rest become its last one.
        table = np.array([colours.index(each) if each in colours else 255 for each in raster.colours], np.uint8)
        frame = Image.fromarray(table[raster.indices], "P")
        frame.putpalette(palette)
        frames.append(frame)
    buffer = io.BytesIO()
    lasts = [10 * max(round(100 * each), 2) for each in seconds]
    frames[0].save(
        buffer, "GIF", save_all=True, append_images=frames[1:], duration=lasts, loop=0, optimize=False, disposal=1
    )
    return buffer.getvalue()
