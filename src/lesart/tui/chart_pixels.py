"""A chart in the terminal's own pixels, with its labels in letters. The same gestures as on the chart of letters."""

from __future__ import annotations

from collections.abc import Sequence
from typing import Any

from textual.events import Click, MouseDown, MouseMove, MouseScrollDown, MouseScrollUp

from lesart.core.visible import visible
from lesart.draw.chart_raster import raster_of_chart
from lesart.study.drawing import plotted
from lesart.study.views import Chart
from lesart.tui.graphics.terminal import Graphics
from lesart.tui.paint import Pieces, cut, piece
from lesart.tui.panels.strips import rows_of
from lesart.tui.theme import Palette, style
from lesart.tui.widgets.chart import CURSOR_CELLS, ChartView, apart, formatters
from lesart.tui.widgets.lines import InPixels, Lines

LEFT = 10
"""Columns for the labels of y."""
BELOW = 2
"""Rows for the labels of x, and what x is."""
TONES = ("text", "faint", "rubric", "lapis", "ochre", "verdigris", "hairline")


class PixelChart(Lines):
    """Show with ``show_chart``."""

    def __init__(self, *, id: str | None = None) -> None:
        super().__init__(id=id)
        self._limits = (0.0, 1.0)
        self._plot_width = 1
        self._cursor: float | None = None
        self._has_time = self._moved = self._holds_cursor = False

    def show_chart(self, chart: Chart, palette: Palette, height: int, width: int, graphics: Graphics) -> None:
        """Replace what is drawn, in so many rows and columns."""
        self.styles.height = height
        columns, rows = max(width - LEFT - 1, 8), max(height - BELOW, 2)
        self._limits, self._plot_width = apart(chart.x_range), columns
        self._cursor, self._has_time = chart.cursor, chart.time_axis
        limits = apart(chart.y_range)
        of_x, of_y = formatters(chart, height)
        ticks = of_x.get_ticks(*self._limits), of_y.get_ticks(*limits)
        raster = raster_of_chart(
            plotted(chart, ""),
            columns * graphics.cell_width,
            rows * graphics.cell_height,
            {tone: getattr(palette, tone) for tone in TONES},
            palette.ink,
            ticks,
        )
        labels = dict(
            zip((_row_of(tick, limits, rows) for tick in ticks[1]), of_y.get_labels_for_ticks(ticks[1]), strict=True)
        )
        lines: list[Pieces] = []
        for y, row in enumerate(rows_of(raster, palette.ink, graphics)):
            label = piece(palette, f"{labels.get(y, ''):>{LEFT - 1}} ", "faint")
            lines.append([label, *((part.letters, part.style, InPixels(part.escape)) for part in row)])
        lines += [self._x_labels(palette, ticks[0], of_x.get_labels_for_ticks(ticks[0]))]
        lines += [
            [
                piece(palette, " " * LEFT),
                piece(palette, cut(visible(f"↑ {chart.y_label}   → {chart.x_label}"), columns), "faint"),
            ]
        ]
        self.show(lines, style(palette, "text"), style(palette, "faint"))

    def _x_labels(self, palette: Palette, ticks: Sequence[float], labels: Sequence[str]) -> Pieces:
        """Each in the middle under its tick, none over another."""
        letters = [" "] * (LEFT + self._plot_width)
        low, high = self._limits
        behind = 0
        for tick, label in zip(ticks, labels, strict=True):
            middle = LEFT + (tick - low) / (high - low) * self._plot_width
            at = min(max(round(middle - len(label) / 2), 0), len(letters) - len(label))
            if at >= behind:
                letters[at : at + len(label)] = label
                behind = at + len(label) + 1
        return [piece(palette, "".join(letters), "faint")]

    def _x_at(
        self, event: MouseDown | MouseMove | Click | MouseScrollUp | MouseScrollDown, cells: float = 0.5
    ) -> float:
        low, high = self._limits
        share = (event.screen_x - self.content_region.x - LEFT + cells) / self._plot_width
        return low + share * (high - low)

    def on_mouse_scroll_down(self, event: MouseScrollDown) -> None:
        """Out."""
        event.stop()
        self.post_message(ChartView.Wheeled(-0.5, self._x_at(event)))

    def on_mouse_scroll_up(self, event: MouseScrollUp) -> None:
        """In."""
        event.stop()
        self.post_message(ChartView.Wheeled(0.5, self._x_at(event)))

    def on_mouse_down(self, event: MouseDown) -> None:
        """On the cursor, or a cell beside it, what is dragged is the cursor."""
        cell = (self._limits[1] - self._limits[0]) / self._plot_width
        near = self._cursor is not None and abs(self._cursor - self._x_at(event)) <= CURSOR_CELLS * cell
        self._holds_cursor = self._has_time and near

    def on_mouse_move(self, event: MouseMove) -> None:
        """Drag the cursor, or what is in view."""
        if not (event.button and event.delta_x):
            return
        self._moved = True
        if self._holds_cursor:
            self.post_message(ChartView.Pointed(self._x_at(event)))
        else:
            cell = (self._limits[1] - self._limits[0]) / self._plot_width
            self.post_message(ChartView.Dragged(-event.delta_x * cell))

    def on_click(self, event: Any) -> None:
        """Point, unless this was the end of a drag."""
        if self._moved:
            self._moved = False
        elif self._has_time:
            self.post_message(ChartView.Pointed(self._x_at(event)))


def _row_of(tick: float, limits: tuple[float, float], rows: int) -> int:
    low, high = limits
    return min(max(int((1 - (tick - low) / (high - low)) * rows), 0), rows - 1)
