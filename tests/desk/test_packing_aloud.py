"""What is said of a pack at + in 9 Pack, held against the tables that it becomes."""

from __future__ import annotations

import tomllib
from collections.abc import Iterator
from pathlib import Path
from typing import Any

import pytest

from lesart.core.pack.settings import SETTINGS
from lesart.core.step import Step
from lesart.desk.desk import Desk
from lesart.desk.entries.aloud.packing import PACKED
from lesart.desk.opening import open_desk
from lesart.project.new.make import make_project

PACKS: list[tuple[str, dict[str, Any]]] = [
    ("16 bit", {"word": "16"}),
    ("32 bits", {"word": "32"}),
    ("a word of 16 bits", {}),
    ("int16_t", {"word": "16"}),
    ("8-bit processor", {"word": "16"}),
    ("16 bit, no divider", {"word": "16", "divider": False}),
    ("16-bit without multiplier", {"word": "16", "multiplier": False}),
    ("no hardware divide", {"divider": False}),
    ("has a multiplier and a divider", {}),
    ("has a multiplier", {"multiplier": True}),
    ("within 10 %", {"share": "10 %"}),
    ("error below 12,5 % of a digit", {"share": "12.5 %"}),
    ("error below 1 digit", {"share": "100 %"}),
    ("within half a digit", {"share": "50 %"}),
    ("error under 0.5 digit", {"share": "50 %"}),
    ("off by at most a tenth of a digit", {"share": "10 %"}),
    ("500 vectors", {"vectors": 500}),
    ("use int32", {"word": "32"}),
    ("8-bit mcu", {"word": "16"}),
    ("no 64 bit", {"word": "16"}),
    ("use 16 bit integers, no divider", {"word": "16", "divider": False}),
]
COMPUTED = [
    ("in whole numbers", "whole numbers"),
    ("fixed point", "whole numbers"),
    ("no fpu", "whole numbers"),
    ("integer only", "whole numbers"),
    ("use fixed point arithmetic", "whole numbers"),
    ("in floats", "floats"),
    ("exactly", "floats"),
]


@pytest.fixture
def desk(tmp_path: Path) -> Iterator[Desk]:
    (tmp_path / "log.csv").write_text("t,air [°C]\n" + "".join(f"{k},{20 + k % 5}.5\n" for k in range(60)))
    made = open_desk(make_project(tmp_path / "log.csv", tmp_path / "log").folder)
    made.open_step(Step.PACK)
    yield made
    made.close()


def tables(desk: Desk) -> dict[str, Any]:
    return tomllib.loads(desk.state.history.text)


@pytest.mark.parametrize(("line", "wanted"), [each for each in PACKS if each[1]], ids=lambda each: str(each))
def test_the_processor_is_what_was_said(line: str, wanted: dict[str, Any], desk: Desk) -> None:
    """Each value told, and taken back in one edit."""
    before = desk.state.history.text
    desk.add(line)
    assert not desk.state.message_is_fault, desk.state.message
    assert tables(desk)["pack"] == wanted
    titles = {each.name: each.title for each in SETTINGS}
    told = {True: "yes", False: "no"}
    said = [
        f"{titles[name]} {told.get(value, value) if isinstance(value, bool) else value}"
        for name, value in wanted.items()
    ]
    assert desk.state.message == f"pack: {', '.join(said)}"
    desk.undo()
    assert desk.state.history.text == before


@pytest.mark.parametrize("line", [line for line, wanted in PACKS if not wanted])
def test_what_is_half_understood_changes_nothing(line: str, desk: Desk) -> None:
    before = desk.state.history.text
    desk.add(line)
    assert desk.state.message_is_fault
    assert " says nothing of a pack; say its processor, like 16 bit" in desk.state.message
    assert desk.state.history.text == before


@pytest.mark.parametrize(("line", "computed"), COMPUTED)
def test_the_channel_is_worked_out_as_was_said(line: str, computed: str, desk: Desk) -> None:
    desk.add(line)
    assert not desk.state.message_is_fault, desk.state.message
    (channel,) = tables(desk)["channels"].values()
    assert channel["pack"] == {"computed": computed}


@pytest.mark.parametrize(
    ("line", "share"),
    [
        ("accuracy 0.1 °C", "10 %"),
        ("error below 0.5 °C", "50 %"),
        ("accurate to 0,2 °C", "20 %"),
        ("within 0.9 °F", "50 %"),
        ("precise to ±1 °C", "100 %"),
    ],
)
def test_how_near_may_be_said_in_its_unit(line: str, share: str, desk: Desk) -> None:
    """The field has a last place of 1 °C."""
    assert desk.state.chosen.field.decimals == 0
    desk.add(line)
    assert not desk.state.message_is_fault, desk.state.message
    assert tables(desk)["pack"] == {"share": share}


@pytest.mark.parametrize(
    ("line", "says"),
    [
        (
            "accuracy 0.01 °C",
            "0.01 °C is 1 % of the field's last place, 1 °C; whole numbers come within 5 to 100 % of it. Its decimals "
            "are set in 6 Fit.",
        ),
        (
            "accuracy 0.5 %",
            '"accuracy 0.5 %": of what is not said; write accuracy 0.1 and the unit of the field, or within 10 % of its '
            "last place.",
        ),
        (
            "return tenths of a degree",
            '"return tenths of a degree": the step of whole numbers follows from the field\'s last place and within.',
        ),
        (
            "at most 2 kB",
            '"at most 2 kB": table sizes follow from how near it has to be: within 50 % needs less.',
        ),
        (
            "prefix hut_",
            '"prefix hut_": names in the code are those of the project\'s channels and panels; R renames one.',
        ),
    ],
)
def test_what_a_pack_does_otherwise_is_told(line: str, says: str, desk: Desk) -> None:
    before = desk.state.history.text
    desk.add(line)
    assert (desk.state.message_is_fault, desk.state.message) == (True, says)
    assert desk.state.history.text == before


@pytest.mark.parametrize("line", PACKED)
def test_all_that_is_offered_is_taken(line: str, desk: Desk) -> None:
    desk.add(line)
    assert not desk.state.message_is_fault, desk.state.message


def test_nothing_of_a_pack_is_taken_away(desk: Desk) -> None:
    before = desk.state.history.text
    desk.take_away()
    assert desk.state.message == "A pack always has all its values; enter changes one."
    assert desk.state.history.text == before
