"""A part with the pins of the board that it is joined to, in a line: ``button on p4``, ``ultrasonic trig p4 echo p5``,
``led on p9 with 330 ohm``.
"""

from __future__ import annotations

import re
from collections.abc import Mapping, Sequence

from lesart.core.dataclass_later import dataclass
from lesart.core.errors import RequestError
from lesart.core.wire.part import Part, PartKind
from lesart.desk.entries.aloud.wiring import BY_ROLE, POWER, PartSaid, part_said, signal_pin

_PLACED = re.compile(
    r"(?:(?:^|(?<=[\s,]))(?P<name>[a-z][a-z+−-]{0,9}|d\d(?=\s+(?:p|d|io|gpio)?\d))\s*)?(?P<said>(?:(?<=[\s,])(?:on|to|at|=)\s+)?(?:(?<=\s)pin\s+)?)"
    r"(?<![\w.])(?P<pin>[a-z]{0,4}\d{1,2})\b(?!\s*(?:[mk]?[VAΩ]\b|ohm|[%°]|[.,x]\d))",
    re.IGNORECASE,
)
_NO_PIN = frozenset(("on", "to", "at", "pin", "pins", "and", "the", "of", "with"))
_LAMP_BEHIND = re.compile(
    r"(?<!\bpin)(?<!\bon)(?<!\bto)(?<!\bat)[\s,]+(?:(?:with|through|via|over|and)\s+)?(?:an?\s+)?(?:(?:series\s+)?resistor\s+(?:of\s+)?)?"
    r"(?P<ohms>\d+(?:[.,]\d+)?\s*[kMR]?\d*)\s*(?:Ω|ohms?)?(?:\s+(?:series\s+)?resistor)?$",
    re.IGNORECASE,
)
"""The resistor that a lamp hangs on: its own volts and amperes have other units."""
ALIASES = {"trig": "start", "trigger": "start", "ping": "start", "dout": "data", "dt": "data", "sck": "clock"}
ALIASES |= {"en": "e", "enable": "e", "vo": "contrast", "sig": "out", "signal": "out"}
"""What pins are called that have another name here."""
ANALOG = "analog sensor"
"""What is read by an analog pin, whatever it measures."""
_POWERED = re.compile(
    r"(?:^|(?<=[\s,]))(?:(?P<supply>vcc|vdd|vin|v\+|power|supply)\s*(?:=|to|on|->)?\s*(?P<rail>3v3|3[.,]3\s?v|5\s?v)"
    r"|(?:gnd|ground|vss)\s*(?:=|to|on|->)?\s*(?P<ground>gnd|ground))(?![\w])",
    re.IGNORECASE,
)
_TO_RAIL = re.compile(
    r"[\s,]+(?:(?:with|and)\s+)?(?:an?\s+)?(?P<ohms>\d+(?:[.,]\d+)?\s*[kMR]?\d*)\s*(?:Ω|ohms?)?\s*(?:resistor\s+)?"
    r"(?:to\s+(?P<rail>ground|gnd|3v3|3[.,]3\s?v|5\s?v|supply|vcc)|pull-?\s?(?P<way>up|down))$",
    re.IGNORECASE,
)
"""The other half of what two leads of a sensor are read by."""
_PULLED = re.compile(
    r"(?:[\s,]+(?:to\s+(?:ground|gnd)|(?:with\s+)?(?:an?\s+)?(?:internal\s+)?pull-?\s?up))+$", re.IGNORECASE
)
"""What a contact is as a rule."""
_SENSOR = re.compile(r"(?:sensor|probe|module)$", re.IGNORECASE)


@dataclass(frozen=True)
class OnPins:
    """A part, and its lines to the board as they are typed."""

    part: PartSaid
    lines: tuple[str, ...]


def part_on_pins(typed: str, kinds: Mapping[str, PartKind], parts: Mapping[str, Part]) -> OnPins | None:
    """Of a hook-up with one board. None where no pin is said, or nobody knows which pin is meant."""
    boards = [part for part in parts.values() if part.kind.group == "board"]
    if len(boards) != 1:
        return None
    said, ohms = typed.strip(), ""
    if re.match(r"(?:push[\s-]?|reed )?(?:button|switch|contact)\b", said, re.IGNORECASE):
        said = _PULLED.sub("", said)
    if (half := _TO_RAIL.search(said)) is not None:
        return _halved(said[: half.start()], half, boards[0], kinds, parts)
    powered = [found for found in _POWERED.finditer(said) if not _is_board_pin_alone(said, found)]
    said = _POWERED.sub(" ", said) if powered else said
    if re.search(r"\b(?:led|lamp)\b", said, re.IGNORECASE) and (behind := _LAMP_BEHIND.search(said)):
        said, ohms = said[: behind.start()], behind["ohms"].strip()
    placed = [
        (found, pin)
        for found in _PLACED.finditer(said)
        if (pin := _pin_of_board(found["pin"], boards[0])) and (found["said"] or not found["pin"].isdigit())
    ] or _by_names(said, boards[0], kinds, parts)
    if not placed:
        return None
    words = [("" if (found["name"] or "").lower() in _NO_PIN else found["name"] or "") for found, _ in placed]
    part = _part(said, [found for found, _ in placed], words, kinds, parts)
    if part is None or part.kind.group == "board" or all(set(each.roles) <= set(POWER) for each in part.kind.pins):
        return None
    own = [_own_pin(part.kind, word) for word in words] if len(placed) > 1 else [signal_pin(part.kind)]
    if None in own or len(set(own)) < len(own) or (ohms and part.kind.name != "lamp"):
        return None
    through = f" through resistor {ohms}{' Ω' if ohms.isdigit() else ''}" if ohms else ""
    lines = [f"{part.name}.{pin} > {boards[0].name}.{to}{through}" for pin, (_, to) in zip(own, placed, strict=True)]
    return OnPins(part, (*lines, *_power_lines(part, powered, boards[0])))


def names_pins(typed: str) -> bool:
    """Does it name a pin of a board, where there may be none yet?"""
    found = list(_PLACED.finditer(typed))
    return (
        any(each["said"] or not each["pin"].isdigit() for each in found)
        or sum(bool(each["name"]) for each in found) > 1
    )


def counts_from_nothing(typed: str, boards: Sequence[Part]) -> bool:
    """``pot on a0``, where no board has such a pin."""
    return re.search(r"\ba0\b", typed, re.IGNORECASE) is not None and not any(
        pin.name.lower() == "a0" for board in boards for pin in board.kind.pins
    )


def _halved(
    said: str, half: re.Match[str], board: Part, kinds: Mapping[str, PartKind], parts: Mapping[str, Part]
) -> OnPins | None:
    """A sensor of two leads with its resistor: ``thermistor 10k on a1 with 10k to ground``."""
    made = part_on_pins(said, kinds, parts)
    if made is None or len(made.lines) != 1 or len(made.part.kind.pins) != 2:
        return None
    rail = (half["rail"] or ("gnd" if half["way"].lower() == "down" else "supply")).lower()
    by_role = {role: pin.name for pin in board.kind.pins for role in pin.roles}
    up = next(
        (pin.name for pin in board.kind.pins if pin.name == ("3V3" if board.kind.name != "5 V board" else "5V")), "5V"
    )
    other, own = (by_role["ground"], up) if rail in ("gnd", "ground") else (up, by_role["ground"])
    pin = made.lines[0].rpartition(".")[2]
    lead = next(
        each.name for each in made.part.kind.pins if not made.lines[0].startswith(f"{made.part.name}.{each.name} ")
    )
    ohms = f"{half['ohms'].strip()}{' Ω' if half['ohms'].strip().isdigit() else ''}"
    return OnPins(
        made.part,
        (
            *made.lines,
            f"{made.part.name}.{lead} > {board.name}.{own}",
            f"{board.name}.{pin} > {board.name}.{other} through resistor {ohms}",
        ),
    )


def _is_board_pin_alone(said: str, found: re.Match[str]) -> bool:
    """``5v to vcc`` says no part at all."""
    return not (said[: found.start()] + said[found.end() :]).strip(" ,")


def _by_names(
    said: str, board: Part, kinds: Mapping[str, PartKind], parts: Mapping[str, Part]
) -> list[tuple[re.Match[str], str]]:
    """Pins by bare numbers, where each has the name of one of the part's before it: ``dt 4 sck 5``."""
    found = [each for each in _PLACED.finditer(said) if each["name"] and _pin_of_board(each["pin"], board)]
    if len(found) < 2:
        return []
    part = _part(said, found, [each["name"] for each in found], kinds, parts)
    is_named = part is not None and all(_own_pin(part.kind, each["name"]) for each in found)
    return [(each, _pin_of_board(each["pin"], board) or "") for each in found] if is_named else []


def _power_lines(part: PartSaid, powered: Sequence[re.Match[str]], board: Part) -> list[str]:
    """To the rails that are said."""
    lines = []
    for found in powered:
        role = "supply" if found["supply"] else "ground"
        own = next((pin.name for pin in part.kind.pins if role in pin.roles), None)
        rail = "gnd" if role == "ground" else "5V" if found["rail"].startswith("5") else "3V3"
        to = next((pin.name for pin in board.kind.pins if pin.name == rail), None)
        if own and to:
            lines.append(f"{part.name}.{own} > {board.name}.{to}")
    return lines


def _pin_of_board(said: str, board: Part) -> str | None:
    wanted = re.sub(r"^(?:gpio|dio|io|d)(?=\d)", "", said.lower())
    return next((each.name for each in board.kind.pins if each.name.lower() in (wanted, f"p{wanted}")), None)


def _part(
    said: str,
    placed: Sequence[re.Match[str]],
    words: Sequence[str],
    kinds: Mapping[str, PartKind],
    parts: Mapping[str, Part],
) -> PartSaid | None:
    """What stands around the pins. The word before a lone pin belongs to the part: ``button 4``, ``fan p7``."""
    rest, end = [], 0
    for found, word in zip(placed, words, strict=True):
        begins = found.start("pin") if word and len(placed) == 1 else found.start()
        rest.append(said[end:begins])
        end = found.end()
    bare = re.sub(r"(?:\s+(?:on|to|at|pins?|and|=)\b)+\s*$", "", " ".join([*rest, said[end:]]).strip(), flags=re.I)
    bare = re.sub(r"\s+(?:on|to|at)\s*(?:pins?\b)?\s+(?=\d)", " ", f" {bare} ").strip(" ,")
    try:
        if made := _said_with_or_without(bare, words, kinds, parts) if bare else None:
            return made
        is_analog = len(placed) == 1 and placed[0]["pin"].lower().startswith("a") and _SENSOR.search(bare)
        return part_said(ANALOG, kinds, parts) if is_analog else None
    except RequestError:
        if len(placed) == 1:
            raise
        return None


def _said_with_or_without(
    bare: str, words: Sequence[str], kinds: Mapping[str, PartKind], parts: Mapping[str, Part]
) -> PartSaid | None:
    """A part; of a lone pin the word before it may be the part's own pin: ``potentiometer wiper a1``."""
    try:
        return part_said(bare, kinds, parts)
    except RequestError:
        word = words[0] if len(words) == 1 else ""
        made = part_said(bare.removesuffix(word), kinds, parts) if word and bare.endswith(word) else None
        if made is None or _own_pin(made.kind, word) != signal_pin(made.kind):
            raise
        return made


def _own_pin(kind: PartKind, word: str) -> str | None:
    """The part's pin that is called so, here or elsewhere."""
    wanted = ALIASES.get(word.lower(), word.lower())
    if named := next((pin.name for pin in kind.pins if pin.name.lower() == wanted), None):
        return named
    for pattern, roles in BY_ROLE:
        if re.fullmatch(pattern, word, re.IGNORECASE):
            return next((pin.name for role in roles for pin in kind.pins if role in pin.roles), None)
    return None
