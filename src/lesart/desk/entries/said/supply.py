"""The supply that a line about a part states, held against what the part takes: ``16x2 lcd at 3.3 V``."""

from __future__ import annotations

import re

from lesart.core.errors import RequestError
from lesart.core.quantity import listed, plain_number
from lesart.core.wire.part import PartKind

_SUPPLY = re.compile(
    r"(?:\b(?:at|on|from|for|with)\s+)?(?<![\w.,])(\d{1,2}(?:[.,]\d{1,2})?)\s*v(?:olts?)?\b(?:\s+(?:supply|power))?"
    r"|\b(\d)v(\d)\b",
    re.IGNORECASE,
)


def without_supply(said: str, kind: PartKind) -> str:
    """The text without a voltage of the part's supply; as it was where nobody knows what the part takes.

    Raises RequestError for a voltage that it does not take.
    """
    found = _SUPPLY.search(said)
    supplies = [pin for pin in kind.pins if "supply" in pin.roles]
    ranges = [(pin.lowest_v or 0.0, pin.highest_v) for pin in supplies if pin.highest_v is not None]
    if found is None or not ranges:
        return said
    volts = float(f"{found[2]}.{found[3]}" if found[2] else found[1].replace(",", "."))
    if not any(low <= volts <= high for low, high in ranges):
        takes = listed([f"{plain_number(low, 3)} to {plain_number(high, 3)} V" for low, high in ranges])
        raise RequestError(f"The supply of {kind.called} is {takes}, not {plain_number(volts, 3)} V.")
    return " ".join(f"{said[: found.start()]} {said[found.end() :]}".split())
