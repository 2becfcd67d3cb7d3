"""From views to drawings: the same chart and the same frame that the screen shows, on paper."""

from __future__ import annotations

from dataclasses import replace
from typing import TYPE_CHECKING

from lesart.core.glass.panels.frame import Frame
from lesart.core.visible import visible
from lesart.draw.calibration import draw_calibration
from lesart.draw.chart import PlotSeries, PlottedChart, draw_chart, plot_chart
from lesart.draw.hookup import draw_hookup
from lesart.draw.panel import draw_life_size, draw_panel
from lesart.draw.paper import drawing
from lesart.draw.timing import DrawnLane, draw_timing
from lesart.study.drawable import CalibrationSheet, Sheet, Subject
from lesart.study.lit.true_pixels import picture_file
from lesart.study.timing import MS, Timing, said_of
from lesart.study.views import Chart, Glass

if TYPE_CHECKING:
    from matplotlib.axes import Axes
    from matplotlib.figure import Figure


def draw_subject(subject: Subject, ending: str, title: str) -> bytes:
    """Draw to SVG or PDF by the extension of a file's name; for a panel PNG too."""
    if isinstance(subject, Glass) and ending.lower() == ".png":
        return picture_file(subject)
    return drawing(figure_of(subject, title), ending)


def figure_of(subject: Subject, title: str) -> Figure:
    """A single sheet as a figure."""
    if isinstance(subject, Sheet):
        return draw_hookup(visible(title), subject.hookup, subject.sums, subject.faults)
    if isinstance(subject, Glass):
        return draw_panel(*_lit(subject), subject.stripe, is_round=subject.round)
    if isinstance(subject, CalibrationSheet):
        return _calibration(subject, title)
    if isinstance(subject, Timing):
        return _timing(subject, title)
    return draw_chart(plotted(subject, f"{title} · {subject.title}"))


def life_size(glass: Glass) -> Figure:
    """A panel at its own size, with a ruler and cut-out lines."""
    return draw_life_size(*_lit(glass), glass.stripe, is_round=glass.round, scale=glass.dot_mm)


def _lit(glass: Glass) -> tuple[Frame, str, str, str, str]:
    return glass.frame, glass.ground, glass.lit, glass.unlit, visible(f"{glass.name}, {glass.says}")


def plotted(chart: Chart, title: str) -> PlottedChart:
    """A chart of the screen, with texts that a drawing can show."""
    return PlottedChart(
        series=[PlotSeries(visible(each.name), each.x, each.y, each.tone, each.style) for each in chart.series],
        title=visible(title),
        x_label=visible(chart.x_label),
        y_label=visible(chart.y_label),
        x_range=chart.x_range,
        y_range=chart.y_range,
        cursor=chart.cursor,
        bands=chart.bands,
        time_axis=chart.time_axis,
        decades=chart.decades,
    )


def _timing(subject: Timing, title: str) -> Figure:
    lanes = [
        DrawnLane(
            visible(lane.name),
            [(begin / MS, end / MS) for begin, end in lane.spans],
            lane.tone,
            visible(lane.says),
            lane.group,
            [at / MS for at in lane.lost],
        )
        for lane in subject.lanes
    ]
    verdicts = [
        (
            *(visible(word) for word in said_of(each)),
            "text" if each.limit is None else "verdigris" if each.ok else "rubric",
        )
        for each in subject.verdicts
    ]
    start, end = subject.start_ns / MS, (subject.start_ns + subject.span_ns) / MS
    return draw_timing(visible(f"{title} · {subject.title}"), lanes, start, end, verdicts)


def _calibration(subject: CalibrationSheet, title: str) -> Figure:
    # The cursor line is where somebody looked, which does not belong on a calibration.
    chart = plotted(replace(subject.chart, cursor=None), "")

    def plot(axes: Axes) -> None:
        plot_chart(axes, chart)

    points, fits = ([[visible(cell) for cell in row] for row in table] for table in (subject.points, subject.fits))
    return draw_calibration(
        visible(f"{title} · calibration"), [visible(line) for line in subject.head], points, fits, plot
    )
