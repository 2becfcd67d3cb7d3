"""Character sets of one's own: glyphs by code under ``[charsets.NAME]``, taken from a BDF font or drawn by hand."""

from __future__ import annotations

from collections.abc import Mapping

from lesart.core.errors import Problem, RequestError
from lesart.core.glyphs.charsets import SETS, CharacterSet
from lesart.core.glyphs.dots import HEIGHT, WIDTH, dots_of, drawn_of
from lesart.core.parameters import shown
from lesart.core.quantity import counted
from lesart.project.assets.bdf_read import BdfFont, BdfGlyph
from lesart.project.model import Table

ABOVE = 7
"""Rows of a cell above the baseline."""
LAST_CODE = 0xFF


def check_charset(name: str, table: Table) -> tuple[CharacterSet | None, list[Problem]]:
    """The set, or every problem of its table: keys like ``0x41``, values drawings."""
    problems: list[Problem] = []
    place = f"charsets.{name}"
    if name in SETS:
        problems.append(Problem(place, "", "a set of this name is built in; give it another"))
    own = {}
    for written, drawn in table.items():
        code = _code(written)
        if code is None:
            problems.append(Problem(place, shown(written), 'a code must be from 0x00 to 0xFF, like "0x41"'))
            continue
        try:
            own[code] = dots_of(drawn if isinstance(drawn, str) else "")
        except ValueError as error:
            problems.append(Problem(f"{place}.{written}", shown(drawn), str(error)))
    if problems:
        return None, problems
    letters = {code: chr(code) for code in own if chr(code).isprintable()}
    return CharacterSet(name, f"{counted(len(own), 'glyph')} of your own", letters, own), []


def _code(written: str) -> int | None:
    try:
        code = int(written, 0)
    except ValueError:
        return None
    return code if 0 <= code <= LAST_CODE else None


def charset_table(font: BdfFont, name: str) -> Mapping[str, str]:
    """The table of a set with a font's glyphs up to 0xFF. Raises RequestError where one does not fit a cell of 5×8."""
    found = {
        f"0x{code:02X}": drawn_of(_cell(glyph, name))
        for code, glyph in sorted(font.glyphs.items())
        if code <= LAST_CODE
    }
    if not found:
        raise RequestError(f"{name} has no glyph of a code from 0x00 to 0xFF.")
    return found


def _cell(glyph: BdfGlyph, name: str) -> tuple[int, ...]:
    """A glyph's dots on the baseline of a cell: seven rows above it, one below."""
    top = ABOVE - (glyph.bottom + glyph.height)
    lit = [row for row in range(glyph.height) if glyph.rows[row]]
    wide = max((row.bit_length() for row in glyph.rows), default=0)
    left_dark = glyph.width - wide
    right_dark = min(((row & -row).bit_length() - 1 for row in glyph.rows if row), default=0)
    fits = not lit or (
        top + lit[0] >= 0
        and top + lit[-1] < HEIGHT
        and glyph.left + left_dark >= 0
        and glyph.left + glyph.width - right_dark <= WIDTH
    )
    if not fits:
        raise RequestError(
            f"{name}: glyph {glyph.code}, {glyph.name}, takes {glyph.width}×{glyph.height} dots at "
            f"{glyph.left}, {glyph.bottom}; a cell has {WIDTH}×{HEIGHT}, one row of them below the line."
        )
    cells = [0] * HEIGHT
    shift = WIDTH - glyph.left - glyph.width
    for row in lit:
        cells[top + row] = glyph.rows[row] << shift if shift >= 0 else glyph.rows[row] >> -shift
    return tuple(cells)
