"""Character sets of 5×8 panels: the letter of each code, and substitutes for missing letters.

Latin with katakana and western European are laid out as such displays commonly are: ASCII below 0x7E, JIS X 0201 from
0xA1 on, or ISO 8859-1 from 0xA0 on. Code page 437 is that of the standard tables. Codes from 0x00 to 0x07, repeated at
0x08 to 0x0F, are the eight custom glyphs, where a panel has them.
"""

from __future__ import annotations

import unicodedata
from collections.abc import Mapping
from dataclasses import field
from functools import cached_property

from lesart.core.dataclass_later import dataclass
from lesart.core.glyphs.box5x8 import LINES
from lesart.core.glyphs.cell5x8 import BLANK, CELLS_5X8
from lesart.core.glyphs.katakana5x8 import KATAKANA
from lesart.core.glyphs.latin5x8 import LATIN
from lesart.core.glyphs.symbols5x8 import SYMBOLS

Dots = tuple[int, ...]
GLYPHS: Mapping[str, Dots] = {**LINES, **SYMBOLS, **LATIN, **KATAKANA, **CELLS_5X8}
"""Every letter for which Lesart has a 5×8 shape."""
SAME = {"μ": "µ", "Ω": "Ω", "−": "-", "–": "-", "’": "'", "‘": "'", "”": '"', "“": '"', "…": ".", "•": "●"}
"""Letters that look the same in so few dots, or mean the same."""
NEAREST = {
    "°": "o",
    "µ": "u",
    "Ω": "R",
    "×": "x",
    "÷": "/",
    "±": "+",
    "→": ">",
    "←": "<",
    "²": "2",
    "³": "3",
    "½": "5",
    "ß": "s",
    "Ø": "O",
    "ø": "o",
    "·": ".",
    "█": "#",
    "¥": "Y",
}
_ASCII = {code: chr(code) for code in range(0x20, 0x7F)}
_TAIL = {
    0xE0: "α",
    0xE1: "ä",
    0xE2: "β",
    0xE3: "ε",
    0xE4: "µ",
    0xE5: "σ",
    0xE6: "ρ",
    0xE8: "√",
    0xEC: "¢",
    0xED: "£",
    0xEE: "ñ",
    0xEF: "ö",
    0xF2: "θ",
    0xF3: "∞",
    0xF4: "Ω",
    0xF5: "ü",
    0xF6: "Σ",
    0xF7: "π",
    0xFA: "千",
    0xFB: "万",
    0xFC: "円",
    0xFD: "÷",
    0xFF: "█",
}
_JIS_FROM, _JIS_LETTER, _JIS_COUNT = 0xA1, 0xFF61, 62


@dataclass(frozen=True, eq=False)
class CharacterSet:
    """``letters`` by code; where several codes show one letter, the lowest is sent.

    ``own`` are dots by code, where they differ from Lesart's drawing of the letter.
    """

    name: str
    title: str
    letters: Mapping[int, str]
    own: Mapping[int, Dots] = field(default_factory=dict)

    @cached_property
    def codes(self) -> Mapping[str, int]:
        """The code of each letter."""
        return {letter: code for code, letter in sorted(self.letters.items(), reverse=True)}

    def code(self, letter: str) -> int | None:
        """The code to send for a letter, or for one that looks the same; None where there is none."""
        if letter in self.codes:
            return self.codes[letter]
        return self.codes.get(SAME.get(letter, ""), self.codes.get(_half_width(letter)))

    def dots(self, code: int) -> Dots:
        """The dots of a code; none where the set has nothing."""
        return self.own.get(code) or GLYPHS.get(self.letters.get(code, " "), BLANK)

    def substitute(self, letter: str) -> str | None:
        """The nearest letter that the set has: without its accent, or one that reads the same; None without any."""
        plain = unicodedata.normalize("NFD", letter)[0]
        return next((each for each in (plain, NEAREST.get(letter, "")) if each and self.code(each) is not None), None)


def _half_width(letter: str) -> str:
    """The half-width form of a katakana letter; any other letter unchanged."""
    return _HALVES.get(letter, letter)


_HALVES = {unicodedata.normalize("NFKC", half): half for half in KATAKANA}


def _katakana() -> dict[int, str]:
    jis = {_JIS_FROM + place: chr(_JIS_LETTER + place) for place in range(_JIS_COUNT)}
    return {**_ASCII, 0x5C: "¥", 0x7E: "→", 0x7F: "←", **jis, 0xDF: "°", **_TAIL}


def _western() -> dict[int, str]:
    latin = {code: chr(code) for code in range(0xA1, 0x100) if chr(code) in GLYPHS}
    arrows = {
        0x10: "▶",
        0x11: "◀",
        0x16: "●",
        0x18: "↑",
        0x19: "↓",
        0x1A: "→",
        0x1B: "←",
        0x1C: "≤",
        0x1D: "≥",
        0x1E: "▲",
        0x1F: "▼",
    }
    return {**_ASCII, **arrows, 0xA0: " ", **latin}


def _page_437() -> dict[int, str]:
    return {code: letter for code in range(0x20, 0x100) if (letter := bytes([code]).decode("cp437")) in GLYPHS} | {
        code: SAME[letter] for code in range(0x80, 0x100) if (letter := bytes([code]).decode("cp437")) in SAME
    }


SETS: dict[str, CharacterSet] = {
    each.name: each
    for each in (
        CharacterSet("Latin, katakana", "ASCII with katakana and some Greek", _katakana()),
        CharacterSet("western European", "ASCII with ISO 8859-1 and arrows", _western()),
        CharacterSet("code page 437", "ASCII with lines, shades and Greek", _page_437()),
        CharacterSet("ASCII", "from blank to tilde, nothing else", _ASCII),
    )
}
