"""A survey of a two-wire bus from its trace, and why nobody was asked, where nobody was."""

from __future__ import annotations

from lesart.core.ranked import distinct
from lesart.core.raw.decode.two_wire import asked_in
from lesart.core.raw.edges import HIGH, LOW, UNKNOWN, Edges
from lesart.core.raw.messages.survey import Survey, Verdict


def survey_in(clock: Edges, data: Edges) -> Survey:
    """The survey of who was asked and who answered; no device is expected yet."""
    asked = asked_in(clock, data)
    return Survey("two-wire bus", asked, {}, None if asked else why_nobody_was_asked(clock, data))


def why_nobody_was_asked(clock: Edges, data: Edges) -> Verdict:
    """Why two lines hold not one whole address: held low, swapped, idle, or not such a bus."""
    held = [name for name, line in (("clock", clock), ("data", data)) if _is_always(line, LOW)]
    if len(held) == 2:
        return Verdict(
            "†",
            "No device was addressed: both lines are low all along; they have no supply, or no pull-ups.",
            "measure both lines at rest: each must be at its rail's voltage",
        )
    if held:
        return Verdict(
            "†",
            f"No device was addressed: the {held[0]} line is held low all along.",
            f"take parts off the bus one by one until the {held[0]} line rises; look for a short to ground",
        )
    other_way = asked_in(data, clock)
    if other_way:
        count = len(other_way)
        return Verdict(
            "†",
            f"No device was addressed; with clock and data swapped, {count} "
            f"{'address was' if count == 1 else 'addresses were'} asked.",
            "name the signals the other way round, or swap the two wires",
        )
    if _is_always(clock, HIGH) and _is_always(data, HIGH):
        return Verdict("·", "No device was addressed: both lines rest high from the first moment to the last.")
    still = [name for name, line in (("clock", clock), ("data", data)) if not len(line)]
    if still:
        return Verdict(
            "†",
            f"No device was addressed: the {still[0]} line never changes.",
            f"check that the probe is on the {still[0]} line",
        )
    return Verdict(
        "†",
        "No device was addressed: no start with the nine bits of an address is in these two signals.",
        "check that they are the clock and the data of a two-wire bus",
    )


def _is_always(line: Edges, level: int) -> bool:
    """True where the line always has that level, from when it is first known."""
    levels = {line.first, *distinct(line.level).tolist()} - {UNKNOWN}
    return levels == {level}
