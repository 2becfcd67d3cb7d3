"""Several axes of one thing: how long the vector is, how an axis leans, which way two of them point.

The channel's own axis is the input; the others are read beside it, or stand still at a number.
"""

from __future__ import annotations

from typing import Any

import numpy as np

from lesart.core.block import Floats
from lesart.core.dataclass_later import dataclass
from lesart.core.law.record import Argument, Beside, LawKind
from lesart.core.parameters import ChannelName, Parameter
from lesart.core.quantity import Quantity
from lesart.core.units import Unit, parse_unit

DEGREE = parse_unit("°")
FROM_LEVEL, FROM_PLUMB = "from level", "from plumb"
ROUND, HALVES = "0 to 360 °", "-180 to 180 °"
ALL = float("-inf"), float("inf")


@dataclass(frozen=True)
class Length:
    """√(x² + y² + …), in the unit of the axes. Its inverse is the positive axis. Source: Pythagoras."""

    unit_in: Unit

    @property
    def unit_out(self) -> Unit:
        return self.unit_in

    def valid(self, *others: Floats) -> tuple[Floats | float, Floats | float]:
        return ALL

    def forward(self, x: Floats, *others: Floats) -> Floats:
        return np.sqrt(x * x + _squares(others))

    def inverse(self, y: Floats, *others: Floats) -> Floats:
        left = y * y - _squares(others)
        return np.sqrt(np.where((left >= 0) & (y >= 0), left, np.nan))

    def slope(self, x: Floats, *others: Floats) -> Floats:
        return x / self.forward(x, *others)


@dataclass(frozen=True)
class Tilt:
    """Angle of the axis in degrees, from gravity along it and along the two others.

    From level: atan2(x, √(y² + z²)), −90 to 90. From plumb: atan2(√(y² + z²), x), 0 to 180. Source: trigonometry. No
    acceleration has no direction: NaN.
    """

    is_from_plumb: bool
    unit_in: Unit
    unit_out: Unit = DEGREE

    def valid(self, *others: Floats) -> tuple[Floats | float, Floats | float]:
        return ALL

    def forward(self, x: Floats, *others: Floats) -> Floats:
        across = np.sqrt(_squares(others))
        angle = np.degrees(np.arctan2(x, across))
        return np.where((x == 0) & (across == 0), np.nan, 90.0 - angle if self.is_from_plumb else angle)

    def inverse(self, y: Floats, *others: Floats) -> Floats:
        level = 90.0 - y if self.is_from_plumb else y
        return np.where(np.abs(level) < 90.0, np.sqrt(_squares(others)) * np.tan(np.radians(level)), np.nan)

    def slope(self, x: Floats, *others: Floats) -> Floats:
        across = _squares(others)
        steep = np.degrees(np.sqrt(across) / (across + x * x))
        return -steep if self.is_from_plumb else steep


@dataclass(frozen=True)
class Direction:
    """atan2(x, y) in degrees: 0 where the axis beside it points, 90 where this one does. Source: trigonometry."""

    is_round: bool
    unit_in: Unit
    unit_out: Unit = DEGREE

    def valid(self, *others: Floats) -> tuple[Floats | float, Floats | float]:
        return ALL

    def forward(self, x: Floats, *others: Floats) -> Floats:
        angle = np.degrees(np.arctan2(x, others[0]))
        angle = np.where((x == 0) & (others[0] == 0), np.nan, angle)
        if not self.is_round:
            return angle
        # A rounding error below zero plus 360 is 360, which a compass writes as 0.
        turned = np.where(angle < 0, angle + 360.0, angle)
        return np.where(turned >= 360.0, 0.0, turned)

    def inverse(self, y: Floats, *others: Floats) -> Floats:
        radians = np.radians(y)
        same_side = np.cos(radians) * others[0] > 0
        return np.where(same_side, others[0] * np.tan(radians), np.nan)

    def slope(self, x: Floats, *others: Floats) -> Floats:
        return np.degrees(others[0] / (others[0] ** 2 + x * x))


def _squares(others: tuple[Floats, ...]) -> Floats:
    total = np.zeros(1)
    for other in others:
        total = total + other * other
    return total


def _axis(name: str, title: str, help_: str, default: str | None = None) -> Parameter:
    return Parameter(name, title, "any quantity", help_, default, channel=True, longest=60)


def _arguments(values: dict[str, Any], names: tuple[str, ...]) -> tuple[Argument, ...]:
    """The other axes, all in the unit of the first. Raises ValueError where a constant measures something else."""
    unit: Unit = values["unit"]
    found = []
    for name in names:
        given: Quantity | ChannelName = values[name]
        if isinstance(given, ChannelName):
            found.append(Argument(name, unit, given))
        elif given.value == 0 or given.unit.same_dimension(unit):
            found.append(Argument(name, unit, 0.0 if given.value == 0 else given.to(unit)))
        else:
            raise ValueError(f"{name} must be in {unit}, as the axis itself, not {given}")
    return tuple(found)


_UNIT = Parameter("unit", "axes in", "unit", "unit of all axes", "m/s²")
_SECOND = _axis("second", "second axis", "the channel that reads it")
_THIRD = _axis("third", "third axis", "the channel that reads it")


def _start(unit_in: Unit, unit_out: Unit) -> dict[str, str]:
    return {"unit": unit_in.symbol, "second": "0", "third": "0"}


def _tilt(values: dict[str, Any]) -> Beside:
    return Beside(Tilt(values["of"] == FROM_PLUMB, values["unit"]), _arguments(values, ("second", "third")))


LENGTH = LawKind(
    name="vector length",
    title="length of a vector by its axes",
    formula="length = √(x² + y² + z²)",
    source="Pythagoras",
    example="3 m/s², beside 4 m/s² and 0 → 5 m/s²",
    parameters=(_UNIT, _SECOND, _axis("third", "third axis", "the channel that reads it; 0: there is none", "0")),
    build=lambda values: Beside(Length(values["unit"]), _arguments(values, ("second", "third"))),
    start=lambda unit_in, unit_out: {"unit": unit_in.symbol, "second": "0"},
)
TILT = LawKind(
    name="tilt",
    title="tilt of an axis by the pull of the earth",
    formula="tilt = atan2(x, √(y² + z²)) from level; atan2(√(y² + z²), x) from plumb",
    source="trigonometry; the sensor at rest",
    example="9.80665 m/s², the others 0, from plumb → 0°",
    parameters=(
        Parameter(
            "of", "tilt", "choice", "what the angle is counted from", FROM_LEVEL, choices=(FROM_LEVEL, FROM_PLUMB)
        ),
        _UNIT,
        _SECOND,
        _THIRD,
    ),
    build=_tilt,
    start=_start,
    ends=lambda values: (0.0, 180.0) if values.get("of") == FROM_PLUMB else (-90.0, 90.0),
)
DIRECTION = LawKind(
    name="direction",
    title="direction that two axes point",
    formula="angle = atan2(this axis, the axis beside it)",
    source="trigonometry",
    example="1 beside 1 → 45°",
    parameters=(
        _UNIT,
        _axis("second", "axis at 0°", "the channel of the axis that points to 0°"),
        Parameter("turn", "counted", "choice", "all round, or to either side", ROUND, choices=(ROUND, HALVES)),
    ),
    build=lambda values: Beside(Direction(values["turn"] == ROUND, values["unit"]), _arguments(values, ("second",))),
    start=lambda unit_in, unit_out: {"unit": unit_in.symbol, "second": "0"},
    ends=lambda values: (-180.0, 180.0) if values.get("turn") == HALVES else (0.0, 360.0),
)
