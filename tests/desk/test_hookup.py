"""Wire at the desk: leaves, values stepped through, entries added and taken away, joined by role, sums written."""

from __future__ import annotations

import math
from pathlib import Path

import pytest

from lesart.core.notes import DOUBT, FAULT, REMARK
from lesart.core.step import Step
from lesart.core.wire.hookup import End
from lesart.desk.deeds.hookup import join_by_role, write_sum
from lesart.desk.desk import Desk
from lesart.desk.opening import open_desk
from lesart.desk.picture import picture_of, workspace_now
from lesart.desk.workspace.context import WIDTH
from lesart.project.toml_values import value_at
from tests.conftest import MASS

JOINS = ("wire", "joins")


@pytest.fixture
def wire(desk: Desk) -> Desk:
    """The yard with Wire open."""
    desk.open_step(Step.WIRE)
    return desk


@pytest.fixture
def bare(tmp_path: Path) -> Desk:
    """A project with a channel and no part."""
    (tmp_path / "c.csv").write_text("1\n2\n3\n")
    (tmp_path / "lesart.toml").write_text(
        'lesart = 1\n[sources.s]\ncapture = "c.csv"\n[channels.tank]\nsource = "s"\ncolumn = "1"\nraw_unit = "mV"\n'
        'unit = "mV"\nlowest = "0 mV"\nhighest = "3300 mV"\n'
    )
    desk = open_desk(tmp_path)
    desk.open_step(Step.WIRE)
    return desk


def words(desk: Desk) -> str:
    """All lines of the workspace."""
    return "\n".join("".join(span.text for span in line) for line in workspace_now(desk).lines)


def row(desk: Desk, name: str) -> str:
    """The line on which a part's pin stands, with the leaf of connections turned up."""
    desk.choose_leaf("joins")
    part, _, pin = name.rpartition(".")
    lines = words(desk).splitlines()
    start = next(index for index, line in enumerate(lines) if line.strip("▌ ").startswith(part + " "))
    return next(line for line in lines[start + 1 :] if line.strip().startswith(pin + " "))


def at_join(desk: Desk, pin: str) -> tuple[str | int, ...]:
    """The key of the connection whose pin this is."""
    return (*JOINS, next(join.index for join in desk.state.project.hookup.joins if str(join.pin) == pin))


def faults(desk: Desk) -> list[str]:
    """Sentences of the faults of this step."""
    return [note.text for note in desk.notes if note.step == Step.WIRE and note.mark == FAULT]


@pytest.mark.parametrize(
    ("leaf", "says"),
    [
        ("joins", ["└ a2", "┤ brood half 10kΩ ├", "free on node: p19", "cell.E+"]),
        ("parts", ["large 3.3 V board", "most current 2 A", "in 8 connections", "read as lid air", "register meter"]),
        ("sums", ["exactly 10.44 kΩ", "take 270 Ω", "current while lit 4.815 mA", "✓ in the hook-up", "debounce"]),
        ("supply", ["pack.+  gives 2 A", "node at its peak", "lasts 6.26 d", "node.3V3  gives 300 mA"]),
        ("bring-up", ["3 of 30 done", "right 3.13 to 3.46 V   measured 3.31 V", "only these answer: 0x27 door"]),
    ],
)
def test_every_leaf_says_what_it_should(wire: Desk, leaf: str, says: list[str]) -> None:
    """And no line is too long for its place."""
    wire.choose_leaf(leaf)
    found = words(wire)
    for each in says:
        assert each in found
    assert max(len(line) for line in found.splitlines()) <= WIDTH + 2


def test_leaves_are_turned_and_other_steps_have_one(wire: Desk) -> None:
    names = []
    for _ in range(6):
        names.append(next(leaf.name for leaf in workspace_now(wire).leaves if leaf.open))
        wire.turn_leaf(1)
    assert names == ["joins", "parts", "sums", "supply", "why", "bring-up"]
    wire.turn_leaf(-1)
    assert wire.state.leaf_of(Step.WIRE) == "bring-up"
    wire.open_step(Step.RAW)
    wire.turn_leaf(1)
    assert "one leaf only" in wire.state.message


def test_the_yard_has_two_faults_and_its_notes_mend_both(wire: Desk) -> None:
    """Each stands on its row, is led to, and mended by one key; then nothing in the hook-up is wrong."""
    assert faults(wire) == [
        "gate.out (count out) does not work with node.p17 (digital); the edge pins of node are p1-p8.",
        "door pulls the bus up to 5 V, but node.p15 tolerates only 3.6 V.",
    ]
    assert "†¹" in row(wire, "gate.out")
    assert "╌†╌" in row(wire, "gate.out")
    assert "†²" in row(wire, "door.data")
    assert "†" not in row(wire, "gate.gnd")
    wire.next_note()
    assert wire.state.selected_at(Step.WIRE) == (*at_join(wire, "gate.out"), "to")
    wire.mend()
    assert (at_of(wire, "gate.out"), at_of(wire, "stand.a")) == ("node.p1", "node.p17")
    assert wire.state.message == "mended: stand.a to = node.p17, gate.out to = node.p1"
    wire.next_note()
    assert wire.state.selected_at(Step.WIRE) == (*at_join(wire, "door.data"), "through")
    wire.mend()
    assert faults(wire) == []
    assert "┤ door levels ├" in row(wire, "door.data")
    wire.undo()
    wire.undo()
    assert len(faults(wire)) == 2


def at_of(desk: Desk, pin: str) -> str:
    return next(str(join.to) for join in desk.state.project.hookup.joins if str(join.pin) == pin)


def test_a_far_pin_is_stepped_through_those_that_work_and_are_free(wire: Desk) -> None:
    """The lid's probe on a1: a2 is taken by the brood, so the next is a3, and back to a1 from the end."""
    key = (*at_join(wire, "lid probe.out"), "to")
    wire.select(key)
    seen = []
    for _ in range(5):
        wire.nudge(1)
        seen.append(at_of(wire, "lid probe.out"))
    assert seen == ["node.a3", "node.a4", "node.a5", "node.a6", "node.a1"]


def test_a_pin_is_typed_alone_or_with_its_part(wire: Desk) -> None:
    key = (*at_join(wire, "lid probe.out"), "to")
    wire.edit(key, "a4")
    assert at_of(wire, "lid probe.out") == "node.a4"
    wire.edit(key, "node.a5")
    assert at_of(wire, "lid probe.out") == "node.a5"
    wire.edit(key, "a9")
    assert "node has the pins" in wire.state.message
    assert at_of(wire, "lid probe.out") == "node.a5"


def test_what_it_runs_through_and_its_colour_have_steps(wire: Desk) -> None:
    key = at_join(wire, "lid probe.out")
    wire.select((*key, "through"))
    wire.nudge(1)
    assert value_at(wire.state.project.tables, (*key, "through")) == "brood half"
    wire.nudge(-1)
    assert value_at(wire.state.project.tables, (*key, "through")) == ""
    wire.select((*key, "colour"))
    wire.nudge(1)
    assert value_at(wire.state.project.tables, (*key, "colour")) == "green"


def test_a_hookup_from_nothing_by_keys(bare: Desk) -> None:
    """Parts by +, all joined by j in one step, nothing wrong, one undo takes it back."""
    assert "No parts yet" in words(bare)
    bare.add("node = 3.3 V board")
    bare.add("tank = rail-to-rail sensor")
    bare.add("door = two-wire pixel display")
    assert len(faults(bare)) == 2  # both stand there with open pins
    join_by_role(bare)
    assert bare.state.message.startswith("joined by role: 7 connections")
    assert faults(bare) == []
    join_by_role(bare)
    assert bare.state.message == "Nothing is left to join by role."
    bare.undo()
    assert bare.state.project.hookup.joins == ()
    assert len(bare.state.project.hookup.parts) == 3


def test_a_connection_is_typed(bare: Desk) -> None:
    bare.add("node = 3.3 V board")
    bare.add("led = lamp")
    bare.add("r = resistor 150")
    bare.add("led.+ > p3 through r")
    bare.add("led.− > node.gnd")
    assert [str(join.to) for join in bare.state.project.hookup.joins] == ["node.p3", "node.gnd"]
    assert bare.state.project.hookup.parts["r"].value("resistance") == 150
    assert faults(bare) == []


@pytest.mark.parametrize(
    ("typed", "says"),
    [
        ("r = resistor", "needs its resistance; write it like: r = resistor 4k7"),
        ("r = resistor 5 V", 'resistance = "5 V"'),
        ("d = divider 1k", "needs its lower"),
        ("r = resistor 1k, 1 W, 5 %, 7", '"7" is too much for resistor; it takes resistance = …'),
        ("x = resister", "did you mean resistor"),
        ("= lamp", "needs a name before the ="),
        ("node = lamp", 'There is a part "node" already'),
        ("oddity", "is neither; write"),
        ("node.p1 > node.p99", "node has the pins"),
        ("node.p1 > lid.data", "the project's parts are node"),
        ("p1 > gnd through r", '"r" is not a part of the hook-up'),
    ],
)
def test_what_cannot_be_added_says_what_would_be_right(bare: Desk, typed: str, says: str) -> None:
    bare.add("node = 3.3 V board")
    before = bare.state.history.text
    bare.add(typed)
    assert says in bare.state.message
    assert bare.state.message_is_fault
    assert bare.state.history.text == before


def test_a_part_goes_with_its_connections(wire: Desk) -> None:
    """Comments elsewhere stay; what is read by a channel is not taken away under it."""
    wire.choose_leaf("parts")
    wire.select(("parts", "cell", "kind"))
    wire.take_away()
    assert wire.state.message == "removed: cell with 4 connections"
    assert "cell" not in wire.state.project.hookup.parts
    assert "# at 25 °C" in wire.state.history.text
    wire.select(("parts", "brood half", "kind"))
    wire.take_away()
    assert "must name a part of the hook-up" in wire.state.message
    assert "brood half" in wire.state.project.hookup.parts


def test_a_connection_and_a_sum_are_taken_away(wire: Desk) -> None:
    wire.select((*at_join(wire, "gate.out"), "to"))
    wire.take_away()
    assert wire.state.message == "removed: gate.out to node.p17"
    assert "gate.out (count out) is open." in faults(wire)
    wire.choose_leaf("sums")
    wire.select(("sums", "pack hours", "kind"))
    wire.take_away()
    assert list(wire.state.project.sums) == ["brood half", "stand resistors"]


def test_a_sum_writes_its_part_and_law_takes_it_from_there(wire: Desk) -> None:
    """The brood's divider is one thing: a sum changes it, and the reading in °C follows."""
    before = wire.bench.run(wire.state.project, wire.state.project.channels["brood probe"]).calm.x[20_000]
    wire.edit(("sums", "brood half", "highest"), "66 kΩ")
    note = next(note for note in wire.notes if note.place == ("sums", "brood half"))
    # √(3.3 × 66) = 14.76; of E24 15 kΩ is the nearest.
    assert (note.mark, note.text) == (
        REMARK,
        "brood half: the sum makes a resistor of 15 kΩ, 250 mW; brood half has resistance 10 kΩ.",
    )
    wire.choose_leaf("sums")
    wire.select(("sums", "brood half", "highest"))
    write_sum(wire)
    assert wire.state.project.hookup.parts["brood half"].value("resistance") == 15_000
    after = wire.bench.run(wire.state.project, wire.state.project.channels["brood probe"]).calm.x[20_000]
    # Half as much resistance more is so much colder, by the definition of beta.
    assert after == pytest.approx(1 / (1 / (before + 273.15) + math.log(1.5) / 3950) - 273.15, abs=0.01)
    write_sum(wire)
    assert wire.state.message == "brood half holds the result already."


def test_a_new_sum_makes_a_new_part(bare: Desk) -> None:
    bare.choose_leaf("sums")
    bare.add("a lamp")
    assert 'or write "name = kind"' in bare.state.message
    bare.add("red = lamp")
    assert bare.state.project.sums["red"].kind.name == "lamp resistor"
    write_sum(bare)
    assert bare.state.project.hookup.parts["red"].kind.name == "resistor"
    # (5 − 2) V at 10 mA: 300 Ω.
    assert bare.state.project.hookup.parts["red"].value("resistance") == 300


def test_a_sum_that_cannot_be_is_a_doubt(bare: Desk) -> None:
    bare.choose_leaf("sums")
    bare.add("red = lamp resistor")
    bare.edit(("sums", "red", "forward"), "6 V")
    write_sum(bare)
    assert "no result to write" in bare.state.message
    assert [note.mark for note in bare.notes if note.place == ("sums", "red")] == [DOUBT]


def test_what_was_measured_is_judged_and_forgotten(wire: Desk) -> None:
    """A wrong value is a fault that says what it usually means; the note leads to it; delete forgets it."""
    wire.choose_leaf("bring-up")
    key = ("wire", "measured", "node.5V volts")
    wire.edit(key, "2.1")
    assert value_at(wire.state.project.tables, key) == "2.1 V"
    assert "node.5V volts: 2.1 V, where 4.75 to 5.25 V would be right. Overloaded" in faults(wire)[-1]
    wire.choose_leaf("joins")
    wire.go_to_note(next(index for index, note in enumerate(wire.notes) if note.place == key))
    assert (wire.state.leaf_of(Step.WIRE), wire.state.selected_at(Step.WIRE)) == ("bring-up", key)
    wire.take_away()
    assert "node.5V volts" not in wire.state.project.measured
    assert len(faults(wire)) == 2
    wire.take_away()
    assert wire.state.message == "Nothing has been measured there yet."
    wire.edit(("wire", "measured", "bus answers"), "maybe")
    assert "one of" in wire.state.message
    wire.select(("wire", "measured", "bus answers"))
    wire.nudge(1)
    assert wire.state.project.measured["bus answers"] == "yes"


def test_the_thread_says_where_the_part_is_joined(wire: Desk) -> None:
    tile = picture_of(wire).thread[0]
    assert (tile.value.text, tile.detail, tile.miniature, tile.fault) == ("p13 p14", "amp", "fed 3.3 V", True)
    wire.choose_channel("brood probe")
    tile = picture_of(wire).thread[0]
    assert (tile.value.text, tile.detail) == ("a2", "brood")
    assert words(wire).splitlines()[:2] == [" brood probe is read from brood", "▌brood  thermistor  "]
    wire.select(("channels", "brood probe", "part"))
    wire.nudge(1)
    assert wire.state.chosen.part == "gate"
    assert picture_of(wire).thread[0].value.text == "p17"


def test_a_channel_without_a_part_says_so(bare: Desk) -> None:
    assert (picture_of(bare).thread[0].value.text, picture_of(bare).thread[0].detail) == ("—", "nothing yet")


def test_law_shows_the_part_it_takes(desk: Desk) -> None:
    """The same value in two places is one value."""
    desk.choose_channel("brood probe")
    desk.open_step(Step.LAW)
    assert "resistance 10 kΩ" in words(desk)
    desk.edit(("parts", "brood half", "resistance"), "12k")
    assert desk.state.project.hookup.parts["brood half"].value("resistance") == 12_000
    assert "resistance 12 kΩ" in words(desk)


def test_a_law_that_needs_a_part_finds_one_or_says_so(bare: Desk) -> None:
    bare.open_step(Step.LAW)
    bare.add("divider")
    assert bare.state.message == "divider takes its values from a divider of the hook-up; add one in 1 Wire."
    bare.open_step(Step.WIRE)
    bare.add("shunt 1 = resistor 0.1")
    bare.open_step(Step.LAW)
    bare.add("shunt")
    assert value_at(bare.state.project.tables, ("channels", "tank", "law", 0)) == {"kind": "shunt", "part": "shunt 1"}
    assert bare.state.chosen.unit.symbol == "A"


@pytest.mark.long
def test_every_value_on_every_leaf_can_be_edited_as_it_stands(wire: Desk) -> None:
    """Typing what stands there already changes nothing and is never refused."""
    for leaf in ("joins", "parts", "sums", "bring-up"):
        wire.choose_leaf(leaf)
        for edit in workspace_now(wire).edits:
            if edit.written:
                wire.edit(edit.key, edit.written)
                assert not wire.state.message_is_fault, (edit.key, wire.state.message)
    assert End("gate", "out") in [join.pin for join in wire.state.project.hookup.joins]
    assert wire.state.channel == MASS
