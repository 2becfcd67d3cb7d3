"""The tables of the bench's small sums, and of what was measured while the hook-up was brought up."""

from __future__ import annotations

from collections.abc import Mapping

from lesart.core.errors import Problem
from lesart.core.parameters import Parameter, read_table, shown
from lesart.core.wire.bringup import bring_up
from lesart.core.wire.check import Check, is_answer
from lesart.core.wire.hookup import Hookup
from lesart.core.wire.sums import SUMS, Sum
from lesart.project.model import Table
from lesart.project.tables.kinds import kind_of

SUM = (
    Parameter(
        "part",
        "part",
        "text",
        "name of the part that the result is written to; empty: the sum's own name",
        "",
        longest=60,
        names="parts",
    ),
)
"""Parameters of every ``[sums.NAME]`` besides its ``kind`` and those of that kind."""


def check_sum(name: str, table: Table) -> tuple[Sum | None, list[Problem]]:
    """One sum, or every problem of its table."""
    place = f"sums.{name}"
    kind, missing = kind_of(table, SUMS, place)
    if kind is None:
        return None, missing
    values, problems = read_table((*SUM, *kind.parameters), table, place, also=("kind",))
    if problems:
        return None, problems
    part = values.pop("part")
    return Sum(name, kind, values, part or name), []


def check_measured(tables: Table, hookup: Hookup, problems: list[Problem]) -> tuple[tuple[Check, ...], dict[str, str]]:
    """The bring-up list, and what was measured by the key of its check.

    A key without a check is kept and not judged: its part may come back.
    """
    wire = tables.get("wire", {})
    found = wire.get("measured", {}) if isinstance(wire, Mapping) else {}
    if not isinstance(found, Mapping) or not all(isinstance(value, str) for value in found.values()):
        wanted = 'it must be a table of texts, like "node.3V3 volts" = "3.31 V"'
        problems.append(Problem("wire.measured", shown(found), wanted))
        return (), {}
    # While the hook-up has problems there is no list to judge by.
    listed = () if problems else bring_up(hookup)
    checks = {check.key: check for check in listed}
    for key, value in found.items():
        if key in checks and (why := is_answer(checks[key], value)):
            problems.append(Problem(f"wire.measured.{key}", shown(value), why))
    return listed, dict(found)
