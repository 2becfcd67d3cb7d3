"""Contacts, instruments of a weather station and batteries at + in 1 Wire, in a project without any part."""

from __future__ import annotations

import tomllib
from typing import Any

import pytest

from lesart.desk.desk import Desk


def tables(desk: Desk) -> dict[str, Any]:
    return tomllib.loads(desk.state.history.text)


@pytest.mark.parametrize(
    ("line", "kind", "pin", "rail"),
    [
        ("button on p2 to ground", "contact", "p2", "gnd"),
        ("button on 2 with internal pull-up", "contact", "p2", "gnd"),
        ("button on pin 2 with pull-up", "contact", "p2", "gnd"),
        ("button on 2 with pull-down", "contact", "p2", "5V"),
        ("switch between 2 and ground", "contact", "p2", "gnd"),
        ("switch between pin 2 and 5V", "contact", "p2", "5V"),
    ],
)
def test_a_contact_leads_away_from_the_pull_of_the_board(
    line: str, kind: str, pin: str, rail: str, unwired: Desk
) -> None:
    """A pull-up without ohms is built into the board; the other leg of the contact was left open."""
    before = unwired.state.history.text
    unwired.add(line)
    assert not unwired.state.message_is_fault, unwired.state.message
    now = tables(unwired)
    (name,) = [each for each in now["parts"] if now["parts"][each]["kind"] == kind]
    joins = {(each["pin"], each["to"]): each.get("through", "") for each in now["wire"]["joins"]}
    assert joins == {(f"{name}.1", f"board.{pin}"): "", (f"{name}.2", f"board.{rail}"): ""}
    unwired.undo()
    assert unwired.state.history.text == before


@pytest.mark.parametrize(
    ("line", "kind"),
    [
        ("anemometer reed on 3", "contact"),
        ("rain sensor tipping bucket on interrupt pin 2", "contact"),
        ("wind vane on a2", "potentiometer"),
    ],
)
def test_the_instruments_of_a_weather_station_are_parts(line: str, kind: str, unwired: Desk) -> None:
    before = unwired.state.history.text
    unwired.add(line)
    assert not unwired.state.message_is_fault, unwired.state.message
    assert kind in [table["kind"] for table in tables(unwired)["parts"].values()]
    unwired.undo()
    assert unwired.state.history.text == before


def test_a_battery_and_where_it_leads_are_two_entries(unwired: Desk) -> None:
    """It was taken for a signal of another step."""
    unwired.add("9 V battery to vin")
    assert unwired.state.message == (
        '"9 V battery to vin" is a part and a connection, which are two entries: first 9 V battery, then battery + to '
        "board in."
    )
