"""What stands for no reading, as people say it at ``+`` in 2 Raw, and where another step is told of it."""

from __future__ import annotations

from pathlib import Path

import pytest

from lesart.core.step import Step
from lesart.desk.opening import open_desk
from lesart.project.new.make import make_project
from tests.desk.test_recipes import opened

SAID = [
    ("-127 is no reading", (-127.0,)),
    ("−127 is no reading", (-127.0,)),
    ("ignore -127", (-127.0,)),
    ("bad if 85", (85.0,)),
    ("-127 ct is no reading", (-127.0,)),
    ("no reading is -127", (-127.0,)),
    ("-127, 85 are no readings", (-127.0, 85.0)),
    ("-9999 means missing", (-9999.0,)),
    ("treat 85 as missing", (85.0,)),
    ("85 stands for no reading", (85.0,)),
    ("missing value is -9999", (-9999.0,)),
    ("the missing value is -9999", (-9999.0,)),
    ("-127 = nan", (-127.0,)),
    ("nan = -127", (-127.0,)),
    ("throw out -127.", (-127.0,)),
    ("-127 is an error", (-127.0,)),
    ("error code is 65535", (65_535.0,)),
    ("-127 and 85 are errors", (-127.0, 85.0)),
    ("-127, 85, and 0 are errors", (-127.0, 85.0, 0.0)),
    ("85 is invalid", (85.0,)),
    ("mark -999 as bad", (-999.0,)),
    ("no data = -999.9", (-999.9,)),
    ("no-data is 0", (0.0,)),
    ("drop 85 and -127", (85.0, -127.0)),
    ("a value of 85 is wrong", (85.0,)),
    ("ignore all values of 1023", (1023.0,)),
    ("-9999 as missing", (-9999.0,)),
    ("0 means no data", (0.0,)),
]


@pytest.mark.parametrize(("line", "values"), SAID)
def test_what_stands_for_no_reading(line: str, values: tuple[float, ...], tmp_path: Path) -> None:
    """It stands in the project file from then on."""
    desk = opened(tmp_path)
    desk.open_step(Step.RAW)
    desk.add(line)
    assert not desk.state.message_is_fault, desk.state.message
    assert desk.state.chosen.no_reading == values
    stand = "stands" if len(values) == 1 else "stand"
    assert desk.state.message.endswith(f" {stand} for no reading")


def test_one_more_and_one_that_is_known(tmp_path: Path) -> None:
    """The first is kept; what is said twice changes nothing."""
    desk = opened(tmp_path)
    desk.open_step(Step.RAW)
    desk.add("-127 is no reading")
    desk.add("85 is no reading")
    assert desk.state.chosen.no_reading == (-127.0, 85.0)
    desk.add("85 and -127 are errors")
    assert (desk.state.message_is_fault, desk.state.message) == (
        True,
        "counts: 85 ct and −127 ct are taken for no reading already.",
    )
    desk.undo()
    assert desk.state.chosen.no_reading == (-127.0,)


@pytest.mark.parametrize("step", [Step.LAW, Step.CALM])
@pytest.mark.parametrize("line", ["-127 is no reading", "85 stands for no reading", "treat 85 as missing"])
def test_another_step_says_where(line: str, step: Step, tmp_path: Path) -> None:
    desk = opened(tmp_path)
    desk.open_step(step)
    desk.add(line)
    assert desk.state.message == f'"{line}" is a value that stands for no reading; + in 2 Raw takes it.'


@pytest.mark.parametrize(
    "line",
    [
        "ignore below 3",
        "column 2",
        "no",
        "reading 5",
        "5",
        "-127",
        "the last column",
        "value = 3",
        "data is 5",
        "code = 7",
    ],
)
def test_what_is_something_else(line: str, tmp_path: Path) -> None:
    """A range is a filter, and a number alone says nothing."""
    desk = opened(tmp_path)
    desk.open_step(Step.RAW)
    desk.add(line)
    assert desk.state.chosen.no_reading == ()


def test_the_remedy_marks_what_failed(tmp_path: Path) -> None:
    """A register full of ones among counts is told, and one key takes it for no reading."""
    path = tmp_path / "log.csv"
    path.write_text("t_s,x\n" + "".join(f"{k},{65535 if k == 7 else 500 + k % 30}\n" for k in range(200)))
    make_project(path, tmp_path / "made")
    desk = open_desk(tmp_path / "made")
    place = ("channels", "x", "no_reading")
    (note,) = [each for each in desk.notes if each.place == place]
    assert note.text.startswith("x: 1 of 200 raw values (0.5 %) is 65 535 ct, far from all others")
    desk.go_to_note(desk.notes.index(note))
    desk.mend()
    assert desk.state.project.channels["x"].no_reading == (65_535.0,)
    assert not [each for each in desk.notes if each.place == place]


@pytest.mark.parametrize("line", ["error = 2", "missing = 2", "value = 2"])
def test_a_column_of_the_capture_is_a_channel_whatever_it_is_called(line: str, tmp_path: Path) -> None:
    """Columns of sounds and of some tables have numbers for names."""
    path = tmp_path / "log.csv"
    path.write_text("t_s,1,2,3\ns,V,V,V\n" + "".join(f"{k},{k % 7},{k % 5},{k % 3}\n" for k in range(40)))
    make_project(path, tmp_path / "made")
    desk = open_desk(tmp_path / "made")
    desk.open_step(Step.RAW)
    desk.add(line)
    assert not desk.state.message_is_fault, desk.state.message
    assert desk.state.project.channels[line.partition(" ")[0]].column == "2"
