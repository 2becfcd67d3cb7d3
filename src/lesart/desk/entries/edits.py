"""Values changed in place: what a person typed becomes what the project file will hold, or a sentence."""

from __future__ import annotations

import math
import re
from collections.abc import Mapping

from lesart.core.errors import QuantityError, RequestError
from lesart.core.notes import Key, Mend
from lesart.core.pace.task import SETTINGS
from lesart.core.parameters import Parameter, parted, shown
from lesart.core.quantity import is_level, parse_quantity, plain_number
from lesart.core.raw.spelled.unit_typed import in_symbols, whole_said
from lesart.core.units import Unit, parse_unit
from lesart.core.wire.entry import JOINS, PREFIXED, written
from lesart.desk.entries import wire_values as wiring
from lesart.project.model import Project
from lesart.project.schema import parameters_at
from lesart.project.toml_values import dotted, value_at

_WRITTEN = re.compile(r"([+-]?\d*\.?\d+(?:[eE][+-]?\d+)?)\s*(.*)$")


def parameter_at(project: Project, key: Key) -> Parameter:
    """The record of the parameter at a key of the project. Raises RequestError where there is none."""
    for parameter in parameters_at(project, key[:-1]):
        if parameter.name == key[-1]:
            return parameter
    raise RequestError(f"{dotted(key)} is not a value that can be changed.")


def written_at(project: Project, key: Key, parameter: Parameter) -> str | int | bool:
    """The value as written in the file, or its default; an item's field falls back to the channel's rule."""
    value = value_at(project.tables, key)
    if value is None and key in project.homes:
        value = project.homes[key].written
    if value is None and key[0] == "faces":
        channel = value_at(project.tables, (*key[:-1], "channel"))
        value = value_at(project.tables, ("channels", channel, "fit", key[-1]))
    if value is None and key[:2] == ("loop", "tasks"):
        value = project.loop.usual.get(str(key[2]), {}).get(parameter.name)
    if value is None:
        value = parameter.default
    return value if isinstance(value, str | int | bool) else str(value if value is not None else "")


def typed_value(project: Project, key: Key, text: str) -> str | int | bool:
    """The value for the file from what was typed. A number without a unit keeps the present unit.

    Raises RequestError with a sentence that says what would be right.
    """
    parameter = parameter_at(project, key)
    value: str | int | bool = text
    if parameter.kind == "integer":
        number = whole_said(text)
        value = text if number is None else number
    elif parameter.kind == "flag":
        value = {"true": True, "yes": True, "false": False, "no": False}.get(text.strip().lower(), text)
    elif parameter.kind in ("choice", "unit", "part"):
        value = text.strip()
    elif key[:2] == JOINS:
        value = wiring.end_typed(project, key, text.strip())
    elif parameter.kind in ("quantity", "any quantity"):
        value = _with_unit(project, key, parameter, text.strip())
    try:
        parameter.read(value)
    except ValueError as error:
        raise RequestError(f"{parameter.title} = {shown(text)}; {error}.") from error
    return value


def _with_unit(project: Project, key: Key, parameter: Parameter, text: str) -> str:
    """The text as typed where it names a unit, else with the unit added that its number was taken in.

    A number typed without a tolerance keeps the one that stands there, as it keeps the unit; ``± 0`` takes it away.
    """
    if parameter.channel and text in project.channels:
        return text
    expected = _unit_there(project, key, parameter)
    if parameter.toleranced:
        text, off = parted(text)
        off = off or parted(str(written_at(project, key, parameter)))[1]
        plain = _number_with_unit(parameter, in_symbols(text, expected), expected)
        return f"{plain} ± {off}" if off and off != "0" else plain
    plain, off = parted(text)
    if off:
        raise RequestError(f"{parameter.title} = {shown(text)}; it takes no tolerance here, only {plain.strip()}.")
    return _number_with_unit(parameter, in_symbols(text, expected), expected)


def _number_with_unit(parameter: Parameter, text: str, expected: Unit) -> str:
    try:
        quantity = parse_quantity(text, expected)
    except QuantityError as error:
        raise RequestError(f"{parameter.title} = {shown(text)}; {str(error).rstrip('.')}.") from error
    symbol = quantity.unit.symbol
    if symbol == "1" or text.endswith(symbol) or is_level(text, expected):
        return text
    if quantity.unit == expected or quantity.unit.symbol == expected.root:
        # What was typed with a prefix and no unit, 4k7, is kept with its prefix: 4.7 kΩ.
        prefixed = symbol in PREFIXED and any(letter.isalpha() for letter in text)
        return written(float(quantity.value), symbol) if prefixed else f"{_plain(float(quantity.value))} {symbol}"
    return text


def _unit_there(project: Project, key: Key, parameter: Parameter) -> Unit:
    """The unit of a bare number: that of the present value, else the parameter's."""
    written = parted(str(written_at(project, key, parameter)))[0]
    fallback = parse_unit(parameter.unit) if parameter.kind == "quantity" else parse_unit("1")
    if not written:
        return fallback
    try:
        return parse_quantity(written, fallback).unit
    except QuantityError:
        return fallback


def _plain(value: float) -> str:
    """A number for the file: the shortest text that reads back the same."""
    return plain_number(value, 12).replace("−", "-")


def nudged(project: Project, key: Key, direction: int) -> str | int | bool:
    """The value one sensible step up or down, in the unit it is written in. Raises RequestError where there is none."""
    parameter = parameter_at(project, key)
    written = written_at(project, key, parameter)
    options = wiring.options_at(project, key, parameter)
    if options:
        place = options.index(str(written)) + direction if str(written) in options else min(direction, 0)
        return options[place % len(options)]
    if parameter.kind == "integer" and isinstance(written, int):
        step = 2 if _is_odd_only(project, key) else 1
        return _kept(parameter, written + direction * step)
    if parameter.kind == "flag":
        return not written
    if parameter.kind == "choice":
        if written not in parameter.choices:
            return parameter.choices[min(direction, 0)]
        index = parameter.choices.index(str(written))
        return parameter.choices[(index + direction) % len(parameter.choices)]
    match = _WRITTEN.match(str(written).replace("−", "-"))
    if match is None or parameter.kind not in ("quantity", "any quantity"):
        raise RequestError(f"{parameter.title} has no steps; enter edits it.")
    number, unit = float(match[1]), match[2]
    value = round(number + direction * nudge_step(number), 12)
    return _kept(parameter, f"{_plain(value)} {unit}".strip())


def nudge_step(number: float) -> float:
    """A step of two to twenty parts in a hundred, a power of ten: 0.1 for 5, 10 for 200, 0.1 for 0."""
    return 10.0 ** (math.floor(math.log10(abs(number)) + 1e-9) - 1) if number else 0.1


def _is_odd_only(project: Project, key: Key) -> bool:
    return value_at(project.tables, (*key[:-1], "kind")) == "median" and key[-1] == "samples"


def _kept(parameter: Parameter, value: str | int) -> str | int:
    """The value if the parameter accepts it; at an end of its range the sentence says so."""
    try:
        parameter.read(value)
    except ValueError as error:
        raise RequestError(f"{parameter.title} = {shown(value)}; {error}.") from error
    return value


def said_of(tables: Mapping[str, object], mend: Mend) -> str:
    """An edit of a remedy, in a few words."""
    if mend.value is None:
        return f"{label_of(tables, mend.key)} taken from its home"
    if not isinstance(mend.value, Mapping):
        return f"{label_of(tables, mend.key)} = {mend.value}"
    if mend.key[0] == "parts":
        values = ", ".join(str(value) for name, value in mend.value.items() if name != "kind")
        return f"{mend.key[-1]} ({mend.value['kind']}{' ' if values else ''}{values})"
    return f"{mend.value['pin']} to {mend.value['to']}"


def label_of(tables: Mapping[str, object], key: Key) -> str:
    """A few words for a key in an undo message: ``hive 2 mass capacity``; of a connection ``gate.out to``."""
    if key[:2] == JOINS and len(key) == 4:
        entry = value_at(tables, key[:3])
        return f"{entry['pin']} {key[3]}" if entry else str(key[3])
    names = [str(part) for part in key if not isinstance(part, int)]
    if key[0] == "loop" and len(key) == 2:
        return next((each.title for each in SETTINGS if each.name == key[1]), str(key[1]))
    return f"{names[1]} {names[-1]}".replace("_", " ") if len(names) > 1 else names[0]
