"""Two values of which words say which is the true one: ``sensor 50, true 52``, ``shows 50 but is 52``.

Each number has the words before it; those of both kinds, or of neither, decide nothing.
"""

from __future__ import annotations

import re

from lesart.core.quantity import beside_unit
from lesart.core.raw.spelled.unit_said import unit_said

_TRUE = (
    r"true|truth|actual(?:ly)?|really|real|correct(?:ly)?|reference|ref|known|expected|standard|nominal|target|room|body|bath|"
    r"buffer|weighed|should(?:\s+(?:be|read|show))?|must\s+be|set(?:\s?point)?\s+to"
)
_INSTRUMENTS = r"thermometer|multimeter|voltmeter|dmm|meter|barometer|hygrometer|caliper|balance|lab"
"""Trusted beside a sensor; one alone may be what is calibrated."""
_READ = (
    r"sensor|device|board|logger|probe|indicat(?:ed|es|ion)|display(?:ed|s)?|measur(?:ed|es|ement)|read(?:s|ing|ings)?|"
    r"shows?|showed|shown|raw|got|get|gives?|gave|observed"
)
_LITTLE = re.compile(
    r"(?:the|a|it|its|is|was|but|and|value|values|temperature|weight|mass|pressure|voltage|humidity|at|when|while|says?|"
    r"of|my|our|here|in|has|be|point)\b|[,:;=.]",
    re.IGNORECASE,
)
_NUMBER = re.compile(r"(?<![\w.,])[-−+]?\d+(?:[.,]\d+)?")
_BEHIND = re.compile(r"\s?((?:°\s?)?[^\W\d]{1,8}(?:/[^\W\d]{1,4})?|[°%])(?![\w.])")
_WORDS_OF = re.compile(rf"\b(?:(?P<true>{_TRUE})|(?P<other>{_INSTRUMENTS})|(?P<read>{_READ}))\b", re.IGNORECASE)


def paired_by_words(said: str) -> str:
    """Pairs as 4 True takes them, the true values first; empty where the words do not say which they are.

    A list goes by the word before it.
    """
    roles: list[tuple[str, str]] = []
    place = 0
    for found in _NUMBER.finditer(said):
        words = said[place : found.start()]
        behind = _BEHIND.match(said, found.end())
        unit = behind[1] if behind and unit_said(behind[1]) is not None and behind[1].lower() not in ("in", "a") else ""
        place = behind.end() if behind and unit else found.end()
        role = _role(words) or (roles[-1][0] if roles and not words.strip(" ,;") else "")
        if not role:
            return ""
        roles.append((role, beside_unit(found[0], unit) if unit else found[0]))
    if said[place:].strip(" .,;!"):
        return ""
    kinds = {role for role, _ in roles}
    trusted = "true" if "true" in kinds else "other" if "other" in kinds else "is"
    true = [each for role, each in roles if role == trusted]
    read = [each for role, each in roles if role == "read"]
    if not true or len(true) != len(read) or len(true) + len(read) != len(roles):
        return ""
    return "; ".join(f"{one} = {other}" for one, other in zip(true, read, strict=True))


def _role(words: str) -> str:
    """What the words before a number make of it: a true value, one of another instrument, one that was read, or what
    simply *is*; empty where they say nothing, or several things."""
    kinds = {kind for found in _WORDS_OF.finditer(words) if (kind := found.lastgroup)}
    left = _LITTLE.sub("", _WORDS_OF.sub("", words)).strip()
    if left or len(kinds) > 1:
        # "the reference thermometer says", "should read": what is trusted outweighs the verb.
        return "true" if not left and "true" in kinds else "other" if not left and "other" in kinds else ""
    return kinds.pop() if kinds else "is" if re.search(r"\b(?:is|was)\b", words, re.IGNORECASE) else ""
