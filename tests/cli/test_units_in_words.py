"""Units in words wherever a command or a screen takes a number: the same as with the symbol."""

from __future__ import annotations

from pathlib import Path

import pytest

from lesart.cli.main import main
from lesart.core.step import Step
from lesart.desk.opening import open_desk
from lesart.desk.project_folders import make_job

ALIKE = [
    (["law", "echo", "5800 µs"], ["law", "echo", "5800 microseconds"]),
    (
        ["law", "converter", "2048", "--set", "reference=3.3 V", "--set", "bits=12"],
        ["law", "converter", "2048", "--set", "reference=3.3 volts", "--set", "bits=12 bits"],
    ),
    (["hand", "HUT", "room", "--reading", "25 °C"], ["hand", "HUT", "room", "--reading", "25 C"]),
    (["hand", "HUT", "room", "--reading", "77 °F"], ["hand", "HUT", "room", "--reading", "77 deg F"]),
    (
        ["read", "HUT", "room", "--from", "1", "--to", "60"],
        ["read", "HUT", "room", "--from", "1 second", "--to", "1 minute"],
    ),
    (["pace", "HUT", "--for", "1 min"], ["pace", "HUT", "--for", "1 minute"]),
    (["why", "HUT", "room", "--should", "21 °C"], ["why", "HUT", "room", "--should", "21 degrees"]),
]


@pytest.fixture(scope="module")
def hut(tmp_path_factory: pytest.TempPathFactory) -> Path:
    return make_job("hut", tmp_path_factory.mktemp("hut") / "hut")


@pytest.mark.parametrize(("symbols", "words"), ALIKE, ids=[" ".join(words) for _, words in ALIKE])
def test_a_command_answers_the_same(
    symbols: list[str], words: list[str], hut: Path, capsys: pytest.CaptureFixture[str]
) -> None:
    answers = []
    for arguments in (symbols, words):
        code = main([str(hut) if each == "HUT" else each for each in arguments])
        answers.append((code, *capsys.readouterr()))
    assert answers[0] == answers[1]
    assert answers[0][0] in (0, 1)
    assert answers[0][1]


def test_a_reading_is_no_raw_value(hut: Path, capsys: pytest.CaptureFixture[str]) -> None:
    assert main(["hand", str(hut), "room", "--raw", "25 C"]) == 2
    assert capsys.readouterr().err == 'lesart: --raw "25 C" is a reading; --reading takes it.\n'


def test_a_time_of_another_kind_is_refused(hut: Path, capsys: pytest.CaptureFixture[str]) -> None:
    with pytest.raises(SystemExit):
        main(["read", str(hut), "room", "--to", "7 kg"])
    assert "argument --to: kg cannot be converted to s" in capsys.readouterr().err


def test_the_desk_takes_them_in_every_place(hut: Path) -> None:
    """In hand, as a reference, as the limit of an alarm, as what a filter is to leave, and as a task's time."""
    desk = open_desk(hut)
    desk.take_hand("25 C")
    assert desk.state.hand == 512
    desk.take_hand("512 counts")
    assert desk.state.hand == 512
    desk.open_step(Step.TRUE)
    desk.add("21 C")
    assert desk.state.chosen.references[-1].true == 21
    desk.add("68 deg F")
    assert desk.state.chosen.references[-1].true == pytest.approx(20)
    desk.open_step(Step.CALM)
    desk.add("alarm above 30 degrees")
    assert desk.state.chosen.alarms[-1].limit == 30
    desk.add("time constant 2 seconds")
    assert not desk.state.message_is_fault, desk.state.message
    desk.open_step(Step.PACE)
    desk.add("log every 5 seconds takes 40 milliseconds")
    assert desk.state.message == "added: log, every 5 s, takes 40 ms"
    for _ in range(9):
        desk.undo()
    desk.close()
