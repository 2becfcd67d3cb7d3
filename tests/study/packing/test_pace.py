"""What a pack gives back to Pace: a conversion takes the operations of the firmware as it is written."""

from __future__ import annotations

import json
import shutil
from dataclasses import replace
from pathlib import Path

import pytest

from lesart.core.pack.machine import Machine
from lesart.core.pack.settings import PackSettings
from lesart.core.pack.written import LIST
from lesart.project.check import check_project
from lesart.project.folder.store import FILE, read_text
from lesart.study.bench import Bench
from lesart.study.packing.folder import write_pack
from lesart.study.packing.made import packed
from lesart.study.packing.panels import tasks_of
from lesart.study.project_loop import loop_of, operations_of
from lesart.study.written_pack import FOLDER, written_operations

CHANNEL = "lid air"


@pytest.fixture
def written(yard: Path) -> Path:
    """The yard with a pack of one channel in its folder."""
    project = check_project(read_text(yard / FILE))
    write_pack(yard / FOLDER, packed(project, Bench(yard), project.pack, [CHANNEL]).files)
    return yard


def takes_ns(folder: Path, name: str = CHANNEL) -> int:
    project = check_project(read_text(folder / FILE))
    return next(task for task in loop_of(project, Bench(folder)).tasks if task.name == f"convert {name}").longest_ns


def test_a_conversion_takes_what_the_written_firmware_takes(written: Path) -> None:
    """Operations by clocks by the clock; estimated again once the pack is gone, or is of another channel."""
    project, bench = check_project(read_text(written / FILE)), Bench(written)
    channel = project.channels[CHANNEL]
    operations = json.loads((written / FOLDER / LIST).read_text())["channels"][0]["operations"]
    assert written_operations(project, bench, channel) == operations
    processor = project.loop.processor
    assert takes_ns(written) == round(operations * processor.whole_clocks / processor.clock_hz * 1e9)
    estimated = round(operations_of(project, channel, bench) * processor.clocks / processor.clock_hz * 1e9)
    assert takes_ns(written) != estimated
    shutil.rmtree(written / FOLDER)
    assert takes_ns(written) == estimated


@pytest.mark.parametrize(
    "change",
    [
        lambda project: replace(project, pack=PackSettings(Machine(16))),
        lambda project: replace(
            project,
            stated={**project.stated, "channels": {**project.stated["channels"], CHANNEL: {"unit": "°C"}}},
        ),
    ],
)
def test_a_pack_of_another_word_or_another_channel_says_nothing(written: Path, change: object) -> None:
    project, bench = check_project(read_text(written / FILE)), Bench(written)
    assert callable(change)
    assert written_operations(change(project), bench, project.channels[CHANNEL]) is None
    other = project.channels["battery"]
    assert written_operations(project, bench, other) is None
    assert written_operations(project, bench, replace(project.channels[CHANNEL], variant="β")) is None


@pytest.mark.parametrize("content", ["", "{}", '{"channels": 3}', '{"channels": [{"name": 1}]}', "[]"])
def test_a_list_that_somebody_changed_is_no_pack(written: Path, content: str) -> None:
    project = check_project(read_text(written / FILE))
    (written / FOLDER / LIST).write_text(content)
    assert written_operations(project, Bench(written), project.channels[CHANNEL]) is None


def test_what_is_written_does_not_hang_on_what_was_written_before(written: Path) -> None:
    """The loop of a pack goes by the channels that are in it."""
    project = check_project(read_text(written / FILE))
    operations = {CHANNEL: 1}
    after = tasks_of(project, Bench(written), operations)
    shutil.rmtree(written / FOLDER)
    assert tasks_of(project, Bench(written), operations) == after
    takes = {task.name: task.longest_ns for _, task in after}
    processor = project.loop.processor
    assert takes[f"convert {CHANNEL}"] == round(processor.whole_clocks / processor.clock_hz * 1e9)
