"""``lesart glass``: a panel lit at a moment or by a test pattern, and the bytes that are sent for it."""

from __future__ import annotations

import argparse
from typing import Any

from lesart.cli.answer import print_json
from lesart.cli.hand import lit_object
from lesart.core.errors import RequestError
from lesart.core.glass.bus.patterns import pattern, patterns_of, steps_of
from lesart.core.glass.bus.sent_bytes import bytes_on_bus, sent_for
from lesart.core.glass.panels.panel import Memory, Panel
from lesart.desk.desk import Desk
from lesart.desk.opening import look_at
from lesart.desk.picture import memory_at
from lesart.study.glass import text_held


def run(options: argparse.Namespace) -> int:
    """Print it."""
    desk = look_at(options.project)
    panels = desk.state.project.panels
    name = options.panel or next(iter(panels), "")
    if name not in panels:
        raise RequestError(f'panel "{name}" is not in the project, which has {", ".join(panels) or "none"}.')
    panel = panels[name]
    memory = _memory(options, desk, panel)
    found = _object(panel, memory)
    if options.json:
        print_json(found)
        return 0
    print(f"{panel.name}, {panel.says()}")
    for row in found["lit"]:
        print(f"   {row or 'dark'}")
    for each in found["sent"]:
        print(f"{each['what']}{', command' if each['command'] else ''}: {each['bytes']}")
    print(f"{found['on_wires']} bytes on the wires")
    return 0


def _memory(options: argparse.Namespace, desk: Desk, panel: Panel) -> Memory:
    if options.pattern is None:
        if options.at is not None:
            desk.put_cursor(options.at)
        return memory_at(desk, panel.name)
    names = patterns_of(panel)
    if options.pattern not in names:
        raise RequestError(f'"{options.pattern}" is not a pattern of {panel.name}; it has {", ".join(names)}.')
    steps = steps_of(panel, options.pattern)
    if not 1 <= options.step <= steps:
        raise RequestError(f'--step {options.step}: "{options.pattern}" has steps from 1 to {steps}.')
    return pattern(panel, options.pattern, options.step - 1)


def _object(panel: Panel, memory: Memory) -> dict[str, Any]:
    """Codes are those of the cells behind the glass; of a panel of characters with its text."""
    frame = panel.lit(memory)
    sent = sent_for(panel, memory)
    return {
        "panel": panel.name,
        "kind": panel.kind,
        "text": text_held(panel, memory),
        "lit": lit_object(frame),
        "sent": [{"what": each.what, "command": each.command, "bytes": each.data.hex(" ")} for each in sent],
        "on_wires": bytes_on_bus(panel, sent),
    }
