"""Talks of two wires with a clock: a bus with addresses, a driver of digits."""

from __future__ import annotations

from collections.abc import Iterator, Mapping

import numpy as np

from lesart.core.dataclass_later import dataclass
from lesart.core.quantity import counted_of
from lesart.core.raw.bus_bytes import spans_of_bits
from lesart.core.raw.edges import HIGH
from lesart.core.raw.talks.seen_line import SeenLine
from lesart.core.raw.talks.talk import Talk, named_otherwise, pairs

WORD = 9
DRIVER_COMMANDS = frozenset({0x40, 0x42, 0x44, *range(0xC0, 0xD0), *range(0x80, 0x90)})
"""First bytes sent to digit drivers, lowest bit first: data mode, address, brightness."""
RESERVED = frozenset((*range(8), *range(0x78, 0x80)))
"""Addresses that no device has, by the standard of the two-wire bus; 0 calls all devices."""


@dataclass(frozen=True, eq=False)
class _Transfers:
    """Two lines read as a two-wire bus: whole transfers, all that have bits, their first bytes both ways round, and how
    often a first byte was acknowledged."""

    whole: int
    count: int
    high_first: tuple[int, ...]
    low_first: tuple[int, ...]
    answered: int
    all_answered: int


def look_at_two_wires(lines: Mapping[str, SeenLine]) -> Iterator[Talk]:
    """Pairs where one line changes while the other is high, to begin and to end, with nine clocks per byte between."""
    for clock, data in pairs(lines):
        if len(clock) < 2 * WORD or len(data) < 2 or len(data) > 1.2 * len(clock) + 8:
            continue
        found = _transfers(clock, data)
        if found is None or not found.whole:
            continue
        share = found.whole / found.count
        is_driver = len(set(found.low_first)) > 0 and set(found.low_first) <= DRIVER_COMMANDS
        plausible = [first >> 1 for first in found.high_first if first >> 1 not in RESERVED]
        pair = (("clock", clock.name), ("data", data.name))
        sure = share * (0.75 + 0.25 * found.answered / found.count) * (0.97 if named_otherwise(pair) else 1.0)
        weight = float(len(clock) + len(data))
        if is_driver and len(plausible) < found.count / 2 + 1:
            begin = "begins" if found.whole == 1 else "begin"
            why = f"{counted_of(found.whole, found.count, 'transfer')} {begin} with a command of such a driver"
            yield Talk("two-line driver", pair, min(sure, 0.98), why, weight=weight)
            continue
        addresses = sorted({first >> 1 for first in found.high_first})
        said = ", ".join(f"0x{each:02X}" for each in addresses[:6]) + (" …" if len(addresses) > 6 else "")
        whole, have = counted_of(found.whole, found.count, "transfer"), "has" if found.whole == 1 else "have"
        why = f"{whole} {have} whole bytes and {found.answered} an answer, at {said}"
        sure *= 1.0 if plausible else 0.6
        yield Talk("two-wire bus", pair, min(sure, 0.99), why, weight=weight)


def _transfers(clock: SeenLine, data: SeenLine) -> _Transfers | None:
    """The first transfers of two lines; None where most changes of the data fall into high times of the clock."""
    end = float(clock.head.end_s)
    its_clock, its_data = clock.head, data.until(end)
    if len(its_data) < 2:
        return None
    at_high = its_clock.level_at(its_data.t) == HIGH
    rises = clock.rises
    if at_high.sum() > 0.6 * len(its_data) or not at_high.any() or len(rises) < WORD:
        return None
    starts, ends, stopped = spans_of_bits(its_clock, its_data)
    ones = (its_data.level_at(rises) == HIGH).astype(np.uint8)
    first = np.searchsorted(rises, starts, side="right")
    last = np.searchsorted(rises, ends, side="left") - stopped
    whole = count = answered = all_answered = 0
    high_first, low_first = [], []
    for place, (one, behind) in enumerate(zip(first.tolist(), last.tolist(), strict=True)):
        bits = behind - one
        is_cut = place == len(first) - 1 and not stopped[place]
        if bits <= 0 or is_cut:
            continue
        count += 1
        if bits % WORD:
            continue
        whole += 1
        word = ones[one : one + WORD]
        high_first.append(int(np.packbits(word[:8])[0]))
        low_first.append(int(np.packbits(word[:8][::-1])[0]))
        answered += not word[8]
        all_answered += not ones[one + 8 : behind : WORD].any()
    return _Transfers(whole, count, tuple(high_first), tuple(low_first), answered, all_answered) if count else None
