"""A curve said point by point: ``0.5 V = 0 °C, 1.2 V = 25 °C``, ``table 100 0, 400 20, 900 60 %``.

And the positions of a vane or a switch with resistors, of which the nearest counts: ``positions 785 = 0°, 405 = 45°``.
"""

from __future__ import annotations

import re
from collections.abc import Mapping, Sequence
from fractions import Fraction
from itertools import pairwise

from lesart.core.dataclass_later import dataclass
from lesart.core.errors import LesartError, RequestError
from lesart.core.law.curve import MOST_POINTS
from lesart.core.quantity import Quantity, beside_unit, counted, plain_number
from lesart.core.raw.spelled.unit_typed import quantity_typed
from lesart.core.units import Unit, parse_unit
from lesart.desk.entries.aloud.reckoned.units_in_words import WHAT_IT_IS

LONGEST = 4000
FEWEST = 3
"""Two points are a straight line, unless it says that it is a table."""
DEGREE, TURN = "°", 360
_PLAIN, VOLT = parse_unit("1"), parse_unit("V")
_OF_POSITIONS = re.compile(
    r"^[^\d=]*\b(?:positions?|vane|wind\s+direction|selector|(?:rotary\s+)?switch|keypad|buttons?)\b", re.IGNORECASE
)
"""What has a level for each of its positions, and nothing between them."""
POSITIONS_HOW = (
    "its level does not rise with the direction: type each position and its level, like positions 785 = 0°, "
    "405 = 45°, 92 = 90°"
)
BY_LEVELS = re.compile(r"\b(?:vane|wind\s+direction)\b.*\b(?:resistors?|positions?)\b", re.IGNORECASE)
"""A vane whose switches lead to a resistor each."""
_NAME = re.compile(
    r"(?:(?P<table>(?:(?:look-?up\s+)?table|curve|lut|points|positions)(?:\s+(?:of|from|with|points))*)\s*[:=]?"
    r"|(?:[^\W\d][\w-]*[,:]?\s+){0,3}[:=]?)",
    re.IGNORECASE,
)
_QUANTITY = r"[-−+]?\d+(?:\.\d+)?(?:e[-+]?\d+)?\s*[^\s\d,;:=→>-]*"
_MEANS = r"\s*(?:=|->|=>|→|:(?=\s|\d)|\bis\b|\bat\b|\bmeans\b|\bgives\b)\s*"
_POINT = re.compile(rf"(?P<one>{_QUANTITY})(?P<sign>{_MEANS}|\s+)(?P<two>{_QUANTITY})", re.IGNORECASE)
_BETWEEN = re.compile(r"\s*(?:[,;]\s*(?:and\s+)?|\band\s+)", re.IGNORECASE)


@dataclass(frozen=True)
class Points:
    """The kind of law that they are, its values, and what is worth knowing of them."""

    kind: str
    values: Mapping[str, str]
    says: str = ""
    is_direction: bool = False
    """True where they are directions of a whole turn."""


def points_said(typed: str, end: Unit) -> Points | None:
    """The law of points whose first sides are what its laws ``end`` in; None where it is no row of points.

    Raises RequestError for points in other units than each other, or than the laws end in.
    """
    sides = _sides(typed)
    if sides is None:
        return None
    one, two = sides
    if not _takes(end, one) and _takes(end, two):
        one, two = two, one
    if not _takes(end, one):
        raise RequestError(f'"{typed.strip()}": its points begin with {one[0].unit}, and the laws end in {end}.')
    is_same = one[0].unit in (_PLAIN, end)
    xs = [f"{float(each.value) if is_same else each.to(end):.12g}" for each in one]
    ys = [f"{float(each.value):.12g}" for each in two]
    units = {"from": end.symbol, "to": two[0].unit.symbol}
    if _OF_POSITIONS.search(typed):
        return _positions(typed, xs, ys, units)
    _check_one_way(typed, xs, ys)
    return Points("table", {"points": "; ".join(f"{x} {y}" for x, y in zip(xs, ys, strict=True)), **units})


def _check_one_way(typed: str, xs: Sequence[str], ys: Sequence[str]) -> None:
    """Raises RequestError for points that rise and fall: no curve has them, but a vane may."""
    points = sorted(zip(map(float, xs), map(float, ys), strict=True))
    rises = points[-1][1] > points[0][1]
    turn = next((one for (one, y), (_, other) in pairwise(points) if y != other and (other > y) != rises), None)
    if turn is not None:
        raise RequestError(
            f'"{typed.strip()}": its points turn at {plain_number(turn)}, so no reading has one input; where they are '
            "positions of a vane or a switch, begin with positions."
        )


def _positions(typed: str, xs: Sequence[str], ys: Sequence[str], units: Mapping[str, str]) -> Points:
    """The formula that gives the position whose level is nearest; it holds half a step beyond the outermost ones.

    Raises RequestError for a level that two positions have.
    """
    levels = sorted(zip(map(float, xs), ys, strict=True))
    for (one, _), (other, _) in pairwise(levels):
        if one == other:
            raise RequestError(
                f'"{typed.strip()}": two positions have the level {plain_number(one)}; no law tells them apart.'
            )
    middles = [0.5 * (one + other) for (one, _), (other, _) in pairwise(levels)]
    steps = (f"{y} if x < {middle:.12g} else " for (_, y), middle in zip(levels, middles, strict=False))
    lowest, highest = 2 * levels[0][0] - middles[0], 2 * levels[-1][0] - middles[-1]
    values = {
        "formula": f"{''.join(steps)}{levels[-1][1]}",
        "units": "plain numbers",
        "lowest": f"{lowest:.12g}",
        "highest": f"{highest:.12g}",
        **units,
    }
    one, other = min(pairwise([level for level, _ in levels]), key=lambda pair: pair[1] - pair[0])
    near = f"{plain_number(one)} and {beside_unit(plain_number(other), units['from'])}"
    is_direction = units["to"] == DEGREE and all(0 <= float(y) < TURN for y in ys)
    return Points(
        "formula",
        values,
        f"{counted(len(levels), 'position')}; the levels nearest to each other are {near}",
        is_direction,
    )


def is_of_volts(typed: str) -> bool:
    """True for a row of points from a voltage to anything else."""
    sides = _sides(typed)
    return sides is not None and [side[0].unit.same_dimension(VOLT) for side in sides].count(True) == 1


def _sides(typed: str) -> tuple[list[Quantity], list[Quantity]] | None:
    """Both sides of its points, each in one unit, in the order in which they are said; None for anything else."""
    begun = _NAME.match(typed.strip())
    if begun is None or len(typed) > LONGEST:
        return None
    is_table = begun["table"] is not None
    points = _points(typed.strip()[begun.end() :].strip(), is_table=is_table)
    if points is None or not (2 if is_table else FEWEST) <= len(points) <= MOST_POINTS:
        return None
    try:
        one, two = ([quantity_typed(_in_signs(each[side]), _PLAIN) for each in points] for side in (0, 1))
    except LesartError:
        return None
    return _of_one_unit(typed, one), _of_one_unit(typed, two)


def _points(said: str, *, is_table: bool) -> list[tuple[str, str]] | None:
    """Pairs in order; None where something else is between them."""
    found: list[tuple[str, str]] = []
    place = 0
    while place < len(said):
        point = _POINT.match(said, place)
        if point is None or not (point["sign"].strip() or is_table):
            return None
        found.append((point["one"].strip(), point["two"].strip()))
        between = _BETWEEN.match(said, point.end())
        if between is None:
            return found if not said[point.end() :].strip(" .") else None
        place = between.end()
    return found


def _in_signs(written: str) -> str:
    number = re.match(r"[-−+]?\d+(?:\.\d+)?(?:e[-+]?\d+)?", written, re.IGNORECASE)
    unit = written[number.end() :].strip() if number else ""
    return f"{number[0]} {WHAT_IT_IS.get(unit.lower(), unit)}".strip() if number else written


def _of_one_unit(typed: str, side: Sequence[Quantity]) -> list[Quantity]:
    """All in the unit that some of them state, mostly the last."""
    unit = next((each.unit for each in reversed(side) if each.unit != _PLAIN), _PLAIN)
    for each in side:
        if each.unit != _PLAIN and not each.unit.same_dimension(unit):
            raise RequestError(f'"{typed.strip()}": one point is in {each.unit}, another in {unit}.')
    return [
        Quantity(each.value, unit) if each.unit == _PLAIN else Quantity(Fraction(_exact(each, unit)), unit)
        for each in side
    ]


def _exact(each: Quantity, unit: Unit) -> float:
    return float(each.value) if each.unit == unit else float(each.to(unit))


def _takes(end: Unit, side: Sequence[Quantity]) -> bool:
    return side[0].unit == _PLAIN or side[0].unit.same_dimension(end)
