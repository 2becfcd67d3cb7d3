"""One wire for power, clock and data: a long low resets, devices answer with a presence pulse, then slots of a bit
each.

Source: the timing that all such devices publish: a reset of at least 480 µs, a presence of 60 to 240 µs that begins
within 60 µs, slots of 60 to 120 µs in which a one is low for at most 15 µs; bytes lowest bit first.
"""

from __future__ import annotations

from collections.abc import Mapping
from typing import Any

import numpy as np

from lesart.core.block import Mark
from lesart.core.quantity import counted
from lesart.core.raw.decode.record import GLITCH, Bits, Decoded, DecoderKind, seconds
from lesart.core.raw.edges import LOW, UNKNOWN, Edges, without_glitches
from lesart.core.raw.messages.frames import ByteFrame

PRESENCE_S = (50e-6, 300e-6)
"""How long the presence pulse after a reset is low."""
WITHIN_S = 120e-6
"""Time after the reset in which the presence pulse begins."""
STRONGEST_S = 1e-3
"""A low this long is not a reset any more but a line without a supply."""


def _decode(lines: Mapping[str, Edges], values: Mapping[str, Any]) -> Decoded:
    edges, removed = without_glitches(lines["line"], values["shortest"])
    starts, ends = _lows(edges)
    length = ends - starts
    resets = np.flatnonzero((length >= values["reset"]) & (length < STRONGEST_S * 10))
    frames: list[ByteFrame] = []
    used: list[int] = []
    threshold = values["threshold"]
    for place, reset in enumerate(resets.tolist()):
        last = int(resets[place + 1]) if place + 1 < len(resets) else len(starts)
        first, is_there = reset + 1, False
        if first < last and starts[first] - ends[reset] <= WITHIN_S and _is_presence(float(length[first])):
            first, is_there = first + 1, True
        frames.append(_frame(starts, ends, first, last, float(starts[reset]), is_there=is_there, threshold=threshold))
        used += range(first, last)
    where = np.array(used, np.int64)
    margins = np.abs(length[where] - threshold) / threshold
    bits = Bits(starts[where], ends[where], (length[where] < threshold).astype(np.uint8), margins)
    return Decoded(frames=tuple(frames), bits=bits, removed=removed, found={"resets": float(len(resets))})


def _lows(edges: Edges) -> tuple[np.ndarray, np.ndarray]:
    """Starts and ends of low times with a known level after them, shape (n,)."""
    places = np.flatnonzero(edges.level[:-1] == LOW) if len(edges) else np.zeros(0, np.int64)
    places = places[edges.level[places + 1] != UNKNOWN]
    return edges.t[places], edges.t[places + 1]


def _is_presence(length_s: float) -> bool:
    return PRESENCE_S[0] <= length_s <= PRESENCE_S[1]


def _frame(
    starts: np.ndarray, ends: np.ndarray, first: int, last: int, begin_s: float, *, is_there: bool, threshold: float
) -> ByteFrame:
    """The frame between two resets; bits that do not make whole bytes break it."""
    end_s = float(ends[last - 1])
    if not is_there:
        return ByteFrame(
            begin_s, end_s, b"", int(Mark.MISSING), "nobody is there: no presence after the reset", "reset"
        )
    ones = (ends[first:last] - starts[first:last] < threshold).astype(np.uint8)
    left = len(ones) % 8
    data = np.packbits(ones[: len(ones) - left].reshape(-1, 8)[:, ::-1], axis=1).tobytes()
    wrong = f"{counted(left, 'bit')} {'is' if left == 1 else 'are'} left over" if left else ""
    return ByteFrame(begin_s, end_s, data, int(Mark.MISSING) if wrong else 0, wrong, "presence")


ONE_WIRE = DecoderKind(
    name="one-wire bus",
    title="one-wire bus",
    says="a reset, a presence, slots of a bit each, lowest bit first",
    lines=("line",),
    needed=1,
    parameters=(
        seconds("reset", "reset", "a low time at least so long", "400 µs", above=True),
        seconds("threshold", "threshold", "a low time that is longer is a zero", "30 µs", above=True),
        GLITCH,
    ),
    decode=_decode,
)
