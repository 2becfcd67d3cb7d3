"""Roles: what a pin is for, and which other roles it can be joined to. Independent of parts and voltages."""

from __future__ import annotations

from lesart.core.dataclass_later import dataclass


@dataclass(frozen=True)
class Role:
    """``meets`` names the roles at the other end that work with it. ``shares``: several pins may stand on one such pin.

    ``drives``: it puts a level on its line; ``listens``: it reads the level there. A bus line does both.
    """

    name: str
    says: str
    meets: tuple[str, ...]
    shares: bool = False
    drives: bool = False
    listens: bool = False


ROLES: dict[str, Role] = {
    role.name: role
    for role in (
        # Power
        Role("supply", "takes its supply here", ("supply out",)),
        Role("supply out", "gives a supply", ("supply",), shares=True),
        Role("ground", "the common zero", ("ground",), shares=True),
        # What a board's pins can do
        Role("analog in", "measures a voltage", ("analog out", "wiper", "element"), listens=True),
        Role(
            "digital",
            "low or high, in or out",
            ("digital out", "digital in", "one wire", "select", "contact", "segment", "digit"),
            drives=True,
            listens=True,
        ),
        Role("capture", "times edges", ("pulse out", "count out", "one wire"), listens=True),
        Role("interrupt", "answers an edge at once", ("count out", "contact"), listens=True),
        Role("width out", "gives pulses of a set width", ("width in",), drives=True),
        # What a part's pins are
        Role("analog out", "gives a voltage", ("analog in",), drives=True),
        Role("digital out", "says low or high", ("digital",), drives=True),
        Role("digital in", "is set low or high", ("digital",), listens=True),
        Role("pulse out", "gives a pulse whose width is the value", ("capture",), drives=True),
        Role("count out", "gives pulses to be counted", ("interrupt", "capture"), drives=True),
        Role("one wire", "asked and answering on one line", ("capture", "digital"), drives=True, listens=True),
        Role("width in", "set by the width of pulses", ("width out",), listens=True),
        Role("contact", "a switch that closes", ("digital", "interrupt", "ground")),
        # Buses
        Role("two-wire data", "data line of the two-wire bus", ("two-wire data",), True, True, True),
        Role("two-wire clock", "clock line of the two-wire bus", ("two-wire clock",), True, True, True),
        Role("four-wire clock", "clock of the four-wire bus", ("four-wire clock in",), True, drives=True),
        Role("four-wire out", "data from the board", ("four-wire data in",), True, drives=True),
        Role("four-wire in", "data to the board", ("four-wire data out",), True, listens=True),
        Role("four-wire clock in", "clock of the four-wire bus", ("four-wire clock",), True, listens=True),
        Role("four-wire data in", "data to the part", ("four-wire out",), True, listens=True),
        Role("four-wire data out", "data from the part", ("four-wire in",), True, drives=True),
        Role("select", "says that this part is addressed", ("digital",), listens=True),
        Role("serial send", "sends serial bytes", ("serial receive",), drives=True),
        Role("serial receive", "takes serial bytes", ("serial send",), listens=True),
        Role("line A", "one line of a differential pair", ("line A",), shares=True),
        Role("line B", "the other line of the pair", ("line B",), shares=True),
        # Bridges, lamps and resistive things
        Role("excitation +", "feeds a bridge", ("excitation +",), shares=True),
        Role("excitation −", "feeds a bridge", ("excitation −",), shares=True),
        Role("bridge +", "signal of a bridge", ("bridge +",)),
        Role("bridge −", "signal of a bridge", ("bridge −",)),
        Role("lamp +", "where current enters a lamp", ("supply out", "digital")),
        Role("lamp −", "where current leaves a lamp", ("ground", "digital")),
        Role("segment", "one segment of all digits", ("digital",)),
        Role("digit", "common of one digit", ("digital",)),
        Role("contrast", "sets the contrast of a display", ("wiper",)),
        Role("wiper", "the tap of a potentiometer", ("contrast", "analog in")),
        Role("element", "one end of a resistive sensor", ("ground", "supply out", "analog in")),
    )
}
"""Every role by its name, as ``role`` in a project file."""

BUS_LINES = ("two-wire data", "two-wire clock")
PULLED = frozenset(("digital", "interrupt", "capture", "analog in", *BUS_LINES))
"""Roles of a board's pin that may have a resistor to a rail: a pull-up, or the fixed half of a divider."""
PULLED_PART = frozenset(
    ("one wire", "analog out", "contact", "element", "digital out", "digital in", "select", *BUS_LINES)
)
"""Roles of a part's pin that may be joined to a rail through a resistor."""


def roles_meet(first: tuple[str, ...], second: tuple[str, ...]) -> bool:
    """True where two pins with these roles can be joined directly."""
    return any(other in ROLES[one].meets or one in ROLES[other].meets for one in first for other in second)


def is_rail(roles: tuple[str, ...]) -> bool:
    """True for a supply or the ground, which many pins are joined to."""
    return "supply out" in roles or "ground" in roles


def are_shared(roles: tuple[str, ...]) -> bool:
    """True where several pins may be on this one, when all of them use a role that shares."""
    return any(ROLES[role].shares for role in roles)
