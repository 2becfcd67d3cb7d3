"""The tail after a part and its pins: its resistor, a pull-up, the rail of its other leg."""

from __future__ import annotations

import re

from lesart.core.dataclass_later import dataclass
from lesart.core.wire.part import Part

GROUND = "gnd"
OHMS = r"(?P<ohms>\d+(?:[.,]\d+)?\s*(?:[kMR]\d*|[kM]?\s*(?:Ω|ohms?\b))?(?![.,]?\w))"
_RAIL = re.compile(
    r"[\s,]+(?:(?:and|with|the\s+other\s+(?:leg|side|end)|other\s+(?:leg|side|end)|to|->)\s+)*"
    r"(?P<rail>ground|gnd|3v3|3[.,]3\s?v|5\s?v|supply|vcc|vdd)$",
    re.IGNORECASE,
)
_BEFORE = r"[\s,]+(?:(?:with|through|via|over|and|on|an?|external|internal|its|own|series|resistor|of)\s+)*"
_PULL = re.compile(rf"{_BEFORE}pull-?\s?(?P<way>up|down)s?(?:\s+resistors?)?$", re.IGNORECASE)
_OHMS = re.compile(
    rf"(?<!\bpin)(?<!\bon)(?<!\bto)(?<!\bat){_BEFORE}{OHMS}\s*(?:series\s+)?(?P<word>resistors?)?$", re.IGNORECASE
)
_LAMP = re.compile(r"\b(?:led|lamp|diode|buzzer)\b", re.IGNORECASE)
_BY = re.compile(r"[\s,]+(?:with|through|via|over)\b", re.IGNORECASE)
_PARTS = (("rail", _RAIL), ("pull", _PULL), ("ohms", _OHMS))


@dataclass(frozen=True)
class Tail:
    """``ohms`` as written; ``way`` up or down; ``rail`` by name: each empty where not stated.

    ``is_resistor``: the ohms are those of a separate resistor.
    """

    ohms: str = ""
    way: str = ""
    rail: str = ""
    is_resistor: bool = False

    @property
    def resistor(self) -> str:
        """The resistor of a connection; empty where none is stated."""
        bare = " Ω" if re.fullmatch(r"[\d.,]+", self.ohms) else ""
        return f" through resistor {self.ohms}{bare}" if self.ohms else ""

    def rail_of(self, board: Part) -> str:
        """The board's rail that is meant; for an unnamed supply or pull-up, that of its own level."""
        said = self.rail.lower().replace(" ", "").replace(",", ".")
        if said in ("gnd", "ground") or (not said and self.way == "down"):
            return GROUND
        pins = [pin.name for pin in board.kind.pins]
        own = next(
            (pin.name for pin in board.kind.pins if pin.gives_v == board.kind.logic_v and "supply out" in pin.roles),
            "5V",
        )
        wanted = {"3v3": "3V3", "3.3v": "3V3", "5v": "5V"}.get(said, own)
        return wanted if wanted in pins else own


def tail_of(said: str) -> tuple[str, Tail]:
    """The text before the tail, and the tail, in any order."""
    found: dict[str, re.Match[str]] = {}
    while True:
        cut = next(
            ((name, each) for name, pattern in _PARTS if name not in found and (each := pattern.search(said))), None
        )
        if cut is None:
            break
        name, each = cut
        if name == "ohms" and each["ohms"].isdigit() and not (_LAMP.search(said) or _BY.match(each[0])):
            break  # a number alone is rather a pin
        found[name], said = each, said[: each.start()]
    ohms, pull, rail = found.get("ohms"), found.get("pull"), found.get("rail")
    tail = Tail(
        ohms["ohms"].strip() if ohms else "",
        pull["way"].lower() if pull else "",
        rail["rail"] if rail else "",
        bool(ohms and (ohms["word"] or pull or rail or re.search(r"\bresistor\b", ohms[0], re.IGNORECASE))),
    )
    return said, tail


def where_it_leads(ohms: str) -> str:
    """What to ask of a resistor beside a sensor."""
    return f"{ohms}: say where that resistor leads: with {ohms} to ground, or a pull-up."
