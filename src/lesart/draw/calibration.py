"""The calibration sheet: points, residual chart, fit and coverage on an upright sheet of A4."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from typing import TYPE_CHECKING

from lesart.draw.paper import INK, new_figure

if TYPE_CHECKING:
    from matplotlib.axes import Axes
    from matplotlib.figure import Figure

WIDTH, HEIGHT, MARGIN, ROW = 210.0, 297.0, 18.0, 5.2
"""Millimetres."""
CHART = (MARGIN + 12, 168.0, WIDTH - 2 * MARGIN - 12, 74.0)
MOST_ROWS = 20
"""Most references on the sheet; the file of points has all."""

Table = Sequence[Sequence[str]]


def draw_calibration(
    title: str, head: Sequence[str], points: Table, fits: Table, plot: Callable[[Axes], None]
) -> Figure:
    """Draw the sheet; ``plot`` draws the residual chart into given axes."""
    figure = new_figure(WIDTH, HEIGHT)
    left, bottom, width, height = CHART
    plot(figure.add_axes((left / WIDTH, bottom / HEIGHT, width / WIDTH, height / HEIGHT)))
    _text(figure, MARGIN, HEIGHT - MARGIN, title, "text", size=13)
    for index, line in enumerate(head):
        _text(figure, MARGIN, HEIGHT - MARGIN - 8 - index * 4.6, line, "faint" if index else "text", size=9)
    below = _table(figure, points[: MOST_ROWS + 1], bottom - 18, (0, 20, 38, 62, 82, 102, 122, 138, 160))
    if len(points) > MOST_ROWS + 1:
        _text(figure, MARGIN, below, f"and {len(points) - MOST_ROWS - 1} more", "faint", size=8)
        below -= ROW
    _table(figure, fits, below - ROW, (0, 44, 68, 92, 118))
    return figure


def _table(figure: Figure, rows: Table, top: float, columns: Sequence[float]) -> float:
    """A table with a header; gives the height below the last row."""
    for index, row in enumerate(rows):
        tone = "faint" if index == 0 else "text"
        for column, cell in zip(columns, row, strict=True):
            _text(figure, MARGIN + column, top - index * ROW, cell, tone, size=8.5)
    return top - len(rows) * ROW


def _text(figure: Figure, x: float, y: float, words: str, tone: str, size: float) -> None:
    figure.text(x / WIDTH, y / HEIGHT, words, color=INK[tone], fontsize=size, va="baseline", parse_math=False)
