"""The table of the pack: the processor that firmware is written for."""

from __future__ import annotations

from lesart.core.errors import Problem
from lesart.core.pack.settings import SETTINGS, PackSettings, settings_of
from lesart.core.parameters import read_table


def check_pack(table: object) -> tuple[PackSettings, list[Problem]]:
    """The settings, or the defaults, with every problem of the table."""
    values, problems = read_table(SETTINGS, table, "pack")
    return (PackSettings() if problems else settings_of(values)), problems
