"""What a chain of lamps draws from its supply: its part in the hook-up has it from its panel."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import replace
from typing import Any

from lesart.core.glass.panels.lamp_panel import LAMPS, LampPanel
from lesart.core.wire.hookup import Hookup
from lesart.project.model import Table
from lesart.project.tables.panels import check_panel

LAMPS_PART = "colour lamps"
DRAWS, AT_WORST = "draws", "at_worst"


def lamp_tables(tables: Table) -> dict[str, Any]:
    """The tables of panels that are lamps."""
    panels = tables.get("panels", {})
    panels = panels if isinstance(panels, Mapping) else {}
    return {name: each for name, each in panels.items() if isinstance(each, Mapping) and each.get("kind") == LAMPS.name}


def with_currents_of_lamps(hookup: Hookup, tables: Table) -> Hookup:
    """The hook-up with the currents of every part that is the chain of a panel, where it states none itself: usually
    all lit in the panel's own colour, at worst all white."""
    parts, stated = dict(hookup.parts), tables.get("parts", {})
    for name, table in lamp_tables(tables).items():
        part = parts.get(name)
        if part is None or part.kind.name != LAMPS_PART:
            continue
        panel, _ = check_panel(name, table, {}, {})
        if isinstance(panel, LampPanel):
            found = {DRAWS: panel.usual_a, AT_WORST: panel.most_a}
            own = {key: value for key, value in found.items() if key not in stated.get(name, {})}
            parts[name] = replace(part, values={**part.values, **own})
    return hookup if parts == hookup.parts else replace(hookup, parts=parts)
