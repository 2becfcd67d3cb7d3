"""The yard packed: the same bytes each time, equal in C, written whole or not at all, and a device held against it."""

from __future__ import annotations

import json
import os
import re
import shutil
import subprocess
from collections.abc import Iterator
from dataclasses import replace
from fractions import Fraction
from pathlib import Path

import numpy as np
import pytest

from lesart.core.block import Block, joined
from lesart.core.errors import StorageError
from lesart.core.fit.fill import fill
from lesart.core.glass.faces.face import compose
from lesart.core.glass.faces.shapes import SILENT
from lesart.core.pack.machine import Machine
from lesart.core.pack.program.in_python import loaded
from lesart.core.pack.settings import WHOLES, PackSettings
from lesart.core.pack.written import LIST
from lesart.core.pack.written.vectors import vectors
from lesart.core.through import through
from lesart.demo.jobs.job import Job
from lesart.demo.jobs.listed import JOBS
from lesart.desk.project_folders import make_job
from lesart.project.check import check_project
from lesart.project.folder.store import FILE, read_text
from lesart.project.model import Project
from lesart.study.bench import Bench
from lesart.study.packing.compared import compared
from lesart.study.packing.compiled import compiled_and_run, other_compilers, sizes_for
from lesart.study.packing.folder import stale_files, write_pack
from lesart.study.packing.made import Pack, packed
from lesart.study.packing.raw_numbers import raw_numbers
from lesart.study.packing.wanted import code_names, field_wanted, short_names
from lesart.study.project_loop import loop_of
from lesart.study.whole_bench import bench_at
from lesart.study.wires.panel_stream import stream_of
from lesart.study.wires.stand_in import StandInPanel

LEFT_OUT = {"lid level", "stand lean"}
"""Of the yard: windows of samples, a law of three readings."""


@pytest.fixture(scope="module")
def project(yard_once: Path) -> Project:
    return check_project(read_text(yard_once / FILE))


@pytest.fixture(scope="module")
def pack(project: Project, yard_once: Path) -> Pack:
    return packed(project, Bench(yard_once), project.pack)


def test_the_yard_is_packed_but_for_what_is_told(pack: Pack, project: Project) -> None:
    """And is never further off than was asked for, filters included, which no sample may tell apart from the desk."""
    assert set(pack.left_out) == LEFT_OUT
    assert {each.form.wanted.title for each in pack.channels} == set(project.channels) - LEFT_OUT
    for each in pack.channels:
        place = float(each.form.scale.step) * (1 << each.form.finer)
        assert each.form.law.agreement.worst <= 0.25 * place
        assert each.followed.worst <= 0.3 * place
        assert each.followed.otherwise == 0, each.form.wanted.title


def test_it_computes_the_same_in_c(pack: Pack) -> None:
    built = compiled_and_run(pack.files)
    assert built is not None, "a C compiler is needed to run these tests"
    assert (built.ok, built.says.split(";")[0]) == (True, "equal")


def test_a_wrong_table_is_found(pack: Pack) -> None:
    """A constant that somebody changed by hand."""
    probe = tuple(each for each in pack.channels if each.form.wanted.title == "brood probe")
    files = replace(pack, channels=probe, panels=(), tasks=(), frames=()).files
    name = "brood_probe.c"
    spoiled = re.sub(r"(brood_probe_first\[\d+\] = \{\s+)(-?\(?-?\d+\)?)", r"\g<1>(\g<2> + 300)", files[name])
    assert spoiled != files[name]
    built = compiled_and_run({**files, name: spoiled})
    assert built is not None
    assert not built.ok
    assert built.says.startswith("the first difference: brood_probe, vector ")


@pytest.mark.long
def test_the_same_project_gives_the_same_bytes(pack: Pack, project: Project, yard_once: Path) -> None:
    names = ("hive 2 mass", "smoker")
    once, again = (packed(project, Bench(yard_once), project.pack, names).files for _ in range(2))
    assert once == again
    assert once["hive_2_mass.c"] == pack.files["hive_2_mass.c"]


def test_names_of_the_project_stand_in_it_and_nothing_of_this_machine(pack: Pack) -> None:
    for name, text in pack.files.items():
        assert text.endswith("\n"), name
        assert "/tmp" not in text, name
        assert "\t" not in text, name
    assert (
        "hive_2_mass_step(hive_2_mass_state *s, int32_t raw, uint8_t mark, uint32_t now)" in pack.files["linden_yard.h"]
    )
    content = json.loads(pack.files[LIST])
    assert content["lesart"] == 1
    assert content["files"] == sorted(set(pack.files) - {LIST})


def test_the_python_module_imports_nothing_and_goes_sample_by_sample(pack: Pack) -> None:
    """As on a small interpreter, with the alarms and cells of the vectors."""
    text = pack.files["linden_yard.py"]
    assert "import" not in text.replace("imports nothing", "")
    goes_through_its_vectors(text, pack)


def test_before_the_first_reading_no_field_shows_a_number(pack: Pack, project: Project) -> None:
    """As the desk shows a channel that never had one: for the first three weeks, old; and nothing is 0 by itself."""
    module = loaded(pack.files["linden_yard.py"])
    tried = 0
    for each in pack.channels:
        channel = project.channels[each.form.wanted.title]
        model, shorts = module[each.form.wanted.name](), short_names(project, channel.name)
        for name, panel in project.panels.items():
            for face, item in project.fields_on(name, channel.name):
                short = shorts[name, face.name, item.index]
                wanted = field_wanted(panel, each.form.wanted.name, short, face, item)
                cells = [wanted.code_of(cell) for cell in fill(item.field, SILENT, joined=panel.joined).cells]
                for now in (0, 1000, 86_400_000, 1_900_000_000):
                    model.show(now)
                    assert list(getattr(model, f"{short}_cells")) == cells
                tried += 1
    assert tried >= 7


SOON = ("smoke-shed", "hut", "tilt", "counter")


@pytest.mark.parametrize(
    "job",
    [pytest.param(job, id=job.folder, marks=() if job.folder in SOON else pytest.mark.long) for job in JOBS],
)
def test_every_job_can_be_carried_into_firmware(job: Job, tmp_path: Path) -> None:
    """Nothing of it is left out, and the module goes through its vectors; smoke has an alarm, which C agrees on."""
    folder = make_job(job.folder, tmp_path / job.folder)
    project = check_project(read_text(folder / FILE))
    made = packed(project, Bench(folder), project.pack)
    assert not made.left_out
    assert [len(each.form.alarms) for each in made.channels] == [
        len(project.channels[each.form.wanted.title].alarms) for each in made.channels
    ]
    (module,) = (name for name in made.files if name.endswith(".py"))
    goes_through_its_vectors(made.files[module], made)
    if job.folder == "smoke-shed":
        assert {on for each in made.channels for vector in each.vectors for on in vector.alarms} == {0, 1}
        built = compiled_and_run(made.files)
        assert built is not None
        assert built.ok, built.says


def goes_through_its_vectors(text: str, pack: Pack) -> None:
    """Sample by sample, with each alarm and the cells of each field."""
    module = loaded(text)
    for each in pack.channels:
        model = module[each.form.wanted.name]()
        for vector in each.vectors:
            given = vector.given
            beside = (given.beside, given.beside_mark)[: len(each.form.law.function.inputs) - 2]
            came = model.step(given.raw, given.mark, given.now, *beside)
            last = vector.stages[-1]
            assert came == last.passes
            if came:
                assert (model.x, model.mark) == (last.x, last.mark)
                alarms = [getattr(model, f"alarm{place}") for place, _ in enumerate(each.form.alarms, 1)]
                assert tuple(map(int, alarms)) == vector.alarms
                model.show(given.now)
                assert tuple(tuple(getattr(model, f.kept[0].name)) for f in each.form.fields) == vector.cells


@pytest.mark.long
def test_words_of_sixteen_bits_without_multiplier_and_divider(project: Project, yard_once: Path) -> None:
    """What does not fit says the word that would do; the rest is equal in C too."""
    settings = PackSettings(Machine(16, multiplier=False, divider=False), 0.25, 60)
    names = [*[name for name in project.channels if name not in LEFT_OUT][::2], "battery"]
    small = packed(project, Bench(yard_once), settings, names)
    assert "battery" in small.left_out
    assert len(small.channels) >= 7
    assert max(each.form.law.function.outputs[0].bits for each in small.channels) <= 16
    built = compiled_and_run(small.files)
    assert built is not None
    assert built.ok, built.says


def test_what_a_device_printed_is_held_against_it(pack: Pack) -> None:
    one = replace(pack, channels=tuple(each for each in pack.channels if each.form.wanted.title == "lid air"))
    functions = (one.channels[0].form.law.function, *one.channels[0].form.calm)
    rows = [
        f"{function.name},{index},{stage.x},{stage.mark}"
        for index, vector in enumerate(one.channels[0].vectors)
        for function, stage in zip(functions, vector.stages, strict=True)
    ]
    assert compared(one, ["boot 1.2", *rows[::-1], ""]).ok
    assert compared(one, rows[:-1]).ok is False
    assert compared(one, rows[:-1]).difference == ""
    name, index, x, mark = rows[9].split(",")
    spoiled = [*rows[:9], f"{name},{index},{int(x) + 1},{mark}", *rows[10:]]
    given = one.channels[0].vectors[int(index)].given
    assert compared(one, spoiled).difference == (
        f"lid air, Calm 1, vector {index} (raw {given.raw}, mark {given.mark}): the device gives {int(x) + 1}, "
        f"mark {mark}; it must be {x}, mark {mark}."
    )


def test_a_pack_is_written_whole_or_not_at_all(pack: Pack, tmp_path: Path, yard: Path) -> None:
    """It replaces an earlier one, and nothing that a person put there."""
    folder, files = tmp_path / "firmware", pack.files
    write_pack(folder, files)
    assert stale_files(folder, files) == ()
    (folder / "linden_yard.h").write_text("changed")
    (folder / "test_pack.c").unlink()
    assert stale_files(folder, files) == ("linden_yard.h", "test_pack.c")
    write_pack(folder, files)
    assert stale_files(folder, files) == ()
    (folder / "mine.c").write_text("int x;")
    with pytest.raises(StorageError, match=r"mine\.c is not of the pack"):
        write_pack(folder, files)
    with pytest.raises(StorageError, match="it is a project"):
        write_pack(yard, files)
    other = tmp_path / "other"
    other.mkdir()
    (other / "a").write_text("a")
    with pytest.raises(StorageError, match="no pack"):
        write_pack(other, files)
    assert sorted(path.name for path in tmp_path.iterdir() if path.name.startswith(".")) == []


def test_raw_numbers_are_those_that_a_firmware_has(project: Project, yard_once: Path) -> None:
    """A converter's codes, steps of what a capture was written in, bits of a frame."""
    bench = Bench(yard_once)
    mass = raw_numbers(project, bench, project.channels["hive 2 mass"])
    assert (mass.low, mass.high, mass.scale.step) == (-(1 << 23), (1 << 23) - 1, 1)
    probe = raw_numbers(project, bench, project.channels["brood probe"])
    assert probe.scale.step == Fraction(1, 10)
    air = raw_numbers(project, bench, project.channels["yard air"])
    assert (air.scale.step, air.high - air.low) == (Fraction(1, 10), 65_535)


def test_names_are_fit_for_code_and_no_two_alike() -> None:
    assert code_names(["door", "Door"], before="glass_", taken=["glass_door"]) == {
        "door": "glass_door_2", "Door": "glass_door_3",
    }  # fmt: skip
    assert code_names(["hive 2", "Hive-2", "2 m", "Größe", "…"]) == {
        "hive 2": "hive_2", "Hive-2": "hive_2_2", "2 m": "n2_m", "Größe": "groe", "…": "channel",
    }  # fmt: skip


def test_the_bytes_of_a_panel_light_what_the_desk_lights(pack: Pack, project: Project) -> None:
    """Start and face as they stand in C, read back by their heads and put through the stand-in panel."""
    tried = 0
    for name, panel in project.panels.items():
        for face in project.faces_on(name):
            source = pack.files.get(f"glass_{name}.c", "")
            if f"glass_{name}_start[" not in source:
                continue
            stream = stream_of(project, name)
            there = StandInPanel(stream)
            for array in (f"glass_{name}_start", f"glass_{name}_face_{code_names([face.name])[face.name]}"):
                for is_data, data in runs_in(source, array):
                    head = stream.address << 1 if stream.address is not None else is_data
                    assert there.take(bytes((head,)) + data)
            assert there.shown() == compose(face, panel, {}).frame, name
            tried += 1
    assert tried >= 3
    header = pack.files["linden_yard_glass.h"]
    assert "#define GLASS_STAND_LIT_US 6000" in header
    assert "#define GLASS_DOOR_BOTH_LID_AIR_ROW 1" in header


def runs_in(source: str, array: str) -> Iterator[tuple[int, bytes]]:
    """What ``send_runs`` hands on of an array."""
    found = re.search(rf"{array}\[(\d+)\] = \{{(.*?)\}};", source, re.DOTALL)
    assert found is not None, array
    data = bytes(int(each, 16) for each in re.findall(r"0x[0-9A-F]{2}", found[2]))
    assert len(data) == int(found[1])
    place = 0
    while data[place] != 2:
        count = data[place + 1] + 256 * data[place + 2]
        yield data[place], data[place + 3 : place + 3 + count]
        place += 3 + count
    assert place == len(data) - 1


def test_the_loop_is_a_table_of_the_tasks_of_pace(pack: Pack, project: Project, yard_once: Path) -> None:
    """Each with its period and its longest time in microseconds."""
    rows = re.findall(r"\{ (task_\w+), (\d+)u, (\d+)u, (\d) \}", pack.files["linden_yard_loop.h"])
    operations = {each.form.wanted.title: each.form.operations for each in pack.channels}
    tasks = loop_of(project, Bench(yard_once), operations).tasks
    assert [(int(period), int(most), int(first)) for _, period, most, first in rows] == [
        (round(task.period_ns / 1000), round(task.longest_ns / 1000), task.priority) for task in tasks
    ]
    assert len({name for name, *_ in rows}) == len(tasks) > 10


def test_other_compilers_are_measured_and_their_programs_emulated(
    pack: Pack, tmp_path: Path, monkeypatch: pytest.MonkeyPatch
) -> None:
    """The compiler of this machine under another name, and a stand-in emulator that runs what it is given."""
    gcc, size = shutil.which("gcc"), shutil.which("size")
    assert gcc is not None
    assert size is not None
    target = subprocess.run([gcc, "-dumpmachine"], capture_output=True, text=True, check=True).stdout.strip()
    compiler = tmp_path / "tried-gcc"
    compiler.write_text(f'#!/bin/sh\n[ "$1" = -dumpmachine ] && echo tried-none && exit\nexec {gcc} "$@"\n')
    (tmp_path / "tried-size").write_text(f'#!/bin/sh\nexec {size} "$@"\n')
    emulator = tmp_path / "qemu-tried"
    emulator.write_text('#!/bin/sh\nexec "$1"\n')
    for each in (compiler, tmp_path / "tried-size", emulator):
        each.chmod(0o755)
    monkeypatch.setenv("PATH", f"{tmp_path}:{os.environ['PATH']}")
    assert str(compiler) in other_compilers()
    assert target != "tried-none"
    one = replace(pack, channels=pack.channels[:1], panels=(), tasks=(), frames=())
    found = sizes_for(str(compiler), one.files)
    assert (found.says, found.ran) == ("", "equal")
    assert found.code > 500
    assert found.target.startswith("an int of 32 bits")
    broken = {**one.files, "hive_2_mass.c": one.files["hive_2_mass.c"].replace("return 1;", "return 1", 1)}
    assert sizes_for(str(compiler), broken).says.startswith("it does not take it: ")
    monkeypatch.setenv("CC", "no-such-compiler")
    monkeypatch.setenv("PATH", str(tmp_path / "nothing"))
    assert compiled_and_run(one.files) is None


def test_at_the_desk_a_channel_reads_to_the_bit_what_its_firmware_reads(
    pack: Pack, project: Project, yard_once: Path
) -> None:
    """The chain of whole numbers over the raw numbers of the vectors: the same steps, the same marks, and samples that
    do not come out of a filter do not come out."""
    bench = bench_at(yard_once)
    for each in pack.channels[::3]:
        form = each.form
        channel = bench.as_computed(project, replace(project.channels[form.wanted.title], computed=WHOLES))
        given = [vector.given for vector in each.vectors]
        if form.wanted.beside is not None:
            # Of a channel beside it the desk keeps the last good value; a firmware is told by the mark.
            given = [one for one in given if not one.beside_mark][:-3]
        mark = np.array([one.mark for one in given], np.uint8)
        raw = np.array([form.wanted.raw.value(one.raw) for one in given])
        times = np.array([one.now for one in given]) / 1000.0
        others = {}
        if form.wanted.beside is not None:
            beside = form.wanted.beside
            stands = np.array([beside.scale.value(one.beside) for one in given])
            others[beside.title] = Block(times, stands, np.zeros(len(times), np.uint8))
        after = through(channel.chain, Block(times, np.where(mark & 31, np.nan, raw), mark), others)
        wanted = [one.stages[-1] for one in vectors(form, given) if one.stages[-1].passes]
        usable = np.array([one.mark & 31 == 0 for one in wanted])
        assert usable.tolist() == after.usable.tolist(), form.wanted.title
        steps = np.array([form.scale.number(x) for x in after.x[usable].tolist()])
        assert np.abs(steps - np.rint(steps)).max() < 1e-6
        assert np.rint(steps).tolist() == [one.x for one, good in zip(wanted, usable, strict=True) if good], (
            form.wanted.title
        )


def test_a_capture_that_is_cut_anywhere_gives_the_same(project: Project, yard_once: Path) -> None:
    """The state of a firmware goes on where it was, and a state that was used once can be used again."""
    bench = bench_at(yard_once)
    channel = bench.as_computed(project, replace(project.channels["brood probe"], computed=WHOLES))
    raw = bench.raw(project, channel)[:3000]
    whole = channel.chain.run(channel.chain.initial(), raw)[1][-1]
    states, first = channel.chain.run(channel.chain.initial(), raw[:1234])
    for _ in range(2):
        _, rest = channel.chain.run(states, raw[1234:])
        assert np.array_equal(joined([first[-1], rest[-1]]).x, whole.x, equal_nan=True)
