"""The segments of a digit in a terminal, as pixels of a small grid."""

from __future__ import annotations

from functools import lru_cache

from lesart.core.glyphs.segments import ALPHABETS

HEIGHT = 11
_GRID_7 = """
.aaa...
f...b..
f...b..
f...b:.
f...b..
.ggg...
e...c..
e...c:.
e...c..
e...c..
.ddd...
"""
_GRID_16 = """
.AAtBB..
fh.j.kb.
fh.j.kb.
f.hjk.b:
f.hjk.b.
.GG.HH..
e.nml.c.
e.nml.c:
en.m.lc.
en.m.lc.
.DDuEE..
"""
_NAMES_7 = {name: name for name in "abcdefg:"}
_NAMES_14 = {name: name for name in "bcefhjklmn:"} | {
    "A": "a",
    "t": "a",
    "B": "a",
    "G": "g1",
    "H": "g2",
    "D": "d",
    "u": "d",
    "E": "d",
}
_NAMES_16 = _NAMES_14 | {"A": "a1", "B": "a2", "D": "d1", "E": "d2"}
_GRIDS = {"7": (_GRID_7, _NAMES_7), "14": (_GRID_16, _NAMES_14), "16": (_GRID_16, _NAMES_16 | {"t": "", "u": ""})}


@lru_cache
def _cells(alphabet: str) -> dict[tuple[int, int], str]:
    grid, names = _GRIDS[alphabet]
    rows = grid.strip("\n").splitlines()
    found = {(x, y): names[letter] for y, row in enumerate(rows) for x, letter in enumerate(row) if names.get(letter)}
    return found | {(len(rows[0]) - 1, HEIGHT - 1): "."}


def pitch_of(alphabet: str) -> int:
    """Pixels from digit to digit."""
    return max(x for x, _ in _cells(alphabet)) + 2


def name_at(alphabet: str, x: int, y: int) -> str | None:
    """The segment, or ``.`` or ``:``, at this pixel; None between them."""
    return _cells(alphabet).get((x, y))


def bits_of(alphabet: str) -> dict[str, int]:
    """The mask of each segment, by name."""
    kind = ALPHABETS[alphabet]
    return {name: 1 << bit for bit, name in enumerate(kind.segments)} | {".": kind.point, ":": kind.colon}
