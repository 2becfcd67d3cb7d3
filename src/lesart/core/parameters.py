"""Parameters described by data: what a law, filter, field, panel or source can be told.

One record serves the check of the project file, the rows on the screen, ``--help`` and the docs, so that they cannot
disagree. Values are read all at once; every problem is reported, not the first.
"""

from __future__ import annotations

import re
from collections.abc import Iterable, Mapping, Sequence
from difflib import get_close_matches
from fractions import Fraction
from functools import lru_cache
from typing import Any, Literal

from lesart.core.dataclass_later import dataclass
from lesart.core.errors import Problem, QuantityError, UnitError
from lesart.core.quantity import Quantity, example, format_quantity, listed, parse_quantity
from lesart.core.units import Unit, parse_unit
from lesart.core.visible import visible

Kind = Literal["quantity", "any quantity", "integer", "choice", "text", "flag", "unit", "part"]
TOLERANCE = re.compile(r"\s*(?:±|\+-|\+/-)\s*")
"""The sign between a number and its tolerance: ``3.3 V ± 1 %``."""
RELATIVE = ("%", "‰", "ppm")
LARGEST_INTEGER = 2**53
"""Above this a whole number is no longer exact as a float."""
LONGEST_NUMBER = 160
"""Characters of a number with its unit and tolerance, or of a channel's name in its place."""
OWN_KEY = "x_"
"""Keys with this prefix are the person's own: kept, never read."""


class _OutsideError(ValueError):
    """A value outside the limits of its parameter."""


class ChannelName(str):
    """The name of a channel, where a parameter takes that channel's readings instead of a number."""

    __slots__ = ()


MOST_LISTED = 20
"""More choices than these are not all named in a sentence."""


def near_names(written: str, names: Sequence[str], most: int) -> list[str]:
    """Names that are spelled nearly so, or that contain what is written."""
    said = written.strip().lower()
    within = [name for name in names if said and said in name.lower()]
    return (get_close_matches(said, names, most) or within)[:most]


@dataclass(frozen=True)
class Parameter:
    """``lowest`` and ``highest`` are in ``unit`` and allowed, unless ``above`` says that ``lowest`` itself is not.
    Those of an ``any quantity`` are in whatever unit it is written in.

    ``default`` is written as in the project file; None means that the parameter must be given, unless it is
    ``optional``: then its value is None where it is left out. An ``any quantity`` is handed on as a Quantity, for
    parameters whose unit only the chain knows. A ``part`` is read as the name of a part of the hook-up, whose kind is
    one of ``choices``, or any where there are none; who knows the hook-up puts the part in its place.

    With ``channel`` a quantity may be the name of a channel instead of a number: its value is a ChannelName. With
    ``toleranced`` its number may be written with how far it can be off, which ``tolerance`` reads.
    """

    name: str
    title: str
    kind: Kind
    help: str
    default: str | int | float | bool | None = None
    unit: str = "1"
    lowest: float | None = None
    highest: float | None = None
    above: bool = False
    choices: tuple[str, ...] = ()
    longest: int = 40
    optional: bool = False
    channel: bool = False
    names: str = ""
    """The group of tables whose name a text is: it follows when that is renamed. ``pins`` are written ``part.pin``,
    ``formula`` is a list of names with channels among them."""
    toleranced: bool = False
    code_bits: int = 0
    """For a text that is a number of this many bits, written 0x76 or 118; empty only where its default is."""
    usual: tuple[str | int, ...] = ()
    """Other usual values of such a parameter, as the project file writes them."""

    def refused(self, written: object) -> str:
        """The same clause for a value that is not accepted; of many choices only those that are like it, or some,
        with the last, since a person's own come behind all others."""
        if self.kind != "choice" or len(self.choices) <= MOST_LISTED:
            return self.wanted
        near = near_names(str(written), [str(choice) for choice in self.choices], 3)
        some = [f'"{choice}"' for choice in near or (*self.choices[:2], self.choices[-1])]
        what = (
            f"of which {listed(some)} {'is' if len(some) == 1 else 'are'} nearest"
            if near
            else f"such as {listed(some)}"
        )
        return f"it must be one of {len(self.choices)}, {what}"

    @property
    def wanted(self) -> str:
        """A clause that says what would be accepted."""
        if self.kind == "choice":
            return "it must be one of " + ", ".join(f'"{choice}"' for choice in self.choices)
        if self.kind == "flag":
            return "it must be true or false"
        if self.kind == "unit":
            return 'it must be a unit, like "mV/V", "kg" or "°C"'
        if self.kind == "part":
            kinds = f" that is a {' or a '.join(self.choices)}" if self.choices else ""
            return f"it must name a part of the hook-up{kinds}"
        if self.kind == "text" and self.code_bits:
            return f"it must be a number from 0x00 to 0x{(1 << self.code_bits) - 1:02X}" + (
                ", or empty" if self.default == "" else ""
            )
        if self.kind == "text":
            return f"it must be a text of at most {self.longest} characters"
        if self.kind == "integer":
            return f"it must be a whole number{self._bounds()}"
        bounds = self._bounds()
        also = ", or the name of a channel" if self.channel else ""
        return f"it must be a number with its unit, like {self._example()}{',' if bounds else ''}{bounds}{also}"

    def _example(self) -> str:
        """A value that would be accepted: 2.5, or 2.5 times a power of ten, where the limits allow it."""
        unit = parse_unit("kg" if self.kind == "any quantity" else self.unit)
        for value in (2.5, *(2.5 * 10.0**power for up in range(1, 13) for power in (up, -up)), self.lowest or 0.0):
            try:
                self._within(value)
            except _OutsideError:
                continue
            return example(unit, value)
        return example(unit, self.highest or 0.0)

    def _bounds(self) -> str:
        unit = parse_unit(self.unit) if self.kind == "quantity" else parse_unit("1")
        low = None if self.lowest is None else format_quantity(self.lowest, unit)
        high = None if self.highest is None else format_quantity(self.highest, unit)
        if low is not None and high is not None:
            return f" above {low} and up to {high}" if self.above else f" from {low} to {high}"
        if low is not None:
            return f" above {low}" if self.above else f" of {low} or more"
        return f" of {high} or less" if high is not None else ""

    def read(self, written: object) -> Any:
        """The value that the file's text means. Raises ValueError with a clause where it is not accepted."""
        if self.kind == "choice":
            if written not in self.choices:
                raise ValueError(self.refused(written))
            return written
        if self.kind == "flag":
            if not isinstance(written, bool):
                raise ValueError(self.wanted)
            return written
        if self.kind in ("text", "unit", "part"):
            return self._text(written)
        if self.kind == "integer":
            if isinstance(written, bool) or not isinstance(written, int) or abs(written) > LARGEST_INTEGER:
                raise ValueError(self.wanted)
            return self._whole(written)
        return self._quantity(written)

    def _whole(self, written: int) -> int:
        try:
            return int(self._within(written))
        except _OutsideError as error:
            raise ValueError(self.wanted) from error

    def _text(self, written: object) -> str | Unit:
        if not isinstance(written, str) or len(written) > self.longest:
            raise ValueError(self.wanted)
        if self.code_bits and not self._is_code(written):
            raise ValueError(self.wanted)
        if self.kind in ("text", "part"):
            return written
        try:
            return parse_unit(written)
        except UnitError as error:
            raise ValueError(str(error).rstrip(".")) from error

    def _is_code(self, written: str) -> bool:
        if not written:
            return self.default == ""
        try:
            return 0 <= int(written, 0) < 1 << self.code_bits
        except ValueError:
            return False

    def _quantity(self, written: object) -> float | Quantity | ChannelName:
        if isinstance(written, bool) or not isinstance(written, str | int | float):
            raise ValueError(self.wanted)
        return _quantity_of(self, written)

    def tolerance(self, written: object) -> float:
        """How far the number may be off either way, as it is written: in ``unit``; of an ``any quantity`` in its own.

        0 where nothing is said. ``read`` must have taken ``written``.
        """
        number, off = parted(str(written))
        if not off or not self.toleranced:
            return 0.0
        quantity = parse_quantity(number, parse_unit(self.unit))
        width = _half_width(off, quantity)
        # A tolerance is a difference: of a temperature, only its scale counts.
        return width if self.kind != "quantity" else width * float(quantity.unit.scale / parse_unit(self.unit).scale)

    def holds(self, value: object) -> bool:
        """True where a value that was read lies within its bounds; of what is no number, always."""
        number = value.value if isinstance(value, Quantity) else value
        try:
            if isinstance(number, int | float | Fraction) and not isinstance(number, bool):
                self._within(number)
        except _OutsideError:
            return False
        return True

    def _within(self, value: Any) -> Any:
        low = self.lowest is not None and (value <= self.lowest if self.above else value < self.lowest)
        if low or (self.highest is not None and value > self.highest):
            raise _OutsideError
        return value


@lru_cache(maxsize=4096, typed=True)
def _quantity_of(parameter: Parameter, written: str | float) -> float | Quantity | ChannelName:
    """The quantity that a text writes.

    Cached, because a project is checked at each edit and nearly all of it is unchanged.
    """
    unit = parse_unit(parameter.unit)
    if isinstance(written, str) and len(written) > LONGEST_NUMBER:
        raise ValueError(parameter.wanted)
    if parameter.channel and isinstance(written, str) and not is_number(written):
        if not 0 < len(written) <= parameter.longest:
            raise ValueError(parameter.wanted)
        return ChannelName(written)
    try:
        number = str(written)
        if parameter.toleranced:
            number, off = parted(number)
            _half_width(off, parse_quantity(number, unit))
        # A bare number in a file would be a label without a unit: the mistake Lesart is there to stop.
        quantity = parse_quantity(number, unit, unit_needed=parameter.kind == "quantity")
        if parameter.kind == "any quantity":
            parameter._within(quantity.value)
            return quantity
        return float(parameter._within(quantity.to(unit)))
    except _OutsideError as error:
        raise ValueError(parameter.wanted) from error
    except (QuantityError, UnitError) as error:
        raise ValueError(f"{parameter.wanted} ({str(error).rstrip('.')})") from error


def is_number(written: str) -> bool:
    """True where a text begins as a number does, so that it is meant as one."""
    return bool(re.match(r"\s*[+\-−]?\s*[.,]?\d", written))


def parted(written: str) -> tuple[str, str]:
    """The text before and after a tolerance sign; empty after it where there is none."""
    number, *off = TOLERANCE.split(written, maxsplit=1)
    return (number, off[0].strip()) if off else (written, "")


def _half_width(off: str, quantity: Quantity) -> float:
    """A tolerance in the unit of its quantity: of ``10 kΩ``, ``1 %`` is 0.1. Raises QuantityError, UnitError."""
    if not off:
        return 0.0
    width = parse_quantity(off, quantity.unit.step)
    if width.value < 0:
        raise QuantityError(f'"{off}" is below 0; a tolerance is meant either way, like "± 1 %".')
    if width.unit.symbol in RELATIVE and quantity.unit.symbol not in RELATIVE:
        return abs(float(quantity.value * width.value * width.unit.scale))
    if width.unit.dimension != quantity.unit.dimension:
        raise UnitError(f'"± {off}" is neither a share, like "± 1 %", nor in {quantity.unit}.')
    return float(width.value * width.unit.scale / quantity.unit.scale)


def shown(written: object) -> str:
    """A value as the project file writes it, shortened, control characters made visible."""
    if isinstance(written, bool):
        return "true" if written else "false"
    try:
        text = f'"{written}"' if isinstance(written, str) else str(written)
    except ValueError:  # Python writes no whole number of more than some thousand digits
        text = "a number of thousands of digits"
    text = visible(text)
    return text if len(text) <= 60 else text[:57] + "…"


def read_table(
    parameters: Iterable[Parameter], table: object, place: str, also: Iterable[str] = ()
) -> tuple[dict[str, Any], list[Problem]]:
    """The values of a table by name, defaults filled in, and every problem in it.

    ``also`` names keys that the caller reads itself. Where there is a problem the value is left out.
    """
    known = {parameter.name: parameter for parameter in parameters}
    if not isinstance(table, Mapping):
        return {}, [Problem(place, shown(table), "it must be a table of keys")]
    problems = [_unknown(place, key, table[key], [*known, *also]) for key in table if _strange(key, known, also)]
    values: dict[str, Any] = {}
    for name, parameter in known.items():
        written = table.get(name, parameter.default)
        if written is None and parameter.optional:
            values[name] = None
            continue
        if written is None:
            problems.append(Problem(f"{place}.{name}", "", f"it is missing; {parameter.wanted}"))
            continue
        try:
            values[name] = parameter.read(written)
        except ValueError as error:
            problems.append(Problem(f"{place}.{name}", shown(written), str(error)))
    return values, problems


def _strange(key: str, known: Mapping[str, Parameter], also: Iterable[str]) -> bool:
    return key not in known and key not in also and not key.startswith(OWN_KEY)


def _unknown(place: str, key: str, value: object, names: list[str]) -> Problem:
    near = get_close_matches(key, names, 1, 0.6)
    hint = f"did you mean {near[0]}?" if near else f"it may be {', '.join(names)}"
    ending = f"{hint} A key of your own starts with {OWN_KEY}" if near else f"{hint}, or start with {OWN_KEY}"
    dotted = f"{place}.{shown(key)[1:-1]}" if place else shown(key)[1:-1]
    return Problem(dotted, shown(value), f"this key is not known here; {ending}")
