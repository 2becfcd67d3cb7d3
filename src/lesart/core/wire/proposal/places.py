"""Pins that an end of a connection could be moved to, and parts that it could run through."""

from __future__ import annotations

from dataclasses import replace

from lesart.core.wire.hookup import End, Hookup, Join, is_free, works
from lesart.core.wire.proposal.draft import COLOURS, SIGNAL_COLOURS
from lesart.core.wire.role import are_shared

WIRE_COLOURS = (*COLOURS.values(), *SIGNAL_COLOURS)


def places_for(hookup: Hookup, join: Join, side: str) -> tuple[End, ...]:
    """Pins of the part at one side (``pin`` or ``to``) that work with the other side and have no job yet.

    The present pin is among them; in the order of the part's pins.
    """
    present = join.pin if side == "pin" else join.to
    found = []
    for pin in hookup.parts[present.part].kind.pins:
        end = End(present.part, pin.name)
        moved = replace(join, pin=end) if side == "pin" else replace(join, to=end)
        if end == present or (works(hookup, moved) and (is_free(hookup, end) or are_shared(pin.roles))):
            found.append(end)
    return tuple(found)


def between_names(hookup: Hookup) -> tuple[str, ...]:
    """Names of the parts that a connection can run through."""
    return tuple(name for name, part in hookup.parts.items() if part.kind.group == "between")


def free_pins(hookup: Hookup, part: str) -> tuple[str, ...]:
    """Signal pins of a part that nothing is joined to."""
    return tuple(
        pin.name
        for pin in hookup.parts[part].kind.pins
        if not hookup.joins_at(End(part, pin.name)) and not {"supply", "supply out", "ground"} & set(pin.roles)
    )
