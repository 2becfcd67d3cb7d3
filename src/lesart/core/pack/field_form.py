"""A field in whole numbers: rounded once, cut into digits, and put into cells as the codes that a panel wants."""

from __future__ import annotations

import math
from collections.abc import Callable
from dataclasses import replace
from fractions import Fraction

from lesart.core.block import UNUSABLE, Mark
from lesart.core.dataclass_later import dataclass
from lesart.core.fit.cells import Cell, split_cells
from lesart.core.fit.field import AS_FIT, GROUPS, POINT_LETTERS, SENT, Field
from lesart.core.pack.law_forms.straight import line_form
from lesart.core.pack.machine import Machine, PackError, Scale
from lesart.core.pack.program.bound import bound
from lesart.core.pack.program.reciprocal import divided
from lesart.core.pack.program.statements import Function, KeepAt, Kept, Leave, Let, Repeat, Statement, Stop, When
from lesart.core.pack.program.whole import (
    LONGEST_MS,
    Table,
    Whole,
    at,
    both,
    clipped,
    down,
    equal,
    flags_of,
    local,
    most,
    nearest,
    pick,
    whole,
    within,
)
from lesart.core.quantity import counted
from lesart.core.units import conversion

MOST_CODE = 0xFFFF
CodeOf = Callable[[Cell], int | None]
VALUE, OVERFLOW, UNDERFLOW, INVALID, SETTLING, STALE = range(6)
STATES = ("value", "overflow", "underflow", "invalid", "settling", "stale")
FINER = 4
"""Bits below a last place in a field whose unit is another than the reading's."""


@dataclass(frozen=True)
class FieldWanted:
    """A field where it stands: ``short`` begins its variables, ``channel`` its name.

    ``code`` gives what a panel wants for a cell, ``joined`` the marks that share a cell there.
    """

    channel: str
    short: str
    place: str
    field: Field
    code: CodeOf
    joined: str = ""

    @property
    def name(self) -> str:
        """Of its function and tables."""
        return f"{self.channel}_{self.short}"


def last_place(field: Field) -> Fraction:
    """Of a field, in the unit of its channel."""
    scale, _ = conversion(field.unit_in, field.unit_shown)
    return Fraction(1, 10**field.decimals) / Fraction(scale).limit_denominator(10**12)


def field_form(wanted: FieldWanted, scale: Scale, low: int, high: int, budget: float, machine: Machine) -> Function:
    """Fills ``cells`` of the kept state and gives which ``state`` the field is in.

    Raises PackError for what is not carried into whole numbers: prefixes by range, times, alarms.
    """
    field = wanted.field
    _carried(wanted)
    x, mark = local("x", low, high), local("mark", 0, 255)
    age, state = local("age_ms", 0, LONGEST_MS), local("state", 0, len(STATES) - 1)
    cells = Kept(f"{wanted.short}_cells", 0, _most_code(wanted), 0, field.width)
    texts = _Texts(wanted, cells)
    body: list[Statement] = [
        Let("state", whole(VALUE)),
        When(age > min(int(field.stale_after_s * 1000), LONGEST_MS - 1), (*texts.said(field.stale, STALE), Leave())),
        When(flags_of(mark, int(UNUSABLE)), (*texts.said(field.invalid, INVALID), Leave())),
    ]
    if field.settling:
        body.append(When(flags_of(mark, int(Mark.SETTLING)), (*texts.said(field.settling, SETTLING), Leave())))
    if field.shows == "word":
        body += _words(wanted, texts, x, scale)
    elif field.decimals_are == AS_FIT:
        for decimals in range(field.decimals, -1, -1):
            body += _number(wanted, texts, x, scale, budget, machine, decimals)
    else:
        body += _number(wanted, texts, x, scale, budget, machine)
    says = (
        f"{counted(field.width, 'cell')}, {counted(field.decimals, 'decimal')}, {field.round}"
        if field.shows == "number"
        else "a word"
    )
    local_arrays = (Kept("digits", 0, 9, 0, _most_digits(wanted, x, scale, budget, machine), True),)
    kept = (cells, *(local_arrays if field.shows == "number" else ()))
    return Function(wanted.name, wanted.place, says, (x, mark, age), (state,), tuple(body), kept)


def _carried(wanted: FieldWanted) -> None:
    field = wanted.field
    missing = (
        "a prefix by range"
        if field.prefix != "none"
        else f"shows {field.shows}"
        if field.shows not in ("number", "word")
        else "digits sent as one byte"
        if field.sent == SENT[2]
        else ""
    )
    if missing:
        raise PackError(f"{wanted.place}: {missing} is not carried into whole numbers; a plain number is.")


def _code(wanted: FieldWanted, cell: Cell) -> int:
    code = wanted.code(cell)
    if code is None:
        code = wanted.code(Cell(" "))
    return code if code is not None else ord(" ")


def _digit_code(wanted: FieldWanted, digit: int, *, point: bool = False) -> int:
    """A digit's own, or that of its number where it is sent as one by mistake."""
    cell = Cell(str(digit), point=point)
    return _code(wanted, cell if wanted.field.sent == SENT[0] else replace(cell, code=digit))


def _most_code(wanted: FieldWanted) -> int:
    letters = [Cell(letter) for letter in "0123456789-+ "] + [Cell(str(digit), point=True) for digit in range(10)]
    field = wanted.field
    for text in (field.overflow, field.invalid, field.stale, field.underflow, field.settling, field.unit_text):
        letters += split_cells(text, joined=wanted.joined)
    letters += [cell for _, word in field.words for cell in split_cells(word, joined=wanted.joined)]
    letters += split_cells(GROUPS[field.group] + POINT_LETTERS[field.point], joined="")
    return 0xFF if max(_code(wanted, each) for each in letters) <= 0xFF else MOST_CODE


class _Texts:
    """Texts of a field as tables of codes, each as wide as the field."""

    def __init__(self, wanted: FieldWanted, cells: Kept) -> None:
        self._wanted, self.cells = wanted, cells
        self._made: dict[tuple[int, ...], Table] = {}
        self._named: dict[str, Table] = {}

    def said(self, text: str, state: int) -> tuple[Statement, ...]:
        """A text in all cells."""
        return (*self._copied(self.codes(text)), Let("state", whole(state)))

    def word(self, text: str) -> tuple[Statement, ...]:
        """A word in all cells; the field is wide enough for it."""
        return self._copied(self.codes(text))

    def codes(self, text: str) -> tuple[int, ...]:
        """As the desk places it: one letter is repeated, a longer text aligned."""
        field, wanted = self._wanted.field, self._wanted
        if len(text) == 1 and text in (field.overflow, field.invalid, field.stale, field.underflow, field.settling):
            return (_code(wanted, Cell(text)),) * field.width
        cells = split_cells(text, joined=wanted.joined)[: field.width]
        missing = field.width - len(cells)
        left = {"left": 0, "right": missing, "centre": missing // 2}[field.align]
        placed = (Cell(" "),) * left + cells + (Cell(" "),) * (missing - left)
        return tuple(_code(wanted, each) for each in placed)

    def named(self, name: str, values: tuple[int, ...], says: str) -> Table:
        """A table of the field, the same one each time it is asked for."""
        return self._named.setdefault(name, Table(f"{self._wanted.name}_{name}", values, says))

    def _copied(self, codes: tuple[int, ...]) -> tuple[Statement, ...]:
        index = local("i", 0, self._wanted.field.width - 1)
        if len(set(codes)) == 1:
            value: Whole = whole(codes[0])
        else:
            name = f"{self._wanted.name}_text{len(self._made)}"
            value = at(self._made.setdefault(codes, Table(name, codes)), index)
        return (Repeat("i", whole(self._wanted.field.width), (KeepAt(self.cells.name, index, value),)),)


def _shown_steps(wanted: FieldWanted, x: Whole, scale: Scale, budget: float, machine: Machine) -> tuple[Whole, int]:
    """The reading in the field's last places, with so many bits below them."""
    field = wanted.field
    factor, offset = conversion(field.unit_in, field.unit_shown)
    exact = Fraction(factor).limit_denominator(10**12) * 10**field.decimals
    gain, zero = scale.step * exact, scale.zero * exact + Fraction(offset).limit_denominator(10**9) * 10**field.decimals
    for finer in range(7):
        if gain * (1 << finer) == 1 and (zero * (1 << finer)).denominator == 1:
            return x + int(zero * (1 << finer)), finer
    form = line_form(x, gain * (1 << FINER), zero * (1 << FINER), 1.0 + budget * float(gain) * (1 << FINER), machine)
    if form is None:
        raise PackError(f"{wanted.place}: {field.unit_shown} is too fine for a word of {machine.word} bits.")
    return form.value, FINER


def rounded(value: Whole, finer: int, mode: str) -> Whole:
    """Last places of a number with so many bits below them, by the field's own mode."""
    if finer == 0:
        return value
    half = 1 << (finer - 1)
    if mode == "floor":
        return down(value, finer)
    if mode == "half even":
        up = down(value + half, finer)
        tie = equal(value - down(value, finer) * (1 << finer), half)
        odd = equal(up - down(up, 1) * 2, 1)
        return up - pick(both(tie, odd), 1, 0)
    minus = value < 0
    size = most(value, 0 - value)
    size = within(size, 0, max(abs(value.low), abs(value.high)), "a size is not below zero")
    cut = down(size, finer) if mode in ("down", "cut by code") else nearest(size, finer)
    return within(pick(minus, 0 - cut, cut), -cut.high if value.low < 0 else 0, cut.high, "the sign is put back")


def rounded_by(value: Whole, parts: int, mode: str, machine: Machine) -> Whole:
    """A number of so many parts each, as whole ones, by the field's own mode."""
    minus, most_size = value < 0, max(abs(value.low), abs(value.high))
    size = within(most(value, 0 - value), 0, most_size, "a size is not below zero")
    if mode in ("down", "cut by code"):
        out = divided(size, parts, machine)
    elif mode == "floor":
        out = divided(size + pick(minus, parts - 1, 0), parts, machine)
    elif mode == "half even":
        cut = divided(size, parts, machine)
        rest = within(size - cut * parts, 0, parts - 1, "a remainder")
        odd = equal(cut - down(cut, 1) * 2, 1)
        up = pick(both(equal(rest * 2, parts), odd), 1, pick(rest * 2 > parts, 1, 0))
        out = cut + up
    else:
        out = divided(size + parts // 2, parts, machine)
    return within(pick(minus, 0 - out, out), -out.high if value.low < 0 else 0, out.high, "the sign is put back")


def _most_digits(wanted: FieldWanted, x: Whole, scale: Scale, budget: float, machine: Machine) -> int:
    if wanted.field.shows != "number":
        return 1
    value, finer = _shown_steps(wanted, x, scale, budget, machine)
    places = rounded(value, finer, wanted.field.round)
    size = max(abs(places.low), abs(places.high))
    return max(len(str(size)), wanted.field.decimals + 1)


def _number(
    wanted: FieldWanted,
    texts: _Texts,
    x: Whole,
    scale: Scale,
    budget: float,
    machine: Machine,
    decimals: int | None = None,
) -> list[Statement]:
    """Digits from the last on by division and remainder; then what stands before, the number, what stands behind.

    With ``decimals``, where as many are shown as fit, so many are tried: what comes behind it tries fewer.
    """
    exact, finer = _shown_steps(wanted, x, scale, budget, machine)
    field, cells = wanted.field, texts.cells
    fewer = 0 if decimals is None else field.decimals - decimals
    named = _names(fewer)
    if fewer:
        # Once from the reading itself: what was rounded to more decimals must not be rounded again.
        places = rounded_by(exact, 10**fewer << finer, field.round, machine)
        wanted = replace(wanted, field=replace(field, decimals=field.decimals - fewer))
        field = wanted.field
    else:
        places = rounded(exact, finer, field.round)
    lets, places = bound(places, named("r"))
    count = max(len(str(max(abs(places.low), abs(places.high)))), field.decimals + 1)
    digits = Kept("digits", 0, 9, 0, count, True)
    number = local(named("number"), places.low, places.high)
    biggest = max(abs(places.low), abs(places.high))
    left = local(named("left"), 0, biggest)
    size = within(most(number, 0 - number), 0, biggest, "a size is not below zero")
    index, shown = local("i", 0, count - 1), local(named("shown"), field.decimals + 1, count)
    tenth = local(named("tenth"), 0, biggest // 10)
    separate: list[Statement] = [
        Let(named("left"), size),
        Let(named("shown"), whole(field.decimals + 1)),
        Repeat(
            "i",
            whole(count),
            (
                Let(named("tenth"), divided(left, 10, machine)),
                KeepAt("digits", index, within(left - tenth * 10, 0, 9, "a remainder")),
                When(
                    both(left > 0, index >= field.decimals + 1),
                    (Let(named("shown"), within(index + 1, field.decimals + 1, count, "i is below")),),
                ),
                Let(named("left"), tenth),
            ),
        ),
    ]
    need, out = _placed(wanted, texts, digits, number, shown, cells, fewer)
    needs = local(named("needs"), need.low, need.high)
    before = [*lets, Let(named("number"), places), *separate, Let(named("needs"), need)]
    if decimals:
        return [*before, When(needs <= field.width, (*out, Leave()))]
    return [*before, When(needs > field.width, _too_wide(field, texts, exact < 0)), *out]


def _too_wide(field: Field, texts: _Texts, is_below: Whole) -> tuple[Statement, ...]:
    """``is_below``: is the reading below zero, though it may be rounded to it?"""
    over = texts.said(field.overflow, OVERFLOW)
    if not field.underflow:
        return *over, Leave()
    return (When(is_below, (*texts.said(field.underflow, UNDERFLOW), Leave()), (*over, Leave())),)


def _names(fewer: int) -> Callable[[str], str]:
    """Variables of a try with so many decimals fewer are its own: each has the type that its range needs."""
    return lambda name: f"{name}_less{fewer}_" if fewer else name


def _placed(
    wanted: FieldWanted, texts: _Texts, digits: Kept, number: Whole, shown: Whole, cells: Kept, fewer: int
) -> tuple[Whole, list[Statement]]:
    """The cells that it needs, and how they are filled where there are so many."""
    field = wanted.field
    named = _names(fewer)
    width, count = field.width, digits.length
    minus_code, plus_code = _code(wanted, Cell("-")), _code(wanted, Cell("+"))
    before = split_cells(field.unit_text, joined=wanted.joined) if field.unit_place == "before" else ()
    behind = split_cells(field.unit_text, joined=wanted.joined) if field.unit_place == "behind" else ()
    point_shares = "." in wanted.joined
    own_point = int(field.decimals > 0 and not point_shares)
    group_mark = GROUPS[field.group]
    group_shares = bool(group_mark) and group_mark in ".," and point_shares
    sign = whole(0) if field.sign == "never" else pick(number < 0, 1, 0) if field.sign == "minus only" else whole(1)
    most_groups = (count - field.decimals - 1) // 3 if group_mark and not group_shares else 0
    groups = (
        within(divided(shown - (field.decimals + 1), 3, Machine()), 0, most_groups, "groups of three")
        if most_groups
        else whole(0)
    )
    need = shown + sign + groups + (own_point + len(before) + len(behind))
    needs = local(named("needs"), need.low, need.high)
    spare = within(width - needs, 0, width, "what is too wide has left")
    at_cell = local("place", 0, width)
    start = {
        "left": whole(0),
        "right": spare,
        "centre": down(spare, 1),
    }[field.align]
    zeros = field.pad == "zero"
    here = within(at_cell, 0, width - 1, "what is too wide has left")
    on = Let("place", within(at_cell + 1, 0, width, "what is too wide has left"))

    def put(code: Whole | int) -> tuple[Statement, ...]:
        return (KeepAt(cells.name, here, whole(code)), on)

    blank = _code(wanted, Cell(" "))
    cell_index, digit_index = local("i", 0, width - 1), local("i", 0, count - 1)
    plain = texts.named("digits", tuple(_digit_code(wanted, each) for each in range(10)), "codes of digits")
    pointed = texts.named(
        "points",
        tuple(_digit_code(wanted, each, point=True) for each in range(10)),
        "codes of digits with their point",
    )
    out: list[Statement] = [
        Repeat("i", whole(width), (KeepAt(cells.name, cell_index, whole(blank)),)),
        Let("place", whole(0) if zeros else start),
    ]
    for each in before:
        out += put(_code(wanted, each))
    if field.sign == "always":
        out += put(pick(number < 0, minus_code, plus_code))
    elif field.sign == "minus only":
        out.append(When(number < 0, put(minus_code)))
    if zeros:
        ends = local("zeros", 0, width)
        out += [
            Let("zeros", spare),
            Repeat("i", whole(width), (When(cell_index >= ends, (Stop(),)), *put(_digit_code(wanted, 0)))),
        ]
    spot = local(named("spot"), 0, count - 1)
    digit = digits.item(spot)
    shared = field.decimals > 0 and point_shares
    parts: list[Statement] = [
        When(digit_index >= shown, (Stop(),)),
        Let(named("spot"), within(shown - 1 - digit_index, 0, count - 1, "i is below what is shown")),
    ]
    code: Whole = at(plain, digit)
    if shared:
        code = pick(equal(spot, field.decimals), at(pointed, digit), code)
    if group_shares:
        code = pick(_ends_group(spot, field.decimals), at(pointed, digit), code)
    parts += put(code)
    if own_point:
        parts.append(When(equal(spot, field.decimals), put(_code(wanted, Cell(POINT_LETTERS[field.point])))))
    if most_groups:
        parts.append(When(_ends_group(spot, field.decimals), put(_code(wanted, Cell(group_mark)))))
    out.append(Repeat("i", whole(count), tuple(parts)))
    for each in behind:
        out += put(_code(wanted, each))
    return need, out


def _ends_group(spot: Whole, decimals: int) -> Whole:
    """Is a digit the last of three, with more behind it before the point?"""
    whole_place = clipped(spot - decimals, 0, max(spot.high - decimals, 0))
    thirds = within(divided(whole_place, 3, Machine()), 0, max(whole_place.high // 3, 0), "a quotient")
    return both(whole_place > 0, equal(whole_place - thirds * 3, 0))


def _words(wanted: FieldWanted, texts: _Texts, x: Whole, scale: Scale) -> list[Statement]:
    """Word by word, by limits in steps: a reading below a limit is below the least step that is not."""
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
