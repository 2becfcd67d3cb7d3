"""Finds the known controller that bytes are meant for, and the size of its panel.

The bytes are interpreted as for each one: the right one knows all commands, writes into existing cells, and shows
letters, digits or pixels; a wrong one meets unknown commands, and data outside its memory.
"""

from __future__ import annotations

import itertools
import re
from collections.abc import Iterator, Mapping, Sequence
from dataclasses import replace
from typing import Any

import numpy as np

from lesart.core.glass.bus.controller import LINE
from lesart.core.glass.bus.controllers import BANKS, LETTERS, PAGES
from lesart.core.glass.bus.known_colours import coloured
from lesart.core.glass.bus.known_digits import addressed, driven, registers, scanned
from lesart.core.glass.bus.known_display import KnownDisplay
from lesart.core.glass.bus.known_lamps import chained
from lesart.core.glass.bus.known_letters import letters_shown
from lesart.core.glass.bus.known_papers import papers
from lesart.core.glass.bus.known_pixels import pixels
from lesart.core.quantity import counted
from lesart.core.raw.bus_bytes import Words, four_wire_words, parallel_words, two_wire_words
from lesart.core.raw.edges import Edges, without_glitches
from lesart.core.raw.talks.talk import PARALLEL, SCANNED, Talk

REST_S = 1e-3
ENOUGH = 60_000
"""Number of bytes that are enough to see what they are meant for."""
LEAST = 0.6


def known_displays(talk: Talk, lines: Mapping[str, Edges]) -> tuple[KnownDisplay, ...]:
    """Displays on the lines of a talk, the likeliest first; for each two-wire address the likeliest one.

    Glitch limits of the talk carry over to the trace of its display.
    """
    if not talk.shortest_s:
        return _known_displays(talk, lines)
    cleaned = {name: without_glitches(lines[name], talk.shortest_s)[0] for name in talk.signals}
    shortest = dict(talk.values)["shortest"]
    return tuple(replace(each, trace={**each.trace, "shortest": shortest}) for each in _known_displays(talk, cleaned))


def _known_displays(talk: Talk, lines: Mapping[str, Edges]) -> tuple[KnownDisplay, ...]:
    if talk.kind == SCANNED:
        found: list[KnownDisplay] = [scanned(talk, lines)]
    elif talk.kind == "two-wire bus":
        found = [best for each in _addresses(talk, lines) if (best := _best(each)) is not None]
    elif talk.kind == "four-wire serial":
        best = _best(_on_four(talk, lines))
        found = [best] if best is not None else []
    elif talk.kind == "two-line driver":
        best = _best(_driven(talk, lines))
        found = [best] if best is not None else []
    elif talk.kind == "bits by length":
        found = list(chained(talk.line("line"), lines[talk.line("line")]))
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
    """Every address that is written to, with the displays that its bytes may be meant for."""
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
    """Parts of a long trace, its beginning and its middle joined: enough to see who is addressed."""
    clock, data = pair
    if len(clock) <= 2 * 20_000:
        return pair
    return _until(clock, float(clock.t[40_000])), _until(data, float(clock.t[40_000]))


def _first(words: Words) -> Words:
    """The first bytes, as many as are examined."""
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
    # Only the two highest bits of the control byte mean anything.
    if float(np.mean((firsts & 0x3F) == 0)) > 0.98 and bool((firsts & 0x40).any()):
        yield from pixels(PAGES, words, trace, "two-wire", 1.0)
    yield from addressed(words, trace)
    if LETTERS.lines[2] == "enable" and float(np.mean((words.value & 0x04) != 0)) > 0.1:
        yield from letters_shown(LETTERS, words, trace)


# Four wires, a driver of digits, parallel lines


def _on_four(talk: Talk, lines: Mapping[str, Edges]) -> Iterator[KnownDisplay]:
    roles = {role: talk.line(role) for role in ("clock", "data", "select", "command") if talk.line(role)}
    values = {"mode": 0, "first": "highest", "selected": "low", "shortest": 0.0, "rest": REST_S} | {
        key: value for key, value in talk.values if key in ("mode", "first", "selected")
    }
    every = four_wire_words({role: lines[name] for role, name in roles.items()}, values)
    words = _first(every)
    if len(words) < 4:
        return
    trace: dict[str, Any] = {"wires": "four-wire", **roles}
    trace |= {key: value for key, value in talk.values if key in ("mode", "selected") and value not in (0, "low")}
    if "command" in roles:
        yield from pixels(replace(PAGES, told_by=LINE), words, trace, "four-wire", 1.0)
        yield from pixels(BANKS, words, trace, "four-wire", 0.98)
        # One picture in colours is more than enough bytes of any other panel.
        yield from coloured(every, trace, "four-wire")
        yield from papers(every, trace)
        return
    yield from registers(words, trace)


def _driven(talk: Talk, lines: Mapping[str, Edges]) -> Iterator[KnownDisplay]:
    clock, data = talk.line("clock"), talk.line("data")
    words = _first(two_wire_words(lines[clock], lines[data], bare=True))
    yield from driven(words, {"wires": "two lines", "clock": clock, "data": data})


def _parallel(talk: Talk, lines: Mapping[str, Edges]) -> Iterator[KnownDisplay]:
    """A parallel panel with its data lines in any order: the one that writes letters, beginning with the given
    order."""
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
        found += letters_shown(replace(LETTERS, told_by=LINE), words, trace)
    if not found:
        return
    best = max(found, key=lambda each: each.sure)
    equals = sum(each.sure > best.sure - 0.01 for each in found)
    if equals > 1 and not all(re.search(r"\d$", name) for name in names):
        why = f"{best.why}; its data lines may be in {counted(equals, 'order')}, and this is one"
        best = replace(best, sure=min(best.sure, 0.65), why=why)
    yield best
