"""Fonts from files beside the project: BDF as it is drawn, TrueType rasterised at a size and made lit or dark."""

from __future__ import annotations

from collections.abc import Mapping
from pathlib import Path
from typing import Any

from lesart.core.errors import CaptureError
from lesart.core.glyphs.fonts import Font, Glyph
from lesart.core.parameters import Parameter
from lesart.project.bdf_read import BdfFont, BdfGlyph, read_bdf

FONT_FILE = (
    Parameter("file", "file", "text", "a BDF or TrueType font, beside the project", longest=200),
    Parameter("size", "size", "integer", "of a TrueType font, pixels to an em", 12, lowest=4, highest=128),
    Parameter("level", "level", "quantity", "of a TrueType font: how much of a pixel must be covered to light it",
              "50 %", unit="%", lowest=0, above=True, highest=100),
)  # fmt: skip
OUTLINES = (".ttf", ".otf")
MOST_BYTES = 16 << 20
LETTERS = "".join(map(chr, (*range(0x20, 0x7F), *range(0xA1, 0xAD), *range(0xAE, 0x180)))) + "ΔΩµπ°²³‰·→←↑↓±×÷√∞≈≤≥€"
"""Those of a TrueType font that are rasterised: Latin, and what units need."""
NO_LETTER = "\U0010fffd"
"""From the private planes: a font shows its sign for a missing letter here."""


def read_font(path: Path, name: str, values: Mapping[str, Any]) -> Font:
    """The font of a file. Raises CaptureError with a sentence where it is none."""
    if path.suffix.lower() in OUTLINES:
        return rasterised(path, name, values["size"], values["level"] / 100.0)
    return font_of_bdf(read_bdf(path), name, path.name)


def font_of_bdf(bdf: BdfFont, name: str, file: str) -> Font:
    """As it is drawn; what hangs over the line's height is cut. Raises CaptureError where no glyph has a code."""
    if not bdf.glyphs:
        raise CaptureError(f"{file} has no glyph with a code.")
    ascent, descent = max(bdf.ascent, 1), max(bdf.descent, 0)
    glyphs = {chr(code): _placed(glyph, ascent, descent) for code, glyph in bdf.glyphs.items() if code < 0x110000}
    return Font(name, ascent, descent, 0, glyphs)


def _placed(glyph: BdfGlyph, ascent: int, descent: int) -> Glyph:
    """On the font's line, with the room that it takes to the next letter."""
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

    try:
        if path.stat().st_size > MOST_BYTES:
            raise CaptureError(f"{path.name} has {path.stat().st_size} bytes; a font has {MOST_BYTES} at most.")
        outlines = ImageFont.truetype(str(path), size)
    except OSError as error:
        reason = error.strerror or "it is no TrueType font"
        raise CaptureError(f"{path.name} cannot be read as a font: {reason}.") from error
    ascent, descent = outlines.getmetrics()
    missing = _drawn(outlines, NO_LETTER, ascent, descent, level)
    glyphs = {}
    for letter in LETTERS:
        glyph = _drawn(outlines, letter, ascent, descent, level)
        # A font draws one sign for all that it lacks; what looks like that is not there.
        if glyph != missing or not any(missing.rows):
            glyphs[letter] = glyph
    if not glyphs:
        raise CaptureError(f"{path.name} has none of the letters that Lesart draws.")
    return Font(name, max(ascent, 1), max(descent, 0), 0, glyphs)


def _drawn(outlines: Any, letter: str, ascent: int, descent: int, level: float) -> Glyph:
    from PIL import Image, ImageDraw

    width = max(round(outlines.getlength(letter)), 1)
    image = Image.new("L", (width, max(ascent + descent, 1)), 0)
    ImageDraw.Draw(image).text((0, ascent), letter, fill=255, font=outlines, anchor="ls")
    covered = image.tobytes()
    rows = []
    for y in range(image.height):
        row = 0
        for value in covered[y * width : (y + 1) * width]:
            row = row << 1 | int(value >= level * 255)
        rows.append(row)
    return Glyph(width, tuple(rows))
