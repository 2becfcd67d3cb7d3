"""The pin that a line about a signal names: its parts are joined there, and not at the first pin that is free."""

from __future__ import annotations

import tomllib
from pathlib import Path
from typing import Any

import pytest

from lesart.core.step import Step
from lesart.desk.desk import Desk
from tests.desk.test_recipes import opened


@pytest.fixture
def desk(tmp_path: Path) -> Desk:
    """Counts of ten bits on a 5 V board, in 3 Law."""
    found = opened(tmp_path, 512)
    found.open_step(Step.WIRE)
    found.add("5 V board")
    found.open_step(Step.LAW)
    return found


def tables(desk: Desk) -> dict[str, Any]:
    return tomllib.loads(desk.state.history.text)


def pins(desk: Desk) -> set[str]:
    """Signal pins of the board in use."""
    ends = {str(each[word]) for each in tables(desk)["wire"]["joins"] for word in ("pin", "to")}
    rails = {"board.gnd", "board.5V", "board.3V3"}
    return {each for each in ends if each.startswith("board.")} - rails


@pytest.mark.parametrize(
    ("line", "pin", "board"),
    [
        ("a thermistor 10k with 10k on A3", "a3", {}),
        ("a 10k thermistor on pin A2", "a2", {}),
        ("NTC 10k 3950 with 10k pullup on A0", "a0", {"analog_pins": "a0-a5"}),
        ("a potentiometer on A4", "a4", {}),
        ("a potentiometer on gpio34", "p34", {"signal_pins": "p1-p34", "analog_pins": "a1-a6 p34"}),
        ("a sensor giving 10 mV/lx on A2", "a2", {}),
        ("66 mV/A, zero 2.5 V on A2", "a2", {}),
        ("thermistor 10k with 10k to analog pin 2", "a2", {}),
        ("thermistor 10k with 10k into ADC3", "a3", {}),
        ("hall current sensor 100 mV/A on GPIO7", "p7", {"analog_pins": "a1-a6 p7"}),
        ("potentiometer on GP14", "p14", {"analog_pins": "a1-a6 p14"}),
    ],
)
def test_its_parts_are_joined_at_the_pin_that_is_said(line: str, pin: str, board: dict[str, str], desk: Desk) -> None:
    desk.add(line)
    assert not desk.state.message_is_fault, desk.state.message
    assert "1 Wire" not in desk.state.message
    assert pins(desk) == {f"board.{pin}"}
    assert tables(desk)["parts"]["board"] == {"kind": "5 V board", **board}
    desk.close()


def test_without_a_pin_it_is_the_first_that_is_free(desk: Desk) -> None:
    desk.add("a 10k thermistor with 10k")
    assert pins(desk) == {"board.a1"}
    desk.close()


@pytest.mark.parametrize(
    ("line", "says"),
    [
        ("a current loop on A3, 0-10 bar", "; what A3 is joined to is said in 1 Wire"),
        ("0.5 lx per count on pin 3", "; what pin 3 is joined to is said in 1 Wire"),
        ("a 10k thermistor with 10k on A12", "; board has no A12, so it is on a1"),
        ("4-20 mA sensor 0-10 bar 250 ohm on A3", "; what A3 is joined to is said in 1 Wire"),
    ],
)
def test_a_pin_that_leads_nowhere_is_told(line: str, says: str, desk: Desk) -> None:
    """Nothing is joined by it, and that is said, rather than dropped."""
    desk.add(line)
    assert not desk.state.message_is_fault, desk.state.message
    assert desk.state.message.startswith(f"counts: {line}; ")
    assert desk.state.message.endswith(says)
    desk.close()


@pytest.mark.parametrize("pin", ["pin 7", "D7"])
def test_what_is_measured_goes_to_no_pin_that_is_low_or_high(pin: str, desk: Desk) -> None:
    """Where the numbers count signal pins alone; GPIO7 may be one that measures, as above."""
    before = desk.state.history.text
    desk.add(f"thermistor 10k with 10k on {pin}")
    assert desk.state.message == (
        "p7 of board measures no voltage; name one that does, like a1, or add it to the analog pins of board in 1 Wire."
    )
    assert desk.state.message_is_fault
    assert desk.state.history.text == before
    desk.close()


def test_a_board_that_is_assumed_has_the_pin_too(tmp_path: Path) -> None:
    """In a new project there is no board yet; the recipe assumes one."""
    desk = opened(tmp_path, 512)
    desk.add("a 10k thermistor with 10k on A3")
    assert not desk.state.message_is_fault, desk.state.message
    assert pins(desk) == {"board.a3"}
    desk.close()
