"""A number in its cells: sign, digits, point and groups, a unit before or after, padding by blanks or zeros."""

from __future__ import annotations

from lesart.core.dataclass_later import dataclass
from lesart.core.fit.cells import Cell, split_cells
from lesart.core.fit.field import GROUPS, POINT_LETTERS
from lesart.core.pack.field_forms.texts import Texts
from lesart.core.pack.field_forms.wanted import FieldWanted
from lesart.core.pack.machine import Machine
from lesart.core.pack.program.reciprocal import divided
from lesart.core.pack.program.statements import KeepAt, Kept, Let, Repeat, Statement, Stop, When
from lesart.core.pack.program.whole import Whole, at, both, clipped, down, equal, local, pick, whole, within

LEFT_BEFORE = "what is too wide has left"


@dataclass(frozen=True)
class Number:
    """A number that is to be shown: its ``digits`` from the last on, of which ``shown`` are.

    ``mark`` ends the names of its variables: where as many decimals are tried as fit, each try has its own.
    """

    value: Whole
    digits: Kept
    shown: Whole
    mark: str = ""

    def named(self, variable: str) -> str:
        """The name of a variable in this try."""
        return variable + self.mark


@dataclass(frozen=True)
class Beside:
    """What stands beside the digits: cells ``before`` and ``behind``, and marks that have a cell or share a digit's.

    ``most_groups`` is how many marks between groups have cells of their own.
    """

    before: tuple[Cell, ...]
    behind: tuple[Cell, ...]
    has_point: bool
    shares_point: bool
    most_groups: int
    shares_groups: bool


def beside(wanted: FieldWanted, digits: int) -> Beside:
    """The surroundings of a field's number with at most this many digits."""
    field = wanted.field
    unit = split_cells(field.unit_text, joined=wanted.joined)
    points_share = "." in wanted.joined
    mark = GROUPS[field.group]
    groups_share = bool(mark) and mark in ".," and points_share
    return Beside(
        before=unit if field.unit_place == "before" else (),
        behind=unit if field.unit_place == "behind" else (),
        has_point=field.decimals > 0 and not points_share,
        shares_point=field.decimals > 0 and points_share,
        most_groups=(digits - field.decimals - 1) // 3 if mark and not groups_share else 0,
        shares_groups=groups_share,
    )


def cells_needed(wanted: FieldWanted, number: Number) -> Whole:
    """Number of cells that a number takes."""
    field, around = wanted.field, beside(wanted, number.digits.length)
    below = number.value < 0
    sign = whole(0) if field.sign == "never" else pick(below, 1, 0) if field.sign == "minus only" else whole(1)
    groups = whole(0)
    if around.most_groups:
        thirds = divided(number.shown - (field.decimals + 1), 3, Machine())
        groups = within(thirds, 0, around.most_groups, "groups of three")
    fixed = int(around.has_point) + len(around.before) + len(around.behind)
    return number.shown + sign + groups + fixed


def placed(wanted: FieldWanted, texts: Texts, number: Number, needs: Whole) -> list[Statement]:
    """Fill the cells with a number that ``needs`` this many."""
    pen = _Pen(wanted, texts, within(wanted.field.width - needs, 0, wanted.field.width, LEFT_BEFORE))
    around = beside(wanted, number.digits.length)
    out = pen.begun()
    for each in around.before:
        out += pen.put(wanted.code_of(each))
    out += pen.sign(number.value < 0)
    out += pen.zeros()
    out.append(_digits(wanted, texts, number, around, pen))
    for each in around.behind:
        out += pen.put(wanted.code_of(each))
    return out


class _Pen:
    """Puts codes into cells one after another; ``spare`` cells are not needed."""

    def __init__(self, wanted: FieldWanted, texts: Texts, spare: Whole) -> None:
        self._wanted, self._cells, self._spare = wanted, texts.cells.name, spare
        self._width = wanted.field.width
        place = local("place", 0, self._width)
        self._here = within(place, 0, self._width - 1, LEFT_BEFORE)
        self._on = Let("place", within(place + 1, 0, self._width, LEFT_BEFORE))

    def put(self, code: Whole | int) -> tuple[Statement, ...]:
        """Put a code into the next cell."""
        return (KeepAt(self._cells, self._here, whole(code)), self._on)

    def begun(self) -> list[Statement]:
        """Blanks everywhere, and the pen at the beginning of the number."""
        field = self._wanted.field
        spare = {"left": whole(0), "right": self._spare, "centre": down(self._spare, 1)}[field.align]
        blank = whole(self._wanted.code_of(Cell(" ")))
        return [
            Repeat("i", whole(self._width), (KeepAt(self._cells, local("i", 0, self._width - 1), blank),)),
            Let("place", whole(0) if field.pad == "zero" else spare),
        ]

    def sign(self, below: Whole) -> list[Statement]:
        """Write the sign by the rule of the field: always, for negative numbers, or never."""
        minus, plus = self._wanted.code_of(Cell("-")), self._wanted.code_of(Cell("+"))
        if self._wanted.field.sign == "always":
            return [*self.put(pick(below, minus, plus))]
        return [When(below, self.put(minus))] if self._wanted.field.sign == "minus only" else []

    def zeros(self) -> list[Statement]:
        """Write zeros into spare cells, where the field is padded by them."""
        if self._wanted.field.pad != "zero":
            return []
        index, ends = local("i", 0, self._width - 1), local("zeros", 0, self._width)
        zero = self.put(self._wanted.code_of_digit(0))
        return [
            Let("zeros", self._spare),
            Repeat("i", whole(self._width), (When(index >= ends, (Stop(),)), *zero)),
        ]


def _digits(wanted: FieldWanted, texts: Texts, number: Number, around: Beside, pen: _Pen) -> Statement:
    """Write digits from the first on, each with its point and its group mark, in its cell or after it."""
    field, digits = wanted.field, number.digits
    plain = texts.named("digits", tuple(wanted.code_of_digit(each) for each in range(10)), "codes of digits")
    with_points = tuple(wanted.code_of_digit(each, point=True) for each in range(10))
    pointed = texts.named("points", with_points, "codes of digits with their point")
    index, name = local("i", 0, digits.length - 1), number.named("spot")
    spot = local(name, 0, digits.length - 1)
    code: Whole = at(plain, digits.item(spot))
    if around.shares_point:
        code = pick(equal(spot, field.decimals), at(pointed, digits.item(spot)), code)
    if around.shares_groups:
        code = pick(_ends_group(spot, field.decimals), at(pointed, digits.item(spot)), code)
    parts: list[Statement] = [
        When(index >= number.shown, (Stop(),)),
        Let(name, within(number.shown - 1 - index, 0, digits.length - 1, "i is below what is shown")),
        *pen.put(code),
    ]
    if around.has_point:
        point = wanted.code_of(Cell(POINT_LETTERS[field.point]))
        parts.append(When(equal(spot, field.decimals), pen.put(point)))
    if around.most_groups:
        mark = wanted.code_of(Cell(GROUPS[field.group]))
        parts.append(When(_ends_group(spot, field.decimals), pen.put(mark)))
    return Repeat("i", whole(digits.length), tuple(parts))


def _ends_group(spot: Whole, decimals: int) -> Whole:
    """True for the last digit of a group of three, with more before the point."""
    whole_place = clipped(spot - decimals, 0, max(spot.high - decimals, 0))
    thirds = within(divided(whole_place, 3, Machine()), 0, max(whole_place.high // 3, 0), "a quotient")
    return both(whole_place > 0, equal(whole_place - thirds * 3, 0))
