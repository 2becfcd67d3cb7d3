"""Fonts from files beside the project: BDF as it is drawn, TrueType rasterised at a size and made lit or dark."""

from __future__ import annotations

import io
from collections.abc import Mapping
from pathlib import Path
from typing import Any

import numpy as np

from lesart.core.errors import CaptureError
from lesart.core.glyphs.fonts import Font, Glyph
from lesart.core.parameters import Parameter
from lesart.project.assets.bdf_read import BdfFont, BdfGlyph, read_bdf
from lesart.project.folder.files import library, read_whole

FONT_FILE = (
    Parameter("file", "file", "text", "a BDF or TrueType font, in the project folder", longest=200),
    Parameter("size", "size", "integer", "of a TrueType font, pixels to an em", 12, lowest=4, highest=128),
    Parameter(
        "level",
        "level",
        "quantity",
        "of a TrueType font: how much of a pixel must be covered to light it",
        "50 %",
        unit="%",
        lowest=0,
        above=True,
        highest=100,
    ),
)
OUTLINES = (".ttf", ".otf")
MOST_BYTES = 16_000_000
MOST_EMS = 8
"""Anything wider than this many ems is not a letter."""
LETTERS = "".join(map(chr, (*range(0x20, 0x7F), *range(0xA1, 0xAD), *range(0xAE, 0x180)))) + "ΔΩµπ°²³‰·→←↑↓±×÷√∞≈≤≥€"
"""Letters of a TrueType font that are rasterised: Latin, and those that units need."""
NO_LETTER = "\U0010fffd"
"""A private-use character, for which a font draws its missing-glyph sign."""


def read_font(path: Path, name: str, values: Mapping[str, Any]) -> Font:
    """The font of a file. Raises CaptureError with a sentence where it is not valid."""
    if path.suffix.lower() in OUTLINES:
        return rasterised(path, name, values["size"], values["level"] / 100.0)
    return font_of_bdf(read_bdf(path), name, path.name)


def font_of_bdf(bdf: BdfFont, name: str, file: str) -> Font:
    """The font as drawn, cut at the line's height. Raises CaptureError where no glyph has a code."""
    if not bdf.glyphs:
        raise CaptureError(f"{file} has no glyph with a code.")
    ascent, descent = max(bdf.ascent, 1), max(bdf.descent, 0)
    glyphs = {chr(code): _placed(glyph, ascent, descent) for code, glyph in bdf.glyphs.items() if code < 0x110000}
    return Font(name, ascent, descent, 0, glyphs)


def _placed(glyph: BdfGlyph, ascent: int, descent: int) -> Glyph:
    """A glyph on the font's line, with its advance."""
    left = max(glyph.left, 0)
    width = max(glyph.advance, left + glyph.width, 1)
    top = ascent - (glyph.bottom + glyph.height)
    rows = [0] * (ascent + descent)
    for down, row in enumerate(glyph.rows, top):
        if 0 <= down < len(rows):
            rows[down] = row << (width - left - glyph.width)
    return Glyph(width, tuple(rows))


def rasterised(path: Path, name: str, size: int, level: float) -> Font:
    """Outlines at a size, a pixel lit where at least ``level`` of it is covered; letters the font lacks are left out.

    Raises CaptureError.
    """
    from PIL import ImageFont

    data = read_whole(path, MOST_BYTES)
    with library(path.name, "a TrueType font"):
        return _rasterised(ImageFont.truetype(io.BytesIO(data), size), path.name, name, size, level)


def _rasterised(outlines: Any, file: str, name: str, size: int, level: float) -> Font:
    ascent, descent = outlines.getmetrics()
    if max(ascent, descent) > MOST_EMS * size:
        raise CaptureError(f"{file}: its letters would be {ascent} pixels high at size {size}; it is damaged.")
    missing = _drawn(outlines, NO_LETTER, ascent, descent, level)
    glyphs = {}
    for letter in LETTERS:
        glyph = _drawn(outlines, letter, ascent, descent, level)
        # A font draws one sign for everything it lacks; whatever looks like that is missing.
        if glyph != missing or not any(missing.rows):
            glyphs[letter] = glyph
    if not glyphs:
        raise CaptureError(f"{file} has none of the letters that Lesart draws.")
    return Font(name, max(ascent, 1), max(descent, 0), 0, glyphs)


def _drawn(outlines: Any, letter: str, ascent: int, descent: int, level: float) -> Glyph:
    """A letter as drawn. Raises CaptureError for an absurdly wide one, from damaged outlines."""
    from PIL import Image, ImageDraw

    width, height = max(round(outlines.getlength(letter)), 1), max(ascent + descent, 1)
    if width > MOST_EMS * height:
        raise CaptureError(f'the letter "{letter}" would be {width} pixels wide and {height} high')
    image = Image.new("L", (width, height), 0)
    ImageDraw.Draw(image).text((0, ascent), letter, fill=255, font=outlines, anchor="ls")
    lit = np.frombuffer(image.tobytes(), np.uint8).reshape(height, width) >= level * 255
    packed = np.packbits(lit, axis=1)
    return Glyph(width, tuple(int.from_bytes(row.tobytes(), "big") >> (-width % 8) for row in packed))
