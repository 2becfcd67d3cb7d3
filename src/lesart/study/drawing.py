"""From views to drawings: the same chart and the same frame that the screen shows, on paper."""

from __future__ import annotations

from dataclasses import replace
from typing import TYPE_CHECKING, Any

from lesart.core.visible import visible
from lesart.draw.calibration import draw_calibration
from lesart.draw.chart import PlotSeries, draw_chart, plot_chart
from lesart.draw.hookup import draw_hookup
from lesart.draw.panel import draw_panel
from lesart.draw.paper import drawing
from lesart.draw.timing import DrawnLane, draw_timing
from lesart.study.drawable import CalibrationSheet, Sheet, Subject
from lesart.study.timing import MS, Timing, said_of
from lesart.study.views import Chart, Glass

if TYPE_CHECKING:
    from matplotlib.axes import Axes
    from matplotlib.figure import Figure


def draw_subject(subject: Subject, ending: str, title: str) -> bytes:
    """SVG or PDF by the ending of a file's name."""
    if isinstance(subject, Sheet):
        figure = draw_hookup(visible(title), subject.hookup, subject.sums, subject.faults)
    elif isinstance(subject, Glass):
        figure = draw_panel(
            subject.frame,
            subject.ground,
            subject.lit,
            subject.unlit,
            visible(f"{subject.name}, {subject.says}"),
            subject.stripe,
        )
    elif isinstance(subject, CalibrationSheet):
        figure = _calibration(subject, title)
    elif isinstance(subject, Timing):
        figure = _timing(subject, title)
    else:
        series, words, options = _chart(subject, title)
        figure = draw_chart(series, *words, subject.x_range, subject.y_range, **options)
    return drawing(figure, ending)


def _chart(chart: Chart, title: str) -> tuple[list[PlotSeries], tuple[str, str, str], dict[str, Any]]:
    """What a chart is drawn from: its series, its words, and the rest."""
    series = [PlotSeries(visible(each.name), each.x, each.y, each.tone, each.style) for each in chart.series]
    words = visible(f"{title} · {chart.title}"), visible(chart.x_label), visible(chart.y_label)
    options = {"cursor": chart.cursor, "bands": chart.bands, "time_axis": chart.time_axis, "decades": chart.decades}
    return series, words, options


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
    # The line of the cursor says where somebody looked, which is no matter of a calibration.
    series, (_, x_label, y_label), options = _chart(replace(subject.chart, cursor=None), title)

    def plot(axes: Axes) -> None:
        plot_chart(axes, series, "", x_label, y_label, subject.chart.x_range, subject.chart.y_range, **options)

    points, fits = ([[visible(cell) for cell in row] for row in table] for table in (subject.points, subject.fits))
    return draw_calibration(
        visible(f"{title} · calibration"), [visible(line) for line in subject.head], points, fits, plot
    )
