"""``+`` on Pace's leaf of traces: the capture of a panel's lines; and moving along lanes and transmissions."""

from __future__ import annotations

import re
from collections.abc import Mapping
from dataclasses import replace
from typing import Any

from lesart.core.errors import LesartError, RequestError
from lesart.core.glass.panels.lamp_panel import LampPanel
from lesart.core.glass.panels.panel import Panel
from lesart.core.glass.panels.segment_panel import DRIVER, SegmentPanel
from lesart.core.pace.trace import FOUR, LINES, ONE, PARALLEL, TWO, is_scanned
from lesart.core.raw.edges import Edges
from lesart.desk.entries.edit_result import Edited
from lesart.desk.state import State
from lesart.project.captures.traces.vcd_read import read_vcd
from lesart.project.new.trace import found_in_trace
from lesart.project.text import Editor
from lesart.study.bench import Bench
from lesart.study.wires.tracing import BusSeen, seen


def moved_in_pace(state: State, bench: Bench, by: int, *, by_screens: bool = False) -> State:
    """Move along the lanes, by quarters or whole screens; on a bus trace by transmissions or drawings."""
    found = _front_bus(state, bench) if state.leaf_of(state.step) == "trace" else None
    if found is None:
        return replace(
            state,
            pace=replace(state.pace, first_quarter=max(state.pace.first_quarter + by * (4 if by_screens else 1), 0)),
        )
    last = len(found.words.start_s) - 1
    at = min(max(last + state.pace.transmission, 0), max(last, 0))
    if by_screens:
        ends = [int(found.obeyed.part[each.behind - 1]) for each in found.against.redraws]
        beyond = [end for end in ends if (end - at) * by > 0]
        at = (min(beyond) if by > 0 else max(beyond)) if beyond else at
    else:
        at = min(max(at + by, 0), max(last, 0))
    return replace(state, pace=replace(state.pace, transmission=at - last))


def _front_bus(state: State, bench: Bench) -> BusSeen | None:
    """The bus trace of the panel in front, or of the first one that has a trace."""
    names = sorted(state.project.traces, key=lambda name: name != state.panel)
    try:
        found = seen(state.project, bench, names[0], state.cursor_s) if names else None
    except LesartError:
        return None
    return found if isinstance(found, BusSeen) else None


def add_trace(editor: Editor, state: State, bench: Bench, typed: str) -> Edited:
    """The trace of the panel in front; which signal is which is seen by how they behave, else by their names.

    Raises RequestError where there is no panel, CaptureError where the file is none.
    """
    name = state.panel or next(iter(state.project.panels), "")
    if not name:
        raise RequestError("The project has no panel that a trace could be of.")
    panel, lines = state.project.panels[name], read_vcd(bench.folder / typed.strip()).lines
    entry = {"capture": typed.strip(), **(_seen_on(panel, lines) or _guessed(panel, list(lines)))}
    return Edited(
        editor.with_table(state.history.text, ("panels", name, "trace"), entry),
        f"added: trace of {name}",
        ("panels", name, "trace", next(iter(entry))),
    )


def _seen_on(panel: Panel, lines: Mapping[str, Edges]) -> Mapping[str, Any]:
    """The signals of a recognised display of its kind; none where there is none."""
    return next(
        (
            display.trace
            for _, display in found_in_trace(lines).displays
            if display.panel["kind"] == panel.kind and ("digits" in display.trace) == is_scanned(panel)
        ),
        {},
    )


def _guessed(panel: Panel, signals: list[str]) -> Mapping[str, Any]:
    return _digits_of(panel, signals) if is_scanned(panel) else _wires_of(panel, signals)


CALLED = {
    "clock": ("clock", "clk", "scl", "sck", "enable", "strobe"),
    "data": ("data", "sda", "mosi", "sdi", "din"),
    "select": ("select", "cs", "ss", "chip"),
    "command": ("command", "dc", "rs", "a0"),
}
"""Usual names of such signals."""


def _wires_of(panel: Panel, signals: list[str]) -> dict[str, str]:
    if isinstance(panel, LampPanel):
        return {"wires": ONE, "data": next((each for each in signals if "d" in each.lower()), signals[0])}
    found: dict[str, str] = {}
    for line, words in CALLED.items():
        name = next((each for word in words for each in signals if word in each.lower().split(".")[-1]), None)
        if name is not None and name not in found.values():
            found[line] = name
    numbered = sorted(
        (each for each in signals if each[-1:].isdigit() and each not in found.values()),
        key=lambda each: int(re.sub(r"\D", "", each)),
    )
    if len(numbered) in (4, 8):
        return {
            "wires": PARALLEL,
            **{line: found[line] for line in ("clock", "command") if line in found},
            "data": " ".join(numbered),
        }
    left = [each for each in signals if each not in found.values()]
    for line in ("clock", "data"):
        if line not in found and left:
            found[line] = left.pop(0)
    if isinstance(panel, SegmentPanel):
        # A driver of digits has two lines and no address; registers have no select but a latch, or none at all.
        if panel.is_addressed:
            return {"wires": TWO, **found}
        return {"wires": LINES if panel.drive == DRIVER and "select" not in found else FOUR, **found}
    return {"wires": FOUR if "select" in found else TWO, **found}


def _digits_of(panel: Panel, signals: list[str]) -> dict[str, str]:
    """The digit lines: the numbered signals where their number fits, else the first ones."""
    numbered = [each for each in signals if each[-1:].isdigit()]
    digits = numbered if len(numbered) == panel.columns else signals[: panel.columns]
    return {"digits": " ".join(digits), "segments": " ".join(each for each in signals if each not in digits)}
