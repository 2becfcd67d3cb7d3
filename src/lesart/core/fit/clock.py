"""Elapsed time and the time of day, from seconds, minutes or hours."""

from __future__ import annotations

from lesart.core.fit.field import SECOND, Field
from lesart.core.fit.rounding import LARGEST, steps_of
from lesart.core.units import convert

STEPS_S = {"m:ss": 1, "mm:ss": 1, "h:mm:ss": 1, "hh:mm:ss": 1, "h:mm": 60, "hh:mm": 60, "d hh:mm": 60}
"""Seconds per last place of each form."""
DAY_S = 86_400


def time_text(field: Field, shown_value: float) -> str | None:
    """A reading in the field's unit as its form says, rounded to its last place; None for an absurd one.

    A clock goes on from zero after a day; elapsed time does not, and may be negative.
    """
    seconds = float(convert(shown_value, field.unit_shown, SECOND))
    if not abs(seconds) < LARGEST:
        return None
    step = STEPS_S[field.time]
    steps = steps_of(seconds, step, field.round)
    if field.shows == "clock":
        steps %= DAY_S // step
    sign = "-" if steps < 0 and field.sign != "never" else "+" if field.sign == "always" else ""
    return sign + _parts(field.time, abs(steps) * step)


def _parts(form: str, seconds: int) -> str:
    minutes, second = divmod(seconds, 60)
    hours, minute = divmod(minutes, 60)
    days, hour = divmod(hours, 24)
    match form:
        case "m:ss":
            return f"{minutes}:{second:02d}"
        case "mm:ss":
            return f"{minutes:02d}:{second:02d}"
        case "h:mm":
            return f"{hours}:{minute:02d}"
        case "hh:mm":
            return f"{hours:02d}:{minute:02d}"
        case "h:mm:ss":
            return f"{hours}:{minute:02d}:{second:02d}"
        case "hh:mm:ss":
            return f"{hours:02d}:{minute:02d}:{second:02d}"
    return f"{days} {hour:02d}:{minute:02d}"
