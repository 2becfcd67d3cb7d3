"""Shared by tables of a channel: reading lists of tables, and quantities in its unit, with their problems."""

from __future__ import annotations

from collections.abc import Mapping

from lesart.core.errors import Problem, UnitError
from lesart.core.parameters import shown
from lesart.core.quantity import Quantity
from lesart.core.units import Unit
from lesart.project.model import Table


def tables_at(table: Table, key: str, place: str, problems: list[Problem]) -> list[Table]:
    """An array of tables under a key; a problem for anything else."""
    found = table.get(key, [])
    if isinstance(found, list) and all(isinstance(entry, Mapping) for entry in found):
        return found
    problems.append(Problem(f"{place}.{key}", shown(found), f"it must be a list of tables, [[{place}.{key}]]"))
    return []


def in_unit(quantity: Quantity, unit: Unit, place: str, problems: list[Problem]) -> float:
    """A quantity in the channel's unit, or a problem and 0."""
    if quantity.unit.symbol == "1" and unit.symbol != "1":
        problems.append(Problem(place, str(quantity), f'it has no unit; write it like "{quantity} {unit}"'))
        return 0.0
    try:
        return quantity.to(unit)
    except UnitError as error:
        problems.append(Problem(place, f'"{quantity}"', str(error).rstrip(".")))
        return 0.0


def difference_at(quantity: Quantity, unit: Unit, place: str, problems: list[Problem]) -> float:
    """A difference in the channel's unit, or a problem and 0."""
    try:
        return quantity.difference_in(unit)
    except UnitError as error:
        problems.append(Problem(place, f'"{quantity}"', str(error)))
        return 0.0
