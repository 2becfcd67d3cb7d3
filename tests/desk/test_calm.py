"""Calm at the desk: filters of every kind added, proposed, limited, and what they do looked at."""

from __future__ import annotations

import re
import tomllib
from pathlib import Path

import numpy as np
import pytest

from lesart.core import calm
from lesart.core.step import Step
from lesart.desk.desk import Desk
from lesart.desk.opening import open_desk
from lesart.desk.picture import picture_of, workspace_now
from lesart.project.new.make import make_project
from lesart.study.sureness import noise_behind_filters
from tests.conftest import AIR, MASS


def words(desk: Desk) -> str:
    """The lines of the workspace."""
    lines = workspace_now(desk).lines
    return "\n".join("".join(span.text for span in line) for line in lines)


def kinds(desk: Desk, channel: str) -> list[str]:
    """Of a channel's filters, in order."""
    return [entry["kind"] for entry in tomllib.loads(desk.state.history.text)["channels"][channel]["calm"]]


@pytest.mark.parametrize("kind", calm.KINDS)
def test_every_filter_can_be_added_to_a_temperature(desk: Desk, kind: str) -> None:
    """With values to start from that fit its unit and its rate; the first picture shows them."""
    desk.choose_channel(AIR)
    desk.open_step(Step.CALM)
    desk.add(kind)
    assert not desk.state.message_is_fault, desk.state.message
    assert kinds(desk, AIR) == ["mean", kind]
    assert desk.state.leaf_of(Step.CALM) == "filters"
    assert f"2 {kind}" in words(desk)
    assert not [
        note for note in desk.notes if note.step == Step.CALM and note.channel == AIR and "is told" in note.text
    ]


def test_filters_are_proposed_for_a_noise(desk: Desk) -> None:
    """Half of what there is, in place of the two that smooth now; what rejects and holds stays where it was."""
    before = desk.state.history.text
    desk.open_step(Step.CALM)
    desk.add("noise 0.03 kg")
    assert not desk.state.message_is_fault, desk.state.message
    found = kinds(desk, MASS)
    assert found[0] == "reject range"
    assert found[1] == "median"  # there are spikes
    assert found[-1] == "hold"
    noise = desk.bench.noise(desk.bench.run(desk.state.project, desk.state.chosen).calm)
    assert noise <= 0.035
    desk.undo()
    assert desk.state.history.text == before
    desk.edit(("channels", MASS, "most_lag"), "0.3 s")
    desk.add("noise 0.001 kg")
    assert desk.state.message_is_fault
    assert "leaves so little within 0.3 s; the least is" in desk.state.message
    for typed, says in (("noise 3 s", "must be a difference in kg"), ("noise -1 kg", "not a noise above 0")):
        desk.add(typed)
        assert says in desk.state.message


def test_filters_that_are_too_late_are_noted(desk: Desk) -> None:
    """The limit stands with the channel, and its figure in the row of the evidence."""
    desk.open_step(Step.CALM)
    desk.edit(("channels", MASS, "most_lag"), "0.5 s")
    assert "lag 0.95 s   limit 0.5 s" in words(desk)
    (note,) = [note for note in desk.notes if note.step == Step.CALM and note.channel == MASS]
    assert "its filters lag by 0.95 s; 0.5 s is allowed" in note.text


def test_what_the_filters_do(desk: Desk) -> None:
    """Steps and frequencies, each with its chart; ten samples a second see the mains as a standing error."""
    desk.open_step(Step.CALM)
    desk.choose_leaf("step")
    shown = words(desk)
    assert "a ramp of 1 kg/s is wrong by 0.95 kg" in shown
    assert "a lone spike leaves 0 % of itself" in shown
    assert "mains of 50 Hz, seen as an error that hardly moves: 100 % left" in shown
    step = workspace_now(desk).chart
    assert step is not None
    assert step.series[1].y[-1] == pytest.approx(1.0)
    desk.choose_leaf("frequencies")
    chart = workspace_now(desk).chart
    assert chart is not None
    assert chart.decades
    assert max(chart.series[1].y) == pytest.approx(0.0, abs=0.1)


def test_what_the_data_say(desk: Desk) -> None:
    """The lag that the filters state is seen in the capture too; its spikes are gone."""
    desk.open_step(Step.CALM)
    found = words(desk)
    line = next(line for line in found.splitlines() if line.startswith("from the data"))
    assert float(line.split()[4]) == pytest.approx(0.95, abs=0.1)
    assert "→ 0" in line


def test_an_alarm_from_key_to_note(desk: Desk) -> None:
    """Added where the reading is restless, it chatters, is mended by its note, and is taken away again."""
    desk.open_step(Step.CALM)
    desk.choose_leaf("alarms")
    assert "No alarm." in words(desk)
    desk.add("alarm above 42.5 kg")
    assert desk.state.leaf_of(Step.CALM) == "alarms"
    assert desk.state.selected_at(Step.CALM) == ("channels", MASS, "alarms", 0, "limit")
    desk.edit(("channels", MASS, "alarms", 0, "hysteresis"), "0")
    shown = words(desk)
    assert "1  high   at the cursor off" in shown
    assert "went on" in shown
    note = next(note for note in desk.notes if "chatters" in note.text)
    chart = workspace_now(desk).chart
    assert chart is not None
    assert [word for word, _ in chart.bands] == ["high"]
    assert [each.y[0] for each in chart.series if each.name == "high"] == [42.5]
    desk.go_to_note(desk.notes.index(note))
    desk.mend()
    soon = [note for note in desk.notes if "chatters" in note.text]
    assert not soon or (soon[0].figure or 0) < (note.figure or 0) / 3
    desk.select(("channels", MASS, "alarms", 0, "name"))
    desk.take_away()
    assert "removed: alarm high" in desk.state.message
    assert "alarms" not in tomllib.loads(desk.state.history.text)["channels"][MASS]
    for typed, says in (("alarm 43 kg", "neither above nor below"), ("alarm above 3 s", "cannot be converted to kg")):
        desk.add(typed)
        assert says in desk.state.message


@pytest.mark.parametrize(
    ("values", "says"),
    [
        ([20.1, 20.3, 20.7], "α, no noise left, 1 s"),
        ([20.1, 20.1, 20.1], "α, 1 s"),
    ],
)
def test_noise_that_is_gone_is_said_in_words(tmp_path: Path, values: list[float], says: str) -> None:
    """A mean over whole periods leaves what floats round, and a ratio to that says nothing."""
    rows = [f"{place},{value}" for place, value in enumerate(values * 100)]
    (tmp_path / "c.csv").write_text("t,v\n" + "\n".join(rows))
    (tmp_path / "lesart.toml").write_text(
        'lesart = 1\n[sources.s]\ncapture = "c.csv"\nheader = 1\ntime = "t"\n'
        '[channels.air]\nsource = "s"\ncolumn = "v"\nraw_unit = "°C"\nunit = "°C"\nlowest = "0 °C"\nhighest = "40 °C"\n'
        '[[channels.air.calm]]\nkind = "mean"\nsamples = 3\n'
    )
    desk = open_desk(tmp_path)
    assert desk.notes is not None
    assert picture_of(desk).thread[4].detail == says
    desk.close()


def test_a_vane_from_its_line_to_what_is_left_of_its_noise(tmp_path: Path) -> None:
    """About north, with 6° of noise: 16 samples leave a quarter, and the reading is never in the south."""
    random = np.random.default_rng(12)
    counts = np.rint((random.normal(2.0, 6.0, 900) % 360.0) / 360.0 * 1024) % 1024
    rows = "".join(f"{place / 10},{count:.0f}\n" for place, count in enumerate(counts))
    (tmp_path / "vane.csv").write_text(f"time_s,vane\n{rows}")
    make_project(tmp_path / "vane.csv", tmp_path / "vane")
    desk = open_desk(tmp_path / "vane")
    desk.open_step(Step.LAW)
    desk.add("a wind vane")
    desk.edit(("channels", "vane", "calm", 0, "samples"), "16")
    assert not desk.state.message_is_fault, desk.state.message
    channel = desk.state.chosen
    read = desk.bench.run(desk.state.project, channel).calm.x[15:]
    off = (read - 2.0 + 180.0) % 360.0 - 180.0
    assert float(np.abs(off).max()) < 6.0
    assert float(off.std()) == pytest.approx(6.0 / 4, rel=0.2)
    assert noise_behind_filters(desk.state.project, channel, desk.bench) == pytest.approx(6.0 / 4, rel=0.2)
    assert [note.text for note in desk.notes if "comes round" in note.text] == []
    # A step of half a turn would go the other way.
    desk.open_step(Step.CALM)
    desk.choose_leaf("step")
    chart = workspace_now(desk).chart
    assert chart is not None
    assert [max(each.y) for each in chart.series] == pytest.approx([1.0] * len(chart.series))
    # What averaging buys is told of the same readings: four samples leave half, four times as many half of that, as well
    # as the median of some fifty differences knows it.
    desk.open_step(Step.LAW)
    desk.choose_leaf("how sure")
    shown = "".join(span.text for line in workspace_now(desk).lines for span in line)
    found = re.search(r"averaging 4 samples ÷(\S+), 16 samples ÷(\S+),", shown)
    assert found is not None
    assert [float(each) for each in found.groups()] == pytest.approx([2.0, 4.0], rel=0.35)
    # On a line it is anywhere.
    desk.edit(("channels", "vane", "calm", 0, "kind"), "mean")
    assert desk.state.message_is_fault or any("comes round" in note.text for note in desk.notes)
    desk.close()
