"""H leads from a value to where it is taken from, and from a note to where its limit is set; both can be seen there."""

from __future__ import annotations

import re

from lesart.core.notes import Key
from lesart.core.step import Step
from lesart.desk.deeds.home import go_home
from lesart.desk.desk import Desk
from lesart.desk.entries.chain import joined_first
from lesart.desk.picture import picture_of, workspace_now
from lesart.project.check import check_project
from lesart.project.toml_values import value_at
from lesart.study.key_places import said_at, seen_at
from tests.project.facts.benches import BENCH


def seen(desk: Desk) -> set[Key]:
    """Every value that can be edited in the workspace."""
    lines = workspace_now(desk).lines
    return {span.edit.key for line in lines for span in line if span.edit is not None}


def look_at(desk: Desk, key: Key) -> None:
    """The step and leaf on which a value stands, with it selected."""
    step, leaf = seen_at(key)
    if key[0] == "channels":
        desk.choose_channel(str(key[1]))
    if key[0] == "panels":
        desk.choose_panel(str(key[1]))
    desk.open_step(step)
    if leaf:
        desk.choose_leaf(leaf)
    desk.select(key)


def test_every_value_that_is_taken_leads_to_its_home(desk: Desk) -> None:
    """And both stand in the workspace, as values that can be changed."""
    homes = desk.state.project.homes
    assert len(homes) > 20
    for key, home in homes.items():
        look_at(desk, key)
        assert key in seen(desk), key
        go_home(desk)
        assert desk.state.selected_at(desk.state.step) == home.key, key
        assert home.key in seen(desk), (key, home.key)


def test_every_note_about_a_limit_leads_to_it(desk: Desk) -> None:
    """It says where the limit is, in words that are on the screen, and H goes there."""
    told = [note for note in desk.notes if note.limit_at is not None]
    assert {note.step for note in told} >= {"fit", "pace"}
    for note in told:
        desk.go_to_note(desk.notes.index(note))
        assert note.limit_at is not None
        where = said_at(desk.state.project, note.limit_at)
        row = picture_of(desk).notes[desk.notes.index(note)]
        assert where
        assert where in row.remedy
        desk.select(None)
        go_home(desk)
        assert note.limit_at in seen(desk), note.limit_at


def test_what_is_at_home_stays(desk: Desk) -> None:
    """A sentence says so; and an empty text is refused there as it was."""
    look_at(desk, ("channels", "lid air", "law", 0, "slope"))
    before = desk.state.step, desk.state.selected_at(desk.state.step)
    go_home(desk)
    assert (desk.state.step, desk.state.selected_at(desk.state.step)) == before
    assert "at home here" in desk.state.message
    text = desk.state.history.text
    desk.edit(("channels", "lid air", "law", 0, "slope"), "")
    assert desk.state.message_is_fault
    assert desk.state.history.text == text


def test_an_empty_value_takes_the_homes(desk: Desk) -> None:
    """What was stated again is gone from the file; what is typed later is stated again."""
    key: Key = ("channels", "brood probe", "law", 0, "supply")
    desk.edit(key, "5 V")
    assert value_at(desk.state.project.tables, key) == "5 V"
    assert any(note.place == key for note in desk.notes)
    desk.edit(key, "  ")
    assert not desk.state.message_is_fault, desk.state.message
    assert value_at(desk.state.project.tables, key) is None
    assert value_at(desk.state.project.stated, key) == "3.3 V"
    assert re.search("taken from node.3V3", desk.state.message)
    desk.undo()
    assert value_at(desk.state.project.tables, key) == "5 V"


def test_a_remedy_that_changes_what_is_taken_changes_its_home(desk: Desk) -> None:
    """The resistor before segments is a part of the hook-up, and not another number in Pace."""
    desk.edit(("panels", "stand", "scan", "segment_limit"), "2 mA")
    note = next(note for note in desk.notes if "a segment carries" in note.text)
    assert [mend.key for mend in note.mend] == [("parts", "stand resistors", "resistance")]
    desk.go_to_note(desk.notes.index(note))
    desk.mend()
    assert not any("a segment carries" in each.text for each in desk.notes)
    assert value_at(desk.state.project.tables, ("panels", "stand", "scan", "resistor")) is None


def test_what_is_added_starts_from_what_the_project_knows(desk: Desk) -> None:
    """Nothing is written that has a home: the gate was counted over already, the battery is in the hook-up."""
    desk.choose_channel("entrance")
    desk.open_step(Step.LAW)
    desk.add("gate rate 1/min")
    assert not desk.state.message_is_fault, desk.state.message
    key: Key = ("channels", "entrance", "law", 0)
    assert "gate" not in value_at(desk.state.project.tables, key)
    assert value_at(desk.state.project.stated, (*key, "gate")) == "60 s"
    assert desk.state.project.channels["entrance"].laws[0].values["gate"] == 60.0
    desk.open_step(Step.WIRE)
    desk.choose_leaf("sums")
    desk.add("pack = battery hours")
    assert not desk.state.message_is_fault, desk.state.message
    assert dict(value_at(desk.state.project.tables, ("sums", "pack"))) == {"kind": "battery hours"}
    assert desk.state.project.sums["pack"].values["capacity"] == 20.0


def test_a_new_half_takes_the_resistor_that_is_joined(desk: Desk) -> None:
    """One that lies in the drawer, and stands first in the file, is not it: then the rail and the side are known
    too."""
    assert next(iter(joined_first(desk.state.project.hookup))) in {"brood half", "stand resistors", "stand switches"}
    text = BENCH.replace("[parts.fix]", '[parts.spare]\nkind = "resistor"\nresistance = "1 kΩ"\n[parts.fix]')
    assert "spare" not in list(joined_first(check_project(text).hookup))[:4]
