"""The pins of a board, as printed on it, and what each can do besides being low or high.

The kinds of the catalogue assign pins by our own rules; for the board on the desk a person states where its buses are
and from which number its pins count. A list of pins is written ``D0-D13 A0-A5``: names of letters and a number, single
or as ranges.
"""

from __future__ import annotations

import re
from collections.abc import Iterable, Mapping, Sequence
from dataclasses import replace
from typing import Any

from lesart.core.dataclass_later import dataclass
from lesart.core.parameters import Parameter
from lesart.core.wire.part import Part, PartKind, Pin
from lesart.core.wire.role import ROLES

_ONE = re.compile(r"(?P<letters>[A-Za-z]{0,5})(?P<number>\d{1,2})$")
_TO = re.compile(r"\s*(?:-|–|\.\.|\bto\b)\s*")
ALL = "all"
MOST = 128
"""Most pins of a board."""
LONGEST = 120
BARE = "p"
"""Prefix of a number alone, where no signal pin has letters before its number."""


@dataclass(frozen=True)
class Use:
    """What listed pins can do. With several ``roles``, each pin of the list has its own, in this order."""

    name: str
    title: str
    says: str
    roles: tuple[str, ...]

    @property
    def count(self) -> int | None:
        """Number of pins in the list; None for any."""
        return len(self.roles) if len(self.roles) > 1 else None


SIGNAL = Use("signal_pins", "signal pins", "that are low or high, in or out, as printed", ("digital",))
ANALOG = Use("analog_pins", "analog pins", "that measure a voltage, as printed", ("analog in",))
USES = (
    SIGNAL,
    ANALOG,
    Use("edge_pins", "edge pins", "that answer an edge at once, or all", ("interrupt",)),
    Use("timing_pins", "timing pins", "that time edges, or all", ("capture",)),
    Use("width_pins", "width pins", "that give pulses of a set width, or all", ("width out",)),
    Use(
        "four_wire_pins",
        "four-wire pins",
        "its clock, out and in",
        ("four-wire clock", "four-wire out", "four-wire in"),
    ),
    Use("serial_pins", "serial pins", "its send and receive", ("serial send", "serial receive")),
    Use("two_wire_pins", "two-wire pins", "its data and clock", ("two-wire data", "two-wire clock")),
)
"""All uses, in the order of a pin's roles."""


def pinout_table(signals: str, analog: str) -> tuple[Parameter, ...]:
    """The parameters of a board whose pins are assigned by our own rules: the first eight detect edges, 4 to 7 time
    them, 9 to 14 give pulse widths, 15 and 16 are the bus."""
    defaults = (signals, analog, "1-8", "4-7", "9-14", "10 11 12", "13 14", "15 16")
    return tuple(
        Parameter(use.name, use.title, "text", use.says, default, longest=LONGEST)
        for use, default in zip(USES, defaults, strict=True)
    )


def pins_listed(written: str, bare: str = BARE) -> tuple[str, ...]:
    """The names in a list, in order; a number alone gets the prefix ``bare``. Raises ValueError with a clause."""
    names: list[str] = []
    for each in re.split(r"(?:\s*,\s*|\s+and\s+|\s+)", _TO.sub("-", written.strip())):
        if each:
            first, _, last = each.partition("-")
            names += _span(each, first, last or first, bare)
        if len(names) > MOST:
            raise ValueError(f"a board has at most {MOST} pins")
    twice = next((name for name in names if [other.lower() for other in names].count(name.lower()) > 1), None)
    if twice is not None:
        raise ValueError(f"it names {twice} twice")
    return tuple(names)


def _span(written: str, first: str, last: str, bare: str) -> Iterable[str]:
    begin, end = _ONE.match(first), _ONE.match(last)
    if begin is None or end is None:
        raise ValueError(f'"{written}" is not a pin; it must list pins as they are printed, like "D0-D13 A0"')
    letters = begin["letters"] or bare
    if (end["letters"] or letters).lower() != letters.lower():
        raise ValueError(f'"{written}" must go from one number to another, like "{letters}0-{letters}7"')
    low, high = int(begin["number"]), int(end["number"])
    if low > high:
        raise ValueError(f'"{written}" must go from the lower number to the higher')
    return (f"{letters}{number}" for number in range(low, high + 1))


def pins_written(names: Sequence[str]) -> str:
    """The shortest list of these names: ``p1-p4 a2``."""
    runs: list[list[str]] = []
    for name in names:
        if runs and _follows(runs[-1][-1], name):
            runs[-1].append(name)
        else:
            runs.append([name])
    return " ".join(" ".join(run) if len(run) < 3 else f"{run[0]}-{run[-1]}" for run in runs)


def _follows(first: str, second: str) -> bool:
    one, two = _ONE.match(first), _ONE.match(second)
    return bool(one and two and one["letters"] == two["letters"] and int(two["number"]) == int(one["number"]) + 1)


def has_pinout(kind: PartKind) -> bool:
    """True where its values state its pins."""
    return any(each.name == SIGNAL.name for each in kind.parameters)


def letters_of(values: Mapping[str, Any]) -> str:
    """The prefix of its signal pins' names: ``p``, ``D``. Raises ValueError where they are written wrongly."""
    first = next(iter(pins_listed(str(values[SIGNAL.name]))), BARE)
    return first.rstrip("0123456789")


def pins_of(values: Mapping[str, Any], use: Use) -> tuple[str, ...]:
    """The names that a board's values list for a use. Raises ValueError with a clause."""
    signals = pins_listed(str(values[SIGNAL.name]))
    written = str(values[use.name]).strip()
    return signals if written.lower() == ALL else pins_listed(written, letters_of(values))


def laid_out(kind: PartKind, values: Mapping[str, Any]) -> tuple[PartKind, dict[str, str]]:
    """The kind with the pins that the values list, and what is wrong with them: a clause for each name of a value.

    Pins keep the electrical figures of their kind; the pins of its rails stay as they are. What nobody has said holds
    for the pins there are: a board that ends at 13 has no bus at 15 and 16, and nobody knows where it is.
    """
    usual = {each.name: each.default for each in kind.parameters}
    lists: dict[str, tuple[str, ...]] = {}
    wrong: dict[str, str] = {}
    known: dict[str, str] = {}
    for use in USES:
        try:
            names = pins_of(values, use)
        except ValueError as error:
            if SIGNAL.name not in wrong:  # whose letters the others need
                wrong[use.name] = str(error)
            continue
        if use in (SIGNAL, ANALOG):
            known |= {name.lower(): name for name in names if name.lower() not in known}
        strange = [name for name in names if name.lower() not in known]
        if values[use.name] == usual.get(use.name):
            names = () if strange and use.count else tuple(name for name in names if name not in strange)
        elif strange:
            has = pins_written(tuple(known.values()))
            wrong[use.name] = f"{strange[0]} is not one of its signal or analog pins, which are {has}"
        elif use.count is not None and len(names) not in (0, use.count):
            wrong[use.name] = f"it must name {use.count} pins, {use.says}, or be empty"
        lists[use.name] = names
    if wrong:
        return kind, wrong
    roles: dict[str, list[str]] = {name: [] for name in known}
    for use in USES:
        for index, name in enumerate(lists[use.name]):
            roles[name.lower()].append(use.roles[index % len(use.roles)])
    kept = [pin for pin in kind.pins if not _ONE.match(pin.name)]
    signal = next((pin for pin in kind.pins if "digital" in pin.roles), None)
    analog = next((pin for pin in kind.pins if "analog in" in pin.roles), None)
    pins = [_pin(name, tuple(roles[key]), signal, analog) for key, name in known.items()]
    return replace(kind, pins=(*kept, *pins)), {}


def _pin(name: str, roles: tuple[str, ...], signal: Pin | None, analog: Pin | None) -> Pin:
    """A pin with the figures of a signal pin where it outputs a level, and of a converter where it measures."""
    like = signal if "digital" in roles or analog is None else analog
    assert like is not None, "a board with a pinout has a signal pin in the catalogue"
    measures = analog.accepts_ohm if analog is not None else None
    return replace(like, name=name, roles=roles, accepts_ohm=measures if "analog in" in roles else None)


def use_met_by(roles: Sequence[str]) -> tuple[Use, int] | None:
    """The use in which a board's pin meets a pin with these roles, and its position in the list."""
    for role in roles:
        for use in USES:
            for index, own in enumerate(use.roles):
                if role in ROLES[own].meets or own in ROLES[role].meets:
                    return use, index
    return None


def where_else(board: Part, pin: str, roles: Sequence[str]) -> str:
    """The pins of the board that a pin with these roles works with, and how to state them where nobody did: a clause;
    empty where ``pin`` is not one of those that its values list."""
    met = use_met_by(roles)
    if not has_pinout(board.kind) or met is None or _ONE.match(pin) is None:
        return ""
    use = met[0]
    there = [each.name for each in board.kind.pins if set(use.roles) & set(each.roles)]
    if not there:
        example = " ".join(pins_listed(str(board.values[SIGNAL.name]))[: use.count or 1])
        return f"the {use.title} of {board.name} are not stated yet; + {use.title} {example} would state them"
    return f"the {use.title} of {board.name} are {pins_written(there)}"


def counted_from_nothing(values: Mapping[str, Any], use: Use) -> dict[str, str]:
    """The value that counts these pins from 0 where they are counted from 1: p0-p15 instead of p1-p16.

    Signal pins keep their last one as well, since other lists name it.
    """
    names = pins_of(values, use)
    found = [_ONE.match(name) for name in names]
    numbers = [int(each["number"]) for each in found if each]
    if not names or 0 in numbers:
        return {}
    letters = names[0].rstrip("0123456789")
    return {use.name: pins_written([f"{letters}0", *(names if use is SIGNAL else names[:-1])])}


def with_pin(values: Mapping[str, Any], use: Use, name: str) -> dict[str, str]:
    """The list extended up to this pin."""
    names = pins_of(values, use)
    wanted, last = _ONE.match(name), _ONE.match(names[-1]) if names else None
    if wanted is None or last is None or int(wanted["number"]) <= int(last["number"]):
        return {}
    more = [f"{last['letters']}{number}" for number in range(int(last["number"]) + 1, int(wanted["number"]) + 1)]
    return {use.name: pins_written((*names, *more))}


def placed_at(values: Mapping[str, Any], use: Use, pins: Sequence[str]) -> dict[str, str]:
    """The list that gives these pins that use: pins with a role each replace the list, others are added to it."""
    if use.count is not None:
        return {use.name: " ".join(pins)}
    names = pins_of(values, use)
    return {use.name: pins_written((*names, *(pin for pin in pins if pin not in names)))}
