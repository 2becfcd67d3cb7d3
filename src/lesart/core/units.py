"""Units of measurement: parsed, compared by dimension, converted exactly.

Scales are exact fractions to the coherent SI unit, so that kilogram to gram is 1000 exactly. Temperatures and
temperature differences are two things: 20 °C is 293.15 K, Δ20 °C is Δ20 K. Inside a compound unit (``mV/°C``) a degree
is always a difference, as in data sheets.

Not taken: a general unit library. It costs half a second to import, more than a whole ``lesart hand``.
"""

from __future__ import annotations

import math
import re
from difflib import get_close_matches
from fractions import Fraction
from functools import lru_cache
from typing import TypeVar

import numpy as np
import numpy.typing as npt

from lesart.core.dataclass_later import dataclass
from lesart.core.errors import UnitError

Dimension = tuple[int, ...]
BASES = ("m", "kg", "s", "A", "K", "ct", "turn", "dB", "cd", "bit", "pH", "mol", "NTU")
PLAIN: Dimension = (0,) * len(BASES)
TEMPERATURE: Dimension = tuple(int(base == "K") for base in BASES)

PREFIXES = {
    "p": Fraction(1, 10**12),
    "n": Fraction(1, 10**9),
    "µ": Fraction(1, 10**6),
    "m": Fraction(1, 1000),
    "c": Fraction(1, 100),
    "d": Fraction(1, 10),
    "h": Fraction(100),
    "k": Fraction(1000),
    "M": Fraction(10**6),
    "G": Fraction(10**9),
}

LEAST_SCALE = Fraction(1, 10**60)
"""The least scale of a compound unit to SI; its inverse is the greatest.

Measured units lie far inside, and floats hold them.
"""
Value = TypeVar("Value", float, npt.NDArray[np.float64])


@dataclass(frozen=True)
class Unit:
    """``value in SI = value × scale + offset_k``. ``difference`` is set for Δ°C, Δ°F and ΔK only."""

    symbol: str
    dimension: Dimension
    scale: Fraction
    offset_k: Fraction = Fraction(0)
    difference: bool = False
    root: str = ""
    """The unit without its prefix: V for mV. A bare prefix, as in 4k7, applies to it."""

    def __str__(self) -> str:
        return self.symbol

    def __hash__(self) -> int:
        """By symbol: equal units share it, and fractions are slow to hash, which happens in every frame."""
        return hash(self.symbol)

    def same_dimension(self, other: Unit) -> bool:
        """True where one converts to the other. A temperature and a temperature difference do not."""
        return self.dimension == other.dimension and self.difference == other.difference

    @property
    def is_temperature(self) -> bool:
        """True for an absolute temperature, whose zero is a convention."""
        return self.dimension == TEMPERATURE and not self.difference

    @property
    def step(self) -> Unit:
        """The unit of a difference of two such values: Δ°C for °C, itself for all others."""
        if not self.is_temperature:
            return self
        return Unit("Δ" + self.symbol, self.dimension, self.scale, difference=True, root="Δ" + self.root)


def _dimension(**powers: int) -> Dimension:
    return tuple(powers.get(base, 0) for base in BASES)


_FORCE = {"kg": 1, "m": 1, "s": -2}
_VOLT = {"kg": 1, "m": 2, "s": -3, "A": -1}
_FOOT = Fraction(3048, 10000)
_POUND = Fraction(45359237, 100000000)
_GRAVITY = Fraction(980665, 100000)
_PASCAL = {"kg": 1, "m": -1, "s": -2}
_JOULE = {"kg": 1, "m": 2, "s": -2}
_WATT = {"kg": 1, "m": 2, "s": -3}
_TESLA = {"kg": 1, "s": -2, "A": -1}
_WATER = _GRAVITY * 1000
"""Pascals per metre of water, by convention at 4 °C."""
_TAKING_PREFIX: list[tuple[str, dict[str, int], Fraction | int]] = [
    ("m", {"m": 1}, 1),
    ("g", {"kg": 1}, Fraction(1, 1000)),
    ("s", {"s": 1}, 1),
    ("A", {"A": 1}, 1),
    ("Hz", {"s": -1}, 1),
    ("N", _FORCE, 1),
    ("Pa", _PASCAL, 1),
    ("bar", _PASCAL, 100000),
    ("J", _JOULE, 1),
    ("Wh", _JOULE, 3600),
    ("cal", _JOULE, Fraction(4184, 1000)),
    ("W", _WATT, 1),
    ("VA", _WATT, 1),  # apparent, of which no more than a part is power
    ("var", _WATT, 1),
    ("V", _VOLT, 1),
    ("Ω", {"kg": 1, "m": 2, "s": -3, "A": -2}, 1),
    ("F", {"kg": -1, "m": -2, "s": 4, "A": 2}, 1),
    ("H", {"kg": 1, "m": 2, "s": -2, "A": -2}, 1),
    ("Ah", {"s": 1, "A": 1}, 3600),
    ("T", _TESLA, 1),
    ("Gs", _TESLA, Fraction(1, 10**4)),  # G is a prefix, and to makers as often an acceleration
    ("S", {"kg": -1, "m": -2, "s": 3, "A": 2}, 1),
    ("L", {"m": 3}, Fraction(1, 1000)),
    ("cd", {"cd": 1}, 1),
    ("lx", {"cd": 1, "m": -2}, 1),
    ("lm", {"cd": 1}, 1),
    ("bit", {"bit": 1}, 1),
    ("mol", {"mol": 1}, 1),
    ("Sv", {"m": 2, "s": -2}, 1),
    ("Gy", {"m": 2, "s": -2}, 1),
    ("Bq", {"s": -1}, 1),
    ("Ci", {"s": -1}, 37 * 10**9),
    ("Torr", _PASCAL, Fraction(101325, 760)),
    ("gn", {"m": 1, "s": -2}, _GRAVITY),
]
_PLAIN: list[tuple[str, dict[str, int], Fraction | int]] = [
    ("1", {}, 1),
    ("%", {}, Fraction(1, 100)),
    ("‰", {}, Fraction(1, 1000)),
    ("ppm", {}, Fraction(1, 10**6)),
    ("ppb", {}, Fraction(1, 10**9)),
    ("µε", {}, Fraction(1, 10**6)),
    ("ct", {"ct": 1}, 1),
    ("turn", {"turn": 1}, 1),
    ("°", {"turn": 1}, Fraction(1, 360)),
    ("m°", {"turn": 1}, Fraction(1, 360_000)),
    ("rad", {"turn": 1}, Fraction(1 / (2 * math.pi))),
    ("dB", {"dB": 1}, 1),
    ("dBm", {"dB": 1}, 1),
    ("pH", {"pH": 1}, 1),  # acidity, which is measured far more often than picohenries are
    ("NTU", {"NTU": 1}, 1),  # how turbid water is, by ISO 7027
    ("rpm", {"turn": 1, "s": -1}, Fraction(1, 60)),
    ("byte", {"bit": 1}, 8),
    ("kB", {"bit": 1}, 8000),
    ("MB", {"bit": 1}, 8_000_000),
    ("min", {"s": 1}, 60),
    ("h", {"s": 1}, 3600),
    ("d", {"s": 1}, 86400),
    ("t", {"kg": 1}, 1000),
    ("in", {"m": 1}, _FOOT / 12),
    ("ft", {"m": 1}, _FOOT),
    ("yd", {"m": 1}, _FOOT * 3),
    ("mil", {"m": 1}, _FOOT / 12000),
    ("mi", {"m": 1}, _FOOT * 5280),
    ("gal", {"m": 3}, 231 * (_FOOT / 12) ** 3),  # of the United States
    ("lb", {"kg": 1}, _POUND),
    ("oz", {"kg": 1}, _POUND / 16),
    ("lbf", _FORCE, _POUND * _GRAVITY),
    ("kgf", _FORCE, _GRAVITY),
    ("hp", _WATT, 550 * _FOOT * _POUND * _GRAVITY),
    ("BTU", _JOULE, Fraction(105505585262, 10**8)),
    ("psi", _PASCAL, _POUND * _GRAVITY / (_FOOT / 12) ** 2),
    ("atm", _PASCAL, 101325),
    ("mmH2O", _PASCAL, _WATER / 1000),
    ("cmH2O", _PASCAL, _WATER / 100),
    ("inH2O", _PASCAL, _WATER * _FOOT / 12),
    ("mmHg", _PASCAL, Fraction(133322387415, 10**9)),
    ("inHg", _PASCAL, Fraction(133322387415, 10**9) * Fraction(254, 10)),
    ("kn", {"m": 1, "s": -1}, Fraction(1852, 3600)),
]


def _simple_units() -> tuple[dict[str, Unit], frozenset[str]]:
    """All units without a prefix, and the symbols of those that accept one."""
    units = {
        symbol: Unit(symbol, _dimension(**powers), Fraction(scale), root=symbol)
        for symbol, powers, scale in _TAKING_PREFIX + _PLAIN
    }
    freezing = Fraction(27315, 100)
    for symbol, scale, offset in (
        ("K", Fraction(1), Fraction(0)),
        ("°C", Fraction(1), freezing),
        ("°F", Fraction(5, 9), freezing - 32 * Fraction(5, 9)),
    ):
        units[symbol] = Unit(symbol, TEMPERATURE, scale, offset, root=symbol)
        units["Δ" + symbol] = Unit("Δ" + symbol, TEMPERATURE, scale, difference=True, root="Δ" + symbol)
    return units, frozenset([symbol for symbol, _, _ in _TAKING_PREFIX] + ["K", "ΔK"])


UNITS, TAKES_PREFIX = _simple_units()
_SPELLINGS = {
    "ohm": "Ω",
    "Ohm": "Ω",
    "degC": "°C",
    "degF": "°F",
    "deg": "°",
    "gₙ": "gn",
    "l": "L",
    "sec": "s",
    "count": "ct",
    "counts": "ct",
    "": "1",
}
_SUPERSCRIPTS = str.maketrans("⁰¹²³⁴⁵⁶⁷⁸⁹⁻", "0123456789-")
_FACTOR = re.compile(r"(?P<name>[a-z]{2}H2O|[^\d^⁰¹²³⁴⁵⁶⁷⁸⁹⁻]+|1)(?:\^?(?P<power>-?\d+|[⁻⁰¹²³⁴⁵⁶⁷⁸⁹]+))?$")


def _lookup(name: str) -> Unit:
    """One unit with or without a prefix."""
    name = name.replace("\u03bc", "µ").replace("\u2126", "Ω")
    name = _SPELLINGS.get(name, name)
    if name in UNITS:
        return UNITS[name]
    delta, bare = ("Δ", name[1:]) if name.startswith("Δ") else ("", name)
    prefix, root = bare[:1].replace("u", "µ"), bare[1:]
    root = delta + _SPELLINGS.get(root, root) if root else ""
    if prefix in PREFIXES and root in TAKES_PREFIX:
        unit = UNITS[root]
        return Unit(
            delta + prefix + root.removeprefix("Δ"),
            unit.dimension,
            unit.scale * PREFIXES[prefix],
            difference=unit.difference,
            root=root,
        )
    near = [unit for unit in UNITS if unit.lower() == name.lower()] or get_close_matches(name, UNITS, 3, 0.5)
    hint = f"did you mean {' or '.join(near)}?" if near else "try one like V, mV/V, kg, °C, ct or %."
    raise UnitError(f'"{name}" is not a unit Lesart knows; {hint}')


def _power(written: str, text: str) -> int:
    """The power of a factor. Raises UnitError for a sign in the middle of it."""
    if not re.fullmatch(r"-?\d{1,3}", written):
        raise UnitError(f'"{text}" is not a unit Lesart knows; a power is a whole number, like m² or m^-2.')
    return int(written)


@lru_cache(maxsize=512)
def parse_unit(text: str) -> Unit:
    """The unit that ``text`` writes, e.g. ``mV/V``, ``kg``, ``m/s^2``, ``/min``, ``Δ°C``.

    Raises UnitError with the part that is not known.
    """
    cleaned = text.strip().replace("*", "·").replace("⋅", "·")
    if len(cleaned) > 40:
        raise UnitError(f'"{cleaned[:20]}…" is too long for a unit; try one like mV/V.')
    numerator, *denominators = cleaned.split("/")
    if not denominators and "·" not in cleaned and not re.search(r"[\^⁰¹²³⁴⁵⁶⁷⁸⁹⁻]|\w\d$", cleaned):
        return _lookup(cleaned)
    if not all(part.strip() for part in denominators):
        raise UnitError(f'"{text}" is not a unit Lesart knows; something is missing after its /.')
    if not all(factor.strip() for group in (numerator or "1", *denominators) for factor in group.split("·")):
        raise UnitError(f'"{text}" is not a unit Lesart knows; something is missing beside its ·.')
    dimension, scale = list(PLAIN), Fraction(1)
    for sign, group in [(1, numerator), *((-1, part) for part in denominators)]:
        for factor in group.split("·"):
            match = _FACTOR.match(factor.strip() or "1")
            if match is None:
                raise UnitError(f'"{text}" is not a unit Lesart knows; try one like V, mV/V, kg or °C.')
            unit = _lookup(match["name"])
            power = sign * _power((match["power"] or "1").translate(_SUPERSCRIPTS), text)
            if abs(power) > 9:
                raise UnitError(f'"{text}" has a power beyond 9, which no quantity needs.')
            scale *= unit.scale**power
            dimension = [total + power * own for total, own in zip(dimension, unit.dimension, strict=True)]
    if not LEAST_SCALE <= scale <= 1 / LEAST_SCALE:
        raise UnitError(f'"{text}" is beyond anything measured; try one like V, mV/V, kg or °C.')
    difference = tuple(dimension) == TEMPERATURE
    return Unit(cleaned, tuple(dimension), scale, difference=difference, root=cleaned)


def ratio_symbol(above: Unit, below: Unit) -> str:
    """The symbol of one unit per another: ``mV/°C``, ``m/s^2/kg``; a denominator with a fraction in it is inverted."""
    factors = [*_factors(above.symbol), *((name, -power) for name, power in _factors(below.symbol))]
    over = "·".join(_powered(name, power) for name, power in factors if power > 0)
    written = "/".join([over or "1", *(_powered(name, -power) for name, power in factors if power < 0)])
    return f"Δ{written}" if parse_unit(written).is_temperature else written


def _factors(symbol: str) -> list[tuple[str, int]]:
    """Names and powers of a symbol's factors; a temperature counts as a difference, as it does in a fraction."""
    found = []
    for index, group in enumerate(symbol.replace("Δ", "").split("/")):
        for factor in group.split("·"):
            match = _FACTOR.match(factor)
            if match is not None and match["name"] != "1":
                power = _power((match["power"] or "1").translate(_SUPERSCRIPTS), symbol)
                found.append((match["name"], -power if index else power))
    return found


def _powered(name: str, power: int) -> str:
    return name if power == 1 else f"{name}^{power}"


@lru_cache(maxsize=512)
def conversion(source: Unit, target: Unit) -> tuple[float, float]:
    """``(scale, offset)`` with ``value in target = value in source × scale + offset``.

    Raises UnitError when they do not measure the same thing.
    """
    if not source.same_dimension(target):
        kinds = ""
        if source.dimension == target.dimension:
            kinds = " (one is a temperature, the other a temperature difference)"
        raise UnitError(f"{source} cannot be converted to {target}{kinds}")
    return float(source.scale / target.scale), float((source.offset_k - target.offset_k) / target.scale)


def convert(value: Value, source: Unit, target: Unit) -> Value:
    """``value`` in ``source`` expressed in ``target``; exact to the last bit or so."""
    scale, offset = conversion(source, target)
    if scale == 1.0 and offset == 0.0:
        return value
    return value * scale + offset


SHOWN_IN = (
    ("°C", "°F", "K"),
    ("Δ°C", "Δ°F", "ΔK"),
    ("hPa", "Pa", "kPa", "bar", "psi"),
    ("m/s", "km/h", "mi/h"),
    ("mm", "cm", "m", "in", "ft"),
    ("g", "kg", "oz", "lb"),
    ("1/min", "1/s", "1/h"),
    ("turn/min", "turn/s"),
    ("V", "mV"),
    ("A", "mA"),
    ("Ω", "kΩ"),
    ("W", "mW"),
    ("s", "ms", "min", "h"),
    ("Hz", "kHz"),
    ("L", "m^3"),
    ("L/min", "L/h", "m^3/h"),
    ("°", "rad"),
    ("%", "1", "‰"),
    ("N", "kN"),
    ("m/s²", "mm/s²"),
)
"""Units that people show a quantity in; each group in the order in which the key goes through it."""


def next_shown(unit: Unit) -> Unit | None:
    """The next unit in which a value in ``unit`` may be shown; None where there is no other."""
    for group in SHOWN_IN:
        known = [parse_unit(symbol) for symbol in group]
        if known[0].same_dimension(unit):
            own = [each for each in known if (each.scale, each.offset_k) == (unit.scale, unit.offset_k)]
            at = known.index(own[0]) if own else -1
            return known[(at + 1) % len(known)]
    return None


def product(first: Unit, second: Unit, power: int = 1) -> tuple[Dimension, Fraction]:
    """Dimension and scale of ``first × second**power``, both taken as differences."""
    dimension = tuple(a + power * b for a, b in zip(first.dimension, second.dimension, strict=True))
    return dimension, first.scale * second.scale**power
