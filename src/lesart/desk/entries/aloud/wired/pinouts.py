"""What a line typed in 1 Wire tells about the board's pins: ``pot on a0``, ``oled sda 21 scl 22``.

A board of the catalogue has pins by our own rules. Until its values say otherwise, pins that a person names are taken
to exist on their board.
"""

from __future__ import annotations

import re
from collections import defaultdict
from collections.abc import Container, Iterator, Mapping, Sequence

from lesart.core.errors import RequestError
from lesart.core.notes import Mend, Written
from lesart.core.wire.entry import JOINS
from lesart.core.wire.hookup import End, Hookup
from lesart.core.wire.part import Part
from lesart.core.wire.pinout import (
    ALL,
    ANALOG,
    SIGNAL,
    USES,
    Use,
    counted_from_nothing,
    has_pinout,
    letters_of,
    pins_listed,
    pins_of,
    pins_written,
    placed_at,
    use_met_by,
    with_pin,
)
from lesart.core.wire.role import roles_meet
from lesart.desk.entries.aloud.figures import takes
from lesart.desk.entries.typed_values import as_written

RARE = ("analog_pins", "edge_pins", "width_pins")
"""Uses that pins only have where the board's maker provides them."""
MOST = 64
"""A pin with a higher number is more likely a slip."""
_LINE = re.compile(
    r"(?:^|[\s,;:(])(?P<line>sda|scl|sck|sclk|mosi|miso|tx|txd|rx|rxd)\s*(?:=|:|->|is|on|at|to|pin)?\s*(?:on\s+|pin\s+)*"
    r"(?P<pin>[a-z]{0,4}\d{1,2})(?![\w.])",
    re.IGNORECASE,
)
"""A line of one of the board's buses with its pin. The receiving line of a serial port is its ``rx``."""
_BUS = {"two_wire_pins": ("sda", "scl"), "four_wire_pins": ("sck", "mosi", "miso"), "serial_pins": ("tx", "rx")}
_SMALL = re.compile(
    r"\b(?:i2c|i²c|two[\s-]wire|spi|four[\s-]wire|serial|uart|bus|port|pins?|is|are|on|at|and|of|the|my|its?|board|has)\b"
    r"|[\s,;:.()=]",
    re.IGNORECASE,
)
_OF_BOARD = re.compile(r"^(?:(?:the|my|its)\s+)?(?:board(?:'s)?|controller(?:'s)?)\s+(?:has\s+)?", re.IGNORECASE)
_LISTS: tuple[tuple[str, str], ...] = (
    (r"(?:(?:signal|digital|gpio|io)\b)?", "signal_pins"),
    (r"(?:analog(?:ue)?|adc)(?:\s+(?:in|input))?", "analog_pins"),
    (r"(?:edge|interrupt)", "edge_pins"),
    (r"(?:timing|capture|timer)", "timing_pins"),
    (r"(?:width|pwm)", "width_pins"),
    (r"(?:four[\s-]wire|spi)(?:\s+bus)?", "four_wire_pins"),
    (r"(?:serial|uart)(?:\s+port)?", "serial_pins"),
    (r"(?:two[\s-]wire|i2c|i²c)(?:\s+bus)?", "two_wire_pins"),
)
_LIST = re.compile(
    r"(?:(?:is|are|on|at|=|:|pins?)\s*)*"
    r"(?P<pins>[a-z]{0,4}\d{1,2}(?:\s*(?:,|-|–|\.\.|\band\b|\bto\b|\s)\s*[a-z]{0,4}\d{1,2})*|all)$",
    re.I,
)


def board_said(typed: str, board: Part) -> dict[str, Written]:
    """A value of the board by its title: ``bus clock 400 kHz``. Empty for anything else."""
    said = _OF_BOARD.sub("", typed.strip())
    for parameter in board.kind.parameters:
        found = re.match(rf"(?:{re.escape(parameter.title)})(?:\s+(?:is|of|=)|\s*[=:])?\s+(?P<value>\S.*)$", said, re.I)
        if found is None:
            continue
        if parameter.kind == "integer" and re.fullmatch(r"[0-9]{1,9}", found["value"]):
            return {parameter.name: int(found["value"])}
        if takes(parameter, found["value"]):
            return {parameter.name: as_written(parameter, found["value"])}
    return {}


def pinout_said(typed: str, board: Part) -> dict[str, str]:
    """A line about the board's pins alone: ``sda 21 scl 22``, ``analog pins a0-a5``. Empty for anything else.

    Raises RequestError where lines of a bus are missing.
    """
    if not has_pinout(board.kind):
        return {}
    said = _OF_BOARD.sub("", typed.strip())
    if lines := list(_LINE.finditer(said)):
        return {} if _SMALL.sub("", _LINE.sub(" ", said)) else _bus_said(typed, lines, board)
    for words, name in _LISTS[::-1]:
        pins = r"\s*(?:pins?|inputs?|outputs?)?" if name != "signal_pins" else r"\s*(?:pins?|inputs?|outputs?)"
        found = re.match(rf"(?:(?:the|its)\s+)?{words}{pins}\s+(?P<rest>\S.*)$", said, re.IGNORECASE)
        if found and (listed := _LIST.match(found["rest"])):
            return _listed(typed, name, listed["pins"], board)
    return {}


def _listed(typed: str, name: str, written: str, board: Part) -> dict[str, str]:
    """A list with bare numbers named as the board does; among all pins those with A are analog."""
    use = next(each for each in USES if each.name == name)
    if written.lower() == ALL and use is not SIGNAL:  # all of its signal pins
        return {name: ALL}
    try:
        pins = pins_listed(written, "a" if use is ANALOG else letters_of(board.values))
    except ValueError as error:
        raise RequestError(f'"{typed.strip()}": {error}.') from error
    if use.count is not None:
        return {name: " ".join(_own_name(pin, board) for pin in pins)}
    if use is not SIGNAL:
        return {name: pins_written([_own_name(pin, board) if use is not ANALOG else pin for pin in pins])}
    analog = [pin for pin in pins if pin.lower().startswith("a")]
    digital = [pin for pin in pins if pin not in analog]
    said = {SIGNAL.name: pins_written(digital)} if digital else {}
    return {**said, **({ANALOG.name: pins_written(analog)} if analog else {})}


def _bus_said(typed: str, lines: Sequence[re.Match[str]], board: Part) -> dict[str, str]:
    at = {found["line"].lower().removesuffix("d").replace("sclk", "sck"): found["pin"] for found in lines}
    said: dict[str, str] = {}
    for name, wanted in _BUS.items():
        named = [line for line in wanted if line in at]
        if named and len(named) < len(wanted):
            missing = " and ".join(line for line in wanted if line not in at)
            raise RequestError(f'"{typed.strip()}": say {missing} too, like {_example(wanted)}.')
        if named:
            pins = [_own_name(at[line], board) for line in wanted]
            if len(set(pins)) < len(pins):
                raise RequestError(f'"{typed.strip()}": each line has a pin of its own, like {_example(wanted)}.')
            said[name] = " ".join(pins)
    return said


def _example(lines: Sequence[str]) -> str:
    return " ".join(f"{line} {number}" for number, line in enumerate(lines, 2))


def _own_name(pin: str, board: Part) -> str:
    number = re.sub(r"^(?:gpio|dio|io|pin|d|p)?(?=\d)", "", pin.lower())
    return next(
        (each.name for each in board.kind.pins if each.name.lower() in (pin.lower(), number)),
        f"{letters_of(board.values)}{number}" if number.isdigit() else pin,
    )


def joins_renamed(hookup: Hookup, board: Part, said: Mapping[str, str]) -> Iterator[Mend]:
    """Ends of connections at renamed pins: D4 instead of p4.

    None for ports with letters of their own, PA and PB, where it is ambiguous.
    """
    values = {**board.values, **said}
    there = {name for use in (SIGNAL, ANALOG) for name in pins_of(values, use)}
    if len({name.rstrip("0123456789") for name in pins_of(values, SIGNAL)}) > 1:
        return
    for join in hookup.joins:
        for side, end in (("pin", join.pin), ("to", join.to)):
            if end.part != board.name or end.pin in there or not end.pin[-1:].isdigit():
                continue
            letters = "a" if end.pin.lower().startswith("a") else letters_of(values)
            number = end.pin.lstrip("ABCDEFGHIJKLMNOPQRSTUVWXYZabcdefghijklmnopqrstuvwxyz")
            new = next((name for name in there if name.lower() == f"{letters}{number}".lower()), None)
            if new is not None:
                yield Mend((*JOINS, join.index, side), str(End(board.name, new)))


def pins_besides(pins: Sequence[str], board: Part, written: Container[str], hookup: Hookup) -> dict[str, str]:
    """The values that add such pins to a board: counted from 0, or more of them.

    Empty where it has them all, or its own values list its pins.
    """
    if not has_pinout(board.kind):
        return {}
    said: dict[str, str] = {}
    for pin in pins:
        letters, number = pin.rstrip("0123456789").lower(), int(pin[len(pin.rstrip("0123456789")) :])
        use = ANALOG if letters == "a" else SIGNAL
        if use.name in written or number > MOST:
            continue
        now = {**board.values, **said}
        if number == 0 and not (use is ANALOG and _last_is_joined(board, hookup)):
            said |= counted_from_nothing(now, use)
        elif use is SIGNAL:
            said |= with_pin(now, use, pin)
    return said


def _last_is_joined(board: Part, hookup: Hookup) -> bool:
    """True where the last analog pin is joined: counted from 0 there are as many as before, so that one would go."""
    last = [pin.name for pin in board.kind.pins if pin.name.lower().startswith("a")][-1:]
    return any(hookup.joins_at(End(board.name, name)) for name in last)


def uses_said(
    placed: Sequence[tuple[Sequence[str], str]],
    board: Part,
    written: Container[str],
    hookup: Hookup,
    new: Container[str] = (),
) -> dict[str, str]:
    """The values that let the board's pins do what they are joined for.

    ``placed`` has the roles of the part's pin with the board's pin. Empty for a use that is already set, or in use
    where it is now; and for a use that boards have on some pins only, unless the pin is ``new``: a thermistor on a pin
    that is not analog is a mistake, and has its note.
    """
    if not has_pinout(board.kind):
        return {}
    wanted: defaultdict[Use, dict[int, str]] = defaultdict(dict)
    elsewhere: set[Use] = set()
    for roles, name in placed:
        pin, met = board.kind.pin(name), use_met_by(roles)
        if met is None or pin is None:
            continue
        use, index = met
        is_there = roles_meet(tuple(roles), pin.roles)
        if use.count is None and (is_there or (use.name in RARE and name not in new)):
            continue
        wanted[use][len(wanted[use]) if use.count is None else index] = name
        elsewhere |= set() if is_there else {use}
    said: dict[str, str] = {}
    for use, pins in wanted.items():
        if use not in elsewhere:
            continue
        in_order = [pins[index] for index in sorted(pins)]
        if use.name == "four_wire_pins" and len(pins) == len(use.roles) - 1:
            in_order = _with_third(pins, use, board)
        if use.name not in written and _is_free(use, board, hookup) and len(in_order) == (use.count or len(in_order)):
            said |= placed_at({**board.values, **said}, use, in_order)
    return said


def _with_third(pins: Mapping[int, str], use: Use, board: Part) -> list[str]:
    """A part that only listens, or only speaks, fixes two lines of the bus; the third stays where it is."""
    there = pins_of(board.values, use)
    filled = [pins.get(index, name) for index, name in enumerate(there)]
    return filled if len(set(filled)) == len(use.roles) else list(pins.values())


def _is_free(use: Use, board: Part, hookup: Hookup) -> bool:
    """True where its single place may move."""
    there = [pin for pin in board.kind.pins if set(use.roles) & set(pin.roles)]
    return use.count is None or not any(hookup.joins_at(End(board.name, pin.name)) for pin in there)
