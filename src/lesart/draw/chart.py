"""A chart on paper, from the points a view holds."""

from __future__ import annotations

from collections.abc import Sequence
from typing import TYPE_CHECKING

from lesart.core.axis import clock_labels, clock_ticks, decade_labels, decade_ticks, round_labels, round_ticks
from lesart.core.dataclass_later import dataclass
from lesart.draw.paper import INK, new_figure

if TYPE_CHECKING:
    from matplotlib.axes import Axes
    from matplotlib.figure import Figure

MOST_TICKS = 7


@dataclass(frozen=True)
class PlotSeries:
    """Points with a tone of ``INK``; ``style`` is line, dots, points or rings."""

    name: str
    x: Sequence[float]
    y: Sequence[float]
    tone: str
    style: str


@dataclass(frozen=True)
class PlottedChart:
    """``cursor`` is where the red line stands; ``bands`` x positions of marked samples, by word.

    With ``decades`` x are logarithms to the base of ten; with ``time_axis`` they are seconds, told as clocks are.
    """

    series: Sequence[PlotSeries]
    title: str
    x_label: str
    y_label: str
    x_range: tuple[float, float]
    y_range: tuple[float, float]
    cursor: float | None = None
    bands: Sequence[tuple[str, Sequence[float]]] = ()
    time_axis: bool = False
    decades: bool = False


def draw_chart(chart: PlottedChart) -> Figure:
    """A chart of 180 × 110 mm."""
    figure = new_figure(180, 110)
    plot_chart(figure.add_axes((0.12, 0.13, 0.85, 0.72)), chart)
    return figure


def plot_chart(axes: Axes, chart: PlottedChart) -> None:
    """Plot into axes of any size."""
    for word, xs in chart.bands:
        for index, x in enumerate(xs):
            axes.axvline(x, color=INK["hairline"], linewidth=0.6, label=word if index == 0 else None)
            foot = axes.get_xaxis_transform()
            axes.text(x, 0.01, word[0], color=INK["rubric"], fontsize=6, ha="center", transform=foot)
    for each in chart.series:
        if each.style == "line":
            axes.plot(each.x, each.y, color=INK[each.tone], linewidth=0.9, label=each.name)
        else:
            size = 1.2 if each.style == "dots" else 5
            inside = "none" if each.style == "rings" else INK[each.tone]
            axes.plot(
                each.x, each.y, "o", color=INK[each.tone], markersize=size, markerfacecolor=inside, label=each.name
            )
    if chart.cursor is not None and chart.x_range[0] <= chart.cursor <= chart.x_range[1]:
        axes.axvline(chart.cursor, color=INK["rubric"], linewidth=0.8)
    _dress(axes, chart)


def _dress(axes: Axes, chart: PlottedChart) -> None:
    """Hairlines, labels, round ticks."""
    # A dollar sign in a name is a dollar sign, not the start of a formula.
    axes.set_title(chart.title, loc="left", fontsize=10, color=INK["text"], parse_math=False, pad=18)
    axes.set_xlabel(chart.x_label, color=INK["faint"], parse_math=False)
    axes.set_ylabel(chart.y_label, color=INK["faint"], parse_math=False)
    axes.set_xlim(*chart.x_range)
    axes.set_ylim(*chart.y_range)
    axes.spines[["top", "right"]].set_visible(False)
    axes.spines[["left", "bottom"]].set_color(INK["hairline"])
    axes.tick_params(color=INK["hairline"], labelcolor=INK["text"], labelsize=8)
    of_x, said = (clock_ticks, clock_labels) if chart.time_axis else (round_ticks, round_labels)
    if chart.decades:
        of_x, said = decade_ticks, decade_labels
    ticks = of_x(*chart.x_range, MOST_TICKS)
    axes.set_xticks(ticks, said(ticks))
    ticks = round_ticks(*chart.y_range, MOST_TICKS)
    axes.set_yticks(ticks, round_labels(ticks))
    _legend(axes)


def _legend(axes: Axes) -> None:
    """The legend above the chart, where it covers nothing; each name once, self-explanatory ones not at all."""
    handles, names = axes.get_legend_handles_labels()
    named = {name: handle for handle, name in zip(handles, names, strict=True) if name != "zero"}
    legend = axes.legend(
        list(named.values()),
        list(named),
        frameon=False,
        fontsize=7,
        loc="lower right",
        bbox_to_anchor=(1.0, 1.0),
        borderaxespad=0.2,
        ncols=6,
    )
    for entry in legend.get_texts():
        entry.set_color(INK["faint"])
        entry.set_parse_math(False)
