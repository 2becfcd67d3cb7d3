"""Lines for 1 Wire in the order and the words that the rules for parts, pins and connections take."""

from __future__ import annotations

import re

from lesart.core.wire.hookup import Hookup
from lesart.core.wire.role import BUS_LINES

_VOLTS = r"\d+(?:[.,]\d+)?\s*V"
_CONVERTED = re.compile(
    rf"(?P<what>(?:linear\s+|voltage\s+|ldo\s+)?regulator|ldo|step[\s-]up|boost(?:\s+converter)?)[\s,]+"
    rf"(?:from\s+)?(?:{_VOLTS}\s+)?to\s+(?P<volts>{_VOLTS})",
    re.IGNORECASE,
)
"""``regulator 5 V to 3.3 V``: what it gives is what it is."""
_PULLED_FIRST = re.compile(
    r"(?P<part>.+?)(?<!\s)(?P<pull>\s+with\s+(?:an?\s+)?(?:\S+\s+)?pull-?\s?(?:up|down)(?:\s+resistor)?)(?P<place>\s+(?:on|at)\s+\S.*)",
    re.IGNORECASE,
)
_ON_BUS = re.compile(
    r"(?P<part>(?!.*\bpull).+?)(?<!\s)\s+(?:on|at|to)\s+(?:the\s+)?(?:(?:i2c|i²c|two-wire)(?:\s+(?:bus|pins|lines))?|bus|sda(?:\s+and|\s*[,/+])?\s+scl)",
    re.IGNORECASE,
)
_CLOCKED = re.compile(
    r"(?:i2c|i²c|two-wire|the)?\s*bus(?:\s+(?:clock|speed|frequency|runs|at|of|is))*\s+(?P<clock>\d+(?:[.,]\d+)?\s*[kM]?Hz)",
    re.IGNORECASE,
)
_LOGIC = re.compile(
    rf"(?P<board>board|controller|mcu)\s+(?:with|of|at)\s+(?P<volts>{_VOLTS})\s+(?:logic|pins|levels?)", re.IGNORECASE
)


def wired_plainly(typed: str, hookup: Hookup) -> str:
    """The line as other rules take it; empty where it is in that order already."""
    said = typed.strip()
    if found := _CONVERTED.fullmatch(said):
        return f"{found['what']} {found['volts']}"
    if found := _LOGIC.fullmatch(said):
        return f"{found['volts']} board"
    if found := _CLOCKED.fullmatch(said):
        return f"bus clock {found['clock']}"
    if found := _PULLED_FIRST.fullmatch(said):
        return f"{found['part']}{found['place']}{found['pull']}"
    if found := _ON_BUS.fullmatch(said):
        return f"{found['part']}{_bus_pins(hookup)}"
    return ""


def _bus_pins(hookup: Hookup) -> str:
    """The pins of the one bus of the one board, as a person says them; empty where there is no such."""
    boards = [part for part in hookup.parts.values() if part.kind.group == "board"]
    if len(boards) != 1:
        return ""
    by_role = {role: [pin.name for pin in boards[0].kind.pins if role in pin.roles] for role in BUS_LINES}
    if any(len(pins) != 1 for pins in by_role.values()):
        return ""
    return "".join(f" {word} {by_role[role][0]}" for role, word in zip(BUS_LINES, ("sda", "scl"), strict=True))
