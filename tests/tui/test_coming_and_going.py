"""Coming and going: the welcome, a project that cannot be read, leaving with unsaved work, the screen taken down."""

from __future__ import annotations

from pathlib import Path

import pytest

from lesart.desk.opening import open_desk
from lesart.tui import deeds
from lesart.tui.app import LesartApp
from tests.tui.driven import WIDE, Driven, opened


async def test_a_picture_that_comes_while_the_screen_is_taken_down_is_let_go(yard: Path) -> None:
    """When Lesart is left while it plays, say; it ended in a mistake of its own."""
    async with opened(yard) as driven:
        await driven.app._sheet.remove_children()
        driven.app.draw(progress="one that came late")
        assert driven.app._scene.progress == "one that came late"
        assert driven.app._do(lambda desk: None)  # as a tick does while it plays
        driven.app._tick()


async def test_leaving_with_unsaved_work_is_asked_twice(yard: Path) -> None:
    """The first ctrl+q says so, the second leaves, and the work is back next time."""
    async with opened(yard) as driven:
        await driven.press("8", "l", "l", "tab", "right", "ctrl+q")
        assert "Not saved yet" in driven.text("message")
        await driven.pilot.press("ctrl+q")
        await driven.pilot.pause()
        assert driven.app.return_value == 0
    assert "Unsaved work" in open_desk(yard).state.message


async def test_welcome(tmp_path: Path, monkeypatch: pytest.MonkeyPatch, yard_once: Path) -> None:
    """Without a project: the demo, a job worked out, a new project from a capture, an existing one, each by one key."""
    monkeypatch.chdir(tmp_path)
    (tmp_path / "its").symlink_to(yard_once)
    (tmp_path / "few.csv").write_text("t,a\n0,1\n1,2\n2,4\n")
    for keys, seen in (
        (["d"], "linden yard"),
        (["j", *"a thermistor", "enter"], "hut"),
        (["n", *"few.csv", "enter"], "few"),
        (["o", *"its", "enter"], "linden yard"),
    ):
        app = LesartApp(None)
        async with app.run_test(size=WIDE) as pilot:
            driven = Driven(app, pilot)
            await driven.until(lambda driven=driven: "from the wire to the glass" in driven.text("head"))  # type: ignore[misc]
            await pilot.press(*keys)
            await driven.until(lambda driven=driven, seen=seen: seen in driven.text("title"))  # type: ignore[misc]
            # The chart is mounted behind the first picture; ending the application in the middle of that is no test.
            await driven.until(lambda app=app: bool(app._sheet.query("#chart")))  # type: ignore[misc]
            await pilot.pause()
            assert app._worker is not None
            app._worker.stop()


async def test_a_job_that_there_is_not(tmp_path: Path, monkeypatch: pytest.MonkeyPatch) -> None:
    """All of them are listed, one that is none is refused by a sentence, and an empty line opens nothing."""
    monkeypatch.chdir(tmp_path)
    app = LesartApp(None)
    async with app.run_test(size=WIDE) as pilot:
        driven = Driven(app, pilot)
        await driven.until(lambda: "twenty-one jobs" in driven.text("body"))
        assert len(deeds.jobs_by_name()) == 21
        await pilot.press("j")
        await driven.until(lambda: app._sheet.typed.busy)
        assert app._sheet.typed.offers.option_count == 21
        await pilot.press("enter")
        await driven.until(lambda: not app._sheet.typed.busy)
        assert app._worker is None
        await pilot.press("j", *"barn", "enter")
        await driven.until(lambda: "is not a job; there are wheel" in " ".join(driven.text("body").split()))
        await pilot.press("escape")
        await driven.until(lambda: "open the demo" in driven.text("body"))
        assert list(tmp_path.iterdir()) == []


async def test_a_wrong_name_at_the_welcome(tmp_path: Path, monkeypatch: pytest.MonkeyPatch) -> None:
    """A folder that is none: a sentence, and escape leads back to where one is chosen."""
    monkeypatch.chdir(tmp_path)
    app = LesartApp(None)
    async with app.run_test(size=WIDE) as pilot:
        driven = Driven(app, pilot)
        await driven.until(lambda: "from the wire to the glass" in driven.text("head"))
        await pilot.press("o", *"nowhere", "enter")
        await driven.until(lambda: "there is no such folder" in " ".join(driven.text("body").split()))
        assert "escape goes back" in driven.text("body")
        await pilot.press("escape")
        await driven.until(lambda: "open the demo" in driven.text("body"))
        await pilot.press("d")
        await driven.until(lambda: "linden yard" in driven.text("title"))
        await driven.until(lambda: bool(app._sheet.query("#chart")))
        await pilot.pause()
        assert app._worker is not None
        app._worker.stop()


async def test_no_capture_is_said_on_the_screen(yard: Path) -> None:
    """A project whose capture is gone opens all the same, and says which file is missing where the chart would be."""
    (yard / "captures/hive-2-morning.csv").unlink()
    async with opened(yard) as driven:
        assert "it cannot be read (No such file or directory)" in " ".join(driven.text("body").split())
        for step in "0345678":
            await driven.press(step)
            assert "no capture" in driven.text("margin")
