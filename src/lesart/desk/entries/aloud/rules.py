"""Rules of a field as people say them: ``2 decimals, 6 wide, in °F``; or by their names, ``overflow *``."""

from __future__ import annotations

import re
from collections.abc import Callable, Mapping, Sequence

from lesart.core.errors import RequestError
from lesart.core.fit.field import AS_FIT, FIXED
from lesart.core.fit.field import PARAMETERS as FIELD
from lesart.core.fit.rounding import MODES
from lesart.core.notes import Written
from lesart.core.raw.spelled.unit_said import unit_said
from lesart.core.units import Unit
from lesart.desk.entries.typed_values import as_written

NUMBERS = {word: number for number, word in enumerate(("no", "one", "two", "three", "four", "five", "six"))}
_COUNT = rf"(?P<count>\d{{1,4}}|{'|'.join(NUMBERS)})"
_PLACES = r"(?:decimals?(?:\s+(?:places?|digits?))?|dp|places|digits?\s+(?:after|behind)\s+the\s+(?:decimal\s+)?point)"
_SIDE = r"(?P<side>left|right|centred|centered|centre|center)"
_ZEROS = r"leading zero(?:e?s)?"
_APART = re.compile(r"\s*(?:[;,](?=\s)|\band\b)\s*")
"""Between two rules; a comma alone may be a mark."""


def _count(found: re.Match[str]) -> int:
    return NUMBERS[found["count"].lower()] if found["count"].lower() in NUMBERS else int(found["count"])


_RULES: Sequence[tuple[str, Callable[[re.Match[str]], Mapping[str, Written]]]] = (
    (rf"(?:at most|up to)\s+{_COUNT}\s+{_PLACES}", lambda said: {"decimals": _count(said), "decimals_are": AS_FIT}),
    (rf"(?:exactly|always)\s+{_COUNT}\s+{_PLACES}", lambda said: {"decimals": _count(said), "decimals_are": FIXED}),
    (rf"(?:show\s+|with\s+)?{_COUNT}\s+{_PLACES}", lambda said: {"decimals": _count(said)}),
    (r"whole numbers?|integers?|without decimals", lambda said: {"decimals": 0}),
    (
        rf"{_COUNT}\s+(?:(?:cell|character|char|letter|digit|column)s?(?:\s+wide)?|wide)",
        lambda said: {"width": _count(said)},
    ),
    (r"(?:a\s+)?width\s+of\s+(?P<count>\d{1,4})", lambda said: {"width": _count(said)}),
    (rf"{_SIDE}(?:[\s-]+(?:aligned|justified|hand))?", lambda said: {"align": _side(said)}),
    (rf"(?:align(?:ed)?\s+)(?:to\s+the\s+)?{_SIDE}", lambda said: {"align": _side(said)}),
    (rf"(?:with\s+|show\s+)?{_ZEROS}|zero[\s-]padded|pad(?:ded)?\s+with\s+zero(?:e?s)?", lambda said: {"pad": "zero"}),
    (rf"(?:no|without)\s+{_ZEROS}|pad(?:ded)?\s+with\s+(?:blanks?|spaces?)", lambda said: {"pad": "blank"}),
    (r"(?:with\s+|show\s+)?(?:a\s+)?plus(?:\s+sign)?|always\s+(?:with\s+)?a\s+sign", lambda said: {"sign": "always"}),
    (r"(?:no|without(?:\s+a)?)\s+sign", lambda said: {"sign": "never"}),
    (r"(?:no|without(?:\s+a)?)\s+unit", lambda said: {"unit_text": ""}),
    (r"(?:with\s+)?(?:a\s+)?decimal\s+(?P<mark>comma|point)", lambda said: {"point": said["mark"].lower()}),
    (
        r"(?:thousands?\s+)?(?:separated|grouped)\s+by\s+(?:an?\s+)?(?P<group>blank|comma|point|apostrophe)s?",
        lambda said: {"group": said["group"].lower()},
    ),
    (
        rf"(?:rounded|rounding)\s+(?P<way>{'|'.join(map(re.escape, MODES))})",
        lambda said: {"round": said["way"].lower()},
    ),
)
_LOOSELY_APART = re.compile(
    rf"{_APART.pattern}|(?<!\bshow)(?<!\bshows)(?<!\bshown)(?<!\bread)\s+(?=in\s)"
    r"|\s+(?=(?:shown?\s+in|\d+\s+(?:wide|decimals?|cells|places))\b)",
    re.IGNORECASE,
)
"""Where no comma stands: ``1 decimal in °F``, ``2 decimals 6 wide``."""
RULES = tuple((re.compile(pattern, re.IGNORECASE), put) for pattern, put in _RULES)
_SHOWN_IN = re.compile(r"(?:(?:show(?:n|s)?\s+|read\s+)?(?:in|as)\s+)(?P<unit>\S+)", re.IGNORECASE)
_WITH_UNIT = re.compile(r"(?:with\s+|show\s+)?(?:the\s+)?unit\s+(?P<text>\S+)", re.IGNORECASE)


def _side(found: re.Match[str]) -> str:
    return "centre" if found["side"].lower().startswith("cent") else found["side"].lower()


def rules_said(typed: str, own: Unit) -> dict[str, Written] | None:
    """Values by the rule's name; ``own`` is the channel's unit, and what is shown in another one bears that one's name.

    None where not every piece of it is a rule. Raises RequestError for a value that a rule cannot have.
    """
    said = typed.strip()
    found = _rule(said, own) or _all_of(_APART.split(said), own) or _all_of(_LOOSELY_APART.split(said), own)
    if not found:
        return None
    parameters = {each.name: each for each in FIELD}
    return {name: as_written(parameters[name], f"{value}") for name, value in found.items()}


def _all_of(pieces: Sequence[str], own: Unit) -> dict[str, Written] | None:
    """The rules of all pieces; None where one is none."""
    found: dict[str, Written] = {}
    for piece in filter(None, pieces):
        rule = _rule(piece, own)
        if rule is None:
            return None
        found |= rule
    return found


def _rule(piece: str, own: Unit) -> Mapping[str, Written] | None:
    for pattern, put in RULES:
        if said := pattern.fullmatch(piece):
            return put(said)
    if (said := _SHOWN_IN.fullmatch(piece)) and (unit := unit_said(said["unit"])) is not None:
        if not unit.same_dimension(own):
            raise RequestError(f"{own} cannot be converted to {unit}; a field shows what the channel reads.")
        return {"unit": "" if unit == own else str(unit), "unit_text": str(unit)}
    if said := _WITH_UNIT.fullmatch(piece):
        return {"unit_text": said["text"]}
    for parameter in sorted(FIELD, key=lambda each: -len(each.title)):
        named = re.fullmatch(rf"{re.escape(parameter.title)}(?:\s*[=:]\s*|\s+)(?P<value>\S.*)", piece, re.IGNORECASE)
        if named is not None and parameter.kind != "flag":
            return {parameter.name: named["value"]}
    return None
