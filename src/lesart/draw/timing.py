"""A timing diagram on paper: one line per lane over a common scale, the verdicts as a table below."""

from __future__ import annotations

from collections.abc import Sequence
from typing import TYPE_CHECKING, Any

from lesart.core.dataclass_later import dataclass
from lesart.draw.paper import INK, new_figure

if TYPE_CHECKING:
    from matplotlib.axes import Axes
    from matplotlib.figure import Figure

WIDTH, LEFT, RIGHT, HEAD, ROW = 240.0, 42.0, 34.0, 22.0, 6.0
"""Millimetres."""
BAR = 0.62
"""Share of a lane's height for its bars."""
LEAST = 0.0012
"""Least width of a run as a share of the diagram, so that it is visible."""
COLUMNS = (0.0, 78.0, 104.0, 130.0)
"""Positions of the columns of the table of verdicts."""


@dataclass(frozen=True)
class DrawnLane:
    """``spans`` and ``lost`` in milliseconds; a span without length is a stroke, crossed out for those in ``lost``."""

    name: str
    spans: Sequence[tuple[float, float]]
    tone: str
    says: str
    group: int
    lost: Sequence[float] = ()


def draw_timing(
    title: str, lanes: Sequence[DrawnLane], start_ms: float, end_ms: float, verdicts: Sequence[Sequence[str]]
) -> Figure:
    """``verdicts`` are rows of name, figure, limit, margin and tone, without a header."""
    gaps = len({lane.group for lane in lanes}) - 1
    height = HEAD + (len(lanes) + max(gaps, 0) * 0.6 + len(verdicts) + 4) * ROW
    figure = new_figure(WIDTH, height)
    lanes_mm = (len(lanes) + max(gaps, 0) * 0.6) * ROW
    axes = figure.add_axes(
        (LEFT / WIDTH, 1 - (HEAD + lanes_mm) / height, 1 - (LEFT + RIGHT) / WIDTH, lanes_mm / height)
    )
    axes.set_xlim(start_ms, end_ms)
    axes.set_ylim(lanes_mm / ROW, 0)
    _scale(axes)
    y, before = 0.0, lanes[0].group if lanes else 0
    for lane in lanes:
        y += 0.6 if lane.group != before else 0.0
        before = lane.group
        _lane(axes, lane, y, start_ms, end_ms)
        y += 1.0
    figure.text(8 / WIDTH, 1 - 8 / height, title, color=INK["text"], fontsize=11, va="baseline", parse_math=False)
    _table(figure, verdicts, HEAD + lanes_mm + 2 * ROW, height)
    return figure


def _scale(axes: Axes) -> None:
    axes.xaxis.tick_top()
    axes.tick_params(axis="x", colors=INK["faint"], labelsize=8, length=2)
    axes.set_yticks([])
    axes.grid(axis="x", color=INK["hairline"], linewidth=0.4)
    axes.set_axisbelow(True)
    axes.set_xlabel("ms", color=INK["faint"], fontsize=8, loc="right")
    axes.xaxis.set_label_position("top")
    for side in axes.spines.values():
        side.set_visible(False)


def _lane(axes: Axes, lane: DrawnLane, y: float, start_ms: float, end_ms: float) -> None:
    colour = INK.get(lane.tone, INK["text"])
    inside = [
        (max(begin, start_ms), min(end, end_ms)) for begin, end in lane.spans if end >= start_ms and begin < end_ms
    ]
    least = (end_ms - start_ms) * LEAST
    bars = [(begin, max(end - begin, least)) for begin, end in inside if end > begin]
    if bars:
        axes.broken_barh(bars, (y + (1 - BAR) / 2, BAR), facecolors=colour, linewidth=0, gid=f"lane-{lane.name}")
    lost = set(lane.lost)
    strokes = [begin for begin, end in inside if end == begin and begin not in lost]
    if strokes:
        axes.vlines(strokes, y + 0.15, y + 0.85, colors=colour, linewidth=0.8, gid=f"lane-{lane.name}-strokes")
    crossed = [begin for begin, end in inside if end == begin and begin in lost]
    if crossed:
        axes.plot(
            crossed, [y + 0.5] * len(crossed), "x", color=INK["rubric"], markersize=4, gid=f"lane-{lane.name}-lost"
        )
    at = axes.get_yaxis_transform()
    words: dict[str, Any] = {"transform": at, "fontsize": 8.5, "va": "center", "parse_math": False}
    axes.text(-0.01, y + 0.5, lane.name, ha="right", color=INK["text"], **words)
    axes.text(1.01, y + 0.5, lane.says, ha="left", color=INK["faint"], **words)


def _table(figure: Figure, verdicts: Sequence[Sequence[str]], top: float, height: float) -> None:
    rows = [("verdict", "figure", "limit", "margin", "faint"), *verdicts]
    for place, row in enumerate(rows):
        y = 1 - (top + place * ROW) / height
        for column, cell, tone in zip(COLUMNS, row, ("text", row[4], "faint", "text"), strict=False):
            ink = INK.get("faint" if place == 0 else tone, INK["text"])
            figure.text(
                (LEFT + column) / WIDTH,
                y,
                cell,
                color=ink,
                fontsize=8.5,
                ha="right" if column else "left",
                va="baseline",
                parse_math=False,
            )
