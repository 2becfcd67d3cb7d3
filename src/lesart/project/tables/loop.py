"""The tables of the loop: its processor and limits, and changes to its tasks."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import replace
from typing import Any

from lesart.core.errors import Problem
from lesart.core.glass.panels.transfer import FOUR_WIRE, TWO_WIRE, Bus
from lesart.core.pace.limits import Limits
from lesart.core.pace.task import NS, SETTINGS, TASK, WHOLE_WORDS, WORDS, Processor, Task
from lesart.core.parameters import read_table, shown
from lesart.project.model import LoopSettings

LONGEST_NAME = 60
MS = NS // 1000


def check_loop(table: object) -> tuple[LoopSettings, list[Problem]]:
    """The settings, or the defaults, with every problem of the tables."""
    if not isinstance(table, Mapping):
        return LoopSettings(), [Problem("loop", shown(table), "it must be a table of keys")]
    values, problems = read_table(SETTINGS, table, "loop", also=("tasks",))
    tasks = table.get("tasks", {})
    overruled: dict[str, Mapping[str, Any]] = {}
    if not isinstance(tasks, Mapping) or not all(isinstance(each, Mapping) for each in tasks.values()):
        problems.append(
            Problem("loop.tasks", shown(tasks), 'it must hold tables with names, like [loop.tasks."blink"]')
        )
        tasks = {}
    for name, each in tasks.items():
        overruled[name] = _overruled(name, each, problems)
    if problems:
        return LoopSettings(), problems
    limits = Limits(
        values["most_bus"] / 100,
        values["most_lag"],
        values["active"],
        values["idle"],
        values["shown"],
        values["capacity"],
        values["others"],
        values["usable"] / 100,
    )
    clocks = values["operation"] or WORDS[values["word"]]
    whole_clocks = values["whole_operation"] or WHOLE_WORDS[values["word"]]
    processor = Processor(values["clock"], clocks, whole_clocks)
    return LoopSettings(processor, limits, values["seed"], values["shutter"], overruled), []


def _overruled(name: str, table: Mapping[str, Any], problems: list[Problem]) -> Mapping[str, Any]:
    place = f"loop.tasks.{name}"
    if len(name) > LONGEST_NAME:
        problems.append(Problem(place, shown(name), f"a task's name has {LONGEST_NAME} characters at most"))
    values, found = read_table(TASK, table, place)
    problems += found
    if found:
        return {}
    if values["longest"] is not None and "shortest" in table and values["longest"] < values["shortest"]:
        problems.append(Problem(f"{place}.longest", shown(table["longest"]), "it must not be below shortest"))
    if values["period"] == 0 and not values["shortest"] and not values["off"]:
        problems.append(
            Problem(f"{place}.period", shown(table["period"]), "what takes no time cannot run in each turn")
        )
    return {key: values[key] for key in table if key in values}


def overrule(task: Task, said: Mapping[str, Any]) -> Task | None:
    """A task with a person's changes; None where it is left out."""
    if said.get("off"):
        return None
    usual = _sending_ns(task, said) if said.get("data") else task.shortest_ns
    shortest = round(said["shortest"] * MS) if "shortest" in said else usual
    longest = (
        round(said["longest"] * MS)
        if said.get("longest") is not None
        else (shortest if "shortest" in said or said.get("data") else task.longest_ns)
    )
    return replace(
        task,
        period_ns=round(said["period"] * MS) if "period" in said else task.period_ns,
        shortest_ns=shortest,
        longest_ns=max(longest, shortest),
        **{key: said[key] for key in ("does", "runs", "priority", "bus", "data", "closed") if key in said},
    )


def _sending_ns(task: Task, said: Mapping[str, Any]) -> int:
    """Duration of its bytes on its bus: on two wires where the bus has that name, else on four."""
    named = str(said.get("bus", task.bus))
    bus = Bus(TWO_WIRE if named.startswith(TWO_WIRE) else FOUR_WIRE, said.get("clock", 100_000.0))
    return round(bus.transfer_s(said["data"]) * NS)


def task_of_its_own(name: str, said: Mapping[str, Any]) -> Task | None:
    """A task of a person's own: with defaults where not stated."""
    usual = Task(name, "work", 100 * MS, MS, MS)
    return overrule(usual, said)
