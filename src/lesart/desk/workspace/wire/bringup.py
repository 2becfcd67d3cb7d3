"""The leaf of bring-up: what to check in which order, what was measured, and what a wrong value means."""

from __future__ import annotations

import textwrap
from collections.abc import Iterable
from dataclasses import replace

from lesart.core.errors import LesartError
from lesart.core.quantity import counted
from lesart.core.raw.messages import survey as surveys
from lesart.core.raw.messages.survey import Verdict
from lesart.core.visible import visible
from lesart.core.wire.check import Check, judge
from lesart.desk.surveys import Asking
from lesart.desk.workspace.context import WIDTH, Context, label, text, value
from lesart.study.views import Line, Span, Tone, numeral


def bringup_lines(context: Context) -> list[Line]:
    """The checks in order; enter takes what the meter shows."""
    checks = context.project.checks
    if not checks:
        return [(text("Nothing is joined yet, so there is nothing to check."),)]
    done = sum(check.key in context.project.measured for check in checks)
    lines: list[Line] = [
        (
            label(f"   {done} of {len(checks)} done; "),
            text("enter", "ochre"),
            label(" types what the meter shows, "),
            text("delete", "ochre"),
            label(" forgets it"),
        ),
        *_who_answers(context),
        (),
    ]
    for number, check in enumerate(checks, 1):
        lines += check_lines(context, number, check)
    return lines


def _who_answers(context: Context) -> list[Line]:
    """Surveys of Modbus lines once asked for, and of two-wire buses in traces."""
    lines: list[Line] = []
    hookup = context.project.hookup
    for source in context.project.sources.values():
        asking = context.surveys.get(source.name)
        if source.line is not None and source.line.kind.is_modbus:
            lines.append((text(f"   {source.name}  ", "ochre"), *_asked(asking)))
            lines += _verdicts(surveys.judge(asking.survey)) if asking is not None and asking.asked else []
        elif source.decoding is not None and source.decoding.kind.name == "two-wire bus":
            expected = {part.address: part.name for part in hookup.parts.values() if part.address is not None}
            try:
                survey = replace(context.bench.survey(source), expected=expected)
            except LesartError as error:
                lines += _verdicts((Verdict("†", str(error)),))
                continue
            lines.append((text(f"   {source.name}  ", "ochre"), label("who answers in the trace")))
            lines += _verdicts(surveys.judge(survey))
    return [(), *lines] if lines else []


def _asked(asking: Asking | None) -> tuple[Span, ...]:
    if asking is None:
        return text("u", "ochre"), label(" asks units 1 to 247 who answers")
    if asking.trouble:
        return (text(f"† {visible(asking.trouble)}  ", "rubric"), text("u", "ochre"), label(" asks again"))
    if asking.is_running:
        return (text(f"asked {len(asking.asked)} of {len(asking.units)}  "), text("u", "ochre"), label(" stops it"))
    return (label(f"asked {counted(len(asking.asked), 'unit')}  "), text("u", "ochre"), label(" asks again"))


def _verdicts(verdicts: Iterable[Verdict]) -> list[Line]:
    lines: list[Line] = []
    for verdict in verdicts:
        remedy = f" {verdict.remedy[0].upper()}{verdict.remedy[1:]}." if verdict.remedy else ""
        first, *more = textwrap.wrap(verdict.text + remedy, WIDTH - 7)
        tone: Tone = {"†": "rubric", "‡": "ochre"}.get(verdict.mark, "verdigris")  # type: ignore[assignment]
        lines.append((text(f"   {verdict.mark} ", tone), text(first)))
        lines += [(text(f"     {rest}"),) for rest in more]
    return lines


def check_lines(context: Context, number: int, check: Check) -> list[Line]:
    measured = context.project.measured.get(check.key)
    key = ("wire", "measured", check.key)
    found = value(context.project, key)
    mark, said = text("·", "faint"), ""
    if measured is None:
        found = Span("—", "faint", False, found.edit)
    else:
        judged = judge(check, measured)
        mark = text("✓", "verdigris") if judged.good else text("†", "rubric")
        said = judged.says
    first, *more = textwrap.wrap(check.does, WIDTH - 7)
    notes = " ".join(numeral(index) for index, note in enumerate(context.notes, 1) if note.place == key)
    lines: list[Line] = [(text(f"{number:>3} "), mark, text(f" {first}"))]
    lines += [(text(f"      {rest}"),) for rest in more]
    lines.append(
        (label("      right "), text(check.expects), label("   measured "), found, text(f"  {notes}", "rubric"))
    )
    lines += [(text(f"      {rest}", "rubric"),) for rest in textwrap.wrap(said, WIDTH - 7)]
    return lines
