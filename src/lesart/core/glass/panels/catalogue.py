"""Generic panels to start from; a person changes what differs."""

from __future__ import annotations

import re
from collections.abc import Mapping

Table = Mapping[str, str | int | bool]

MODULES = {"8×8 modules, four": 4, "8×8 module": 1, "8×8 modules, two": 2, "8×8 modules, eight": 8}
"""Numbers of modules in a chain, the usual one first."""
MODULE: Table = {
    "kind": "pixels",
    "width": 8,
    "height": 8,
    "light": "red",
    "pitch": "4 mm",
    "dots": "round",
    "bytes": "rows of chained modules",
    "low_first": False,
    "bus": "four-wire",
    "clock": "1 MHz",
}
PAPER: Table = {
    "kind": "pixels",
    "light": "paper",
    "keeps": True,
    "change": "2 s",
    "quick_change": "0.3 s",
    "bytes": "rows of eight columns",
    "low_first": False,
    "inverted": True,
    "bus": "four-wire",
    "clock": "4 MHz",
}
"""Paper-like panels of the usual sizes; in their memory a 1 is white. The times are usual ones: data sheets differ."""
INKED: Table = {"kind": "inks", "bus": "four-wire", "clock": "4 MHz"}
"""The same with a third ink; of any size, on whose usual ones the pitch depends."""
LAMPS = "colour lamps"
"""Of any number: how many there are stands before it."""
WITHOUT_QUICK_ONES: Table = {"change": "5 s", "quick_change": "0 s"}
CATALOGUE: dict[str, Table] = {
    "1 digit": {"kind": "segments", "digits": 1, "drive": "direct"},
    "2 digits": {"kind": "segments", "digits": 2},
    "3 digits": {"kind": "segments", "digits": 3},
    "4 digits": {"kind": "segments", "digits": 4},
    "4 digits with colon": {
        "kind": "segments",
        "digits": 4,
        "points": False,
        "colons": "2",
        "drive": "two-line driver",
    },
    "4 digits of 14 segments": {"kind": "segments", "digits": 4, "segments": "14", "drive": "two-line driver"},
    "6 digits": {"kind": "segments", "digits": 6, "drive": "two-line driver"},
    "8 digits": {"kind": "segments", "digits": 8, "drive": "shift registers", "chain": "right to left"},
    "8 digits of 16 segments": {"kind": "segments", "digits": 8, "segments": "16", "drive": "shift registers"},
    "16 digits": {"kind": "segments", "digits": 16, "drive": "shift registers"},
    "8×1 characters": {"kind": "characters", "columns": 8, "rows": 1},
    "8×2 characters": {"kind": "characters", "columns": 8, "rows": 2},
    "16×1 characters": {"kind": "characters", "columns": 16, "rows": 1},
    "16×2 characters": {"kind": "characters", "columns": 16, "rows": 2},
    "20×2 characters": {"kind": "characters", "columns": 20, "rows": 2},
    "16×4 characters": {"kind": "characters", "columns": 16, "rows": 4},
    "20×4 characters": {"kind": "characters", "columns": 20, "rows": 4},
    "40×2 characters": {"kind": "characters", "columns": 40, "rows": 2},
    "40×4 characters": {"kind": "characters", "columns": 40, "rows": 4},
    "128×64 pixels": {"kind": "pixels", "width": 128, "height": 64, "pitch": "0.17 mm"},
    "128×32 pixels": {"kind": "pixels", "width": 128, "height": 32, "pitch": "0.17 mm"},
    "84×48 pixels": {"kind": "pixels", "width": 84, "height": 48, "light": "grey", "pitch": "0.36 mm"},
    "64×48 pixels": {"kind": "pixels", "width": 64, "height": 48, "offset": 32, "beyond": 32, "pitch": "0.21 mm"},
    "72×40 pixels": {"kind": "pixels", "width": 72, "height": 40, "offset": 28, "beyond": 28, "pitch": "0.13 mm"},
    "64×32 pixels": {"kind": "pixels", "width": 64, "height": 32, "offset": 32, "beyond": 32, "pitch": "0.17 mm"},
    "96×16 pixels": {"kind": "pixels", "width": 96, "height": 16, "pitch": "0.18 mm"},
    "256×64 pixels": {"kind": "pixels", "width": 256, "height": 64, "light": "amber", "pitch": "0.3 mm"},
    "128×160 colours": {"kind": "colours", "width": 128, "height": 160, "pitch": "0.22 mm"},
    "128×128 colours": {"kind": "colours", "width": 128, "height": 128, "pitch": "0.2 mm"},
    "160×80 colours": {
        "kind": "colours",
        "width": 160,
        "height": 80,
        "pitch": "0.136 mm",
        "inverts": True,
        "offset": 1,
        "row_offset": 26,
    },
    "135×240 colours": {
        "kind": "colours",
        "width": 135,
        "height": 240,
        "pitch": "0.11 mm",
        "inverts": True,
        "offset": 52,
        "row_offset": 40,
    },
    # Of a memory of 240 by 320 they have the middle.
    "170×320 colours": {
        "kind": "colours",
        "width": 170,
        "height": 320,
        "pitch": "0.133 mm",
        "inverts": True,
        "offset": 35,
    },
    "172×320 colours": {
        "kind": "colours",
        "width": 172,
        "height": 320,
        "pitch": "0.103 mm",
        "inverts": True,
        "offset": 34,
    },
    "240×280 colours": {
        "kind": "colours",
        "width": 240,
        "height": 280,
        "pitch": "0.117 mm",
        "inverts": True,
        "row_offset": 20,
    },
    "240×240 colours": {"kind": "colours", "width": 240, "height": 240, "pitch": "0.1 mm", "inverts": True},
    "240×320 colours": {"kind": "colours", "width": 240, "height": 320, "pitch": "0.153 mm"},
    "320×480 colours": {
        "kind": "colours",
        "width": 320,
        "height": 480,
        "pitch": "0.153 mm",
        "depth": "18",
        "clock": "40 MHz",
    },
    "200×200 e-paper": {**PAPER, "width": 200, "height": 200, "pitch": "0.138 mm"},
    "122×250 e-paper": {**PAPER, "width": 122, "height": 250, "pitch": "0.194 mm"},
    "128×296 e-paper": {**PAPER, "width": 128, "height": 296, "pitch": "0.226 mm"},
    "176×264 e-paper": {**PAPER, "width": 176, "height": 264, "pitch": "0.217 mm"},
    "400×300 e-paper": {**PAPER, "width": 400, "height": 300, "pitch": "0.212 mm"},
    "800×480 e-paper": {**PAPER, **WITHOUT_QUICK_ONES, "width": 800, "height": 480, "pitch": "0.205 mm"},
    **{
        f"{width}×{height} e-paper with red": {**INKED, "width": width, "height": height, "pitch": f"{pitch_mm} mm"}
        for width, height, pitch_mm in (
            (128, 296, 0.226),
            (152, 152, 0.177),
            (200, 200, 0.138),
            (104, 212, 0.229),
            (122, 250, 0.194),
            (176, 264, 0.217),
            (400, 300, 0.212),
            (800, 480, 0.205),
        )
    },
    LAMPS: {"kind": "lamps", "backlight": "20 %"},
    **{name: {**MODULE, "width": 8 * count} for name, count in MODULES.items()},
}


BASES = {
    "characters": "16×2 characters",
    "pixels": "128×64 pixels",
    "colours": "240×320 colours",
    "e-paper": "200×200 e-paper",
    "e-paper with red": "200×200 e-paper with red",
}
"""What a panel of a size that is not listed begins as."""
LARGE = "256×64 pixels"
"""The same for pixels that are too many for two wires."""
MOST_ON_TWO = 128 * 64
"""Most pixels over two wires; more take longer than anyone waits."""


def is_chained(table: Table) -> bool:
    """True for modules one behind the other."""
    return "chained" in str(table.get("bytes", ""))


def is_paper(table: Table) -> bool:
    """True for a panel that keeps its picture and changes it slowly."""
    return table.get("light") == PAPER["light"] or has_third_ink(table)


def has_third_ink(table: Table) -> bool:
    """True for one that has a third ink beside black and white."""
    return table.get("kind") == INKED["kind"]


def named(typed: str) -> tuple[str, str] | None:
    """The catalogue panel that a text begins with, or that one of its size begins as, and the rest of the text; ``x``
    may be written for ``×``. None also for one of the catalogue that is said the other way round."""
    plain = re.sub(r"(\d)x(\d)", r"\1×\2", typed.strip().lower())
    if found := re.match(rf"(?:\d+(?:×\d+)? )?{LAMPS}(?: |$)", plain):
        return LAMPS, typed.strip()[found.end() :].strip()
    for name in sorted(CATALOGUE, key=len, reverse=True):
        if plain == name or plain.startswith(f"{name} "):
            return name, typed.strip()[len(name) :].strip()
    if found := re.match(rf"(\d{{1,3}})×(\d{{1,3}}) ({'|'.join(sorted(BASES, key=len, reverse=True))})(?: |$)", plain):
        if f"{found[2]}×{found[1]} {found[3]}" in CATALOGUE:  # that one, on its side
            return None
        is_large = found[3] == "pixels" and int(found[1]) * int(found[2]) > MOST_ON_TWO
        return LARGE if is_large else BASES[found[3]], typed.strip()[found.end() :].strip()
    return None


def of_size(kind: str, across: int, down: int) -> Table:
    """The values by which a panel of the catalogue becomes one of another size; none where it has that size, or lies on
    its side then."""
    table = CATALOGUE[kind]
    names = ("columns", "rows") if "columns" in table else ("width", "height")
    own = tuple(int(table.get(name, 0)) for name in names)
    if kind not in (*BASES.values(), LARGE) or (across, down) in (own, own[::-1]):
        return {}
    return {names[0]: across, names[1]: down, **({"light": "white"} if kind == LARGE else {})}
