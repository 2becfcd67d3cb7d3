"""Words instead of numbers: one for each range of a reading, in ascending order."""

from __future__ import annotations

import math

from lesart.core.errors import QuantityError, UnitError
from lesart.core.quantity import parse_quantity
from lesart.core.units import Unit

Words = tuple[tuple[float, str], ...]
"""Each word with its upper limit in the field's unit; infinity for the last."""

HOW = 'write them like "low < 5; ok < 43; full"'


def read_words(written: str, unit: Unit) -> Words:
    """Words from ``low < 5; ok < 43; full``. Raises ValueError with a clause."""
    parts = [part.strip() for part in written.split(";") if part.strip()]
    found: list[tuple[float, str]] = []
    for place, part in enumerate(parts):
        word, less, limit = (piece.strip() for piece in part.partition("<"))
        is_last = place == len(parts) - 1
        if not word or bool(less) is is_last:
            what = "the last word has no limit" if is_last else f'"{part}" has no limit'
            raise ValueError(f"{what}; {HOW}")
        found.append((math.inf if is_last else _limit(limit, unit), word))
        if len(found) > 1 and not found[-2][0] < found[-1][0]:
            raise ValueError(f'the limit of "{word}" must be above that of "{found[-2][1]}"; {HOW}')
    return tuple(found)


def _limit(written: str, unit: Unit) -> float:
    try:
        return parse_quantity(written, unit).to(unit)
    except (QuantityError, UnitError) as error:
        raise ValueError(f"{str(error).rstrip('.')}; {HOW}") from error


def word_at(words: Words, shown_value: float) -> str:
    """The word for a value, in the field's unit."""
    return next(word for limit, word in words if shown_value < limit or limit == math.inf)
