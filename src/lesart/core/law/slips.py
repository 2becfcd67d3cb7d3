"""Units taken for one another: pascals for hectopascals, kelvin for °C, millivolts for volts.

One table for two questions. For a channel with a stated range: in which other unit would its readings lie inside? For
one whose range was taken from its data: does the quantity ever have such numbers in that unit?
"""

from __future__ import annotations

from collections.abc import Iterator

import numpy as np

from lesart.core.block import Floats
from lesart.core.dataclass_later import dataclass
from lesart.core.ranked import quantiles
from lesart.core.units import Unit, convert, parse_unit

FAMILIES = (
    ("hPa", "Pa", "kPa", "bar", "mbar"),
    ("°C", "K", "°F"),
    ("V", "mV", "µV"),
    ("A", "mA", "µA"),
    ("m", "cm", "mm", "km"),
    ("kg", "g", "t"),
    ("s", "ms", "µs"),
    ("m/s", "km/h"),
    ("1/s", "1/min", "1/h"),
    ("Ω", "kΩ"),
    ("1", "%"),
)
"""Units of one quantity that are confused with each other, the usual ones first."""
MOST_OUTSIDE = 0.01
"""Of all readings: this many may lie outside, and a slip still explains the rest."""


def meant_instead(readings: Floats, unit: Unit, lowest: float, highest: float) -> Unit | None:
    """The unit that readings, shape (n,), taken in ``unit``, must be in to lie from ``lowest`` to ``highest`` in
    ``unit``; None where no other unit of the quantity makes them, or where they lie inside as they are."""
    if not len(readings) or _share_outside(readings, lowest, highest) <= MOST_OUTSIDE:
        return None
    for other in _others(unit):
        if _share_outside(convert(readings, other, unit), lowest, highest) <= MOST_OUTSIDE:
            return other
    return None


def _share_outside(x: Floats, lowest: float, highest: float) -> float:
    return float(np.mean(~((x >= lowest) & (x <= highest))))


def _others(unit: Unit) -> Iterator[Unit]:
    family = next((each for each in FAMILIES if unit.symbol in each), ())
    return (parse_unit(name) for name in family if name != unit.symbol)


@dataclass(frozen=True)
class Habit:
    """Readings in ``unit`` from ``lowest`` to ``highest``, all within ``spread`` of each other, do not occur; in
    ``meant`` they are usual. ``said`` is what they then are. ``names``: only for a channel or column with one of these
    names."""

    unit: str
    lowest: float
    highest: float
    spread: float
    meant: str
    said: str
    names: tuple[str, ...] = ()


AIR = ("air", "room", "outdoor", "indoor", "outside", "inside", "ambient")
HABITS = (
    Habit("hPa", 30_000, 110_000, 15_000, "Pa", "the pressure of air"),
    Habit("mbar", 30_000, 110_000, 15_000, "Pa", "the pressure of air"),
    Habit("kPa", 30_000, 110_000, 15_000, "Pa", "the pressure of air"),
    Habit("kPa", 300, 1100, 150, "hPa", "the pressure of air"),
    Habit("Pa", 300, 1100, 150, "hPa", "the pressure of air"),
    Habit("°C", 250, 330, 60, "K", "a temperature of air or water"),
    Habit("K", -60, 60, 60, "°C", "a temperature of air or water"),
    Habit("°C", 45, 120, 60, "°F", "a temperature of air", AIR),
    Habit("V", 400, 6000, 6000, "mV", "a signal"),
    Habit("%", 0.05, 1.0, 1.0, "1", "a humidity", ("humid", "moist")),
)
"""Ranges are those of the earth's surface. Source: 300 to 1100 hPa is what barometers are made for; −60 to 57 °C are
the extremes of air where people live. A doubt and no more: an oven has 250 °C."""


def unlikely(readings: Floats, unit: Unit, names: str) -> Habit | None:
    """The habit that readings, shape (n,), match, where all but a hundredth do.

    ``names``: all names of the channel and its column.
    """
    if not len(readings):
        return None
    low, high = quantiles(readings, (MOST_OUTSIDE / 2, 1 - MOST_OUTSIDE / 2))
    for habit in HABITS:
        named = not habit.names or any(name in names.lower() for name in habit.names)
        fits = habit.lowest <= low and high <= habit.highest and high - low <= habit.spread
        if habit.unit == unit.symbol and named and fits:
            return habit
    return None
