"""A field swept over every value its channel can take: the uniform pieces of the range, found exactly.

The shape of a text changes only near certain values: powers of ten, limits of words, whole minutes and hours, and zero.
Between two of them it changes near each, from one shape to the next and never back, so each half is bisected down to
neighbouring floats until its end is reached. Sampling would miss an overflow that is one last digit wide.
"""

from __future__ import annotations

import itertools
import math
from collections.abc import Callable, Iterable
from functools import lru_cache

from lesart.core.dataclass_later import dataclass
from lesart.core.fit.clock import STEPS_S
from lesart.core.fit.field import BY_RANGE, SECOND, Field, Reading
from lesart.core.fit.fill import Shown, fill
from lesart.core.fit.rounding import LARGEST
from lesart.core.fit.written_number import PREFIXES
from lesart.core.units import convert

Shape = tuple[str, int, bool, str]
_TIMES_S = (10, 60, 600, 3600, 36_000, 86_400, 864_000, 8_640_000, 86_400_000)


@dataclass(frozen=True)
class Piece:
    """From ``first`` to ``last``, floats in the channel's unit, both included, texts have one ``shape``."""

    first: float
    last: float
    shape: Shape
    at_first: Shown
    at_last: Shown


@lru_cache(maxsize=64)
def sweep(field: Field, lowest: float, highest: float, *, joined: str) -> tuple[Piece, ...]:
    """All pieces from ``lowest`` to ``highest``, in the channel's unit, in order.

    Kept for the last fields: every picture of Fit and all notes ask for the same.
    """
    return _pieces(
        lambda value: fill(field, Reading(value), joined=joined), lowest, highest, places(field, lowest, highest)
    )


def shape_of(shown: Shown) -> Shape:
    """The shape of a text: the state, the cells used, a minus, and the text around the digits."""
    text = shown.text.strip()
    around = "".join("#" if letter.isdecimal() else letter for letter in text).lstrip("-+#., '").lstrip()
    return shown.state, shown.used, "-" in text[:4] and shown.state == "value", around if shown.state == "value" else ""


def places(field: Field, lowest: float, highest: float) -> tuple[float, ...]:
    """Values near which texts may change, in the channel's unit, within the range, in order, its ends included."""
    own = (float(convert(value, field.unit_shown, field.unit_in)) for value in _places_shown(field))
    return tuple(sorted({lowest, highest, *(value for value in own if lowest < value < highest)}))


def _places_shown(field: Field) -> Iterable[float]:
    """The same values in the field's unit."""
    yield 0.0
    if field.shows == "word":
        yield from (limit for limit, _ in field.words if math.isfinite(limit))
    if field.shows in ("elapsed", "clock"):
        step = STEPS_S[field.time]
        for seconds in (step, *_TIMES_S, *(day * 86_400 for day in range(1, 8))):
            value = float(convert(float(seconds), SECOND, field.unit_shown))
            yield from (value, -value)
    if field.shows == "number":
        least = min(PREFIXES) if field.prefix == BY_RANGE else 0
        most = max(PREFIXES) if field.prefix == BY_RANGE else 0
        for power in range(least - field.decimals - 1, most + field.width + 2):
            yield from (10.0**power, -(10.0**power))


def _pieces(show: Callable[[float], Shown], lowest: float, highest: float, at: tuple[float, ...]) -> tuple[Piece, ...]:
    marks = [at[0]]
    for left, right in itertools.pairwise(at):
        marks += [left + (right - left) / 2, right]
    starts = [(lowest, show(lowest))]
    before = starts[0]
    for value in marks[1:]:
        shown = show(value)
        while shape_of(shown) != shape_of(before[1]):
            before = _first_unlike(show, before[0], value, shape_of(before[1]))
            starts.append(before)
        before = (value, shown)
    ends = [math.nextafter(value, -math.inf) for value, _ in starts[1:]] + [highest]
    return tuple(
        Piece(first, last, shape_of(shown), shown, show(last))
        for (first, shown), last in zip(starts, ends, strict=True)
    )


def _first_unlike(show: Callable[[float], Shown], low: float, high: float, shape: Shape) -> tuple[float, Shown]:
    """The first float above ``low`` whose text has another shape; ``high`` must have one."""
    while math.nextafter(low, high) != high:
        middle = low + (high - low) / 2
        if middle in (low, high):
            break
        low, high = (middle, high) if shape_of(show(middle)) == shape else (low, middle)
    return high, show(high)


def first_overflow(field: Field, *, joined: str) -> float | None:
    """The least value of zero or more that does not fit, in the channel's unit; None when even zero does not fit, or
    all values do."""
    top = float(convert(0.99 * LARGEST, field.unit_shown, field.unit_in))
    zero = float(convert(0.0, field.unit_shown, field.unit_in))
    pieces = sweep(field, zero, top, joined=joined)
    if pieces[0].shape[0] == "overflow":
        return None
    return next((piece.first for piece in pieces if piece.shape[0] == "overflow"), None)
