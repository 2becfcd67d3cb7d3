"""From views to drawings: the same chart and the same frame that the screen shows, on paper."""

from __future__ import annotations

from pathlib import Path

from lesart.desk.subject import Sheet, Subject
from lesart.desk.views import Glass, visible
from lesart.draw.chart import PlotSeries, draw_chart
from lesart.draw.hookup import draw_hookup
from lesart.draw.panel import draw_panel
from lesart.draw.paper import write_drawing


def draw_subject(subject: Subject, path: Path, title: str) -> None:
    """Write SVG or PDF by the path's ending. Raises StorageError."""
    if isinstance(subject, Sheet):
        figure = draw_hookup(visible(title), subject.hookup, subject.sums, subject.faults)
    elif isinstance(subject, Glass):
        figure = draw_panel(subject.frame, subject.ground, subject.lit, visible(f"{subject.name}, {subject.says}"))
    else:
        series = [PlotSeries(visible(each.name), each.x, each.y, each.tone, each.style) for each in subject.series]
        figure = draw_chart(
            series, visible(f"{title} · {subject.title}"), visible(subject.x_label), visible(subject.y_label),
            subject.x_range, subject.y_range,
            cursor=subject.cursor, bands=subject.bands, time_axis=subject.time_axis,
            decades=subject.decades,
        )  # fmt: skip
    write_drawing(figure, path)
