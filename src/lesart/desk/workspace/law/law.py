"""Law: the curve from raw to quantity, on three leaves: the stack of laws, how sure they are, what else fits."""

from __future__ import annotations

from collections.abc import Callable

import numpy as np

from lesart.core.block import Block, Bools, Floats, block_of
from lesart.core.step import Step
from lesart.desk.state import LEAVES
from lesart.desk.workspace.context import Context, span_of, trace
from lesart.desk.workspace.law.kinds import kinds_lines
from lesart.desk.workspace.law.stack import laws_lines
from lesart.desk.workspace.law.sure import sure_lines
from lesart.study.views import Chart, Leaf, Line, Series, Workspace, numeral

CURVE_POINTS = 200
BINS = 140
HISTOGRAM_SHARE = 0.22
"""Share of the chart's height for the histogram."""
HATCHES = 70
"""Number of shading lines over the whole width."""

_LINES: dict[str, Callable[[Context], list[Line]]] = {
    "laws": laws_lines,
    "how sure": sure_lines,
    "what fits": kinds_lines,
}


def build(context: Context) -> Workspace:
    """Build the open leaf."""
    channel, leaf = context.channel, context.state.leaf_of(Step.LAW)
    hints = (("l", "turns"), ("+", "adds"), *((("K J", "moves up, down"),) if leaf == "laws" else ()))
    return Workspace(
        Step.LAW,
        f"{channel.unit_raw} to {channel.unit}",
        chart=chart(context) if leaf != "what fits" else None,
        lines=tuple(_LINES[leaf](context)),
        leaves=_leaves(context, leaf),
        hints=hints,
        adds="a law, like linear °C; arithmetic, like times 2 or total in L; or what it is, like a bridge: ",
    )


def _leaves(context: Context, leaf: str) -> tuple[Leaf, ...]:
    notes = context.numerals(Step.LAW, channel=context.channel.name)
    sure = " ".join(numeral(number) for number, note in context.notes_here() if note.shown_by is Step.LAW)
    marks = {"laws": notes, "how sure": sure}
    return tuple(Leaf(name, name == leaf, marks.get(name, "")) for name in LEAVES[Step.LAW])


def chart(context: Context) -> Chart | None:
    """The chart of reading before correction over raw value, with a histogram; windows over time."""
    if context.run is None:
        return None
    raw, quantity = context.run.blocks[Step.RAW], context.run.blocks[Step.LAW]
    if not quantity.usable.any():
        return None
    if len(raw) != len(quantity) or context.channel.chain.is_lasting(Step.LAW):
        return _over_time(context, quantity)
    channel, chain = context.channel, context.standing.chain
    lies = raw.x[quantity.usable]
    ends = [
        *(end for end in (chain.raw_for(channel.lowest), chain.raw_for(channel.highest)) if np.isfinite(end)),
        float(lies.min()),
        float(lies.max()),
    ]
    low, high = (min(ends[:2]), max(ends[:2])) if len(ends) == 4 else (min(ends), max(ends))
    if not high > low:
        low, high = low - 1.0, high + 1.0
    across = np.linspace(low, high, CURVE_POINTS)
    block = block_of(across)
    for link in chain.links:
        block = link.settled(block) if link.step == Step.LAW else block
    curve = Series("law", across[block.usable].tolist(), block.x[block.usable].tolist(), "text")
    y_range = span_of([curve] if len(curve.y) else [_trace_of(quantity)])
    bottom = y_range[0] - (y_range[1] - y_range[0]) * HISTOGRAM_SHARE
    series = (
        _histogram(lies, (low, high), bottom, y_range[0]),
        curve,
        *_point(context, (low, high), (bottom, y_range[1])),
    )
    outside = _outside(across, block.usable)
    return Chart(
        title="law",
        series=series,
        x_label=f"raw / {channel.unit_raw}",
        y_label=f"{channel.name} / {channel.unit}",
        x_range=(low, high),
        y_range=(bottom, y_range[1]),
        cursor=None,
        bands=(("outside", outside),) if outside else (),
    )


def _histogram(lies: Floats, x_range: tuple[float, float], foot: float, top: float) -> Series:
    """The histogram of raw values: bars at the foot of the chart."""
    counts, edges = np.histogram(lies, BINS, x_range)
    heights = foot + (top - foot) * 0.9 * counts / max(int(counts.max()), 1)
    # Up and down in the middle of each bin: strokes this dense fill the steps.
    x = np.repeat(0.5 * (edges[:-1] + edges[1:]), 3)
    y = np.column_stack([np.full(BINS, foot), heights, np.full(BINS, foot)]).ravel()
    return Series("how often", x.tolist(), y.tolist(), "ochre")


def _point(context: Context, x_range: tuple[float, float], y_range: tuple[float, float]) -> tuple[Series, ...]:
    """The path of the reading at the cursor: from its raw value up to the curve, and across to the quantity."""
    raw, quantity = context.here[Step.RAW].value, context.here[Step.LAW].value
    seen = x_range[0] <= raw <= x_range[1] and y_range[0] <= quantity <= y_range[1]
    if not seen:
        return ()
    way = Series("at the cursor", [raw, raw, x_range[0]], [y_range[0], quantity, quantity], "rubric")
    return way, Series("at the cursor", [raw], [quantity], "rubric", "points")


def _outside(across: Floats, usable: Bools) -> list[float]:
    """Shading of raw values outside the range of a law."""
    shaded: list[float] = across[~usable][:: max(CURVE_POINTS // HATCHES, 1)].tolist()
    return shaded


def _trace_of(block: Block) -> Series:
    good = block.x[block.usable]
    return Series("", [0.0, 1.0], [float(good.min()), float(good.max())], "faint")


def _over_time(context: Context, quantity: Block) -> Chart:
    """The result over time of laws without a curve: those of windows, and those with memory."""
    line = trace(context, quantity, "law", "ochre")
    channel = context.channel
    return Chart(
        title="law",
        series=(line,),
        x_label="time",
        y_label=f"{channel.name} / {channel.unit}",
        x_range=context.view,
        y_range=span_of([line]),
        cursor=context.state.cursor_s,
        time_axis=True,
    )
