"""Parts described by data: a kind with its pins, and one part of that kind in a project.

Everything about a kind is in records that a project can write as well, so a person's own sensor is not second-class.
Voltages are in V, currents in A, resistances in Ω, capacitances in F.
"""

from __future__ import annotations

import re
from collections.abc import Mapping
from dataclasses import field
from functools import cached_property
from typing import Any, Literal

from lesart.core.dataclass_later import dataclass
from lesart.core.parameters import Parameter

Group = Literal["board", "source", "sensor", "display", "driver", "between"]
GROUPS = ("board", "source", "sensor", "display", "driver", "between")
"""Groups of kinds.

``between`` are parts that a connection runs through: a resistor, a divider, a level shifter, a transistor.
"""
LONGEST_NAME = 40


@dataclass(frozen=True)
class Pin:
    """One pin. Fields that are None are unknown, or follow from the part's supply.

    ``gives_v`` is the voltage of a supply, or the highest of an output. ``lowest_v`` to ``highest_v`` is the range of a
    supply pin. ``current_a`` is what a pin can source or sink; for a supply pin, its usual current, and ``peak_a`` the
    worst. ``source_ohm`` is the output resistance of an analog output, ``accepts_ohm`` the most an analog input reads
    correctly. ``forward_v`` is what a lamp drops, ``series_ohm`` a resistor built in before it. ``pull_up_ohm`` is
    built in from a bus line to the part's supply. ``fed_by`` names the pin that a supply's current comes in through.
    ``load_a`` is what an input, such as a buzzer's, draws from the pin that drives it while it is on.
    """

    name: str
    roles: tuple[str, ...]
    optional: bool = False
    gives_v: float | None = None
    lowest_v: float | None = None
    highest_v: float | None = None
    tolerates_v: float | None = None
    needs_high_v: float | None = None
    current_a: float | None = None
    peak_a: float | None = None
    source_ohm: float | None = None
    accepts_ohm: float | None = None
    forward_v: float | None = None
    series_ohm: float = 0.0
    pull_up_ohm: float | None = None
    fed_by: str = ""
    load_a: float = 0.0


@dataclass(frozen=True)
class PartKind:
    """What parts of one kind have in common.

    ``logic_v`` is the level of its signals where that is not its supply; ``addresses`` on the two-wire bus, the usual
    one first, all that its straps can set; ``orders`` other orders in which modules of this kind print their pins;
    ``total_a`` what all signal pins together may carry.
    """

    name: str
    says: str
    group: Group
    pins: tuple[Pin, ...] = ()
    parameters: tuple[Parameter, ...] = ()
    logic_v: float | None = None
    addresses: tuple[int, ...] = ()
    orders: tuple[tuple[str, ...], ...] = ()
    total_a: float | None = None

    @property
    def called(self) -> str:
        """Its name within a sentence: ``an echo ranger``, ``digits on registers``."""
        if re.search(r"^(?!one\b).*\b(?:digits|modules|lamps)\b", self.name):
            return self.name
        article = "" if self.name.startswith("one ") else "an " if self.name[0] in "aeiou" else "a "
        return f"{article}{self.name}"

    @cached_property
    def _by_name(self) -> Mapping[str, Pin]:
        return {pin.name: pin for pin in self.pins}

    def pin(self, name: str) -> Pin | None:
        """The pin with a name."""
        return self._by_name.get(name)


@dataclass(frozen=True)
class Part:
    """One part in a project. ``values`` are those of its kind's parameters, in their units."""

    name: str
    kind: PartKind
    values: Mapping[str, Any] = field(default_factory=dict)
    address: int | None = None

    def value(self, name: str, fallback: float = 0.0) -> float:
        """A value of its parameters."""
        return float(self.values.get(name, fallback))


def parse_address(written: str) -> int:
    """The bus address in a text: ``0x3C`` or ``60``. Raises ValueError with a clause."""
    try:
        address = int(written.strip(), 0)
    except ValueError:
        address = -1
    if not 0x08 <= address <= 0x77:
        # 0x00 to 0x07 and 0x78 to 0x7F are reserved by the bus standard.
        said = 'it must be a 7-bit bus address from "0x08" to "0x77"'
        # Many modules are printed with the bit for reading or writing after the address.
        if 0x77 < address <= 0xEF:
            said += f"; printed with eight bits, 0x{address:02X} is {shown_address(address >> 1)}"
        raise ValueError(said)
    return address


def shown_address(address: int) -> str:
    """An address as ``0x3C``."""
    return f"0x{address:02X}"


KIND_TABLE = (
    Parameter("says", "says", "text", "what it is and how it speaks", "a part of your own", longest=120),
    Parameter("group", "group", "choice", "what it is in a hook-up", "sensor", choices=GROUPS[:-1]),
    Parameter(
        "logic",
        "logic level",
        "quantity",
        "level of its signals, where that is not its supply",
        optional=True,
        unit="V",
        lowest=0.5,
        highest=60,
    ),
    Parameter(
        "total",
        "all pins",
        "quantity",
        "current that all signal pins together may carry",
        optional=True,
        unit="A",
        lowest=0,
        above=True,
        highest=100,
    ),
)
"""A kind of a person's own, ``[kinds.NAME]``; besides these ``addresses``, ``orders`` and its ``pins``."""


def _volt(name: str, title: str, says: str) -> Parameter:
    return Parameter(name, title, "quantity", says, optional=True, unit="V", lowest=0, highest=400)


def _ampere(name: str, title: str, says: str) -> Parameter:
    return Parameter(name, title, "quantity", says, optional=True, unit="A", lowest=0, highest=100)


def _ohm(name: str, title: str, says: str) -> Parameter:
    return Parameter(name, title, "quantity", says, optional=True, unit="Ω", lowest=0, highest=1e9)


PIN_TABLE = (
    Parameter("name", "name", "text", "as printed on the part", longest=16),
    Parameter("optional", "optional", "flag", "may it be left open", False),
    _volt("gives", "gives", "voltage of a supply, or the highest an output puts out"),
    _volt("lowest", "lowest supply", "least supply it works at"),
    _volt("highest", "highest supply", "most it tolerates"),
    _volt("tolerates", "tolerates", "highest voltage an input tolerates, where that is not its supply"),
    _volt("needs_high", "needs for high", "least voltage read as high, where that is not 0.7 of its supply"),
    _ampere("current", "current", "what a supply gives, a supply pin draws, or a signal pin can carry"),
    _ampere("peak", "peak", "what a supply pin draws at worst"),
    _ohm("source", "source", "resistance that an analog output drives with"),
    _ohm("accepts", "accepts", "greatest source resistance an analog input reads rightly"),
    _volt("forward", "forward", "what a lamp drops"),
    Parameter(
        "series", "series", "quantity", "resistor built in before a lamp", "0 Ω", unit="Ω", lowest=0, highest=1e9
    ),
    _ohm("pull_up", "pull-up", "built in from a bus line to the part's supply"),
    Parameter(
        "load",
        "load",
        "quantity",
        "current that it takes from the pin which drives it",
        "0 A",
        unit="A",
        lowest=0,
        highest=100,
    ),
    Parameter("fed_by", "fed by", "text", "pin that the current of a supply comes in through", "", longest=16),
)
"""A pin of a person's own kind, besides its ``role``, which is one of ``ROLES`` or a list of them."""


def pin_from(values: Mapping[str, Any], roles: tuple[str, ...]) -> Pin:
    """A pin from the values of ``PIN_TABLE``."""
    return Pin(
        name=values["name"],
        roles=roles,
        optional=values["optional"],
        gives_v=values["gives"],
        lowest_v=values["lowest"],
        highest_v=values["highest"],
        tolerates_v=values["tolerates"],
        needs_high_v=values["needs_high"],
        current_a=values["current"],
        peak_a=values["peak"],
        source_ohm=values["source"],
        accepts_ohm=values["accepts"],
        forward_v=values["forward"],
        series_ohm=values["series"],
        pull_up_ohm=values["pull_up"],
        fed_by=values["fed_by"],
        load_a=values["load"],
    )
