"""A font as BDF, for any program or library that accepts one."""

from __future__ import annotations

from lesart.core.glyphs.fonts import Font


def bdf_text(font: Font) -> str:
    """Every glyph of a font by its number in Unicode; rows in whole bytes, the leftmost pixel in the highest bit."""
    widest = max((glyph.width for glyph in font.glyphs.values()), default=1)
    name = font.name.replace(" ", "-")
    lines = [
        "STARTFONT 2.1",
        f"FONT -lesart-{name}-medium-r-normal--{font.height}-0-75-75-p-0-iso10646-1",
        f"SIZE {font.height} 75 75",
        f"FONTBOUNDINGBOX {widest} {font.height} 0 {-font.descent}",
        "STARTPROPERTIES 2",
        f"FONT_ASCENT {font.ascent}",
        f"FONT_DESCENT {font.descent}",
        "ENDPROPERTIES",
        f"CHARS {len(font.glyphs)}",
    ]
    for letter in sorted(font.glyphs):
        glyph, code = font.glyphs[letter], ord(letter)
        size = -(-glyph.width // 8)
        advance = font.advance(letter)
        lines += [
            f"STARTCHAR U+{code:04X}",
            f"ENCODING {code}",
            f"SWIDTH {advance * 1000 // font.height} 0",
            f"DWIDTH {advance} 0",
            f"BBX {glyph.width} {font.height} 0 {-font.descent}",
            "BITMAP",
            *(f"{row << (8 * size - glyph.width):0{2 * size}X}" for row in glyph.rows),
            "ENDCHAR",
        ]
    return "\n".join([*lines, "ENDFONT", ""])
