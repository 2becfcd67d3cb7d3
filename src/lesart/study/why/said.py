"""What the search found, in sentences."""

from __future__ import annotations

from lesart.core.quantity import counted, format_quantity
from lesart.study.why.apart import Answer, Apart
from lesart.study.why.number import WhyNumber

FEW = 4


def now_said(found: WhyNumber) -> list[str]:
    """What it reads and what it should, for each true value; and that it is right, where it is."""
    unit = found.channel.unit
    lines = []
    for each, now in zip(found.truths, found.now, strict=True):
        raw = format_quantity(each.raw, found.channel.unit_raw, 7)
        should = format_quantity(each.reading, unit, 6)
        within = format_quantity(each.tolerance, unit, 2)
        lines.append(
            f"{found.channel.name} reads {format_quantity(now, unit, 6)} where {should} ± {within} should be "
            f"(raw {raw})."
        )
    if found.is_right:
        lines.append("That is right as it is: nothing has to be explained.")
    elif not found.answers and not found.said:
        lines.append(f"None of {counted(found.tried, 'suspect')} explains it, alone or two by two.")
    return lines


def same_said(answer: Answer) -> list[str]:
    """Others that no reading tells from it, one per line; of many only the likeliest."""
    if not answer.same:
        return []
    said = [", and ".join(suspect.brief for suspect in each.suspects) for each in answer.same[:FEW]]
    rest = len(answer.same) - FEW
    return ["no reading tells it from", *(f"  {each}" for each in said), *([f"  and {rest} more"] if rest > 0 else [])]


def apart_said(found: WhyNumber, apart: Apart) -> str:
    """The one reading that would decide."""
    unit = found.channel.unit
    reads = ", ".join(
        f"{format_quantity(value, unit, 4)} if it is {place}" for place, value in enumerate(apart.reads, 1)
    )
    return f"To tell them apart, bring it to {format_quantity(apart.true, unit, 3)}: it then reads {reads}."
