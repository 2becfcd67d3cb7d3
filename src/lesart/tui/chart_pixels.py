"""A chart in the terminal's own pixels, with its labels in letters."""

from __future__ import annotations

from lesart.draw.chart_raster import raster_of_chart
from lesart.study.drawing import plotted
from lesart.study.views import Chart
from lesart.tui.chart_letters import LEFT, ChartLines, apart, labels_of, ticks_of
from lesart.tui.graphics.terminal import Graphics
from lesart.tui.paint import Pieces, piece
from lesart.tui.panels.strips import rows_of
from lesart.tui.theme import Palette, style
from lesart.tui.widgets.lines import InPixels

BELOW = 2
"""Rows for the labels of x, and what x and y are."""
TONES = ("text", "faint", "rubric", "lapis", "ochre", "verdigris", "hairline")


class PixelChart(ChartLines):
    """Show with ``show_chart``."""

    def show_chart(self, chart: Chart, palette: Palette, height: int, width: int, graphics: Graphics) -> None:
        """Show a chart in this many rows and columns."""
        columns, rows = max(width - LEFT - 1, 8), max(height - BELOW, 2)
        self._begin(chart, height, columns)
        ticks = ticks_of(chart, height)
        raster = raster_of_chart(
            plotted(chart, ""),
            columns * graphics.cell_width,
            rows * graphics.cell_height,
            {tone: getattr(palette, tone) for tone in TONES},
            palette.ink,
            ticks.places,
        )
        labels = labels_of(ticks.y, apart(chart.y_range), rows)
        lines: list[Pieces] = []
        for y, row in enumerate(rows_of(raster, palette.ink, graphics)):
            label = piece(palette, f"{labels.get(y, ''):>{LEFT - 1}} ", "faint")
            lines.append([label, *((part.letters, part.style, InPixels(part.escape)) for part in row)])
        lines += [self._x_labels(palette, ticks), self._caption(palette, chart)]
        self.show(lines, style(palette, "text"), style(palette, "faint"))
