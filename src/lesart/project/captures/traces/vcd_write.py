"""Writing value change dumps (VCD, IEEE 1364) for the demo."""

from __future__ import annotations

from collections.abc import Iterator, Mapping
from itertools import chain

import numpy as np

from lesart.core.raw.edges import Edges

_LEVELS = "01x"
FIRST_CODE, LAST_CODE = 33, 126
TICKS = 4
"""Fewest ticks of the shortest pulse, so that edges half a pulse apart do not coincide."""
SCALES_S = (1e-8, 1e-9, 1e-10)


def vcd_text(lines: Mapping[str, Edges], tick_s: float = 1e-6, scope: str = "trace") -> str:
    """One file of lines on one time axis. ``tick_s`` is 1, 10 or 100 of s, ms, µs, ns, ps or fs."""
    codes = {name: _code(number) for number, name in enumerate(lines)}
    head = [f"$timescale {_scale(tick_s)} $end", f"$scope module {scope} $end"]
    head += [f"$var wire 1 {codes[name]} {name} $end" for name in lines]
    head += ["$upscope $end", "$enddefinitions $end", "#0", "$dumpvars"]
    head += [f"{_LEVELS[edges.first]}{codes[name]}" for name, edges in lines.items()]
    head.append("$end")
    body, now = [], 0
    for tick, change in _changes(lines, codes, tick_s):
        if tick != now:
            body.append(f"#{tick}")
            now = tick
        body.append(change)
    last = round(max((edges.end_s for edges in lines.values()), default=0.0) / tick_s)
    if last > now:
        body.append(f"#{last}")
    return "\n".join([*head, *body]) + "\n"


def fine_tick_s(lines: Mapping[str, Edges]) -> float:
    """The coarsest time scale, 10 ns or finer, that resolves all pulses: at 40 MHz they are 12.5 ns."""
    shortest = min((float(np.diff(edges.t).min()) for edges in lines.values() if len(edges.t) > 1), default=1.0)
    return next((scale for scale in SCALES_S if shortest >= TICKS * scale), SCALES_S[-1])


def _changes(lines: Mapping[str, Edges], codes: Mapping[str, str], tick_s: float) -> Iterator[tuple[int, str]]:
    """Changes by tick in the order of the file: at the same tick in the order of the lines."""
    ticks = [np.rint(edges.t / tick_s) for edges in lines.values()]
    words = [[f"{level}{codes[name]}" for level in _LEVELS] for name in lines]
    told = [[own[level] for level in edges.level.tolist()] for own, edges in zip(words, lines.values(), strict=True)]
    if not told:
        return
    at, changes = np.concatenate(ticks), list(chain.from_iterable(told))
    for place, tick in zip((order := np.argsort(at, kind="stable")).tolist(), at[order].tolist(), strict=True):
        yield int(tick), changes[place]


def _code(number: int) -> str:
    """Codes of printable characters, shortest first."""
    count = LAST_CODE - FIRST_CODE + 1
    code = chr(FIRST_CODE + number % count)
    while number := number // count:
        number -= 1
        code += chr(FIRST_CODE + number % count)
    return code


def _scale(tick_s: float) -> str:
    for unit, size in (("s", 1.0), ("ms", 1e-3), ("us", 1e-6), ("ns", 1e-9), ("ps", 1e-12), ("fs", 1e-15)):
        for times in (100, 10, 1):
            if abs(tick_s / (times * size) - 1) < 1e-9:
                return f"{times} {unit}"
    raise ValueError(f"{tick_s} s is not a time scale of a VCD")
