"""The sources of a project whose edges the firmware decodes itself: counts, widths, intervals, timers, bits."""

from __future__ import annotations

import math
from collections.abc import Callable, Mapping
from fractions import Fraction
from typing import Any

from lesart.core.pack.written.c_edges import BitPulses, EdgesWanted, Spans
from lesart.core.raw.decode.record import FIRST_EDGE
from lesart.core.raw.decode.timer import SPANS
from lesart.core.raw.source import Source
from lesart.project.model import Project
from lesart.study.bench import Bench
from lesart.study.packing.raw_numbers import raw_scale
from lesart.study.packing.wanted import code_names

MICROSECOND, MILLISECOND, FINEST_S = 1e-6, 1e-3, 1e-8
LONGEST = 2**32 - 1
HAIR = 1e-6
"""Of a tick: a time this close to whole ticks is whole, however it was rounded."""


def edges_of(project: Project, bench: Bench) -> tuple[EdgesWanted, ...]:
    """Sources with a decoder of one timed or counted line."""
    names = code_names(project.sources, before="line_", taken=code_names(project.channels).values())
    found = []
    for name, source in project.sources.items():
        decoding = source.decoding
        make = _MADE.get(decoding.kind.name) if decoding is not None else None
        if make is not None and decoding is not None:
            values = dict(decoding.values)
            found.append(make(names[name], source, values, _tick_s(project, bench, source, values)))
    return tuple(found)


def _tick_s(project: Project, bench: Bench, source: Source, values: Mapping[str, Any]) -> float:
    """The tick in seconds: that of the channel that reads it; else a microsecond, or coarser for a very long gate."""
    for channel in project.channels.values():
        if channel.source == source.name and channel.unit_raw.symbol == "s":
            step = float(raw_scale(project, bench, channel).step)
            if FINEST_S <= step <= MILLISECOND:
                return step
    return MICROSECOND if values.get("gate", 0.0) < LONGEST * MICROSECOND / 2 else MILLISECOND


def _from(seconds: float, tick_s: float) -> int:
    """The least number of ticks that is at least as long."""
    return min(math.ceil(seconds / tick_s - HAIR), LONGEST)


def _to(seconds: float, tick_s: float) -> int:
    """The greatest number of ticks that is not longer."""
    return min(math.floor(seconds / tick_s + HAIR), LONGEST)


def _line(name: str, source: Source, values: Mapping[str, Any], tick_s: float, **more: Any) -> EdgesWanted:
    from_first = values.get("dated") == FIRST_EDGE
    shortest = _from(values["shortest"], tick_s)
    title = f"{source.name}, {source.decoding.kind.title}" if source.decoding is not None else source.name
    return EdgesWanted(name, title, tick_s * 1e9, shortest, from_first, **more)


def _count(name: str, source: Source, values: Mapping[str, Any], tick_s: float) -> EdgesWanted:
    counts = int(values["edge"] == "rising")
    gate = _from(values["gate"], tick_s)
    return _line(name, source, values, tick_s, counts=counts, gate=gate)


def _width(name: str, source: Source, values: Mapping[str, Any], tick_s: float) -> EdgesWanted:
    level = int(values["level"] == "high")
    spans = Spans(level, 1 - level, _from(values["least"], tick_s), _to(values["most"], tick_s))
    return _line(name, source, values, tick_s, spans=spans)


def _interval(name: str, source: Source, values: Mapping[str, Any], tick_s: float) -> EdgesWanted:
    level = int(values["edge"] == "rising")
    spans = Spans(level, level, _from(values["least"], tick_s), _to(values["most"], tick_s))
    return _line(name, source, values, tick_s, spans=spans)


def _timer(name: str, source: Source, values: Mapping[str, Any], tick_s: float) -> EdgesWanted:
    starts, ends = {SPANS[0]: (1, 1), SPANS[1]: (0, 0), "high": (1, 0), "low": (0, 1)}[values["of"]]
    own_s = values["prescaler"] / values["clock"]
    wraps = 1 << values["bits"] if values["bits"] < 32 else 0
    return _line(name, source, values, own_s, spans=Spans(starts, ends, 0, LONGEST, wraps))


def _bits(name: str, source: Source, values: Mapping[str, Any], tick_s: float) -> EdgesWanted:
    ratio = Fraction(values["ratio"]).limit_denominator(100)
    bits = BitPulses(
        values["bits"],
        _from(values["start"], tick_s),
        values["skip"],
        _to(values["threshold"], tick_s),
        (ratio.numerator, ratio.denominator) if values["by"] == "low time" else None,
        _to(values["longest"], tick_s),
    )
    return _line(name, source, values, tick_s, inverted=values["level"] == "low", bits=bits)


_MADE: Mapping[str, Callable[[str, Source, Mapping[str, Any], float], EdgesWanted]] = {
    "gate count": _count,
    "pulse width": _width,
    "pulse interval": _interval,
    "timer ticks": _timer,
    "bits by length": _bits,
}
