"""All talks of a trace: every kind looks at the remaining lines, and the likeliest that share no line are taken."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import replace

from lesart.core.raw.edges import Edges, without_glitches
from lesart.core.raw.talks.buses import look_at_two_wires
from lesart.core.raw.talks.four_wires import look_at_four_wires
from lesart.core.raw.talks.glitches import shortest_pulses
from lesart.core.raw.talks.one_line import look_at_infrared, look_at_lengths, look_at_one_wire, look_at_serial
from lesart.core.raw.talks.seen_line import SeenLine
from lesart.core.raw.talks.talk import STILL, Look, Talk, named_right
from lesart.core.raw.talks.turning import (
    look_at_digits,
    look_at_echoes,
    look_at_encoders,
    look_at_parallel,
    look_at_pulses,
)

LOOKS: dict[str, Look] = {
    "two-wire bus": look_at_two_wires,
    "four-wire serial": look_at_four_wires,
    "scanned digits": look_at_digits,
    "parallel bus": look_at_parallel,
    "bits by length": look_at_lengths,
    "one-wire bus": look_at_one_wire,
    "infrared by distance": look_at_infrared,
    "serial bytes": look_at_serial,
    "quadrature": look_at_encoders,
    "echoes": look_at_echoes,
    "pulses": look_at_pulses,
}
"""The recognisers. Another one is a function in a module and a line here."""
LEAST_SURE = 0.35
MOST_LINES = 64
"""Most lines of a trace; more are the inside of a processor, with too many pairs to look at."""
LEFT = 0.6
"""A rate or a width no surer than this may be anything."""
MORE = 0.05
"""How much more of the lines must be explained without short pulses before those are called glitches."""
NAMES = 0.03
"""What matching names add to how sure a talk is: they decide between equals, and overrule nothing."""


def recognise(lines: Mapping[str, Edges]) -> tuple[Talk, ...]:
    """What each line is part of, the likeliest first; lines that never change last.

    Where the lines explain more without rare short pulses, those are glitches, and each talk says how short.
    """
    busiest = sorted(lines, key=lambda name: -len(lines[name]))[:MOST_LINES]
    seen = {name: SeenLine(name, edges) for name, edges in lines.items() if name in busiest}
    found = _talks(seen)
    best, explained = found, _explained(found)
    for shortest in shortest_pulses(seen):
        again = _talks({name: SeenLine(name, without_glitches(lines[name], shortest)[0]) for name in seen})
        if _explained(again) > explained + MORE:
            told = ("shortest", f"{1e6 * shortest:.3g} µs")
            best = tuple(each if each.kind == STILL else replace(each, values=(*each.values, told)) for each in again)
            explained = _explained(again)
    return best


def _explained(talks: tuple[Talk, ...]) -> float:
    """Number of lines whose reading is known, each weighted by how sure it is; what is merely left over, a rate or a
    width, does not count."""
    known = (talk for talk in talks if talk.kind != STILL and (talk.sure > LEFT or not talk.kind.startswith("pulse")))
    return sum(talk.sure * len(talk.signals) for talk in known)


def _talks(seen: Mapping[str, SeenLine]) -> tuple[Talk, ...]:
    moving = {name: line for name, line in seen.items() if len(line)}
    found = [talk for look in LOOKS.values() for talk in look(seen) if talk.sure >= LEAST_SURE]
    found.sort(key=_rank, reverse=True)
    taken: list[Talk] = []
    used: set[str] = set()
    for talk in found:
        shared = used & set(talk.signals)
        # Two data lines may share one clock: to a device, and from it.
        if shared and not (talk.kind == "four-wire serial" and _may_share(talk, taken, shared)):
            continue
        taken.append(talk)
        used |= set(talk.signals)
    still = [name for name in seen if name not in moving and name not in used]
    return (*taken, *(Talk(STILL, (("line", name),), 1.0, "it never changes") for name in still))


def _rank(talk: Talk) -> tuple[float, float]:
    """Sort key: how sure it is, names included, then how much it explains.

    One talk that explains more lines is better than a separate one for each of them.
    """
    return round(talk.sure + NAMES * named_right(talk.lines) + 0.03 * min(len(talk.signals), 8), 3), talk.weight


def _may_share(talk: Talk, taken: list[Talk], shared: set[str]) -> bool:
    """True where it shares clock and select with another talk and has data of its own, or has a select of its own on
    the same clock, as another device on that bus."""
    on_it = [other for other in taken if other.kind == talk.kind and other.line("clock") == talk.line("clock")]
    of_device = [other for other in on_it if other.line("select") == talk.line("select")]
    if of_device:
        return talk.line("data") not in shared
    others = {name for other in on_it for name in other.signals}
    return bool(on_it) and talk.line("select") != "" and talk.line("select") not in shared and shared <= others
