"""A chart in the terminal, drawn by the plotting widget from points that the desk decimated.

This module brings numpy along: it is imported after the first picture stands.
"""

from __future__ import annotations

from collections.abc import Sequence

from textual.events import Click, MouseDown, MouseMove, MouseScrollDown, MouseScrollUp
from textual.message import Message
from textual.reactive import reactive
from textual_hires_canvas import HiResMode
from textual_plot import PlotWidget
from textual_plot.axis_formatter import AxisFormatter

from lesart.core import axis
from lesart.core.visible import visible
from lesart.study.views import Chart
from lesart.tui.theme import Palette

MOST_BANDS = 120
MARKERS = {"points": "●", "rings": "○"}
ROWS_A_TICK = 3
"""Rows between two ticks at least: nearer ones would stand at visibly different distances."""
MOST_ACROSS = 5
LABEL_SHARE = 0.04
"""Half a label, of the width of a chart."""
MOST_TIMES, MOST_SECONDS = 8, 5
MINUTES_S = 480.0
"""From here on labels are hours and minutes; shorter times are labelled with seconds, which take more room."""


class RoundFormatter(AxisFormatter):
    """Round numbers, at most so many; none in the last part of the axis, where its label would be cut."""

    def __init__(self, most: int, free: float = 0.0) -> None:
        self._most, self._free = max(most, 2), free

    def get_ticks(self, min_: float, max_: float, max_ticks: int = 8) -> list[float]:
        """From ``min_`` to ``max_``."""
        ticks = axis.round_ticks(min_, max_, self._most)
        return [tick for tick in ticks if tick <= max_ - self._free * (max_ - min_)]

    def get_labels_for_ticks(self, ticks: Sequence[float]) -> list[str]:
        """One for each."""
        return axis.round_labels(ticks)


class ClockFormatter(AxisFormatter):
    """Round times."""

    def get_ticks(self, min_: float, max_: float, max_ticks: int = 8) -> list[float]:
        """From ``min_`` to ``max_``."""
        return axis.clock_ticks(min_, max_, MOST_TIMES if max_ - min_ >= MINUTES_S else MOST_SECONDS)

    def get_labels_for_ticks(self, ticks: Sequence[float]) -> list[str]:
        """One for each."""
        return axis.clock_labels(ticks)


class DecadeFormatter(AxisFormatter):
    """Powers of ten of an axis of logarithms."""

    def get_ticks(self, min_: float, max_: float, max_ticks: int = 8) -> list[float]:
        """From ``min_`` to ``max_``."""
        return axis.decade_ticks(min_, max_, MOST_TIMES)

    def get_labels_for_ticks(self, ticks: Sequence[float]) -> list[str]:
        """One for each."""
        return axis.decade_labels(ticks)


CURSOR_CELLS = 1.5
"""Cells on either side of the cursor at which it is taken hold of."""


class ChartView(PlotWidget, can_focus=False):
    """Wheel and drag and click go to the desk, which sends new points."""

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

    BINDINGS = []  # noqa: RUF012  (the framework's form) The application's keys rule here too.

    margin_top = reactive(0)
    margin_bottom = reactive(2)
    margin_left = reactive(10)

    def __init__(self, *, id: str | None = None) -> None:
        super().__init__(id=id, allow_pan_and_zoom=False)
        self._time_axis = False
        self._moved = False
        self._cursor: float | None = None
        self._holds_cursor = False

    def show(self, chart: Chart, palette: Palette, height: int) -> None:
        """Replace what is drawn, in a widget of so many rows."""
        self.styles.height = height
        self.clear()
        self._time_axis, self._cursor = chart.time_axis, chart.cursor
        of_x, of_y = formatters(chart, height)
        self.set_x_formatter(of_x)
        self.set_y_formatter(of_y)
        low, high = chart.y_range
        times = [x for _, xs in chart.bands for x in xs]
        for x in times[:: max(len(times) // MOST_BANDS, 1)]:
            # Not as lines of the widget's own: those are drawn over the signal.
            self.plot([x, x], [low, high], palette.hairline, HiResMode.BRAILLE)
        for series in chart.series:
            colour = getattr(palette, series.tone)
            if series.style == "line":
                self.plot(series.x, series.y, colour, HiResMode.BRAILLE)
            elif series.style == "dots":
                self.scatter(series.x, series.y, marker_style=colour, hires_mode=HiResMode.BRAILLE)
            else:
                self.scatter(series.x, series.y, marker=MARKERS[series.style], marker_style=colour)
        for word, xs in chart.bands:
            some = list(xs[:: max(len(xs) // MOST_BANDS, 1)])
            # The letter of the mark, at the foot of its line: nothing is told by colour alone.
            self.scatter(some, [low + (high - low) * 0.02] * len(some), marker=word[0], marker_style=palette.rubric)
        if chart.cursor is not None and chart.x_range[0] <= chart.cursor <= chart.x_range[1]:
            self.add_v_line(chart.cursor, palette.rubric)
        self.set_xlimits(*apart(chart.x_range))
        self.set_ylimits(*apart(chart.y_range))
        self.set_xlabel(_plain(chart.x_label))
        self.set_ylabel("")

    def _x_at(self, event: MouseDown | MouseMove | Click | MouseScrollUp | MouseScrollDown) -> float:
        plot = self.query_one("#plot").region
        return float(self.get_coordinate_from_pixel(event.screen_x - plot.x, 1)[0])

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
        left = self._x_at(event)
        cell = self.get_coordinate_from_pixel(event.screen_x - self.query_one("#plot").region.x + 1, 1)[0] - left
        self._holds_cursor = (
            self._time_axis and self._cursor is not None and abs(self._cursor - left - cell / 2) <= CURSOR_CELLS * cell
        )

    def on_mouse_move(self, event: MouseMove) -> None:
        """Drag."""
        if event.button and event.delta_x and self._holds_cursor:
            self._moved = True
            self.post_message(self.Pointed(self._x_at(event)))
        elif event.button and event.delta_x:
            plot = self.query_one("#plot").region
            left = self.get_coordinate_from_pixel(event.screen_x - plot.x, 1)[0]
            right = self.get_coordinate_from_pixel(event.screen_x - plot.x + event.delta_x, 1)[0]
            self._moved = True
            self.post_message(self.Dragged(float(left - right)))

    def on_click(self, event: Click) -> None:
        """Point, unless this was the end of a drag."""
        if self._moved:
            self._moved = False
            return
        if self._time_axis:
            self.post_message(self.Pointed(self._x_at(event)))


def formatters(chart: Chart, height: int) -> tuple[AxisFormatter, AxisFormatter]:
    """Of x and of y, in a chart of so many rows."""
    plain = DecadeFormatter() if chart.decades else RoundFormatter(MOST_ACROSS, LABEL_SHARE)
    return ClockFormatter() if chart.time_axis else plain, RoundFormatter((height - 3) // ROWS_A_TICK)


def apart(limits: tuple[float, float]) -> tuple[float, float]:
    """Two that are not the same."""
    return limits if limits[1] > limits[0] else (limits[0] - 1.0, limits[0] + 1.0)


def _plain(label: str) -> str:
    """The plotting widget reads markup in labels; a name from outside must not be obeyed."""
    return visible(label).replace("[", "(").replace("]", ")")
