"""Values at unknown positions in frames: checks at their end, changing words, their byte order, and whether they are
signed."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from typing import Any

import numpy as np
import numpy.typing as npt

from lesart.core.parameters import read_table
from lesart.core.raw.messages.checksums import Crc, FrameCheck, check_from
from lesart.core.raw.source import DECODE
from lesart.project.new.wide import ORDERS, Bytes, Wide, is_word, triples_in, wide_in

MOST_WORDS = 7
"""Most words of a frame: three axes of two kinds, and a temperature."""
FRAME_COUNT = "frame count"
LOOKED_AT = 2000
FEWEST = 5
"""Fewest distinct frames in which a check must be valid; a one-byte sum is so by chance once in 256."""
FEWEST_STEPS = 8
WIDE, MANY = 3, 16
"""Three remaining bytes are one value where the last takes at least this many values, as a lowest byte does."""
RIGHT = 0.9
SMOOTHER = 0.4
"""A word is read in the byte order in which its steps are smaller by this factor; else in the usual one."""
_CRC_OF_WORDS = Crc(8, 0x31, 0xFF)
"""The check after each two-byte word of some sensors. Source: their data sheets."""

Field = Mapping[str, Any]
Table = dict[str, Any]
_CRC_8 = (
    {"check": "CRC-8", "poly": "0x31", "init": "0x00", "reflected": True},
    {"check": "CRC-8", "poly": "0x31", "init": "0xFF"},
    {"check": "CRC-8", "poly": "0x07", "init": "0x00"},
)
_CRC_16 = (
    {"check": "CRC-16", "poly": "0x8005", "init": "0xFFFF", "reflected": True, "low_first": True},
    {"check": "CRC-16", "poly": "0x1021", "init": "0xFFFF"},
    {"check": "CRC-16", "poly": "0x1021", "init": "0x0000"},
)
_SUM_16 = ({"check": "sum-16"}, {"check": "sum-16", "low_first": True})
CHECKS: tuple[Table, ...] = (*_CRC_16, *_SUM_16, *_CRC_8, {"check": "sum"}, {"check": "LRC"}, {"check": "xor"})
"""Checks as in the project file, the least likely by chance first."""


def check_of(frames: Sequence[bytes]) -> Table:
    """The check at the end of most frames; empty where none is valid."""
    some = list(dict.fromkeys(frames))[:LOOKED_AT]
    for table in CHECKS if len(some) >= FEWEST else ():
        check = check_said(table)
        if _right(some, check) >= RIGHT and min(map(len, some)) > check.length:
            return dict(table)
    return {}


def check_said(table: Mapping[str, Any]) -> FrameCheck:
    """The check of such a table; None for an empty one."""
    return check_from(read_table(DECODE, table, "check")[0])


def _right(frames: Sequence[bytes], check: FrameCheck) -> float:
    return sum(not check.wrong(frame) for frame in frames) / len(frames)


def words_in(
    frames: Sequence[bytes], *, first: int | None = None, low_first: bool = False, has_sign: bool = False
) -> tuple[Field, ...]:
    """Fields of two bytes that change from frame to frame, at most ``MOST_WORDS``; the first where none does.

    Of three bytes one field, and a last byte that is left is one too.

    ``first``: the byte, from 0, at which words begin; else where frames begin to differ, or the byte before, so that
    whole words are left. ``low_first``: the low byte of a word usually comes first on this
    bus. ``has_sign``: words have one. What was found by how values behave is said to be assumed.
    """
    size = int(np.median([len(frame) for frame in frames])) if frames else 0
    alike = [frame for frame in frames if len(frame) == size][:LOOKED_AT]
    if size - (first or 0) < 2 or not alike:
        return ({"name": f"byte {(first or 0) + 1}", "first_bit": 8 * (first or 0), "bits": 8},)
    data = np.frombuffer(b"".join(alike), np.uint8).reshape(-1, size)
    if first is None and (triples := triples_in(data)) is not None:
        return _of_three(data, *triples)
    order, wide = wide_in(data, _before_change(data) if first is None else first)
    if wide:
        return _beside(data, order, wide)
    return _words(data, first, low_first=low_first, has_sign=has_sign)


def _words(data: Bytes, first: int | None, *, low_first: bool, has_sign: bool) -> tuple[Field, ...]:
    """Fields of two bytes that change, the first one where none does, and a byte before them that counts the frames;
    see ``words_in``."""
    if first is None and (counter := _counter(data)) is not None:
        behind = data[:, counter + 1 :]
        words = _words(behind, None, low_first=low_first, has_sign=has_sign) if _changes(behind).any() else ()
        own = {"name": FRAME_COUNT, "first_bit": 8 * counter, "bits": 8}
        return (*(moved(word, counter + 1) for word in words), own)[:MOST_WORDS]
    first = _first(data) if first is None else first
    spans = _spans([row.tobytes() for row in data], first, data.shape[1])
    changing = [span for span in spans if bool((data[:, span] != data[0, span]).any())] or spans[:1]
    # Words of one frame share one byte order; for an undecided one the others decide.
    votes = [vote for span in changing if (vote := _low_first(data[:, span])) is not None]
    order = sum(votes) * 2 > len(votes) if votes else low_first
    return tuple(
        _field(data[:, span], span.start, low_first=order, has_sign=has_sign) for span in changing[:MOST_WORDS]
    )


def _of_three(data: Bytes, first: int, low_first: bool) -> tuple[Field, ...]:
    spans = [slice(place, place + 3) for place in range(first, data.shape[1], 3)]
    changing = [span for span in spans if _changes(data[:, span]).any()]
    fields = (_field(data[:, span], span.start, low_first=low_first, has_sign=False) for span in changing)
    return tuple(fields)[:MOST_WORDS]


def _beside(data: Bytes, order: str, wide: Sequence[Wide]) -> tuple[Field, ...]:
    """Wide values, and words for what changes before, between and after them, in order."""
    fields: list[Field] = []
    end = 0
    for each in (*wide, None):
        start = each.span.start if each is not None else data.shape[1]
        between = data[:, end:start]
        if _changes(between).any():
            words = _words(between, None, low_first=order == ORDERS[1], has_sign=False)
            fields += [moved(word, end) for word in words]
        if each is not None:
            fields.append(each.field(order))
            end = each.span.stop
    # A frame counter is of least interest.
    return tuple(sorted(fields, key=lambda field: field["name"] == FRAME_COUNT)[:MOST_WORDS])


def moved(word: Field, by: int) -> Field:
    """A field moved by a number of bytes."""
    first = word["first_bit"] // 8 + by
    name = word["name"] if word["name"] == FRAME_COUNT else _name(first, word["bits"] // 8)
    return {**word, "name": name, "first_bit": 8 * first}


def _name(first: int, count: int) -> str:
    last = first + count
    return f"byte {last}" if count == 1 else f"bytes {first + 1} {'and' if count == 2 else 'to'} {last}"


def _changes(data: Bytes) -> npt.NDArray[np.bool_]:
    """For each byte, whether it changes."""
    changes: npt.NDArray[np.bool_] = (data != data[:1]).any(axis=0)
    return changes


def _before_change(data: Bytes) -> int:
    """The first byte to consider: two before the first that changes, since a floating-point number may keep its
    exponent; and any zeros before that, for one whose last bits are 0."""
    changes = np.flatnonzero(_changes(data))
    first = max(int(changes[0]) - 2, 0) if len(changes) else 0
    while first and not data[:, first - 1].any():
        first -= 1
    return first


def _counter(data: Bytes) -> int | None:
    """The first changing byte, where it advances by one from frame to frame and whole words remain without it."""
    changes = np.flatnonzero(_changes(data))
    if not len(changes) or len(data) <= FEWEST_STEPS or (data.shape[1] - changes[0]) % 2 == 0:
        return None
    first = int(changes[0])
    if _first(data) != first:
        return None
    steps = (data[1:, first] - data[:-1, first]).astype(np.uint8)
    return first if np.mean(steps == 1) >= RIGHT else None


def _first(data: Bytes) -> int:
    """The first byte of words: after the constant beginning, by whole words from the end; a zero byte before it is the
    high byte of the first one, and a constant last byte may not belong to a word. 0 where all frames are equal, or are
    one value."""
    size = data.shape[1]
    changes = (data != data[0]).any(axis=0)
    if size == WIDE or not changes.any():
        return 0
    first = int(np.flatnonzero(changes)[0])
    left = size - first
    has_tail = not changes[-1] and first > 0 and data[0, first - 1] != 0
    if has_tail and not is_word(data[:, first], data[:, first + 1]):
        return first - 1
    if left % 2 == 0 or has_tail or (left == WIDE and bool(changes[first:].all())):
        return first
    return max(first - 1, 0)


def _spans(frames: Sequence[bytes], first: int, size: int) -> list[slice]:
    """The bytes of each word: two, or two of every three where each third one is their check."""
    different = list(dict.fromkeys(frame[first:] for frame in frames))
    if (size - first) % 3 == 0 and len(different) >= FEWEST:
        words = [frame[place : place + 3] for frame in different for place in range(0, size - first, 3)]
        if sum(_CRC_OF_WORDS.of(word[:2]) == word[2] for word in words) >= RIGHT * len(words):
            return [slice(place, place + 2) for place in range(first, size, 3)]
    if size - first == WIDE and len({frame[-1] for frame in frames}) > min(MANY, len(frames) // 2):
        return [slice(first, size)]
    pairs = [slice(place, min(place + 2, size)) for place in range(first, size, 2)]
    data = np.frombuffer(b"".join(frames), np.uint8).reshape(-1, size)
    return [part for pair in pairs for part in _parts(data, pair)]


def _parts(data: Bytes, pair: slice) -> list[slice]:
    """Two bytes as one value, or as one each."""
    if pair.stop - pair.start < 2 or is_word(data[:, pair.start], data[:, pair.start + 1]):
        return [pair]
    return [slice(pair.start, pair.start + 1), slice(pair.start + 1, pair.stop)]


def _field(word: Bytes, first: int, *, low_first: bool, has_sign: bool) -> Field:
    count = word.shape[1]
    field: dict[str, Any] = {"name": _name(first, count), "first_bit": 8 * first, "bits": 8 * count}
    assumed = []
    if low_first and count > 1:
        field["order"] = "low first"
        assumed.append("order")
    if count > 1 and (has_sign or _has_sign(_number(word, low_first=low_first), 8 * count)):
        field["sign"] = "two's complement"
        assumed.append("sign")
    return field | ({"assumed": ", ".join(assumed)} if assumed else {})


def _number(word: Bytes, *, low_first: bool) -> npt.NDArray[np.int64]:
    """Numbers from bytes of shape (frames, bytes)."""
    count = word.shape[1]
    shifts = 8 * np.arange(count) if low_first else 8 * np.arange(count)[::-1]
    found: npt.NDArray[np.int64] = (word.astype(np.int64) << shifts).sum(axis=1)
    return found


def _low_first(word: Bytes) -> bool | None:
    """True where the low byte comes first: a sensor's value is continuous, and with its bytes swapped it jumps.

    A constant byte is only known to be the higher one if it is 0. None where undecided.
    """
    first, last = word[:, 0], word[:, -1]
    still = [len(np.unique(each)) == 1 for each in (first, last)]
    if word.shape[1] == 1 or all(still):
        return None
    if any(still):
        return None if (first if still[0] else last)[0] else still[1]
    top = 1 << 8 * word.shape[1]
    steps = [
        float(np.mean(np.abs((np.diff(_number(word, low_first=low)) + top // 2) % top - top // 2)))
        for low in (False, True)
    ]
    if len(word) <= FEWEST_STEPS or min(steps) >= SMOOTHER * max(steps):
        return None
    return steps[1] < steps[0]


def _has_sign(number: npt.NDArray[np.int64], bits: int) -> bool:
    """True where it passes zero to the top of its range, or stays just below that."""
    quarter, top = 1 << bits - 2, 1 << bits
    middle = bool(((number >= quarter) & (number < 3 * quarter)).any())
    through = bool((number < quarter).any() and (number >= 3 * quarter).any()) and not middle
    return through or bool((number >= top - top // 16).all() and (number < top - 1).any())
