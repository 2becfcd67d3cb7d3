"""Talks with a clock: two wires with addresses, two to a driver of digits, four wires with or without a select."""

from __future__ import annotations

from collections.abc import Iterator, Mapping
from typing import Any

import numpy as np

from lesart.core.block import Floats
from lesart.core.dataclass_later import dataclass
from lesart.core.quantity import counted_of
from lesart.core.raw.bus_bytes import spans_of_bits
from lesart.core.raw.edges import HIGH, LOW, Edges
from lesart.core.raw.talks.seen_line import SeenLine
from lesart.core.raw.talks.talk import Talk, is_called, named_otherwise, named_right, pairs

FEWEST_CLOCKS = 16
"""Fewer are no two bytes, and might be anything."""
WORD = 9
WITHIN = 0.7
"""Of the changes of a data line so many are within its bursts; another device's line changes whenever it likes."""
DRIVER_COMMANDS = frozenset({0x40, 0x42, 0x44, *range(0xC0, 0xD0), *range(0x80, 0x90)})
"""What drivers of digits are told first, lowest bit first: how to take data, where, how bright."""
FEWEST_WORDS, LEAST_WORD, MOST_WORD = 3, 9, 64
"""Bursts of a converter or an encoder that is clocked out, and clocks of each, where those are no whole bytes."""
MOST_ASKED = 16
CONVERTED = 24
"""Bits of the converters that are told by one to three clocks more what to measure next."""
RESERVED = frozenset((*range(8), *range(0x78, 0x80)))
"""Addresses that no device has, by the standard of the two-wire bus; 0 calls all of them."""


@dataclass(frozen=True, eq=False)
class _Transfers:
    """Of two lines read as a bus of two: whole ones, all that have bits, their first bytes both ways round, and how
    often a first byte was answered."""

    whole: int
    count: int
    high_first: tuple[int, ...]
    low_first: tuple[int, ...]
    answered: int
    all_answered: int


def look_at_two_wires(lines: Mapping[str, SeenLine]) -> Iterator[Talk]:
    """Pairs of which one changes at the other's high level to begin and to end, with nine clocks a byte between."""
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


# Four wires


@dataclass(frozen=True, eq=False)
class _Bursts:
    """Moments of a clock's leading edges, and where each burst of them begins and ends in those."""

    leading: Floats
    borders: np.ndarray
    idle: int
    whole: float
    """Share of bursts with whole bytes, or with as many bits as each other."""
    clocks: int = 0
    """Of every burst, where those are no whole bytes."""


def look_at_four_wires(lines: Mapping[str, SeenLine]) -> Iterator[Talk]:
    """Clocks of short regular pulses in bursts of eight, a line that selects for their time, data that change between
    the edges that read them."""
    for clock in lines.values():
        if len(clock) < 2 * FEWEST_CLOCKS or not _is_clock(clock):
            continue
        others = [line for line in lines.values() if line.name != clock.name]
        selects: list[SeenLine | None] = [line for line in others if _selects(line, clock)]
        for select in selects or [None]:
            yield from _with_select(clock, select, [line for line in others if line is not select])


def _is_clock(line: SeenLine) -> bool:
    """Are the times at the level that it does not rest at all about as long?"""
    active = line.lasting(1 - _idle(line))
    if len(active) < FEWEST_CLOCKS:
        return False
    usual = float(np.median(active))
    return bool(np.mean(np.abs(active - usual) < 0.5 * usual) > 0.9)


def _idle(line: SeenLine) -> int:
    """The level between bursts: that of the longest times, or before the first edge."""
    longest = {level: float(line.lasting(level).max(initial=0.0)) for level in (LOW, HIGH)}
    if longest[LOW] == longest[HIGH]:
        return line.edges.first if line.edges.first in (LOW, HIGH) else LOW
    return LOW if longest[LOW] > longest[HIGH] else HIGH


def _selects(line: SeenLine, clock: SeenLine) -> bool:
    """Do all edges of the clock fall into one level of this line, which changes seldom beside it?"""
    if len(line) < 2 or len(line) > len(clock) / 6 + 2:
        return False
    at = line.edges.level_at(clock.head.t)
    share = float(np.mean(at == LOW))
    if not (share > 0.98 or share < 0.02):
        return False
    # Between its changes the clock makes whole bytes.
    borders = np.searchsorted(clock.head.t, line.edges.t)
    counts = np.diff(np.concatenate(([0], borders, [len(clock.head.t)])))
    counts = counts[:-1][counts[:-1] > 0] if len(clock) > len(clock.head) else counts[counts > 0]
    if not len(counts) or np.mean(counts % 16 == 0) < 0.7:
        return False
    if len(counts) > 1:
        return True
    # One burst in one selection: the select is closely about it, and no slow line that happened to stand still.
    first, last = float(clock.head.t[0]), float(clock.head.t[-1])
    place = int(np.searchsorted(line.edges.t, first))
    begins = float(line.edges.t[place - 1]) if place else -np.inf
    ends = float(line.edges.t[place]) if place < len(line) else np.inf
    return max(first - begins, ends - last) < 2 * (last - first)


def _with_select(clock: SeenLine, select: SeenLine | None, others: list[SeenLine]) -> Iterator[Talk]:
    bursts = _bursts(clock, select)
    if bursts is None:
        return
    end = float(clock.head.end_s)
    commands, datas = [], []
    for line in others:
        edges = line.until(end)
        if len(edges) < 1:
            continue
        changes = _in_bursts(edges, bursts, clock)
        if not bursts.clocks and _is_command(edges, bursts):
            commands.append(line)
        elif changes is not None:
            datas.append((line, *changes))
    if not datas and len(commands) == 1:
        # Data of one kind of byte change between bytes only.
        only = commands.pop()
        changes = _in_bursts(only.until(end), bursts, clock)
        datas = [(only, *changes)] if changes is not None else []
    command = next((line for line in commands if is_called(line.name, "command")), commands[0] if commands else None)
    sent = _sent(datas, bursts, clock) if command is None and select is not None else None
    for line, phase, at_low in datas:
        if line is sent:
            continue  # it is heard with the answers
        mode = (0 if at_low else 1) if bursts.idle == LOW else (3 if at_low else 2)
        roles = [("clock", clock.name), ("data", line.name)]
        values: list[tuple[str, object]] = [("mode", mode)]
        if select is not None:
            level = "low" if float(np.mean(select.edges.level_at(clock.head.t) == LOW)) > 0.5 else "high"
            roles.append(("select", select.name))
            values += [("selected", level)] if level != "low" else []
        else:
            values.append(("rest", f"{_rest(bursts) * 1e6:.4g} µs"))
        if command is not None and command is not line:
            roles.append(("command", command.name))
        if sent is not None:
            roles.append(("sent", sent.name))
        where = f"while {select.name} is {level}" if select is not None else "between rests of the clock"
        count = len(bursts.borders) - 1
        have = f"have {bursts.clocks} clocks" if bursts.clocks else "are whole bytes"
        which = f"{round(100 * bursts.whole)} % of {count} bursts of the clock {where} {have}"
        if count == 1:
            which = f"the only burst of the clock {where} is whole bytes"
        changes_fall = f"{round(100 * phase)} % of the changes of {line.name} fall where mode {mode} has them"
        why = f"{which}, and {changes_fall}"
        bits, fields = _word(bursts.clocks)
        values += [("bits", bits)] if bits else []
        sure = bursts.whole * phase * (0.97 if select is not None else 0.85)
        if select is None:
            sure *= 1.0 - 2.0 * 8.0**-count  # one in eight is whole bytes by chance
        sure *= 0.97 + 0.03 * named_right(roles)
        weight = float(len(clock) + len(line) + sum(len(each) for each in (select, sent) if each is not None))
        yield Talk("four-wire serial", tuple(roles), min(sure, 0.99), why, tuple(values), weight, fields=fields)


def _sent(datas: list[tuple[SeenLine, float, bool]], bursts: _Bursts, clock: SeenLine) -> SeenLine | None:
    """Of two data lines the one on which a device is asked: it says a few things over and over, and the other one many,
    always behind a byte in which it cannot know yet what it is asked for."""
    if len(datas) != 2:
        return None
    (first, said), (second, came) = ((line, _said(line, bursts, clock, at_low)) for line, _, at_low in datas)
    for asker, asked, answers in ((first, said, came), (second, came, said)):
        few = len(set(asked)) <= MOST_ASKED and len(set(answers)) > 2 * len(set(asked))
        if few and len({each[:8] for each in answers}) == 1 and all(len(each) > 8 for each in answers):
            return asker
    return None


def _said(line: SeenLine, bursts: _Bursts, clock: SeenLine, at_low: bool) -> list[bytes]:
    """The bits of each burst, a byte each, at the edges that read them."""
    reads = clock.rises if at_low else clock.falls
    levels = (line.edges.level_at(reads) == HIGH).astype(np.uint8)
    return [part.tobytes() for part in np.split(levels, bursts.borders[1:-1]) if len(part)]


def _word(clocks: int) -> tuple[int, tuple[Mapping[str, Any], ...]]:
    """Bits of a frame whose bursts have so many clocks, and its value; none where they are whole bytes."""
    if not clocks:
        return 0, ()
    if CONVERTED < clocks <= CONVERTED + 3:
        value = {"name": "value", "first_bit": 0, "bits": CONVERTED, "sign": "two's complement", "assumed": "sign"}
        return CONVERTED, (value,)
    return clocks, ({"name": "value", "first_bit": 0, "bits": clocks},)


def _bursts(clock: SeenLine, select: SeenLine | None) -> _Bursts | None:
    """By the select line, else by rests of the clock."""
    idle = _idle(clock)
    leading = clock.rises if idle == LOW else clock.falls
    if len(leading) < FEWEST_CLOCKS:
        return None
    if select is not None:
        borders = np.flatnonzero(np.diff(np.searchsorted(select.edges.t, leading))) + 1
    else:
        steps = np.diff(leading)
        borders = np.flatnonzero(steps > max(4.0 * float(np.median(steps)), 1e-7)) + 1
    borders = np.concatenate(([0], borders, [len(leading)]))
    sizes = np.diff(borders)
    # The last one may be cut off where no more was looked at.
    sizes = sizes[:-1] if len(sizes) > 1 and len(clock) > len(clock.head) else sizes
    whole = float(np.mean(sizes % 8 == 0))
    if whole > 0.5:
        return _Bursts(leading, borders, idle, whole)
    usual = int(np.bincount(sizes).argmax())
    alike = float(np.mean(sizes == usual))
    is_word = len(sizes) >= FEWEST_WORDS and LEAST_WORD <= usual <= MOST_WORD and alike > 0.8
    return _Bursts(leading, borders, idle, alike, usual) if is_word else None


def _rest(bursts: _Bursts) -> float:
    """A rest between those within bytes and those between bursts; seconds."""
    steps = np.diff(bursts.leading)
    within = float(np.median(steps))
    between = steps[bursts.borders[1:-1] - 1] if len(bursts.borders) > 2 else np.array([100 * within])
    return float(np.sqrt(within * 3 * max(float(between.min()), within * 3)))


def _in_bursts(edges: Edges, bursts: _Bursts, clock: SeenLine) -> tuple[float, bool] | None:
    """Share of a line's changes within bursts that fall into one level of the clock, and whether that is low."""
    first, last = bursts.leading[bursts.borders[:-1]], bursts.leading[bursts.borders[1:] - 1]
    place = np.searchsorted(first, edges.t, side="right") - 1
    within = (place >= 0) & (edges.t <= last[np.maximum(place, 0)])
    # What is clocked out says by its level that it is ready, and goes back behind: two changes a burst are its own.
    outside = max(int((~within).sum()) - (2 * len(first) if bursts.clocks else 0), 0)
    if within.sum() < 2 or within.sum() < WITHIN * (within.sum() + outside):
        return None
    at_low = float(np.mean(clock.head.level_at(edges.t[within]) == LOW))
    phase = max(at_low, 1.0 - at_low)
    return (phase, at_low > 0.5) if phase > 0.8 else None


def _is_command(edges: Edges, bursts: _Bursts) -> bool:
    """Does it change between whole bytes only, and seldom?"""
    count = np.searchsorted(bursts.leading, edges.t)
    burst = np.searchsorted(bursts.borders, count, side="right") - 1
    within = count - bursts.borders[np.minimum(burst, len(bursts.borders) - 1)]
    return bool(len(edges)) and bool((within % 8 == 0).all()) and len(edges) <= len(bursts.leading) / 8 + 1
