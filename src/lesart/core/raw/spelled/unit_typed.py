"""Numbers with their units as people type them, in symbols: ``220 ohms``, ``-20 C``, ``10 seconds``, ``2000 mah``.

A symbol that is valid as it stands is kept, whatever else it may look like.
"""

from __future__ import annotations

import re
from collections.abc import Iterator

from lesart.core.errors import QuantityError, UnitError
from lesart.core.quantity import Quantity, beside_unit, parse_quantity, whole_number
from lesart.core.raw.spelled.unit_said import unit_said
from lesart.core.raw.spelled.unit_spellings import AS_WRITTEN
from lesart.core.units import Unit, parse_unit

_TYPED = re.compile(r"(?P<number>[-−+]?\s?\d[\d.,]*(?:[eE][-+]?\d+)?)\s*(?P<unit>[^\W\d_]?[^\d±]*[^\d±\s]|[²³º°%])$")
_PREFIXES = {"kilo": "k", "mega": "M", "milli": "m", "micro": "µ", "nano": "n", "pico": "p", "giga": "G"}
_PREFIXED = re.compile(rf"(?P<prefix>{'|'.join(_PREFIXES)}|[kMmµun])[\s-]*(?P<unit>[^\W\d_]{{2,}})$")
_BEFORE_VOWEL = re.compile(r"^(?P<prefix>kil|meg)(?=ohms?$)", re.IGNORECASE)
_TIMES_HOURS = re.compile(r"(?P<milli>milli[\s-]?|m)?(?P<what>amp(?:ere)?|watt)s?[\s-]*h(?:ou)?rs?$", re.IGNORECASE)
_DEGREES = re.compile(r"(?:°|º|deg\.?|degrees?)\s*(?P<letter>[CF]|Celsius|Fahrenheit)?|(?P<alone>[CF])", re.IGNORECASE)
_COUNTED = re.compile(
    r"(?P<number>[-−+]?\d+)(?:\.0+)?\s*-?\s*(?:bits?|cells?|samples?|digits?|characters?|chars?|columns?|rows?|lines?|"
    r"pixels?|dots?|bytes?|counts?|places|decimals?|times|values?)?$",
    re.IGNORECASE,
)
"""A whole number with the word of what it counts."""


def in_symbols(typed: str, wanted: Unit) -> str:
    """The text with its unit as a symbol where it measures the same as ``wanted``; else unchanged."""
    text = typed.strip()
    found = _TYPED.fullmatch(text)
    if found is None:
        return _kilo_ohms(text, wanted)
    if _reads(text, wanted):
        return typed
    for symbol in _symbols(found["unit"].strip(), wanted):
        if _reads(f"{found['number']} {symbol}", wanted):
            return f"{found['number']} {symbol}"
    return _kilo_ohms(text, wanted)


def in_its_symbol(typed: str) -> str:
    """A number with the word of any unit, ``200 litres``, in its symbol; unchanged where no word of a unit is behind
    it."""
    found = _TYPED.fullmatch(typed.strip())
    unit = unit_said(found["unit"].strip()) if found is not None else None
    return beside_unit(found["number"], unit.symbol) if found is not None and unit is not None else typed


def quantity_typed(typed: str, wanted: Unit, *, unit_needed: bool = False) -> Quantity:
    """The typed quantity, a number without a unit in ``wanted``. Raises QuantityError for anything else."""
    return parse_quantity(in_symbols(typed, wanted), wanted, unit_needed=unit_needed)


def whole_said(typed: str) -> int | None:
    """``12 bits`` and ``8.0`` as whole numbers; None for anything else."""
    found = _COUNTED.fullmatch(typed.strip())
    return whole_number(typed) if found is None else whole_number(found["number"])


def _kilo_ohms(text: str, wanted: Unit) -> str:
    """``10K`` and ``4K7`` for a resistance: K is not kelvin there."""
    is_kilo = wanted.same_dimension(parse_unit("Ω")) and re.fullmatch(r"\d+(?:[.,]\d+)?\s?K(?:\d+)?", text)
    return text.replace("K", "k") if is_kilo else text


def _symbols(unit: str, wanted: Unit) -> Iterator[str]:
    """Symbols that the words may mean, the likeliest first."""
    if wanted.same_dimension(parse_unit("K")) and (found := _DEGREES.fullmatch(unit)):
        letter = (found["letter"] or found["alone"] or "")[:1].upper()
        yield f"°{letter}" if letter else wanted.symbol
    yield from (symbol for symbol in sorted(AS_WRITTEN) if symbol.lower() == unit.lower())
    for word in (unit, f"{unit}s", unit.rstrip("s"), unit.lower()):
        if (said := unit_said(word)) is not None:
            yield said.symbol
    if found := _TIMES_HOURS.fullmatch(unit):
        yield f"{'m' if found['milli'] else ''}{found['what'][0].upper()}h"
    plain = _BEFORE_VOWEL.sub(lambda start: {"kil": "kilo", "meg": "mega"}[start["prefix"].lower()], unit)
    if found := _PREFIXED.fullmatch(plain):
        base = unit_said(found["unit"]) or unit_said(f"{found['unit']}s")
        prefix = _PREFIXES.get(found["prefix"].lower(), found["prefix"].replace("u", "µ"))
        if base is not None:
            yield f"{prefix}{base.symbol}"


def _reads(text: str, wanted: Unit) -> bool:
    try:
        return parse_quantity(text, wanted).unit.same_dimension(wanted)
    except (QuantityError, UnitError):
        return False
