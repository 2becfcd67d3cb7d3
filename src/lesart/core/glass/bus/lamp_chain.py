"""What the lamps of a chain make of the bytes on their line: every transmission begins at the first of them."""

from __future__ import annotations

import numpy as np

from lesart.core.glass.bus.interpreted import Interpreted
from lesart.core.glass.panels.pixel_colours import values_of
from lesart.core.raw.bus_bytes import Words


def obeyed_by_lamps(words: Words, count: int, size: int) -> Interpreted:
    """Interpret every byte, ``size`` of them for each of ``count`` lamps.

    Bytes beyond the last lamp run out of the chain, and too few for a lamp leave it as it was.
    """
    first = np.concatenate(([True], np.diff(words.part) != 0)) if len(words) else np.zeros(0, bool)
    starts = np.flatnonzero(first)
    place = np.arange(len(words)) - np.repeat(starts, np.diff(np.append(starts, len(words))))
    ends = np.flatnonzero((place % size == size - 1) & (place < count * size))
    data = words.value[ends[:, None] + np.arange(1 - size, 1)] if len(ends) else np.zeros((0, size), np.uint8)
    return Interpreted(
        columns=count,
        pages=1,
        t=words.t[ends],
        cell=(place[ends] // size).astype(np.int64),
        value=values_of(data),
        part=words.part[ends].astype(np.int64),
        turns=(),
        fill=0,
        unknown=(),
        beside=int((place >= count * size).sum()),
    )
