"""A panel as true pixels: dots with gaps, square or round; glowing segments. For terminals and PNG files."""

from __future__ import annotations

from collections.abc import Sequence
from functools import lru_cache
from typing import TYPE_CHECKING

import numpy as np
import numpy.typing as npt

from lesart.core.dataclass_later import dataclass
from lesart.core.glass.panels.frame import SegmentFrame
from lesart.core.glyphs.segments import ALPHABETS
from lesart.draw.colours import blend
from lesart.draw.panel import BAR, DIGIT_H, DIGIT_W, PITCH, SLANT, segment_shapes

if TYPE_CHECKING:
    from PIL.Image import Image

Indices = npt.NDArray[np.uint8]
LEVELS = 4
"""Levels from gap to dot, so that round dots have smooth edges."""
GAP_FROM = 4
"""Pixels per dot from which gaps are drawn; with fewer they would take too much."""
GAP_SHARE = 0.14
FINER = 4
"""Oversampling factor of segments, for smooth slanted edges."""
GLOW, GLOW_SHARE = 0.05, 0.45
"""Radius of the glow around a lit segment, of a digit's height, and its brightness."""
DIGITS_HIGH, DIGITS_MARGIN = DIGIT_H + 8, 3.0
COLOUR_STEP = 8
"""Quantisation of mixed colours, in steps of 255: a terminal has room for 256 colours."""


@dataclass(frozen=True, eq=False)
class Raster:
    """``indices`` of shape (height, width) into ``colours``, each ``#rrggbb``."""

    indices: Indices
    colours: tuple[str, ...]

    @property
    def width(self) -> int:
        """Pixels."""
        return int(self.indices.shape[1])

    @property
    def height(self) -> int:
        """Pixels."""
        return int(self.indices.shape[0])

    def image(self) -> Image:
        """An image for a file."""
        from PIL import Image

        picture = Image.fromarray(self.indices, "P")
        picture.putpalette(bytes.fromhex("".join(colour[1:] for colour in self.colours)))
        return picture


def raster_of_dots(
    rows: Sequence[bytes], colours: Sequence[str], gap: Sequence[int], pitch: int, *, is_round: bool = False
) -> Raster:
    """Dots of ``pitch`` pixels.

    ``rows`` hold indices of their ``colours``; ``gap`` gives by colour the index of the one between such dots.
    """
    dots = np.frombuffer(b"".join(rows), np.uint8).reshape(len(rows), -1)
    tile = _tile(pitch, is_round)
    levels = np.tile(tile, (dots.shape[0], dots.shape[1]))
    large = np.repeat(np.repeat(dots, pitch, axis=0), pitch, axis=1)
    mixed = tuple(
        blend(colours[gap[place]], colour, level / LEVELS)
        for place, colour in enumerate(colours)
        for level in range(LEVELS + 1)
    )
    return _compact(large * np.uint8(LEVELS + 1) + levels, mixed)


@lru_cache(maxsize=32)
def _tile(pitch: int, is_round: bool) -> Indices:
    """Coverage of each pixel of a dot's square, in LEVELS."""
    if pitch < GAP_FROM:
        return np.full((pitch, pitch), LEVELS, np.uint8)
    gap = max(round(pitch * GAP_SHARE), 1)
    if not is_round:
        tile = np.zeros((pitch, pitch), np.uint8)
        tile[: pitch - gap, : pitch - gap] = LEVELS
        return tile
    fine = (np.arange(pitch * FINER) + 0.5) / FINER - (pitch - gap) / 2
    inside = (fine[:, None] ** 2 + fine[None, :] ** 2) <= ((pitch - gap) / 2) ** 2
    share = inside.reshape(pitch, FINER, pitch, FINER).mean(axis=(1, 3))
    levels: Indices = np.round(share * LEVELS).astype(np.uint8)
    return levels


def _compact(indices: Indices, colours: Sequence[str]) -> Raster:
    """The raster with only used colours, each once."""
    used = np.flatnonzero(np.bincount(indices.ravel(), minlength=len(colours))).tolist()
    kept = list(dict.fromkeys(colours[place] for place in used))
    table = np.zeros(256, np.uint8)
    for place in used:
        table[place] = kept.index(colours[place])
    return Raster(table[indices], tuple(kept))


def digits_size_mm(frame: SegmentFrame) -> tuple[float, float]:
    """Width and height of a row of digits with its margin, in the millimetres of the drawing."""
    return len(frame.masks) * PITCH + 2 * DIGITS_MARGIN, DIGITS_HIGH


def raster_of_digits(frame: SegmentFrame, ground: str, lit: str, dark: Sequence[str], pixels_per_mm: float) -> Raster:
    """Slanted segments, lit ones with their glow.

    ``dark`` is the colour of each digit's unlit ones. ``pixels_per_mm`` of the drawing.
    """
    from PIL import Image, ImageDraw, ImageFilter

    across, down = digits_size_mm(frame)
    size = max(round(across * pixels_per_mm), 1), max(round(down * pixels_per_mm), 1)
    fine = size[0] * FINER, size[1] * FINER
    light, unlit = Image.new("L", fine), Image.new("RGB", fine, ground)
    on, off = ImageDraw.Draw(light), ImageDraw.Draw(unlit)
    for place, (name, corners, is_lit) in _lamps(frame):
        scaled = [(x * pixels_per_mm * FINER, y * pixels_per_mm * FINER) for x, y in corners]
        if name in ("point", "colon"):
            on.ellipse(scaled, fill=255) if is_lit else off.ellipse(scaled, fill=dark[place])
        elif is_lit:
            on.polygon(scaled, fill=255)
        else:
            off.polygon(scaled, fill=dark[place])
    light, unlit = light.resize(size, Image.Resampling.BOX), unlit.resize(size, Image.Resampling.BOX)
    glow = light.filter(ImageFilter.GaussianBlur(DIGIT_H * GLOW * pixels_per_mm))
    share = np.maximum(np.asarray(light, np.float64), GLOW_SHARE * np.asarray(glow, np.float64))[:, :, None] / 255
    below = np.asarray(unlit, np.float64)
    mixed = below + (np.array(list(bytes.fromhex(lit[1:])), np.float64) - below) * share
    return _of_colours(np.clip(np.round(mixed), 0, 255).astype(np.uint8))


def _lamps(frame: SegmentFrame) -> list[tuple[int, tuple[str, list[tuple[float, float]], bool]]]:
    """Each digit's segments by corners, then points and colons as polygons."""
    kind, shapes = ALPHABETS[frame.alphabet], segment_shapes(frame.alphabet)
    lamps: list[tuple[int, tuple[str, list[tuple[float, float]], bool]]] = []
    for digit, mask in enumerate(frame.masks):
        left, top = DIGITS_MARGIN + 1 + digit * PITCH, 4.0
        for bit, name in enumerate(kind.segments):
            corners = [(left + x + (DIGIT_H - y) * SLANT, top + y) for x, y in shapes[name]]
            lamps.append((digit, (name, corners, bool(mask >> bit & 1))))
        places = [("point", DIGIT_W + 1.6, DIGIT_H - BAR / 2, bool(mask & kind.point))]
        if mask & kind.colon:
            places += [("colon", DIGIT_W + 2.4, y, True) for y in (DIGIT_H * 0.32, DIGIT_H * 0.68)]
        for name, x, y, is_lit in places:
            centre, half = (left + x, top + y), BAR / 2
            box = [(centre[0] - half, centre[1] - half), (centre[0] + half, centre[1] + half)]
            lamps.append((digit, (name, box, is_lit)))
    return lamps


def _of_colours(picture: Indices) -> Raster:
    """A raster from red, green and blue, in steps that the eye cannot distinguish."""
    coarse = picture // COLOUR_STEP
    keys = coarse[:, :, 0].astype(np.int32) << 10 | coarse[:, :, 1].astype(np.int32) << 5 | coarse[:, :, 2]
    # The first pixel of each step gives its colour: plain colours stay exact.
    used, firsts, indices = np.unique(keys, return_index=True, return_inverse=True)
    flat = picture.reshape(-1, 3)
    colours = tuple("#" + "".join(f"{part:02x}" for part in flat[first]) for first in firsts)
    if len(used) > 256:
        nearest = np.minimum(np.arange(len(used)) * 256 // len(used), 255)
        kept = [int(np.flatnonzero(nearest == place)[0]) for place in range(256)]
        return Raster(nearest[indices].reshape(keys.shape).astype(np.uint8), tuple(colours[each] for each in kept))
    return Raster(indices.reshape(keys.shape).astype(np.uint8), colours)


def resized(raster: Raster, width: int, height: int) -> Raster:
    """Resized smoothly."""
    from PIL import Image

    picture = raster.image().convert("RGB").resize((width, height), Image.Resampling.LANCZOS)
    return _of_colours(np.asarray(picture, np.uint8))


def png(raster: Raster) -> bytes:
    """A PNG file, the same bytes for the same picture."""
    import io

    buffer = io.BytesIO()
    raster.image().save(buffer, "PNG", optimize=True)
    return buffer.getvalue()
