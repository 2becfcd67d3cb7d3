"""The screens, driven by keys and clicks without a terminal: what is drawn, what a key does, what is never lost."""

from __future__ import annotations

import re
import subprocess
import sys
import textwrap
from collections.abc import Iterator
from pathlib import Path

import pytest
from textual.events import Paste

from lesart.core.step import Step
from lesart.project.folder.store import FILE
from lesart.tui.sizes import Size, size_of
from lesart.tui.theme import DARK, LIGHT, Palette
from lesart.tui.widgets.lines import Lines
from tests.tui.driven import MIDDLE, SMALL, WIDE, opened
from tests.warm import open_warm


async def test_all_regions_of_a_wide_window(yard: Path) -> None:
    """Thread, margin, workspace, glass, notes and keys are all there, and the channel is followed at all nine steps."""
    async with opened(yard) as driven:
        thread = driven.text("thread")
        for name in ("Wire", "Raw", "Law", "True", "Calm", "Fit", "Glass", "Pace", "Pack"):
            assert name in thread
        assert re.search(r"\d ct .*kg .*kg .*kg .*41 Hz", thread)
        assert "lid air" in driven.text("margin")
        assert "variants of hive 2 mass" in driven.text("margin")
        assert "glass  stand" in driven.text("glass")
        assert "glass  door" in driven.text("glass")
        assert "† Pace" in driven.text("notes")


@pytest.mark.parametrize("size", [WIDE, pytest.param(MIDDLE, marks=pytest.mark.long), SMALL])
async def test_every_step_at_every_size(yard_once: Path, size: tuple[int, int]) -> None:
    """Nothing is cut without a mark, nothing is drawn beyond its place."""
    async with opened(yard_once, size) as driven:
        for step in (None, *Step):
            await driven.press(str(step.number if step else 0))
            assert driven.app._picture.workspace.step is step
            assert driven.text("head").startswith(f" {step.shown if step else 'All'}"), step
            body = driven.app._sheet.query_one("#body", Lines)
            below = len(driven.app._picture.workspace.lines) - body.size.height
            assert ("more lines" in driven.text("body")) is (below > 0), step
            assert driven.app._sheet.query_one("#keys").region.bottom == size[1], step


async def test_an_edit_in_place(yard: Path) -> None:
    """Enter opens the selected value where it stands, typing replaces it, enter takes it, escape does not."""
    async with opened(yard) as driven:
        await driven.press("8", "l", "l", "tab")
        before = driven.text("thread")
        typed = driven.app._sheet.typed
        await driven.press("enter")
        assert typed.value == "6 ms"
        column, row = driven.place("body", "on-time 6 ms")
        body = driven.app._sheet.query_one("#body").region
        assert (typed.region.x, typed.region.y) == (body.x + column + len("on-time "), body.y + row)
        await driven.press(*"2 ms", "escape")
        assert driven.text("thread") == before
        await driven.press("enter", *"2 ms", "enter")
        await driven.until(lambda: re.search(r"refresh of stand +119 Hz", driven.text("body")))  # 1000 ÷ (4 × 2.1)
        assert "on time = 2 ms" in driven.text("message")
        assert "unsaved" in driven.text("title")


async def test_rows_of_a_table_are_pasted_as_pairs(yard: Path) -> None:
    """Not only the first line of them."""
    async with opened(yard) as driven:
        await driven.press("4", "plus")
        await driven.until(lambda: driven.app._sheet.typed.has_focus and driven.app._sheet.typed._take is not None)
        driven.app._sheet.typed.post_message(Paste("50 kg\t50.5\r\n60 kg\t60.6 kg\r\n"))
        await driven.until(lambda: bool(driven.app._sheet.typed.value))
        assert driven.app._sheet.typed.value == "50 kg = 50.5; 60 kg = 60.6 kg"
        await driven.press("enter")
        await driven.until(lambda: "50.5 kg" in driven.text() and "60.6 kg" in driven.text())


async def test_keys_faster_than_pictures(yard: Path) -> None:
    """Tab, arrows, enter and the text in one go: the value that was meant is changed, no key becomes a command."""
    async with opened(yard) as driven:
        await driven.press("3", "tab", *["down"] * 6, "enter", *"2.5 mV/V", "enter")
        await driven.settled()
        assert "sensitivity = 2.5 mV/V" in driven.text("message")
        assert driven.app._picture.workspace.step is Step.LAW


async def test_where_nothing_can_be_typed(yard: Path) -> None:
    """Enter and + in a step without values leave no line behind that would swallow the next key."""
    async with opened(yard) as driven:
        await driven.press("0", "enter", "5")
        assert driven.text("head").startswith(" Calm")
        await driven.press("0", "plus", "6")
        assert driven.text("head").startswith(" Fit")
        await driven.press("0", "enter", "enter", "escape", "h")
        assert driven.app._sheet.typed.busy


@pytest.mark.parametrize(
    ("keys", "says"),
    [
        (["8", "l", "l", "tab", "enter", *"fast", "enter"], '"fast" is not a number'),
        (["8", "l", "l", "tab", "enter", *"0", "enter"], "above 0 ms"),
        (["8", "l", "l", "tab", "enter", *"6 kg", "enter"], "kg cannot be converted to ms"),
        (["6", "tab", "enter", *"99", "enter"], "a whole number from 1 to 40"),
    ],
)
async def test_a_wrong_value(yard: Path, keys: list[str], says: str) -> None:
    """One sentence with what would be right; nothing is changed or lost."""
    async with opened(yard) as driven:
        thread = driven.text("thread")
        await driven.press(*keys)
        assert says in " ".join(driven.text("message").split())
        assert "unsaved" not in driven.text("title")
        await driven.press("2")
        # With its notes, which are looked for again.
        await driven.until(lambda: values(driven.text("thread")) == values(thread))


def values(thread: str) -> str:
    """The line of values of a thread."""
    return thread.splitlines()[1]


async def test_a_column_that_is_not_there(yard: Path) -> None:
    """The project is right, the capture does not have it: said where the chart would be, whole, and undone by a key."""
    async with opened(yard) as driven:
        await driven.press("2", "tab", "enter", *"wind", "enter")
        assert "the columns of hive-2-morning.csv are bridge_ct, lid_mv" in " ".join(driven.text("body").split())
        await driven.press("ctrl+z")
        assert " ct" in driven.text("thread")


async def test_nudge_undo_redo_save(yard: Path) -> None:
    """← and → take sensible steps; undo and redo go back and forth; ctrl+s writes just that line."""
    async with opened(yard) as driven:
        before = (yard / FILE).read_text()
        await driven.press("8", "l", "l", "tab", "right", "right", "left")
        assert "on-time 6.1 ms" in driven.text("body")
        await driven.press("ctrl+z")
        assert "on-time 6.2 ms" in driven.text("body")
        await driven.press("ctrl+y", "ctrl+s")
        assert (yard / FILE).read_text() == before.replace('on_time = "6 ms"', 'on_time = "6.1 ms"')
        assert "unsaved" not in driven.text("title")


async def test_notes_lead_and_mend(yard: Path) -> None:
    """n goes to the note's place, m applies its remedy, and the fault is gone from thread and apparatus."""
    async with opened(yard) as driven:
        await driven.press("n", "n", "n")
        assert driven.text("head").startswith(" Pace")
        await driven.press("m")
        await driven.until(lambda: "refreshed at" not in driven.text("notes"))
        await driven.until(lambda: re.search(r"refresh of stand +50 Hz +50 Hz", driven.text("body")))
        assert "41 Hz" not in driven.text("thread")


async def test_hand(yard: Path) -> None:
    """Typed value in, every step follows, h lets go; a wrong one is refused."""
    async with opened(yard) as driven:
        await driven.press("h", *"100 kg", "enter")
        assert "hand 1 0" in driven.text("title")
        assert re.search(r"100\.\d+ kg.*99\.\d+ kg|100\.0+ kg", driven.text("thread"))
        await driven.press("h")
        assert "hand" not in driven.text("title")
        await driven.press("h", *"3 V", "enter")
        assert "neither raw nor a reading" in driven.text("message")


async def test_channels_and_panels(yard: Path) -> None:
    """Arrows choose the channel, g brings the next panel forward, each answers to a click too."""
    async with opened(yard) as driven:
        await driven.press("down")
        assert "mV" in driven.text("thread")
        await driven.click("margin", "hive 2 mass")
        assert " ct" in driven.text("thread")
        await driven.press("g")
        assert driven.app._picture.glass[0].name == "door"
        await driven.click("glass", "stand")
        assert driven.app._picture.glass[0].name == "stand"
        await driven.click("thread", "Calm")
        assert driven.text("head").startswith(" Calm")
        await driven.click("notes", "refreshed at 41 Hz")
        assert driven.text("head").startswith(" Pace")


async def test_a_value_answers_to_clicks(yard: Path) -> None:
    """The first click selects, the second edits."""
    async with opened(yard) as driven:
        await driven.press("8", "l", "l")
        await driven.click("body", "0.1 ms")
        assert driven.app._picture.workspace.selected == ("panels", "stand", "scan", "blanking")
        await driven.click("body", "0.1 ms")
        assert driven.app._sheet.typed.value == "0.1 ms"


async def test_export(yard: Path) -> None:
    """e asks for a place and draws the open chart there, off the interface's thread."""
    async with opened(yard) as driven:
        await driven.press("4", "e", "enter")
        await driven.until(lambda: "Drawn" in driven.text("message"))
        drawn = (yard / "drawings/hive-2-mass-true.svg").read_text()
        assert "indicated / kg" in drawn
        # The name is that of the view opened by the key before, however fast that was.
        await driven.press("7", "e")
        assert "export to" in driven.text("message")
        assert driven.app._worker is not None
        driven.app._worker.do(lambda desk: desk.say("Something else."))
        await driven.until(lambda: driven.app._picture.message == "Something else.")
        assert "export to" in driven.text("message")
        await driven.press("enter")
        await driven.until(lambda: (yard / "drawings/stand-glass.svg").exists())
        await driven.press("e", "ctrl+u", *"x.bmp", "enter")
        assert "does not end in .svg or .pdf, or .png" in driven.text("message")


@pytest.mark.parametrize(
    ("width", "height", "size"),
    [
        (160, 47, Size.WIDE),
        (150, 40, Size.WIDE),
        (149, 47, Size.MIDDLE),
        (120, 36, Size.MIDDLE),
        (119, 31, Size.SMALL),
        (80, 24, Size.SMALL),
        (59, 24, Size.TINY),
        (80, 15, Size.TINY),
        (1, 1, Size.TINY),
    ],
)
def test_sizes(width: int, height: int, size: Size) -> None:
    """The three sizes that are promised get their arrangement, the next smaller one below."""
    assert size_of(width, height) is size


def _contrasts(palette: Palette) -> Iterator[tuple[str, float]]:
    def light(colour: str) -> float:
        parts = [int(colour[place : place + 2], 16) / 255 for place in (1, 3, 5)]
        linear = [part / 12.92 if part <= 0.04045 else ((part + 0.055) / 1.055) ** 2.4 for part in parts]
        return 0.2126 * linear[0] + 0.7152 * linear[1] + 0.0722 * linear[2]

    for tone in ("text", "faint", "rubric", "lapis", "ochre", "verdigris"):
        for ground in ("ink", "raised"):
            first, second = sorted((light(getattr(palette, tone)), light(getattr(palette, ground))))
            yield f"{tone} on {ground}", (second + 0.05) / (first + 0.05)


@pytest.mark.parametrize("palette", [DARK, LIGHT])
def test_contrast(palette: Palette) -> None:
    """Every tone of text has at least 4.5:1 on both grounds, by the formula of WCAG 2."""
    for name, contrast in _contrasts(palette):
        assert contrast >= 4.5, name


def test_nothing_heavy_when_the_first_picture_stands() -> None:
    """The modules loaded by then are a list that is held: arrays, plotting, TOML editing and pictures come later."""
    code = """
        import asyncio, sys
        from lesart.tui.app import LesartApp
        async def look():
            async with LesartApp(lambda: None).run_test(size=(160, 47)) as pilot:
                heavy = {"numpy", "scipy", "matplotlib", "tomlkit", "PIL", "pandas", "pint"}
                print(sorted(heavy & set(sys.modules)))
                import os
                sys.stdout.flush()
                os._exit(0)
        asyncio.run(look())
    """
    done = subprocess.run([sys.executable, "-c", textwrap.dedent(code)], capture_output=True, text=True, check=False)
    assert done.stdout == "[]\n", done.stderr


async def test_notes_that_give_way_to_a_glass_are_counted(yard: Path) -> None:
    """All of them by their marks, folded remarks too; one that is gone to is read."""
    async with opened(yard) as driven:
        await driven.press("7")
        marks = [note.mark for note in driven.app._picture.notes]
        remarks = sum(row.count for row in driven.app._picture.notes if row.mark == "·")
        folded = driven.text("notes")
        assert re.search(rf"^ \d+ notes +† {marks.count('†')} +‡ {marks.count('‡')} +· {remarks} +n goes", folded), (
            folded
        )
        desk = open_warm(yard)
        assert folded.split()[0] == str(len(desk.notes))
        desk.close()
        await driven.press("n")
        assert any(note.chosen for note in driven.app._picture.notes)
        assert "† Wire" in driven.text("notes")
