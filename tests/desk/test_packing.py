"""Pack at the desk: settings edited in place, a channel that cannot be carried, the firmware written by x."""

from __future__ import annotations

import tomllib

import numpy as np
import pytest

from lesart.core.step import Step
from lesart.desk.deeds.turning import turn_over
from lesart.desk.deeds.variants import new_variant, next_variant
from lesart.desk.desk import Desk
from lesart.desk.picture import picture_of, workspace_now
from lesart.study.packing.made import form_alone
from lesart.study.views import Picture
from lesart.study.written_pack import FOLDER


def lines_of(picture: Picture) -> str:
    return "\n".join("".join(span.text for span in line) for line in picture.workspace.lines)


def test_a_word_is_set_in_place_and_the_channel_follows(desk: Desk) -> None:
    """The table is made where there is none; undone it is gone."""
    desk.choose_channel("battery")
    desk.open_step(Step.PACK)
    assert "worst" in lines_of(picture_of(desk))
    desk.edit(("pack", "word"), "16")
    assert tomllib.loads(desk.state.history.text)["pack"] == {"word": "16"}
    shown = lines_of(picture_of(desk))
    assert "on a word of 16 bits stays within 0.00025 V of the desk" in " ".join(shown.split())
    assert "left out" in picture_of(desk).thread[8].value.text
    desk.edit(("pack", "word"), "12")
    assert desk.state.message_is_fault
    desk.undo()
    assert "pack" not in tomllib.loads(desk.state.history.text)


def test_the_thread_knows_how_near_the_firmware_comes_once_it_was_asked(desk: Desk) -> None:
    """Nobody waits for it on other steps."""
    desk.open_step(Step.RAW)
    assert picture_of(desk).thread[8].detail == "not worked out"
    desk.open_step(Step.PACK)
    assert picture_of(desk).thread[8].value.text == "0.0078 digit"
    desk.open_step(Step.RAW)
    assert picture_of(desk).thread[8].value.text == "0.0078 digit"


@pytest.mark.long
def test_a_variant_is_computed_as_the_firmware_will(desk: Desk) -> None:
    """In steps of the firmware down to the glass, by capture and by hand; the channel itself stays as it is."""
    desk.choose_channel("brood probe")
    exact = picture_of(desk).thread[4].value.text
    new_variant(desk)
    key = (*desk.state.chosen.key("pack"), "computed")
    desk.open_step(Step.PACK)
    assert key in {edit.key for edit in workspace_now(desk).edits}
    desk.edit(key, "whole numbers")
    assert desk.state.chosen.variant
    channel, run = desk.state.chosen, desk.bench.run(desk.state.seen, desk.state.chosen)
    step = float(form_alone(desk.state.seen, desk.bench, channel).scale.step)
    steps = run.calm.x[run.calm.usable] / step
    assert np.abs(steps - steps.round()).max() < 1e-6
    assert len(set(steps.round().tolist())) > 100
    next_variant_at = desk.state.variant
    desk.turn(next_variant)
    assert desk.state.variant != next_variant_at
    assert picture_of(desk).thread[4].value.text == exact
    calm = desk.bench.run(desk.state.seen, desk.state.chosen).calm
    assert np.abs(calm.x[calm.usable] - run.calm.x[run.calm.usable]).max() <= 0.3 * 0.1


@pytest.mark.long
def test_x_writes_compiles_and_compares(desk: Desk, monkeypatch: pytest.MonkeyPatch) -> None:
    """Beside everything else: the desk says what it is at, then what came of it, and what was left out."""
    # Compilers for other processors, where a machine has them, are tried by the tests of the pack.
    monkeypatch.setattr("lesart.study.packing.compiled.other_compilers", lambda: ())
    desk.open_step(Step.PACK)
    turn_over(desk)
    assert desk.packing is not None
    assert desk.is_moving
    turn_over(desk)
    assert "It is under way" in desk.state.message
    desk.packing.wait(120.0)
    assert not desk.is_moving
    shown = lines_of(picture_of(desk))
    assert "equal; built by" in shown
    assert "lid level" in shown
    assert (desk.folder / FOLDER / "linden_yard.h").is_file()
    desk.edit(("pack", "share"), "50 %")
    assert "The project was changed since" in lines_of(picture_of(desk))
