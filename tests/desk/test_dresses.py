"""One reading in several dresses, by keys: a field has rules of its own, and those it has not are the channel's."""

from __future__ import annotations

from typing import Any

import pytest

from lesart.core.step import Step
from lesart.desk.deeds.fit import next_field, own_or_channels
from lesart.desk.desk import Desk
from lesart.desk.picture import workspace_now
from lesart.project.toml_values import value_at
from tests.conftest import AIR

ITEMS = ("faces", "both", "items")


def said(desk: Desk) -> str:
    assert not desk.state.message_is_fault, desk.state.message
    return desk.state.message


def items(desk: Desk) -> Any:
    return value_at(desk.state.project.tables, ITEMS)


def texts(desk: Desk) -> list[str]:
    """How the fields of the lid's air stand on the display at the door."""
    return [item.field.unit_text for _, item in desk.state.project.fields_on("door", AIR)]


@pytest.fixture
def door(desk: Desk) -> Desk:
    """Fit open on the lid's air, which stands on the door's display twice: in °C, and in °F."""
    desk.choose_channel(AIR)
    desk.choose_panel("door")
    desk.open_step(Step.GLASS)
    desk.choose_leaf("items")
    desk.add(f"field {AIR} in °F")
    said(desk)
    desk.open_step(Step.FIT)
    return desk


def test_a_field_is_added_in_a_unit_of_its_own(door: Desk) -> None:
    """With the text that goes with it; the other one and the channel stay as they are."""
    assert items(door)[-1] == {**items(door)[-1], "channel": AIR, "unit": "°F", "unit_text": "°F"}
    assert texts(door) == ["°C", "°F"]
    assert door.state.project.channels[AIR].field.unit_shown.symbol == "°C"
    shown = [item.field.unit_shown.symbol for _, item in door.state.project.fields_on("door", AIR)]
    assert shown == ["°C", "°F"]


def test_another_quantity_is_refused(door: Desk) -> None:
    """With both units."""
    before = door.state.history.text
    door.open_step(Step.GLASS)
    door.add(f"field {AIR} in kg")
    assert door.state.message_is_fault
    assert "°C" in door.state.message
    assert "kg" in door.state.message
    assert door.state.history.text == before


def test_fit_goes_through_the_fields_of_a_channel(door: Desk) -> None:
    """Each with its own unit in front, round and round; what is its own is said, and U turns that one alone."""
    seen = []
    for _ in range(3):
        front = door.state.field_in_front
        assert front is not None
        seen.append(front[2].field.unit_shown.symbol)
        door.turn(next_field)
    assert seen == ["°C", "°F", "°C"]
    door.choose_leaf("rules")
    lines = workspace_now(door).lines
    shown = "\n".join("".join(span.text for span in line) for line in lines)
    assert "unit text, shown in stated for this field alone" in shown
    door.next_unit()
    said(door)
    units = [item.field.unit_shown.symbol for _, item in door.state.project.fields_on("door", AIR)]
    assert units == ["°C", "K"]
    lid = [item.field.unit_shown.symbol for _, item in door.state.project.fields_on("lid", AIR)]
    assert lid == ["°C"]


def test_a_rule_is_made_a_fields_own_and_the_channels_again(door: Desk) -> None:
    """Edits then change that field alone; taken back, it follows the channel."""
    key = door.state.chosen.key("fit")
    door.select((*key, "decimals"))
    own_or_channels(door)
    said(door)
    place = next(index for index, item in enumerate(items(door)) if item.get("channel") == AIR)
    assert items(door)[place]["decimals"] == 1
    assert door.state.selected_at(Step.FIT) == (*ITEMS, place, "decimals")
    door.edit((*ITEMS, place, "decimals"), "0")
    fields = [item.field.decimals for _, item in door.state.project.fields_on("door", AIR)]
    assert fields == [0, 1]
    assert door.state.project.channels[AIR].field.decimals == 1
    own_or_channels(door)
    assert "decimals" not in items(door)[place]
    assert door.state.selected_at(Step.FIT) == (*key, "decimals")
