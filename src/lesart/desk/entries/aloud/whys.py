"""What is wrong, as people say it at ``y``: ``it should be 21.5 °C``, ``3 °C too high``, ``twice as much``, ``lag``."""

from __future__ import annotations

import math
import re

from lesart.core.errors import RequestError
from lesart.core.quantity import beside_unit
from lesart.core.raw.spelled.unit_typed import quantity_typed
from lesart.core.units import Unit
from lesart.desk.entries.aloud.figures import NUMBER
from lesart.desk.entries.aloud.instead.asked import Asks, first_of

_QUANTITY = rf"{NUMBER}(?:\s?(?!too\b|times\b)[^\s\d,;]+)?(?:\s?(?:±|\+-|\+/-)\s?{NUMBER}\s?[^\s,;]*)?"
_SHOULD = r"(?:should|must|ought\s+to|has\s+to|is\s+meant\s+to|is\s+supposed\s+to)\s+(?:be|read|say|show|have\s+been)"
_TRUE = (
    re.compile(
        rf"(?:it\s+)?(?:(?:reads?|shows?|says?|is)\s+{_QUANTITY}\s*,?\s*(?:(?:but|and|it)\s+)*)?(?:{_QUANTITY}\s+)?"
        rf"{_SHOULD}\s+(?P<true>{_QUANTITY})",
        re.IGNORECASE,
    ),
    re.compile(
        rf"(?:it\s+)?(?:(?:reads?|shows?|is)\s+)?{_QUANTITY}\s+instead\s+of\s+(?P<true>{_QUANTITY})", re.IGNORECASE
    ),
    re.compile(
        r"(?:it\s+is\s+)?(?:really|actually|in\s+truth|(?:the\s+)?(?:true\s+value|truth)(?:\s+is)?)[\s:=]+"
        rf"(?P<true>{_QUANTITY})",
        re.IGNORECASE,
    ),
)
_HIGH = r"(?:high|much|large|big|hot|warm|heavy|fast|over|above)"
_LOW = r"(?:low|little|small|cold|light|slow|short|under|below)"
_IT = r"(?:it(?:'s|\s+is|\s+reads|\s+shows)\s+|(?:is|reads|shows)\s+)?(?:about\s+|by\s+)?"
_BY = re.compile(
    rf"{_IT}(?P<by>{_QUANTITY})\s+(?:too\s+)?(?:(?P<high>{_HIGH})|(?P<low>{_LOW}))",
    re.IGNORECASE,
)
_TIMES = re.compile(
    rf"{_IT}(?:(?P<times>{NUMBER})\s*(?:times|x|×)|(?P<twice>twice|double))\s*(?:too\s+|as\s+)?"
    rf"(?:(?P<high>{_HIGH})|(?P<low>{_LOW}))?(?:\s+as\s+(?:it\s+should(?:\s+be)?|much))?",
    re.IGNORECASE,
)
_HALF = re.compile(
    rf"{_IT}(?:only\s+)?half(?:\s+(?:as\s+much|too\s+low|of\s+what\s+it\s+should\s+be))?",
    re.IGNORECASE,
)
_NEGATED = re.compile(
    r"(?:it\s+(?:is|reads|has)\s+)?(?:(?:the\s+|a\s+)?(?:wrong|opposite|other|flipped|inverted)\s+sign|negated|negative|"
    r"inverted|upside\s+down|mirrored|(?:goes|moves|changes)\s+the\s+wrong\s+way)",
    re.IGNORECASE,
)
_OFF = re.compile(rf"(?:it\s+is\s+)?(?:off|wrong|out)\s+by\s+(?P<by>{_QUANTITY})", re.IGNORECASE)
ROUGHLY = "10 %"
"""Tolerance of factors that people say in a word."""
SYMPTOMS: tuple[tuple[str, str], ...] = (
    (r"flicker|blink|shimmer|uneven", "flickers"),
    (r"\blag|late\b|delay|behind|\bslow", "lags"),
    (r"\bmiss|\blos(?:es|t|ing)\b|\bdrop|too few", "missed"),
    (r"freez|froze|hang|hung|stuck|stall|block|stops?\b", "freezes"),
)
"""Words for what is seen of a loop, and the symptom they mean."""


def truth_plainly(typed: str, unit: Unit, reading: float | None) -> str:
    """What it should read, as a quantity; unchanged where it is not such a phrase.

    ``reading`` is the present one, in ``unit``; None without one. Raises RequestError where the direction of the error
    is not stated.
    """
    from lesart.study.why.asked import last_place  # only loaded when asked for

    said = typed.strip().rstrip(".")
    if match := next((found for pattern in _TRUE if (found := pattern.fullmatch(said))), None):
        return match["true"].strip()
    if match := _OFF.fullmatch(said):
        by = match["by"].strip()
        raise RequestError(f'"{said}" does not say which way; write {by} too high, or {by} too low.')
    if reading is None:
        return typed
    if (factor := _factor(said)) is not None:
        return f"{beside_unit(f'{reading / factor:.6g}', unit.symbol)} ± {ROUGHLY}"
    if match := _BY.fullmatch(said):
        by = quantity_typed(match["by"], unit)
        if by.unit.symbol == "%" and unit.symbol != "%":  # of what it should read
            share = float(by.value) / 100 * (1 if match["high"] else -1)
            off = abs(reading) * last_place(match["by"], by, by.unit) / 100
            return f"{beside_unit(f'{reading / (1 + share):.6g}', unit.symbol)} ± {off:.6g}" if share > -1 else typed
        step = float(by.value) * float(by.unit.scale / unit.scale)
        true = reading - step if match["high"] else reading + step
        off = last_place(match["by"], by, unit)
        return f"{beside_unit(f'{true:.6g}', unit.symbol)} ± {off:.6g}"
    return typed


_SEEN: Asks = (
    (r"too\s+\w+$|(?:much|way|a\s+(?:bit|little))\s+too\b|off\b|wrong$|(?:not|in)\s?correct|bad\b", "{much}"),
    (
        r"(?:nothing|no\s+(?:reading|value|data|answer|signal)|dead|silent|blank|nan|always\s+(?:0|zero)|zero|empty)\b",
        "y in 1 Wire asks why a part says nothing, and 2 Raw shows what came",
    ),
    (
        r"(?:stuck|frozen|constant|same\b|(?:does\s+not|doesn't)\s+(?:change|move))",
        "for a value that does not move see the notes of 2 Raw; for a frozen display press y in 8 Pace",
    ),
    (
        r"(?:noisy|nois|jumps?\b|jumpy|jitter|unstable|flicker|spik|restless|wander)",
        "+ in 5 Calm asks for the cheapest filters by the noise they leave, like noise 0.1{unit}",
    ),
    (r"drift", "drift is shown in 4 True, between calibrations and by references of other days"),
    (r"(?:slow|lag|late|delay|behind|miss|freez)", "y in 8 Pace asks about what you see of the loop, like lags"),
    (
        r"(?:wrong\s+)?units?\b|(?:it\s+is\s+)?in\s+\S+$|fahrenheit|celsius",
        "type what it should read with its unit; a mistaken unit is one of the causes that are tried",
    ),
    (r"(?:a\s+)?factor\b|\d+\s*(?:x|×|times)$|ten\s+times|orders?\s+of", "say which way, like 10 times too high"),
)


def seen_otherwise(typed: str, unit: Unit) -> str:
    """What answers a symptom that is not a value; else empty."""
    said = re.sub(r"^(?:it(?:'s|\s+is|\s+reads|\s+shows)?|is|reads?)\s+(?=\S)", "", typed.strip().lower())
    says = first_of(_SEEN, said)
    three, what = beside_unit("3", unit.symbol), beside_unit("21.5", unit.symbol)
    much = f"say by how much, like {three} too high, or what it should read, like {what}"
    return says.format(much=much, unit="" if unit.symbol == "1" else f" {unit.step}")


def _factor(said: str) -> float | None:
    """The factor by which it reads too much."""
    if _HALF.fullmatch(said):
        return 0.5
    if _NEGATED.fullmatch(said):
        return -1.0
    match = _TIMES.fullmatch(said)
    if match is None:
        return None
    times = 2.0 if match["twice"] else float(match["times"].replace(",", ".").replace("−", "-"))
    if not 0 < times < math.inf:
        return None
    return 1 / times if match["low"] else times


def symptom_plainly(typed: str) -> str:
    """A symptom by its own name; unchanged where it is not recognised."""
    said = typed.strip().lower()
    return next((symptom for pattern, symptom in SYMPTOMS if re.search(pattern, said)), said)
