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
ONE_LIGHT = "green"
"""A colour of one light."""


def lamp_tables(tables: Table) -> dict[str, Any]:
    """The tables of panels that are lamps."""
    panels = tables.get("panels", {})
    panels = panels if isinstance(panels, Mapping) else {}
    return {name: each for name, each in panels.items() if isinstance(each, Mapping) and each.get("kind") == LAMPS.name}


def with_currents_of_lamps(hookup: Hookup, tables: Table) -> Hookup:
    """The hook-up with the currents of every chain of lamps where it states none itself.

    Those of its panel are usually all lit in that one's own colour, and at worst all white; without a panel one light
    of each lamp, and all of them, at their brightest.
    """
    parts, stated, panels = dict(hookup.parts), tables.get("parts", {}), lamp_tables(tables)
    for name, part in hookup.parts.items():
        if part.kind.name != LAMPS_PART:
            continue
        panel = _panel_of(name, panels)
        alone = LampPanel(name, int(part.value("lamps", 1)), 1, "white", colour=ONE_LIGHT)
        found = {DRAWS: (panel or alone).usual_a, AT_WORST: (panel or alone).most_a}
        own = {key: value for key, value in found.items() if key not in stated.get(name, {})}
        count = {"lamps": panel.count} if panel is not None else {}
        parts[name] = replace(part, values={**part.values, **own, **count})
    return hookup if parts == hookup.parts else replace(hookup, parts=parts)


def _panel_of(name: str, panels: Mapping[str, Any]) -> LampPanel | None:
    panel, _ = check_panel(name, panels[name], {}, {}) if name in panels else (None, [])
    return panel if isinstance(panel, LampPanel) else None
