"""Values of three, four and eight bytes at unknown positions in frames: readings of fine converters, floating-point
numbers, and counters such as milliseconds."""

from __future__ import annotations

from collections.abc import Mapping
from typing import Any

import numpy as np
import numpy.typing as npt

from lesart.core.dataclass_later import dataclass

Bytes = npt.NDArray[np.uint8]
"""Of shape (frames, bytes)."""

FEWEST, DIFFERENT = 16, 8
"""Fewest frames, and distinct ones; with fewer, bytes may look like anything."""
SMALLEST, LARGEST = 1e-6, 1e8
"""Range of plausible numbers in any unit. One in six random values has such an exponent."""
OUTLIER = 1e4
"""Times the median: values of one quantity go no further, but may be near zero."""
USUAL = 0.95
"""Share of frames that must hold a plausible number: others may be a failed sensor's, or next to zero."""
ROUND = 0.5
"""Length of the mean of all low halves as angles, 1 where they are equal: those of a floating-point number are uniform,
those of a sensor's word are near its reading."""
HALF = 1 << 16
JUMPS = 0.15
"""Mean step of a half as a share of its range: a slower one has to carry where it overflows."""
QUIETER = 0.1
"""Least difference in how uniformly two bytes cover their range, to tell them apart."""
STEADY, MOSTLY = 4.0, 0.9
"""Most of a counter's steps are within this factor of their median: the factor and the share."""
ORDERS = ("high first", "low first")


@dataclass(frozen=True)
class Wide:
    """A value's bytes, and whether they are a floating-point number; else they are a counter's."""

    span: slice
    floating: bool

    def field(self, order: str) -> Mapping[str, Any]:
        """The field as in the project file."""
        first, last = self.span.start, self.span.stop
        field = {"name": f"bytes {first + 1} to {last}", "first_bit": 8 * first, "bits": 8 * (last - first)}
        field |= {"floating": True} if self.floating else {}
        field |= {"order": order} if order != ORDERS[0] else {}
        assumed = [name for name in ("floating", "order") if name in field]
        return field | ({"assumed": ", ".join(assumed)} if assumed else {})


def wide_in(data: Bytes, first: int) -> tuple[str, tuple[Wide, ...]]:
    """The byte order and the wide values in frames from a byte on: the order that finds more of them, or else in which
    values vary less; none in few frames."""
    if len(data) < FEWEST:
        return ORDERS[0], ()
    found = {order: tuple(_along(data, first, order)) for order in ORDERS}

    def weight(order: str) -> tuple[int, float]:
        spreads = [_spread(_numbers(data, each, order)) for each in found[order]]
        return sum(each.span.stop - each.span.start for each in found[order]), -sum(spreads)

    order = max(ORDERS, key=weight)
    return order, found[order]


def _along(data: Bytes, first: int, order: str) -> list[Wide]:
    found: list[Wide] = []
    place, size = first, data.shape[1]
    while place + 4 <= size:
        wide = _at(data, place, order) or _next_to(found, data, place, order)
        if wide is not None:
            found.append(wide)
        place = wide.span.stop if wide is not None else place + 1
    return found


def _next_to(found: list[Wide], data: Bytes, place: int, order: str) -> Wide | None:
    """A number of the same length next to another one, which may change too slowly to be recognised by itself."""
    last = found[-1] if found and found[-1].floating and found[-1].span.stop == place else None
    span = slice(place, 2 * place - last.span.start) if last is not None else slice(place, place)
    fits = last is not None and span.stop <= data.shape[1]
    return Wide(span, True) if fits and could_be_number(_high_first(data[:, span], order), DIFFERENT) else None


def _at(data: Bytes, place: int, order: str) -> Wide | None:
    """The value that begins at a byte.

    Eight bytes are one number unless their second half is one by itself: two adjacent four-byte numbers have the
    exponent of an eight-byte one.
    """
    eight, four = slice(place, place + 8), slice(place, place + 4)
    other = slice(place + 4, place + 8) if order == ORDERS[0] else four
    if (
        eight.stop <= data.shape[1]
        and is_number(_high_first(data[:, eight], order))
        and not is_number(_high_first(data[:, other], order))
    ):
        return Wide(eight, True)
    if is_number(_high_first(data[:, four], order)):
        return Wide(four, True)
    return Wide(four, False) if _is_counter(data[:, four], order) else None


def _high_first(some: Bytes, order: str) -> Bytes:
    return np.ascontiguousarray(some if order == ORDERS[0] else some[:, ::-1])


def _numbers(data: Bytes, wide: Wide, order: str) -> npt.NDArray[np.float64]:
    some = _high_first(data[:, wide.span], order)
    kind = f">{'f' if wide.floating else 'u'}{some.shape[1]}"
    return some.view(kind)[:, 0].astype(np.float64)


def is_number(high: Bytes) -> bool:
    """True where these bytes, highest first, are a floating-point number."""
    return len(high) >= FEWEST and could_be_number(high, DIFFERENT) and _lies_anywhere(high)


def could_be_number(high: Bytes, different: int = 0) -> bool:
    """True where they have the exponent of a plausible number, and enough distinct values. Source: IEEE 754."""
    with np.errstate(invalid="ignore"):
        size = np.abs(high.view(f">f{high.shape[1]}")[:, 0].astype(np.float64))
    there = size[size != 0]
    good = there[(there >= SMALLEST) & (there <= LARGEST)]
    if different and (2 * len(there) < len(size) or len(np.unique(good)) < different):
        return False
    return len(good) >= USUAL * len(there) and (not len(good) or bool(good.max() <= OUTLIER * np.median(good)))


def _lies_anywhere(high: Bytes) -> bool:
    """Do the two last bytes go all round their range, and the last one too, unless it is 0 as of a whole number?

    Where they go slowly the byte before them goes on by one each time they are full: else they are a value of their
    own that begins again.
    """
    while high.shape[1] > 4 and not high[:, -2:].any():
        # A four-byte number written in eight bytes.
        high = high[:, :-2]
    last = high[:, -1].astype(np.int64)
    low = (high[:, -2].astype(np.int64) << 8) + last
    if _length(low, HALF) > ROUND or (last.any() and _length(last, 256) > ROUND):
        return False
    steps = np.diff(low)
    around = np.abs((steps + HALF // 2) % HALF - HALF // 2)
    if float(np.mean(around)) >= JUMPS * HALF:
        return True
    full = np.abs(steps) > HALF // 2
    carried = np.diff(high[:, -3].astype(np.int64)) != 0
    return bool(np.mean(carried[full]) >= MOSTLY) if full.any() else False


def _length(numbers: npt.NDArray[np.int64], around: int) -> float:
    """Length of the mean of all values as directions. Source: Rayleigh's test of uniformity."""
    return float(np.abs(np.exp(2j * np.pi * numbers / around).mean()))


def _is_counter(some: Bytes, order: str) -> bool:
    """True where it rises steadily, and further than two bytes count.

    The two lower bytes then cover their range, and overflow at most every second frame: otherwise the upper two are a
    value of their own.
    """
    high = _high_first(some, order)
    numbers = high.view(">u4")[:, 0].astype(np.int64)
    steps = np.diff(numbers)
    middle = float(np.median(steps))
    if not 0 < middle < HALF / 2 or len(np.unique(numbers // HALF)) < 2:
        return False
    if _length(numbers % HALF, HALF) > ROUND or _length(numbers % 256, 256) > ROUND:
        return False
    return bool(np.mean((steps > 0) & (steps < STEADY * middle) & (steps * STEADY > middle)) >= MOSTLY)


def triples_in(data: Bytes) -> tuple[int, bool] | None:
    """Where values of three bytes begin that fill frames to their end, and whether the lowest byte comes first; None
    where bytes go by two, or nothing says how.

    A value's higher byte is never more restless than its lower one: taken by a wrong number of bytes, one of each pair
    or three that follow each other is.
    """
    changes = np.flatnonzero((data != data[:1]).any(axis=0))
    if len(data) < FEWEST or not len(changes):
        return None
    restless = np.array([1.0 - _length(byte, 256) for byte in data.T.astype(np.int64)])
    start = int(changes[0]) - (int(changes[0]) - data.shape[1]) % 3
    if start < 0 or data.shape[1] - start < 6:
        return None
    by_two = restless[int(changes[0]) - (int(changes[0]) - data.shape[1]) % 2 :] if data.shape[1] % 2 == 0 else None
    for low_first in (False, True):
        if _rises(restless[start:], 3, low_first) and (by_two is None or not _rises(by_two, 2, low_first)):
            return start, low_first
    return None


def is_word(first: npt.NDArray[np.uint8], second: npt.NDArray[np.uint8]) -> bool:
    """True where two bytes, of shape (frames,), may be one value in either order: where the higher one changes, the
    lower one covers its range, or overflows each time. With few frames, or a constant byte, nothing is known."""
    if len(first) < FEWEST or (first == first[0]).all() or (second == second[0]).all():
        return True
    return any(_carries(high, low) for high, low in ((first, second), (second, first)))


def _carries(high: npt.NDArray[np.uint8], low: npt.NDArray[np.uint8]) -> bool:
    if _length(low.astype(np.int64), 256) <= ROUND:
        return True
    goes_on = np.diff(high.astype(np.int64)) != 0
    return bool(np.mean((np.abs(np.diff(low.astype(np.int64))) > 128) == goes_on) >= MOSTLY)


def _rises(restless: npt.NDArray[np.float64], count: int, low_first: bool) -> bool:
    """True where each value of this many bytes has its steadiest byte in the highest position, at least once
    clearly."""
    words = restless[: len(restless) // count * count].reshape(-1, count)
    steps = np.diff(words[:, ::-1] if low_first else words, axis=1)
    return bool((steps > -QUIETER).all() and (steps.sum(axis=1) > QUIETER).all())


def _spread(numbers: npt.NDArray[np.float64]) -> float:
    """Spread of the middle 90 % as a share of their usual magnitude, at most 1."""
    low, high = np.quantile(numbers, (0.05, 0.95))
    usual = float(np.median(np.abs(numbers)))
    return min(float(high - low) / usual, 1.0) if usual else 1.0
