"""Pages of text instead of a workspace: keys, welcome, opening, trouble, a window too small."""

from __future__ import annotations

import textwrap
from collections.abc import Sequence

from lesart.core.step import Step
from lesart.tui.key_groups import GROUPS, HERE, WORDS
from lesart.tui.keys import KEYS, Key
from lesart.tui.paint import Pieces, cut, piece
from lesart.tui.theme import Palette

KEY_WIDTH = 66
STEPS = (
    ("Wire", "faint"),
    ("Raw", "lapis"),
    ("Law", "ochre"),
    ("True", "ochre"),
    ("Calm", "verdigris"),
    ("Fit", "text"),
    ("Glass", "text"),
    ("Pace", "text"),
    ("Pack", "text"),
)
"""The nine steps, in the tone of their values."""
Page = tuple[Pieces, list[Pieces]]
"""A heading and its lines."""


def keys_page(palette: Palette, width: int, step: Step | None, adds: str) -> Page:
    """Keys of the open step first, with what ``+`` takes there; then all, in groups, in two columns where there is
    room; then a sentence for each idea."""
    by_name = {key.keys: key for key in KEYS}
    columns = 2 if width >= 2 * KEY_WIDTH - 10 else 1
    lines: list[Pieces] = []
    if step in HERE:
        lines.append([piece(palette, f" in {step.number} {step.shown}" if step is not None else "", "rubric")])
        lines += _beside([_key_line(palette, by_name[name]) for name in HERE[step]], columns)
        if adds:
            lines += [
                [piece(palette, f"{'':16}"), piece(palette, row, "faint")]
                for row in textwrap.wrap(f"+ takes: {adds.rstrip(': ')}", max(width - 16, 20))
            ]
        lines.append([])
    for title, names in GROUPS:
        lines.append([piece(palette, f" {title}", "rubric")])
        lines += _beside([_key_line(palette, by_name[name]) for name in names], columns)
    lines += [[], [piece(palette, " words", "rubric")]]
    for word, says in WORDS:
        first, *more = textwrap.wrap(says, max(width - 16, 20))
        lines.append([piece(palette, f"  {word:>11}  ", "ochre"), piece(palette, first)])
        lines += [[piece(palette, f"{'':15}{row}")] for row in more]
    return [piece(palette, " keys", "rubric"), piece(palette, "   escape goes back", "faint")], lines


def _key_line(palette: Palette, key: Key) -> Pieces:
    return [piece(palette, f"  {key.shown:>12}  ", "ochre"), piece(palette, f"{key.says:<50}")]


def _beside(entries: list[Pieces], columns: int) -> list[Pieces]:
    """Two columns side by side, read one after the other."""
    if columns == 1:
        return entries
    half = (len(entries) + 1) // 2
    return [
        [*left, *(entries[half + index] if half + index < len(entries) else [])]
        for index, left in enumerate(entries[:half])
    ]


def trouble_page(palette: Palette, name: str, sentences: tuple[str, ...], width: int, from_welcome: bool) -> Page:
    """Why a project cannot be opened: each sentence in full."""
    lines: list[Pieces] = []
    for sentence in sentences:
        rows = textwrap.wrap(sentence, max(width - 8, 20), subsequent_indent="  ")
        lines += [[piece(palette, f"   {row}")] for row in rows]
    way_out = "escape goes back" if from_welcome else "ctrl+q leaves"
    lines += [[], [piece(palette, f"   Mend the file and it opens by itself; {way_out}.", "faint")]]
    return [piece(palette, f" {name} cannot be opened", "rubric", bold=True)], lines


def welcome_page(palette: Palette, recent: Sequence[tuple[str, bool]], width: int) -> Page:
    """What to do without a project, by one key each; ``recent`` are folders, and whether unsaved work was left
    there."""
    rows = (
        ("w", "walk through the demo: twelve stops, a key at each"),
        ("d", "open the demo, the linden yard, in ./linden-yard"),
        ("j", "open one of twenty-one jobs worked out, each a small project of its own"),
        ("n", "make a new project from a capture: numbers, a sound, a logic trace"),
        ("o", "open a project: a folder with lesart.toml"),
        ("ctrl+q", "leave"),
    )
    lines: list[Pieces] = [[piece(palette, f"   {key:>7}  ", "ochre"), piece(palette, says)] for key, says in rows]
    heading = [
        piece(palette, " L", "rubric", bold=True),
        piece(palette, "esart follows one reading from the wire to the glass"),
    ]
    thread: Pieces = [piece(palette, "   ")]
    for name, tone in STEPS:
        arrow = [] if name == "Wire" else [piece(palette, " → ", "faint")]
        thread += [*arrow, piece(palette, name[0], tone, bold=True), piece(palette, name[1:], tone)]
    for number, (folder, unsaved) in enumerate(recent, 1):
        if number == 1:
            lines += [[], [piece(palette, "   opened before", "faint")]]
        left = "   with unsaved work" if unsaved else ""
        lines.append(
            [
                piece(palette, f"   {number:>7}  ", "ochre"),
                piece(palette, cut(folder, max(width - 36, 20))),
                piece(palette, left, "rubric"),
            ]
        )
    return heading, [[], thread, [], [], *lines]


def opening_page(palette: Palette, name: str) -> Page:
    """The page while the desk starts."""
    return [piece(palette, f" Opening {name} …", "faint")], []


def tiny_page(palette: Palette, width: int, height: int) -> Page:
    """The page for a window that is too small."""
    first, *more = textwrap.wrap(f"Lesart needs 60×16 cells; here are {width}×{height}.", max(width - 2, 8))
    return [piece(palette, f" {first}", "rubric")], [[piece(palette, f" {line}", "rubric")] for line in more]
