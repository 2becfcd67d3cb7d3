"""The first picture, made ahead in another process: the one that the desk makes, or none."""

from __future__ import annotations

import os
import pickle
import select
from dataclasses import replace
from pathlib import Path

import pytest

from lesart.desk import ahead
from lesart.desk.opening import look_at
from lesart.desk.picture import look
from lesart.project.folder.store import FILE
from lesart.study.views import Picture

pytestmark = pytest.mark.skipif(not hasattr(os, "fork"), reason="no second process is made on this system")


@pytest.fixture(autouse=True)
def two_cores(monkeypatch: pytest.MonkeyPatch) -> None:
    """Whatever the machine has that tests run on."""
    monkeypatch.setattr(os, "sched_getaffinity", lambda _: {0, 1}, raising=False)


def made(first: ahead.Ahead | None) -> Picture | None:
    """What comes of it within a minute."""
    assert first is not None
    while True:
        assert select.select([first.handle], [], [], 60)[0]
        if first.hear():
            return first.take()


def test_it_is_the_picture_that_the_desk_makes(yard: Path) -> None:
    """To the last letter; and nothing stands in the folder that was not there."""
    before = {path for path in yard.rglob("*") if ".lesart" not in path.parts}
    picture = made(ahead.begin(yard))
    desk = look_at(yard)
    assert picture == replace(look(desk, wait_for_notes=False, wait_for_others=False))
    assert {path for path in yard.rglob("*") if ".lesart" not in path.parts} == before
    desk.close()


def test_work_of_an_earlier_run_is_for_the_desk(yard: Path) -> None:
    """It has to be taken up, and what is saved is not what a person should see first."""
    (yard / ".lesart").mkdir(exist_ok=True)
    (yard / ".lesart" / "unsaved-1.toml").write_text("")
    assert ahead.begin(yard) is None


def test_no_project_and_one_core(yard: Path, tmp_path: Path, monkeypatch: pytest.MonkeyPatch) -> None:
    """There is nothing to make, or nothing to make it with."""
    assert ahead.begin(tmp_path / "nowhere") is None
    monkeypatch.setattr(os, "sched_getaffinity", lambda _: {0}, raising=False)
    assert ahead.begin(yard) is None


def test_a_broken_project_and_a_long_capture_make_none(yard: Path, monkeypatch: pytest.MonkeyPatch) -> None:
    """The desk says what is wrong, and reads what is long once."""
    (yard / FILE).write_text("lesart = 1\nname = ")
    assert made(ahead.begin(yard)) is None
    (yard / FILE).write_text('lesart = 1\nname = "y"\n[sources.a]\ncapture = "captures/hive-2-morning.csv"\n')
    monkeypatch.setattr(ahead, "LARGEST", 1000)
    assert made(ahead.begin(yard)) is None


def test_it_is_left_when_the_program_ends_before(yard: Path) -> None:
    """Nobody waits for it, and no process stays behind."""
    first = ahead.begin(yard, lambda _: os.read(os.pipe()[0], 1))  # type: ignore[arg-type, return-value]
    assert first is not None
    first.leave()
    with pytest.raises(ChildProcessError):
        os.waitpid(first._child, os.WNOHANG)


def test_nothing_but_views_is_made_of_what_comes() -> None:
    """Were it written by somebody else, it could do nothing."""
    reader, writer = os.pipe()
    os.write(writer, pickle.dumps(os.getcwd))
    os.close(writer)
    child = os.fork()
    if child == 0:
        os._exit(0)
    first = ahead.Ahead(reader, child)
    while not first.hear():
        pass
    with pytest.raises(pickle.UnpicklingError):
        first.take()
