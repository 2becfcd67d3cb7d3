"""Lines for 1 Wire in the order and the words that the rules for parts, pins and connections take."""

from __future__ import annotations

import re

from lesart.core.errors import RequestError
from lesart.core.wire.hookup import Hookup
from lesart.core.wire.role import BUS_LINES
from lesart.desk.entries.aloud.wired.tails import where_it_leads

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
_RESISTOR_FIRST = re.compile(
    r"(?P<part>(?:\w+\s+)?(?:led|lamp))\s+with\s+(?:an?\s+)?(?:series\s+)?resistor(?:\s+of)?\s+(?P<ohms>\d+k?)(?:\s*(?:Ω|ohms?|R))?"
    r"(?P<place>\s+(?:on|at)\s+\S.*)",
    re.IGNORECASE,
)
_DIVIDED = re.compile(
    r"(?:an?\s+)?(?:ldr|photo\s?resistor|thermistor|ntc)\s+on\s+(?:pin\s+)?a\d+\s+with\s+(?:an?\s+)?"
    r"(?P<ohms>\d[\d.,]*\s*[kMR]?\d*)"
    r"(?:\s*(?:Ω|ohms?))?",
    re.IGNORECASE,
)
"""A sensor that is a resistor, and the one that it divides with."""
_LETTERS_ON_BUS = re.compile(
    r"(?:an?\s+)?(?:i2c|i²c|two-wire)\s+(?:character\s+)?lcd|lcd\s+on\s+(?:the\s+)?(?:i2c|i²c|bus)", re.IGNORECASE
)
_CLOCKED = re.compile(
    r"(?:i2c|i²c|two-wire|the)?\s*bus(?:\s+(?:clock|speed|frequency|runs|at|of|is))*\s+(?P<clock>\d+(?:[.,]\d+)?\s*[kM]?Hz)",
    re.IGNORECASE,
)
_LOGIC = re.compile(
    rf"(?P<board>board|controller|mcu)\s+(?:with|of|at)\s+(?P<volts>{_VOLTS})\s+(?:logic|pins|levels?)", re.IGNORECASE
)


def wired_plainly(typed: str, hookup: Hookup) -> str:
    """The line as other rules take it; empty where it is in that order already.

    Raises RequestError for a resistor that leads nowhere.
    """
    said = typed.strip()
    if found := _CONVERTED.fullmatch(said):
        return f"{found['what']} {found['volts']}"
    if found := _LOGIC.fullmatch(said):
        return f"{found['volts']} board"
    if found := _CLOCKED.fullmatch(said):
        return f"bus clock {found['clock']}"
    if found := _PULLED_FIRST.fullmatch(said):
        return f"{found['part']}{found['place']}{found['pull']}"
    if found := _RESISTOR_FIRST.fullmatch(said):
        return f"{found['part']}{found['place']} with {found['ohms']} ohm resistor"
    if found := _DIVIDED.fullmatch(said):
        raise RequestError(where_it_leads(found["ohms"]))
    if found := _LETTERS_ON_BUS.fullmatch(said):
        return f"two-wire character display{_bus_pins(hookup)}"
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
