"""A sensor in volts described by its range or by two points: ``0.5-4.5 V is 0-10 bar``, ``0 bar at 0.5 V, 10 bar at
4.5 V``, ``10 % to 90 % of the supply, 0 to 150 psi``, ``dry 3.1 V, wet 1.4 V``."""

from __future__ import annotations

import re
from collections.abc import Callable

from lesart.core.raw.spelled.unit_said import unit_said
from lesart.desk.entries.said.patterns import UNIT

_NUMBER = r"[-−+]?\d+(?:[.,]\d+)?"
WORDS = r"(?:[^\W\d][\w-]*[,:]?\s+){0,3}?"
"""What it is, before its figures."""
TO = r"\s*(?:to|\.\.+|[-–…])\s*"
_BE = r"\s*(?:,|:|=|->|=>|→|\bis\b|\bare\b|\bto\b|\bfor\b|\bmeans?\b|\bgives?\b|\bover\b)?\s*(?:from\s+)?"
_VOLTS = rf"(?P<begin>{_NUMBER})\s*(?P<begin_unit>m?V)?{TO}(?P<end>{_NUMBER})\s*(?P<volt>m?V)(?![\w/])"
_READS = rf"(?P<low>{_NUMBER})\s*(?P<low_unit>{UNIT}){TO}(?P<high>{_NUMBER})\s*(?P<unit>{UNIT})"
WHAT = (
    r"(?:sensor|probe|transmitter|transducer|"
    r"(?:of\s+)?(?:water|humidity|pressure|depth|level|flow|load|speed|current))"
)
"""What it is, or what is measured, after its figures."""
_RANGES = tuple(
    re.compile(rf"{WORDS}(?:from\s+)?{one}{_BE}{other}(?:\s+{WHAT})?", re.IGNORECASE)
    for one, other in ((_VOLTS, _READS), (_READS, _VOLTS))
)
_MEANS = r"\s*(?:=|:|@|->|=>|→|\bis\b|\bat\b|\bfor\b|\bmeans?\b|\bgives?\b)\s*"
_SAID_V = rf"(?P<{{0}}_v>{_NUMBER})\s*(?P<{{0}}_volt>m?V)"
_SAID = rf"(?P<{{0}}>{_NUMBER})\s*(?P<{{0}}_unit>{UNIT})"
_POINTS = tuple(
    re.compile(rf"{WORDS}{point.format('a')}\s*(?:[,;]|\band\b)\s*(?:and\s+)?{point.format('b')}", re.IGNORECASE)
    for point in (f"{_SAID_V}{_MEANS}{_SAID}", f"{_SAID}{_MEANS}{_SAID_V}")
)
_INFRARED = re.compile(r"\b(?:infra[\s-]?red|ir|optical)\b.*\b(?:distance|rang\w+|proximity)\b", re.IGNORECASE)
_RATIOMETRIC = re.compile(r"\bratiometric\b", re.IGNORECASE)
_OF_SUPPLY = re.compile(
    rf"{WORDS}(?P<share>(?P<begin>\d+(?:\.\d+)?)\s*%?{TO}(?P<end>\d+(?:\.\d+)?)\s*%?)\s*(?:of\s+)?(?:the\s+|its\s+)?"
    rf"(?:supply(?:\s+voltage)?|v?cc|vdd|v?s(?:upply)?|rail|v?ref|excitation){_BE}{_READS}",
    re.IGNORECASE,
)
_OHMS = r"\d+(?:[.,]\d+)?\s*(?:[kMR]\d*\s*)?(?:Ω|ohms?)?(?!\w)"
_DIVIDED = re.compile(
    r"[\s,;]*(?:\b(?:through|over|behind|via|with|by|on|and)\s+(?:an?\s+)?(?:(?:voltage\s+)?divider\s*(?:of|with|,|:)?\s*)?"
    r"|[,;]\s*(?:voltage\s+)?divider\s*(?:of|with|,|:)?\s*|[,;]\s*(?=\d[^,;]*\bdivider\b))"
    rf"(?P<upper>{_OHMS})\s*(?:/|:|\+|,|\band\b|\bover\b)\s*(?P<lower>{_OHMS})(?:\s*(?:voltage\s+)?divider)?",
    re.IGNORECASE,
)
SUPPLY_V = 5.0
"""The supply by which a share of it is written in volts; the law has the share again."""


def ranged(said: str) -> str:
    """From one voltage to another over a range of something else; by its share of the supply where it says that."""
    if found := _OF_SUPPLY.fullmatch(said):
        # 10 to 90 %, or 0.1 to 0.9, of it.
        whole = 1.0 if "%" not in found["share"] and float(found["end"]) <= 1.0 else 100.0
        begin, end = (f"{float(found[each]) / whole * SUPPLY_V:.10g} V" for each in ("begin", "end"))
        reads = _reads(found["low"], found["low_unit"], found["high"], found["unit"])
        return f"a ratiometric sensor from {begin} to {end}, {reads}, supply = {SUPPLY_V:g} V" if reads else ""
    found = next((match for pattern in _RANGES if (match := pattern.fullmatch(said))), None)
    if found is None:
        return ""
    reads = _reads(found["low"], found["low_unit"], found["high"], found["unit"])
    called = "a ratiometric sensor" if _RATIOMETRIC.search(said) else "a sensor in volts"
    called = "an infrared ranger" if _INFRARED.search(said) else called
    begin = f"{found['begin']} {found['begin_unit'] or found['volt']}"
    return f"{called} from {begin} to {found['end']} {found['volt']}, {reads}" if reads else ""


def by_points(said: str) -> str:
    """Two voltages and their meanings, in either order: the range of a sensor."""
    found = next((match for pattern in _POINTS if (match := pattern.fullmatch(said))), None)
    if found is None:
        return ""
    reads = _reads(found["a"], found["a_unit"], found["b"], found["b_unit"])
    volts = f"{found['a_v']} {found['a_volt']} to {found['b_v']} {found['b_volt']}"
    called = "a ratiometric sensor" if _RATIOMETRIC.search(said) else "a sensor in volts"
    called = "an infrared ranger" if _INFRARED.search(said) else called
    return f"{called} from {volts}, {reads}" if reads else ""


def over_divider(said: str, rule: Callable[[str], str]) -> str:
    """What ``rule`` makes of a sensor in volts without the two resistors that bring it down, and those; else empty."""
    found = _DIVIDED.search(said)
    if found is None:
        return ""
    made = rule(f"{said[: found.start()]}{said[found.end() :]}")
    name, more = "a sensor in volts", f", upper = {found['upper'].strip()}, lower = {found['lower'].strip()}"
    return f"a sensor over a divider{made.removeprefix(name)}{more}" if made.startswith(name) else ""


def _reads(low: str, low_unit: str, high: str, high_unit: str) -> str:
    """The range of the reading with its unit; empty for none, or for one in volts."""
    unit = high_unit or low_unit
    if not unit or unit.lower() in ("v", "mv") or unit_said(unit) is None:
        return ""
    return f"{low} {low_unit or unit} to {high} {unit}"
