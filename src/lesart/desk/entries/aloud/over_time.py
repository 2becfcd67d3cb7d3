"""Totals and changes over time as people say them, translated into what 3 Law accepts.

``add it up to litres per day`` is ``total over time L, every = 24 h``. Which law is meant depends on the input: a rate
is integrated over time, a running counter counts by its rise, and anything else once per sample.
"""

from __future__ import annotations

import math
import re
from collections.abc import Callable

from lesart.core.block import Floats
from lesart.core.errors import LesartError, RequestError
from lesart.core.law.over_time.change import CHANGE
from lesart.core.law.over_time.inspect import is_rate
from lesart.core.law.over_time.totals import RISE, SECOND, SUM, TOTAL, amount_symbol
from lesart.core.raw.codes import full_at, is_counter
from lesart.core.raw.spelled.unit_said import unit_said
from lesart.core.raw.spelled.unit_typed import quantity_typed
from lesart.core.units import Unit, parse_unit, product
from lesart.desk.entries.aloud.article import without_article

_OF = r"(?:\s+of\s+(?:all\s+|the\s+)*(?:samples?|values?|readings?|amounts?|tips?|pulses?|counts?|drops?|rain|[\w-]+))?"
_TOTAL = (
    r"(?:(?:running|rolling|cumulative)\s+)?(?:totals?|sum)|add(?:s|ed)?(?:\s+(?:it|them|all|everything))*\s+up|"
    r"sum(?:s|med)?(?:\s+(?:it|them|all))*\s+up|integrat(?:e|es|ed|ion|al)(?:\s+(?:it|them|all))?|accumulat(?:e|es|ed|ion|or)|cumulative|"
    r"totali[sz](?:e|es|ed|er|or)|energy|charge|consumption|yield|rainfall|consumed|used"
)
_EACH = (
    r"(?:,?\s+(?:which\s+|that\s+)?(?:anew|reset(?:ting)?|begin(?:s|ning)?\s+(?:anew|again)|starting\s+(?:anew|again)|from\s+0|"
    r"zeroed))?,?\s+(?:(?:every|each|per|a|of\s+(?:a|the|each|one)|in\s+(?:a|one)|over\s+(?:a|one))\s+"
    r"(?P<every>\d+(?:[.,]\d+)?\s*[a-z]+|day|hour|week|minute|month|year)|(?P<since>since\s+midnight|at\s+midnight|today))"
)
_OFTEN = {"hourly": "1 h", "weekly": "168 h"}
_LASTS = {"minute": "1 min", "hour": "1 h", "week": "168 h"}
DAY_S = 86_400.0
_NO_LENGTH = ("month", "year")
_ADDS = re.compile(
    rf"(?:(?P<often>daily|hourly|weekly)\s+)?(?P<what>{_TOTAL}){_OF}(?:\s+over\s+time)?"
    rf"(?:\s+(?:in|to|as|into)\s+(?P<unit>(?!a\s|one\s)\S+(?:[\s-]hours?)?))?(?:{_EACH})?",
    re.IGNORECASE,
)
_ALONE = re.compile(r"(?:total\s+|in\s+|to\s+|as\s+)?(?P<unit>[^\W\d_][\w³·^-]*(?:\s+hours?)?)", re.IGNORECASE)
_SINCE = re.compile(r"[\w-]+(?:\s+[\w-]+)?\s+since\s+midnight", re.IGNORECASE)
_COUNTER = re.compile(
    r"(?:(?P<before>\d{1,2})[\s-]*bits?\s+)?(?:(?:running|cumulative|free[\s-]?running|meter|up|wrapping|rising)\s+)*"
    r"counter(?:\s+(?:of|with)\s+(?P<bits>\d{1,2})\s*bits?)?"
    r"(?:,?\s+(?:which\s+|that\s+)?(?:wraps?|rolls?\s+over|overflows?|(?:is\s+)?full|starts?\s+(?:again|over))"
    r"(?:\s+(?:round|around))?(?:\s+(?:at|after)\s+(?P<full>\d[\d_ ]*))?)?",
    re.IGNORECASE,
)
_RISEN = re.compile(
    r"(?:what\s+)?(?:it|the\s+counter)\s+(?:has\s+)?(?:risen|rose|counted|went\s+up)(?:\s+by)?|"
    r"rise(?:\s+of\s+(?:the\s+|a\s+)?counter)?|(?:since|from)\s+(?:the\s+)?(?:start|beginning|begin|first\s+sample)",
    re.IGNORECASE,
)
_PER = r"(?:\s*/\s*|\s+(?:per|a|an|each|every)\s+|\s+in\s+(?:one|a|an)\s+)(?P<per>s|sec(?:ond)?|min(?:ute)?|h|hour|hr)"
_WHILE = r"(?:,?\s+(?:over|within|in|during)\s+(?:the\s+)?(?:last\s+|past\s+)?(?P<over>\d+(?:[.,]\d+)?\s*[a-z]+))"
_CHANGES = re.compile(
    r"(?:(?:rate|speed)\s+of\s+(?:change|rise)|how\s+(?:fast|quickly)\s+it\s+(?:changes|rises|falls|counts|moves)|"
    r"changes?(?:\s+rate)?(?:\s+over\s+time)?|derivative|deriv(?:e|es)|differentiat(?:e|es|ion)|tendency|delta|"
    r"difference|(?P<counted>(?:counter|count)\s+(?:to|as)\s+(?:a\s+)?rate|rate\s+of\s+(?:a|the)\s+counter|"
    r"(?:counts?|pulses|clicks|tips|events|ticks)(?=\s*/|\s+per)))"
    rf"(?:{_PER})?{_WHILE}?(?:{_PER.replace('<per>', '<later>')})?",
    re.IGNORECASE,
)
_LONGEST = 20
"""Most digits of a counter."""
_WIDEST = 53
"""Most bits of a counter that a float counts exactly."""


def over_time_plainly(
    typed: str, end: Unit, values: Callable[[], Floats], clock_s: Callable[[], float] = lambda: math.nan
) -> str:
    """The phrase as it was where it is none of these.

    ``end`` is the unit in which the laws end, ``values`` gives what comes out of them in turn, good ones, and
    ``clock_s`` the time of day of the first, NaN where nobody knows it; both are looked at only where they have to be
    known.

    Raises RequestError for what says too little or cannot be, with what would do.
    """
    said = without_article(typed)
    if said.lower() in (TOTAL.name, SUM.name, RISE.name, CHANGE.name):
        return typed  # it names the law that is wanted
    if found := _ADDS.fullmatch(said):
        return _adding(typed, found, end, values, clock_s)
    if alone := _unit_alone(said, end):
        return f"total over time {alone}"
    if _SINCE.fullmatch(said):
        return _adding(typed, _ADDS.fullmatch("total since midnight"), end, values, clock_s)
    if found := _COUNTER.fullmatch(said):
        return f"counter rise{_full(typed, found) or _full_of(values())}"
    if _RISEN.fullmatch(said):
        return f"counter rise{_full_of(values())}"
    if found := _CHANGES.fullmatch(said):
        changing = _changing(found)
        if found["counted"] and not is_counter(values()):
            raise RequestError(
                f'"{typed.strip()}": what comes in is not a running counter; add up makes one of it, and {changing} '
                "is taken after that."
            )
        return changing
    return typed


def _adding(
    typed: str,
    found: re.Match[str] | None,
    end: Unit,
    values: Callable[[], Floats],
    clock_s: Callable[[], float],
) -> str:
    assert found is not None
    wanted = _unit(typed, found["unit"], end) if found["unit"] else None
    every = _every(typed, found, clock_s)
    anew = f", every = {every}" if every else ""
    if wanted is None and found["what"].lower().startswith("integra"):
        return f"total over time {amount_symbol(end.step)}{anew}"
    if wanted is not None and wanted.dimension == product(end, SECOND)[0]:
        return f"total over time {wanted}{anew}"
    if wanted is not None and not wanted.same_dimension(end):
        raise RequestError(
            f'"{typed.strip()}": the laws end in {end}, which adds up to {amount_symbol(end.step)} over time, or to '
            f"{end.step} one a sample, not to {wanted}."
        )
    if wanted is None and is_rate(end):
        return f"total over time {amount_symbol(end)}{anew}"
    x = values()
    unit = f" {wanted}" if wanted is not None else ""
    if not is_counter(x):
        return f"sum{unit}{anew}"
    return f"counter rise{unit}{_full_of(x)}{anew}"


def _unit(typed: str, text: str, end: Unit) -> Unit:
    """The unit. Raises RequestError for anything else."""
    for near in (amount_symbol(end.step), end.symbol):
        try:
            found = quantity_typed(f"1 {text}", parse_unit(near)).unit
        except LesartError:
            continue
        return found
    spelled = unit_said(text)
    if spelled is None:
        raise RequestError(f'"{typed.strip()}": "{text}" is not a unit; {end} adds up to {amount_symbol(end.step)}.')
    return spelled


def _unit_alone(said: str, end: Unit) -> Unit | None:
    """The unit of the laws' result over time, by default: ``litres`` for L/min."""
    found = _ALONE.fullmatch(said)
    if found is None:
        return None
    try:
        unit = quantity_typed(f"1 {found['unit']}", parse_unit(amount_symbol(end.step))).unit
    except LesartError:
        return None
    return unit if unit.dimension == product(end, SECOND)[0] and not unit.is_temperature else None


def _every(typed: str, found: re.Match[str], clock_s: Callable[[], float]) -> str:
    """The length of a period, and when the first ends; a day ends at midnight where that is known.

    Raises RequestError for a period of unknown length or beginning.
    """
    often, every = (found["often"] or "").lower(), (found["every"] or "").lower()
    if every in _NO_LENGTH:
        raise RequestError(f'"{typed.strip()}": not every {every} is as long; type every = 30 d, or never with 0 s.')
    if found["since"] or often == "daily" or every == "day":
        first = to_midnight(clock_s())
        if found["since"] and not first:
            raise RequestError(
                f'"{typed.strip()}": say how long it is from the first sample to midnight, like sum, every = 24 h, '
                "first = 9 h."
            )
        return f"24 h{first}"
    if often:
        return _OFTEN[often]
    return _LASTS.get(every) or (str(quantity_typed(every, SECOND)) if every else "")


def to_midnight(clock_s: float) -> str:
    """``, first = 9.5 h``, from a time of day to midnight; empty where it is not known."""
    if not math.isfinite(clock_s):
        return ""
    left = DAY_S - clock_s % DAY_S
    hours = left / 3600.0
    return f", first = {hours:.2f} h" if abs(hours * 100 - round(hours * 100)) < 1e-9 else f", first = {left:.12g} s"


def _full(typed: str, found: re.Match[str]) -> str:
    """Where a counter wraps: by its bits, or by its last number. Raises RequestError."""
    digits = re.sub(r"[_ ]", "", found["full"] or found["before"] or found["bits"] or "")
    if len(digits) > _LONGEST:
        raise RequestError(f'"{typed.strip()[:30]}…": counters here have up to {_WIDEST} bits.')
    if found["full"]:
        last = int(digits)
        is_end = str(last + 1).strip("0") == "1" or (last & (last + 1)) == 0
        return f", full = {last + 1 if is_end else last}"
    bits = int(digits or 0)
    if bits > _WIDEST:
        raise RequestError(f'"{typed.strip()}": counters here have up to {_WIDEST} bits.')
    return f", full = {1 << bits}" if bits else ""


def _full_of(x: Floats) -> str:
    """Where a counter wraps, by its values."""
    full = full_at(x) if is_counter(x) else 0.0
    return f", full = {full:.0f}" if full else ""


def _changing(found: re.Match[str]) -> str:
    per = (found["per"] or found["later"] or "").lower()
    told = [f"over = {quantity_typed(found['over'].lower(), SECOND)}"] if found["over"] else []
    if per:
        told.append(f"per = 1/{'h' if per[0] == 'h' else 'min' if per[0] == 'm' else 's'}")
    return ", ".join(["change over time", *told])
