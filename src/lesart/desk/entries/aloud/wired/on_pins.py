"""A part with its pins on the board, in a line: ``button on p4``, ``ultrasonic trig p4 echo p5``, ``led on p9 with 330
ohm to ground``."""

from __future__ import annotations

import re
from collections.abc import Mapping, Sequence

from lesart.core.dataclass_later import dataclass
from lesart.core.errors import RequestError
from lesart.core.wire.part import Part, PartKind
from lesart.desk.entries.aloud.wired.kinds_by_pins import part_with_pins
from lesart.desk.entries.aloud.wired.pin_names import POWER, is_pin_name, own_pin
from lesart.desk.entries.aloud.wired.tails import GROUND, Tail, tail_of, where_it_leads
from lesart.desk.entries.aloud.wired.wiring import PartSaid, named_part, part_said, signal_pin

_PLACED = re.compile(
    r"(?:(?:^|(?<=[\s,]))(?P<name>[a-z][a-z+−-]{0,9}|d\d(?=\s+(?:p|d|io|gpio)?\d))\s*)?"
    r"(?P<said>(?:(?<=[\s,])(?:on|to|at|=)\s+)?(?:(?<=\s)pin\s+)?)"
    r"(?<![\w.])(?P<pin>[a-z]{1,4}\d{1,2}\b|\d{1,2}\b(?!\s*(?:[mk]?[VAΩ](?![\w+−-])|ohm|[%°])))(?![.,x]\d)",
    re.IGNORECASE,
)
_LETTERS = ("p", "d", "io", "gpio", "dio")
"""Prefixes of signal pins on boards, before their number."""
_NO_PIN = frozenset(("on", "to", "at", "pin", "pins", "and", "the", "of", "with"))
ANALOG = "analog sensor"
"""Roles read by an analog pin, whatever they measure."""
RESISTIVE, TURNED = "resistive sensor", "potentiometer"
_VANE = re.compile(r"\bvane\b", re.IGNORECASE)
_POWERED = re.compile(
    r"(?:^|(?<=[\s,]))(?:(?P<supply>vcc|vdd|vin|v\+|power|supply)\s*(?:=|to|on|->)?\s*(?P<rail>3v3|3[.,]3\s?v|5\s?v)"
    r"|(?:gnd|ground|vss)\s*(?:=|to|on|->)?\s*(?P<ground>gnd|ground))(?![\w])",
    re.IGNORECASE,
)
_BETWEEN = re.compile(
    r"\bbetween\s+(?:pin\s+)?(?P<pin>\w{1,6})\s+and\s+(?P<rail>ground|gnd|3v3|3[.,]3\s?v|5\s?v|supply|vcc|vdd)\b",
    re.IGNORECASE,
)
_SENSOR = re.compile(r"(?:sensor|probe|module)$", re.IGNORECASE)
_BITS = re.compile(
    r"\bd(?P<first>\d)\s*(?:-|–|to|\.\.)\s*d?(?P<last>\d)\s+(?P<pins>(?:[a-z]{0,4}\d{1,2}[\s,]*){2,8})", re.I
)


@dataclass(frozen=True)
class OnPins:
    """A part, and its connections to the board as typed. ``placed`` are the roles of its pins with the board's pins."""

    part: PartSaid
    lines: tuple[str, ...]
    placed: tuple[tuple[tuple[str, ...], str], ...] = ()


def part_on_pins(typed: str, kinds: Mapping[str, PartKind], parts: Mapping[str, Part]) -> OnPins | None:
    """The part on its pins, in a hook-up with one board. None where no pin is stated, or it is ambiguous."""
    boards = [part for part in parts.values() if part.kind.group == "board"]
    if len(boards) != 1:
        return None
    board, said = boards[0], _plainly(typed.strip())
    powered = [found for found in _POWERED.finditer(said) if not _is_board_pin_alone(said, found)]
    said = _POWERED.sub(" ", said).strip(" ,") if powered else said
    bare, tail = tail_of(said)
    if tail.rail and not bare.strip(" ,"):
        return None
    made = _made(bare, board, kinds, parts)
    if made is None or (tail.ohms and not tail.is_resistor and not _is_driven(made[0])):
        bare, tail = said, Tail()  # the ohms are its own: a thermistor of 10k
        made = _made(bare, board, kinds, parts)
    if made is None:
        return None
    part, own = made
    is_switched = part.kind.name == TURNED and _VANE.search(bare) is not None
    if (part.kind.name == ANALOG or is_switched) and tail.ohms and RESISTIVE in kinds:
        # A sensor that outputs a voltage needs no resistor; a vane with one beside it has switches, and no tap.
        part = named_part(bare, kinds[RESISTIVE], kinds, parts)
        own = [(signal_pin(part.kind), to) for _, to in own]
    lines = _lines(part, own, tail, board)
    roles = {pin.name: pin.roles for pin in part.kind.pins}
    return OnPins(part, (*lines, *_power_lines(part, powered, board)), tuple((roles[pin], to) for pin, to in own))


def names_pins(typed: str) -> bool:
    """True where it names a pin of a board, which may not exist yet."""
    found = list(_PLACED.finditer(_plainly(typed)))
    return (
        any(each["said"] or not each["pin"].isdigit() for each in found)
        or sum(bool(each["name"]) for each in found) > 1
    )


def pins_named(typed: str) -> tuple[str, ...]:
    """The board pins that it may name, as boards of the catalogue call them: ``p21``, ``a0``."""
    typed = _plainly(typed)
    found = [each for each in _PLACED.finditer(typed) if each["said"] or each["name"] or not each["pin"].isdigit()]
    pins = [
        re.fullmatch(r"(?:gpio|dio|io|[dp])?(?P<number>\d+)|(?P<analog>a\d+)", each["pin"].lower()) for each in found
    ]
    return tuple(dict.fromkeys(each["analog"] or f"p{int(each['number'])}" for each in pins if each))


def strange_pins(typed: str, board: Part) -> tuple[str, ...]:
    """Pins that are clearly named but missing on the board."""
    found = [
        each
        for each in _PLACED.finditer(_plainly(typed))
        if each["said"]
        or is_pin_name(each["name"] or "")
        or re.match(r"(?:gpio|dio|io|[pda])\d", each["pin"], re.IGNORECASE)
    ]
    return tuple(each["pin"] for each in found if pin_of_board(each["pin"], board) is None)


def _plainly(typed: str) -> str:
    """Each pin with its own words: bits one by one, and ``between 2 and ground`` as ``on 2 to ground``."""
    said = re.sub(r"\binterrupt\s+(?=pin\b)", "", _BITS.sub(_bit_by_bit, typed), flags=re.IGNORECASE)
    return _BETWEEN.sub(r"on \g<pin> to \g<rail>", said)


def _bit_by_bit(found: re.Match[str]) -> str:
    """``d4-d7 5 4 3 2`` one by one."""
    pins = re.split(r"[\s,]+", found["pins"].strip(" ,"))
    bits = range(int(found["first"]), int(found["last"]) + 1)
    return (
        " ".join(f"d{bit} {pin}" for bit, pin in zip(bits, pins, strict=True)) if len(pins) == len(bits) else found[0]
    )


def _made(
    said: str, board: Part, kinds: Mapping[str, PartKind], parts: Mapping[str, Part]
) -> tuple[PartSaid, list[tuple[str, str]]] | None:
    """The part, and its pins with the board's. Raises RequestError for words that do not fit such a part."""
    if strange_pins(said, board):
        return None
    all_found = [each for each in _PLACED.finditer(said) if pin_of_board(each["pin"], board)]
    sure = [each for each in all_found if each["said"] or not each["pin"].isdigit()]
    named = [each for each in all_found if each["name"] and each["name"].lower() not in _NO_PIN]
    both = [each for each in all_found if each in sure or each in named]
    for placed in (both, sure) if sure != both else (both,):
        words = [("" if (each["name"] or "").lower() in _NO_PIN else each["name"] or "") for each in placed]
        is_bare = len(placed) == 1 and placed[0] not in sure and not is_pin_name(words[0])
        if not placed or (is_bare and placed[0].end() < len(said)):
            continue
        part = _part(said, placed, words, kinds, parts)
        if is_bare and (part is None or part.kind.parameters):
            continue  # a number after it may be a value: resistor 47
        if part is None or part.kind.group == "board" or all(set(each.roles) <= set(POWER) for each in part.kind.pins):
            continue
        is_one = len(placed) == 1 and (
            not words[0] or (own_pin(part.kind, words[0]) is None and not is_pin_name(words[0]))
        )
        own = [signal_pin(part.kind)] if is_one else [own_pin(part.kind, word) for word in words]
        if None not in own and len(set(own)) == len(own):
            to = [pin_of_board(each["pin"], board) or "" for each in placed]
            return part, [(pin, at) for pin, at in zip(own, to, strict=True) if pin is not None]
    return None


def _is_driven(part: PartSaid) -> bool:
    """True for a lamp or a buzzer, whose resistor is in series."""
    pins = part.kind.pins
    return len(pins) == 2 and any(set(pin.roles) & {"lamp +", "lamp −"} or pin.load_a for pin in pins)


def _lines(part: PartSaid, own: Sequence[tuple[str, str]], tail: Tail, board: Part) -> list[str]:
    """Its connections as typed."""
    if len(part.kind.pins) == 2 and len(own) == 1:
        return _with_two_legs(part, own[0], tail, board)
    straight = [f"{part.name}.{pin} > {board.name}.{to}" for pin, to in own]
    if not tail.ohms:
        # A pull-up without ohms is built in, on the board or the module; the rail feeds it.
        return [*straight, *_fed(part, tail, board)]
    if tail.way or tail.rail:
        rail = tail.rail_of(board)
        return [*straight, *(f"{part.name}.{pin} > {board.name}.{rail}{tail.resistor}" for pin, _ in own)]
    return [f"{line}{tail.resistor}" for line in straight]


def _fed(part: PartSaid, tail: Tail, board: Part) -> list[str]:
    """Its pin at a rail; empty where no rail is stated, or it has no such pin."""
    rail = tail.rail_of(board)
    role = "ground" if rail == GROUND else "supply"
    own = next((pin.name for pin in part.kind.pins if role in pin.roles), None)
    return [f"{part.name}.{own} > {board.name}.{rail}"] if tail.rail and own else []


def _with_two_legs(part: PartSaid, own: tuple[str, str], tail: Tail, board: Part) -> list[str]:
    """One leg at a pin, the other one at a rail; the resistor in series with a lamp, or from the pin to the rail
    opposite the sensor."""
    (pin, to), rail = own, tail.rail_of(board)
    other = next(each.name for each in part.kind.pins if each.name != pin)
    if _is_driven(part):
        if not tail.rail:
            return [f"{part.name}.{pin} > {board.name}.{to}{tail.resistor}"]
        if rail != GROUND:
            pin, other = other, pin  # the board's pin draws the current
        return [f"{part.name}.{pin} > {board.name}.{to}", f"{part.name}.{other} > {board.name}.{rail}{tail.resistor}"]
    lines = [f"{part.name}.{pin} > {board.name}.{to}"]
    if tail.ohms and not (tail.way or tail.rail):
        raise RequestError(where_it_leads(tail.ohms))
    if tail.ohms:
        opposite = GROUND if rail != GROUND else Tail(rail="supply").rail_of(board)
        fixed = f"{board.name}.{to} > {board.name}.{rail}{tail.resistor}"
        return [*lines, f"{part.name}.{other} > {board.name}.{opposite}", fixed]
    if tail.way and not tail.rail:
        # The board's own pull-up, or pull-down: the contact leads to the other side.
        rail = GROUND if tail.way == "up" else Tail(rail="supply").rail_of(board)
    return [*lines, f"{part.name}.{other} > {board.name}.{rail}"] if tail.rail or tail.way else lines


def _is_board_pin_alone(said: str, found: re.Match[str]) -> bool:
    """True for ``5v to vcc``, which names no part at all."""
    return not (said[: found.start()] + said[found.end() :]).strip(" ,")


def _power_lines(part: PartSaid, powered: Sequence[re.Match[str]], board: Part) -> list[str]:
    """Connections to the stated rails."""
    lines = []
    for found in powered:
        role = "supply" if found["supply"] else "ground"
        own = next((pin.name for pin in part.kind.pins if role in pin.roles), None)
        rail = "gnd" if role == "ground" else "5V" if found["rail"].startswith("5") else "3V3"
        to = next((pin.name for pin in board.kind.pins if pin.name == rail), None)
        if own and to:
            lines.append(f"{part.name}.{own} > {board.name}.{to}")
    return lines


def pin_of_board(said: str, board: Part) -> str | None:
    """The board's pin of that name: ``4``, ``d4``, ``gpio4`` and ``p4`` are the same."""
    bare = re.sub(r"^(?:gpio|dio|io|d|p)?(?=\d)", "", said.lower())
    by_name = {pin.name.lower(): pin.name for pin in board.kind.pins}
    called = [said.lower(), *(f"{letters}{bare}" for letters in _LETTERS if bare.isdigit())]
    return next((by_name[each] for each in called if each in by_name), None)


def _part(
    said: str,
    placed: Sequence[re.Match[str]],
    words: Sequence[str],
    kinds: Mapping[str, PartKind],
    parts: Mapping[str, Part],
) -> PartSaid | None:
    """The part in the text around the pins.

    The word before a lone pin may belong to the part: ``button 4``, ``fan p7``.
    """
    word = words[0]
    if len(placed) > 1 or is_pin_name(word):
        made = part_with_pins(_around(said, placed, with_name=False), words, kinds, parts)
        if made is not None or len(placed) > 1:
            return made
    bare = _around(said, placed, with_name=True)
    made = _said_with_or_without(bare, word, kinds, parts) if bare else None
    if made is not None:
        return made
    is_analog = placed[0]["pin"].lower().startswith("a") and _SENSOR.search(bare)
    return part_said(ANALOG, kinds, parts) if is_analog else None


def _around(said: str, placed: Sequence[re.Match[str]], *, with_name: bool) -> str:
    rest, end = [], 0
    for found in placed:
        is_kept = with_name or (found["name"] or "").lower() in _NO_PIN
        rest.append(said[end : found.start("pin") if is_kept else found.start()])
        end = found.end()
    bare = re.sub(r"(?:\s+(?:on|to|at|pins?|and|=)\b)+\s*$", "", " ".join([*rest, said[end:]]).strip(), flags=re.I)
    return re.sub(r"\s+(?:on|to|at)\s*(?:pins?\b)?\s+(?=\d)", " ", f" {bare} ").strip(" ,")


def _said_with_or_without(
    bare: str, word: str, kinds: Mapping[str, PartKind], parts: Mapping[str, Part]
) -> PartSaid | None:
    """A part; the word before its pin may be the part's own pin: ``potentiometer wiper a1``."""
    try:
        return part_said(bare, kinds, parts)
    except RequestError:
        made = part_said(bare.removesuffix(word), kinds, parts) if word and bare.endswith(word) else None
        if made is None or own_pin(made.kind, word) != signal_pin(made.kind):
            raise
        return made
