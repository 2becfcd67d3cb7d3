"""True: references, residuals before and after, the fit, and where it is extrapolated."""

from __future__ import annotations

import math
from collections.abc import Callable, Iterable

from lesart.core.notes import Key
from lesart.core.quantity import beside_unit
from lesart.core.step import Step
from lesart.core.true.correction import Correction, Residual, residuals
from lesart.core.true.trust import hysteresis, judge
from lesart.desk.state import LEAVES
from lesart.desk.workspace.context import Context, decimals_for, label, span_of, text, value, wrapped
from lesart.desk.workspace.true.fits import fit_series, signed
from lesart.desk.workspace.true.history import history_chart, history_lines
from lesart.desk.workspace.true.why import why_chart, why_lines
from lesart.study.views import Chart, Leaf, Line, Series, Workspace, numeral

MOST_DECIMALS = 6
"""Most decimals of a residual that fit its column."""
EXACT = 1e-9
"""In the reading's unit: residuals below it are float rounding."""


def build(context: Context) -> Workspace:
    """Build the open leaf."""
    leaf = context.state.leaf_of(Step.TRUE)
    lines, evidence = _LEAVES[leaf]
    unit = context.channel.unit
    adds = f"true value at the cursor, in {unit}; or pairs, true = indicated; or < file: "
    return Workspace(
        Step.TRUE,
        "compare with references, fit a correction",
        chart=evidence(context),
        lines=tuple(lines(context)),
        hints=(("l", "turns"),),
        adds="put the adopted calibration away as: " if leaf == "calibrations" else adds,
        leaves=tuple(Leaf(name, name == leaf) for name in LEAVES[Step.TRUE]),
    )


def references_lines(context: Context) -> list[Line]:
    """The table of references with the fit under it."""
    channel = context.channel
    found = residuals(channel.correction, channel.references)
    place: Key = channel.key("true")
    decimals = _decimals(context)
    lines: list[Line] = []
    if found:
        lines.append(
            (
                label(
                    f"   {'reference':>14} {'indicated':>12} {'before':>8} {'after':>8} {'spread':>8}  taken     n used"
                ),
            )
        )
    after = _finer(decimals, (abs(each.after) for each in found))
    spread = _finer(decimals, (each.reference.spread for each in found))
    for index, each in enumerate(found):
        key = (*place, "references", index)
        lines.append(_row(context, key, index, each, (decimals, after, spread)))
        selected = context.state.selected_at(Step.TRUE) or place
        if selected[: len(key)] == key:
            lines.append(_details(context, key, index))
    if not found:
        lines += [
            (text("No references yet, so this reading is unverified."),),
            (label("Put the cursor where a known value was on the sensor; "), text("+"), label(" records it.")),
        ]
    lines += [(), *_fit_lines(context, place, channel.correction, decimals)]
    for number_, note in context.notes_here():
        if note.step == Step.TRUE:
            lines += wrapped(f"{numeral(number_)} {note.mark} {note.text}", "rubric" if note.is_fault else "text")
    return lines


def _decimals(context: Context) -> int:
    """Decimals of residuals: to a hundredth of the largest one, as finer figures would claim too much."""
    found = residuals(context.channel.correction, context.channel.references)
    largest = max((abs(each.before) for each in found), default=1.0) or 1.0
    return decimals_for(largest / 100)


def _finer(decimals: int, figures: Iterable[float]) -> int:
    """More decimals, for two digits of the largest, so that the residuals of a good fit are not all 0.000."""
    largest = max(figures, default=0.0)
    return max(decimals, min(decimals_for(largest / 10), MOST_DECIMALS)) if largest > 0 else decimals


def _row(context: Context, key: Key, index: int, each: Residual, decimals: tuple[int, int, int]) -> Line:
    """A row; ``decimals`` are those of the error before, after, and of the spread."""
    used = each.reference.used
    spread = f"{each.reference.spread:.{decimals[2]}f}" if each.reference.spread else "—"
    settled = label(" ") if each.reference.has_settled else text("‡", "rubric")
    return (
        text("   "),
        value(
            context.project, (*key, "true"), width=14, tone="text" if used else "faint", title=f"reference {index + 1}"
        ),
        text(" "),
        value(
            context.project,
            (*key, "indicated"),
            width=12,
            tone="text" if used else "faint",
            title=f"reference {index + 1}, indicated",
        ),
        text(f" {signed(each.before, decimals[0]):>8}", "rubric" if used else "faint"),
        text(f" {signed(each.after, decimals[1]):>8}", "verdigris" if used else "faint"),
        label(f" {spread:>8}"),
        settled,
        label(f" {each.reference.taken[:5]:<5} {each.reference.count:>5} "),
        value(context.project, (*key, "used"), title=f"reference {index + 1}, used"),
    )


def _details(context: Context, key: Key, index: int) -> Line:
    """Seldom used values of the selected reference."""
    title = f"reference {index + 1}"
    return (
        label("       day "),
        value(context.project, (*key, "date"), title=f"{title}, date"),
        label("   way "),
        value(context.project, (*key, "way"), title=f"{title}, way"),
        label("   remark "),
        value(context.project, (*key, "remark"), title=f"{title}, remark"),
    )


def _fit_lines(context: Context, place: Key, correction: Correction, decimals: int) -> list[Line]:
    """The chosen fit, its covered range, and every kind of fit with its errors."""
    unit = correction.unit_in.symbol
    line = [label("   fit "), value(context.project, (*place, "kind"))]
    if correction.kind == "polynomial":
        line += [label(" of degree "), value(context.project, (*place, "degree"))]
    if correction.curve is None and correction.kind in ("line", "gain"):
        line += [label("   gain "), text(f"{correction.gain:.6f}".rstrip("0"))]
    if correction.kind in ("line", "offset"):
        line += [label("   offset "), text(beside_unit(signed(correction.offset, decimals + 1), unit))]
    line += [label("   tare "), value(context.project, (*place, "tare"))]
    if correction.covered is None:
        return [tuple(line)]
    limits = (
        label("   left at most "),
        value(context.project, (*place, "residual")),
        label("   valid for " if context.channel.residual_limit else " (no limit set)   valid for "),
        value(context.project, (*place, "valid")),
        label("" if context.channel.valid_d else " (for good)"),
    )
    lines = [tuple(line), _known(correction, decimals), limits]
    far = hysteresis(context.channel.references)
    if far is not None:
        difference = beside_unit(signed(far[0], decimals), unit)
        lines.append(
            (
                label("   up less down at most "),
                text(difference),
                label(f" at {beside_unit(f'{far[1]:.{decimals}f}', unit)}"),
            )
        )
    return [*lines, ()]


def _known(correction: Correction, decimals: int) -> Line:
    """The range covered by references."""
    if correction.is_all_around:
        return (label("   known "), text("all around"), label(", as it comes round"))
    low, high = (round(end, decimals) + 0.0 for end in correction.known)
    known = beside_unit(f"{low:.{decimals}f} to {high:.{decimals}f}", correction.unit_in.symbol).replace("-", "−")
    return (label("   known from "), text(known), label(", a guess beyond"))


def fits_lines(context: Context) -> list[Line]:
    """Every kind of fit with its errors, the chosen and the proposed one marked."""
    channel = context.channel
    correction, decimals = channel.correction, _decimals(context)
    lines: list[Line] = [(label("   fit "), value(context.project, (*channel.key("true"), "kind"))), ()]
    if not channel.references:
        return [
            *lines,
            (
                label("No references yet; "),
                text("+", "ochre"),
                label(" records one at the cursor."),
            ),
        ]
    lines += [(label(f"   {f'fits, in {correction.unit_in}':<18}{'worst':>9}{'RMS':>9}{'left out':>10}"),)]
    judged = judge(context.channel.references, correction.unit_in, correction.degree)
    best = min((each.rms for each in judged if each.rms > EXACT), default=0.0)
    decimals = _finer(decimals, (best,))
    for each in judged:
        chosen = each.kind == correction.kind
        figures = "".join(
            f"{f'{figure:.{decimals}f}' if math.isfinite(figure) else '—':>{width}}"
            for figure, width in ((each.worst, 9), (each.rms, 9), (each.left_out, 10))
        )
        said = "proposed" if each.is_proposed else each.why.split(";")[0][:32]
        lines.append(
            (
                text(" ▌ " if chosen else "   ", "rubric"),
                text(f"{each.kind:<18}", bold=chosen),
                text(figures, "verdigris" if chosen else "text"),
                label(f"   {said}"),
            )
        )
    return lines


def chart(context: Context) -> Chart | None:
    """The chart of references' errors before and after over the indication; the fit is bright where covered."""
    channel = context.channel
    found = residuals(channel.correction, channel.references)
    if not found:
        return None
    correction = channel.correction
    low, high = _indicated_range(context, found)
    before = Series(
        "before", [each.reference.indicated for each in found], [each.before for each in found], "ochre", "rings"
    )
    after = Series(
        "after", [each.reference.indicated for each in found], [each.after for each in found], "verdigris", "points"
    )
    series = [Series("zero", [low, high], [0.0, 0.0], "faint")]
    series += fit_series(correction, low, high)
    every = (*series, before, after)
    return Chart(
        title="true",
        series=every,
        x_label=f"indicated / {channel.unit}",
        y_label=f"error / {channel.unit}",
        x_range=(low, high),
        y_range=span_of(every, 0.12),
        cursor=context.here[Step.LAW].value,
    )


def _indicated_range(context: Context, found: tuple[Residual, ...]) -> tuple[float, float]:
    """The range of references and readings, with a margin."""
    values = [each.reference.indicated for each in found]
    if context.run is not None:
        block = context.run.blocks[Step.LAW]
        facts = context.bench.facts(block)
        middle = context.run.calm
        good = context.bench.facts(middle)
        inverse = context.channel.correction.inverse
        if good.least <= good.greatest:
            values += [inverse(good.least), inverse(good.greatest)]
        elif facts.least <= facts.greatest:
            values += [facts.least, facts.greatest]
    low, high = min(values), max(values)
    room = (high - low) * 0.05 or 1.0
    return low - room, high + room


_LEAVES: dict[str, tuple[Callable[[Context], list[Line]], Callable[[Context], Chart | None]]] = {
    "references": (references_lines, chart),
    "fits": (fits_lines, chart),
    "calibrations": (history_lines, history_chart),
    "why": (why_lines, why_chart),
}
