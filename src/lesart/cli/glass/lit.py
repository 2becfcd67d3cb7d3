"""``lesart glass``: a panel lit at a time or by a test pattern, and the bytes for it."""

from __future__ import annotations

import argparse
from collections import Counter
from typing import Any

from lesart.cli.hand import lit_object
from lesart.cli.printed.answer import print_json
from lesart.core.errors import RequestError
from lesart.core.glass.bus.counting import read_counting
from lesart.core.glass.bus.patterns import pattern, patterns_of, steps_of
from lesart.core.glass.bus.sent_bytes import bytes_on_bus, sent_for
from lesart.core.glass.panels.frame import ColourFrame, Frame
from lesart.core.glass.panels.panel import Memory, Panel
from lesart.core.quantity import counted
from lesart.desk.desk import Desk
from lesart.desk.picture import context_of, memory_at
from lesart.study.glass import text_held
from lesart.study.views import Glass

MOST_SAID, SAID = 1024, 32
"""Most bytes of a run that are printed in full, and how many of a longer one."""


def show(options: argparse.Namespace, desk: Desk, panel: Panel) -> int:
    """Print it."""
    found = _object(panel, _memory(options, desk, panel), _light(options, desk, panel.name))
    if options.json:
        print_json(found)
        return 0
    light = found["light"]["says"] if found["light"] else ""
    print(f"{panel.name}, {panel.says()}" + (f"   {light}" if light else ""))
    for row in found["lit"]:
        print(f"   {row or 'dark'}")
    for each in found["sent"]:
        print(f"{each['what']}{', command' if each['command'] else ''}: {_cut(each['bytes'])}")
    print(f"{counted(found['on_wires'], 'byte')} on the wires")
    return 0


def _cut(written: str) -> str:
    """Bytes in hex; for a colour picture only its beginning, since all of it fills hundreds of lines."""
    if len(written) <= 3 * MOST_SAID:
        return written
    return f"{written[: 3 * SAID - 1]} … and {(len(written) + 1) // 3 - SAID} more; --json has all of them"


def _colours(frame: Frame) -> list[dict[str, Any]] | None:
    """Number of pixels by colour, the most first; null for monochrome panels."""
    if not isinstance(frame, ColourFrame):
        return None
    pixels = zip(*(frame.colours[place::3] for place in range(3)), strict=True)
    return [{"colour": f"#{bytes(colour).hex()}", "pixels": count} for colour, count in Counter(pixels).most_common()]


def _memory(options: argparse.Namespace, desk: Desk, panel: Panel) -> Memory:
    if options.pattern is None and options.count is None:
        if options.at is not None:
            desk.put_cursor(options.at)
        return memory_at(desk, panel.name)
    if options.count is not None:
        counting = read_counting(options.count, panel)
        if not 1 <= options.step <= counting.steps:
            raise RequestError(f"--step {options.step}: the count has steps from 1 to {counting.steps}.")
        return counting.memory(panel, options.step - 1)
    names = patterns_of(panel)
    if options.pattern not in names:
        raise RequestError(f'"{options.pattern}" is not a pattern of {panel.name}; it has {", ".join(names)}.')
    steps = steps_of(panel, options.pattern)
    if not 1 <= options.step <= steps:
        raise RequestError(f'--step {options.step}: "{options.pattern}" has steps from 1 to {steps}.')
    return pattern(panel, options.pattern, options.step - 1)


def _light(options: argparse.Namespace, desk: Desk, name: str) -> Glass | None:
    """Its light at the cursor, with active alarms; a test pattern has none."""
    if options.pattern is not None or options.count is not None:
        return None
    return next(each for each in context_of(desk).glasses if each.name == name)


def _object(panel: Panel, memory: Memory, seen: Glass | None) -> dict[str, Any]:
    """The panel for scripts. Codes are those of the visible cells; for a character panel with its text."""
    frame = panel.seen(panel.lit(memory))
    sent = sent_for(panel, memory)
    return {
        "panel": panel.name,
        "kind": panel.kind,
        "text": text_held(panel, memory),
        "light": None if seen is None else {"says": seen.light, "behind": seen.ground, "lit": seen.lit},
        "lit": lit_object(frame),
        "colours": _colours(frame),
        "sent": [{"what": each.what, "command": each.command, "bytes": each.data.hex(" ")} for each in sent],
        "on_wires": bytes_on_bus(panel, sent),
    }
