"""Two neighbouring floats between which a text changes, in words for a person.

Their seventeen digits tell a person nothing, and rounded they are equal. So the rounded number stands for the side that
it falls on when typed, and the other side is said as just below or above it.
"""

from __future__ import annotations

from typing import Literal

from lesart.core.dataclass_later import dataclass
from lesart.core.fit.field import Field
from lesart.core.quantity import format_quantity

DIGITS = 9
"""Most digits to show a border with; a field shows fewer."""
Sign = Literal["", "<", ">"]


@dataclass(frozen=True)
class End:
    """One side as it is shown, in the field's unit: ``value`` itself, or just below (<) or above (>) it."""

    value: float
    sign: Sign = ""


def said(field: Field, value: float) -> End:
    """A single value without a neighbour. ``value`` is in the channel's unit, as everywhere here."""
    return End(float(field.shown_value(value)))


def end_said(field: Field, end: End) -> str:
    """A side as text: ``9.95 kg``, ``< 9.95 kg``."""
    return f"{end.sign} {format_quantity(end.value, field.unit_shown, DIGITS)}".lstrip()


def border(field: Field, low: float, high: float) -> tuple[End, End]:
    """Both sides of a change, ``low`` below ``high`` and next to it."""
    below, above = said(field, low), said(field, high)
    typed = float(f"{above.value:.{DIGITS}g}")
    if typed <= below.value:
        return End(typed), End(typed, ">")
    return End(typed, "<"), End(typed)
