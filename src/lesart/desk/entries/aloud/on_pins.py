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
    r"(?:(?:^|(?<=[\s,]))(?P<name>[a-z][a-z+−-]{0,9})\s*)?(?P<said>(?:(?<=[\s,])(?:on|to|at|=)\s+)?(?:(?<=\s)pin\s+)?)"
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
"""What pins are called that have another name here."""
ANALOG = "analog sensor"
"""What is read by an analog pin, whatever it measures."""
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
    if re.search(r"\b(?:led|lamp)\b", said, re.IGNORECASE) and (behind := _LAMP_BEHIND.search(said)):
        said, ohms = said[: behind.start()], behind["ohms"].strip()
    placed = [
        (found, pin)
        for found in _PLACED.finditer(said)
        if (pin := _pin_of_board(found["pin"], boards[0])) and (found["said"] or not found["pin"].isdigit())
    ]
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
    return OnPins(part, tuple(lines))


def _pin_of_board(said: str, board: Part) -> str | None:
    wanted = said.lower()
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
        if made := part_said(bare, kinds, parts) if bare else None:
            return made
        is_analog = len(placed) == 1 and placed[0]["pin"].lower().startswith("a") and _SENSOR.search(bare)
        return part_said(ANALOG, kinds, parts) if is_analog else None
    except RequestError:
        if len(placed) == 1:
            raise
        return None


def _own_pin(kind: PartKind, word: str) -> str | None:
    """The part's pin that is called so, here or elsewhere."""
    wanted = ALIASES.get(word.lower(), word.lower())
    if named := next((pin.name for pin in kind.pins if pin.name.lower() == wanted), None):
        return named
    for pattern, roles in BY_ROLE:
        if re.fullmatch(pattern, word, re.IGNORECASE):
            return next((pin.name for role in roles for pin in kind.pins if role in pin.roles), None)
    return None
