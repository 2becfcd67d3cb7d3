"""Two ends of a range by words, ``300 wet 800 dry``, and of a resistance: ``240 ohm empty 33 ohm full``, ``pot 10k,
270°``."""

from __future__ import annotations

import re

from lesart.core.quantity import beside_unit
from lesart.core.units import Unit
from lesart.desk.entries.recipes.phrases.ranges_said import TO, WORDS
from lesart.desk.entries.said.patterns import UNIT

_NUMBER = r"[-−+]?\d+(?:[.,]\d+)?"
MOST_V = 60
"""More volts than this are counts, which dry soil has 800 of."""
_LOW, _HIGH = r"dry|empty|low|minimum|nothing|air|closed|shut", r"wet|full|high|maximum|soaked|water|open"
_END = r"{0}(?:\s+(?:is|at|=|of|reads?|gives?))*\s*[=:]?\s*(?P<{1}>{2}\s*(?:{3})?)"
_END_BEFORE = r"(?P<{1}>{2}\s*(?:{3})?)\s*(?:is|=|:|when|if|in)?\s*(?:{0})"
_EITHER = re.compile(r"\b(?:low|high|minimum|maximum)\b", re.IGNORECASE)
_OF_ENDS = r"(?:ct|counts?|m?V|[mck]?m|inch(?:es)?|ft|k?Ω|k?ohms?|k?Hz|k?g|h?Pa|m?bar)(?![\w/])"
_AND = r"\s*(?:,|;|and|to|/)?\s*(?:and\s+)?"
_SHARES = tuple(
    re.compile(rf"{WORDS}{first}{_AND}{second}", re.IGNORECASE)
    for form in (_END, _END_BEFORE)
    for first, second in (
        tuple(form.format(f"(?:{each}\\s*%)", end, _NUMBER, _OF_ENDS) for each, end in ends)
        for ends in (((f"{_LOW}|0", "from"), (f"{_HIGH}|100", "to")), ((f"{_HIGH}|100", "to"), (f"{_LOW}|0", "from")))
    )
)
_WHOLE_SHARE = re.compile(
    rf"[\s,;]*(?<![\w.,])0\s*%?{TO}100\s*%[\s,;:=]*(?=(?:.*\b(?:dry|wet|empty|full)\b){{2}})"
    rf"|(?<=\d)[\s,;:=]+(?:is\s+)?0\s*%?{TO}100\s*%$",
    re.IGNORECASE,
)
_IN_OHMS = re.compile(r"(?<![^\W\d_])(?:Ω|ohms?|R|k(?:Ω|ohms?)?)$", re.IGNORECASE)
_OHMS = rf"(?P<from>{_NUMBER})\s*(?:Ω|ohms?|R)?{TO}(?P<to>{_NUMBER})\s*(?:Ω|ohms?|R)(?!\w)"
_READ = rf"(?P<low>{_NUMBER})\s*(?P<first>{UNIT})?{TO}(?P<high>{_NUMBER})\s*(?P<unit>{UNIT})"
_MEANS = r"\s*(?:is|=|are|for|means|->|→|,|:)?\s*"
_SENT = tuple(
    re.compile(rf"{WORDS}{one}{_MEANS}{other}", re.IGNORECASE) for one, other in ((_OHMS, _READ), (_READ, _OHMS))
)
_POT = re.compile(
    rf"(?:an?\s+)?(?:pot|potentiometer|knob|trimmer)(?:\s+of)?\s+(?P<ohms>{_NUMBER}\s*[kM]?)\s*(?:Ω|ohms?)?{_MEANS}"
    rf"(?P<turn>{_NUMBER})\s*(?:°|deg(?:rees?)?)",
    re.IGNORECASE,
)
_TAIL = re.compile(r"\s*(?:[,;]|\bwith\b|\band\b|\bover\b)\s*(?=(?:an?\s+)?\d)", re.IGNORECASE)


def shared(said: str, raw: Unit) -> str:
    """Two ends of a percentage, in either order, each before or after its number; that it is one may be said too.

    Bare numbers are in the unit of the raw values.
    """
    said = _WHOLE_SHARE.sub(" ", said).strip(" ,")
    found = next((match for pattern in _SHARES if (match := pattern.fullmatch(said))), None)
    if found is None:
        return ""
    begin, end = (re.sub(r"\s*counts?$", " ct", found[each].strip()) for each in ("from", "to"))
    is_count = raw.symbol == "V" and any(float(each) > MOST_V for each in (begin, end) if each.isdigit())
    if raw.symbol not in ("ct", "1") and not is_count:
        begin, end = (beside_unit(each, raw.symbol) if each[-1].isdigit() else each for each in (begin, end))
    elif not is_count and _EITHER.search(said) and not re.search(r"(?:ct|V|\d)$", begin):
        return ""  # low = 0 bar, high = 10 bar is a range, not a share
    return f"a share from {begin} to {end}"


def of_sender(said: str) -> str:
    """A resistance over its range on whole numbers, which are a converter's: ``240 ohm empty 33 ohm full, 100 ohm to
    5 V``, ``0-190 ohm is 0-100 %``."""
    for cut in (*_TAIL.finditer(said), None):
        head, tail = (said[: cut.start()], said[cut.end() :]) if cut else (said, "")
        if sent := next((match for pattern in _SENT if (match := pattern.fullmatch(head))), None):
            ends = f"low = {sent['low']} {sent['unit']}, high = {sent['high']} {sent['unit']}"
            return f"a sender half, from = {sent['from']} Ω, to = {sent['to']} Ω, {ends}, {tail}".rstrip(" ,")
        found = next((match for pattern in _SHARES if (match := pattern.fullmatch(head))), None)
        if found is not None and all(_IN_OHMS.search(found[each].strip()) for each in ("from", "to")):
            return f"a sender half, from = {found['from'].strip()}, to = {found['to'].strip()}, {tail}".rstrip(" ,")
    return ""


def of_pot(said: str) -> str:
    """``pot 10k, 270°``: the resistance of a potentiometer's part, as far as it was turned."""
    found = _POT.fullmatch(said)
    if found is None:
        return ""
    return f"a sender half, from = 0 Ω, to = {_in_ohms(found['ohms'])}, low = 0°, high = {found['turn']}°"


def _in_ohms(said: str) -> str:
    """``10k`` as 10 kΩ."""
    number = said.rstrip("kM ")
    return f"{number} {said[len(number) :].strip()}Ω"
