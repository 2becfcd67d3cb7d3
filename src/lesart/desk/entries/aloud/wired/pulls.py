"""Resistors from lines to a rail, as people say them: ``4.7k pull-ups on sda and scl``, ``10k pull-down on p4``."""

from __future__ import annotations

import re

from lesart.core.wire.hookup import Hookup
from lesart.core.wire.part import Part
from lesart.core.wire.role import BUS_LINES
from lesart.desk.entries.aloud.wired.on_pins import pin_of_board
from lesart.desk.entries.aloud.wired.tails import OHMS, Tail

_WAY = r"pull-?\s?(?P<way>up|down)s?(?:\s+resistors?)?"
_AT = r"(?:\s+(?:on|at|for|to|from)\s+(?P<at>\S.*))?$"
_SAID = (
    re.compile(rf"(?:(?:an?|two|2)\s+)?{OHMS}\s+{_WAY}{_AT}", re.IGNORECASE),
    re.compile(rf"(?:(?:an?|two|2)\s+)?{_WAY}\s+(?:of\s+)?{OHMS}{_AT}", re.IGNORECASE),
)
_BUS = re.compile(
    r"(?:the\s+|both\s+|each\s+)*(?:i2c|i²c|two-wire)?\s*(?:bus|bus\s+lines|lines|sda\s*(?:and|,|/|&|\+)?\s*scl)$", re.I
)


def pulls_said(typed: str, hookup: Hookup) -> tuple[str, ...]:
    """The connections as typed; none for other phrases, and where the pins are ambiguous."""
    found = next(filter(None, (pattern.match(typed.strip()) for pattern in _SAID)), None)
    boards = [part for part in hookup.parts.values() if part.kind.group == "board"]
    if found is None or len(boards) != 1:
        return ()
    board = boards[0]
    pins = _pins(found["at"] or "", board)
    tail = Tail(found["ohms"].strip(), found["way"].lower())
    return tuple(f"{board.name}.{pin} > {board.name}.{tail.rail_of(board)}{tail.resistor}" for pin in pins)


def _pins(said: str, board: Part) -> tuple[str, ...]:
    """The pins; by default the lines of the bus."""
    if not said or _BUS.match(said):
        return tuple(pin.name for pin in board.kind.pins if set(pin.roles) & set(BUS_LINES))
    named = [each for each in re.split(r"\s*(?:,|\band\b|\s)\s*", re.sub(r"\bpins?\b", " ", said)) if each]
    pins = [pin_of_board(each, board) for each in named]
    return tuple(pin for pin in pins if pin is not None) if None not in pins else ()
