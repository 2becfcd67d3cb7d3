"""Every byte that went over a bus, with its time: what a display on it was sent."""

from __future__ import annotations

from collections.abc import Iterator, Mapping, Sequence
from itertools import pairwise
from typing import Any

import numpy as np
import numpy.typing as npt

from lesart.core.block import Bools, Floats, Marks
from lesart.core.dataclass_later import dataclass
from lesart.core.raw.decode.four_wire import sampled
from lesart.core.raw.edges import HIGH, LOW, Edges, without_glitches

WORD = 9
"""Bits of a byte on two wires, with its acknowledge."""
BYTE, HALF = 8, 4
"""Bits of a byte, and data lines over which it comes in halves."""


@dataclass(frozen=True, eq=False)
class Words:
    """``t`` float64 seconds, the end of each byte; ``value`` uint8; ``is_data`` bool; ``part`` int64: the number of its
    transmission; all shape (n,). ``start_s`` and ``end_s``, shape (parts,), are those of each transmission.

    ``refused`` counts transmissions without an acknowledge of the address or of a byte; ``broken`` those with bits left
    over.
    """

    t: Floats
    value: Marks
    is_data: Bools
    part: np.ndarray
    start_s: Floats
    end_s: Floats
    refused: int = 0
    broken: int = 0

    def __len__(self) -> int:
        return len(self.t)


def two_wire_words(
    clock: Edges, data: Edges, address: int | None = None, shortest_s: float = 0.0, *, bare: bool = False
) -> Words:
    """Bytes written to an address, without the address itself; of any address where it is None.

    All count as data: on two wires a byte before them says what they are, which is the controller's matter. ``bare``:
    to a driver that has no address and takes the lowest bit first.

    The same as the decoder's, which goes edge by edge and says more of each transfer; this one takes whole arrays, as a
    trace of a display has millions of edges.
    """
    clock, _ = without_glitches(clock, shortest_s)
    data, _ = without_glitches(data, shortest_s)
    starts, ends, stopped = spans_of_bits(clock, data)
    rises = clock.t[(clock.level == HIGH) & (np.concatenate(([clock.first], clock.level[:-1])) == LOW)]
    ones = (data.level_at(rises) == HIGH).astype(np.uint8)
    first = np.searchsorted(rises, starts, side="right")
    # The last rising edge before a stop, or a repeated start, belongs to that and brings no bit.
    behind = np.searchsorted(rises, ends, side="left") - stopped
    found: list[tuple[Floats, Marks]] = []
    spans: list[tuple[float, float]] = []
    refused = broken = 0
    for start, end, one, last in zip(starts.tolist(), ends.tolist(), first.tolist(), behind.tolist(), strict=True):
        count = (last - one) // WORD
        if count <= 0:
            continue
        words = ones[one : one + WORD * count].reshape(count, WORD)
        values = np.packbits(words[:, 7::-1] if bare else words[:, :8], axis=1)[:, 0]
        if not bare and (values[0] & 1 or (address is not None and values[0] >> 1 != address)):
            continue
        refused += bool(words[:, 8].any())
        broken += bool((last - one) % WORD)
        if words[0, 8]:
            continue
        first_byte = 0 if bare else 1
        found.append((rises[one + WORD * (first_byte + 1) - 1 : one + WORD * count : WORD], values[first_byte:]))
        spans.append((start, end))
    return _words_of(found, spans, refused, broken)


def _words_of(
    found: Sequence[tuple[Floats, Marks]], spans: Sequence[tuple[float, float]], refused: int, broken: int
) -> Words:
    """Transmissions of data, each with the times of its bytes, and its span."""
    sizes = [len(values) for _, values in found]
    t = np.concatenate([times for times, _ in found]) if found else np.zeros(0)
    value = np.concatenate([values for _, values in found]) if found else np.zeros(0, np.uint8)
    begins, stops = np.array(spans, np.float64).reshape(-1, 2).T
    return Words(
        t=t,
        value=value,
        is_data=np.ones(len(t), bool),
        part=np.repeat(np.arange(len(sizes)), sizes),
        start_s=begins,
        end_s=stops,
        refused=refused,
        broken=broken,
    )


def spans_of_bits(clock: Edges, data: Edges) -> tuple[Floats, Floats, npt.NDArray[np.int64]]:
    """Starts of transfers, their ends, and whether a stop or another start made each: 1, or 0 at the trace's end.

    Data that change while the clock is high make them; where both change at one moment the clock is not high.
    """
    before = np.concatenate(([data.first], data.level[:-1])) if len(data) else data.level
    places = [np.searchsorted(clock.t, data.t, side=side) for side in ("left", "right")]
    levels = np.concatenate(([clock.first], clock.level))
    is_high = (levels[places[0]] == HIGH) & (levels[places[1]] == HIGH)
    falls = is_high & (before == HIGH) & (data.level == LOW)
    stops = is_high & (before == LOW) & (data.level == HIGH)
    moments = data.t[falls | stops]
    is_start = falls[falls | stops]
    last = max(float(clock.t[-1]) if len(clock) else 0.0, float(data.t[-1]) if len(data) else 0.0)
    following = np.append(moments[1:], np.nextafter(last, np.inf))[is_start] if len(moments) else moments
    stopped = np.ones(int(is_start.sum()), np.int64)
    if len(is_start) and is_start[-1]:
        stopped[-1] = 0
    return moments[is_start], following, stopped


def four_wire_words(lines: Mapping[str, Edges], values: Mapping[str, Any]) -> Words:
    """Bytes while the select line is active, with the level of the command line at the last bit of each.

    ``lines``: clock and data, and select and command where there are any. ``values`` are the decoder's parameters. A
    transmission ends with the select line, or with a pause of the clock where there is none.
    """
    cleaned = {name: without_glitches(edges, values["shortest"])[0] for name, edges in lines.items()}
    t = sampled(cleaned["clock"], values["mode"])
    ones = (cleaned["data"].level_at(t) == HIGH).astype(np.uint8)
    select = cleaned.get("select")
    if select is not None:
        meant = select.level_at(t) == (LOW if values["selected"] == "low" else HIGH)
        t, ones = t[meant], ones[meant]
        borders = np.flatnonzero(np.diff(np.searchsorted(select.t, t, side="right"))) + 1
    else:
        borders = np.flatnonzero(np.diff(t) > values["rest"]) + 1
    edges = np.concatenate(([0], borders, [len(t)])) if len(t) else np.zeros(1, np.int64)
    sizes = np.diff(edges) // 8
    # What is left of a transmission after its last whole byte was never a byte.
    kept = np.concatenate(
        [np.arange(first, first + 8 * size) for first, size in zip(edges, sizes, strict=False)]
        or [np.zeros(0, np.int64)]
    ).astype(np.int64)
    rows = ones[kept].reshape(-1, 8)
    value = np.packbits(rows[:, ::-1] if values["first"] == "lowest" else rows, axis=1)[:, 0]
    ends = t[kept].reshape(-1, 8)[:, -1]
    command = cleaned.get("command")
    is_data = np.ones(len(ends), bool) if command is None else command.level_at(ends) == HIGH
    starts_s = t[edges[:-1]] if len(t) else np.zeros(0)
    ends_s = t[edges[1:] - 1] if len(t) else np.zeros(0)
    broken = int(np.count_nonzero(np.diff(edges) % 8))
    return Words(
        t=ends,
        value=value,
        is_data=is_data,
        part=np.repeat(np.arange(len(sizes)), sizes),
        start_s=starts_s,
        end_s=ends_s,
        refused=0,
        broken=broken,
    )


Half = tuple[float, int, bool, int]
"""Time, four bits, whether they are data, and their transmission."""
SET_UP = [3, 3, 3, 2]
"""Halves by which a program switches a panel after power-up to four lines, and fixes which half comes first."""


def joined(halves: Sequence[Half]) -> Iterator[Half]:
    """Whole bytes from halves, the higher half first.

    A trace that begins with the set-up begins with commands of one half each; any other is taken to begin with a higher
    half.
    """
    is_set_up = [nibble for _, nibble, is_data, _ in halves[:4] if not is_data] == SET_UP
    whole = halves[4:] if is_set_up else halves
    for (_, high, _, _), (t, low, is_data, part) in zip(whole[::2], whole[1::2], strict=False):
        yield t, high << 4 | low, is_data, part


def parallel_words(
    enable: Edges, data: Sequence[Edges], command: Edges | None, rest_s: float, shortest_s: float = 0.0
) -> Words:
    """What stood on the data lines, the lowest first, at each fall of the enable line; of four lines halves of a byte.

    A transmission is what comes of one kind, command or data, without a rest of ``rest_s``.
    """
    enable, _ = without_glitches(enable, shortest_s)
    before = np.concatenate(([enable.first], enable.level[:-1])) if len(enable) else enable.level
    t = enable.t[(enable.level == LOW) & (before == HIGH)]
    # Data that change with the falling edge itself have not changed yet: the level just before counts.
    just_before = np.nextafter(t, -np.inf)
    value = sum((line.level_at(just_before) == HIGH).astype(np.int64) << place for place, line in enumerate(data))
    is_data = np.ones(len(t), bool) if command is None else command.level_at(just_before) == HIGH
    found = list(zip(t.tolist(), np.broadcast_to(value, t.shape).tolist(), is_data.tolist(), [0] * len(t), strict=True))
    if len(data) <= HALF:
        found = list(joined(found))
    moments = np.array([each[0] for each in found], np.float64)
    kinds = np.array([each[2] for each in found], bool)
    part = np.zeros(len(found), np.int64)
    if len(found):
        part[1:] = np.cumsum((np.diff(moments) > rest_s) | (kinds[1:] != kinds[:-1]))
    firsts = np.unique(part, return_index=True)[1]
    return Words(
        moments,
        np.array([each[1] for each in found], np.uint8),
        kinds,
        part,
        moments[firsts],
        moments[np.append(firsts[1:], len(found)) - 1] if len(found) else moments,
    )


LONGEST_LAMP_BIT_S = 3e-6
"""Longer bits are not of lamps, but of a sensor. Source: data sheets have 1.2 to 2.5 µs."""
LEAST_REST, OF_A_ONE = 8.0, 0.4
"""Bits that a line of lamps is low between two transmissions, and the share of a bit's time that parts ones from
zeroes: in data sheets these are high for 0.2 to 0.33 of it, those for 0.48 to 0.75."""


def one_line_words(data: Edges, shortest_s: float = 0.0) -> Words:
    """Bytes on a line of lamps: a pulse for each bit, the highest first, a long one for a one.

    The time of a bit is the median from pulse to pulse; a low of ``LEAST_REST`` bits ends a transmission. A pulse that
    is still high when the trace ends is none.
    """
    data, _ = without_glitches(data, shortest_s)
    rises, falls = data.t[data.level == HIGH], data.t[data.level == LOW]
    falls = falls[np.searchsorted(falls, rises[0], side="right") :] if len(rises) else falls[:0]
    rises = rises[: len(falls)]
    bit_s = float(np.median(np.diff(rises))) if len(rises) > 1 else 1.25e-6
    ones = (falls - rises > OF_A_ONE * bit_s).astype(np.uint8)
    rests = np.flatnonzero(rises[1:] - falls[:-1] > LEAST_REST * bit_s) + 1
    edges = [0, *rests.tolist(), len(rises)] if len(rises) else [0]
    found: list[tuple[Floats, Marks]] = []
    spans: list[tuple[float, float]] = []
    broken = 0
    for first, behind in pairwise(edges):
        count = (behind - first) // BYTE
        broken += bool((behind - first) % BYTE)
        if count:
            taken = slice(first, first + BYTE * count)
            found.append((falls[taken][BYTE - 1 :: BYTE], np.packbits(ones[taken])))
            spans.append((float(rises[first]), float(falls[behind - 1])))
    return _words_of(found, spans, 0, broken)
