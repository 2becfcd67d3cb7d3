"""Decoders of pulses: their width, the time between them, and their number in a gate."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import replace
from typing import Any

import numpy as np

from lesart.core.block import Block, Bools, Floats, Mark
from lesart.core.errors import CaptureError
from lesart.core.parameters import Parameter
from lesart.core.quantity import plain_number
from lesart.core.raw.decode.record import DATED, FIRST_EDGE, GLITCH, Decoded, DecoderKind, seconds
from lesart.core.raw.edges import HIGH, LOW, UNKNOWN, Edges, without_glitches
from lesart.core.usual import GATES

MOST_GATES = 10_000_000
EDGE = Parameter("edge", "edge", "choice", "that counts", "rising", choices=("rising", "falling"))


def _cleaned(lines: Mapping[str, Edges], values: Mapping[str, Any]) -> tuple[Edges, int]:
    return without_glitches(lines["line"], values["shortest"], from_first=values["dated"] == FIRST_EDGE)


def _moments(edges: Edges, edge: str) -> Floats:
    """Times of the edges that count; an edge from an unknown level does not."""
    wanted, before = (HIGH, LOW) if edge == "rising" else (LOW, HIGH)
    was = np.concatenate(([edges.first], edges.level[:-1])) if len(edges) else edges.level
    moments: Floats = edges.t[(edges.level == wanted) & (was == before)]
    return moments


def _ranged(t: Floats, x: Floats, values: Mapping[str, Any]) -> Block:
    """Values outside the valid range keep their number and are marked RANGE."""
    outside = (x < values["least"]) | (x > values["most"])
    return Block(t, x, np.where(outside, np.uint8(Mark.RANGE), np.uint8(0)))


def _width(lines: Mapping[str, Edges], values: Mapping[str, Any]) -> Decoded:
    """Width of each pulse, at its end. A pulse that began before the trace or is not over at its end has none."""
    edges, removed = _cleaned(lines, values)
    wanted = HIGH if values["level"] == "high" else LOW
    pulses = np.flatnonzero(edges.level[:-1] == wanted) if len(edges) else np.zeros(0, np.int64)
    if len(pulses) and edges.first == UNKNOWN and pulses[0] == 0:
        pulses = pulses[1:]
    known = edges.level[pulses + 1] != UNKNOWN if len(pulses) else pulses.astype(bool)
    pulses = pulses[known]
    ends = edges.t[pulses + 1]
    return Decoded({"width": _ranged(ends, ends - edges.t[pulses], values)}, {"width": "s"}, removed=removed)


WIDTH = DecoderKind(
    name="pulse width",
    title="width of pulses",
    says="how long each pulse lasts",
    lines=("line",),
    needed=1,
    parameters=(
        Parameter("level", "pulse is", "choice", "level of a pulse", "high", choices=("high", "low")),
        seconds("least", "at least", "shorter ones are marked", "0 s"),
        seconds("most", "at most", "longer ones are marked", "1000 s"),
        GLITCH,
        DATED,
    ),
    decode=_width,
    gives_values=True,
)


def _interval(lines: Mapping[str, Edges], values: Mapping[str, Any]) -> Decoded:
    """Time from edge to edge; not where the line was unknown between two, because edges may have been missed."""
    edges, removed = _cleaned(lines, values)
    t = _moments(edges, values["edge"])
    known = np.diff(np.searchsorted(edges.t[edges.level == UNKNOWN], t)) == 0
    return Decoded({"interval": _ranged(t[1:][known], np.diff(t)[known], values)}, {"interval": "s"}, removed=removed)


INTERVAL = DecoderKind(
    name="pulse interval",
    title="time between pulses",
    says="from one edge to the next of its kind",
    lines=("line",),
    needed=1,
    parameters=(
        EDGE,
        seconds("least", "at least", "shorter ones are marked", "0 s"),
        seconds("most", "at most", "longer ones are marked", "100000 s"),
        GLITCH,
        DATED,
    ),
    decode=_interval,
    gives_values=True,
)


def _gate(lines: Mapping[str, Edges], values: Mapping[str, Any]) -> Decoded:
    """Edges in each whole gate, one sample at its end. An edge on a boundary belongs to the gate that begins there."""
    edges, removed = _cleaned(lines, values)
    gate = values["gate"]
    lasts = edges.end_s - edges.start_s
    gates = lasts / gate * (1 + 1e-12)
    if not gates <= MOST_GATES:
        many = (
            f"a trace of {plain_number(lasts, 3)} s has {plain_number(gates, 3)} gates of "
            f"{plain_number(gate)} s; at most {MOST_GATES} are counted"
        )
        raise CaptureError(f"{many}. A longer gate would do, or a trace without its far edge.")
    count = int(gates)
    borders = edges.start_s + gate * np.arange(count + 1)
    t = _moments(edges, values["edge"])
    # A small allowance for times that are on the boundary but for rounding.
    numbers = np.diff(np.searchsorted(t, borders - 1e-9 * gate)).astype(np.float64)
    unknown = _unknown_in(edges, borders)
    marks = np.where(unknown, np.uint8(Mark.MISSING), np.uint8(0))
    return Decoded(
        {"count": Block(borders[1:], np.where(unknown, np.nan, numbers), marks)}, {"count": "ct"}, removed=removed
    )


def _unknown_in(edges: Edges, borders: Floats) -> Bools:
    """For each gate, whether the line is unknown in part of it. The first gate may begin before the level is known."""
    starts, ends = edges.t[edges.level == UNKNOWN], (edges.t + edges.lasts)[edges.level == UNKNOWN]
    # A level unknown before the first edge is a trace that began there: the edge itself is rightly not counted.
    begun = np.searchsorted(starts, borders[1:])
    over = np.searchsorted(ends, borders[:-1], side="right")
    found: Bools = begun > over
    return found


GATE = DecoderKind(
    name="gate count",
    title="pulses in a gate",
    says="how many pulses come in a fixed time",
    lines=("line",),
    needed=1,
    parameters=(
        EDGE,
        replace(seconds("gate", "gate", "time that is counted over", "1 s", above=True), usual=GATES),
        seconds("shortest", "shortest pulse", "what bounces for less is counted once", "0 s"),
        DATED,
    ),
    decode=_gate,
    gives_values=True,
)
