"""Two neighbouring floats between which a text changes, as a person would say them.

Their own seventeen digits tell a person nothing, and rounded they are the same. So the rounded number is said of the
side that it is on when it is typed, and the other side is what is just below or above it.
"""

from __future__ import annotations

from typing import Literal

from lesart.core.dataclass_later import dataclass
from lesart.core.fit.field import Field
from lesart.core.quantity import format_quantity

DIGITS = 9
"""That a border is said with; a field shows fewer."""
Sign = Literal["", "<", ">"]


@dataclass(frozen=True)
class End:
    """A value as it is said, in the field's unit: itself, or what is just below (<) or above (>) ``value``."""

    value: float
    sign: Sign = ""


def said(field: Field, value: float) -> End:
    """One that has no neighbour. ``value`` is in the channel's unit, as all here."""
    return End(float(field.shown_value(value)))


def end_said(field: Field, end: End) -> str:
    """``9.95 kg``, ``< 9.95 kg``."""
    return f"{end.sign} {format_quantity(end.value, field.unit_shown, DIGITS)}".lstrip()


def border(field: Field, low: float, high: float) -> tuple[End, End]:
    """Both sides of a change, ``low`` below ``high`` and next to it."""
    below, above = said(field, low), said(field, high)
    typed = float(f"{above.value:.{DIGITS}g}")
    if typed <= below.value:
        return End(typed), End(typed, ">")
    return End(typed, "<"), End(typed)
