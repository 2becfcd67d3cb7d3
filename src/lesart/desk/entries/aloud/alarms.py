"""An alarm as people say it aloud: ``alarm outside 5 to 30 °C``, ``beep above 30 °C for 5 s, off at 28``."""

from __future__ import annotations

import re

from lesart.core.calm.alarm import ABOVE, BELOW
from lesart.core.errors import RequestError
from lesart.desk.entries.alarms import AlarmSaid
from lesart.desk.entries.aloud.figures import NUMBER

_QUANTITY = rf"{NUMBER}(?:\s?(?!(?:and|or|to)\b)[^\s\d,;]+)?"
_SIDES = r"above|over|below|under|more\s+than|less\s+than|[<>]"
_BEGINS = re.compile(
    r"(?:an?\s+)?(?:(?P<which>high|upper|low|lower)\s+)?(?:alarm|alert|warn(?:ing)?|beep|buzz(?:er)?|siren)(?:\s+me)?\b[\s:]*",
    re.IGNORECASE,
)
_TOO = re.compile(rf"(?P<name>too\s+\w+)\s+(?:(?:if|when|is)\s+)*(?={_SIDES})", re.IGNORECASE)
_SIDE = re.compile(
    r"(?:(?:if|when|at|it|is|goes|gets)\s+)*(?:(?P<above>above|over|more\s+than|>)|(?P<below>below|under|less\s+than|<))\s*",
    re.IGNORECASE,
)
_OUTSIDE = re.compile(
    r"(?:(?:if|when|it|is)\s+)*(?:outside|out\s+of|not\s+between|not\s+within)\s+(?:of\s+)?(?:the\s+range\s+)?"
    rf"(?P<low>{_QUANTITY})\s*(?:to|and|-|–|\.\.\.?|…)\s*(?P<high>{_QUANTITY})",
    re.IGNORECASE,
)
_BETWEEN = re.compile(r"(?:(?:if|when|it|is)\s+)*(?:between|within|inside|from)\b", re.IGNORECASE)
_AT = re.compile(r"(?:(?:if|when|it|is|at)\s+)*", re.IGNORECASE)
_HYSTERESIS = re.compile(
    rf"[\s,]*(?:\b(?:and|with)\s+)*(?:an?\s+)?(?:(?P<before>{_QUANTITY})\s+(?:of\s+)?hysteresis|\bhysteresis\s+(?:of\s+)?(?P<behind>{_QUANTITY}))",
    re.IGNORECASE,
)
_OFF = re.compile(
    r"[\s,]*\b(?:and\s+)?(?:(?:goes\s+|switch(?:es)?\s+)?off|back|clears?|until)\s+(?:again\s+)?"
    rf"(?:(?:at|when|it|is|below|above|under|over)\s+)*(?P<off>{_QUANTITY})",
    re.IGNORECASE,
)
_LEAST = re.compile(
    r"[\s,]*\b(?:and\s+)?(?:for|after|delay(?:ed)?|longer\s+than)\s+(?:(?:at\s+least|more\s+than|of|by)\s+)?"
    rf"(?P<least>{NUMBER}\s?(?:ms|s|sec(?:ond)?s?|min(?:ute)?s?|h|hours?))\b(?:\s+delay)?",
    re.IGNORECASE,
)
_CALLED = re.compile(r"[\s,]+(?:called|named)\s+(?P<name>.+)$", re.IGNORECASE)


_IS_WELL = re.compile(
    rf"(?:(?:it\s+is\s+)?(?:ok|okay|fine|good|well|normal)\s+)?(?:between|from|within)?\s*(?P<low>{_QUANTITY})\s*(?:to|and|-|–|…)"
    rf"\s*(?P<high>{_QUANTITY})(?:\s+(?:is\s+)?(?:ok|okay|fine|good|well|normal))?"
    r"(?P<else>[\s,]+(?:else|otherwise)(?:\s+(?:alarm|alert|warn|beep))?)?",
    re.IGNORECASE,
)
_WELL = re.compile(r"\b(?:ok|okay|fine|good|well|normal)\b", re.IGNORECASE)
_BOTH = re.compile(
    rf"(?:alarms?|alerts?|warn(?:ings?)?)\s+(?:at\s+)?(?:high|above|upper|max)\s+(?P<high>{_QUANTITY})[\s,]+(?:(?:and|or)\s+)?"
    rf"(?:low|below|lower|min)\s+(?P<low>{_QUANTITY})"
    rf"|(?:alarms?|alerts?|warn(?:ings?)?)\s+(?:at\s+)?(?:low|below|lower|min)\s+(?P<first>{_QUANTITY})[\s,]+(?:(?:and|or)\s+)?"
    rf"(?:high|above|upper|max)\s+(?P<last>{_QUANTITY})",
    re.IGNORECASE,
)


_TWICE = re.compile(
    rf"\d.*?\b(?:and|then)\s+(?:an?\s+)?(?:alarm|alert|warn|beep|buzz)\w*\b.*?\b(?:{_SIDES})", re.IGNORECASE
)
_OF_NONE = re.compile(
    r"\b(?:no\s+(?:reading|value|data|signal)|missing|disconnected|unplugged|broken|stale|too\s+old)\b",
    re.IGNORECASE,
)
_AT_REST = re.compile(
    r"\b(?:no\s+(?:change|new)|frozen|stuck|(?:changes?|rises?|falls?|drops?|moves?)\s+(?:by\s+)?(?:more|faster|quicker)"
    r"\s+than)\b",
    re.IGNORECASE,
)


def _outside(typed: str) -> str:
    """A good range, or both of its ends, as an alarm outside of it."""
    said = typed.strip()
    if _WELL.search(said) and (found := _IS_WELL.fullmatch(said)):
        return f"alarm outside {found['low']} to {found['high']}"
    if found := _BOTH.fullmatch(said):
        return f"alarm outside {found['low'] or found['first']} to {found['high'] or found['last']}"
    return typed


def is_alarm(typed: str) -> bool:
    """True where it begins as an alarm does."""
    return _begun(_outside(typed).strip()) is not None


def _begun(said: str) -> re.Match[str] | None:
    return _BEGINS.match(said) or _TOO.match(said)


def alarms_said(typed: str, unit: str) -> tuple[AlarmSaid, ...]:
    """One alarm, or two for a range; ``unit`` is that of the reading.

    Raises RequestError where the side is not stated.
    """
    said = _outside(typed).strip()
    begun = _begun(said)
    which = name = ""
    if _TWICE.search(said):
        raise RequestError(f'"{typed.strip()}" is two alarms; type them one by one, like alarm above 10 {unit}.')
    if _OF_NONE.search(said):
        raise RequestError(f'"{typed.strip()}": an alarm needs a reading; where none comes, the field shows that.')
    if _AT_REST.search(said):
        raise RequestError(f'"{typed.strip()}": an alarm compares a reading with a limit, and not with what it was.')
    if begun is not None:
        which = begun.groupdict().get("which") or ""
        name = begun.groupdict().get("name") or ""
        said = said[begun.end() :]
    said, called = _taken(_CALLED, said)
    said, least = _taken(_LEAST, said)
    said, hysteresis = _taken(_HYSTERESIS, said)
    said, off = _taken(_OFF, said)
    more = {
        "hysteresis": hysteresis,
        "off": off,
        "least": least,
        "name": called or " ".join(name.lower().split()),
    }
    said = said.strip().rstrip(",;").strip()
    if found := _OUTSIDE.fullmatch(said):
        high = found["high"]
        low = found["low"] if re.search(r"[^\d\s.,+−-]", found["low"]) else f"{found['low']}{high[_end(high) :]}"
        ends = ((BELOW, low), (ABOVE, high))
        return tuple(AlarmSaid(side, limit.strip(), **{**more, "off": ""}) for side, limit in ends)
    if _BETWEEN.match(said):
        would = f"alarm outside 5 to 30 {unit}, or two alarms"
        raise RequestError(f'"{typed.strip()}" does not say whether it is on there or outside; write {would}.')
    if found := _SIDE.match(said):
        return (AlarmSaid(ABOVE if found["above"] else BELOW, said[found.end() :], **more),)
    limit = _AT.sub("", said, count=1)
    side = _side_of(which, limit, off)
    if not side:
        raise RequestError(f'"{limit}" is neither above nor below; write it like alarm above 10 {unit}.')
    return (AlarmSaid(side, limit, **more),)


def _end(quantity: str) -> int:
    """The index at which the unit of a quantity begins."""
    found = re.match(NUMBER, quantity)
    return found.end() if found else 0


def _side_of(which: str, limit: str, off: str) -> str:
    """The side of an alarm: a high one is above its limit, and so is one that clears below it; empty where unknown."""
    if which:
        return ABOVE if which.lower() in ("high", "upper") else BELOW
    on_at, off_at = (_number(each) for each in (limit, off))
    if on_at is None or off_at is None or on_at == off_at:
        return ""
    return ABOVE if on_at > off_at else BELOW


def _number(quantity: str) -> float | None:
    written = quantity[: _end(quantity)].replace(",", ".").replace("−", "-")
    return float(written) if written else None


def _taken(pattern: re.Pattern[str], said: str) -> tuple[str, str]:
    """The text without the match of a pattern, and the matched value."""
    found = pattern.search(said)
    if found is None:
        return said, ""
    value = next(each for each in found.groups() if each is not None)
    return f"{said[: found.start()]} {said[found.end() :]}".strip(), value.strip()
