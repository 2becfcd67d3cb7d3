"""All that can be found is gone to: every kind of value of the yard, every note, every name."""

from __future__ import annotations

import pytest

from lesart.core.step import Step
from lesart.desk.deeds.finding import find, findable, search
from lesart.desk.deeds.going import go_to
from lesart.desk.desk import Desk
from lesart.desk.picture import picture_of
from lesart.project.schema import parameters_at, tables_in
from lesart.project.toml_values import value_at

NOT_ON_A_SCREEN = {
    "name",
    "source",
    "count",
    "taken",
    "channel",
    "pin",
    "panel",
    "scale",
    "check",
    "date",
    "true",
    "indicated",
    "stale_after",
    "unit_text",
    "decimals",
    "width",
}
"""Names of values of which some stand in the file only, or are shown where their item is looked at in Fit; the step
that they belong to is opened all the same."""


@pytest.mark.long
def test_each_kind_of_value_is_selected_where_it_stands(desk: Desk) -> None:
    """One of each parameter of each kind of table."""
    project, seen, unseen = desk.state.project, set(), set()
    for table in tables_in(project.tables):
        for parameter in parameters_at(project, table):
            key = (*table, parameter.name)
            shape = (table[0], *(part for part in table[2:] if isinstance(part, str)), parameter.name)
            of = (shape, value_at(project.tables, (*table, "kind")))
            if of in seen or not isinstance(value_at(project.tables, key), str | int | bool):
                continue
            seen.add(of)
            go_to(desk, key)
            if key not in [edit.key for edit in picture_of(desk, wait_for_notes=False).workspace.edits]:
                unseen.add(parameter.name)
    assert len(seen) > 150
    assert unseen <= NOT_ON_A_SCREEN


def test_names_and_notes(desk: Desk) -> None:
    """By what the list calls them; the list itself is found by any word."""
    assert desk.notes
    find(desk, "channel syrup below")
    assert desk.state.channel == "syrup below"
    find(desk, "panel mast")
    assert (desk.state.step, desk.state.panel) == (Step.GLASS, "mast")
    missed = next(index for index, note in enumerate(desk.notes) if "858 of" in note.text)
    find(desk, f"note {missed + 1} †")
    assert desk.state.note is not None
    assert "858 of" in desk.notes[desk.state.note].text
    find(desk, "capacity of law 2 of hive 2 mass")
    assert desk.state.selected_at(Step.LAW) == ("channels", "hive 2 mass", "law", 1, "capacity")
    assert desk.state.message == "capacity of law 2 of hive 2 mass: 200 kg"
    find(desk, "zzz")
    assert desk.state.message_is_fault
    assert desk.state.message == 'Nothing here has "zzz" in it.'


def test_every_note_and_name_is_in_the_list_once(desk: Desk) -> None:
    """So that a choice means one thing."""
    assert desk.notes
    search(desk)
    texts = [offer.text for offer in desk.state.offers[""]]
    assert len(texts) == len(set(texts)) == len(list(findable(desk)))
    for name in desk.state.project.channels:
        assert f"channel {name}" in texts
    for number in range(1, len(desk.notes) + 1):
        assert any(text.startswith(f"note {number} ") for text in texts)
