"""Why a reading is wrong, at the desk: truths said by key, answers on a leaf, the change written by x."""

from __future__ import annotations

from dataclasses import replace
from pathlib import Path

import pytest

from lesart.core.step import Step
from lesart.desk.deeds.turning import turn_over
from lesart.desk.deeds.why import LEAF, ask_why
from lesart.desk.desk import Desk
from lesart.desk.picture import context_of, picture_of, workspace_now
from lesart.desk.workspace.glass.why import asked_here
from lesart.desk.workspace.true.why import why_here
from lesart.project.toml_values import value_at
from lesart.study.why.number import WhyNumber
from lesart.study.why.of_glass import glass_suspects
from tests.warm import open_warm

MASS = "hive 2 mass"
GAIN = ("channels", MASS, "law", 0, "gain")


@pytest.fixture
def halved(yard: Path) -> Desk:
    """The yard with half of the scale's gain."""
    file = yard / "lesart.toml"
    file.write_text(file.read_text().replace('gain = "128"', 'gain = "64"', 1))
    return open_warm(yard)


def lines_of(desk: Desk) -> str:
    return "\n".join("".join(span.text for span in line) for line in workspace_now(desk).lines)


def test_the_gain_is_named_written_and_undone(halved: Desk) -> None:
    halved.choose_channel(MASS)
    halved.open_step(Step.RAW)
    ask_why(halved, "43 kg ± 0.5")
    assert (halved.state.step, halved.state.leaf_of(Step.TRUE)) == (Step.TRUE, LEAF)
    picture = picture_of(halved)
    assert "gain of bridge converter is 64; it would be 128" in lines_of(halved)
    assert GAIN in {edit.key for edit in picture.workspace.edits}
    assert picture.workspace.chart is not None
    assert [series.name for series in picture.workspace.chart.series][:2] == ["as it is", "if 1"]
    turn_over(halved)
    assert value_at(halved.state.project.tables, GAIN) == "128"
    assert "That is right as it is" in lines_of(halved)
    halved.undo()
    assert value_at(halved.state.project.tables, GAIN) == "64"


def test_a_second_truth_is_of_what_is_in_hand(halved: Desk) -> None:
    """It tells more; with nothing typed all of it is forgotten."""
    halved.choose_channel(MASS)
    ask_why(halved, "43 kg ± 0.5")
    halved.take_hand("900000")
    ask_why(halved, "84.2 kg ± 0.5")
    assert [truth.raw for truth in halved.state.why.truths][1] == 900_000
    assert "900 000 ct" in lines_of(halved)
    ask_why(halved, "")
    assert halved.state.why.truths == ()


def test_what_is_no_reading_is_refused_and_nothing_is_lost(halved: Desk) -> None:
    halved.choose_channel(MASS)
    ask_why(halved, "43 kg")
    before = halved.state.why
    ask_why(halved, "heavy")
    assert halved.state.message_is_fault
    assert "write what it should read, like 21.5 kg" in halved.state.message
    assert halved.state.why == before


def test_truths_are_of_one_channel_and_of_one_variant(desk: Desk) -> None:
    desk.choose_channel(MASS)
    ask_why(desk, "50 kg")
    desk.choose_channel("battery")
    desk.turn(lambda state: replace(state, step=Step.TRUE).turned_to(Step.TRUE, LEAF))
    assert "Does battery read something wrong?" in lines_of(desk)
    turn_over(desk)
    assert desk.state.message == "Nothing is asked yet; y says what it should read."


def test_references_are_answered_without_a_question(desk: Desk) -> None:
    desk.choose_channel(MASS)
    desk.turn(lambda state: replace(state, step=Step.TRUE).turned_to(Step.TRUE, LEAF))
    assert "That is right as it is" in lines_of(desk)


def test_looks_of_a_panel_are_picked_until_one_thing_is_left(desk: Desk) -> None:
    """By number; what stands on the face when it began is what was looked at; x writes what mends it."""
    desk.open_step(Step.GLASS)
    ask_why(desk, "")
    assert desk.state.leaf_of(Step.GLASS) == LEAF
    assert workspace_now(desk).glass is None
    anode = "the segments of a digit share their anode"
    for _ in range(9):
        context = context_of(desk)
        panel = context.project.panels[context.glasses[0].name]
        question = asked_here(context, panel).question
        if question is None:
            break
        truth = next(each for each in glass_suspects(panel) if each.says.startswith(anode)).look(question.memory)
        desk.put_cursor(desk.state.cursor_s + 300.0)  # the face goes on; the looks are of what it was
        ask_why(desk, str(next((at for at, look in enumerate(question.looks, 1) if look.frame == truth), 0)))
    assert "The segments of a digit share their anode" in lines_of(desk)
    turn_over(desk)
    assert value_at(desk.state.project.tables, ("panels", "stand", "common")) == "anode"
    desk.undo()
    assert value_at(desk.state.project.tables, ("panels", "stand", "common")) is None


def test_a_look_that_is_not_there_is_refused(desk: Desk) -> None:
    desk.open_step(Step.GLASS)
    ask_why(desk, "")
    turn_over(desk)
    assert desk.state.message == "It is not answered yet; y says which look you see."
    for typed in ("12", "x", "-1"):
        ask_why(desk, typed)
        assert desk.state.message == f'"{typed}" is not one of these looks; type a number from 0 to 9.'
        assert desk.state.why.picks == ()


def test_nothing_comes_of_a_part(desk: Desk) -> None:
    """The channel's own where none is named; a wrong measure ends the list."""
    desk.choose_channel("yard air")
    desk.open_step(Step.WIRE)
    ask_why(desk, "")
    assert "Nothing comes of air?" in lines_of(desk)
    assert "door.supply" not in lines_of(desk)
    ask_why(desk, "lid air")
    assert "Nothing comes of lid probe?" in lines_of(desk)
    assert "Warm, press or shade lid probe" in lines_of(desk)
    desk.edit(("wire", "measured", "lid probe.supply volts"), "0.3 V")
    assert "That explains it" in lines_of(desk)
    assert "Warm, press or shade lid probe" not in lines_of(desk)
    ask_why(desk, "moon")
    assert desk.state.message.startswith('"moon" is not a part of the hook-up; there are ')


@pytest.mark.long
def test_pulses_are_missed_and_the_change_is_written(desk: Desk) -> None:
    desk.open_step(Step.PACE)
    ask_why(desk, "hums")
    assert desk.state.message == '"hums" is not a symptom; it is one of flickers, lags, missed, freezes.'
    ask_why(desk, "Missed")
    assert "if count beam runs by interrupt: 0 %" in lines_of(desk)
    turn_over(desk)
    assert value_at(desk.state.project.tables, ("loop", "tasks", "count beam", "runs")) == "by interrupt"
    assert "By the figures of the loop nothing is missed" in " ".join(lines_of(desk).split())
    turn_over(desk)
    assert desk.state.message == "Nothing is asked yet; y says what you see."


def test_two_mistakes_are_written_one_after_the_other(yard: Path) -> None:
    """A sensor whose zero and slope are wrong: the pair is named, x mends what the project has a place for."""
    file = yard / "lesart.toml"
    wrong = file.read_text().replace('input = "500 mV"', 'input = "50 mV"', 1).replace("10 mV/°C ±", "20 mV/°C ±", 1)
    file.write_text(wrong)
    desk = open_warm(yard)
    desk.choose_channel("lid air")
    for raw in (420, 700, 1050):
        desk.take_hand(f"{raw} mV")
        ask_why(desk, f"{(raw - 500) / 10} °C ± 0.1")
    pair = why_here(context_of(desk))
    assert isinstance(pair, WhyNumber)
    assert len(pair.answers[0].explanation.suspects) == 2
    assert "   and the reading is half of what it should be" in lines_of(desk)
    law = ("channels", "lid air", "law", 0)
    before = desk.state.history.text
    turn_over(desk)
    assert value_at(desk.state.project.tables, (*law, "input")) == "500 mV"
    assert "slope of linear is 20 mV/°C; it would be 10 mV/°C" in lines_of(desk)
    turn_over(desk)
    assert value_at(desk.state.project.tables, (*law, "slope")) == "10 mV/°C"
    assert "That is right as it is" in lines_of(desk)
    desk.undo()
    desk.undo()
    assert desk.state.history.text == before


@pytest.mark.parametrize(
    ("said", "part"),
    [
        ("air", "air"),
        ("Air", "air"),
        ("the load cell", "cell"),
        ("thermistor", "brood"),
        ("brood probe", "brood"),
        ("Brood Probe", "brood"),
        ("the board", "node"),
        ("lcd", "door"),
        ("hive 2", "amp"),
        ("hive 2 mass", "amp"),
        ("no answer from air", "air"),
        ("nothing comes from air", "air"),
        ("stand is dark", "stand"),
        ("why is the air sensor dead?", ""),
        ("why is stand dead?", "stand"),
        ("the board does not answer", "node"),
        ("air says nothing", "air"),
    ],
)
def test_which_part_is_silent(said: str, part: str, desk: Desk) -> None:
    desk.open_step(Step.WIRE)
    ask_why(desk, said)
    assert desk.state.message_is_fault is not bool(part)
    assert desk.state.why.part == part


@pytest.mark.parametrize(
    ("said", "told"),
    [
        ("resistor", '"resistor" may be brood half or stand resistors; name one of them.'),
        ("the scale", '"scale" may be amp or lid probe or brood; name one of them.'),
        ("wind", "wind: which part it is read from is not said; set wind's part in 2 Raw, or name the part."),
    ],
)
def test_what_is_several_parts_or_of_none(said: str, told: str, desk: Desk) -> None:
    desk.open_step(Step.WIRE)
    ask_why(desk, said)
    assert (desk.state.message_is_fault, desk.state.message) == (True, told)
