"""Law, second leaf: how fine and how sure the reading is, its error budget, and the decimals it deserves."""

from __future__ import annotations

import math

import numpy as np

from lesart.core.fit.inspect import honest_decimals
from lesart.core.law.budget import Budget, Share, Simulated, simulated
from lesart.core.law.over_time.stage import OverTimeStage
from lesart.core.law.resolution import QUIET_COUNTS, averaging, effective_bits, worth
from lesart.core.law.stage import LawStage
from lesart.core.notes import Key
from lesart.core.quantity import listed, plain_number
from lesart.core.step import Step
from lesart.desk.workspace.context import Context, label, number, text, value, wrapped
from lesart.project.facts.tolerances import counts_pulses
from lesart.study.inspect import field_key
from lesart.study.sureness import Sureness, sureness_at, sureness_in_the_middle
from lesart.study.views import Line

BAR = 20
_EIGHTHS = " ▏▎▍▌▋▊▉█"
MOST_SHARES = 8
ACROSS = 25
"""Number of readings at which the value of a count is checked."""
DRAWS, SEED = 1000, 20_260_517
"""Number of draws, and a fixed seed, so that a check gives the same result twice."""


def sure_lines(context: Context) -> list[Line]:
    """The budget at the cursor as bars, then noise and averaging, then decimals."""
    if context.run is None:
        return wrapped(context.problem, "rubric")
    raw = context.here[Step.RAW].value
    if not math.isfinite(raw):
        return [(label("The sample at the cursor has no value."),)]
    sure = sureness_at(context.project, context.channel, context.bench, raw, context.state.cursor_s)
    if not math.isfinite(sure.budget.reading):
        return [(label("At the cursor the laws give no reading."),)]
    return [
        *_headline(context, sure),
        (),
        *_bars(context, sure),
        (),
        *_noise(context, sure),
        (),
        *_decimals(context, sure),
    ]


def _headline(context: Context, sure: Sureness) -> list[Line]:
    unit = context.channel.unit.symbol
    budget = sure.budget
    line = [label(_of_what(context)), text(number(budget.reading, unit, 6), "ochre")]
    if sure.off is None:
        cancelling = listed([share.name for share in budget.shares if share.cancels])
        none = f"{cancelling} cancel, and no other value" if cancelling else "no value"
        said = f"The uncertainty is unknown: {none} of its laws is written with a tolerance, like 10 kΩ ± 1 %, and no "
        return [tuple(line), *wrapped(f"{said}reference was taken.")]
    line += [label("   uncertainty ± "), text(number(sure.off, unit, 2), "verdigris" if sure.is_corrected else "ochre")]
    by = "by its references" if sure.is_corrected else "from part tolerances"
    return [(*line, label(f" {by}"))]


def _of_what(context: Context) -> str:
    """The subject of the budget: the reading, or for a total what a single raw value adds."""
    totals = [link.stage.law for link in context.channel.chain.links if isinstance(link.stage, OverTimeStage)]
    if not totals or not totals[0].adds_up:
        return "at the cursor "
    raw = number(context.here[Step.RAW].value, context.channel.unit_raw.symbol, 6)
    return f"{raw} {totals[0].by_hand} would be "


def _bars(context: Context, sure: Sureness) -> list[Line]:
    shares = sure.budget.shares
    if not shares:
        return [(label("No tolerance, no count and no noise is known, so the uncertainty is not known either."),)]
    unit = context.channel.unit.symbol
    known = [share for share in shares if math.isfinite(share.half_width)]
    largest, total = (abs(known[0].half_width) if known else 0.0), sum(share.standard**2 for share in known)
    lines = [_bar(share, largest, total, unit) for share in shares[:MOST_SHARES]]
    if len(shares) > MOST_SHARES:
        lines.append((label(f"   and {len(shares) - MOST_SHARES} smaller ones"),))
    budget = sure.budget
    if len(known) < len(shares):
        lines.append((text("   not known in total: the ends of one lie outside the range of the laws", "rubric"),))
        return lines + _drawn(context, unit)
    lines.append(
        (
            label("   combined, 95 % coverage ± " if sure.off is not None else "   these alone, 95 % coverage ± "),
            text(number(budget.likely, unit, 2)),
            label("   at worst ± "),
            text(number(budget.worst, unit, 2)),
        )
    )
    return lines + _drawn(context, unit)


def _bar(share: Share, largest: float, total: float, unit: str) -> Line:
    """A bar by its effect on the reading, and its share of the total variance."""
    if not math.isfinite(share.half_width):
        return (
            text(f"{'not known':>14}  "),
            text(" " * BAR),
            label("        "),
            text(share.name),
            label(f"  {share.says}; its ends lie outside the range of the laws"),
        )
    if share.cancels:
        return (
            text(f"{'cancels':>14}  "),
            text(" " * BAR),
            label("        "),
            text(share.name),
            label(f"  {share.says}, one and the same in both"),
        )
    eighths = round(8 * BAR * abs(share.half_width) / largest) if largest > 0 else 0
    bar = "█" * (eighths // 8) + (_EIGHTHS[eighths % 8] if eighths % 8 else "")
    part = 100 * share.standard**2 / total if total > 0 else 0.0
    percent = f"{part:.0f} %" if part >= 1 else "<1 %"
    tone = {"tolerance": "ochre", "count": "lapis", "pulse": "lapis", "noise": "faint"}[share.kind]
    return (
        text(f"{'± ' + number(abs(share.half_width), unit, 2):>14}  "),
        text(f"{bar:<{BAR}}", tone),  # type: ignore[arg-type]
        label(f"{percent:>6}  "),
        text(share.name),
        label(f"  {share.says}"),
    )


def _drawn(context: Context, unit: str) -> list[Line]:
    """The budget at the median of the capture checked by a thousand draws, once per channel."""
    assert context.run is not None

    def compute() -> tuple[Budget, Simulated] | None:
        middle = sureness_in_the_middle(context.project, context.channel, context.bench)
        if middle is None or not middle.tolerances.doubts:
            return None
        tolerances = middle.tolerances
        found = simulated(
            lambda shares: tolerances.evaluate(middle.raw, shares),
            tolerances.doubts,
            DRAWS,
            np.random.default_rng(SEED),
            middle.one_count,
            middle.noise,
            is_pulse=counts_pulses(context.project, context.channel),
        )
        return middle.budget, found

    known = context.in_time("drawn", context.channel, context.run.blocks[Step.RAW], compute)
    if known is None:
        return []
    budget, found = known
    if not math.isfinite(found.standard):
        said = f"{found.lost} of {DRAWS} draws left the range in which the laws hold"
        return [(label("   at the median "), text(said, "rubric"))]
    return [
        (
            label("   at the median σ "),
            text(number(budget.standard, unit, 3)),
            label(f"; simulated {DRAWS} times σ "),
            text(number(found.standard, unit, 3)),
        )
    ]


def _noise(context: Context, sure: Sureness) -> list[Line]:
    """Noise, effective bits, use of the converter, gain by averaging."""
    assert context.run is not None
    channel, unit = context.channel, context.channel.unit.symbol
    lines: list[Line] = []
    first = context.standing.chain.links[0].stage if context.standing.chain.links else None
    span = first.law.saturated_at if isinstance(first, LawStage) else None
    counts = context.bench.noise(context.run.blocks[Step.RAW]) if channel.unit_raw.symbol == "ct" else 0.0
    line = [
        label("noise "),
        text(number(sure.noise, unit, 2)),
        label("   after the filters "),
        text(number(sure.rest, unit, 2), "verdigris"),
    ]
    if span is not None and isinstance(first, LawStage):
        low, high = first.law.valid_in
        # Codes that never occur between those that do are not bits, whatever the stated width.
        step = context.bench.code_step(context.run.blocks[Step.RAW])
        all_bits = math.log2((high - low + 1) / step)
        line += [
            label("   effective bits "),
            text(f"{effective_bits((high - low) / step, counts / step):.1f}"),
            label(f" of {all_bits:.0f}"),
        ]
        least, most = context.bench.middle(context.run.blocks[Step.RAW])
        used = 100 * (most - least) / (high - low)
        lines.append(
            (
                label("the capture uses "),
                text(f"{plain_number(used, 2)} %"),
                label(" of the codes, from "),
                text(number(round(least), "ct", 9)),
                label(" to "),
                text(number(round(most), "ct", 9)),
            )
        )
    return [tuple(line), *_counts(context, sure), *lines, *_averaging(context, counts)]


def _counts(context: Context, sure: Sureness) -> list[Line]:
    """The value of a raw count here, and its finest and coarsest over the channel's range."""
    channel, chain = context.channel, context.standing.chain
    if not sure.one_count:
        return []
    unit = channel.unit.symbol
    readings = np.linspace(channel.lowest, channel.highest, ACROSS).tolist()
    code_step = context.bench.code_step(context.run.blocks[Step.RAW]) if context.run is not None else 1
    steps = [code_step * abs(chain.slope(raw)) for raw in map(chain.raw_for, readings) if math.isfinite(raw)]
    known = [step for step in steps if math.isfinite(step)]
    line = [label("one raw count is "), text(number(sure.one_count, unit, 3))]
    if known and max(known) > 1.01 * min(known):
        line += [
            label(" here, over the range "),
            text(number(min(known), unit, 3)),
            label(" to "),
            text(number(max(known), unit, 3)),
        ]
    else:
        line.append(label(" over the whole range"))
    return [tuple(line)]


def _averaging(context: Context, counts: float) -> list[Line]:
    """The gain of a mean of n samples."""
    assert context.run is not None
    channel = context.channel
    block = context.bench.on_a_line(channel, context.run.blocks[Step.LAW])
    if channel.unit_raw.symbol == "ct" and counts < QUIET_COUNTS:
        return wrapped("Quieter than a count: samples repeat, so averaging finds nothing between two counts.", "faint")
    found = context.in_time("averaging", channel, block, lambda: averaging(block))
    if found is None:
        return [(label("averaging …"),)]
    best = worth(found)
    if best is None or best.samples == 1 or not found[0].spread > 0:
        return [(label("averaging gains nothing: neighbouring samples differ no more than the drift."),)]
    some = [each for each in found if each.samples in (4, 16, 64) and each.samples <= best.samples]
    if best not in some:
        some.append(best)
    shown = ", ".join(
        f"{each.samples} samples ÷{plain_number(found[0].spread / each.spread, 2)}" for each in some if each.spread > 0
    )
    lines: list[Line] = [(label("averaging "), text(shown))]
    if best is not found[-1]:
        lines.append((label(f"more than {best.samples} gains nothing: what is left is drift"),))
    return lines


def _decimals(context: Context, sure: Sureness) -> list[Line]:
    """The honest decimals, by resolution and by uncertainty."""
    front = context.front()
    field = front[1].field if front else context.channel.field
    scale = float(field.unit_in.scale / field.unit_shown.scale)
    fine = honest_decimals(sure.finest * scale)
    line = [
        label("decimals in "),
        text(field.unit_shown.symbol),
        label("   resolved "),
        text(_some(fine)),
    ]
    if sure.off is not None:
        line += [label("   certain "), text(_some(honest_decimals(sure.off * scale)))]
    key: Key = (*context.channel.key("fit"), "decimals")
    if front is not None:
        key = field_key(context.channel, front[2], front[1], "decimals")
    marks = context.numerals(Step.FIT, channel=context.channel.name, most=2)
    line += [label("   shown "), value(context.project, key), label(f" {marks}")]
    return [tuple(line)]


def _some(decimals: int) -> str:
    return "as many as you like" if decimals >= 9 else str(decimals)
