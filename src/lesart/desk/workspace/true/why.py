"""True, the leaf that asks why: what the channel should read, and the mistakes that explain what it reads."""

from __future__ import annotations

import textwrap
from typing import TYPE_CHECKING

import numpy as np

from lesart.core.block import Floats
from lesart.core.errors import LesartError
from lesart.core.notes import Key
from lesart.core.quantity import counted, format_quantity
from lesart.core.step import Step
from lesart.desk.workspace.context import Context, label, text, wrapped
from lesart.project.model import Channel
from lesart.study.views import Chart, Edit, Line, Series, Span, Tone

if TYPE_CHECKING:
    from lesart.study.why.apart import Answer
    from lesart.study.why.number import WhyNumber
    from lesart.study.why.suspect import Suspect

SHOWN = 6
FEW = 3
ROOM = 0.05
TONES: tuple[Tone, ...] = ("verdigris", "ochre")
WIDE = 64
HELP = "enter shows what would be written, x writes it"


def why_here(context: Context) -> WhyNumber | str | None:
    """Explanations of the stated true values, or of the references; why there are none; None while not computed, or
    nothing is asked."""
    from lesart.study.why.number import truths_of_references, why_number  # only loaded where something is asked

    channel, asked = context.channel, context.state.why
    truths = asked.truths if asked.is_of(channel) else ()
    truths = truths or truths_of_references(channel)
    if not truths or context.run is None:
        return context.problem or None

    def compute() -> WhyNumber | str:
        try:
            return why_number(context.project, context.bench, channel, truths)
        except LesartError as error:
            return str(error)

    return context.in_time(f"why {truths}", channel, context.run.blocks[Step.RAW], compute)


def why_lines(context: Context) -> list[Line]:
    """The true values, the answers, and the reading that would tell them apart."""
    channel = context.channel
    found = why_here(context)
    if isinstance(found, str):
        return wrapped(found, "rubric")
    if found is None:
        has_asked = context.state.why.is_of(channel) and bool(context.state.why.truths)
        return [(label("   searching …"),)] if has_asked or channel.references else _empty(context)
    from lesart.study.why.said import apart_said

    lines = _truths(found)
    if found.is_right:
        return [*lines, (), *wrapped("That is right as it is; nothing has to be explained.", "verdigris")]
    if found.said:
        lines += [(), *wrapped(found.said[0].upper() + found.said[1:] + ".", "rubric")]
    seen: set[Key] = set()
    for place, each in enumerate(found.answers[:SHOWN], 1):
        lines += _answer(context, found, place, each, seen)
    if len(found.answers) > SHOWN:
        lines.append(
            (label(f"   and {counted(len(found.answers) - SHOWN, 'less likely one')}; another truth tells more"),)
        )
    if not found.answers and not found.said:
        lines += [(), *wrapped(f"None of {found.tried} suspects explains it, alone or two by two.", "rubric")]
    if found.apart is not None:
        lines += [(), *wrapped(apart_said(found, found.apart), "ochre")]
    return [*lines, (), _keys()]


def _keys() -> Line:
    return (
        text("   y", "ochre"),
        label(" another truth, at the cursor; "),
        text("x", "ochre"),
        label(" writes the change"),
    )


def why_chart(context: Context) -> Chart | None:
    """Its readings over the raw values, and those by the first answers, with the true values marked."""
    found = why_here(context)
    if found is None or isinstance(found, str) or len(found.raw) < FEW:
        return None
    channel = found.channel
    series = [_curve("as it is", found.raw, found.curve, "rubric", channel)]
    for place, (each, tone) in enumerate(zip(found.answers, TONES, strict=False), 1):
        if np.isfinite(each.explanation.curve).sum() >= FEW:
            series.append(_curve(f"if {place}", found.raw, each.explanation.curve, tone, channel))
    series = [line for line in series if len(line.x)]
    width = float(found.raw[-1] - found.raw[0]) / 160
    for truth in found.truths:
        ends = [truth.raw - width, truth.raw + width]
        series.append(Series("should be", ends, [truth.reading, truth.reading], "text"))
    unit, raw = channel.unit, channel.unit_raw
    low, high = channel.lowest, channel.highest
    return Chart(
        f"reading / {unit}",
        tuple(series),
        f"raw / {raw}",
        f"reading / {unit}",
        (float(found.raw[0]), float(found.raw[-1])),
        (low - ROOM * (high - low), high + ROOM * (high - low)),
    )


def _curve(name: str, raw: Floats, curve: Floats, tone: Tone, channel: Channel) -> Series:
    """The part of a curve in or near the channel's range."""
    room = ROOM * (channel.highest - channel.lowest)
    with np.errstate(invalid="ignore"):
        seen = (curve >= channel.lowest - room) & (curve <= channel.highest + room)
    return Series(name, raw[seen].tolist(), curve[seen].tolist(), tone)


def _empty(context: Context) -> list[Line]:
    one = format_quantity(21.5, context.channel.unit)
    return [
        (text(f"   Does {context.channel.name} read something wrong?"),),
        (
            label("   Put the cursor where you know better, or take it in hand; "),
            text("y", "ochre"),
            label(" asks what"),
        ),
        (label(f"   it should read: {one}, or {one} ± 0.5."),),
        (label("   Everything that the project states of it is tried a little otherwise, and"),),
        (label("   what explains all that you said is named, with the change that mends it."),),
    ]


def _truths(found: WhyNumber) -> list[Line]:
    unit = found.channel.unit
    lines: list[Line] = [(label(f"   {'should read':<26}{'reads':<18}{'raw':<16}"),)]
    for each, now in zip(found.truths, found.now, strict=True):
        within = format_quantity(each.tolerance, unit, 2)
        should = f"{format_quantity(each.reading, unit, 5)} ± {within}"
        right = abs(now - each.reading) <= each.tolerance
        raw = format_quantity(each.raw, found.channel.unit_raw, 7)
        lines.append(
            (
                text(f"   {should:<26}", "ochre"),
                text(f"{format_quantity(now, unit, 5):<18}", "verdigris" if right else "rubric"),
                text(f"{raw:<16}", "lapis"),
            )
        )
    return lines


def _answer(context: Context, found: WhyNumber, place: int, answer: Answer, seen: set[Key]) -> list[Line]:
    from lesart.study.why.said import same_said

    explanation = answer.explanation
    reads = ", ".join(format_quantity(each, found.channel.unit, 5) for each in explanation.reads.tolist())
    lines: list[Line] = [()]
    for at, suspect in enumerate(explanation.suspects):
        lines += _suspect(f"{place:>2} " if at == 0 else "   and ", suspect, seen)
    lines.append((label("   it would read "), text(reads, "verdigris")))
    lines += [(label(f"   {said}"),) for said in same_said(answer)]
    return lines


def _suspect(head: str, suspect: Suspect, seen: set[Key]) -> list[Line]:
    """The lines of a suspect. Its change can be selected where it first appears; ``head`` precedes the first line."""
    key, written = suspect.key, suspect.value
    if key is None or written is None or key in seen:
        first, *more = textwrap.wrap(suspect.sentence, WIDE)
        return [(text(head, "rubric"), text(first)), *((text(f"   {line}"),) for line in more)]
    seen.add(key)
    plain = str(written).lower() if isinstance(written, bool) else str(written)
    change = Span(suspect.would or plain, "ochre", True, Edit(key, suspect.what, plain, HELP))
    if suspect.says:
        return [(text(head, "rubric"), text(f"{suspect.says}: "), change)]
    has = text(suspect.has, "rubric")
    return [(text(head, "rubric"), text(f"{suspect.what} is "), has, label("; it would be "), change)]
