"""A field as a function: its state first, then a number, as many decimals as fit, or a word."""

from __future__ import annotations

import math
from dataclasses import replace

from lesart.core.block import UNUSABLE, Mark
from lesart.core.fit.field import AS_FIT, Field
from lesart.core.pack.field_forms.placed import Number, cells_needed, placed
from lesart.core.pack.field_forms.rounding import rounded, rounded_by, shown_steps
from lesart.core.pack.field_forms.texts import Texts
from lesart.core.pack.field_forms.wanted import FieldWanted, most_code, refuse_uncarried
from lesart.core.pack.machine import Machine, Scale
from lesart.core.pack.program.bound import bound
from lesart.core.pack.program.reciprocal import divided
from lesart.core.pack.program.statements import Function, KeepAt, Kept, Leave, Let, Repeat, Statement, When
from lesart.core.pack.program.whole import LONGEST_MS, Whole, both, flags_of, local, most, whole, within
from lesart.core.quantity import counted
from lesart.core.units import conversion

VALUE, OVERFLOW, UNDERFLOW, INVALID, SETTLING, STALE = range(6)
STATES = ("value", "overflow", "underflow", "invalid", "settling", "stale")


def field_form(wanted: FieldWanted, scale: Scale, low: int, high: int, budget: float, machine: Machine) -> Function:
    """Fills ``cells`` of the kept state and gives which ``state`` the field is in.

    Raises PackError for what is not carried into whole numbers: prefixes by range, times, alarms.
    """
    refuse_uncarried(wanted)
    field = wanted.field
    x, mark = local("x", low, high), local("mark", 0, 255)
    age, state = local("age_ms", 0, LONGEST_MS), local("state", 0, len(STATES) - 1)
    cells = Kept(f"{wanted.short}_cells", 0, most_code(wanted), 0, field.width)
    texts = Texts(wanted, cells)
    body = _unless_there_is_none(field, texts, mark, age)
    if field.shows == "word":
        body += _words(wanted, texts, x, scale)
        return Function(wanted.name, wanted.place, "a word", (x, mark, age), (state,), tuple(body), (cells,))
    exact, finer = shown_steps(wanted, x, scale, budget, machine)
    tries = range(field.decimals, -1, -1) if field.decimals_are == AS_FIT else (None,)
    for decimals in tries:
        body += _number(wanted, texts, exact, finer, machine, decimals)
    digits = Kept("digits", 0, 9, 0, _count(rounded(exact, finer, field.round), field.decimals), True)
    says = f"{counted(field.width, 'cell')}, {counted(field.decimals, 'decimal')}, {field.round}"
    return Function(wanted.name, wanted.place, says, (x, mark, age), (state,), tuple(body), (cells, digits))


def _unless_there_is_none(field: Field, texts: Texts, mark: Whole, age_ms: Whole) -> list[Statement]:
    """The texts where there is no number to show, the earliest reason first."""
    stale = age_ms > min(int(field.stale_after_s * 1000), LONGEST_MS - 1)
    body: list[Statement] = [
        Let("state", whole(VALUE)),
        When(stale, (*texts.said(field.stale, STALE), Leave())),
        When(flags_of(mark, int(UNUSABLE)), (*texts.said(field.invalid, INVALID), Leave())),
    ]
    if field.settling:
        body.append(When(flags_of(mark, int(Mark.SETTLING)), (*texts.said(field.settling, SETTLING), Leave())))
    return body


def _count(places: Whole, decimals: int) -> int:
    """Number of digits of the longest number, at least one before the point."""
    return max(len(str(max(abs(places.low), abs(places.high)))), decimals + 1)


def _number(
    wanted: FieldWanted, texts: Texts, exact: Whole, finer: int, machine: Machine, decimals: int | None = None
) -> list[Statement]:
    """Digits from the last on by division and remainder; then what comes before, the number, and what comes after.

    ``decimals`` is the number tried, where as many are shown as fit; later tries have fewer.
    """
    field = wanted.field
    fewer = 0 if decimals is None else field.decimals - decimals
    # Each try has variables of its own, each with the type that its range needs.
    mark = f"_less{fewer}_" if fewer else ""
    if fewer:
        # Once from the reading itself: a number rounded to more decimals must not be rounded again.
        places = rounded_by(exact, 10**fewer << finer, field.round, machine)
        field = replace(field, decimals=field.decimals - fewer)
        wanted = replace(wanted, field=field)
    else:
        places = rounded(exact, finer, field.round)
    lets, places = bound(places, f"r{mark}")
    count = _count(places, field.decimals)
    value = local(f"number{mark}", places.low, places.high)
    shown = local(f"shown{mark}", field.decimals + 1, count)
    number = Number(value, Kept("digits", 0, 9, 0, count, True), shown, mark)
    need = cells_needed(wanted, number)
    needs = local(number.named("needs"), need.low, need.high)
    out = placed(wanted, texts, number, needs)
    before = [*lets, Let(number.named("number"), places), *_separated(number, field.decimals, machine)]
    before.append(Let(number.named("needs"), need))
    if decimals:
        return [*before, When(needs <= field.width, (*out, Leave()))]
    return [*before, When(needs > field.width, _too_wide(field, texts, exact < 0)), *out]


def _separated(number: Number, decimals: int, machine: Machine) -> list[Statement]:
    """Digits of a number, and how many of them are shown: at least one before the point."""
    value, count = number.value, number.digits.length
    biggest = max(abs(value.low), abs(value.high))
    left, tenth = local(number.named("left"), 0, biggest), local(number.named("tenth"), 0, biggest // 10)
    index = local("i", 0, count - 1)
    counts = When(
        both(left > 0, index >= decimals + 1),
        (Let(number.named("shown"), within(index + 1, decimals + 1, count, "i is below")),),
    )
    each = (
        Let(number.named("tenth"), divided(left, 10, machine)),
        KeepAt("digits", index, within(left - tenth * 10, 0, 9, "a remainder")),
        counts,
        Let(number.named("left"), tenth),
    )
    return [
        Let(number.named("left"), within(most(value, 0 - value), 0, biggest, "a size is not below zero")),
        Let(number.named("shown"), whole(decimals + 1)),
        Repeat("i", whole(count), each),
    ]


def _too_wide(field: Field, texts: Texts, is_below: Whole) -> tuple[Statement, ...]:
    """The texts for a number that is too wide.

    ``is_below``: the reading is below zero, even if it is rounded to zero.
    """
    over = texts.said(field.overflow, OVERFLOW)
    if not field.underflow:
        return *over, Leave()
    return (When(is_below, (*texts.said(field.underflow, UNDERFLOW), Leave()), (*over, Leave())),)


def _words(wanted: FieldWanted, texts: Texts, x: Whole, scale: Scale) -> list[Statement]:
    """Word by word, by limits in steps: below a limit means below the least step that is not below it."""
    field = wanted.field
    factor, offset = conversion(field.unit_in, field.unit_shown)
    out: list[Statement] = []
    for limit, word in field.words:
        said = (*texts.word(word), Leave())
        if limit == math.inf:
            out += said
            continue
        own = (limit - offset) / factor
        out.append(When(x < math.ceil(scale.exactly(own)), said))
    return out
