"""The units of a formula, checked before it computes anything."""

from __future__ import annotations

import ast
import math
from collections.abc import Callable, Mapping
from dataclasses import replace
from fractions import Fraction
from typing import Literal

from lesart.core.dataclass_later import dataclass
from lesart.core.law.formula_words import FUNCTIONS, FormulaError
from lesart.core.units import BASES, PLAIN, TEMPERATURE, Unit, parse_unit

Powers = tuple[Fraction, ...]
Refuse = Callable[[str], FormulaError]
TURN = BASES.index("turn")
NOTHING: Powers = tuple(Fraction(power) for power in PLAIN)


@dataclass(frozen=True)
class Measure:
    """What a value measures: powers of the base units, and what kind of temperature it is, if it is one.

    A ``point`` is a temperature, a ``step`` a difference of two; what came out of products in kelvins may be either.
    ``is_logic`` is the outcome of a comparison; ``number`` the value of a bare number, which an exponent has to be.
    """

    powers: Powers
    degree: Literal["", "point", "step"] = ""
    is_logic: bool = False
    number: Fraction | None = None

    @property
    def is_plain(self) -> bool:
        """True for a bare number, or an angle, which is one in radians."""
        return self.powers == NOTHING and not self.is_logic

    def fits(self, wanted: Measure) -> bool:
        """True where it may be used as ``wanted``. An angle is a number, and a number of turns is an angle."""
        if self.is_logic or wanted.is_logic:
            return self.is_logic == wanted.is_logic or wanted.is_plain
        if self.is_plain and wanted.is_plain:
            return True
        return self.powers == wanted.powers and (self.degree == wanted.degree or "" in (self.degree, wanted.degree))

    @property
    def says(self) -> str:
        """In words: ``V``, or ``kg·m/s`` where there is no name."""
        if self.is_logic:
            return "yes or no"
        if self.powers == _TEMPERATURE:
            return "a temperature difference" if self.degree == "step" else "a temperature"
        if (named := _NAMED.get(self.powers)) is not None:
            return named
        above = [_power(base, power) for base, power in zip(BASES, self.powers, strict=True) if power > 0]
        below = [_power(base, -power) for base, power in zip(BASES, self.powers, strict=True) if power < 0]
        if not above and not below:
            return "a plain number"
        return "·".join(above or ["1"]) + ("/" + "/".join(below) if below else "")


_TEMPERATURE: Powers = tuple(Fraction(power) for power in TEMPERATURE)
_NAMED = {
    tuple(Fraction(power) for power in parse_unit(symbol).dimension): symbol
    for symbol in ("V", "Ω", "W", "N", "Pa", "J", "F")
}
"""Units with a name of their own: nobody recognises a volt as m²·kg/s³/A."""
NUMBER, LOGIC = Measure(NOTHING), Measure(NOTHING, is_logic=True)


def _power(base: str, power: Fraction) -> str:
    return base if power == 1 else f"{base}^{power}"


def measure_of_unit(unit: Unit) -> Measure:
    """What a value in ``unit`` measures; an angle is a number, in radians."""
    powers = tuple(Fraction(power if place != TURN else 0) for place, power in enumerate(unit.dimension))
    return Measure(powers, "point" if unit.is_temperature else "step" if unit.difference else "")


def scale_of(unit: Unit) -> float:
    """Scale to the coherent unit that a checked formula computes in; radians for angles."""
    return float(unit.scale) * (2.0 * math.pi) ** unit.dimension[TURN]


def measured(node: ast.expr, names: Mapping[str, Measure], text: str) -> Measure:
    """What the value of a checked tree measures. Raises FormulaError at the character where units do not match."""

    def of(child: ast.expr) -> Measure:
        return measured(child, names, text)

    def refuse(why: str, at: ast.expr = node) -> FormulaError:
        place = len(text.encode()[: at.col_offset].decode(errors="ignore"))
        return FormulaError(why, text, place)

    match node:
        case ast.Constant(value=value):
            return Measure(NOTHING, number=Fraction(value))  # type: ignore[arg-type]
        case ast.Name(id=name):
            return names.get(name, NUMBER)
        case ast.UnaryOp(op=ast.Not(), operand=operand):
            of(operand)
            return LOGIC
        case ast.UnaryOp(op=op, operand=operand):
            inner = of(operand)
            if isinstance(op, ast.USub) and inner.degree == "point":
                raise refuse("a temperature has no opposite; take the difference of two")
            return inner if inner.number is None or isinstance(op, ast.UAdd) else replace(inner, number=-inner.number)
        case ast.BoolOp(values=values):
            for each in values:
                of(each)
            return LOGIC
        case ast.Compare(left=left, comparators=comparators):
            first = of(left)
            for side in comparators:
                if not _alike(of(side), first):
                    raise refuse(f"{of(side).says} is compared with {first.says}", side)
            return LOGIC
        case ast.IfExp(test=test, body=body, orelse=other):
            of(test)
            if not _alike(of(body), of(other)):
                raise refuse(f"one choice is {of(body).says}, the other {of(other).says}", other)
            return of(body)
        case ast.Call(func=ast.Name(id=name), args=arguments):
            return _of_call(name, [of(argument) for argument in arguments], refuse)
        case ast.BinOp(left=left, op=op, right=right):
            return _of_two(op, of(left), of(right), refuse)
    raise refuse("this is not arithmetic")


def _alike(one: Measure, other: Measure) -> bool:
    return one.fits(other) and other.fits(one)


def _of_call(name: str, inner: list[Measure], refuse: Refuse) -> Measure:
    function = FUNCTIONS[name]
    odd = next((each for each in inner if not _alike(each, inner[0])), None)
    if odd is not None:
        raise refuse(f"{name} takes values of one kind, and these are {inner[0].says} and {odd.says}")
    if function.takes in ("a number", "an angle") and not inner[0].is_plain:
        raise refuse(f"{name} takes {function.takes}, and this is {inner[0].says}")
    if function.gives == "a root":
        if inner[0].degree == "point":
            raise refuse("a temperature has no root; take a difference or a ratio")
        return Measure(tuple(power / 2 for power in inner[0].powers))
    return replace(inner[0], number=None) if function.gives == "the same" else NUMBER


def _of_two(op: ast.operator, left: Measure, right: Measure, refuse: Refuse) -> Measure:
    if left.is_logic or right.is_logic:
        left, right = (NUMBER if each.is_logic else each for each in (left, right))
    if isinstance(op, ast.Add | ast.Sub):
        return _of_sum(isinstance(op, ast.Sub), left, right, refuse)
    if isinstance(op, ast.Pow):
        if right.powers != NOTHING:
            raise refuse(f"an exponent is a plain number, not {right.says}")
        if left.powers == NOTHING:
            return NUMBER
        if right.number is None:
            raise refuse(f"the exponent of {left.says} must be written as a number, so that its unit is known")
        if left.degree == "point":
            raise refuse("a temperature has no power; take a difference or a ratio")
        return Measure(tuple(power * right.number for power in left.powers))
    sign = 1 if isinstance(op, ast.Mult) else -1
    # Kelvins count from nothing, so an absolute temperature may stand in a ratio or a product of units. A plain number
    # of times a temperature is what a formula for the numbers of a scale does, and in kelvins it would mislead.
    if (left.degree == "point" and right.is_plain) or (right.degree == "point" and left.is_plain and sign > 0):
        raise refuse(
            'a number of times a temperature means nothing; take a difference, or set units to "plain numbers"'
        )
    powers = tuple(a + sign * b for a, b in zip(left.powers, right.powers, strict=True))
    both = left.number, right.number
    if sign > 0 and both[0] is not None and both[1] is not None:
        return Measure(powers, number=both[0] * both[1])
    if sign < 0 and both[0] is not None and both[1]:
        return Measure(powers, number=both[0] / both[1])
    return Measure(powers)


def _of_sum(is_difference: bool, left: Measure, right: Measure, refuse: Refuse) -> Measure:
    """The measure of a sum. Temperatures are points: two have a difference, a difference moves one, two have no sum."""
    if left.powers != right.powers and not (left.is_plain and right.is_plain):
        words = "taken from" if is_difference else "added to"
        first, second = (right, left) if is_difference else (left, right)
        raise refuse(f"{first.says} cannot be {words} {second.says}")
    points = left.degree == "point", right.degree == "point"
    if all(points):
        if is_difference:
            return Measure(left.powers, "step")
        raise refuse("two temperatures have no sum; add a difference, written like 5 ΔK")
    if points[1] and is_difference and left.degree == "step":
        raise refuse("a temperature cannot be taken from a difference")
    if points[1] and is_difference:
        return Measure(left.powers, "step")
    return Measure(left.powers, "point" if any(points) else left.degree or right.degree)
