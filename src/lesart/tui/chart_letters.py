"""A chart in the terminal, of points that the desk decimated: its labels, and what wheel, drag and click mean on it.

This module brings numpy along: it is imported after the first picture stands.
"""

from __future__ import annotations

from collections.abc import Sequence
from typing import Any

from textual.events import Click, MouseDown, MouseMove, MouseScrollDown, MouseScrollUp
from textual.message import Message

from lesart.core import axis
from lesart.core.dataclass_later import dataclass
from lesart.core.visible import visible
from lesart.draw.chart_dots import dots_of_chart
from lesart.study.drawing import plotted
from lesart.study.views import Chart
from lesart.tui.paint import Pieces, cut, piece
from lesart.tui.theme import Palette, style
from lesart.tui.widgets.lines import Lines

LEFT = 10
"""Columns for the labels of y."""
BELOW = 3
"""Rows for the axis of x, its labels, and what x and y are."""
ROWS_A_TICK = 3
"""Fewest rows between ticks: closer ones would have visibly uneven distances."""
MOST_ACROSS = 5
LABEL_SHARE = 0.04
"""Half a label as a share of a chart's width: ticks nearer to the edge would have theirs cut."""
MOST_TIMES, MOST_SECONDS = 8, 5
MINUTES_S = 480.0
"""From this span on labels are hours and minutes; shorter ones have seconds, which need more room."""
CURSOR_CELLS = 1.5
"""Cells on either side of the cursor at which it can be dragged."""


@dataclass(frozen=True)
class Ticks:
    """Ticks of both axes: positions and labels."""

    x: tuple[tuple[float, str], ...]
    y: tuple[tuple[float, str], ...]

    @property
    def places(self) -> tuple[list[float], list[float]]:
        """Positions of x and of y."""
        return [at for at, _ in self.x], [at for at, _ in self.y]


def ticks_of(chart: Chart, height: int) -> Ticks:
    """Ticks of a chart with this many rows."""
    x_range, y_range = apart(chart.x_range), apart(chart.y_range)
    if chart.decades:
        at = axis.decade_ticks(*x_range, MOST_TIMES)
        labels = axis.decade_labels(at)
    elif chart.time_axis:
        at = axis.clock_ticks(*x_range, MOST_TIMES if x_range[1] - x_range[0] >= MINUTES_S else MOST_SECONDS)
        labels = axis.clock_labels(at)
    else:
        last = x_range[1] - LABEL_SHARE * (x_range[1] - x_range[0])
        at = [tick for tick in axis.round_ticks(*x_range, MOST_ACROSS) if tick <= last]
        labels = axis.round_labels(at)
    up = axis.round_ticks(*y_range, max((height - BELOW) // ROWS_A_TICK, 2))
    return Ticks(tuple(zip(at, labels, strict=True)), tuple(zip(up, axis.round_labels(up), strict=True)))


class ChartLines(Lines):
    """A chart with labels; wheel, drag and click go to the desk, which sends new points."""

    class Wheeled(Message):
        """Zoom by ``steps`` around ``x``."""

        def __init__(self, steps: float, x: float) -> None:
            self.steps, self.x = steps, x
            super().__init__()

    class Dragged(Message):
        """Pan by ``dx``."""

        def __init__(self, dx: float) -> None:
            self.dx = dx
            super().__init__()

    class Pointed(Message):
        """A click at ``x``."""

        def __init__(self, x: float) -> None:
            self.x = x
            super().__init__()

    def __init__(self, *, id: str | None = None) -> None:
        super().__init__(id=id)
        self._limits = (0.0, 1.0)
        self._plot_width = 1
        self._cursor: float | None = None
        self._has_time = self._moved = self._holds_cursor = False

    def _begin(self, chart: Chart, height: int, columns: int) -> None:
        """Prepare for gestures."""
        self.styles.height = height
        self._limits, self._plot_width = apart(chart.x_range), columns
        self._cursor, self._has_time = chart.cursor, chart.time_axis

    def _x_labels(self, palette: Palette, ticks: Ticks) -> Pieces:
        """Labels centred under their ticks, without overlaps."""
        letters = [" "] * (LEFT + self._plot_width)
        behind = 0
        for tick, label in ticks.x:
            at = min(max(round(self.column_of(tick) + 0.5 - len(label) / 2), 0), len(letters) - len(label))
            if at >= behind:
                letters[at : at + len(label)] = label
                behind = at + len(label) + 1
        return [piece(palette, "".join(letters), "faint")]

    def _caption(self, palette: Palette, chart: Chart) -> Pieces:
        """The names of y and x."""
        words = cut(visible(f"↑ {chart.y_label}   → {chart.x_label}"), self._plot_width)
        return [piece(palette, " " * LEFT), piece(palette, words, "faint")]

    def column_of(self, x: float) -> int:
        """The column of this widget at which an x is."""
        low, high = self._limits
        return LEFT + round((x - low) / (high - low) * (self._plot_width - 1))

    def _x_at(
        self, event: MouseDown | MouseMove | Click | MouseScrollUp | MouseScrollDown, cells: float = 0.5
    ) -> float:
        low, high = self._limits
        share = (event.screen_x - self.content_region.x - LEFT + cells) / self._plot_width
        return low + share * (high - low)

    def on_mouse_scroll_down(self, event: MouseScrollDown) -> None:
        """Out."""
        event.stop()
        self.post_message(self.Wheeled(-0.5, self._x_at(event)))

    def on_mouse_scroll_up(self, event: MouseScrollUp) -> None:
        """In."""
        event.stop()
        self.post_message(self.Wheeled(0.5, self._x_at(event)))

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
            self.post_message(self.Pointed(self._x_at(event)))
        else:
            cell = (self._limits[1] - self._limits[0]) / self._plot_width
            self.post_message(self.Dragged(-event.delta_x * cell))

    def on_click(self, event: Any) -> None:
        """Point, unless this was the end of a drag."""
        if self._moved:
            self._moved = False
        elif self._has_time:
            self.post_message(self.Pointed(self._x_at(event)))


class ChartView(ChartLines):
    """A chart in dot letters. Show with ``show_chart``."""

    def show_chart(self, chart: Chart, palette: Palette, height: int, width: int) -> None:
        """Show a chart in this many rows and columns."""
        columns, rows = max(width - LEFT - 1, 8), max(height - BELOW, 2)
        self._begin(chart, height, columns)
        ticks, limits = ticks_of(chart, height), apart(chart.y_range)
        labels = labels_of(ticks.y, limits, rows)
        lines: list[Pieces] = []
        for y, row in enumerate(dots_of_chart(plotted(chart, ""), columns, rows)):
            edge = "┤" if y in labels else "│"
            lines.append(
                [
                    piece(palette, f"{labels.get(y, ''):>{LEFT - 2}} ", "faint"),
                    piece(palette, edge, "hairline"),
                    *(piece(palette, letters, tone) for letters, tone in row),
                ]
            )
        lines += [self._axis(palette, ticks), self._x_labels(palette, ticks), self._caption(palette, chart)]
        self.show(lines, style(palette, "text"), style(palette, "faint"))

    def _axis(self, palette: Palette, ticks: Ticks) -> Pieces:
        places = {self.column_of(tick) for tick, _ in ticks.x}
        line = "".join("┬" if LEFT + at in places else "─" for at in range(self._plot_width))
        return [piece(palette, " " * (LEFT - 1)), piece(palette, f"└{line}", "hairline")]


def row_of(y: float, limits: tuple[float, float], rows: int) -> int:
    """The row from the top, of a number of rows, at which a y is."""
    low, high = limits
    return min(max(int((1 - (y - low) / (high - low)) * rows), 0), rows - 1)


def apart(limits: tuple[float, float]) -> tuple[float, float]:
    """Two distinct ends."""
    return limits if limits[1] > limits[0] else (limits[0] - 1.0, limits[0] + 1.0)


def labels_of(ticks: Sequence[tuple[float, str]], limits: tuple[float, float], rows: int) -> dict[int, str]:
    """Labels by row."""
    return {row_of(tick, limits, rows): label for tick, label in ticks}
