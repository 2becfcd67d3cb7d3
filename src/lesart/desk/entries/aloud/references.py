"""References as people say them: ``it should be 21 °C`` at the cursor, ``0 °C reads 0.8 °C`` as a pair.

The words alone decide which of two values is the true one: ``0.8 is 0`` and ``0.8 -> 0`` do not.
"""

from __future__ import annotations

import re

from lesart.core.quantity import beside_unit, plain_number
from lesart.core.raw.spelled.unit_said import unit_said
from lesart.desk.entries.aloud.which_is_true import paired_by_words

_NO_UNIT = r"(?!(?:it|the|at|for|is|should|instead|and|but|now|right|reads?|shows?|showed|shown)\b)"
_UNIT = rf"(?:\s*(?:deg(?:rees)?\.?\s+)?{_NO_UNIT}(?:[^\W\d]|[°º%µ])[^\s\d,;=]*)?"
NUMBER = rf"[-−+]?\s?\d[\d.,]*(?:e[-+]?\d+)?{_UNIT}"
_TRUE = rf"(?P<true>{NUMBER}(?:\s*±\s*\d[\d.,]*\s*[^\s\d,;=]*)?)"
_READS = r"(?:reads?|shows?|showed|shown|indicate[sd]?|gives?|gave|measure[sd]?)"
_TRUE_FIRST = re.compile(
    rf"(?:(?:at|with|in|a|the|my)\s+)*{_TRUE}(?:\s+(?:weight|mass|load|reference|standard|resistor|bath|water|buffer))?"
    rf"(?:\s+on\s+it)?\s*,?\s*(?:it\s+|the\s+sensor\s+)?{_READS}\s+(?P<indicated>{NUMBER})",
    re.IGNORECASE,
)
_SHOULD_FIRST = re.compile(
    rf"(?:it\s+)?should\s+(?:be|read|show)\s+{_TRUE}\s*,?\s*(?:but\s+|and\s+)?(?:it\s+)?(?:{_READS}|is)\s+(?P<indicated>{NUMBER})",
    re.IGNORECASE,
)
_SURE_FIRST = re.compile(rf"(?P<sure>\S.*?)\s*,?\s+(?:it\s+)?{_READS}\s+(?P<indicated>{NUMBER})", re.IGNORECASE)
_TRUE_LAST = re.compile(
    rf"(?:it\s+)?(?:{_READS}\s+)?(?P<indicated>{NUMBER})\s+"
    rf"(?:should\s+(?:be|read)|is\s+(?:really|truly)|instead\s+of|at|for)\s+{_TRUE}",
    re.IGNORECASE,
)
_INSTRUMENT = (
    r"(?:(?:my|our|the|a)\s+)?(?:(?:good|known|other|second|reference|calibrated|kitchen|bathroom)\s+"
    r"(?:instrument|thermometer|meter|scales?|balance|gauge|sensor)|multimeter|dmm|voltmeter|barometer|hygrometer)"
    r"(?:\s+(?:says|reads|shows|has|gives|is\s+at))?"
)
"""Another, trusted instrument: ``my reference thermometer says 21.3``.

``the scale says 1.05`` may be the one being calibrated.
"""
_WEIGHT = (
    r"(?:(?:a\s+|the\s+)?(?:known|calibration|test)\s+(?:weight|mass|load)(?:\s+of)?|"
    r"(?:a\s+|the\s+)?(?:weight|mass|load)\s+of)"
)
_CALIBRATED = r"(?:calibrated?\s+(?:it\s+)?(?:at|to|with|for)|(?:set|adjust|correct)\s+(?:it\s+)?to|make\s+it)"
_SURE = {
    "0 °C": re.compile(r"(?:in\s+)?(?:ice|iced|melting|crushed)[\s-](?:water|ice|bath)|ice", re.IGNORECASE),
    "0": re.compile(
        r"zero|nothing(?:\s+on(?:\s+it)?)?|empty|no\s+load|unloaded|"
        r"(?:the\s+)?(?:empty|unloaded)(?:\s+(?:scales?|cell|pan|platform))?\s+is\s+(?:0|zero)",
        re.IGNORECASE,
    ),
}
"""True values without a number. The boiling point of water is not one: it depends on the air pressure."""
_AT_CURSOR = re.compile(
    rf"(?:{_INSTRUMENT}|{_WEIGHT}|{_CALIBRATED}|(?:(?:it|this|that)\s+)?"
    r"(?:is|was|should\s+(?:be|read)|must\s+be|(?:the\s+)?(?:true|actual|real|correct|expected|known)(?:\s+(?:value|temperature|reading|weight))?(?:\s+is)?|"
    r"truly|really|actually|now(?:\s+it(?:'s|\s+is))?|it's|"
    r"(?:(?:the|ambient|room)\s+)?reference(?:\s+is)?|(?:in\s+)?(?:ice|iced|boiling)\s+(?:water|bath)(?:\s+is)?))[:,]?\s+(?:really\s+)?"
    rf"{_TRUE}(?:\s+(?:right\s+)?now)?",
    re.IGNORECASE,
)
_BEHIND = re.compile(
    rf"{_TRUE}(?:\s+(?:in|on|by|from|with|at|according\s+to)\s+[^\d;=]{{2,60}}|\s*\([^()\d;=]{{2,60}}\))", re.IGNORECASE
)
"""The origin of a true value: ``0 °C in ice water``, ``20.5 °C (lab)``."""
_IN_UNIT = re.compile(r"(?P<number>[-−+]?\s?\d[^;=]*?)\s+in\s+(?P<unit>[^\s\d;=]+)", re.IGNORECASE)
"""``70 in °F``: a unit, and not where it was."""
_ABOUT = re.compile(r"^(?:~|≈|about\s|approximately\s|roughly\s|around\s)\s*(?=\d)", re.IGNORECASE)
_HALF = re.compile(r"^(?P<half>half\s+)?an?\s+(?P<unit>\S+)(?=\s+too\s+\w+$)", re.IGNORECASE)
"""``half a degree too high``."""
_BETWEEN_TWO = re.compile(
    r"(?P<word>(?:it\s+)?(?:is\s+)?between\s+)?(?P<low>[-−+]?\d[\d.,]*)\s*(?:to|(?P<both>and)|\.\.\.?|…|–)\s*(?P<high>[-−+]?\d[\d.,]*)"
    r"(?P<unit>\s*(?:[^\W\d]|[°º%µ])[^\s\d,;=]*)?",
    re.IGNORECASE,
)
"""``between 51 and 53 °C``: known to be somewhere there."""
MOST_APART = 0.5
"""Share of their middle by which two values may differ to be about one."""
_IN_ICE = re.compile(
    r"(?:(?:it\s+)?(?:reads?|shows?)\s+)?(?P<seen>[-−+]?\d+(?:[.,]\d+)?)(?P<unit>\s*°?\s?C)?\s+in\s+(?:an?\s+|the\s+)?"
    r"(?:ice|iced|melting|crushed)(?:[\s-](?:water|ice|bath))?",
    re.IGNORECASE,
)
"""Ice water has 0 °C, whatever is read in it."""
_ABOVE = re.compile(r"[^\W\d][^\d:=;,]{1,40}:\s+(?=.*\d.*\d)")
"""A heading before several: ``two weights: 5 kg reads 4.9, …``."""
_APART = re.compile(r"\s*(?:;|,(?=\s)|\band\b)\s*")
_COUNTED = re.compile(
    r"(?:(?:\d+|two|three|four|five|several)[\s-]+)?(?:points?|pairs?|calibration|references?)\s*[:,]?\s+(?=\S+\s*[=:])",
    re.IGNORECASE,
)
"""A count before the pairs: ``3 points: 0 = 0.8, 50 = 50.1``."""
_ONE_BY_ONE = re.compile(r"[-−+]?\d[\d.]*=[-−+]?\d[\d.]*(?:\s+[-−+]?\d[\d.]*=[-−+]?\d[\d.]*)+")
_BY_COLON = re.compile(rf"(?P<true>{NUMBER})\s*:\s*(?P<indicated>{NUMBER})")
_LABEL = re.compile(
    r"^(?:ice(?:d|\s+water)?|boiling(?:\s+water)?|true|room|body|empty|full|low|high|cold|hot)\s+(?=[-−+]?\d)",
    re.IGNORECASE,
)
_VERB = re.compile(rf"\b(?:{_READS}|shown|should|really|truly|instead)\b", re.IGNORECASE)
_LEAD = re.compile(rf"(?:it\s+)?{_READS}\s+(?=[-−+]?\d)", re.IGNORECASE)
"""``reads 0.8 at 0, 99.1 at 100``: the verb is not repeated."""
_BETWEEN = re.compile(r",\s+(?=[^,;=]{1,40}=)")
SEVERAL = re.compile(r"(?<![\w.,/±^])(?<!±\s)\d[\d.,]*\D*?(?<![\w.,/±^])(?<!±\s)(?<!e[-+])\d")
"""More than one value."""
BY_SO_MUCH = re.compile(
    r"(?:(?:offset(?:\s+(?:of|by))?|add|plus|subtract|minus|gain(?:\s+of)?|scale\s+by|multiply\s+by|[×*]|(?:scale\s+)?factor(?:\s+of)?|"
    rf"slope(?:\s+of)?)\s*=?\s*(?P<by>{NUMBER})|(?P<plus>\+\s?\d[\d.,]*{_UNIT})|(?P<before>{NUMBER})\s+(?:offset|correction))",
    re.IGNORECASE,
)
"""A correction itself, which is to follow from references."""


def references_plainly(typed: str) -> str:
    """The line as 4 True accepts it; unchanged where the words do not say which value is the true one."""
    if "<" in typed or len(typed) > LONGEST:
        return typed
    typed = _HALF.sub(lambda half: f"{'0.5' if half['half'] else '1'} {half['unit']}", _ABOUT.sub("", typed.strip()))
    said = _COUNTED.sub("", typed)
    if between := _BETWEEN_TWO.fullmatch(said):
        return _middle(between) or typed
    if iced := _IN_ICE.fullmatch(said):
        is_read = float(iced["seen"].replace(",", ".").replace("−", "-")) != 0
        return f"0 °C = {iced['seen']} °C" if is_read else "0 °C"
    colons = [_BY_COLON.fullmatch(each) for each in re.split(r"\s*[;,]\s+|\s+(?=[-−+]?\d)", said) if each]
    if len(colons) > 1 and all(colons):
        return "; ".join(f"{each['true'].strip()} = {each['indicated'].strip()}" for each in colons if each)
    if _ONE_BY_ONE.fullmatch(said):
        return "; ".join(said.split())
    if "=" in said:
        return _BETWEEN.sub("; ", said)
    if (found := _IN_UNIT.fullmatch(said)) and (unit := unit_said(found["unit"])) is not None:
        is_bare = re.fullmatch(r"[-−+]?\s?[\d.,]+", found["number"].strip()) is not None
        return beside_unit(found["number"].strip(), unit.symbol) if is_bare else typed  # 20 °C in mm is refused
    if found := _AT_CURSOR.fullmatch(said) or _BEHIND.fullmatch(said):
        return found["true"]
    if sure := _sure(said):
        return sure
    lead = _LEAD.match(said)
    pieces = [each for each in _APART.split(_ABOVE.sub("", said)) if each]
    pairs = [_pair(each if _VERB.search(each) or lead is None else f"{lead[0]}{each}") for each in pieces]
    return "; ".join(pairs) if pairs and all(pairs) else paired_by_words(said) or typed


def _sure(said: str) -> str:
    """The true value of something that has none in figures: ``ice water``; empty for anything else."""
    bare = re.sub(r"^(?:in|with|at)\s+", "", said.strip(), flags=re.IGNORECASE)
    return next((value for value, pattern in _SURE.items() if pattern.fullmatch(bare)), "")


def unit_of_pairs(typed: str) -> str:
    """The one unit among several numbers, where the others have none or are counts; else empty."""
    if len(typed) > LONGEST or "<" in typed:
        return ""
    numbers = [each.strip() for each in re.findall(NUMBER, typed, re.IGNORECASE)]
    said = [unit_said(re.sub(r"^[-−+\d.,\se]*", "", each)) for each in numbers]
    units = {unit.symbol for unit in said if unit is not None and unit.symbol not in ("ct", "1")}
    others = [unit for unit in said if unit is None or unit.symbol == "ct"]
    return units.pop() if len(units) == 1 and others else ""


def _middle(between: re.Match[str]) -> str:
    """The middle of two values, known to half their distance; empty where they may as well be two references, or the
    ends of a range."""
    try:
        low, high = sorted(float(between[name].replace(",", ".").replace("−", "-")) for name in ("low", "high"))
    except ValueError:
        return ""
    if not between["word"] and (between["both"] or high - low > MOST_APART * abs(high + low) / 2):
        return ""
    places = max(len(between[name].replace(",", ".").partition(".")[2]) for name in ("low", "high")) + 1
    middle, half = (plain_number(round(each, places)) for each in ((low + high) / 2, (high - low) / 2))
    unit = (between["unit"] or "").strip()
    return f"{beside_unit(middle, unit)} ± {beside_unit(half, unit)}" if unit else f"{middle} ± {half}"


LONGEST = 2000
"""A longer line was pasted, and has signs."""


def _pair(said: str) -> str:
    said = _LABEL.sub("", said)
    if _VERB.search(said) is None:
        return ""
    if (sure := _SURE_FIRST.fullmatch(said)) and (value := _sure(sure["sure"])):
        return f"{value} = {sure['indicated'].strip()}"
    found = _TRUE_FIRST.fullmatch(said) or _SHOULD_FIRST.fullmatch(said) or _TRUE_LAST.fullmatch(said)
    return f"{found['true'].strip()} = {found['indicated'].strip()}" if found else ""
