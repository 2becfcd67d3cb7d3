"""Numbers in a file that stand for no reading: they are taken for that from the start, and it is said."""

from __future__ import annotations

from dataclasses import replace
from pathlib import Path

import numpy as np
import pytest

from lesart.core.block import Mark
from lesart.core.step import Step
from lesart.desk.hand import follow
from lesart.project.check import check_project
from lesart.project.new.make import Made, make_project
from lesart.study.bench import Bench
from lesart.study.inspect import inspect_project
from lesart.study.packing.wanted import channel_wanted

ROOM = [20 + 0.25 * (k % 9) for k in range(40)]


def made_of(folder: Path, header: str, column: list[float]) -> Made:
    """A project of rows a second apart."""
    path = folder / "log.csv"
    rows = [f"{k},{value:g}" for k, value in enumerate(column)]
    path.write_text("\n".join((f"t_s,{header}", *rows)) + "\n")
    return make_project(path, folder / "made")


def with_some(places: dict[int, float]) -> list[float]:
    return [places.get(k, value) for k, value in enumerate(ROOM)]


def test_a_loggers_nines(tmp_path: Path) -> None:
    """They are missing, the limits are those of the readings, and nothing else changes."""
    made = made_of(tmp_path, "temp_C", with_some({5: -9999, 6: -9999}))
    said = "temp_C is −9999 °C in 2 of 40 samples, as programs write where they have no reading"
    assert made.said == (f"{said}; it is taken for no reading",)
    project = check_project((made.folder / "lesart.toml").read_text(encoding="utf-8"))
    channel, bench = project.channels["temp_C"], Bench(made.folder, keeps=False)
    assert channel.no_reading == (-9999.0,)
    assert 19 < channel.lowest < 20
    assert 22 < channel.highest < 23
    calm = bench.run(project, channel).calm
    assert np.flatnonzero(calm.mark).tolist() == [5, 6]
    assert np.flatnonzero(calm.mark == int(Mark.MISSING)).tolist() == [5, 6]
    good = np.delete(calm.x, [5, 6])
    assert good.tolist() == np.delete(ROOM, [5, 6]).tolist()
    notes = [note.text for note in inspect_project(project, bench) if note.step is Step.RAW]
    assert notes == ["temp_C: 2 of 40 samples are marked (2 missing). −9999 °C stands for no reading."]


def test_two_failures_of_a_thermometer(tmp_path: Path) -> None:
    """Not answering, and just switched on."""
    made = made_of(tmp_path, "temp_C", with_some({0: 85, 9: -127, 20: -127}))
    assert [each.partition(" in ")[0] for each in made.said] == ["temp_C is −127 °C", "temp_C is 85 °C"]
    project = check_project((made.folder / "lesart.toml").read_text(encoding="utf-8"))
    raw = Bench(made.folder, keeps=False).raw(project, project.channels["temp_C"])
    assert np.flatnonzero(raw.mark).tolist() == [0, 9, 20]


def test_a_file_that_has_none(tmp_path: Path) -> None:
    """Hot water reaches 85 °C by way of 84."""
    made = made_of(tmp_path, "temp_C", [60 + k for k in range(40)])
    assert made.said == ()
    assert "no_reading" not in (made.folder / "lesart.toml").read_text(encoding="utf-8")


@pytest.mark.parametrize(("raw", "is_there"), [(-9999.0, False), (-9998.0, True), (21.0, True)])
def test_in_hand_it_is_no_reading_either(raw: float, is_there: bool, tmp_path: Path) -> None:
    """At all steps, down to the field."""
    made = made_of(tmp_path, "temp_C", with_some({5: -9999}))
    project = check_project((made.folder / "lesart.toml").read_text(encoding="utf-8"))
    found = follow(project, project.channels["temp_C"], raw)
    assert (found.reading.value == raw) is is_there
    assert (found.steps[0].mark is None) is is_there
    assert found.steps[0].mark in (None, "missing")


def test_what_a_change_of_it_changes(tmp_path: Path) -> None:
    """Readings are worked out anew when another value stands for none, filtered ones too."""
    made = made_of(tmp_path, "temp_C", with_some({5: -9999}))
    text = (made.folder / "lesart.toml").read_text(
        encoding="utf-8"
    ) + '\n[[channels.temp_C.calm]]\nkind = "mean"\nsamples = 4\n'
    bench = Bench(made.folder, keeps=False)
    low = []
    for now in ('"-9999"', '""', '"-9999, 20"'):
        project = check_project(text.replace('"-9999"', now))
        low.append(float(np.nanmin(bench.run(project, project.channels["temp_C"]).calm.x)))
    assert low[1] < -2000 < 19 < low[0] < low[2]


def test_the_firmware_is_told_what_it_has_to_tell(tmp_path: Path) -> None:
    """A whole number has no sign that it stands for none."""
    made = made_of(tmp_path, "temp_C", with_some({5: -9999, 7: 85}))
    project = check_project((made.folder / "lesart.toml").read_text(encoding="utf-8"))
    channel, bench = project.channels["temp_C"], Bench(made.folder, keeps=False)
    said = channel_wanted(project, bench, channel, "temp", project.pack).described
    assert said[0] == "Raw, −9999 °C and 85 °C stand for no reading: hand them in with mark 1."
    one = replace(channel, no_reading=(-9999.0,))
    said = channel_wanted(project, bench, one, "temp", project.pack).described
    assert said[0] == "Raw, −9999 °C stands for no reading: hand it in with mark 1."
