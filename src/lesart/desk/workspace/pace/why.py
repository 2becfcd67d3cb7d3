"""Pace, the leaf that asks why: it flickers, it lags, pulses are missing, it freezes; what explains it."""

from __future__ import annotations

from typing import TYPE_CHECKING

from lesart.core.errors import LesartError
from lesart.core.notes import Key
from lesart.core.quantity import counted, plain_number
from lesart.desk.workspace.context import Context, label, text, wrapped
from lesart.study.tokens import token_of
from lesart.study.views import Edit, Line, Span

if TYPE_CHECKING:
    from lesart.study.why.of_time import Explained, WhyTime

HELP = "x writes the first change"


def times_here(context: Context) -> list[WhyTime] | str | None:
    """Explanations of the symptom that was asked about; why there are none; None while not computed."""
    from lesart.study.why.of_time import why_time  # only loaded where something is asked

    symptom, state = context.state.why.symptom, context.state
    key = ("why of time", token_of(state.project), symptom)
    if context.in_haste and key not in context.bench.recent:
        return None

    def compute() -> list[WhyTime] | str:
        try:
            return why_time(state.project, context.bench, state.history.text, symptom)
        except LesartError as error:
            return str(error)

    return context.bench.once_known(key, compute)


def why_leaf(context: Context) -> tuple[str, list[Line]]:
    """Each figure beyond its limit, the tasks without which it would be met, and the changes that do it."""
    from lesart.study.why.of_time import NOT, SHOWN

    symptom = context.state.why.symptom
    subtitle = "which task or setting explains it"
    if not symptom:
        return subtitle, [
            (text("   "), text("y", "ochre"), label(" asks what you see: it flickers, lags, missed (pulses), freezes")),
            (label("   The loop is played again with each task and setting changed."),),
        ]
    found = times_here(context)
    if found is None:
        return subtitle, [(label("   playing the loop with each thing changed …"),)]
    if isinstance(found, str):
        return subtitle, wrapped(found, "rubric")
    if not found:
        said = f"By the figures of the loop {NOT[symptom]}; a trace of the real thing, on the leaf trace, tells more."
        return subtitle, wrapped(said)
    lines: list[Line] = []
    seen: set[Key] = set()
    for each in found:
        verdict = each.verdict
        limit = "" if verdict.limit is None else f"; the limit is {_figure(verdict.limit, verdict.unit)}"
        lines += [(text(f"   {verdict.name} "), text(_figure(verdict.figure, verdict.unit), "rubric"), label(limit))]
        lines += [_cause(one, verdict.unit) for one in each.causes[:SHOWN]]
        for one in each.mends[:SHOWN]:
            lines.append(_mend(one, verdict.unit, seen))
        if not each.causes and not each.mends:
            alone = f"none of {counted(each.tried, 'change')} does it alone"
            traced = "a trace shows it, so it is the firmware that has to change"
            lines.append((label(f"      {traced if 'traced' in verdict.name else alone}"),))
            lines += [
                (label(f"      nearer if {one.suspect.says}: {_figure(one.figure, verdict.unit)}"),)
                for one in each.nearer[:2]
            ]
        lines.append(())
    return subtitle, lines


def _figure(value: float, unit: str) -> str:
    return f"{plain_number(value, 3)} {unit}".strip()


def _cause(one: Explained, unit: str) -> Line:
    return label("      without "), text(one.suspect.says), label(": "), text(_figure(one.figure, unit), "verdigris")


def _mend(one: Explained, unit: str, seen: set[Key]) -> Line:
    key, value = one.suspect.edits[0]
    edit = Edit(key, str(key[-1]), str(value).lower() if isinstance(value, bool) else str(value), HELP)
    says = one.suspect.says
    # Of several values for one key only the first, which changes least, can be selected.
    span = text(says) if key in seen else Span(says, "ochre", True, edit)
    seen.add(key)
    return label("      if "), span, label(": "), text(_figure(one.figure, unit), "verdigris")
