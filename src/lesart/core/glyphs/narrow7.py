"""Digits three pixels wide and seven high, for numbers that have to fit where others do not: our own drawings.

Rows from the top, ``#`` a lit pixel. Anything not drawn here is taken from the usual text of the same height.
"""

from __future__ import annotations

_DRAWN = {
    "0": "###/#.#/#.#/#.#/#.#/#.#/###",
    "1": ".#./##./.#./.#./.#./.#./###",
    "2": "###/..#/..#/###/#../#../###",
    "3": "###/..#/..#/.##/..#/..#/###",
    "4": "#.#/#.#/#.#/###/..#/..#/..#",
    "5": "###/#../#../###/..#/..#/###",
    "6": "###/#../#../###/#.#/#.#/###",
    "7": "###/..#/..#/.#./.#./.#./.#.",
    "8": "###/#.#/#.#/###/#.#/#.#/###",
    "9": "###/#.#/#.#/###/..#/..#/###",
    "+": ".../.../.#./###/.#.",
    "-": ".../.../.../###",
    "=": ".../.../###/.../###",
    " ": "..",
}


def narrow_rows() -> dict[str, tuple[int, tuple[int, ...]]]:
    """Width and eight rows of each, the lowest row empty like that of the usual text."""
    found = {}
    for letter, drawn in _DRAWN.items():
        rows = drawn.split("/")
        width = len(rows[0])
        bits = [int(row.replace("#", "1").replace(".", "0"), 2) for row in rows]
        found[letter] = (width, tuple(bits + [0] * (8 - len(bits))))
    return found
