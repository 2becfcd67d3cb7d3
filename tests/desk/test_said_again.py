"""A signal that is said again: what was wrong is right then, and what another channel has stays its own."""

from __future__ import annotations

import tomllib
from collections.abc import Iterator
from itertools import pairwise
from pathlib import Path
from typing import Any

import pytest

from lesart.core.quantity import parse_quantity
from lesart.core.step import Step
from lesart.core.units import parse_unit
from lesart.desk.desk import Desk
from lesart.desk.entries.recipes.kinds.signals import SIGNALS
from lesart.desk.entries.recipes.recipe import Ask
from lesart.desk.hand import follow
from lesart.desk.opening import open_desk
from lesart.desk.project_folders import make_job
from lesart.project.new.make import make_project
from tests.desk.test_recipes import READS, half_ohm, opened, thermistor_c


def another(ask: Ask) -> str:
    """A value that is not the usual one."""
    parameter, usual = ask.parameter, ask.usual
    if parameter.choices:
        return next(str(each) for each in parameter.choices if each != usual)
    if parameter.kind == "integer":
        return str(int(usual) + 2)
    if parameter.kind == "unit":
        return "kPa"
    quantity = parse_quantity(str(usual), parse_unit("1"))
    number = float(quantity.value) * 1.1 or 0.1
    return f"{number:.6g} {quantity.unit}".removesuffix(" 1")


def tables(desk: Desk) -> dict[str, Any]:
    return tomllib.loads(desk.state.history.text)


@pytest.mark.parametrize("name", SIGNALS)
def test_what_is_said_again_is_as_if_it_had_been_said_at_once(name: str, tmp_path: Path) -> None:
    """Over every question of every signal: once with what is usual, then with something else."""
    recipe = SIGNALS[name]
    lines = [f"{recipe.begins}, {ask.word} = {another(ask)}" for ask in recipe.asks]
    desk = opened(tmp_path, READS[name][0])
    at_once = [said(desk, line) for line in lines]
    desk.add(recipe.begins)
    for line, (message, is_fault, wanted) in zip(lines, at_once, strict=True):
        told, is_fault_again, found = said(desk, line)
        assert told == message or "assumed" in told
        assert is_fault_again == is_fault
        assert is_fault or found == wanted, line
    desk.close()


def said(desk: Desk, line: str) -> tuple[str, bool, dict[str, Any]]:
    """What is answered, and what the project is then; it is as it was before afterwards."""
    desk.add(line)
    found = desk.state.message, desk.state.message_is_fault, tables(desk)
    if not desk.state.message_is_fault:
        desk.undo()
    return found


@pytest.mark.long
def test_one_signal_after_the_other_can_be_said(tmp_path: Path) -> None:
    """Whatever was said before: a raw unit that came of it stands in nobody's way, nor does a resistor that was its."""
    desk = opened(tmp_path)
    # Without an amplifier 2.5 V is not a thermocouple's, and a platinum resistor is never 512 of 32 768 of its reference.
    lines = [recipe.begins for name, recipe in SIGNALS.items() if name not in ("thermocouple", "platinum converter")]
    for before, line in [*pairwise(lines), *pairwise(reversed(lines))]:
        desk.add(before)
        desk.add(line)
        assert not desk.state.message_is_fault, (before, line, desk.state.message)
        assert tables(desk)["channels"]["counts"]["raw_unit"] in ("ct", "µs", "°C")
        for _ in (before, line):
            desk.undo()
    desk.close()


def test_a_unit_that_is_another_one_from_now_on_is_told(tmp_path: Path) -> None:
    desk = opened(tmp_path, 5800)
    desk.add("already in °C")
    desk.add("a time of an echo")
    assert "raw values in µs, no longer in °C" in desk.state.message
    desk.close()


def test_a_unit_that_the_capture_says_is_not_taken_for_another(tmp_path: Path) -> None:
    desk = opened(tmp_path, 512, "temp C")
    desk.add("a bridge of 5 kg")
    assert desk.state.message_is_fault
    assert "is in °C" in desk.state.message
    desk.close()


@pytest.fixture
def two(tmp_path: Path) -> Iterator[Desk]:
    """A capture of two columns, about 512 and about 400 counts."""
    rows = "".join(f"{second},{512 + second % 3},{400 + second % 3}\n" for second in range(200))
    (tmp_path / "two.csv").write_text(f"t,one,other\n{rows}")
    make_project(tmp_path / "two.csv", tmp_path / "two")
    desk = open_desk(tmp_path / "two")
    desk.open_step(Step.LAW)
    yield desk
    desk.close()


def read(desk: Desk, channel: str, raw: float) -> float:
    """What the channel reads, its decimals and filters aside."""
    return float(follow(desk.state.project, desk.state.project.channels[channel], raw).reading.value)


def test_each_channel_has_a_resistor_of_its_own(two: Desk) -> None:
    """Both halves are read by Ohm's law, each with what was said of it; changed later it is one of them that
    changes."""
    two.choose_channel("one")
    two.add("a 10k NTC with 10k")
    two.choose_channel("other")
    two.add("a 10k NTC with 2k2")
    wanted = {"one": (512, 10_000.0), "other": (400, 2_200.0)}
    for channel, (raw, fixed) in wanted.items():
        assert read(two, channel, raw) == pytest.approx(thermistor_c(half_ohm(raw, 10, fixed), 3950), abs=0.01)
    two.choose_channel("one")
    two.add("a 10k NTC with 4k7")
    wanted["one"] = (512, 4_700.0)
    for channel, (raw, fixed) in wanted.items():
        assert read(two, channel, raw) == pytest.approx(thermistor_c(half_ohm(raw, 10, fixed), 3950), abs=0.01)
    assert len({table["part"] for table in tables(two)["channels"].values()}) == 2


def test_what_is_read_twice_is_one_sensor(two: Desk) -> None:
    """Two channels of one column, say in two units, stand on one thermistor and its resistor."""
    two.choose_channel("one")
    two.add("a 10k NTC with 4k7")
    two.open_step(Step.RAW)
    two.add("again = one")
    two.choose_channel("again")
    two.add("a 10k NTC with 4k7")
    assert not two.state.message_is_fault, two.state.message
    found = tables(two)
    assert found["channels"]["again"]["part"] == found["channels"]["one"]["part"]
    assert [name for name, part in found["parts"].items() if part["kind"] == "resistor"] == ["half"]
    assert read(two, "again", 512) == read(two, "one", 512)


def test_a_resistor_that_was_something_else_is_no_shunt(two: Desk) -> None:
    """Half of a divider of 10 kΩ: nobody said that the loop runs through it."""
    two.choose_channel("one")
    two.add("a 10k NTC with 10k")
    two.add("a current loop 0 to 10 bar")
    assert not two.state.message_is_fault, two.state.message
    found = tables(two)
    shunt = next(law["part"] for law in found["channels"]["one"]["law"] if law["kind"] == "shunt")
    assert found["parts"][shunt]["resistance"] == "165 Ω"
    assert "part" not in found["channels"]["one"]  # it is read from no thermistor any longer


def test_a_resistor_of_the_hook_up_takes_what_is_said_of_it(tmp_path: Path) -> None:
    """In a project that was wired by hand; what means the same is left as it is written."""
    folder = make_job("hut", tmp_path / "hut")
    desk = open_desk(folder)
    desk.open_step(Step.LAW)
    before = tables(desk)["parts"]
    desk.add("a 10k NTC with 10k")
    assert not desk.state.message_is_fault, desk.state.message
    assert tables(desk)["parts"] == before
    desk.add("a 10k NTC with 4k7")
    parts = tables(desk)["parts"]
    assert parts.keys() == before.keys()
    assert parts["fix"]["resistance"].startswith("4k7")
    for _ in range(3):
        desk.undo()
    desk.close()
