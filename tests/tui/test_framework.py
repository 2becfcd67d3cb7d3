"""What Lesart does over the framework's head still does what it is for."""

from __future__ import annotations

import inspect
import os
import pty
import signal
import threading

import pytest
from rich.color import ColorSystem
from rich.segment import Segment
from rich.style import Style
from textual.app import App
from textual.color import Color
from textual.command import CommandPalette
from textual.drivers._writer_thread import WriterThread
from textual.filter import DimFilter, Monochrome

from lesart.core.glass.panels.character_panel import LIGHTS as CHARACTER_LIGHTS
from lesart.core.glass.panels.pixel_panel import LIGHTS as PIXEL_LIGHTS
from lesart.tui.app import LesartApp
from lesart.tui.framework import (
    CommandSheet,
    KeysInTurn,
    Screen,
    Uncoloured,
    for_few_colours,
    is_hung_up,
    read_no_color,
    told_apart,
    without_colours,
)
from lesart.tui.linked import LinkedApp
from lesart.tui.theme import DARK, LIGHT, Palette


def test_greys_for_pieces_with_and_without_a_style() -> None:
    """A piece without a style stays; a colour becomes a grey; nothing else of a style is lost."""
    pieces = [Segment(""), Segment("a", Style.parse("bold #d9583b on #14120f")), Segment("b")]
    first, grey, last = Uncoloured().apply(pieces, Color(0, 0, 0))
    assert (first, last) == (pieces[0], pieces[2])
    assert grey.style is not None
    assert grey.style.bold
    assert grey.style.color is not None
    red, green, blue = grey.style.color.get_truecolor()
    assert red == green == blue


def test_only_that_filter_is_exchanged() -> None:
    others = DimFilter()
    assert [type(each) for each in without_colours([others, Monochrome()])] == [DimFilter, Uncoloured]


@pytest.mark.parametrize("palette", [DARK, LIGHT], ids=["dark", "light"])
def test_letters_are_seen_in_sixteen_colours(palette: Palette) -> None:
    """Two colours far apart never become the same one: on every ground of the theme and of every panel."""
    panels = [(each[0], each[1]) for each in (*CHARACTER_LIGHTS.values(), *PIXEL_LIGHTS.values())]
    tones = [(palette.ink, tone) for tone in (palette.text, palette.rubric, palette.lapis, palette.ochre)]
    for ground, letters in (*panels, *tones):
        for weight in ("", "bold "):
            style = told_apart(Style.parse(f"{weight}{letters} on {ground}"))
            assert style.color is not None
            assert style.bgcolor is not None
            number, behind = (each.downgrade(ColorSystem.STANDARD).number for each in (style.color, style.bgcolor))
            assert number is not None
            # Many terminals take the brighter one for bold letters.
            assert behind not in (number, number + 8 if style.bold and number < 8 else number)


def test_what_is_dark_on_a_panel_stays_dark() -> None:
    """It is there, and nearly the ground; a piece without colours, or with one, is as it was."""
    for words in ("#7d9330 on #8aa33a", "bold", "red", "#e8dfcc on #14120f"):
        assert told_apart(Style.parse(words)) == Style.parse(words)


def test_only_sixteen_colours_are_few() -> None:
    """With more of them nothing is changed."""
    assert for_few_colours([], "truecolor") == for_few_colours([], "256") == for_few_colours([], None) == []
    assert len(for_few_colours([], "standard")) == 1


@pytest.mark.parametrize(("value", "left"), [("", False), ("1", True), (None, False)])
def test_an_empty_no_color_is_none(monkeypatch: pytest.MonkeyPatch, value: str | None, left: bool) -> None:
    """As its convention has it: set and not empty."""
    monkeypatch.delenv("NO_COLOR", raising=False)
    if value is not None:
        monkeypatch.setenv("NO_COLOR", value)
    read_no_color()
    assert ("NO_COLOR" in os.environ) is left


@pytest.mark.parametrize(
    ("ours", "theirs", "name"),
    [
        (KeysInTurn, App, "_check_bindings"),
        (KeysInTurn, App, "_fatal_error"),
        (LinkedApp, App, "get_line_filters"),
        (LinkedApp, App, "get_default_screen"),
        (CommandSheet, CommandPalette, "dismiss"),
        (CommandSheet, CommandPalette, "_action_command_list"),
        (CommandSheet, CommandPalette, "_refresh_command_list"),
    ],
)
def test_what_is_overridden_is_still_there(ours: type, theirs: type, name: str) -> None:
    """A version of the framework that renames one of these would leave Lesart without it, and nothing would say so."""
    mine, original = inspect.signature(vars(ours)[name]), inspect.signature(getattr(theirs, name))
    gathers = any(each.kind is inspect.Parameter.VAR_POSITIONAL for each in mine.parameters.values())
    assert gathers or list(mine.parameters) == list(original.parameters)


def test_the_signal_of_waking_up_is_still_there() -> None:
    """After a sleep the whole screen is drawn again; the framework tells of it by this."""
    assert callable(LesartApp(None).app_resume_signal.subscribe)


def test_what_is_written_to_a_terminal_that_is_gone_goes_nowhere(monkeypatch: pytest.MonkeyPatch) -> None:
    """The framework's writing thread lives on, so that who ends it does not wait for good; the program is told once."""
    told: list[int] = []
    monkeypatch.setattr("lesart.tui.framework.os.kill", lambda pid, number: told.append(number))
    reader, writer = os.pipe()
    os.close(reader)
    screen = Screen(os.fdopen(writer, "wb"), encoding="utf-8", errors="backslashreplace", write_through=True)
    thread = WriterThread(screen)  # type: ignore[arg-type]
    thread.daemon = True
    thread.start()

    def many_pictures() -> None:
        for number in range(200):
            thread.write(f"picture {number}" * 1000)
        thread.stop()

    ending = threading.Thread(target=many_pictures, daemon=True)
    ending.start()
    ending.join(20)
    assert not ending.is_alive()
    assert screen.is_gone
    assert told == [signal.SIGHUP]


def test_a_terminal_whose_window_was_closed() -> None:
    """Noticed at the terminal itself: the signal goes to who leads the session, and that may keep it."""
    window, terminal = pty.openpty()
    assert not is_hung_up(terminal)
    os.write(window, b"a key")
    assert not is_hung_up(terminal)
    os.close(window)
    assert is_hung_up(terminal)
    os.close(terminal)
