"""``lesart font``: Lesart's own fonts, listed, shown, and written as BDF."""

from __future__ import annotations

import argparse

from lesart.cli.printed.exported import write_out
from lesart.core.errors import RequestError
from lesart.core.glyphs.fonts import FONTS, built_in, text_rows
from lesart.core.quantity import counted
from lesart.project.assets.bdf_write import bdf_text


def run(options: argparse.Namespace) -> int:
    """List them, or show a text in one and write it."""
    if options.name is None:
        for name in FONTS:
            font = built_in()[name]
            print(f"{name:<20}{font.ascent} high, {font.descent} below, {counted(len(font.glyphs), 'letter')}")
        return 0
    if options.name not in FONTS:
        raise RequestError(f'"{options.name}" is not a font of Lesart; it has {", ".join(FONTS)}.')
    if options.output is not None and options.output.suffix.lower() != ".bdf":
        raise RequestError(f"-o {options.output}: it ends in .bdf.")
    font = built_in()[options.name]
    width, rows = text_rows(font, options.text)
    for row in rows:
        print(f"{row:0{max(width, 1)}b}".replace("0", " ").replace("1", "█").rstrip())
    print(f"{counted(width, 'pixel')} wide")
    if options.output is not None:
        write_out(options, bdf_text(font))
        print(f"Written: {options.output}")
    return 0
