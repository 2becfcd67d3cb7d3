"""Parts and connections as entries of the project file."""

from __future__ import annotations

from collections.abc import Iterable

from lesart.core.notes import Key, Written
from lesart.core.quantity import plain_number
from lesart.core.wire.hookup import Join

PREFIXED = ("Ω", "V", "A", "W", "F", "Hz")
"""Units that makers write with a prefix."""
JOINS: Key = ("wire", "joins")
"""The list of connections."""


def join_entry(join: Join) -> dict[str, Written]:
    """A join as the project file has it."""
    entry: dict[str, Written] = {"pin": str(join.pin), "to": str(join.to)}
    if join.through:
        entry["through"] = join.through
    if join.colour:
        entry["colour"] = join.colour
    return entry


def written(value: float, unit: str) -> str:
    """A value as the project file has it: ``4.7 kΩ``."""
    for prefix, scale in (("M", 1e6), ("k", 1e3), ("", 1.0), ("m", 1e-3), ("µ", 1e-6), ("n", 1e-9), ("p", 1e-12)):
        if abs(value) >= scale * (1 - 1e-9) and not (unit == "Ω" and scale < 1):
            return f"{plain_number(value / scale, 6)} {prefix}{unit}".replace("−", "-")
    return f"{plain_number(value, 6)} {unit}".replace("−", "-")


def shown(value: float, unit: str) -> str:
    """A value for a person: with a prefix where the unit takes one; a unitless share as it is."""
    if unit in PREFIXED:
        return written(value, unit)
    return f"{plain_number(value, 6)} {unit}".removesuffix(" 1")


def free_name(taken: Iterable[str], wanted: str) -> str:
    """The name, with a number after it where there is one already."""
    names, number, name = set(taken), 1, wanted
    while name in names:
        number += 1
        name = f"{wanted} {number}"
    return name
