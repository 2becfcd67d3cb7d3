"""Frames in bytes from a serial port, found without knowing where one ends: by constant bytes at the same position, and
by a valid check at their end."""

from __future__ import annotations

from collections import Counter
from collections.abc import Sequence
from typing import Any

import numpy as np

from lesart.project.new.words import check_of, check_said, moved, words_in

SHORTEST, LONGEST = 4, 64
FEWEST = 8
LOOKED_AT = 60
ALIKE = 0.9
"""Share of frames that must have the same byte at a position: some may have been damaged on the wire."""
NO_HIGH_BYTE = 0x40
"""A constant second byte below this may be the high byte of a small value."""
UNCHECKED = (0, 1, 2)
"""Numbers of bytes at the beginning that checks may exclude."""

Table = dict[str, Any]


def frames_heard(pieces: Sequence[bytes]) -> Table | None:
    """The keys of a line and its ``fields``; None where no frames are found.

    ``pieces`` are the bytes between pauses.
    """
    data = b"".join(pieces)
    for length in range(SHORTEST, LONGEST + 1):
        if len(data) < FEWEST * length:
            break
        for start in _starts(data, length):
            found = _with_check([data[at : at + length] for at in range(start, len(data) - length + 1, length)])
            if found is not None:
                return found
    return _between_rests(pieces)


def _starts(data: bytes, length: int) -> list[int]:
    """Possible starts of frames of that length: a byte that is the same in most of them, after one that is not."""
    rows = np.frombuffer(data, np.uint8)[: len(data) // length * length].reshape(-1, length)
    alike = [Counter(column.tolist()).most_common(1)[0][1] >= ALIKE * len(rows) for column in rows.T]
    return [place for place in range(length) if alike[place] and not alike[place - 1]]


def _with_check(frames: Sequence[bytes]) -> Table | None:
    some = frames[:LOOKED_AT]
    for unchecked in UNCHECKED:
        check = check_of([frame[unchecked:] for frame in some])
        if check:
            told = {"length": len(frames[0]), "unchecked": unchecked} if unchecked else {"length": len(frames[0])}
            right = check_said(check)
            good = [frame for frame in frames if not right.wrong(frame[unchecked:])]
            return _told(good, {**told, **check}, right.length)
    return None


def _between_rests(pieces: Sequence[bytes]) -> Table | None:
    """Frames without a check, where most pieces between pauses have the same length."""
    lengths = Counter(map(len, pieces))
    if not lengths:
        return None
    length, count = lengths.most_common(1)[0]
    frames = [piece for piece in pieces if len(piece) == length]
    if count < max(FEWEST, ALIKE * len(pieces)) or length < 2 or len(set(frames)) < FEWEST:
        return None
    return _with_check(frames) or _told(frames, {"length": length}, 0)


def _told(frames: Sequence[bytes], told: Table, check_length: int) -> Table:
    """The keys with the bytes that all frames begin with, and fields for what changes between those and the check."""
    begins = _begins(frames)
    fields = [
        {**moved(field, len(begins)), "assumed": ", ".join(filter(None, ("first_bit, bits", field.get("assumed", ""))))}
        for field in words_in([frame[len(begins) : len(frame) - check_length] for frame in frames])
    ]
    of_beginning = {"begins": begins.hex(" ").upper(), "assumed": "begins"} if begins else {}
    return {**of_beginning, **told, "fields": fields}


def _begins(frames: Sequence[bytes]) -> bytes:
    """A byte or two that all of them begin with, and that are not a value."""
    first = frames[0]
    alike = [all(frame[place] == first[place] for frame in frames) for place in (0, 1)]
    if not alike[0] or not first[0]:
        return b""
    return first[:2] if alike[1] and first[1] >= NO_HIGH_BYTE else first[:1]
