"""What is typed by hand: raw, a reading, or what a meter shows between the two; held against a pocket calculator."""

from __future__ import annotations

import math
from collections.abc import Iterator
from pathlib import Path

import pytest

from lesart.core.step import Step
from lesart.desk.desk import Desk
from lesart.desk.opening import open_desk
from lesart.project.new.make import make_project


@pytest.fixture
def probe(tmp_path: Path) -> Iterator[Desk]:
    """A thermistor of 10 kΩ below 10 kΩ, on ten bits at 5 V."""
    (tmp_path / "log.csv").write_text("t,adc\n" + "".join(f"{k},{500 + k % 30}\n" for k in range(60)))
    desk = open_desk(make_project(tmp_path / "log.csv", tmp_path / "log").folder)
    desk.open_step(Step.LAW)
    desk.add("ntc 10k 3950")
    assert not desk.state.message_is_fault, desk.state.message
    yield desk
    desk.close()


@pytest.mark.parametrize(
    ("typed", "raw", "behind"),
    [
        ("512", 512, ""),
        ("raw 512", 512, ""),
        ("25 °C", 512, ""),
        ("reading 77 °F", 512, ""),
        ("2.5 V", 512, ", where its converter gives 2.5 V"),  # half of 1024 steps
        ("1250 mV", 256, ", where its converter gives 1250 mV"),
        ("10 kΩ", 512, ", where its half of a divider gives 10 kΩ"),  # as much as the resistor above it
        ("30 kΩ", 768, ", where its half of a divider gives 30 kΩ"),  # three quarters
    ],
)
def test_what_is_typed_is_followed_from_where_it_is(typed: str, raw: float, behind: str, probe: Desk) -> None:
    """A voltage measured at the pin, or a resistance, goes back to the count that it is."""
    probe.take_hand(typed)
    assert probe.state.message == f"By hand: {raw} ct{behind}. h again lets go."
    assert probe.state.hand == raw


@pytest.mark.parametrize(("typed", "share"), [("max", 1.0), ("the lowest", 0.0), ("half", 0.5), ("Full", 1.0)])
def test_an_end_of_the_range_needs_no_number(typed: str, share: float, probe: Desk) -> None:
    """Of what the channel can read, by the beta equation."""
    probe.take_hand(typed)
    chosen = probe.state.chosen
    kelvin = chosen.lowest + share * (chosen.highest - chosen.lowest) + 273.15
    ohm = 10e3 * math.exp(3950 * (1 / kelvin - 1 / 298.15))
    assert probe.state.hand == round(1024 * ohm / (ohm + 10e3))


def test_what_is_none_of_them_is_told_all_three(probe: Desk) -> None:
    probe.take_hand("3 A")
    assert probe.state.message == (
        'adc: "3 A" is neither raw nor a reading; type a raw value like 1000 ct, or a reading like 10 °C, or what is '
        "between, like 2 V."
    )
    assert probe.state.hand is None
