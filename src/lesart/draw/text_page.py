"""Pages of text for a report: upright A4 sheets, with wrapped lines, as many as needed."""

from __future__ import annotations

import textwrap
from collections.abc import Iterator, Sequence
from typing import TYPE_CHECKING

from lesart.draw.paper import INK, new_figure

if TYPE_CHECKING:
    from matplotlib.figure import Figure

WIDTH, HEIGHT, MARGIN, ROW = 210.0, 297.0, 18.0, 4.8
"""Millimetres."""
LETTERS = 96
"""Characters per line."""
Line = tuple[str, str]
"""Text and its tone."""


def text_pages(title: str, lines: Sequence[Line]) -> Iterator[Figure]:
    """Lines under a title; long lines continue indented, and the rest goes to the next page."""
    rows = [
        (part if place == 0 else f"      {part}", tone)
        for words, tone in lines
        for place, part in enumerate(textwrap.wrap(words, LETTERS - 6 * bool(words)) or [""])
    ]
    room = int((HEIGHT - 2 * MARGIN - 14) / ROW)
    for start in range(0, max(len(rows), 1), room):
        figure = new_figure(WIDTH, HEIGHT)
        top = HEIGHT - MARGIN
        shown = title if start == 0 else f"{title}, continued"
        _text(figure, MARGIN, top, shown, "text", 13)
        for place, (words, tone) in enumerate(rows[start : start + room]):
            _text(figure, MARGIN, top - 12 - place * ROW, words, tone, 9)
        yield figure


def _text(figure: Figure, x: float, y: float, words: str, tone: str, size: float) -> None:
    figure.text(x / WIDTH, y / HEIGHT, words, color=INK[tone], fontsize=size, va="baseline", parse_math=False)
