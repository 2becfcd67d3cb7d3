"""Values in frames of which nobody says where they stand: checks at their end, words that change, which byte of a word
comes first, and whether it has a sign."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from typing import Any

import numpy as np
import numpy.typing as npt

from lesart.core.raw.checksums import Crc, FrameCheck

MOST_WORDS = 7
"""Of a frame: three axes of two kinds, and a temperature."""
LOOKED_AT = 2000
FEWEST = 5
"""Different frames that a check must be right in; a sum of one byte is so by chance once in 256."""
FEWEST_STEPS = 8
RIGHT = 0.9
SMOOTHER = 0.4
"""A word is read the way in which its steps are smaller by this; the usual way where neither is."""
_CRC_OF_WORDS = Crc(8, 0x31, 0xFF)
"""Behind each word of two bytes of sensors that send such. Source: their data sheets."""

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
CHECKS: tuple[Table, ...] = (*_CRC_16, *_CRC_8, {"check": "sum"}, {"check": "LRC"}, {"check": "xor"})
"""As the project file has them, the rarest by chance first."""


def check_of(frames: Sequence[bytes]) -> Table:
    """The check at the end of most of some frames; empty where none is right."""
    from lesart.core.parameters import read_table
    from lesart.core.raw.source import DECODE, check_from

    some = list(dict.fromkeys(frames))[:LOOKED_AT]
    for table in CHECKS if len(some) >= FEWEST else ():
        check = check_from(read_table(DECODE, table, "check")[0])
        if _right(some, check) >= RIGHT and min(map(len, some)) > check.length:
            return dict(table)
    return {}


def _right(frames: Sequence[bytes], check: FrameCheck) -> float:
    return sum(not check.wrong(frame) for frame in frames) / len(frames)


def words_in(frames: Sequence[bytes], *, low_first: bool = False, has_sign: bool = False) -> tuple[Field, ...]:
    """Fields of two bytes that change from frame to frame, at most ``MOST_WORDS``; the first where none does.

    ``low_first``: the low byte of a word usually comes first on this bus. ``has_sign``: words have one. What was found
    by how values behave is said to be assumed.
    """
    size = int(np.median([len(frame) for frame in frames])) if frames else 0
    alike = [frame for frame in frames if len(frame) == size][:LOOKED_AT]
    if size < 2 or not alike:
        return ({"name": "byte 1", "first_bit": 0, "bits": 8},)
    data = np.frombuffer(b"".join(alike), np.uint8).reshape(-1, size).astype(np.int64)
    fields = [
        _word(data, first, low_first=low_first, has_sign=has_sign)
        for first in _firsts(alike, size)
        if bool((data[:, first : first + 2] != data[0, first : first + 2]).any())
    ]
    return tuple(fields[:MOST_WORDS]) or (_word(data, 0, low_first=low_first, has_sign=has_sign),)


def _firsts(frames: Sequence[bytes], size: int) -> range:
    """Where words begin: every two bytes, or every three where each third one checks the two before it."""
    different = list(dict.fromkeys(frames))
    if size % 3 == 0 and len(different) >= FEWEST:
        words = [frame[place : place + 3] for frame in different for place in range(0, size, 3)]
        if sum(_CRC_OF_WORDS.of(word[:2]) == word[2] for word in words) >= RIGHT * len(words):
            return range(0, size, 3)
    return range(0, size - 1, 2)


def _word(data: npt.NDArray[np.int64], first: int, *, low_first: bool, has_sign: bool) -> Field:
    a, b = data[:, first], data[:, first + 1]
    high, low = a << 8 | b, b << 8 | a
    field: dict[str, Any] = {"name": f"bytes {first + 1} and {first + 2}", "first_bit": 8 * first, "bits": 16}
    assumed = []
    # Of two bytes one of which never changes nothing says which is the higher.
    both = len(np.unique(a)) > 1 and len(np.unique(b)) > 1
    is_low = _is_low_first(high, low, usual=low_first) if both else low_first
    if is_low:
        field["order"] = "low first"
        assumed.append("order")
    if has_sign or _has_sign(low if is_low else high):
        field["sign"] = "two's complement"
        assumed.append("sign")
    return field | ({"assumed": ", ".join(assumed)} if assumed else {})


def _is_low_first(high: npt.NDArray[np.int64], low: npt.NDArray[np.int64], *, usual: bool) -> bool:
    """A sensor's value goes on from where it was; with its bytes the wrong way round it jumps."""
    steps = [float(np.mean(np.abs((np.diff(word) + 0x8000) % 0x10000 - 0x8000))) for word in (high, low)]
    if len(high) > FEWEST_STEPS and min(steps) < SMOOTHER * max(steps):
        return steps[1] < steps[0]
    return usual


def _has_sign(word: npt.NDArray[np.int64]) -> bool:
    """Does it go through zero to the top of its range, or stay just below that?"""
    middle = bool(((word >= 0x4000) & (word < 0xC000)).any())
    through = bool((word < 0x4000).any() and (word >= 0xC000).any()) and not middle
    return through or bool((word >= 0xF000).all() and (word < 0xFFFF).any())
