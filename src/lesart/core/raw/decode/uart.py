"""Serial bytes on one line: start bit, data bits, parity, stop bits; the baud rate is found from the edges if
needed."""

from __future__ import annotations

from bisect import bisect_right
from collections.abc import Mapping, Sequence
from typing import Any

import numpy as np

from lesart.core.block import Mark
from lesart.core.parameters import Parameter
from lesart.core.ranked import quantiles
from lesart.core.raw.decode.record import GLITCH, Bits, Decoded, DecoderKind
from lesart.core.raw.edges import HIGH, LOW, Edges, without_glitches
from lesart.core.raw.messages.frames import ByteFrame

USUAL_BAUD = (300, 600, 1200, 2400, 4800, 9600, 14400, 19200, 28800, 38400, 57600, 115200, 230400, 460800, 921600)
BREAK = "a break, low for longer than a word"
NEAR = 0.03
"""A measured rate this near to a usual one is taken for it; bytes are read correctly up to about twice as far off."""


def found_baud(edges: Edges) -> float:
    """The rate whose bit is the shortest usual pulse; 0 where there are too few edges.

    Where neighbouring bits differ, the shortest pulses are single bits. The lowest twentieth of all pulses is ignored,
    because noise is shorter still.
    """
    lasts = edges.lasts[:-1]
    if len(lasts) < 8:
        return 0.0
    shortest = quantiles(lasts, (0.05,))[0]
    single = lasts[(lasts > 0.6 * shortest) & (lasts < 1.4 * shortest)]
    # On a slow line low pulses are a little longer or shorter than high ones: the mean of both is the bit.
    rate = 1 / float(single.mean()) if len(single) and single.mean() > 0 else 0.0
    near = min(USUAL_BAUD, key=lambda usual: abs(usual - rate))
    return float(near) if abs(near - rate) <= NEAR * near else rate


def _decode(lines: Mapping[str, Edges], values: Mapping[str, Any]) -> Decoded:
    edges, removed = without_glitches(lines["line"], values["shortest"])
    if values["idle"] == "low":
        edges = edges.inverted()
    baud = values["baud"] or found_baud(edges)
    if not baud:
        return Decoded(frames=(), removed=removed, found={"baud": 0.0})
    words, bits = _words(edges, baud, values)
    frames = _grouped(words, values["gap"] * _word_bits(values) / baud)
    return Decoded(frames=frames, bits=bits, removed=removed, found={"baud": float(baud)})


def _word_bits(values: Mapping[str, Any]) -> int:
    """Bits of a word: start, data, parity and stop."""
    return 1 + int(values["data"]) + int(values["parity"] != "none") + int(values["stop"])


Word = tuple[float, float, int, str]
"""Start, end, value, and what is wrong with it."""


def _words(edges: Edges, baud: float, values: Mapping[str, Any]) -> tuple[list[Word], Bits]:
    """Each word from the falling edge of its start bit, every bit sampled in its middle."""
    times, levels = edges.t.tolist(), edges.level.tolist()
    data, parity, stop = values["data"], values["parity"], values["stop"]
    count = _word_bits(values)
    words: list[Word] = []
    starts, ones = [], []
    place, free_from = 0, float("-inf")
    while place < len(times):
        start = times[place]
        # The next start may come half a bit early: the sender's clock is a little faster than ours.
        if levels[place] != LOW or start < free_from:
            place += 1
            continue
        read = [_level(times, levels, edges.first, start + (bit + 0.5) / baud) for bit in range(count)]
        if read[0] != LOW:
            place += 1
            continue
        bits = [int(level == HIGH) for level in read[1 : 1 + data]]
        value = sum(bit << number for number, bit in enumerate(bits))
        words.append((start, start + count / baud, value, _wrong(bits, read[1 + data :], parity, stop)))
        starts += [start + (1 + number) / baud for number in range(data)]
        ones += bits
        free_from = start + (count - 0.5) / baud
        place = bisect_right(times, free_from - 1e-15, lo=place + 1)
    t = np.array(starts, np.float64)
    return words, Bits(t, t + 1 / baud, np.array(ones, np.uint8), np.full(len(t), np.nan))


def _level(times: Sequence[float], levels: Sequence[int], first: int, moment: float) -> int:
    place = bisect_right(times, moment) - 1
    return levels[place] if place >= 0 else first


def _wrong(bits: list[int], rest: list[int], parity: str, stop: int) -> str:
    """What is wrong with parity and stop bits."""
    if parity != "none":
        even = sum(bits) % 2
        if int(rest[0] == HIGH) != (even if parity == "even" else 1 - even):
            return "parity"
        rest = rest[1:]
    if all(level == HIGH for level in rest[:stop]):
        return ""
    return BREAK if not any(bits) and all(level == LOW for level in rest[:stop]) else "framing error, no stop bit"


def _grouped(words: list[Word], gap_s: float) -> tuple[ByteFrame, ...]:
    """Frames of words with at most ``gap_s`` between them; a wrong word breaks its frame."""
    frames: list[ByteFrame] = []
    group: list[Word] = []
    for word in [*words, None]:
        if group and (word is None or word[0] - group[-1][1] > gap_s):
            wrong = next((f"byte {number}: {each[3]}" for number, each in enumerate(group, 1) if each[3]), "")
            data = bytes(each[2] & 0xFF for each in group)
            mark = Mark.MISSING if BREAK in wrong else Mark.CHECKSUM if wrong else Mark(0)
            frames.append(ByteFrame(group[0][0], group[-1][1], data, int(mark), wrong))
            group = []
        if word is not None:
            group.append(word)
    return tuple(frames)


UART = DecoderKind(
    name="serial bytes",
    title="serial bytes (UART)",
    says="start bit, data bits, parity, stop bits on one line",
    lines=("line",),
    needed=1,
    parameters=(
        Parameter("baud", "baud", "integer", "bits a second; 0: found from the edges", 0, lowest=0, highest=20_000_000),
        Parameter("data", "data bits", "integer", "of a word, lowest first", 8, lowest=5, highest=8),
        Parameter("parity", "parity", "choice", "after the data bits", "none", choices=("none", "even", "odd")),
        Parameter("stop", "stop bits", "integer", "at least", 1, lowest=1, highest=2),
        Parameter("idle", "idle", "choice", "level between words", "high", choices=("high", "low")),
        Parameter(
            "gap", "gap", "quantity", "words of silence that separate two frames", "3.5", lowest=0.0, highest=1e6
        ),
        GLITCH,
    ),
    decode=_decode,
)
