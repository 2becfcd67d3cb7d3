"""Talks of four wires: a clock, a select line or pauses of the clock, data one way or both, and a command line."""

from __future__ import annotations

from collections.abc import Iterator, Mapping
from itertools import permutations
from typing import Any

import numpy as np

from lesart.core.block import Floats
from lesart.core.dataclass_later import dataclass
from lesart.core.raw.edges import HIGH, LOW, Edges
from lesart.core.raw.talks.seen_line import SeenLine
from lesart.core.raw.talks.talk import Talk, is_called, named_right

FEWEST_CLOCKS = 16
"""With fewer clocks than two bytes it might be anything."""
MOSTLY = 0.98
"""Of the edges of a clock: at least this share falls into one level of the select line."""
WITHIN = 0.7
"""Of the changes of a data line: at least this share is within its bursts; another device's line changes at any
time."""
FEWEST_WORDS, LEAST_WORD, MOST_WORD = 3, 9, 64
"""Bursts of a converter or an encoder that is clocked out, and clocks of each, where those are not whole bytes."""
MOST_ASKED = 16
CONVERTED = 24
"""Bits of converters that are told by one to three extra clocks what to measure next."""


@dataclass(frozen=True, eq=False)
class _Bursts:
    """Times of a clock's leading edges, and the indices where each burst of them begins and ends."""

    leading: Floats
    borders: np.ndarray
    idle: int
    whole: float
    """Share of bursts with whole bytes, or with as many bits as each other."""
    clocks: int = 0
    """Clocks of every burst, where those are not whole bytes."""


def look_at_four_wires(lines: Mapping[str, SeenLine]) -> Iterator[Talk]:
    """Clocks of short regular pulses in bursts of eight, a select line around them, data that change between the
    sampling edges."""
    for clock in lines.values():
        if len(clock) < 2 * FEWEST_CLOCKS or not _is_clock(clock):
            continue
        others = [line for line in lines.values() if line.name != clock.name]
        selects = _selects(others, clock)
        for select, level in selects:
            own = _clock_of(clock, select, level)
            yield from _with_select(own, select, level, [line for line in others if line is not select])
        if not selects:
            yield from _with_select(clock, None, LOW, others)


def _is_clock(line: SeenLine) -> bool:
    """True where all times at its active level are about as long."""
    active = line.lasting(1 - _idle(line))
    if len(active) < FEWEST_CLOCKS:
        return False
    usual = float(np.median(active))
    return bool(np.mean(np.abs(active - usual) < 0.5 * usual) > 0.9)


def _idle(line: SeenLine) -> int:
    """The idle level, between bursts: that of the longest times, or before the first edge."""
    longest = {level: float(line.lasting(level).max(initial=0.0)) for level in (LOW, HIGH)}
    if longest[LOW] == longest[HIGH]:
        return line.edges.first if line.edges.first in (LOW, HIGH) else LOW
    return LOW if longest[LOW] > longest[HIGH] else HIGH


def _selects(lines: list[SeenLine], clock: SeenLine) -> list[tuple[SeenLine, int]]:
    """Lines at one level of which all edges of the clock fall, with that level; for several devices on one clock, those
    that share its edges among them."""
    alone = [(line, level) for line in lines for level in (LOW, HIGH) if _is_select(line, clock, level, MOSTLY)]
    found = [(line, level) for line, level in alone if _share_at(line, clock, level) == 1.0]
    if alone and len(found) == len(alone):
        return alone
    parts = [line for line in lines if _is_select(line, clock, LOW, 0.0)]
    shared = [
        (one, LOW)
        for one in parts
        if any(
            other is not one
            and _share_at(one, clock, LOW) + _share_at(other, clock, LOW) > MOSTLY
            and not _at_once(one, other, clock)
            for other in parts
        )
    ]
    return shared or alone


def _clock_of(clock: SeenLine, select: SeenLine, level: int) -> SeenLine:
    """A clock as seen by a device that is only selected now and then, not just by the first on the bus."""
    if _share_at(select, clock, level) == 1.0:
        return clock
    return SeenLine(clock.name, _at_level(clock.edges, select, level), is_part=True)


def _at_level(edges: Edges, select: SeenLine, level: int) -> Edges:
    """Edges of a line that fall into one level of another."""
    mine = select.edges.level_at(edges.t) == level
    return Edges(edges.t[mine], edges.level[mine], edges.first, edges.start_s, edges.end_s)


def _at_once(one: SeenLine, other: SeenLine, clock: SeenLine) -> bool:
    """True where both are low at an edge of the clock."""
    low = [line.edges.level_at(clock.head.t) == LOW for line in (one, other)]
    return bool((low[0] & low[1]).any())


def _share_at(line: SeenLine, clock: SeenLine, level: int) -> float:
    return float(np.mean(line.edges.level_at(clock.head.t) == level))


def _is_select(line: SeenLine, clock: SeenLine, level: int, least: float) -> bool:
    """True where a line that seldom changes has this level for at least this share of a clock's edges, and for whole
    bytes each time."""
    if len(line) < 2 or len(line) > len(clock) / 6 + 2 or _share_at(line, clock, level) <= least:
        return False
    # Between its changes the clock makes whole bytes.
    t = clock.head.t
    borders = np.concatenate(([0], np.searchsorted(t, line.edges.t), [len(t)]))
    counts = np.diff(borders)
    levels = np.concatenate(([line.edges.first], line.edges.level))
    is_its = (counts > 0) & (levels == level)
    if len(clock) > len(clock.head):
        is_its[-1] = False  # cut off where no more was looked at
    if not is_its.any() or np.mean(counts[is_its] % 16 == 0) < 0.7:
        return False
    if is_its.sum() > 1:
        return True
    # One burst in one selection: the select is closely about it, and no slow line that happened to stand still.
    (place,) = np.flatnonzero(is_its)
    first, last = float(t[borders[place]]), float(t[borders[place + 1] - 1])
    begins = float(line.edges.t[place - 1]) if place else -np.inf
    ends = float(line.edges.t[place]) if place < len(line) else np.inf
    return max(first - begins, ends - last) < 2 * (last - first)


def _with_select(clock: SeenLine, select: SeenLine | None, selected: int, others: list[SeenLine]) -> Iterator[Talk]:
    bursts = _bursts(clock, select, selected)
    if bursts is None:
        return
    datas, commands = _parted(clock, select, selected, bursts, others)
    command = next((line for line in commands if is_called(line.name, "command")), commands[0] if commands else None)
    asked = _asked(datas, bursts, clock) if select is not None and (command is None or clock.is_part) else None
    # A device that answers is not a display: a command line for one would stay as it was left.
    command = None if asked is not None else command
    for line, phase, at_low in datas:
        if asked is not None and line is asked[0]:
            continue  # it is read together with the answers
        sent = asked[0] if asked is not None and line is asked[1] else None
        mode = (0 if at_low else 1) if bursts.idle == LOW else (3 if at_low else 2)
        roles = [("clock", clock.name), ("data", line.name)]
        values: list[tuple[str, object]] = [("mode", mode)]
        if select is not None:
            roles.append(("select", select.name))
            values += [("selected", "high")] if selected != LOW else []
        else:
            values.append(("rest", f"{_rest(bursts) * 1e6:.4g} µs"))
        roles += [("command", command.name)] if command is not None and command is not line else []
        roles += [("sent", sent.name)] if sent is not None else []
        bits, fields = _word(bursts.clocks)
        values += [("bits", bits)] if bits else []
        sure = bursts.whole * phase * (0.97 if select is not None else 0.85)
        if select is None:
            sure *= 1.0 - 2.0 * 8.0 ** -(len(bursts.borders) - 1)  # one in eight is whole bytes by chance
        sure *= 0.97 + 0.03 * named_right(roles)
        weight = float(len(clock) + len(line) + sum(len(each) for each in (select, sent) if each is not None))
        changes_fall = f"{round(100 * phase)} % of the changes of {line.name} fall where mode {mode} has them"
        why = f"{_said_of(bursts, select, selected)}, and {changes_fall}"
        yield Talk("four-wire serial", tuple(roles), min(sure, 0.99), why, tuple(values), weight, fields=fields)


def _said_of(bursts: _Bursts, select: SeenLine | None, selected: int) -> str:
    """A clause that describes the bursts of a clock."""
    level = "low" if selected == LOW else "high"
    where = f"while {select.name} is {level}" if select is not None else "between rests of the clock"
    count = len(bursts.borders) - 1
    if count == 1:
        return f"the only burst of the clock {where} is whole bytes"
    have = f"have {bursts.clocks} clocks" if bursts.clocks else "are whole bytes"
    return f"{round(100 * bursts.whole)} % of {count} bursts of the clock {where} {have}"


OfData = tuple[SeenLine, float, bool]
"""A line of data, the share of its changes at one level of the clock, and whether that is low."""


def _parted(
    clock: SeenLine, select: SeenLine | None, selected: int, bursts: _Bursts, others: list[SeenLine]
) -> tuple[list[OfData], list[SeenLine]]:
    """Data lines, and lines that may say whether data or commands come."""
    end = float(clock.head.end_s)
    commands: list[SeenLine] = []
    datas: list[OfData] = []
    for line in others:
        edges = line.until(end)
        if len(edges) < 1:
            continue
        is_command = not bursts.clocks and _is_command(edges, bursts)
        # It says one thing of some bytes, and another of others.
        is_command = is_command and len(set(edges.level_at(bursts.leading).tolist())) > 1
        if clock.is_part and select is not None:
            # What the line says to other devices does not concern this one.
            edges = _at_level(edges, select, selected)
        changes = _in_bursts(edges, bursts, clock)
        if is_command:
            commands.append(line)
        elif changes is not None:
            datas.append((line, *changes))
    if not datas and len(commands) == 1:
        # Data of one kind of byte change between bytes only.
        only = commands.pop()
        changes = _in_bursts(only.until(end), bursts, clock)
        datas = [(only, *changes)] if changes is not None else []
    return datas, commands


def _asked(datas: list[OfData], bursts: _Bursts, clock: SeenLine) -> tuple[SeenLine, SeenLine] | None:
    """Among the data lines the one on which a device is asked, and the one on which it answers: the first repeats a few
    bytes, the second has many, always after a byte during which it cannot know the request yet."""
    said = {line.name: _said(line, bursts, clock, at_low) for line, _, at_low in datas}
    for (asker, *_), (answerer, *_) in permutations(datas, 2):
        asked, answers = said[asker.name], said[answerer.name]
        few = len(set(asked)) <= MOST_ASKED and len(set(answers)) > 2 * len(set(asked))
        if few and len({each[:8] for each in answers}) == 1 and all(len(each) > 8 for each in answers):
            return asker, answerer
    return None


def _said(line: SeenLine, bursts: _Bursts, clock: SeenLine, at_low: bool) -> list[bytes]:
    """The bits of each burst, one byte per bit, at the sampling edges."""
    reads = clock.rises if at_low else clock.falls
    levels = (line.edges.level_at(reads) == HIGH).astype(np.uint8)
    return [part.tobytes() for part in np.split(levels, bursts.borders[1:-1]) if len(part)]


def _word(clocks: int) -> tuple[int, tuple[Mapping[str, Any], ...]]:
    """Parameter for the bits of a frame whose bursts are not whole bytes, and its value; none for whole bytes."""
    if not clocks:
        return 0, ()
    if CONVERTED < clocks <= CONVERTED + 3:
        value = {"name": "value", "first_bit": 0, "bits": CONVERTED, "sign": "two's complement", "assumed": "sign"}
        return CONVERTED, (value,)
    return clocks, ({"name": "value", "first_bit": 0, "bits": clocks},)


def _bursts(clock: SeenLine, select: SeenLine | None, selected: int) -> _Bursts | None:
    """Bursts by the select line, else by pauses of the clock."""
    idle = _idle(clock)
    leading = clock.rises if idle == LOW else clock.falls
    if select is not None:
        leading = leading[select.edges.level_at(leading) == selected]
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
    """A pause, in seconds, longer than those within bytes and shorter than those between bursts."""
    steps = np.diff(bursts.leading)
    within = float(np.median(steps))
    between = steps[bursts.borders[1:-1] - 1] if len(bursts.borders) > 2 else np.array([100 * within])
    return float(np.sqrt(within * 3 * max(float(between.min()), within * 3)))


def _in_bursts(edges: Edges, bursts: _Bursts, clock: SeenLine) -> tuple[float, bool] | None:
    """Share of a line's changes within bursts that fall into one level of the clock, and whether that is the low
    one."""
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
    """True where it changes only between whole bytes, and seldom."""
    count = np.searchsorted(bursts.leading, edges.t)
    burst = np.searchsorted(bursts.borders, count, side="right") - 1
    within = count - bursts.borders[np.minimum(burst, len(bursts.borders) - 1)]
    return bool(len(edges)) and bool((within % 8 == 0).all()) and len(edges) <= len(bursts.leading) / 8 + 1
