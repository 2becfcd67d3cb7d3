"""From where to where a packed channel goes: its own range, raw numbers beyond it, and gaps in between."""

from __future__ import annotations

import re
from pathlib import Path

import numpy as np
import pytest

from lesart.core.block import Block
from lesart.core.pack.settings import PackSettings
from lesart.core.pack.written.said import channel_lines
from lesart.core.through import through
from lesart.demo.jobs.job import Job
from lesart.demo.jobs.listed import JOBS
from lesart.desk.project_folders import make_job
from lesart.project.check import check_project
from lesart.project.folder.store import FILE, read_text
from lesart.project.model import Channel, Project
from lesart.study.bench import Bench
from lesart.study.packing.at_desk import as_firmware
from lesart.study.packing.compiled import compiled_and_run
from lesart.study.packing.made import packed
from lesart.study.packing.raw_numbers import raw_numbers
from tests.benches import bench_of
from tests.study.packing.test_pack import goes_through_its_vectors


def test_raw_values_that_no_whole_number_holds_leave_the_channel_out(tmp_path: Path) -> None:
    """Of a logarithm whose decade is one per cent, 100 % lies at 10^99 %; the other channel is packed."""
    folder = tmp_path / "machine"
    make_job("machine", folder)
    law = '[[channels.load.law]]\nkind = "logarithm"\ninput = "1 %"\noutput = "1 %"\nper_decade = "1 %"\n\n'
    text = read_text(folder / FILE).replace("[channels.disk]\n", f"{law}[channels.disk]\n")
    pack = packed(check_project(text), Bench(folder), PackSettings())
    assert list(pack.left_out) == ["load"]
    assert "a reading of 100 % takes a raw value near 1.05e99 %" in pack.left_out["load"]
    assert [each.form.wanted.title for each in pack.channels] == ["disk"]


def test_a_gap_among_the_readings_is_told(tmp_path: Path) -> None:
    """A tilt of which no other axis is read is 90° either way, and nothing at 0."""
    toml = """
[sources.log]
capture = "bench.csv"
time = "t"
header = 1

[channels.lean]
source = "log"
column = "x"
raw_unit = "m/s²"
unit = "°"
lowest = "-90 °"
highest = "90 °"

[[channels.lean.law]]
kind = "tilt"
second = "0 m/s²"
third = "0 m/s²"
"""
    project, bench = bench_of(tmp_path, toml, {"t": [0, 1, 2], "x": [-1, 0, 1]})
    pack = packed(project, bench, PackSettings())
    assert list(pack.left_out) == ["lean"]
    assert re.search(r"raw 0 gives no reading, but raw -\d+ and raw \d+ do;", pack.left_out["lean"])


@pytest.mark.parametrize(
    "job",
    [pytest.param(job, id=job.folder, marks=() if job.folder in ("hut", "tilt") else pytest.mark.long) for job in JOBS],
)
def test_what_lies_outside_of_the_range_is_marked_in_firmware_too(job: Job, tmp_path: Path) -> None:
    """Before the filters, which keep the numbers that they have in the project."""
    folder = make_job(job.folder, tmp_path / job.folder)
    text = re.sub(r"(?m)^(\[channels\.(?:[\w-]+|\"[^\"]+\")\])$", r'\1\noutside = "marked"', read_text(folder / FILE))
    project = check_project(text)
    made = packed(project, Bench(folder), project.pack)
    assert not made.left_out
    for each in made.channels:
        name = each.form.wanted.title
        assert [function.place for function in each.form.calm] == [
            f"{name}, outside its range",
            *(f"{name}, Calm {place}" for place, _ in enumerate(project.channels[name].filters, 1)),
        ]
        assert "outside its range: marked." in channel_lines(each.form)
    (module,) = (name for name in made.files if name.endswith(".py"))
    goes_through_its_vectors(made.files[module], made)
    for each in made.channels:
        _marks_what_the_desk_marks(project, Bench(folder), project.channels[each.form.wanted.title])


def _marks_what_the_desk_marks(project: Project, bench: Bench, channel: Channel) -> None:
    """Over all raw numbers, which go beyond the channel's range: sample by sample, but at its borders, where whole
    numbers are a step off."""
    if channel.chain.reads:
        return  # its table is made over two readings: what it marks is held against the desk elsewhere
    numbers = raw_numbers(project, bench, channel)
    raws = np.linspace(numbers.low, numbers.high, 2001).round()
    block = Block(
        0.1 * np.arange(2001.0), np.array([numbers.scale.value(raw) for raw in raws.tolist()]), np.zeros(2001, np.uint8)
    )
    at_desk = through(channel.chain, block).usable
    in_firmware = through(as_firmware(project, bench, channel).chain, block).usable
    borders = np.flatnonzero(np.diff(at_desk.astype(int)))
    assert len(at_desk) == len(in_firmware)
    assert int((at_desk != in_firmware).sum()) <= 2 * max(len(borders), 1)


BESIDE = """
[sources.s]
capture = "bench.csv"
time = "t"
header = 1
[channels.water]
source = "s"
column = "water"
raw_unit = "°C"
unit = "°C"
lowest = "{low} °C"
highest = "{high} °C"
[channels.probe]
source = "s"
column = "probe"
raw_unit = "ct"
unit = "pH"
lowest = "0 pH"
highest = "14 pH"
[[channels.probe.law]]
kind = "converter"
bits = 10
reference = "5 V"
[[channels.probe.law]]
kind = "formula"
formula = "7 * p - (x - n) / (g * s * t)"
names = "p = 1 pH; n = 2.5 V; g = 3; s = 0.19842 mV/K/pH; t = water in K"
from = "V"
to = "pH"
"""


@pytest.mark.parametrize(("low", "high"), [(9.7, 10.3), (-12.0, -3.0), (-5.0, 5.0), (60.0, 95.0)])
def test_what_is_read_beside_need_not_come_to_nothing(low: float, high: float, tmp_path: Path) -> None:
    """A pH probe beside water of a few degrees: every vector has a temperature that can be, also behind long gaps."""
    t = np.arange(200) * 1.0
    water, probe = np.linspace(low + 0.1, high - 0.1, 200), np.linspace(300, 720, 200).round()
    project, bench = bench_of(tmp_path, BESIDE.format(low=low, high=high), {"t": t, "water": water, "probe": probe})
    pack = packed(project, bench, project.pack)
    assert not pack.left_out
    made = next(each for each in pack.channels if each.form.wanted.name == "probe")
    beside = made.form.wanted.beside
    assert beside is not None
    assert all(beside.low <= each.given.beside <= beside.high for each in made.vectors)
    assert made.followed.otherwise == 0
    built = compiled_and_run(pack.files)
    assert built is not None
    assert (built.ok, built.says.split(";")[0]) == (True, "equal")
