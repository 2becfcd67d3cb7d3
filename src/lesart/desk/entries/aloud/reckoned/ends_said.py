"""Counts at both ends of a range as people say them, as two points or two ranges: ``5 kg = 830000, zero 84000``, ``tank
0-200 L, 500 = empty, 900 = full``, ``water level 0-4 cm is 0-700``."""

from __future__ import annotations

import re
from collections.abc import Callable
from dataclasses import replace

from lesart.core.dataclass_later import dataclass
from lesart.core.raw.spelled.unit_said import unit_said

_NUMBER = r"[-−+]?\d+(?:[.,]\d+)?"
_WHOLE = r"[-−+]?\d+"
_UNIT = r"(?P<unit>[°%Ωµ]?[^\W\d_][^\s\d,;=]*|[°%])"
_COUNTS = r"(?:\s*(?:counts?|ct|raw))?"
_WORDS = r"(?:[^\W\d][\w-]*[,:]?\s+){0,3}?"
_TO = r"\s*(?:to|\.\.+|[-–…])\s*"
_IS = r"\s*(?:=|:|->|=>|→|\bis\b|\bare\b|\bat\b|\bfor\b|\bfrom\b|\bwhen\b|\breads?\b|\bmeans?\b)\s*(?:from\s+)?"
_AND = r"\s*(?:[,;]|\band\b)\s*(?:and\s+)?"
_ZERO = r"(?:zero|tare|empty|unloaded|nothing|no\s+load)"
_LOW, _HIGH = r"(?:empty|low(?:est)?|minimum|min|dry|bottom)", r"(?:full|high(?:est)?|maximum|max|wet|top)"
_READS = rf"(?P<low>{_NUMBER})\s*(?:[°%Ωµ]?[^\W\d_]+)??{_TO}(?P<high>{_NUMBER})\s*{_UNIT}"
_RAW = rf"(?P<begin>{_WHOLE}){_COUNTS}{_TO}(?P<end>{_WHOLE}){_COUNTS}"
_EMPTY = rf"(?P<begin>{_WHOLE}){_COUNTS}\s*(?:=|:|is|when|at)?\s*{_LOW}"
_FULL = rf"(?P<end>{_WHOLE}){_COUNTS}\s*(?:=|:|is|when|at)?\s*{_HIGH}"
_LOADED = rf"(?P<high>{_NUMBER})\s*{_UNIT}{_IS}(?P<end>{_WHOLE}){_COUNTS}"
_LOADED_BEHIND = rf"(?P<end>{_WHOLE}){_COUNTS}{_IS}(?P<high>{_NUMBER})\s*{_UNIT}"
_BARE = rf"{_ZERO}(?:{_IS}|\s+)(?P<begin>{_WHOLE}){_COUNTS}"
_BARE_BEHIND = rf"(?P<begin>{_WHOLE}){_COUNTS}(?:{_IS}|\s+){_ZERO}"


@dataclass(frozen=True)
class Ends:
    """Two points as arithmetic takes them, and the lowest and highest reading where they are ends of a range."""

    points: str
    span: tuple[str, str] | None = None


def _points(found: re.Match[str]) -> Ends:
    low, high = f"{found.groupdict().get('low') or '0'} {found['unit']}", f"{found['high']} {found['unit']}"
    return Ends(f"{found['begin']} = {low}, {found['end']} = {high}")


def _range(found: re.Match[str]) -> Ends:
    least, most = sorted((found.groupdict().get("low") or "0", found["high"]), key=_value)
    return replace(_points(found), span=(f"{least} {found['unit']}", f"{most} {found['unit']}"))


def _value(written: str) -> float:
    return float(written.replace(",", ".").replace("−", "-"))


_COUNTED = rf"(?P<begin>{_WHOLE})(?:\s*(?:counts?|ct))?{_TO}(?P<end>{_WHOLE})\s*(?:counts?|ct)"
_FORMS: tuple[tuple[str, Callable[[re.Match[str]], Ends]], ...] = (
    (rf"{_WORDS}{_READS}{_IS}{_RAW}", _range),
    (rf"{_WORDS}{_RAW}{_IS}{_READS}", _range),
    (rf"{_WORDS}{_READS}(?:{_AND}|\s+){_COUNTED}", _range),
    (rf"{_WORDS}{_COUNTED}(?:{_AND}|\s+){_READS}", _range),
    (rf"{_WORDS}{_READS}{_AND}{_EMPTY}{_AND}{_FULL}", _range),
    (rf"{_WORDS}{_READS}{_AND}{_FULL}{_AND}{_EMPTY}", _range),
    (rf"{_WORDS}{_EMPTY}(?:{_AND}|\s+){_FULL}(?:{_AND}|\s+)(?P<high>{_NUMBER})\s*{_UNIT}", _range),
    *(
        (rf"{_WORDS}{form}", _points)
        for loaded in (_LOADED, _LOADED_BEHIND)
        for bare in (_BARE, _BARE_BEHIND)
        for form in (rf"{loaded}{_AND}{bare}", rf"{bare}{_AND}{loaded}")
    ),
)
_TURNED = re.compile(r"\b(?:pot\w*|knob|joystick|vane|wind|angle)\b", re.IGNORECASE)
"""Sensors that have a range of their own."""
_PATTERNS = tuple((re.compile(pattern, re.IGNORECASE), made) for pattern, made in _FORMS)


def ends_said(typed: str) -> Ends | None:
    """Two points, counts first; None for any other line."""
    said = typed.strip()
    if _TURNED.search(said):
        return None
    for pattern, made in _PATTERNS:
        found = pattern.fullmatch(said)
        if found is not None and found["unit"].lower() not in ("v", "mv") and unit_said(found["unit"]) is not None:
            return made(found)
    return None
