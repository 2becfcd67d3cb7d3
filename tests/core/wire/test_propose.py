"""A hook-up proposed from the parts' roles."""

from __future__ import annotations

from itertools import permutations

import pytest
from hypothesis import assume, given, settings
from hypothesis import strategies as st

from lesart.core.wire.catalogue import KINDS
from lesart.core.wire.hookup import End, Hookup, used_roles
from lesart.core.wire.proposal.propose import mends_for, propose
from lesart.core.wire.role import ROLES, roles_meet
from tests.core.wire.hookups import findings, hookup, mended

MODULES = sorted(
    name for name, kind in KINDS.items() if kind.group in ("sensor", "display", "driver") and name != "potentiometer"
)
BOARDS = ("3.3 V board", "5 V board")
BUS_KINDS = {name for name, kind in KINDS.items() if any("two-wire data" in pin.roles for pin in kind.pins)}
WANTING = (
    "echo ranger",
    "beam counter",
    "single-wire sensor",
    "one digit",
    "analog sensor",
    "contact",
    "bridge amplifier",
)
"""Kinds that want many pins of different roles."""


@st.composite
def part_sets(draw: st.DrawFn) -> dict[str, object]:
    """A board with a mains adapter and up to six parts; what only works with a partner comes with it."""
    board = draw(st.sampled_from(BOARDS))
    chosen = draw(st.lists(st.sampled_from(MODULES), min_size=1, max_size=6))
    # More pull-ups than the bus stands come with more than three modules; nobody can propose that away.
    assume(sum(name in BUS_KINDS for name in chosen) <= 3)
    parts: dict[str, object] = {"board": board, "mains": {"kind": "supply", "voltage": "5 V", "current": "3 A"}}
    for index, kind in enumerate(chosen):
        parts[f"{kind} {index}"] = kind
        if kind == "character display":
            parts[f"contrast {index}"] = "potentiometer"
        if kind == "load cell":
            parts[f"amplifier {index}"] = "bridge amplifier"
        if kind == "bridge amplifier":
            parts[f"cell {index}"] = "load cell"
        if kind == "register meter":
            parts[f"driver {index}"] = "line driver"
        if kind == "line driver":
            parts[f"meter {index}"] = "register meter"
    return parts


def is_pin_wanted(found: Hookup, end: End) -> bool:
    """Does it want a board's pin for itself?"""
    roles = found.pin(end).roles
    rails = ("supply", "ground", "lamp +", "lamp −", "contrast", "wiper")
    return not found.pin(end).optional and not any(
        role in rails or ROLES[role].shares or role.startswith("bridge") for role in roles
    )


@pytest.mark.long
@settings(max_examples=150, deadline=None)
@given(part_sets())
def test_a_proposed_hook_up_of_compatible_parts_has_no_fault(parts: dict[str, object]) -> None:
    """Where it finds a place for every pin, nothing is left to mend."""
    plan = propose(hookup(parts))
    assume(not plan.unplaced)
    assert [note.text for note in findings(plan.hookup)] == []


def test_a_lamp_takes_a_rail_that_has_its_current_to_spare() -> None:
    """Three drivers of digits at their peaks leave 10 mA of the board's 5 V, and a backlight wants 20; the mains have
    them."""
    digits = {f"digits {place}": "numbered digits" for place in range(3)}
    mains = {"kind": "supply", "voltage": "5 V", "current": "3 A"}
    parts = {"board": "3.3 V board", "mains": mains, "letters": "character display", "contrast": "potentiometer"}
    plan = propose(hookup({**parts, **digits}))
    assert plan.unplaced == ()
    assert [note.text for note in findings(plan.hookup)] == []
    bare = {name: part for name, part in parts.items() if name != "board"}
    for amps, left in (("1 A", ["letters.lamp+ draws 20 mA, and no rail has so much to spare."]), ("1.02 A", [])):
        plan = propose(hookup({**bare, "mains": {**mains, "current": amps}, **digits}))
        assert [each for each in plan.unplaced if "lamp" in each] == left


@settings(max_examples=60, deadline=None)
@pytest.mark.long
@given(st.lists(st.sampled_from(WANTING), min_size=5, max_size=9))
def test_a_pin_is_left_out_only_where_there_are_too_few(chosen: list[str]) -> None:
    """Counted for every set of roles: what wants a pin of these is more than there are of them (Hall's condition)."""
    parts = {"board": "3.3 V board", **{f"{kind} {index}": kind for index, kind in enumerate(chosen)}}
    plan = propose(hookup(parts))
    left = [end for end, pin in plan.hookup.ends() if is_pin_wanted(plan.hookup, end) and not plan.hookup.joins_at(end)]
    assume(left)
    before = hookup(parts)
    wanting = [end for end, _ in before.ends() if end.part != "board" and is_pin_wanted(before, end)]
    # Pins of the bus are taken when a part is on it, as are those of the serial and the four-wire lines.
    shared = {join.to for join in plan.hookup.joins if (r := used_roles(plan.hookup, join)) and ROLES[r[1]].shares}
    board = [End("board", pin.name) for pin in before.parts["board"].kind.pins if End("board", pin.name) not in shared]
    reach = {
        end: frozenset(b for b in board if roles_meet(before.pin(end).roles, before.pin(b).roles)) for end in wanting
    }
    assert any(
        sum(reach[end] <= union for end in wanting) > len(union)
        for first in reach.values()
        for second in reach.values()
        for union in [first | second]
    ), left


def test_a_scarce_pin_is_kept_for_the_part_that_needs_it() -> None:
    """Four echoes need the four pins that time edges, in whatever order the parts stand in the file."""
    names = ["a", "b", "c", "d", "e"]
    for order in list(permutations(names))[::17]:
        parts = {"node": "5 V board", **{n: "echo ranger" if n != "e" else "single-wire sensor" for n in order}}
        plan = propose(hookup(parts))
        assert plan.unplaced == ()
        echoes = {join.to.pin for join in plan.hookup.joins if join.pin.pin == "echo"}
        assert echoes == {"p4", "p5", "p6", "p7"}


def test_a_fifth_echo_finds_no_place_and_it_is_said() -> None:
    parts = {"node": "5 V board", **{f"e{n}": "echo ranger" for n in range(5)}}
    assert [said for said in propose(hookup(parts)).unplaced if "pulse out" in said] == [
        "e4.echo (pulse out) finds no free pin that works with it."
    ]


def test_what_is_joined_already_stays() -> None:
    before = hookup({"node": "3.3 V board", "lid": "single-wire sensor"}, "lid.data > node.p9")
    plan = propose(before)
    assert plan.hookup.joins[0] == before.joins[0]
    assert {str(join.pin): str(join.to) for join in plan.hookup.joins} == {
        "lid.data": "node.p9",
        "lid.supply": "node.3V3",
        "lid.gnd": "node.gnd",
    }


def test_the_edits_of_a_proposal_lead_to_its_hook_up() -> None:
    """What is written into the project is what was judged."""
    parts = {
        "node": "3.3 V board",
        "e": "echo ranger",
        "t": "thermistor",
        "p": "two-wire pixel display",
        "q": "two-wire pixel display",
        "c": "two-wire character display",
        "d": "four digits",
        "s": "two-wire sensor",
    }
    before = hookup(parts)
    plan = propose(before)
    after = mended(before, plan.mends)

    def said(found: Hookup) -> list[tuple[str, str, str]]:
        return sorted((str(join.pin), str(join.to), join.through) for join in found.joins)

    assert said(after) == said(plan.hookup)
    assert {name: part.address for name, part in after.parts.items()} == {
        name: part.address for name, part in plan.hookup.parts.items()
    }
    assert after.parts["q"].address == 0x3D


def test_one_open_pin_is_joined_with_what_it_needs() -> None:
    """The echo of a 5 V part goes through a level shifter; nothing else is touched."""
    before = hookup(
        {"node": "3.3 V board", "e": "echo ranger"}, "e.supply > node.5V; e.gnd > node.gnd; e.start > node.p1"
    )
    mends = mends_for(before, propose(before), [End("e", "echo")])
    assert [mend.key[0] for mend in mends] == ["parts", "wire"]
    assert findings(mended(before, mends)) == []


def test_without_a_board_nothing_is_invented() -> None:
    plan = propose(hookup({"lid": "single-wire sensor"}))
    assert plan.hookup.joins == ()
    assert len(plan.unplaced) == 2
