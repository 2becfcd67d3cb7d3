"""Helpers from views to styled text, shared by all regions of the screen."""

from __future__ import annotations

from collections.abc import Iterable, Sequence

from rich.cells import cell_len, set_cell_size

from lesart.study.views import Line, Span
from lesart.tui.theme import Palette, style
from lesart.tui.widgets.lines import Piece

Pieces = list[Piece]


def cut(words: str, width: int) -> str:
    """The text in exactly ``width`` cells; cut text ends in a mark."""
    if cell_len(words) <= width:
        return set_cell_size(words, width)
    return set_cell_size(words, max(width - 1, 0)) + "…" if width > 0 else ""


def piece(palette: Palette, words: str, tone: str = "text", ground: str = "ink", *, bold: bool = False) -> Piece:
    """A styled text."""
    return (words, style(palette, tone, ground, bold))


def spans(palette: Palette, line: Iterable[Span], ground: str = "ink", selected: object = None) -> Pieces:
    """A line of a view; values are clickable, the selected one is underlined in rubric."""
    pieces: Pieces = []
    for span in line:
        if span.edit is None:
            # An underscore in reversed cells would be hidden by the cells of the line below.
            words = span.text.replace("_", "⎼") if span.tone == "cells" else span.text
            pieces.append((words, style(palette, span.tone, ground, span.bold)))
            continue
        chosen = span.edit.key == selected
        tone = "rubric" if chosen else span.tone
        lead = len(span.text) - len(span.text.lstrip())
        if lead:
            pieces.append((span.text[:lead], style(palette, span.tone, ground)))
        pieces.append((span.text[lead:], style(palette, tone, ground, True, chosen), span.edit))
    return pieces


def folded(line: Pieces, width: int) -> list[Pieces]:
    """A line folded to the width, never between a label and its value."""
    if width_of(line) <= width:
        return [line]
    parts: list[Pieces] = [[]]
    for index, each in enumerate(line):
        follows = cell_len(line[index + 1][0]) if index + 1 < len(line) else 0
        begins = each[0].startswith(FOLDS) or (index > 0 and line[index - 1][0].endswith("  "))
        if parts[-1] and begins and width_of(parts[-1]) + cell_len(each[0]) + follows > width:
            parts.append([(FOLD_INDENT, each[1]), (each[0].lstrip(" ,;"), *each[1:])])
        else:
            parts[-1].append(each)
    return parts


FOLD_INDENT = " " * 7
FOLDS = ("  ", ", ", "; ")


def rule(palette: Palette, width: int, ground: str = "ink") -> Pieces:
    """A hairline."""
    return [("─" * width, style(palette, "hairline", ground))]


def width_of(line: Sequence[Piece]) -> int:
    """Cells of a line."""
    return sum(cell_len(each[0]) for each in line)


def line_of_key(lines: Sequence[Line], key: object) -> int:
    """Index of the line with a value; 0 where there is none."""
    for index, line in enumerate(lines):
        if any(span.edit is not None and span.edit.key == key for span in line):
            return index
    return 0
