"""A text that is a unit must be that of the number beside it: 1011 Pa with "hPa" after it is a lie."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from dataclasses import replace

from lesart.core.errors import UnitError
from lesart.core.fit.field import Field
from lesart.core.notes import DOUBT, FAULT, Key, Mend, Note
from lesart.core.step import Step
from lesart.core.units import Unit, parse_unit

USUAL = {"C": "°C", "F": "°F", "°": "", "ºC": "°C", "ºF": "°F", "T": "", "H": "", "rpm": "1/min", "RPM": "1/min"}
"""What people write for a unit on a panel without the right character; an empty entry may mean anything."""


def unit_of(text: str) -> Unit | None:
    """The unit that a text on a panel means; None where it means none, or may mean several things."""
    said = USUAL.get(text.strip(), text.strip())
    if not said or said == "1":
        return None
    try:
        return parse_unit(said)
    except UnitError:
        return None


def is_same(said: Unit, shown: Unit) -> bool:
    """True where a number in ``shown`` reads correctly with ``said`` after it.

    A difference is written like its quantity.
    """
    same_zero = said.offset_k == shown.offset_k or shown.difference
    return said.dimension == shown.dimension and said.scale == shown.scale and same_zero


def inspect_unit_text(
    where: str, channel: str, field: Field, text_key: Key, fits: Callable[[Field], bool]
) -> list[Note]:
    """A note on a text that is another unit than the field's. Of another quantity, a single letter may be a name.

    ``text_key`` is where the text stands, and its unit may stand beside it; ``fits`` tells of a field whether all of
    the channel's range fits it.
    """
    text, said = field.unit_text.strip(), unit_of(field.unit_text)
    if said is None or text == field.unit_shown.symbol or is_same(said, field.unit_shown) or not field.is_number:
        return []
    shown = field.unit_shown
    same_quantity = said.same_dimension(shown)
    in_said = same_quantity and (fits(replace(field, unit_shown=said)) or not fits(field))
    right = Mend((*text_key[:-1], "unit"), said.symbol) if in_said else Mend(text_key, _written(shown))
    instead = f'write "{_written(shown)}" there' if _written(shown) else "remove the text"
    remedy = f"show it in {said}" if in_said else instead
    return [
        Note(
            FAULT if same_quantity or len(text) > 1 else DOUBT,
            Step.FIT,
            channel,
            f'{where}: the number is in {_named(shown)}, and the text after it says "{text}".',
            remedy=remedy,
            mend=(right,),
            place=text_key,
        )
    ]


def wrong_unit_of_label(label: str, fields: Sequence[tuple[str, Field]]) -> tuple[str, Field] | None:
    """The field that a label of a unit is wrong for: it is of the same quantity, and none on the face is in that unit.

    ``fields`` are those of the face, each with its channel.
    """
    said = unit_of(label)
    if said is None or any(is_same(said, field.unit_shown) for _, field in fields):
        return None
    numbers = [(name, field) for name, field in fields if field.is_number and not field.unit_text.strip()]
    return next((each for each in numbers if said.same_dimension(each[1].unit_shown)), None)


def _written(unit: Unit) -> str:
    return "" if unit.symbol == "1" else unit.symbol[:8]


def _named(unit: Unit) -> str:
    return "no unit" if unit.symbol == "1" else unit.symbol
