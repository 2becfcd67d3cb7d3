"""A value in frames of bytes, said aloud: ``bytes 3 to 4, signed, low byte first, / 10 °C``.

Bytes are counted from 1, bits from 0 with the highest of the first byte first, as in the rows of 2 Raw.
"""

from __future__ import annotations

import re
from collections.abc import Mapping

from lesart.core.dataclass_later import dataclass
from lesart.core.errors import RequestError
from lesart.core.quantity import counted
from lesart.core.raw.messages.frames import FLOATS
from lesart.core.raw.spelled.unit_said import unit_said

_NUMBER = r"\d{1,9}(?:[.,]\d{1,9})?"
_PLACES = (
    re.compile(
        r"bytes? (?P<byte>\d{1,5})(?: ?(?:to|and|-|–|…|\.\.|,|&) ?(?:byte )?(?P<last>\d{1,5}))?(?![\d.])", re.IGNORECASE
    ),
    re.compile(r"(?P<which>first|second|third|fourth|fifth|sixth|seventh|eighth) byte\b", re.IGNORECASE),
    re.compile(r"first (?P<many>two|three|four|eight) bytes\b", re.IGNORECASE),
    re.compile(r"bits? (?P<bit>\d{1,6})(?: ?(?:to|-|–|…|\.\.) ?(?P<end>\d{1,6}))?(?![\d.])", re.IGNORECASE),
    re.compile(r"(?P<bits>\d{1,2})[ -]?bits? (?:from|behind) (?:bit )?(?P<from>\d{1,6})\b", re.IGNORECASE),
)
_WHICH = ("first", "second", "third", "fourth", "fifth", "sixth", "seventh", "eighth")
_MANY = {"two": 2, "three": 3, "four": 4, "eight": 8}
_BEHIND: tuple[tuple[re.Pattern[str], Mapping[str, str | bool]], ...] = tuple(
    (re.compile(pattern, re.IGNORECASE), entry)
    for pattern, entry in (
        (r"\b(?:unsigned|without (?:a )?sign)\b", {"sign": "none"}),
        (r"\bsign(?:ed)?[ -](?:bit|and[ -]magnitude|magnitude)\b", {"sign": "sign bit"}),
        (r"\bsigned\b|\btwo'?s[ -]complement\b|\bwith (?:a )?sign\b", {"sign": "two's complement"}),
        (
            r"\b(?:low(?:est)?|lsb|least significant)(?: byte)?[ -]first\b|\blittle[ -]endian\b|\ble\b",
            {"order": "low first"},
        ),
        (
            r"\b(?:high(?:est)?|msb|most significant)(?: byte)?[ -]first\b|\bbig[ -]endian\b|\bbe\b",
            {"order": "high first"},
        ),
        (r"\bfloat(?:32|64|ing[ -]point)?\b", {"floating": True}),
        (r"\bwords? swapped\b|\bswapped words\b", {"word_swap": True}),
        (r"\bbytes? swapped\b|\bswapped bytes\b", {"byte_swap": True}),
    )
)
_SCALE = re.compile(
    rf"(?:(?P<over>/|÷|\bdivided by\b|\bover\b)|(?P<times>[*×]|\bx\b|\btimes\b)) ?(?P<number>{_NUMBER})(?![\w.])", re.I
)
_EACH = re.compile(
    rf"(?P<number>{_NUMBER}) ?(?P<unit>[^\s\d,]{{1,12}}) (?:each|(?:per|a) (?:count|step|lsb|bit))\b", re.IGNORECASE
)
_OFFSET = re.compile(
    rf"(?:(?P<less>(?<![\w])[-−]|\bminus\b|\bless\b)|(?:\+|\bplus\b)) ?(?P<number>{_NUMBER})(?![\w.])", re.I
)
_TYPE = re.compile(r"\b(?P<u>u)?int(?P<bits>8|16|24|32|64)(?:_t)?\b", re.I)
_FILLING = re.compile(r"[,;]|\b(?:in|and|as|the|a|of)\b")


@dataclass(frozen=True)
class FrameValue:
    """``entry`` as the project file has it, without a name; ``unit`` is what came after, 1 where nothing did."""

    entry: Mapping[str, str | int | bool]
    unit: str = "1"


def frame_value(typed: str) -> FrameValue | None:
    """The value in frames; None where no bytes or bits are named. Raises RequestError for what does not fit."""
    said, match = _begins(typed)
    if match is None:
        return None
    entry = _place(match)
    rest = f" {said[match.end() :]} "
    unit = ""
    if found := _TYPE.search(rest):
        rest = _TYPE.sub(" ", rest, count=1)
        entry |= {"sign": "none" if found["u"] else "two's complement"}
        if int(found["bits"]) != entry["bits"]:
            raise RequestError(
                f'"{match[0]}" are {entry["bits"]} bits, and {found[0]} has {found["bits"]}; say one of them.'
            )
    if found := _EACH.search(rest):
        rest, unit = _EACH.sub(" ", rest, count=1), found["unit"]
        entry["scale"] = found["number"].replace(",", ".")
    if found := _SCALE.search(rest):
        rest = _SCALE.sub(" ", rest, count=1)
        entry["scale"] = _scale(found)
    if found := _OFFSET.search(rest):
        rest = _OFFSET.sub(" ", rest, count=1)
        entry["offset"] = ("-" if found["less"] else "") + found["number"].replace(",", ".")
    said_so = {"sign"} if "sign" in entry else set()
    for pattern, told in _BEHIND:
        if found := pattern.search(rest):
            if any(key in said_so and entry[key] != value for key, value in told.items()):
                raise RequestError(f'"{found[0]}" contradicts what comes before or behind it; say one of them.')
            rest, entry, said_so = pattern.sub(" ", rest, count=1), entry | dict(told), said_so | set(told)
    if entry.get("floating") and entry["bits"] not in FLOATS:
        is_are = "is" if match[0].lower().startswith(("byte ", "bit ")) else "are"
        raise RequestError(
            f'"{match[0]}" {is_are} {counted(int(entry["bits"]), "bit")}, and a floating-point number has 32 or 64; '
            f"say where its 4 or 8 bytes are."
        )
    left = " ".join(_FILLING.sub(" ", rest).split())
    if left and unit_said(left) is None:
        what = "signed, low byte first, float, / 10, - 40, and a unit"
        raise RequestError(f'"{left}" behind "{match[0]}" is not understood; say {what}.')
    return FrameValue(entry, left or unit or "1")


def says_bytes(typed: str) -> bool:
    """True where it begins with bytes or bits of a frame."""
    return _begins(typed)[1] is not None


def _begins(typed: str) -> tuple[str, re.Match[str] | None]:
    said = re.sub(r"^(?:the|its) ", "", " ".join(typed.split()), flags=re.IGNORECASE)
    return said, next((found for pattern in _PLACES if (found := pattern.match(said))), None)


def _place(match: re.Match[str]) -> dict[str, str | int | bool]:
    """The position by bytes counted from 1, the higher byte of the number first if stated so, or by bits counted from
    0."""
    told = match.groupdict()
    if told.get("bit"):
        first, last = int(told["bit"]), int(told["end"] or told["bit"])
        if last < first:
            raise RequestError(f'"{match[0]}" run back; they are counted from 0, the highest of the first byte.')
        return {"first_bit": first, "bits": last - first + 1}
    if told.get("bits"):
        return {"first_bit": int(told["from"]), "bits": int(told["bits"])}
    if told.get("many"):
        return {"first_bit": 0, "bits": 8 * _MANY[told["many"].lower()]}
    first = int(told["byte"]) if told.get("byte") else _WHICH.index(told["which"].lower()) + 1
    last = int(told["last"]) if told.get("last") else first
    if min(first, last) < 1:
        raise RequestError(f'"{match[0]}" are not bytes of a frame; they are counted from 1, like bytes 5 to 6.')
    entry: dict[str, str | int | bool] = {"first_bit": 8 * (min(first, last) - 1), "bits": 8 * (abs(last - first) + 1)}
    return entry | ({"order": "low first"} if last < first else {})


def _scale(found: re.Match[str]) -> str:
    number = float(found["number"].replace(",", "."))
    if not number:
        raise RequestError(f'"{found[0]}" leaves nothing; divide by 10, or take it times 0.1.')
    return f"{1 / number if found['over'] else number:.12g}"
