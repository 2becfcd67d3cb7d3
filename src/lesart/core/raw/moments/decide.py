"""The form of a column of dates and times, decided by all its texts; what stays ambiguous is reported."""

from __future__ import annotations

from collections.abc import Sequence

import numpy as np

from lesart.core.block import Floats
from lesart.core.dataclass_later import dataclass
from lesart.core.raw.moments.read import PERIOD_S, seconds_of, unwrapped
from lesart.core.raw.moments.written import (
    CLOCK,
    DATES,
    DAY_FIRST,
    HOURS_MINUTES,
    ISO,
    LASTS,
    MINUTES,
    MONTH_FIRST,
    YEAR_FIRST,
    written,
)

MOST_WRONG = 0.2
"""Share of texts that may be invalid: a clock that once failed is still the clock."""


@dataclass(frozen=True)
class Form:
    """``doubt`` is a sentence where another form would give other times, and nothing in the column tells them apart.

    ``has_date`` and ``has_clock`` say what its texts tell; ``has_zone`` that they say where.
    """

    name: str
    doubt: str = ""
    has_date: bool = False
    has_clock: bool = False
    has_zone: bool = False


def form_of(cells: Sequence[str]) -> Form | None:
    """The form in which nearly all texts are valid; None where there is none. Plain numbers have none."""
    texts = [cell.strip() for cell in cells if cell.strip()]
    if not texts or not any(
        letter in text for text in texts[:20] for letter in ":-/. Tthms年時时" if not _is_number(text)
    ):
        return None
    fitting = [form for form in (ISO, DAY_FIRST, MONTH_FIRST, CLOCK, MINUTES, LASTS) if _fits(texts, form)]
    if not fitting:
        return None
    if MINUTES in fitting and CLOCK in fitting and len(fitting) > 1:
        fitting = [_clock_or_minutes(texts)]
    if DAY_FIRST in fitting and MONTH_FIRST in fitting:
        form, doubt = _day_or_month(texts)
    else:
        form, doubt = fitting[0], ""
    how = written(next(text for text in texts if written(text, form) or form == LASTS), form)
    told = (how.has_date, how.has_clock, how.has_zone) if how else (False, False, False)
    if form == ISO and "-" not in texts[0]:
        form = ISO if "T" in texts[0] or texts[0][:8].isdecimal() else YEAR_FIRST
    return Form(form, doubt, *told)


def _is_number(text: str) -> bool:
    return text.replace(".", "", 1).replace(",", "", 1).lstrip("+-").isdecimal()


def _fits(texts: Sequence[str], form: str) -> bool:
    if form == LASTS and not any(letter in "dhmsPTnuµ:" for letter in texts[0]):
        return False
    found = seconds_of(texts, form)
    return bool(np.mean(np.isnan(found)) <= MOST_WRONG)


def _clock_or_minutes(texts: Sequence[str]) -> str:
    """``7:05`` is hours and minutes, unless only minutes and seconds have such steps; ``T+7:05`` is elapsed time."""
    if texts[0].count(":") > 1 or "m" in texts[0].lower():
        return CLOCK
    if texts[0].lstrip("Tt").startswith("+") or any("." in text or "," in text for text in texts):
        return MINUTES
    hours, minutes = (_risen(texts, form) for form in (CLOCK, MINUTES))
    # A clock that went round more than a day in one recording was in minutes.
    if minutes is not None and hours is not None:
        return MINUTES if float(hours[-1] - hours[0]) > 1.5 * 86_400 or max(_firsts(texts)) > 23 else CLOCK
    return CLOCK


def _firsts(texts: Sequence[str]) -> list[int]:
    return [int(first) for text in texts if (first := text.partition(":")[0]).isdecimal()]


def _risen(texts: Sequence[str], form: str) -> Floats | None:
    found = unwrapped(seconds_of(texts, form), PERIOD_S[form])
    found = found[np.isfinite(found)]
    return found if len(found) > 1 else None


def _day_or_month(texts: Sequence[str]) -> tuple[str, str]:
    """The order that reads all texts, else the one with more even steps; and the doubt where both are as good."""
    readings = {form: seconds_of(texts, form) for form in (DAY_FIRST, MONTH_FIRST)}
    wrong = {form: int(np.isnan(found).sum()) for form, found in readings.items()}
    if wrong[DAY_FIRST] != wrong[MONTH_FIRST]:
        return min(readings, key=wrong.__getitem__), ""
    if "." in texts[0].partition(" ")[0]:
        return DAY_FIRST, ""  # nobody writes a month first with points
    since = {form: found[np.isfinite(found)] - found[np.isfinite(found)][0] for form, found in readings.items()}
    usual = MONTH_FIRST if _has_half(texts[0]) else DAY_FIRST
    if len(since[DAY_FIRST]) == len(since[MONTH_FIRST]) and np.array_equal(since[DAY_FIRST], since[MONTH_FIRST]):
        return usual, ""
    spread = {form: _uneven(found) for form, found in since.items()}
    if spread[DAY_FIRST] != spread[MONTH_FIRST]:
        return min(spread, key=spread.__getitem__), ""
    first = "the day" if usual == DAY_FIRST else "the month"
    other = "the month" if usual == DAY_FIRST else "the day"
    return usual, f'"{texts[0]}" is read with {first} first; with {other} first the times would be different'


def _has_half(text: str) -> bool:
    return text.rstrip(" .").lower()[-2:] in ("am", "pm", ".m")


def _uneven(t: Floats) -> tuple[int, float]:
    """How often it runs backwards, and how far the longest step is from the usual one."""
    steps = np.diff(t)
    if not len(steps):
        return 0, 0.0
    usual = float(np.median(steps))
    return int((steps < 0).sum()), round(float(np.abs(steps - usual).max()), 6)


__all__ = ["DATES", "HOURS_MINUTES", "Form", "form_of"]
