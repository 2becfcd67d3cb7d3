"""The entry line: a list that narrows, what is refused stays open, what is typed meanwhile is no command."""

from __future__ import annotations

from collections.abc import Callable
from pathlib import Path

import pytest
from textual.events import Key

from lesart.core.step import Step
from lesart.tui.linked import LinkedApp
from lesart.tui.widgets.offers import OfferList
from tests.tui.driven import SMALL, Driven, opened


def line(driven: Driven) -> str:
    return driven.app._sheet.typed.value


def offered(driven: Driven) -> OfferList:
    return driven.app._sheet.typed.offers


async def test_a_refused_line_stays_open(yard: Path) -> None:
    """With what was typed, the cursor behind it, and why above it; mended it is taken."""
    async with opened(yard) as driven:
        await driven.press("5", "plus")
        await driven.press(*"meidan", "enter")
        typed = driven.app._sheet.typed
        assert typed.busy
        assert line(driven) == "meidan"
        assert typed.cursor_position == 6
        assert "median" in driven.text("message")
        assert "add a filter" in driven.text("message")
        await driven.press("ctrl+u", *"median 9", "enter")
        assert not typed.busy
        assert driven.app._picture.workspace.step is Step.CALM
        assert "added" in driven.text("message")


async def test_keys_that_come_with_the_line(yard: Path) -> None:
    """As fast as a paste: after a refusal V and D make and drop no variant; after a line that is taken they are
    done."""
    async with opened(yard) as driven:
        before = driven.app._picture.variants
        await driven.pilot.press("5", "plus", *"bananas", "enter", *"VV1D")
        await driven.settled()
        assert driven.app._sheet.typed.busy
        assert driven.app._picture.variants == before
        assert driven.app._picture.workspace.step is Step.CALM
        await driven.press("escape")
        await driven.pilot.press("plus", *"median 7", "enter", "3")
        await driven.until(lambda: driven.app._picture.workspace.step is Step.LAW)
        assert not driven.app._sheet.typed.busy


@pytest.fixture
def while_kept(monkeypatch: pytest.MonkeyPatch) -> Callable[[str], list[str]]:
    """A key that is pressed just when the desk answers, with others kept until it does; the list says that it was."""

    def press(key: str) -> list[str]:
        answered, pressed = LinkedApp.on_linked_app_drawn, list[str]()

        def drawn(self: LinkedApp, message: LinkedApp.Drawn) -> None:
            if self._sheet.typed._held and not pressed:
                pressed.append(key)
                self.post_message(Key(key, key))
            answered(self, message)

        monkeypatch.setattr(LinkedApp, "on_linked_app_drawn", drawn)
        return pressed

    return press


async def test_no_letter_overtakes_one_that_was_kept(yard: Path, while_kept: Callable[[str], list[str]]) -> None:
    """After a refusal it comes behind those that mend the line, not before what empties it."""
    async with opened(yard) as driven:
        await driven.press("5", "plus", *"low-pass 0.1 kg")
        await driven.until(lambda: not driven.app._resting and driven.app._done >= driven.app._sent)
        pressed = while_kept("1")
        for key in ("enter", "ctrl+u", *"low-pass 0."):
            driven.app.post_message(Key(key, key if len(key) == 1 else None))
        await driven.until(lambda: bool(pressed) and driven.app._done >= driven.app._sent)
        await driven.press(*" Hz")
        assert line(driven) == "low-pass 0.1 Hz"
        await driven.press("enter")
        assert "added: low-pass" in driven.text("message")


async def test_no_command_overtakes_one_that_was_kept(yard: Path, while_kept: Callable[[str], list[str]]) -> None:
    """After a line that is taken the step pressed last is the open one."""
    async with opened(yard) as driven:
        await driven.press("5", "plus", *"median 7")
        pressed = while_kept("4")
        for key in ("enter", "2", "3"):
            driven.app.post_message(Key(key, key if len(key) == 1 else None))
        await driven.until(lambda: bool(pressed) and driven.app._done >= driven.app._sent)
        await driven.settled()
        assert driven.app._picture.workspace.step is Step.TRUE


@pytest.mark.parametrize(
    ("keys", "drawn"),
    [
        (["enter"], "drawings/stand-glass.svg"),
        (["x", "backspace", *"v.svg", "enter"], "v.svg"),
        (["backspace", "enter"], ""),
    ],
)
async def test_enter_that_comes_before_the_line_takes_what_stands_there(
    yard: Path, keys: list[str], drawn: str
) -> None:
    """All at once, before it is known what is proposed: taken as proposed, unless it was deleted."""
    async with opened(yard) as driven:
        for key in ("7", "e", *keys):
            driven.app.post_message(Key(key, key if len(key) == 1 else None))
        if drawn:
            await driven.until(lambda: (yard / drawn).exists())
        else:
            await driven.until(lambda: '"" does not end in .svg' in driven.text("message"))


async def test_a_refused_line_is_mended_before_it_is_said(yard: Path) -> None:
    """What would come of it stands there while it is typed, so nobody waits: no letter of the mend is lost."""
    async with opened(yard) as driven:
        await driven.press("5", "plus", *"meidan 9")
        for key in ("enter", "V", "ctrl+u", *"mean 4"):
            # All at once: the desk has not answered yet.
            driven.app.post_message(Key(key, key if len(key) == 1 else None))
        await driven.until(lambda: line(driven) == "mean 4")
        await driven.press("enter")
        assert "added: mean" in driven.text("message")


async def test_a_value_that_is_refused_stays_open(yard: Path) -> None:
    """On the message line, with why."""
    async with opened(yard) as driven:
        await driven.press("6", "tab", "enter")
        await driven.press(*"many", "enter")
        assert driven.app._sheet.typed.busy
        assert line(driven) == "many"
        assert "whole number" in driven.text("message")
        await driven.press("escape")
        assert not driven.app._sheet.typed.busy


async def test_the_list_narrows_and_tab_completes(yard: Path) -> None:
    """By each letter; arrows choose, enter takes what was chosen; nothing is left of it then."""
    async with opened(yard) as driven:
        await driven.press("5", "plus")
        await driven.until(lambda: offered(driven).display)
        all_there_are = offered(driven).option_count
        await driven.press(*"dea")
        assert offered(driven).option_count < all_there_are
        await driven.press("tab")
        assert line(driven) == "deadband"
        await driven.press("ctrl+u", *"me", "down", "down")
        await driven.press("enter")
        await driven.until(lambda: not driven.app._sheet.typed.busy)
        assert not offered(driven).display
        assert "added: mean" in driven.text("message")


@pytest.mark.long
async def test_up_brings_back_what_was_entered(yard: Path) -> None:
    """Of the same question, the last one first."""
    async with opened(yard) as driven:
        for typed in ("median 3", "mean 4"):
            await driven.press("5", "plus", *typed, "enter")
        await driven.press("plus", "up")
        assert line(driven) == "mean 4"
        await driven.press("up")
        assert line(driven) == "median 3"
        await driven.press("down")
        assert line(driven) == "mean 4"


@pytest.mark.long
async def test_what_would_come_of_it_is_seen_before_enter(yard: Path) -> None:
    """On the thread and the glass while it is typed; escape leaves all as it was, undo has nothing to take back."""
    async with opened(yard) as driven:
        await driven.press("5", "plus")
        before = driven.text("thread")
        await driven.press(*"mean 256")
        await driven.until(lambda: driven.app._picture.preview is not None)
        assert driven.text("thread") != before
        assert "as it would be" in driven.text("title")
        await driven.press("ctrl+u")
        await driven.until(lambda: driven.app._picture.preview is None)
        assert driven.text("thread") == before
        await driven.press(*"mean bananas")
        await driven.pilot.pause(0.6)
        await driven.settled()
        assert driven.app._picture.preview is None
        await driven.press("escape")
        assert driven.text("thread") == before
        assert "as it would be" not in driven.text("title")
        assert not driven.app._picture.unsaved
        await driven.press("ctrl+z")
        assert "Nothing is left to undo" in driven.text("message")


async def test_a_value_that_is_one_of_several_shows_them(yard: Path) -> None:
    """Beside it, all of them whatever stands there now; an arrow and enter take another."""
    async with opened(yard) as driven:
        await driven.press("6", "tab")
        for _ in range(40):
            edit = driven.app._picture.workspace.selected_edit
            if edit is not None and edit.key[-1] == "align":
                break
            await driven.press("down")
        assert driven.app._picture.workspace.choices
        count = len(driven.app._picture.workspace.choices)
        await driven.press("enter")
        await driven.until(lambda: offered(driven).display)
        assert offered(driven).option_count == count
        before = driven.app._picture.workspace.selected_edit
        await driven.press("down", "down", "enter")
        await driven.settled()
        after = driven.app._picture.workspace.selected_edit
        assert before is not None
        assert after is not None
        assert after.key == before.key
        assert after.written != before.written


async def test_a_word_finds_keys_values_and_notes(yard: Path) -> None:
    """With a list that narrows; a key that is chosen is pressed, what is nowhere keeps the line."""
    async with opened(yard) as driven:
        await driven.press("slash", *"sensitivity of law 2", "enter")
        assert driven.app._picture.workspace.step is Step.LAW
        assert driven.app._picture.workspace.selected == ("channels", "hive 2 mass", "law", 1, "sensitivity")
        await driven.press("slash", *"all channels and")
        await driven.until(lambda: offered(driven).option_count == 1)
        await driven.press("down", "enter")
        await driven.until(lambda: driven.app._picture.workspace.step is None)
        await driven.press("slash", *"858 of", "enter")
        assert any(row.chosen and "858 of" in row.text for row in driven.app._picture.notes)
        before = driven.app._picture
        await driven.press("slash", "space", "enter")
        assert driven.app._picture.workspace.step is before.workspace.step
        await driven.press("slash", *"zebra", "enter")
        assert line(driven) == "zebra"
        assert 'Nothing here has "zebra" in it.' in driven.text("message")
        await driven.press("escape")


async def test_a_choice_that_is_clicked_is_taken(yard: Path) -> None:
    """As if arrows had led to it; one that something has to follow stays in the line."""
    async with opened(yard) as driven:
        await driven.press("5", "plus", *"deadb")
        await driven.until(lambda: offered(driven).option_count == 1)
        await driven.pilot.click(offered(driven), offset=(3, 0))
        await driven.until(lambda: not driven.app._sheet.typed.busy)
        await driven.until(lambda: "added: ignore small changes" in driven.text("message"))


async def test_the_keys_at_the_foot_answer_to_a_click(yard: Path) -> None:
    """Each does what it says."""
    async with opened(yard) as driven:
        await driven.click("keys", "? keys")
        assert driven.app._scene.page == "keys"
        await driven.click("keys", "? keys")
        await driven.click("keys", "+ add")
        assert driven.app._sheet.typed.busy
        await driven.press("escape")
        await driven.click("keys", "n m")
        assert any(row.chosen for row in driven.app._picture.notes)


@pytest.mark.parametrize("step", ["1", *(pytest.param(step, marks=pytest.mark.long) for step in "23457")])
async def test_a_small_window_has_room_to_type(step: str, yard: Path) -> None:
    """The question is cut with a mark, never the line behind it."""
    async with opened(yard, SMALL) as driven:
        await driven.press(step, "plus")
        typed = driven.app._sheet.typed
        assert typed.busy
        assert typed.region.width >= 30
        assert typed.region.right <= SMALL[0]
        question = driven.text("message").rstrip().splitlines()[-1]
        assert question.rstrip().endswith(":")


@pytest.mark.parametrize("key", ["R", pytest.param("C", marks=pytest.mark.long)])
async def test_where_there_is_nothing_to_ask_no_line_stays(yard: Path, key: str) -> None:
    """A key that asks for a name where nothing is looked at: it is said, and the next keys are keys again."""
    async with opened(yard) as driven:
        await driven.press("1")
        await driven.until(lambda: not driven.app._picture.looked_at)
        await driven.pilot.press(key, *"ab", "enter", "escape", "0")
        await driven.until(lambda: driven.app._picture.workspace.step is None)
        assert not driven.app._sheet.typed.busy
        assert not driven.app._sheet.typed.display


@pytest.mark.long
@pytest.mark.parametrize("step", range(10))
async def test_every_key_that_asks_gives_the_keys_back(yard: Path, step: int) -> None:
    """Pressed faster than pictures come, with letters and enter behind it, wherever one is: a line that is refused is
    left by escape, and then a key opens all channels again."""
    async with opened(yard) as driven:
        for key in ("h", "y", "plus", "slash", "R", "C", "enter", "e"):
            await driven.press(str(step))
            await driven.pilot.press(key, *"?~", "enter")
            await driven.settled()
            await driven.until(lambda: not driven.app._sheet.typed.busy or driven.app._sheet.typed.region.width > 1)
            await driven.press("escape", "escape", "escape", "1" if step == 0 else "0")
            wanted = Step.WIRE if step == 0 else None
            await driven.until(lambda wanted=wanted: driven.app._picture.workspace.step is wanted)  # type: ignore[misc]
            assert not driven.app._sheet.typed.display, key


@pytest.mark.parametrize("pause", [False, pytest.param(True, marks=pytest.mark.long)])
async def test_a_key_that_is_found_asks_and_its_answer_comes_with_it(yard: Path, pause: bool) -> None:
    """The word, enter, the answer and enter as fast as a paste: the second enter enters, and keys are keys again."""
    async with opened(yard) as driven:
        await driven.press("slash", *"hand: type a value")
        await driven.until(lambda: offered(driven).option_count == 1)
        keys = ["enter", *"12 kg", "enter", "3"]
        for key in keys:
            driven.app.post_message(Key(key, key if len(key) == 1 else None))
            if pause:
                await driven.pilot.pause()
        await driven.until(lambda: driven.app._picture.workspace.step is Step.LAW)
        assert not driven.app._sheet.typed.busy
        assert driven.app._picture.hand
