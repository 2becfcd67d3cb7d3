"""The firmware's processor, and the allowed error of integers, as people type them at + in 9 Pack: ``16 bit``, ``no
divider``, ``within 10 %``, ``in whole numbers``."""

from __future__ import annotations

import re
from collections.abc import Callable

from lesart.core.errors import RequestError
from lesart.core.notes import Written
from lesart.core.pack.settings import FLOATS, WHOLES, WORDS
from lesart.desk.entries.aloud.instead.asked import Asks, bare, first_of

PACKED = {
    "16 bit": "words of a small processor; products have 32",
    "32 bit": "words of a larger one",
    "no multiplier": "it shifts and adds instead",
    "no divider": "it multiplies by reciprocals instead",
    "within 10 %": "how near whole numbers come, in per cent of a field's last place",
    "500 vectors": "so many of each capture, beside the ends",
    "in whole numbers": "the desk works the channel out as the firmware will",
    "in floats": "the desk works it out exactly",
}
"""Phrases and their meaning."""
_PROCESSOR = r"(?:\s*-?\s*bits?)(?:\s+(?:words?|numbers?|processor|controller|core|integers?|machine))*"
_HAS_NOT = r"(?:(?:it\s+|processor\s+)?(?:has|with)?\s*(?:no|without(?:\s+an?)?))"
_HAS = r"(?:(?:it\s+|processor\s+)?(?:has|with|can)\s+(?:an?\s+)?)"
_RULES: tuple[tuple[str, Callable[[re.Match[str]], tuple[str, Written]]], ...] = (
    (
        rf"(?:word\s*[=:]?\s*)?(?P<bits>\d{{1,3}}){_PROCESSOR}|(?:word|u?int)\s*[=:]?\s*(?P<of>\d{{1,3}})(?:_t)?",
        lambda said: _word(said),
    ),
    (rf"{_HAS_NOT}\s+(?:hardware\s+)?(?:multipl\w+|mul)", lambda said: ("multiplier", False)),
    (rf"{_HAS}(?:hardware\s+)?(?:multipl\w+|mul)", lambda said: ("multiplier", True)),
    (rf"{_HAS_NOT}\s+(?:hardware\s+)?(?:divi\w+|div)|cannot\s+divide", lambda said: ("divider", False)),
    (rf"{_HAS}(?:hardware\s+)?(?:divi\w+|div)", lambda said: ("divider", True)),
    (
        r"(?:within|error(?:\s+(?:below|under|of))?|off\s+by(?:\s+at\s+most)?|at\s+most)\s*[=:]?\s*(?P<share>\d{1,3}(?:[.,]\d+)?)\s*%"
        r"(?:\s+of\s+(?:a|the|its)\s+(?:last\s+)?(?:digit|place))?",
        lambda said: ("share", f"{said['share'].replace(',', '.')} %"),
    ),
    (
        r"(?:within|error(?:\s+(?:below|under|of))?|off\s+by(?:\s+at\s+most)?|at\s+most)\s+(?P<of>1|one|an?|half(?:\s+an?)?|a\s+quarter"
        r"(?:\s+of\s+an?)?|a\s+tenth(?:\s+of\s+an?)?|0?\.\d{1,2})\s+(?:last\s+)?(?:digit|place)",
        lambda said: ("share", f"{_share_of(said['of']):g} %"),
    ),
    (
        r"(?:(?P<first>\d{1,4})\s+(?:test\s+)?vectors|(?:test\s+)?vectors\s*[=:]?\s*(?P<behind>\d{1,4}))",
        lambda said: ("vectors", int(said["first"] or said["behind"])),
    ),
    (
        r"(?:(?:compute[ds]?|work(?:ed)?\s+out|reckon(?:ed)?|calculate[ds]?)\s+)?(?:in\s+|as\s+|with\s+)?"
        r"(?:whole\s+numbers|integers?|fixed[\s-]?point)|(?:no|without(?:\s+an?)?)\s+(?:fpu|floats?|floating[\s-]point)",
        lambda said: ("computed", WHOLES),
    ),
    (
        r"(?:(?:compute[ds]?|work(?:ed)?\s+out|reckon(?:ed)?|calculate[ds]?)\s+)?(?:in\s+|as\s+|with\s+)?"
        r"(?:floats?|floating[\s-]point|doubles?|exact(?:ly)?)",
        lambda said: ("computed", FLOATS),
    ),
)
_PATTERNS = tuple((re.compile(pattern, re.IGNORECASE), put) for pattern, put in _RULES)
_APART = re.compile(
    r"\s*(?:;|,(?!\d))\s*(?:and\s+)?|\s+and\s+|(?<=bit)\s+(?=no\b|without\b)|(?<=bits)\s+(?=no\b|without\b)",
    re.IGNORECASE,
)
ASKS: Asks = (
    (
        r"(?:write|export|save|generate|make|build|compile|compare|test)\b",
        "x writes the pack, compiles it and compares",
    ),
    (
        r"(?:c|c99|c\+\+|python|header|code|source|library)\b",
        "x writes it, in C and as a Python module that says the same",
    ),
    (
        r"(?:table|lookup|lut|entries|size|smaller|memory|ram|flash)\b",
        "table sizes follow from how near it has to be: within 50 % needs less",
    ),
    (
        r"(?:\w+\s+)?(?:faster|speed|cycles|clock|mhz|operations)\b",
        "the speed of the processor is its clock, in 8 Pace",
    ),
    (
        r"(?:scale|shift|q\d+|step|resolution)\b",
        "the step of whole numbers follows from the field's last place and within",
    ),
)


def pack_said(typed: str) -> dict[str, Written]:
    """Values of the pack by name, and ``computed`` of the channel. Raises RequestError for anything else."""
    found: dict[str, Written] = {}
    for piece in filter(None, _APART.split(typed.strip())):
        name, value = _value_of(piece)
        found[name] = value
    if not found:
        raise RequestError(_none(typed))
    return found


def _value_of(piece: str) -> tuple[str, Written]:
    for pattern, put in _PATTERNS:
        if said := pattern.fullmatch(piece.strip()):
            return put(said)
    if how := first_of(ASKS, bare(piece)):
        raise RequestError(f'"{piece.strip()}": {how}.')
    raise RequestError(_none(piece))


def _share_of(said: str) -> float:
    """Per cent of a digit."""
    named = {"half": 50.0, "quarter": 25.0, "tenth": 10.0}
    word = next((word for word in named if word in said.lower()), "")
    return named[word] if word else 100.0 * (float(said) if said[-1].isdigit() else 1.0)


def _none(typed: str) -> str:
    return (
        f'"{typed.strip()}" says nothing of a pack; say its processor, like 16 bit, no divider or no multiplier, how '
        "near whole numbers come, like within 10 %, or in whole numbers for the channel."
    )


def _word(said: re.Match[str]) -> tuple[str, Written]:
    bits = said["bits"] or said["of"]
    if bits == "8":
        return "word", WORDS[0]  # an 8-bit processor adds and multiplies words of 16
    if bits not in WORDS:
        raise RequestError(f'"{said[0].strip()}": words are of {" or ".join(WORDS)} bits.')
    return "word", bits
