"""One channel in integers: its error over all raw numbers, and the cost of each stage."""

from __future__ import annotations

from lesart.core.pack.channel_form import ChannelForm
from lesart.core.pack.law_forms.law_form import errors_of
from lesart.core.pack.program.in_c import stored_bytes
from lesart.core.pack.program.proof import operations
from lesart.core.pack.program.statements import Function
from lesart.core.pack.settings import OF_CHANNEL, SETTINGS
from lesart.core.pack.written.said import fraction_said, raw_said
from lesart.core.quantity import beside_unit, counted, grouped
from lesart.core.step import Step
from lesart.desk.workspace.context import Context, cut, label, number, rows_of, text, wrapped
from lesart.desk.workspace.pack.known import packed_here
from lesart.study.packing.made import PackedChannel
from lesart.study.project_loop import operations_of
from lesart.study.timing import brief_time
from lesart.study.views import Chart, Line, Series
from lesart.study.written_pack import written_operations

POINTS = 600
NAME = 44


def channel_leaf(context: Context) -> tuple[str, Chart | None, list[Line]]:
    """The chart of its error, its figures and stages; or why it has no integer form."""
    own = rows_of(context.project, context.channel.key("pack"), OF_CHANNEL, column=26)
    settings = [*own, *rows_of(context.project, ("pack",), SETTINGS, column=26)]
    found = packed_here(context)
    if found is None:
        return "as the firmware computes it", None, [(label("   working it out …"),), (), *settings]
    if isinstance(found, str):
        return "as the firmware computes it", None, [*wrapped(found, "rubric"), (), *settings]
    form = found.form
    subtitle = f"whole numbers of {form.wanted.machine.word} bits beside the desk"
    lines = [*_figures(found), (), *_stages(form), *_beside_pace(context, form), (), *settings]
    return subtitle, _chart(context, form), lines


def _chart(context: Context, form: ChannelForm) -> Chart | None:
    if form.wanted.beside is not None:
        return None
    raw, off = errors_of(form.law, form.laws, form.law_scale, POINTS)
    if len(raw) < 2:
        return None
    allowed = form.allowed
    ends = [float(raw[0]), float(raw[-1])]
    here = context.here[Step.RAW].value
    wide = 1.15 * allowed
    return Chart(
        f"off the desk / {form.law_unit}",
        (
            Series("off", raw.tolist(), off.tolist(), "verdigris"),
            Series("allowed", ends, [allowed, allowed], "faint"),
            Series("allowed", ends, [-allowed, -allowed], "faint"),
        ),
        "raw number",
        f"off / {form.law_unit}",
        (ends[0], ends[1]),
        (-wide, wide),
        cursor=form.wanted.raw.number(here) if here == here else None,
    )


def _figures(found: PackedChannel) -> list[Line]:
    form, agreed = found.form, found.form.law.agreement
    unit = form.wanted.chain.unit.symbol
    if form.wanted.beside is not None:
        over = f"{grouped(str(agreed.codes))} pairs with {form.wanted.beside.title}"
    else:
        over = f"{'all ' if agreed.every else ''}{grouped(str(agreed.codes))} raw numbers"
    lines: list[Line] = [
        (
            label("   worst "),
            text(number(agreed.worst, form.law_unit.symbol, 2), "verdigris"),
            label(f"{_of_a_place(form)}, over {over}"),
        ),
        (
            label("   with its filters "),
            text(number(found.followed.worst, unit, 2), "verdigris"),
            label(f" over {counted(found.followed.readings, 'sample')}; "),
            text(counted(len(found.vectors), "vector")),
        ),
    ]
    otherwise = agreed.otherwise + found.followed.otherwise
    if otherwise:
        lines.append((text(f"   {otherwise} count here and not at the desk, or the other way round", "rubric"),))
    return lines


def _of_a_place(form: ChannelForm) -> str:
    places = number(form.worst_places, "", 2)
    return f", {places} of a last place" if form.parts.adding is None else f" each, {places} digit when full"


def _stages(form: ChannelForm) -> list[Line]:
    lines: list[Line] = [(label(f"   {'stage':<{NAME}}{'operations':>11}{'memory':>9}{'tables':>9}"),)]
    lines += [_stage(form, each) for each in form.functions]
    every = sum(operations(each.body) for each in form.functions)
    total = f"   {'in all':<{NAME}}{every:>11}{_bytes(form.memory_bytes):>9}{_bytes(form.table_bytes):>9}"
    lines.append((text(total, bold=True),))
    unit = form.wanted.chain.unit
    zero = f"{beside_unit(fraction_said(form.scale.zero), unit.symbol)} and " if form.scale.zero else ""
    lines += [(), *wrapped(f"{form.law.form.equation}", "lapis")]
    step = beside_unit(fraction_said(form.scale.step), unit.symbol)
    steps = f"x is {zero}a count of {step}; {raw_said(form.wanted, _whole)}."
    steps += f" It is worst at raw {_whole(form.law.agreement.worst_at)}."
    return [*lines, *wrapped(steps, "faint"), *wrapped("Nothing can overflow, whatever comes.", "faint")]


def _whole(count: int) -> str:
    return grouped(str(count).replace("-", "−"))


def _beside_pace(context: Context, form: ChannelForm) -> list[Line]:
    """The conversion time that Pace assumes, and the one before the pack was written."""
    project, processor = context.project, context.project.loop.processor
    estimated = operations_of(project, context.channel, context.bench)
    before = f"{brief_time(processor.takes_ns(estimated))} for {estimated:.0f} operations on floats"
    here = f"{brief_time(processor.whole_takes_ns(form.operations))} for {form.operations} on whole numbers"
    written = written_operations(project, context.bench, context.channel)
    if written == form.operations:
        return wrapped(f"Pace counts {here}, from the pack that is written; it estimated {before}.", "faint")
    return wrapped(f"Pace estimates {before}; with this pack written it counts {here}.", "faint")


def _stage(form: ChannelForm, function: Function) -> Line:
    name = function.place.removeprefix(f"{form.wanted.title}, ")
    # A field is named by its place, the law and a filter by what they do.
    shown = name if name.startswith("field") else f"{name}: {function.says.split(';')[0]}"
    memory = sum(
        stored_bytes(each.low, each.high) * max(each.length, 1) for each in function.kept if not each.only_here
    )
    tables = sum(stored_bytes(each.low, each.high) * len(each.values) for each in function.tables)
    return (
        text(f"   {cut(shown, NAME - 1):<{NAME}}"),
        text(f"{operations(function.body):>11}"),
        text(f"{_bytes(memory):>9}"),
        text(f"{_bytes(tables):>9}"),
    )


def _bytes(count: int) -> str:
    return f"{count} B"
