"""Names of parts' pins on modules and in programs."""

from __future__ import annotations

import re
from collections.abc import Mapping, Sequence

from lesart.core.wire.part import PartKind

POWER = ("supply", "supply out", "ground", "excitation +", "excitation −")
"""Roles of pins that carry no signal."""
BY_ROLE: tuple[tuple[str, tuple[str, ...]], ...] = (
    (r"vcc|vdd|vin|v\+|power|supply", ("supply",)),
    (r"gnd|ground|vss|minus|0 ?V", ("ground",)),
    (r"sda", ("two-wire data",)),
    (r"scl", ("two-wire clock",)),
    (r"mosi|sdi|din", ("four-wire out", "four-wire data in")),
    (r"miso|sdo", ("four-wire in", "four-wire data out")),
    (r"sck|sclk|clk", ("four-wire clock", "four-wire clock in", "two-wire clock")),
    (r"cs|ss|ce", ("select",)),
    (r"tx|txd", ("serial send",)),
    (r"rx|rxd", ("serial receive",)),
    (r"signal|sig|output|aout|ao", ("analog out", "pulse out", "count out")),
)
"""Names of pins on parts and boards, by role."""
CALLED: Mapping[str, tuple[str, ...]] = {
    "trig": ("start",),
    "trigger": ("start",),
    "ping": ("start",),
    "dout": ("data", "out"),
    "do": ("out", "data"),
    "so": ("out",),
    "sdo": ("out",),
    "miso": ("out",),
    "si": ("in",),
    "sdi": ("in", "data"),
    "mosi": ("in", "data"),
    "din": ("data", "in"),
    "dio": ("data",),
    "dat": ("data",),
    "ds": ("data",),
    "ser": ("data",),
    "dt": ("data", "B"),
    "clk": ("clock", "A"),
    "sck": ("clock",),
    "sclk": ("clock",),
    "shcp": ("clock",),
    "srclk": ("clock",),
    "stcp": ("latch",),
    "rclk": ("latch",),
    "load": ("select", "latch"),
    "cs": ("select",),
    "ss": ("select",),
    "ce": ("select",),
    "csn": ("select",),
    "rst": ("reset",),
    "res": ("reset",),
    "rs": ("rs", "dc"),
    "bl": ("light",),
    "blk": ("light",),
    "en": ("e", "enable"),
    "enable": ("e", "enable"),
    "vo": ("contrast",),
    "sig": ("out",),
    "signal": ("out",),
    "sw": ("switch",),
    "vrx": ("x",),
    "vry": ("y",),
    "anode": ("+",),
    "cathode": ("−",),
}
"""Names of pins here for what is printed on the part, the likeliest first."""
NAMES = ("data", "clock", "out", "select", "latch", "reset", "echo", "start", "wiper")
"""Names of pins here."""
_NUMBERED = re.compile(
    r"(?<![\w.])(?P<name>[a-z][a-z+−-]{0,9}|d\d)\s*(?:=|:|on|to|at|pin|\s)*(?<![\w.])(?P<pin>[a-z]{0,4}\d{1,2})(?![\w.,°%])",
    re.IGNORECASE,
)


def own_pin(kind: PartKind, word: str) -> str | None:
    """The part's pin of that name, here or elsewhere."""
    names = [pin.name for pin in kind.pins]
    own = [name for name in names if name.lower() == word.lower()]
    # A is a contact of an encoder, a one of seven segments.
    if found := next((name for name in (*own, *CALLED.get(word.lower(), ())) if name in names), None):
        return found
    for pattern, roles in BY_ROLE:
        if re.fullmatch(pattern, word, re.IGNORECASE):
            return next((pin.name for role in roles for pin in kind.pins if role in pin.roles), None)
    return None


def has_pins(kind: PartKind, words: Sequence[str]) -> bool:
    """True where it has each of them, as different pins."""
    own = [own_pin(kind, word) for word in words]
    return None not in own and len(set(own)) == len(own)


def is_pin_name(word: str) -> bool:
    """True for a pin name and nothing else."""
    return word.lower() in (*CALLED, *NAMES) or any(
        re.fullmatch(pattern, word, re.IGNORECASE) for pattern, _ in BY_ROLE
    )


def pins_numbered(said: str, kind: PartKind | None = None) -> str:
    """All pins of a part, of this kind or of any, with pins of a board: ``clk 2 dio 3``."""
    return " ".join(each[0] for each in _numbered(said, kind))


def without_pins(said: str, kind: PartKind) -> str:
    """The text without those."""
    for each in reversed(_numbered(said, kind)):
        said = f"{said[: each.start()]} {said[each.end() :]}"
    return said


def _numbered(said: str, kind: PartKind | None) -> list[re.Match[str]]:
    found = _NUMBERED.finditer(said)
    return [each for each in found if is_pin_name(each["name"]) or (kind and own_pin(kind, each["name"]))]
