"""The name of a kind and its values, as typed for an entry. Nothing is dropped.

``median 9``, ``low-pass 0.1 Hz``, ``reject range -5 kg, 130 kg``, ``low-pass 0.1 Hz, order = 4``: what cannot be a
value is refused with what would be right.
"""

from __future__ import annotations

import re
from collections.abc import Iterable, Mapping, Sequence
from difflib import get_close_matches
from typing import TypeVar

from lesart.core.errors import RequestError
from lesart.core.parameters import Parameter
from lesart.core.quantity import beside_unit, plain_number
from lesart.core.raw.spelled.unit_typed import in_its_symbol, in_symbols, whole_said
from lesart.core.units import Unit, parse_unit

Kind = TypeVar("Kind")
LONGEST = 10_000
"""Most characters typed or pasted at once: a table of points has fewer."""


LONGEST_WORD = 500
"""Most characters without a blank, a comma or a semicolon: no formula and no name has as many."""
_PIECE = re.compile(rf"[^\s,;]{{{LONGEST_WORD + 1}}}")
_GAP = re.compile(r"(\s)\s{99,}")
"""Blanks in such a number are none that anyone means: no display has a row as long."""


def not_too_long(typed: str) -> str:
    """The text, without long gaps. Raises RequestError for one longer than anyone types."""
    if len(typed) > LONGEST:
        raise RequestError(f'"{typed[:30]}…" has {len(typed)} letters; {LONGEST} at most are taken.')
    if found := _PIECE.search(typed):
        raise RequestError(f'"{found[0][:30]}…" goes on for more than {LONGEST_WORD} letters without a blank.')
    return _GAP.sub(r"\1", typed)


def kind_named(typed: str, kinds: Mapping[str, Kind], noun: str, otherwise: str = "") -> tuple[Kind, str]:
    """The kind whose name a text begins with, the longest such name, and what comes after it.

    A name may be begun so that only one is meant. Raises RequestError, with names that are near, or what is said
    ``otherwise``, else all of them.
    """
    words = typed.strip().lower()
    fit = [
        name for name in kinds if words == name.lower() or words.startswith((f"{name.lower()} ", f"{name.lower()},"))
    ]
    if fit:
        name = max(fit, key=len)
        return kinds[name], typed.strip()[len(name) :].lstrip(" ,").strip()
    begun = [name for name in kinds if words and name.lower().startswith(words)]
    if len(begun) == 1:
        return kinds[begun[0]], ""
    hint = meant(typed, kinds) or otherwise or f"it may be {', '.join(kinds)}."
    raise RequestError(f'"{typed.strip()}" is not a {noun}; {hint}')


def meant(typed: str, names: Iterable[str]) -> str:
    """``did you mean A or B?`` where names are similar to what was typed, or to its first word; else empty."""
    by_lower = {name.lower(): name for name in names}
    words = typed.strip().lower()
    first = words.split()[0] if words.split() else ""
    begun = [name for name in by_lower if words and name.startswith(words)]
    near = begun or get_close_matches(words, by_lower, 3, 0.7) or get_close_matches(first, by_lower, 3, 0.7)
    return f"did you mean {' or '.join(by_lower[name] for name in near[:4])}?" if near else ""


def values_typed(
    parameters: Sequence[Parameter], in_turn: Sequence[str], typed: str, kind: str, own: Unit | None = None
) -> dict[str, str | int | bool]:
    """Values by parameter: bare ones for those named ``in_turn``, others by ``name = value``, commas between.

    A number without a unit is taken in that of the parameter, or in ``own`` where it has none. Raises RequestError.
    """
    by_name = {parameter.name: parameter for parameter in parameters}
    by_name |= {parameter.title.lower(): parameter for parameter in parameters}
    found: dict[str, str | int | bool] = {}
    left = [by_name[name] for name in in_turn]
    for part in (part.strip() for part in typed.split(",")) if typed.strip() else ():
        name, sign, value = (each.strip() for each in part.partition("="))
        parameter = by_name.get(name.lower()) if sign else next((each for each in left if each.name not in found), None)
        if parameter is None and sign:
            raise RequestError(f'{kind} takes no "{name}"; it takes {_names(parameters)}.')
        if parameter is None:
            said = f"it takes {_names(parameters)}" if parameters else "it takes no value"
            raise RequestError(f'"{part}" is too much for {kind}; {said}.')
        if parameter.name in found:
            raise RequestError(f"{kind}: {parameter.title} is said twice, {found[parameter.name]} and {value or part}.")
        found[parameter.name] = as_written(parameter, value if sign else part, own)
    return found


def named_by_kind(parameters: Sequence[Parameter], typed: str) -> str:
    """``12, 3.3 V`` as ``bits = 12, reference = 3.3 V``: each bare value goes to the next parameter that accepts it.

    A value that none accepts stays bare.
    """
    left = [parameter for parameter in parameters if parameter.kind in ("integer", "quantity", "any quantity")]
    parts = []
    for part in (part.strip() for part in typed.split(",")):
        place = -1 if "=" in part else next((at for at, each in enumerate(left) if _can_be(each, part)), -1)
        parts.append(f"{left[place].name} = {part}" if place >= 0 else part)
        left = left[place + 1 :]
    return ", ".join(parts)


def _can_be(parameter: Parameter, typed: str) -> bool:
    try:
        as_written(parameter, typed)
    except RequestError:
        return False
    return True


def _names(parameters: Sequence[Parameter]) -> str:
    return ", ".join(f"{parameter.name} = …" for parameter in parameters) or "no value"


def as_written(parameter: Parameter, typed: str, own: Unit | None = None) -> str | int | bool:
    """A typed value for the project file. Raises RequestError with what would be right."""
    number = whole_said(typed)
    tried: list[str | int | bool] = []
    if parameter.kind == "flag":
        tried = [{"yes": True, "true": True, "no": False, "false": False}.get(typed.lower(), typed)]
    elif parameter.kind == "integer":
        tried = [typed if number is None else number]
    elif parameter.kind in ("quantity", "any quantity"):
        unit = parameter.unit if parameter.kind == "quantity" else (own.symbol if own is not None else "1")
        if parameter.kind == "quantity":
            typed = in_symbols(typed, parse_unit(unit))
        is_bare = typed[-1:].isdigit() and unit != "1"
        tried = [f"{typed} {unit}", typed] if is_bare else [typed, f"{typed}{unit}"]
        tried += [in_its_symbol(typed)] if parameter.kind == "any quantity" else []
    else:
        tried = [typed]
    for written in tried:
        try:
            parameter.read(written)
        except ValueError:
            continue
        return written
    raise RequestError(f'{parameter.title} = "{typed}"; {parameter.refused(typed)}.')


def written(value: float, unit: Unit) -> str:
    """A value for the project file."""
    return beside_unit(plain_number(value, 7).replace("−", "-"), unit.symbol)
