"""The kind of part that is meant, by its named pins: within a family, the kind that has them."""

from __future__ import annotations

import re
from collections.abc import Mapping, Sequence

from lesart.core.errors import RequestError
from lesart.core.wire.part import Part, PartKind
from lesart.core.wire.pinout import use_met_by
from lesart.desk.entries.aloud.wired.pin_names import has_pins, own_pin
from lesart.desk.entries.aloud.wired.wiring import PartSaid, named_part, part_said
from lesart.desk.entries.recipes.shown.displays_aloud import DIGITS, INCHES, SEGMENTS, SEVEN, SIZE
from lesart.desk.entries.said.modifiers import as_typed, first_change
from lesart.desk.entries.said.supply import without_supply

_ADDRESS = re.compile(r"(?:\bat\s+)?(?:address\s+)?\b0x[0-9a-f]{2}\b", re.IGNORECASE)
_COUNT = re.compile(r"(?<![\w.])\d{1,2}[\s-]*(?:digits?|wires?|pins?|lines?|bits?|keys?)\b", re.IGNORECASE)
"""Figures that belong to a name: two wires, 4 digits."""
FAMILIES: tuple[tuple[str, tuple[str, ...]], ...] = (
    (
        r"digits?|(?:7|seven)[\s-]seg\w*",
        ("four digits", "digits on two lines", "digits with an address", "digits on registers", "numbered digits"),
    ),
    (r"lcd|character", ("character display", "two-wire character display")),
    (
        r"oled|pixels?|tft|colou?r|display|screen|lcd",
        ("two-wire pixel display", "four-wire pixel display", "colour display", "digits on two lines"),
    ),
    (r"matrix|matrices", ("chained modules",)),
    (r"encoder|knob", ("beam counter", "rotary encoder")),
    (r"ultrasonic|ranger|distance", ("echo ranger",)),
    (
        r"sensor|probe|module|amplifier|converter|adc|barometer|hygrometer|thermometer|accelerometer|imu",
        (
            "two-wire sensor",
            "single-wire sensor",
            "analog sensor",
            "four-wire module",
            "echo ranger",
            "bridge amplifier",
        ),
    ),
)
"""Families of kinds that people call by one name, and that differ in their pins."""


def part_with_pins(
    bare: str, words: Sequence[str], kinds: Mapping[str, PartKind], parts: Mapping[str, Part]
) -> PartSaid | None:
    """The line with the kind of the family that has pins with these names."""
    try:
        made = part_said(bare, kinds, parts)
    except RequestError:
        made = None
    if made is not None and has_pins(made.kind, words) and not _left(made.kind, words):
        return made
    for pattern, names in FAMILIES:
        if made is not None and made.kind.name not in names:
            continue
        if re.search(rf"(?<!\w)(?:{pattern})(?!\w)", bare, re.IGNORECASE) is None:
            continue
        able = [kinds[name] for name in names if name in kinds and has_pins(kinds[name], words)]
        if able:
            whole = next((kind for kind in able if not _left(kind, words)), able[0])
            _check_rest(bare, pattern, whole)
            return named_part(bare, whole, kinds, parts)
    return made if made is not None and has_pins(made.kind, words) else None


def _left(kind: PartKind, words: Sequence[str]) -> set[str]:
    """Pins that have to be joined to the board and are not named."""
    named = {own_pin(kind, word) for word in words}
    return {pin.name for pin in kind.pins if not pin.optional and pin.name not in named and use_met_by(pin.roles)}


def _check_rest(bare: str, family: str, kind: PartKind) -> None:
    """Raises RequestError for a figure, or a word that changes something, beside the family's name. Other words are
    names: a thermocouple amplifier."""
    rest = bare.lower()
    for pattern in (_ADDRESS, SIZE, SEVEN, SEGMENTS, DIGITS, INCHES, _COUNT):
        rest = pattern.sub(" ", rest)
    rest = re.sub(rf"(?<!\w)(?:{family})(?!\w)", " ", rest)
    if change := first_change(without_supply(rest, kind)):
        raise RequestError(f'"{as_typed(bare, change)}" says nothing of {kind.called}; leave it out.')
