"""The thread: one reading at all nine steps, with value, detail and a miniature of its signal."""

from __future__ import annotations

import math
from dataclasses import replace

from lesart.core.block import Block, mark_word
from lesart.core.fit.fill import fill
from lesart.core.glass.faces.items import width_of
from lesart.core.law.over_time.stage import OverTimeStage
from lesart.core.pace.verdict import tightest
from lesart.core.quantity import beside_unit, counted, slope_unit_said
from lesart.core.step import Step
from lesart.core.wire.hookup import signal_ends, supply_of
from lesart.desk.workspace.context import Context, number
from lesart.project.tables.variants import FIRST
from lesart.study.intervals import filters_lag_s
from lesart.study.sureness import noise_behind_filters, one_count_of
from lesart.study.views import Span, ThreadStep, Tone

MINIATURE = 12
_BLOCKS = "▁▂▃▄▅▆▇█"


def thread_of(context: Context) -> tuple[ThreadStep, ...]:
    """All nine steps for the chosen channel."""
    steps = [
        _wire(context),
        _signal(context, Step.RAW, "lapis", _raw_detail(context)),
        _signal(context, Step.LAW, "ochre", _law_detail(context)),
        _signal(context, Step.TRUE, "ochre", _true_detail(context)),
        _signal(context, Step.CALM, "verdigris", _calm_detail(context)),
        _fit(context),
        _glass(context),
        _pace(context),
        _pack(context),
    ]
    return tuple(_with_notes(context, step) for step in steps)


def _with_notes(context: Context, step: ThreadStep) -> ThreadStep:
    """The step with the numerals of its notes: of the chosen channel; of every panel where panels are judged.

    In Pace those of the channel, of the panels that show it, and of the loop itself.
    """
    if step.step is Step.PACE:
        notes, fault = context.numerals_of_pace()
        return replace(step, notes=notes, fault=fault)
    channel = None if step.step in (Step.WIRE, Step.GLASS) else context.channel.name
    numerals, fault = context.numerals(step.step, channel=channel), context.is_fault(step.step, channel=channel)
    return replace(step, notes=numerals, fault=fault)


def _wire(context: Context) -> ThreadStep:
    """Wire: the channel's part, its joins and its supply."""
    hookup, name = context.project.hookup, context.channel.part
    if not name:
        parts = len(hookup.parts)
        detail = f"{counted(parts, 'part')}, none named" if parts else "nothing yet"
        return ThreadStep(Step.WIRE, Span("—", "faint"), detail)
    part = hookup.parts[name]
    pins = [far.pin for far in signal_ends(hookup, name)]
    fed = supply_of(hookup, name)
    supply = f"fed {number(fed[0], 'V', 3)}" if fed else ""
    return ThreadStep(
        Step.WIRE, Span(" ".join(pins) or "not joined", "text" if pins else "rubric"), name, supply or part.kind.name
    )


def _pack(context: Context) -> ThreadStep:
    """Pack: the firmware's error, once it is computed: other steps do not wait for it."""
    from lesart.desk.workspace.pack.known import packed_before

    found = packed_before(context)
    if found is None:
        return ThreadStep(Step.PACK, Span("—", "faint"), "not worked out")
    if isinstance(found, str):
        return ThreadStep(Step.PACK, Span("left out", "rubric"), "9 says why")
    form = found.form
    detail = f"off, {form.operations} ops"
    return ThreadStep(Step.PACK, Span(f"{number(form.worst_places, '', 2)} digit", "verdigris"), detail)


def _values(context: Context, step: Step) -> tuple[float, str, str | None]:
    """Value, unit and mark of a step at the cursor or by hand."""
    channel, reading = context.channel, context.here[step]
    unit = channel.unit_raw if step == Step.RAW else channel.unit
    mark = "no capture" if reading.age_s == math.inf else mark_word(reading.mark)
    return reading.value, unit.symbol, mark


def _signal(context: Context, step: Step, tone: Tone, detail: str) -> ThreadStep:
    value, unit, mark = _values(context, step)
    shown = number(value, unit, 9 if step == Step.RAW else 5)
    if step != Step.RAW and math.isfinite(value):
        decimals = _decimals(context)
        shown = beside_unit(f"{value:.{decimals}f}".replace("-", "−"), unit)
    if not math.isfinite(value):
        shown, tone = mark or "—", "rubric"
    elif mark and mark not in ("settling", "held"):
        detail = mark
    miniature = miniature_of(context, context.run.blocks[step]) if context.run is not None else ""
    return ThreadStep(step, Span(shown, tone), detail, miniature)


def _decimals(context: Context) -> int:
    """Decimals, one more than the field shows, so that the effect of rounding is visible."""
    front = context.front()
    field = front[1].field if front else context.channel.field
    return min(field.decimals + 1, 6)


def _raw_detail(context: Context) -> str:
    laws = context.channel.laws
    if laws and laws[0].kind.name == "bridge converter":
        return f"{laws[0].values['bits']}-bit bridge"
    return f"column {context.channel.column}"


def _law_detail(context: Context) -> str:
    raw = context.here[Step.RAW].value
    if not math.isfinite(raw) or context.run is None:
        return "no sample"
    going_on = [link.stage.law.says for link in context.channel.chain.links if isinstance(link.stage, OverTimeStage)]
    if going_on:
        return going_on[-1]  # a count is not part of what came before
    count = one_count_of(context.bench, context.standing, context.run.blocks[Step.RAW], raw)
    if count:
        return f"{number(count, context.channel.unit.symbol, 2)}/ct"
    if not context.channel.laws:
        return "no law"
    units = slope_unit_said(context.channel.unit.symbol, context.channel.unit_raw.symbol)
    return number(context.standing.chain.slope(raw), units, 3)


def _true_detail(context: Context) -> str:
    correction = context.channel.correction
    if correction.covered is None:
        return "no references"
    value, unit, _ = _values(context, Step.LAW)
    if not math.isfinite(value):
        return f"{correction.kind}"
    shift = correction.corrected(value) - value  # not yet wrapped into its circle
    return beside_unit(f"{shift:+.3g}".replace("-", "−"), unit)


def _calm_detail(context: Context) -> str:
    """Calm: the variant, its noise reduction and its lag."""
    if context.run is None:
        return context.channel.variant or FIRST
    way = context.channel.variant or FIRST
    lag = filters_lag_s(context.project, context.bench, context.channel)
    if context.waiting:
        # The first picture: the reading comes first, and how noisy it is with the other channels.
        return f"{way} {number(lag, 's', 2)}" if lag else way
    before = context.bench.noise(context.bench.on_a_line(context.channel, context.run.blocks[Step.TRUE]))
    after = noise_behind_filters(context.project, context.channel, context.bench)
    if not lag and before == after:
        return f"{way} as measured"
    if after > 0:
        return f"{way} σ÷{number(before / after, '', 2)}, {number(lag, 's', 2)}"
    return f"{way}{', no noise left' if before > 0 else ''}, {number(lag, 's', 2)}"


def _fit(context: Context) -> ThreadStep:
    front = context.front()
    if front is None:
        return ThreadStep(Step.FIT, Span("—", "faint"), "on no panel")
    panel, item, _ = front
    shown = fill(item.field, context.readings[context.channel.name], joined=panel.joined)
    used = sum(cell.letter != " " or cell.point for cell in shown.cells)
    detail = f"{used} of {counted(item.field.width, 'cell')}" if shown.state == "value" else f"{shown.state} text"
    rules = f"{item.field.align}, {item.field.decimals} dp"
    return ThreadStep(Step.FIT, Span(shown.text, "cells"), detail, rules)


def _glass(context: Context) -> ThreadStep:
    front = context.front()
    count = len(context.project.panels)
    panels = f"{count} panel" + ("s" if count != 1 else "")
    if front is None:
        return ThreadStep(Step.GLASS, Span("—", "faint"), panels)
    panel, item, _ = front
    place = f"{panel.name} r{item.row} c{item.column}"
    return ThreadStep(Step.GLASS, Span(place), panels, f"{width_of(item, panel)} of {panel.columns} wide")


def _pace(context: Context) -> ThreadStep:
    """Pace: the verdict on this channel, its panels or the loop that is nearest to failing."""
    from lesart.study.loop_verdicts import verdicts_known

    project = context.state.project
    concerned = {"", context.channel.name, *project.panels_showing(context.channel.name)}
    found = tightest(each for each in verdicts_known(project, context.bench) if each.of in concerned)
    if found is None or found.limit is None:
        return ThreadStep(Step.PACE, Span("—", "faint"), "nothing scanned")
    tone: Tone = "text" if found.ok else "rubric"
    limit = f"{number(found.limit, found.unit, 3)} {'wanted' if found.at_least else 'at most'}"
    return ThreadStep(Step.PACE, Span(number(found.figure, found.unit, 3), tone), limit, found.name)


def miniature_of(context: Context, block: Block) -> str:
    """The signal in view as a row of blocks, scaled to its own range."""
    low, high = context.view
    t, x = context.bench.envelope(block).between(low, high, 4 * MINIATURE)
    if not len(x):
        return ""
    groups: list[list[float]] = [[] for _ in range(MINIATURE)]
    for when, what in zip(t.tolist(), x.tolist(), strict=True):
        place = int((when - low) / (high - low) * MINIATURE) if high > low else 0
        groups[min(max(place, 0), MINIATURE - 1)].append(what)
    middles = [sum(group) / len(group) if group else math.nan for group in groups]
    known = [middle for middle in middles if math.isfinite(middle)]
    least, span = min(known), (max(known) - min(known)) or 1.0
    return "".join(
        _BLOCKS[min(int((middle - least) / span * len(_BLOCKS)), len(_BLOCKS) - 1)] if math.isfinite(middle) else " "
        for middle in middles
    )
