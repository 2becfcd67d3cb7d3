"""The guided walk from its first stop to its last, by the keys that it names; and what a run remembers."""

from __future__ import annotations

from pathlib import Path

import pytest

from lesart.project.folder.remembered import (
    Remembered,
    has_unsaved,
    place,
    remember_look,
    remember_project,
    remember_walk,
    remembered,
)
from lesart.study.walk import STOPS
from tests.tui.driven import Driven, opened

DEEDS = (
    ("greater_than_sign",),
    ("3",),
    ("l",),
    ("h", *"43 kg", "enter"),
    ("h",),
    ("4",),
    ("5",),
    ("6",),
    ("7",),
    ("g",),
    ("n",),
    ("m",),
)
"""What each stop asks for, as the framework names keys."""
NAMES = {"greater_than_sign": ">"}


def at(driven: Driven) -> int:
    walk = driven.app._scene.walk
    assert walk is not None
    return walk.stop


async def test_to_its_end_by_the_keys_it_names(yard: Path) -> None:
    """Each stop waits for its key, forgives another one, and then says what there was to notice."""
    async with opened(yard) as driven:
        driven.app.begin_walk(0)
        await driven.press("2")
        for number, (stop, keys) in enumerate(zip(STOPS, DEEDS, strict=True)):
            assert at(driven) == number
            said = " ".join(driven.text("walk").split())
            assert stop.look in said
            assert f"walk {number + 1} of 12" in said
            assert stop.press.split()[0] == NAMES.get(keys[0], keys[0])
            await driven.press("equals_sign")  # plays faster: not what is asked for
            assert at(driven) == number
            await driven.press(*keys)
            await driven.until(lambda number=number: at(driven) == number + 1)  # type: ignore[misc]
            assert stop.notice in " ".join(driven.text("walk").split())
        assert "That was the walk" in driven.text("walk")
        assert "mended" in driven.text("message")
        await driven.press("escape")
        assert driven.app._scene.walk is None
        await driven.press("ctrl+z")
        assert not driven.app._picture.unsaved


async def test_left_and_taken_up(yard: Path) -> None:
    """Where it was, in another run."""
    async with opened(yard) as driven:
        driven.app.begin_walk(0)
        await driven.press("greater_than_sign")
        await driven.until(lambda: at(driven) == 1)
        await driven.press("escape")
        assert driven.app._scene.walk is None
    assert remembered().walk == 1
    async with opened(yard) as driven:
        driven.app.begin_walk(remembered().walk)
        await driven.press("2")
        assert STOPS[1].look in " ".join(driven.text("walk").split())


def test_what_is_remembered(yard: Path, tmp_path: Path, monkeypatch: pytest.MonkeyPatch) -> None:
    """The last five projects that are still there, each once; the look; the stop."""
    monkeypatch.setenv("XDG_STATE_HOME", str(tmp_path / "state"))
    assert remembered() == Remembered()
    folders = []
    for number in range(7):
        folder = tmp_path / f"project {number}"
        folder.mkdir()
        (folder / "lesart.toml").write_text("lesart = 1\n")
        remember_project(folder)
        folders.append(str(folder))
    remember_project(Path(folders[3]))
    assert remembered().recent == (folders[3], folders[6], folders[5], folders[4], folders[2])
    (Path(folders[6]) / "lesart.toml").unlink()
    assert folders[6] not in remembered().recent
    remember_look(light=True)
    remember_walk(4)
    assert remembered().light
    assert remembered().walk == 4
    assert not has_unsaved(folders[3])
    (Path(folders[3]) / ".lesart").mkdir()
    (Path(folders[3]) / ".lesart" / "unsaved-2.toml").write_text("")
    assert has_unsaved(folders[3])


@pytest.mark.parametrize(
    "text", ["", "{", "[]", '{"recent": 3, "light": "x", "walk": -1}', '{"recent": [1, "\\u0000"]}']
)
def test_a_damaged_memory_is_none(text: str, tmp_path: Path, monkeypatch: pytest.MonkeyPatch) -> None:
    """As if nothing was remembered; the next thing is."""
    monkeypatch.setenv("XDG_STATE_HOME", str(tmp_path))
    place().parent.mkdir(parents=True)
    place().write_text(text)
    assert remembered() == Remembered()
    remember_walk(2)
    assert remembered().walk == 2


def test_where_nothing_can_be_remembered(tmp_path: Path, monkeypatch: pytest.MonkeyPatch) -> None:
    """A file stands where the folder should be: nothing is said, nothing falls over."""
    (tmp_path / "lesart").write_text("")
    monkeypatch.setenv("XDG_STATE_HOME", str(tmp_path))
    remember_walk(2)
    assert remembered() == Remembered()
