"""Fit at the desk: leaves, alarms and words down to the glass, honest decimals typed, a field swept by hand."""

from __future__ import annotations

from pathlib import Path

import pytest

from lesart.core.step import Step
from lesart.desk.desk import Desk
from lesart.desk.opening import open_desk
from lesart.desk.picture import context_of, picture_of, workspace_now
from lesart.desk.project_folders import make_job
from tests.conftest import AIR, MASS


def words(desk: Desk) -> str:
    """The lines of the workspace."""
    lines = workspace_now(desk).lines
    return "\n".join("".join(span.text for span in line) for line in lines)


@pytest.fixture
def fit(desk: Desk) -> Desk:
    """Fit open on the mass of hive 2."""
    desk.choose_channel(MASS)
    desk.open_step(Step.FIT)
    return desk


def rule(desk: Desk, name: str, typed: str) -> None:
    """A rule of the channel's field."""
    desk.edit(("channels", MASS, "fit", name), typed)
    assert not desk.state.message_is_fault, desk.state.message


def test_how_digits_come_about(fit: Desk) -> None:
    """In a line under the cells, and step by step on a leaf of their own with what each cell is sent."""
    fit.take_hand("42.2 kg")
    assert "422 ÷ 100 = 4 r 22   22 ÷ 10 = 2 r 2" in words(fit)
    assert "0100 0010 0010" in words(fit)
    fit.choose_leaf("digits")
    shown = words(fit)
    assert "in a word of 16 bits" in shown
    assert "0x66  01100110" in shown  # 4: segments b, c, f, g
    assert "0xDB  11011011" in shown  # 2 with its point
    fit.take_hand("-1 kg")
    rule(fit, "shows", "alarm")
    assert "no number here" in words(fit)


def test_the_whole_range_is_swept(fit: Desk) -> None:
    """Borders are floats next to each other; on two more cells nothing of the range is too wide."""
    fit.choose_leaf("sweep")
    shown = words(fit)
    assert "9.9499999999999993" in shown
    assert "9.950000000000001" in shown
    assert "overflow" not in shown
    rule(fit, "decimals", "2")
    assert "overflow" in words(fit)


def test_honest_decimals_are_typed_as_a_word(fit: Desk) -> None:
    """They become the number that tolerance, noise and count allow; where nothing is known, a sentence."""
    rule(fit, "decimals", "3")
    rule(fit, "decimals", " Honest ")
    assert fit.state.chosen.field.decimals == 1
    fit.choose_channel("entrance")
    fit.edit(("channels", "entrance", "fit", "decimals"), "honest")
    assert fit.state.message_is_fault or fit.state.project.channels["entrance"].field.decimals == 0


def test_a_field_is_swept_by_hand(fit: Desk) -> None:
    """With a value in hand the cursor's keys move it by a last digit; let go, they move the cursor again."""
    fit.take_hand("9.9 kg")
    for wanted in ("10.0", "10.1"):
        fit.move_cursor(1)
        assert wanted in picture_of(fit).thread[5].value.text
    fit.move_screen(-1)
    assert "0.1" in picture_of(fit).thread[5].value.text
    fit.take_hand("")
    before = fit.state.cursor_s
    fit.move_cursor(1)
    assert fit.state.cursor_s != before


def test_alarms_stand_on_the_glass_by_name(fit: Desk) -> None:
    """As the capture has them at the cursor, and by hand where its limit is passed."""
    fit.open_step(Step.CALM)
    fit.add("alarm above 40 kg")
    assert not fit.state.message_is_fault, fit.state.message
    fit.open_step(Step.FIT)
    rule(fit, "shows", "alarm")
    rule(fit, "calm_word", "-")
    fit.take_hand("39 kg")
    assert "-" in picture_of(fit).thread[5].value.text
    fit.take_hand("41 kg")
    assert "high" in picture_of(fit).thread[5].value.text
    fit.take_hand("")
    on = fit.bench.run(fit.state.project, fit.state.chosen).calm
    above = float(on.t[int((on.x > 41).argmax())]) + 30.0
    fit.put_cursor(above)
    assert "high" in picture_of(fit).thread[5].value.text


def test_what_contradicts_is_refused(fit: Desk) -> None:
    """And nothing is changed."""
    before = fit.state.history.text
    for name, typed, says in (
        ("shows", "clock", "only seconds, minutes or hours are shown as a time"),
        ("prefix", "by range", "like g"),
        ("words", "a; b", "no limit"),
    ):
        fit.edit(("channels", MASS, "fit", name), typed)
        assert says in fit.state.message
        assert fit.state.history.text == before


def test_codes_sent_by_mistake_are_a_fault_that_a_key_mends(fit: Desk) -> None:
    """And look on the glass as they would on the bench."""
    assert AIR != MASS
    frame = context_of(fit).glasses[0].frame
    rule(fit, "sent", "digits as numbers")
    assert context_of(fit).glasses[0].frame != frame
    (index,) = [
        place for place, note in enumerate(fit.notes) if "as the numbers 0 to 9" in note.text and note.panel == "stand"
    ]
    fit.go_to_note(index)
    fit.mend()
    assert context_of(fit).glasses[0].frame == frame


def test_the_strip_shows_what_the_panel_shows(fit: Desk) -> None:
    """A letter that it lacks stands as ?, a number sent as a code as whatever has that code."""
    rule(fit, "invalid", "Kxx")
    assert "???" in words(fit)
    rule(fit, "invalid", "=")
    rule(fit, "sent", "digits as numbers")
    fit.choose_panel("door")
    strip = [line for line in words(fit).splitlines() if "largest reading" in line]
    assert "120" not in strip[0].split("kg", 1)[1]


def test_of_a_plain_count_nothing_is_claimed(tmp_path: Path) -> None:
    """What says neither how fine nor how sure it is is worth no number of decimals, and no law has no slope."""
    made = tmp_path / "running"
    make_job("running-digits", made)
    desk = open_desk(made)
    desk.open_step(Step.FIT)
    assert "honest decimals —" in words(desk)
    assert next(step.detail for step in picture_of(desk).thread if step.step is Step.LAW) == "no law"
    desk.close()
