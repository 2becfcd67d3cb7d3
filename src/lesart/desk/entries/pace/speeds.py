"""Scan rates of displays and clocks of buses, typed in 8 Pace."""

from __future__ import annotations

import re

from lesart.core.errors import RequestError
from lesart.core.glass.panels.panel import Panel
from lesart.core.glass.panels.scan import PARAMETERS as SCAN
from lesart.core.glass.panels.transfer import FOUR_WIRE, TWO_WIRE
from lesart.core.notes import Key
from lesart.core.quantity import counted, listed, plain_number
from lesart.desk.entries.edit_result import Edited
from lesart.project.model import Project
from lesart.project.text import Editor
from lesart.project.toml_values import value_at

_TWO, _FOUR = r"i2c|i²c|iic|twi|two[\s-]wire", r"spi|four[\s-]wire"
_RATE = r"(?P<rate>\d+(?:[.,]\d+)?)\s*(?P<prefix>[kM])(?:Hz)?(?!\w)"
_BUS_SAID = re.compile(
    rf"(?:set\s+)?(?:the\s+)?(?:(?:(?P<two>{_TWO})|(?P<four>{_FOUR}))(?:\s+bus)?|bus)"
    rf"(?:\s+(?:clock|speed|frequency|rate|runs|is|at|of|to))*\s*[=:]?\s*{_RATE}|{_RATE.replace('P<', 'P<b_')}\s+"
    rf"(?:(?P<b_two>{_TWO})|(?P<b_four>{_FOUR})|bus)(?:\s+(?:bus|clock))?",
    re.IGNORECASE,
)
_TIME = r"(?P<value>\d+(?:[.,]\d+)?\s*[mµu]s)"
_HERTZ = r"(?P<value>\d+(?:[.,]\d+)?\s*Hz)"
_OF_SCAN = tuple(
    (re.compile(pattern, re.IGNORECASE), name)
    for pattern, name in (
        (rf"{_TIME}\s+(?:(?:for|per|a|each|every|on)\s+)+digit", "on_time"),
        (rf"(?:light\s+)?(?:each|every|a|one)\s+digit\s+(?:is\s+)?(?:lit\s+|on\s+)?(?:for\s+)?{_TIME}", "on_time"),
        (rf"(?:digits?(?:'s)?\s+)?on[\s-]?time\s*(?:of|is|=|:)?\s*{_TIME}", "on_time"),
        (
            rf"(?:blank(?:ing)?|dead|dark)(?:\s+(?:time|interval|between\s+digits))*\s*(?:of|is|=|:)?\s*{_TIME}",
            "blanking",
        ),
        (rf"(?:at\s+least|wanted|no\s+less\s+than|min(?:imum)?)\s+{_HERTZ}\s+refresh(?:\s+rate)?", "wanted"),
        (rf"wanted\s+refresh(?:\s+rate)?\s*(?:of|is|=|:)?\s*{_HERTZ}", "wanted"),
    )
)
MULTIPLES = {"k": 1e3, "m": 1e6}


def bus_speed(editor: Editor, text: str, project: Project, panel: str, typed: str) -> Edited | None:
    """The text with the clock of a bus set for all panels and tasks on it, since they share it; None where no bus was
    named. Raises RequestError where nothing is on it."""
    found = _BUS_SAID.fullmatch(typed.strip())
    if found is None:
        return None
    rate, prefix = found["rate"] or found["b_rate"], found["prefix"] or found["b_prefix"]
    wires = TWO_WIRE if found["two"] or found["b_two"] else FOUR_WIRE if found["four"] or found["b_four"] else ""
    there = {name: each.bus.kind for name, each in project.panels.items() if each.bus is not None}
    wires = wires or there.get(panel) or next(iter(there.values()), TWO_WIRE)
    keys: list[Key] = [("panels", name, "clock") for name, kind in there.items() if kind == wires]
    keys += [
        ("loop", "tasks", name, "clock")
        for name, said in project.loop.overruled.items()
        if said.get("data") and str(said.get("bus", "")).startswith(wires)
    ]
    if not keys:
        raise RequestError(
            f"No display is on a {wires} bus, and no task sends over one; one that does says so, like report every 1 s "
            f"sends 32 bytes over {wires} bus at 400 kHz."
        )
    written = f"{rate.replace(',', '.')} {prefix.lower() if prefix in 'kK' else prefix.upper()}Hz"
    before, on_it = text, dict.fromkeys(str(key[-2]) for key in keys)
    for key in keys:
        home = project.homes.get(key)
        at = home.key if home is not None and home.same and value_at(project.tables, key) is None else key
        text = editor.with_value(text, at, written)
    if text == before:
        raise RequestError(f"The {wires} bus of {listed(list(on_it))} runs at {written} already.")
    return Edited(text, f"{wires} bus of {listed(list(on_it))}: {written}", keys[0])


def lit_in_turn(editor: Editor, text: str, panel: Panel, rate_hz: float) -> Edited:
    """The text with a refresh rate for all digits of a panel.

    Raises RequestError where it does not scan, or the rate is too high.
    """
    scan = panel.scan
    if scan is None or panel.columns < 2:
        raise RequestError(f"{panel.name} has no digits that the program lights in turn.")
    on_ms = 1e3 / rate_hz / panel.columns - scan.blanking_ms
    if on_ms <= 0:
        raise RequestError(
            f"{panel.name}: of {plain_number(1e3 / rate_hz / panel.columns, 3)} ms for each of its digits nothing is "
            f"left behind {plain_number(scan.blanking_ms, 3)} ms of blanking; at "
            f"{plain_number(500 / panel.columns / scan.blanking_ms, 3)} Hz they are lit half of the time."
        )
    key: Key = ("panels", panel.name, "scan", "on_time")
    told = f"{panel.name}: on-time {plain_number(on_ms, 4)} ms"
    told += f", so that each of its {counted(panel.columns, 'digit')} is lit {plain_number(rate_hz, 4)} times a second"
    return Edited(editor.with_value(text, key, f"{plain_number(on_ms, 6)} ms"), told, key)


def scan_value(editor: Editor, text: str, panel: Panel | None, typed: str) -> Edited | None:
    """The text with a value of how digits are lit in turn, by its name: ``2 ms per digit``, ``blanking 50 µs``; None
    where none is named, or no digits are lit so. Raises RequestError for one that it cannot have."""
    said = typed.strip()
    for pattern, name in _OF_SCAN:
        if (found := pattern.fullmatch(said)) is None or panel is None:
            continue
        setting = next(each for each in SCAN if each.name == name)
        value = re.sub(r"(?<=\d)(?=[^\W\d])", " ", found["value"].strip(), count=1)
        try:
            setting.read(value)
        except ValueError as error:
            raise RequestError(f'{setting.title} = "{value}"; {error}.') from error
        key: Key = ("panels", panel.name, "scan", name)
        changed = editor.with_value(text, key, value)
        if changed == text:
            raise RequestError(f"{panel.name}: {setting.title} is {value} already.")
        return Edited(changed, f"{panel.name}: {setting.title} {value}", key)
    return None


def drawn_at(editor: Editor, text: str, project: Project, panel: str, rate_hz: float) -> Edited:
    """The text with a drawing rate for all faces of a panel. Raises RequestError where it has none."""
    faces = project.faces_on(panel)
    if not faces:
        raise RequestError(f"No face is drawn on {panel} yet; + in 7 Glass adds a field.")
    written = f"{plain_number(rate_hz, 6)} Hz"
    for face in faces:
        text = editor.with_value(text, ("faces", face.name, "redraw"), written)
    return Edited(text, f"{panel}: drawn at {written}", ("faces", faces[0].name, "redraw"))
