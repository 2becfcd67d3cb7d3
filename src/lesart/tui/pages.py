"""Pages of text in place of a workspace: keys, welcome, opening, trouble, a window too small."""

from __future__ import annotations

from lesart.tui.keys import KEYS
from lesart.tui.paint import Pieces, piece
from lesart.tui.theme import Palette

Page = tuple[Pieces, list[Pieces]]
"""A heading and its lines."""


def keys_page(palette: Palette) -> Page:
    """Every key, in two columns."""
    entries: list[Pieces] = [
        [piece(palette, f"  {key.shown:>8}  ", "ochre"), piece(palette, f"{key.says:<54}")] for key in KEYS
    ]
    half = (len(entries) + 1) // 2
    lines = [
        [*left, *(entries[half + index] if half + index < len(entries) else [])]
        for index, left in enumerate(entries[:half])
    ]
    return [piece(palette, " keys", "rubric"), piece(palette, "   escape goes back", "faint")], lines


def trouble_page(palette: Palette, name: str, sentences: tuple[str, ...]) -> Page:
    """Why a project cannot be opened, a sentence a line."""
    lines: list[Pieces] = [[piece(palette, "   "), piece(palette, sentence)] for sentence in sentences]
    lines += [[], [piece(palette, "   Mend the file and it opens by itself. ctrl+q leaves.", "faint")]]
    return [piece(palette, f" {name} cannot be opened", "rubric", bold=True)], lines


def welcome_page(palette: Palette) -> Page:
    """What to do without a project, each by one key."""
    rows = (
        ("d", "open the demo, the linden yard, in ./linden-yard"),
        ("n", "make a new project from a capture: a CSV file of numbers"),
        ("o", "open a project: a folder with lesart.toml"),
        ("ctrl+q", "leave"),
    )
    lines: list[Pieces] = [[piece(palette, f"   {key:>7}  ", "ochre"), piece(palette, says)] for key, says in rows]
    heading = [
        piece(palette, " L", "rubric", bold=True),
        piece(palette, "esart follows one reading from the wire to the glass"),
    ]
    return heading, [[], *lines]


def opening_page(palette: Palette, name: str) -> Page:
    """While the desk is coming."""
    return [piece(palette, f" Opening {name} …", "faint")], []


def tiny_page(palette: Palette, width: int, height: int) -> Page:
    """A window that nothing fits in."""
    return [piece(palette, f" Lesart needs 60×16 cells; here are {width}×{height}.", "rubric")], []
