"""Laws, references and filters added and taken away by keys: from a bare capture to a corrected reading."""

from __future__ import annotations

import tomllib
from pathlib import Path

import numpy as np
import pytest

from lesart.core.step import Step, step_at
from lesart.demo.yard import project_text
from lesart.desk.desk import Desk
from lesart.desk.opening import open_desk
from lesart.desk.picture import look, move_value
from lesart.project.check import check_project
from lesart.project.folder.store import FILE
from lesart.project.new.make import make_project
from tests.conftest import MASS

COUNTS_PER_MV_V = 2**23 * 128 / 1000


@pytest.fixture
def scale(tmp_path: Path) -> Desk:
    """A new project from a capture of counts: ten steps of 1 kg on a cell of 2 mV/V at 100 kg, a little noise."""
    random = np.random.default_rng(7)
    kilograms = np.repeat(np.arange(10.0), 100)
    counts = np.rint(kilograms / 100 * 2 * COUNTS_PER_MV_V + random.normal(0, 20, 1000)).astype(int)
    rows = "".join(f"{index * 100},{count}\n" for index, count in enumerate(counts))
    (tmp_path / "scale.csv").write_text("ms,bridge\n" + rows)
    return open_desk(make_project(tmp_path / "scale.csv", tmp_path / "scale").folder)


def add(desk: Desk, step: int, typed: str) -> str:
    """Add an entry in a step; the sentence that came."""
    desk.open_step(step_at(step))
    desk.add(typed)
    return desk.state.message


def table(desk: Desk) -> dict[str, object]:
    """The chosen channel's table."""
    found = tomllib.loads(desk.state.history.text)["channels"][desk.state.channel]
    assert isinstance(found, dict)
    return found


def test_from_counts_to_kilograms_by_keys(scale: Desk) -> None:
    """Two laws, two references and a filter later the bare counts read kilograms, and each undo takes one back."""
    before = scale.state.history.text
    assert scale.state.chosen.unit.symbol == "ct"
    add(scale, 3, "bridge converter")
    assert scale.state.chosen.unit.symbol == "mV/V"
    add(scale, 3, "load")
    channel = scale.state.chosen
    assert channel.unit.symbol == "kg"
    # The limits are the raw ones of the capture through the new laws: about 0 to 9 kg, with room.
    assert channel.lowest <= 0
    assert 9 <= channel.highest < 15
    scale.put_cursor(39.9)
    assert "the mean of 50 samples" in add(scale, 4, "3.05 kg")
    scale.put_cursor(89.9)
    add(scale, 4, "8150 g")
    correction = scale.state.chosen.correction
    assert correction.kind == "line"
    assert correction.corrected(3.0) == pytest.approx(3.05, abs=0.002)
    assert correction.corrected(8.0) == pytest.approx(8.15, abs=0.002)
    add(scale, 5, "median")
    assert scale.state.chosen.says == "median 5"
    assert check_project(scale.state.history.text)
    for _ in range(5):
        scale.undo()
    assert scale.state.history.text == before


def test_one_reference_is_an_offset(scale: Desk) -> None:
    """One point fixes no slope, and a note says so."""
    add(scale, 3, "bridge converter")
    add(scale, 3, "load cell")
    add(scale, 4, "0.5")
    assert scale.state.chosen.correction.kind == "offset"
    assert any("fix an offset only" in note.text for note in scale.notes)


@pytest.mark.parametrize(
    ("typed", "unit"), [("linear °C", "°C"), ("linear", "ct"), ("linear mV/V", "mV/V"), ("lin", "ct")]
)
def test_a_straight_line_to_a_unit(scale: Desk, typed: str, unit: str) -> None:
    """The unit may be named at once, so that point and slope fit together from the start."""
    add(scale, 3, typed)
    assert not scale.state.message_is_fault, scale.state.message
    assert scale.state.chosen.unit.symbol == unit


@pytest.mark.parametrize(
    ("step", "typed", "says"),
    [
        (3, "magic", "the leaf what fits lists those for ct; arithmetic is typed like multiply by 2."),
        (3, "linear furlong", "is not a unit"),
        (3, "load cell", "raw gives ct, but law 1 takes mV/V"),
        (4, "heavy", "type the true value, in ct"),
        (4, "3 kg", "how counts become kg is not stated yet"),
        (5, "m", "did you mean median or mean?"),
        (7, "mediant", "is not an item; write field, bar"),
        (9, "x", '"x" says nothing of a pack; say its processor, like 16 bit, no divider or no multiplier'),
        (9, "24 bit", '"24 bit": words are of 16 or 32 bits.'),
        (9, "within 300 %", 'pack.share = "300 %"; it must be a number with its unit, like "25 %", from 5 % to 100 %.'),
        (9, "write it", '"write it": x writes the pack, compiles it and compares.'),
        (9, "c code", '"c code": x writes it, in C and as a Python module that says the same.'),
        (9, "smaller table", "follow from how near it has to be: within 50 % needs less."),
        (9, "run faster", "the speed of the processor is its clock, in 8 Pace"),
        (9, "scale 100", "the step of whole numbers follows from the field's last place and within."),
    ],
)
def test_what_cannot_be_added(scale: Desk, step: int, typed: str, says: str) -> None:
    """A sentence with what would be right; nothing is changed."""
    before = scale.state.history.text
    assert says in add(scale, step, typed)
    assert scale.state.message_is_fault
    assert scale.state.history.text == before


def test_taken_away(desk: Desk) -> None:
    """The entry of the selected value goes, the others and all comments stay; without a selection nothing goes."""
    desk.open_step(Step.CALM)
    look(desk)
    move_value(desk, 2)
    desk.take_away()
    assert desk.state.chosen.says == "range, mean 16, hold 1 s"
    desk.undo()
    assert desk.state.history.text == project_text()
    desk.open_step(Step.TRUE)
    look(desk)
    desk.take_away()
    assert [reference.true for reference in desk.state.chosen.references] == [10.0, 20.0, 40.0]
    assert "# Weighed before the hive was put on." in desk.state.history.text
    desk.open_step(Step.PACE)
    desk.take_away()
    assert desk.state.message_is_fault


def test_keys_on_what_is_gone_already(desk: Desk) -> None:
    """Keys may come faster than pictures: a selection that was just taken away is refused in a sentence."""
    desk.open_step(Step.CALM)
    look(desk)
    move_value(desk, -2)
    assert desk.state.selected_at(Step.CALM) == ("channels", MASS, "calm", 3, "timeout")
    desk.take_away()
    for deed in (
        desk.take_away,
        lambda: desk.nudge(1),
        lambda: desk.edit(("channels", MASS, "calm", 3, "timeout"), "2 s"),
    ):
        before = desk.state.history.text
        deed()
        assert desk.state.message_is_fault, desk.state.message
        assert desk.state.history.text == before


def test_all_references_away_and_one_again(desk: Desk, yard: Path) -> None:
    """An emptied list goes from the file; the next reference makes it anew; what is saved opens."""
    desk.open_step(Step.TRUE)
    for _ in range(4):
        look(desk)
        desk.take_away()
    assert desk.state.chosen.correction.covered is None
    add(desk, 4, "42 kg")
    desk.save()
    again = check_project((yard / FILE).read_text())
    assert [reference.true for reference in again.channels[MASS].references] == [42.0]


def test_laws_taken_away_lead_back_to_counts(scale: Desk) -> None:
    """The unit and the limits follow the laws back."""
    before = table(scale)
    add(scale, 3, "bridge converter")
    scale.take_away()
    after = table(scale)
    assert (after["unit"], after["raw_unit"]) == ("ct", "ct")
    assert float(str(after["highest"]).split()[0]) == pytest.approx(float(str(before["highest"]).split()[0]), rel=0.2)


def test_a_filter_starts_within_the_channel_s_limits(desk: Desk) -> None:
    """Reject by range has no default: it begins with what the channel can read."""
    add(desk, 5, "reject range")
    chain = desk.state.chosen.chain
    assert chain.links[-1].stage.lowest == -2.0  # type: ignore[attr-defined]
    assert chain.links[-1].stage.highest == 120.0  # type: ignore[attr-defined]


def test_laws_and_filters_are_taken_over_from_another_channel(desk: Desk) -> None:
    """Unit and range follow the laws; each is a copy, so what is changed here stays as it was there."""
    desk.open_step(Step.RAW)
    desk.add("probe two = brood_mv mV")
    desk.choose_channel("probe two")
    desk.open_step(Step.LAW)
    desk.add("laws of brood probe")
    assert desk.state.message == "added: 2 laws of brood probe"
    two, one = (desk.state.project.channels[name] for name in ("probe two", "brood probe"))
    assert [law.written for law in two.laws] == [law.written for law in one.laws]
    assert str(two.unit) == "°C"
    runs = [desk.bench.run(desk.state.project, channel).blocks[Step.LAW].x for channel in (one, two)]
    assert (runs[0] == runs[1])[~np.isnan(runs[0])].all()
    desk.open_step(Step.CALM)
    desk.add("filters of hive 2 mass")
    assert desk.state.message_is_fault  # its range is in kilograms
    desk.add("filters of brood probe")
    assert desk.state.message == "added: 1 filter of brood probe"
    desk.edit(("channels", "probe two", "calm", 0, "samples"), "4")
    assert desk.state.project.tables["channels"]["brood probe"]["calm"][0]["samples"] == 32


def test_laws_of_nobody(desk: Desk) -> None:
    """With who has some."""
    desk.open_step(Step.LAW)
    desk.add("laws of brod probe")
    assert desk.state.message == '"brod probe" is not another channel with Law entries; did you mean brood probe?'
