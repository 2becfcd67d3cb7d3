"""The converter that a phrase ends with: ``…, 3.3 V, 12 bit``, ``… on a 10-bit converter at 5 V``."""

from __future__ import annotations

import re
from collections.abc import Callable, Iterator

from lesart.core.dataclass_later import dataclass
from lesart.core.usual import REFERENCES
from lesart.desk.entries.recipes.kinds.signals import SIGNALS
from lesart.desk.entries.recipes.phrases.phrase import recipe_in

LONGEST = 200
"""Letters of a phrase that are looked at; longer ones are no phrase."""
ZERO_OF_MANY = "2.5"
"""Volts at which sensors of currents in either direction rest."""
_VOLTS = r"\d+(?:[.,]\d+)?\s*V(?![\w/])"
_BITS = r"\d{1,2}\s*-?\s*bits?(?!\w)"
_CALLED = r"(?:adc|converter|a?v?ref|reference|supply|internal|input|vcc|vdd|full|scale)"
_SMALL = r"(?:of|at|on|an?|with|and|the|from|by|into|to|=|is)"
_TAIL = re.compile(rf"(?:[\s,;]|{_VOLTS}|{_BITS}|\b{_CALLED}\b|(?<![\w.]){_SMALL}(?![\w.]))+", re.IGNORECASE)
_BREAK = re.compile(r"[\s,;]+")
_SHARE = re.compile(r"a share from (?P<begin>\S+ ?m?V) to (?P<end>\S+ ?m?V)$")
_HALF = re.compile(
    r"[\s,;]*\b(?:zero|centred|centered|offset|midpoint|rests?|idles?)?\s*(?:at|on|is|=|about|around)?\s*"
    r"(?:half(?:\s+of)?\s+(?:the\s+|its\s+)?(?:supply|vcc|vdd|reference)|v(?:cc|dd)\s*/\s*2)(?:\s+at\s+(?:0|zero)(?:\s*A)?)?\b",
    re.IGNORECASE,
)
"""Where a sensor of currents rests."""


@dataclass(frozen=True)
class Split:
    """A phrase in two: what it is, and the converter it is read by; ``volts`` is its reference, empty if unsaid."""

    head: str
    tail: str
    volts: str


def with_converter(said: str, rule: Callable[[str], str]) -> str:
    """What ``rule`` makes of the phrase without the converter at its end, and that converter; empty where the rule
    makes nothing of it, or where what it makes has no converter."""
    for split in _splits(said):
        found = rule(_at_half(split))
        if found and (share := _SHARE.match(found)):
            found = f"a sensor in volts from {share['begin']} to {share['end']}, 0 to 100 %"
        recipe = recipe_in(found, SIGNALS) if found else None
        if recipe is not None and {"bits", "reference"} <= {ask.word for ask in SIGNALS[recipe[0]].asks}:
            return f"{found}, {split.tail}"
    return ""


def without_half(said: str) -> str:
    """The phrase without ``zero at half the supply``, which is what is assumed."""
    return _HALF.sub(" ", said).strip()


def _at_half(split: Split) -> str:
    """``zero at half the supply`` in volts, where the reference is said, which is that supply."""
    if not split.volts:
        return without_half(split.head)
    half_v = float(split.volts.rstrip("Vv ").replace(",", ".")) / 2
    return _HALF.sub(f", zero {half_v:g} V", split.head, count=1)


def _splits(said: str) -> Iterator[Split]:
    """Ways to cut the phrase, the shortest head first: one reference and one number of bits at most follow."""
    if len(said) > LONGEST:
        return
    for cut in _BREAK.finditer(said):
        tail = said[cut.end() :]
        volts, bits = re.findall(_VOLTS, tail), re.findall(_BITS, tail, re.IGNORECASE)
        is_one = len(volts) <= 1 and len(bits) <= 1 and bool(volts or bits)
        if not (is_one and _TAIL.fullmatch(tail)):
            continue
        called = re.search(rf"\b{_CALLED}\b", tail, re.IGNORECASE)
        if volts and not (bits or called or _is_usual(volts[0])):
            continue  # 2.5 V alone may be the zero of a sensor
        yield Split(said[: cut.start()], _as_values(volts, bits), volts[0] if volts else "")


def _is_usual(volts: str) -> bool:
    """True for a reference that is no usual zero of a sensor too."""
    value = volts.rstrip("Vv ").replace(",", ".")
    return value != ZERO_OF_MANY and f"{value} V" in REFERENCES


def _as_values(volts: list[str], bits: list[str]) -> str:
    said = [f"reference = {each}" for each in volts]
    return ", ".join([*said, *(f"bits = {int(re.sub(r'[^0-9]', '', each))}" for each in bits)])
