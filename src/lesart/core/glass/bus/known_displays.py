"""Which of the known controllers the bytes on some lines are meant for, and how large its panel is.

Each is obeyed as if it were the one: the right one knows its commands, writes into cells that there are, and shows
letters, digits or pixels; another meets commands that it has not, and data that lie beside.
"""

from __future__ import annotations

import itertools
import re
from collections import Counter
from collections.abc import Iterator, Mapping, Sequence
from dataclasses import replace
from typing import Any

import numpy as np

from lesart.core.glass.bus.controller import (
    BANKS,
    DIGITS,
    LETTERS,
    LINE,
    PAGES,
    Controller,
)
from lesart.core.glass.bus.interpreter import BLANK, interpret
from lesart.core.glass.bus.known_display import KnownDisplay
from lesart.core.glass.bus.known_pixels import pixels
from lesart.core.glyphs.segments import ALPHABETS
from lesart.core.quantity import counted
from lesart.core.raw.bus_bytes import Words, four_wire_words, parallel_words, two_wire_words
from lesart.core.raw.edges import Edges
from lesart.core.raw.talks.talk import PARALLEL, SCANNED, Talk

REST_S = 1e-3
STRANGE = 0.85
ENOUGH = 60_000
"""Bytes that are enough to see whom they are meant for."""
LEAST = 0.6
SHAPES = ((16, 1), (16, 2), (20, 2), (16, 4), (20, 4), (40, 2))
"""Columns and rows of panels of characters, the smallest first."""
_DIGIT_MASKS = frozenset(
    ALPHABETS["7"].mask(lit)
    for lit in ("abcdef", "bc", "abdeg", "abcdg", "bcfg", "acdfg", "acdefg", "abc", "abcdefg", "abcdfg", "g", "")
)


def known_displays(talk: Talk, lines: Mapping[str, Edges]) -> tuple[KnownDisplay, ...]:
    """Displays that are on the lines of a talk, the likeliest first; of each address of two wires the likeliest one."""
    if talk.kind == SCANNED:
        found: list[KnownDisplay] = [_scanned(talk, lines)]
    elif talk.kind == "two-wire bus":
        found = [best for each in _addresses(talk, lines) if (best := _best(each)) is not None]
    elif talk.kind == "four-wire serial":
        best = _best(_on_four(talk, lines))
        found = [best] if best is not None else []
    elif talk.kind == "two-line driver":
        best = _best(_digits(talk, lines))
        found = [best] if best is not None else []
    elif talk.kind == PARALLEL:
        best = _best(_parallel(talk, lines))
        found = [best] if best is not None else []
    else:
        found = []
    return tuple(sorted(found, key=lambda each: -each.sure))


def _best(found: Iterator[KnownDisplay]) -> KnownDisplay | None:
    best = max(found, key=lambda each: each.sure, default=None)
    return best if best is not None and best.sure >= LEAST else None


# Two wires


def _addresses(talk: Talk, lines: Mapping[str, Edges]) -> Iterator[Iterator[KnownDisplay]]:
    """Every address that is written to, with what its bytes may be meant for."""
    clock, data = lines[talk.line("clock")], lines[talk.line("data")]
    trace = {"wires": "two-wire", "clock": talk.line("clock"), "data": talk.line("data")}
    for address in _written_to(clock, data):
        words = _first(two_wire_words(clock, data, address))
        if len(words) >= 8:
            yield _at_address(words, trace | {"address": f"0x{address:02X}"})


def _written_to(clock: Edges, data: Edges) -> list[int]:
    from lesart.core.raw.decode.two_wire import asked_in

    end = float(clock.t[min(len(clock) - 1, 20 * ENOUGH)])
    head = _until(clock, end), _until(data, end)
    return [each.address for each in asked_in(*_shorter(head)) if each.answered]


def _until(edges: Edges, end_s: float) -> Edges:
    count = int(np.searchsorted(edges.t, end_s, side="right"))
    return Edges(edges.t[:count], edges.level[:count], edges.first, edges.start_s, end_s)


def _shorter(pair: tuple[Edges, Edges]) -> tuple[Edges, Edges]:
    """Who is asked is seen in a part of a long trace: its beginning, and its middle, joined."""
    clock, data = pair
    if len(clock) <= 2 * 20_000:
        return pair
    return _until(clock, float(clock.t[40_000])), _until(data, float(clock.t[40_000]))


def _first(words: Words) -> Words:
    """So many of them as are looked at."""
    if len(words) <= ENOUGH:
        return words
    parts = int(words.part[ENOUGH])
    count = int(np.searchsorted(words.part, parts))
    return replace(
        words,
        t=words.t[:count],
        value=words.value[:count],
        is_data=words.is_data[:count],
        part=words.part[:count],
        start_s=words.start_s[:parts],
        end_s=words.end_s[:parts],
    )


def _at_address(words: Words, trace: Mapping[str, Any]) -> Iterator[KnownDisplay]:
    firsts = words.value[np.unique(words.part, return_index=True)[1]]
    # Of the byte before only the two highest bits say anything.
    if float(np.mean((firsts & 0x3F) == 0)) > 0.98 and bool((firsts & 0x40).any()):
        yield from pixels(PAGES, words, trace, "two-wire", 1.0)
    if LETTERS.lines[2] == "enable" and float(np.mean((words.value & 0x04) != 0)) > 0.1:
        yield from _letters(LETTERS, words, trace)


# Letters


def _letters(controller: Controller, words: Words, trace: Mapping[str, Any]) -> Iterator[KnownDisplay]:
    """Obeyed as a controller of letters: how many of its cells hold what people write?"""
    obeyed = interpret(controller, words, controller.columns, controller.pages, fill=BLANK)
    own = obeyed.cell < obeyed.columns * obeyed.pages
    cells, values = obeyed.cell[own], obeyed.value[own]
    # A clear writes blanks into all cells; they say nothing.
    real = values != BLANK
    if real.sum() < 3:
        return
    printable = float(
        np.mean((values[real] < 0x7F) & (values[real] > 0x20) | (values[real] < 8) | (values[real] == 0xDF))
    )
    letters = float(np.mean((values[real] > 0x20) & (values[real] < 0x7F)))
    strange = len(obeyed.unknown) + obeyed.beside
    columns, rows = _shape(cells[real])
    # A program sends no command that there is not; one such byte may be noise, several are another order of lines.
    fits = printable * (0.5 + 0.5 * letters) * STRANGE ** min(strange, 40)
    panel = {"kind": "characters", "columns": columns, "rows": rows}
    cells_said = counted(int(real.sum()), "cell")
    why = f"{round(100 * letters)} % of {cells_said} written are letters, in {columns}×{rows} places"
    yield KnownDisplay(panel, dict(trace), min(0.99, fits), why)


def _shape(cells: np.ndarray) -> tuple[int, int]:
    """The smallest panel on which all of these addresses are seen."""
    used = set(cells.tolist())
    for columns, rows in SHAPES:
        if used <= _addresses_of(columns, rows):
            return columns, rows
    return 20, 4


def _addresses_of(columns: int, rows: int) -> set[int]:
    starts = (0x00, 0x40, columns, 0x40 + columns)
    return {start + place for start in starts[:rows] for place in range(columns)}


# Four wires, a driver of digits, parallel lines


def _on_four(talk: Talk, lines: Mapping[str, Edges]) -> Iterator[KnownDisplay]:
    roles = {role: talk.line(role) for role in ("clock", "data", "select", "command") if talk.line(role)}
    values = {"mode": 0, "first": "highest", "selected": "low", "shortest": 0.0, "rest": REST_S} | {
        key: value for key, value in talk.values if key in ("mode", "first", "selected")
    }
    words = _first(four_wire_words({role: lines[name] for role, name in roles.items()}, values))
    if len(words) < 4:
        return
    trace: dict[str, Any] = {"wires": "four-wire", **roles}
    trace |= {key: value for key, value in talk.values if key in ("mode", "selected") and value not in (0, "low")}
    if "command" in roles:
        yield from pixels(replace(PAGES, told_by=LINE), words, trace, "four-wire", 1.0)
        yield from pixels(BANKS, words, trace, "four-wire", 0.98)
        return
    yield from _registers(words, trace)


def _registers(words: Words, trace: Mapping[str, Any]) -> Iterator[KnownDisplay]:
    """Registers of segments one behind the other, or of one digit with bits that choose it."""
    sizes = np.bincount(words.part)
    usual = int(np.bincount(sizes).argmax())
    if not 1 <= usual <= 16 or float(np.mean(sizes == usual)) < 0.8:
        return
    rows = np.array([words.value[words.part == part] for part in np.flatnonzero(sizes == usual)[:2000]])
    alike = float(np.mean(sizes == usual))
    if usual == 2:
        for choice, lit in ((1, 0), (0, 1)):
            for high in (False, True):
                chosen = rows[:, choice] if high else rows[:, choice] ^ 0xFF
                one = np.isin(chosen, [1 << place for place in range(8)])
                digits = int(chosen[one].max()).bit_length() if one.any() else 0
                shapes = max((_digit_share(rows[:, lit] ^ turn), turn) for turn in (0, 0xFF))
                if float(np.mean(one)) < 0.9 or digits < 2:
                    continue
                panel = {
                    "kind": "segments",
                    "digits": digits,
                    "drive": "scanned through registers",
                    "common": "anode" if shapes[1] else "cathode",
                }
                panel |= {"chosen": "the byte before"} if choice == 0 else {}
                panel |= {"chosen_low": False} if high else {}
                figures = round(100 * shapes[0])
                why = f"of two bytes each one chooses a digit, and {figures} % of the others light a figure"
                yield KnownDisplay(panel, dict(trace), min(0.97, 0.3 + 0.67 * shapes[0]), why)
    shapes = max((_digit_share(rows.reshape(-1) ^ turn), turn) for turn in (0, 0xFF))
    panel = {
        "kind": "segments",
        "digits": usual,
        "drive": "shift registers",
        "common": "anode" if shapes[1] else "cathode",
    }
    size, figures = counted(usual, "byte"), round(100 * shapes[0])
    why = f"{round(100 * alike)} % of the transmissions have {size}, and {figures} % of those light a figure"
    yield KnownDisplay(panel, dict(trace), min(0.95, alike * shapes[0]), why)


def _digit_share(values: np.ndarray) -> float:
    """How many bytes light a figure, its point left aside; nothing but dark ones is none."""
    bare = values & 0x7F
    known = np.isin(bare, sorted(_DIGIT_MASKS))
    return float(np.mean(known)) * (1.0 if len(set(bare.tolist()) - {0}) > 1 else 0.5)


def _digits(talk: Talk, lines: Mapping[str, Edges]) -> Iterator[KnownDisplay]:
    words = _first(two_wire_words(lines[talk.line("clock")], lines[talk.line("data")], bare=True))
    obeyed = interpret(DIGITS, words, DIGITS.columns, DIGITS.pages)
    if not len(obeyed):
        return
    last = int(obeyed.cell.max()) + 1
    digits = next(each for each in (4, 6, 8, 16) if each >= last)
    share = _digit_share(obeyed.value.astype(np.uint8))
    trace = {"wires": "two lines", "clock": talk.line("clock"), "data": talk.line("data")}
    panel = {"kind": "segments", "digits": digits, "drive": "two-line driver"}
    why = f"{round(100 * share)} % of {counted(len(obeyed), 'byte')} light a figure, in {digits} digits"
    yield KnownDisplay(panel, trace, min(0.97, 0.5 + 0.47 * share), why)


def _parallel(talk: Talk, lines: Mapping[str, Edges]) -> Iterator[KnownDisplay]:
    """Whatever order its data lines are in: the one that writes letters, their own first."""
    names = talk.line("data").split(" ")
    command, enable = talk.line("command"), lines[talk.line("clock")]
    others = [command] if command else [""]
    orders: Sequence[tuple[str, ...]] = (
        [tuple(names), *itertools.permutations(names)] if len(names) == 4 else [tuple(names), tuple(reversed(names))]
    )
    head = float(enable.t[min(len(enable) - 1, 4000)])
    cut = {name: _until(lines[name], head) for name in (*names, *filter(None, others))}
    found: list[KnownDisplay] = []
    for order in dict.fromkeys(orders):
        words = parallel_words(_until(enable, head), [cut[name] for name in order], cut.get(command), REST_S)
        if len(words) < 6:
            continue
        trace = {"wires": "parallel", "clock": talk.line("clock"), "data": " ".join(order)}
        trace |= {"command": command} if command else {}
        found += _letters(replace(LETTERS, told_by=LINE), words, trace)
    if not found:
        return
    best = max(found, key=lambda each: each.sure)
    equals = sum(each.sure > best.sure - 0.01 for each in found)
    if equals > 1 and not all(re.search(r"\d$", name) for name in names):
        why = f"{best.why}; its data lines may be in {counted(equals, 'order')}, and this is one"
        best = replace(best, sure=min(best.sure, 0.65), why=why)
    yield best


def _scanned(talk: Talk, lines: Mapping[str, Edges]) -> KnownDisplay:
    """Which level lights a segment is the one that makes figures."""
    digits, segments = talk.line("digits").split(" "), talk.line("segments").split(" ") if talk.line("segments") else []
    on = dict(talk.values)["digit_on"]
    level = {"high": 1, "low": 0}[on]
    counts: Counter[int] = Counter()
    for name in digits:
        line = lines[name]
        places = np.flatnonzero(line.level[:-1] == level)[:50]
        middle = (line.t[places] + line.t[places + 1]) / 2
        for wanted in (0, 1):
            lit = sum(
                (lines[each].level_at(middle) == wanted).astype(int) << bit for bit, each in enumerate(segments[:7])
            )
            counts[wanted] += int(np.isin(lit, sorted(_DIGIT_MASKS - {0})).sum()) if segments else 0
    lit_level = 1 if counts[1] >= counts[0] else 0
    panel: dict[str, Any] = {"kind": "segments", "digits": len(digits), "common": "cathode" if lit_level else "anode"}
    trace = {"digits": " ".join(digits), "segments": " ".join(segments)}
    trace |= {"digit_on": on} if on != "high" else {}
    trace |= {"segment_on": "low"} if not lit_level else {}
    return KnownDisplay(panel, trace, talk.sure, talk.why)
