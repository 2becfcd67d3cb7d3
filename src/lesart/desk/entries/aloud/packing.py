"""The firmware's processor, and the allowed error of integers, as people type them at + in 9 Pack: ``16 bit``, ``no
divider``, ``within 10 %``, ``in whole numbers``."""

from __future__ import annotations

import re
from collections.abc import Callable

from lesart.core.errors import LesartError, RequestError
from lesart.core.fit.field import Field
from lesart.core.notes import Written
from lesart.core.pack.settings import FLOATS, LEAST_SHARE, MOST_SHARE, WHOLES, WORDS
from lesart.core.quantity import beside_unit, plain_number
from lesart.core.raw.spelled.unit_typed import quantity_typed
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
_PROCESSOR = (
    r"(?:\s*-?\s*bits?)"
    r"(?:\s+(?:words?|numbers?|processor|controller|microcontroller|mcu|cpu|chip|core|integers?|machine|arithmetic))*"
)
_HAS_NOT = r"(?:(?:it\s+|processor\s+)?(?:has|with)?\s*(?:no|without(?:\s+an?)?))"
_HAS = r"(?:(?:it\s+|processor\s+)?(?:has|with|can)\s+(?:an?\s+)?)"
_RULES: tuple[tuple[str, Callable[[re.Match[str]], tuple[str, Written]]], ...] = (
    (
        rf"(?:word\s*[=:]?\s*)?(?P<bits>\d{{1,3}}){_PROCESSOR}|(?:word|u?int)\s*[=:]?\s*(?P<of>\d{{1,3}})(?:_t)?",
        lambda said: _word(said),
    ),
    (r"(?:no|without)\s+64[\s-]*bits?(?:\s+(?:numbers?|integers?|products?))?", lambda said: ("word", WORDS[0])),
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
        r"(?:whole\s+numbers|integers?|ints?|fixed[\s-]?point)|(?:no|without(?:\s+an?)?)\s+(?:fpu|floats?|floating[\s-]point)",
        lambda said: ("computed", WHOLES),
    ),
    (
        r"(?:(?:compute[ds]?|work(?:ed)?\s+out|reckon(?:ed)?|calculate[ds]?)\s+)?(?:in\s+|as\s+|with\s+)?"
        r"(?:floats?|floating[\s-]point|doubles?|exact(?:ly)?)",
        lambda said: ("computed", FLOATS),
    ),
)
_ONLY = re.compile(
    r"^(?:(?:please|use|using|with|only|make\s+it|return)\s+)+(?!multip|divi)|\s+(?:only|please|arithmetic|math|maths)$",
    re.IGNORECASE,
)
"""What says no more than the rest."""
_OF_UNIT = re.compile(
    r"(?:(?:accura(?:cy|te)|precis(?:e|ion)|within|error|off\s+by|at\s+most)(?:\s+(?:of|to|below|under|within|at\s+most))*)"
    r"\s*[=:]?\s*(?:±|\+/-)?\s*(?P<amount>\d+(?:[.,]\d+)?\s*[^\s\d%,;]+)",
    re.IGNORECASE,
)
"""How near, in the unit of the field."""
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
        r"(?:(?:at\s+most|under|below|less\s+than)\s+)?(?:\d+(?:[.,]\d+)?\s*k?(?:i?B|bytes?)?\s+)?"
        r"(?:tables?|lookup|lut|entries|size|small\w*|memory|ram|flash)\b|"
        r"(?:(?:at\s+most|under|below|less\s+than)\s+)?\d+(?:[.,]\d+)?\s*k?(?:i?B|bytes?)\b",
        "table sizes follow from how near it has to be: within 50 % needs less",
    ),
    (
        r"(?:\w+\s+)?(?:fast|faster|speed|cycles|clock|mhz|operations)\b",
        "the speed of the processor is its clock, in 8 Pace",
    ),
    (
        r"(?:(?:return|give|output)s?\s+)?(?:in\s+)?(?:scale|shift|q\d+|step|resolution|tenths|hundredths|thousandths|milli\w*|centi\w*|deci\w*)\b"
        r"|in\s+\d[\d.]*\s*\D",
        "the step of whole numbers follows from the field's last place and within",
    ),
    (
        r"(?:(?:function|variable|file)\s+)?(?:names?|prefix|called)\b",
        "names in the code are those of the project's channels and panels; R renames one",
    ),
    (
        r"(?:only|just)\s+(?:this|one|the)\b|this\s+channel\b",
        "x writes all channels; lesart pack with --channel writes one",
    ),
    (
        r"(?:accura\w+|precis\w+|error)\b.*%|(?:accura\w+|precis\w+|error)\b.*\bper\s?cent",
        "of what is not said; write accuracy 0.1 and the unit of the field, or within 10 % of its last place",
    ),
)


def pack_said(typed: str, field: Field) -> dict[str, Written]:
    """Values of the pack by name, and ``computed`` of the channel with this field. Raises RequestError for anything
    else."""
    found: dict[str, Written] = {}
    for piece in filter(None, _APART.split(typed.strip())):
        name, value = _value_of(piece, field)
        found[name] = value
    if not found:
        raise RequestError(_none(typed))
    return found


def _value_of(piece: str, field: Field) -> tuple[str, Written]:
    said_alone = _ONLY.sub("", _ONLY.sub("", piece.strip())).strip()
    for pattern, put in _PATTERNS:
        if said := pattern.fullmatch(piece.strip()) or pattern.fullmatch(said_alone):
            return put(said)
    if (of_unit := _OF_UNIT.fullmatch(piece.strip())) and (share := _share_in_unit(of_unit["amount"], field)):
        return "share", share
    if how := first_of(ASKS, bare(piece)):
        raise RequestError(f'"{piece.strip()}": {how}.')
    raise RequestError(_none(piece))


def _share_in_unit(amount: str, field: Field) -> str:
    """So much as a share of the field's last place; empty for what is in no unit of it.

    Raises RequestError for a share that no pack can have.
    """
    try:
        off = quantity_typed(amount.replace(",", "."), field.unit_shown)
    except LesartError:
        return ""
    if not off.unit.same_dimension(field.unit_shown):
        return ""
    place = 10.0**-field.decimals
    share = 100.0 * abs(float(off.value) * float(off.unit.scale / field.unit_shown.scale)) / place
    if not LEAST_SHARE <= share <= MOST_SHARE:
        last = beside_unit(plain_number(place), field.unit_shown.symbol)
        raise RequestError(
            f"{amount.strip()} is {plain_number(share, 3)} % of the field's last place, {last}; whole numbers come "
            f"within {LEAST_SHARE} to {MOST_SHARE} % of it. Its decimals are set in 6 Fit."
        )
    return f"{plain_number(share, 4)} %"


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
