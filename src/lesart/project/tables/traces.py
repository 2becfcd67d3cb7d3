"""Traces of panels, ``[panels.NAME.trace]``, and controllers of one's own, ``[controllers.NAME]``."""

from __future__ import annotations

from collections.abc import Mapping

from lesart.core.errors import Problem
from lesart.core.glass.bus.controller import COMMAND, CONTROLLER, Controller, build_controller
from lesart.core.glass.bus.controllers import CONTROLLERS
from lesart.core.glass.panels.panel import Panel
from lesart.core.pace.trace import PanelTrace, is_scanned, trace_parameters
from lesart.core.parameters import read_table, shown
from lesart.project.model import Table

LAST_ADDRESS = 0x7F


def check_controller(name: str, table: Table) -> tuple[Controller | None, list[Problem]]:
    """The controller, or every problem of its tables."""
    place = f"controllers.{name}"
    values, problems = read_table(CONTROLLER, table, place, also=("commands",))
    if name in CONTROLLERS:
        problems.append(Problem(place, "", "a controller of this name is built in; give it another"))
    written = table.get("commands", [])
    if not isinstance(written, list):
        problems.append(Problem(f"{place}.commands", shown(written), "it must be a list of tables"))
        written = []
    commands = []
    for index, each in enumerate(written):
        found, more = read_table(COMMAND, each, f"{place}.commands[{index}]")
        problems += more
        commands.append(found)
    if problems:
        return None, problems
    try:
        return build_controller(name, values, commands), []
    except ValueError as error:
        return None, [Problem(place, "", str(error))]


def check_traces(
    tables: Table, panels: Mapping[str, Panel], controllers: Mapping[str, Controller], problems: list[Problem]
) -> dict[str, PanelTrace]:
    """Traces by panel; problems are added to ``problems``."""
    found = {}
    for name, panel in panels.items():
        table = tables["panels"][name].get("trace")
        if table is None:
            continue
        place = f"panels.{name}.trace"
        values, wrong = read_table(trace_parameters(panel), table, place)
        if not wrong:
            wrong = _wrong(place, values, panel, controllers)
        problems += wrong
        if not wrong:
            found[name] = PanelTrace(name, values, is_scanned(panel))
    return found


def _wrong(place: str, values: Table, panel: Panel, controllers: Mapping[str, Controller]) -> list[Problem]:
    """Problems between several values."""
    if is_scanned(panel):
        return []
    problems = []
    known = [*CONTROLLERS, *controllers]
    if values["controller"] and values["controller"] not in known:
        problems.append(Problem(f"{place}.controller", shown(values["controller"]), f"it must be {' or '.join(known)}"))
    if values["address"] and not _is_address(values["address"]):
        said = "it must be an address from 0x00 to 0x7F, like 0x3C"
        problems.append(Problem(f"{place}.address", shown(values["address"]), said))
    return problems


def _is_address(written: str) -> bool:
    try:
        return 0 <= int(written, 0) <= LAST_ADDRESS
    except ValueError:
        return False
