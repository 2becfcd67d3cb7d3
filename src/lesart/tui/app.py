"""The application: sends keys to the desk as deeds and the pictures that come back to the sheet.

It computes nothing, and before the first picture it imports nothing heavy: the desk comes in its own thread.
"""

from __future__ import annotations

import os
import sys
import tempfile
import time
from collections.abc import Callable
from dataclasses import replace
from pathlib import Path
from typing import TYPE_CHECKING, Any, ClassVar

from textual.app import App
from textual.binding import Binding
from textual.events import Resize
from textual.message import Message

from lesart.desk.views import ChannelRow, Edit, Glass, NoteRow, Picture, ThreadStep
from lesart.tui.commands import Commands, CommandSheet
from lesart.tui.keys import KEYS
from lesart.tui.sheet import Scene, Sheet
from lesart.tui.sizes import Size
from lesart.tui.theme import DARK, LIGHT, theme_of
from lesart.tui.widgets.lines import Lines
from lesart.tui.widgets.typed import Take

if TYPE_CHECKING:
    from lesart.desk.desk import Desk
    from lesart.desk.worker import News, Worker

FRAMES_PER_SECOND = 20
FIRST_PICTURE_S = 0.05
"""The first picture is written out in this time once the application is ready."""
MISTAKEN = 2
Opener = Callable[[], "Desk"]


class LesartApp(App[int]):
    """Full-screen Lesart. ``opener`` opens the desk in the desk's thread; without one the welcome is shown."""

    TITLE = "Lesart"
    CSS_PATH = "app.tcss"
    ENABLE_COMMAND_PALETTE = True
    AUTO_FOCUS = None
    COMMANDS: ClassVar[set[Any]] = {Commands}
    BINDINGS: ClassVar[list[Any]] = [
        Binding(key.keys, key.action, key.says, show=False, priority=key.keys in ("tab", "ctrl+q"))
        for key in KEYS
    ]  # fmt: skip

    class Drawn(Message):
        """A picture, or the trouble that stands in its way, from the desk's thread."""

        def __init__(self, what: News, done: int) -> None:
            self.what, self.done = what, done
            super().__init__()

    def __init__(self, opener: Opener | None, name: str = "", *, light: bool = False) -> None:
        super().__init__()
        self._scene = Scene(
            LIGHT if light else DARK, subject=name, begun=opener is not None, from_welcome=opener is None
        )
        self._sheet = Sheet()
        self._opener = opener
        self._worker: Worker | None = None
        self._sent = self._done = 0
        self._once_current: list[tuple[int, Callable[[], None]]] = []
        self._ticked = 0.0
        self._tick_waits = False
        self._leaving = False
        self.mistake = ""

    # Pictures

    def get_default_screen(self) -> Sheet:
        """The sheet; the command list may lie over it."""
        return self._sheet

    def on_mount(self) -> None:
        """Colours, an empty picture, then the desk."""
        for palette, name in ((DARK, "lesart-ink"), (LIGHT, "lesart-parchment")):
            self.register_theme(theme_of(palette, name))
        self.theme = "lesart-ink" if self._scene.palette is DARK else "lesart-parchment"
        self.set_interval(1 / FRAMES_PER_SECOND, self._tick)

    def on_ready(self) -> None:
        """The desk only now, and a breath later: its imports would hold up the first picture."""
        self.draw()
        if self._opener is not None:
            self.set_timer(FIRST_PICTURE_S, lambda: self.open_with(self._opener))

    def open_with(self, opener: Opener | None) -> None:
        """Start the desk's thread; the first picture comes as a message."""
        if opener is None:
            return
        from lesart.desk.worker import Worker

        self._worker = Worker(opener, self._deliver)
        self._worker.start()
        self.draw(begun=True)

    def _deliver(self, what: News, done: int) -> None:
        """Called in the desk's thread; messages may be posted from there."""
        self.post_message(self.Drawn(what, done))

    def on_resize(self, event: Resize) -> None:
        """Other room, other arrangement."""
        self.call_after_refresh(self.draw)

    def on_lesart_app_drawn(self, message: Drawn) -> None:
        """The one place where what the desk made reaches the screen."""
        from lesart.desk.worker import Mistake

        self._done = message.done
        if isinstance(message.what, Picture):
            self._tick_waits = False
            self.draw(picture=message.what, trouble=())
        elif isinstance(message.what, Mistake):
            self.mistake = message.what.sentence
            self.exit(MISTAKEN)
            return
        else:
            self.draw(trouble=message.what.sentences)
        waiting, self._once_current = self._once_current, []
        for number, then in waiting:
            self._when_current(then, number)

    def _fatal_error(self) -> None:
        """In place of the framework's traceback, which is for us and not for a person: a sentence and a file."""
        from lesart.desk.report import write_report

        error = sys.exc_info()[1] or RuntimeError("an error without a trace")
        self.mistake = write_report(Path(tempfile.gettempdir()) / f"lesart-{os.getpid()}.txt", error)
        if self._worker is not None:
            self._worker.stop()
        self.panic("")

    def _when_current(self, then: Callable[[], None], number: int | None = None) -> None:
        """Do it once the picture shows all that was sent to the desk before: keys may come faster than pictures."""
        number = self._sent if number is None else number
        if self._done >= number:
            then()
        else:
            self._once_current.append((number, then))

    def draw(self, **changes: Any) -> None:
        """Draw the scene, changed in some fields."""
        self._scene = replace(self._scene, **changes)
        if self._sheet.is_mounted:
            self._sheet.draw(self._scene)

    @property
    def _picture(self) -> Picture:
        return self._scene.picture

    # Deeds

    def _do(self, deed: Callable[[Desk], Any]) -> None:
        """Send a deed to the desk, unless a value is being typed."""
        if self._worker is not None and not self._scene.trouble and not self._sheet.typed.busy:
            self._leaving = False
            self._sent = self._worker.do(deed)

    def _tick(self) -> None:
        now = time.monotonic()
        elapsed, self._ticked = now - self._ticked, now
        if self._picture.is_playing and not self._tick_waits:
            self._tick_waits = True
            self._do(lambda desk: desk.tick(min(elapsed, 0.5)))

    def action_step(self, number: int) -> None:
        """Open a step."""
        self.draw(page="work")
        self._do(lambda desk: desk.open_step(number))

    def action_up(self) -> None:
        """Up."""
        self._move(-1)

    def action_down(self) -> None:
        """Down."""
        self._move(1)

    def _move(self, by: int) -> None:
        """Through the channels or through the values, whichever has the keys."""
        if self._scene.values_focused:
            self._do(lambda desk: _move_value(desk, by))
        else:
            self._do(lambda desk: desk.move_channel(by))

    def action_turn(self) -> None:
        """Let ↑ ↓ go through the values, or through the channels again."""
        self.draw(values_focused=not self._scene.values_focused, page="work")

    def action_channels(self) -> None:
        """To the channels; on a small screen they take its place."""
        self.draw(values_focused=False, page="margin" if self._scene.page != "margin" else "work")

    def action_cursor(self, by: int) -> None:
        """By samples."""
        self._do(lambda desk: desk.move_cursor(by))

    def action_screen(self, by: int) -> None:
        """By a screen."""
        self._do(lambda desk: desk.move_screen(by))

    def action_zoom(self, steps: float) -> None:
        """Around the cursor."""
        self._do(lambda desk: desk.zoom(steps))

    def action_play(self) -> None:
        """Play or pause."""
        self._ticked = time.monotonic()
        self._do(lambda desk: desk.toggle_play())

    def action_speed(self, by: int) -> None:
        """Slower or faster."""
        self._do(lambda desk: desk.change_speed(by))

    def action_hand(self) -> None:
        """Take the hand, or let go."""
        self._when_typing(self._ask_hand)

    def _ask_hand(self) -> None:
        if self._picture.hand:
            self.action_leave()
            self._do(lambda desk: desk.take_hand(""))
        else:
            question = "hand, a raw value or a reading: "
            self._ask(question, "", lambda text: self._do(lambda desk: desk.take_hand(text)))

    def action_note(self) -> None:
        """Next note; on a small screen the notes take its place. Without a project: a new one."""
        if self._worker is None:
            self._ask("new project from the file: ", "", self._new_project)
            return
        if self._sheet.room is Size.SMALL:
            self.draw(page="notes")
        self._do(lambda desk: desk.next_note())

    def action_mend(self) -> None:
        """Mend the chosen note."""
        self._do(lambda desk: desk.mend())

    def action_glass(self) -> None:
        """Next panel; on a small screen the glass takes its place first."""
        if self._sheet.room is Size.SMALL and self._scene.page != "glass":
            self.draw(page="glass")
            return
        self._do(lambda desk: desk.next_panel())

    def action_nudge(self, direction: int) -> None:
        """The selected value."""
        self._do(lambda desk: desk.nudge(direction))

    def action_undo(self) -> None:
        """Back."""
        self._do(lambda desk: desk.undo())

    def action_redo(self) -> None:
        """On again."""
        self._do(lambda desk: desk.redo())

    def action_scroll(self, pages: int) -> None:
        """What does not fit into the workspace."""
        self._sheet.scroll_body(pages)

    def action_save(self) -> None:
        """Write the file."""
        self._do(lambda desk: desk.save())

    def action_keys(self) -> None:
        """The list of keys."""
        self.draw(page="keys" if self._scene.page != "keys" else "work")

    def action_command_palette(self) -> None:
        """Every command by name."""
        if len(self.screen_stack) == 1 and not self._sheet.typed.busy:
            self.push_screen(CommandSheet())

    def action_parchment(self) -> None:
        """Dark or light."""
        dark = self._scene.palette is DARK
        self.theme = "lesart-parchment" if dark else "lesart-ink"
        self.draw(palette=LIGHT if dark else DARK)

    def action_export(self) -> None:
        """Ask where to, then draw off the interface's thread."""
        self._when_typing(self._ask_export)

    def _ask_export(self) -> None:
        from lesart.desk.export import default_path

        self._ask("export to .svg or .pdf: ", default_path(self._picture), self._export)

    def _export(self, text: str) -> None:
        from lesart.desk.export import export_view

        worker = self._worker
        assert worker is not None

        def done(said: str, fault: bool) -> None:
            worker.do(lambda desk: desk.say(said, fault=fault))

        self._do(lambda desk: export_view(desk, text, done))

    def action_leave_lesart(self) -> None:
        """Leave; with unsaved work only when asked twice. It is kept either way."""
        if self._picture.unsaved and not self._leaving:
            self._do(
                lambda desk: desk.say("Not saved yet: ctrl+s saves. ctrl+q again leaves, and it is back next time.")
            )
            self._leaving = True
            return
        if self._worker is not None:
            self._worker.stop()
        self.exit(0)

    # The welcome

    def key_d(self) -> None:
        """The demo, when nothing is open."""
        if self._worker is None and not self._sheet.typed.busy:
            self.draw(subject="the linden yard")
            self.open_with(_open_demo)

    def key_o(self) -> None:
        """A project, when nothing is open."""
        if self._worker is None and not self._sheet.typed.busy:
            self._ask("open the project folder: ", "", self._open_project)

    def _open_project(self, text: str) -> None:
        self.draw(subject=text)
        self.open_with(lambda: _open_folder(Path(text).expanduser()))

    def _new_project(self, text: str) -> None:
        self.draw(subject=text)
        self.open_with(lambda: _open_new(Path(text).expanduser()))

    # Typing

    def _ask(self, question: str, text: str, take: Take) -> None:
        """Ask on the message line; when it is answered the line is as it was."""

        def taken(typed: str) -> None:
            self.draw()
            take(typed)

        self._sheet.ask(self._scene.palette, question, text, taken)

    def _when_typing(self, ask: Callable[[], None]) -> None:
        """Collect what is typed, and ask once the picture is current; not if it was left in the meantime."""
        if self._worker is None or self._scene.trouble or self._sheet.typed.busy:
            return
        self._sheet.typed.collect()

        def then() -> None:
            if self._sheet.typed.busy:
                ask()

        self._when_current(then)

    def action_edit(self) -> None:
        """Type over the selected value, in its place."""
        self._when_typing(self._ask_value)

    def _ask_value(self) -> None:
        edit = self._picture.workspace.selected_edit
        if edit is None:
            self.action_leave()
        else:
            self._edit_in_place(edit)

    def action_add(self) -> None:
        """Ask which law or filter, or for the true value at the cursor."""
        self._when_typing(self._ask_what_to_add)

    def _ask_what_to_add(self) -> None:
        question = self._picture.workspace.adds
        if question:
            self._ask(question, "", lambda text: self._do(lambda desk: desk.add(text)))
        else:
            self.action_leave()
            self._do(lambda desk: desk.add("?"))

    def action_take_away(self) -> None:
        """The selected law, reference or filter."""
        self._do(lambda desk: desk.take_away())

    def _edit_in_place(self, edit: Edit) -> None:
        if not self._scene.values_focused:
            self.draw(values_focused=True)

        def take(text: str) -> None:
            self.draw()
            self._do(lambda desk: desk.edit(edit.key, text))

        self._sheet.ask_in_place(self._scene.palette, edit, take)

    def action_leave(self) -> None:
        """Leave a value as it was, or a page."""
        if self._sheet.typed.busy:
            self._sheet.typed.leave()
            self.draw()
        elif self._scene.trouble and self._scene.from_welcome and self._worker is not None:
            # What was named at the welcome cannot be opened: back to it.
            self._worker.stop()
            self._worker = None
            self.draw(begun=False, trouble=(), page="work")
        else:
            self.draw(page="work")

    # Clicks

    def on_lines_clicked(self, message: Lines.Clicked) -> None:
        """Everything visible answers."""
        what = message.meaning
        if self._sheet.typed.busy:
            self.action_leave()
        if isinstance(what, ThreadStep):
            self.action_step(what.number)
        elif isinstance(what, ChannelRow):
            self._do(lambda desk: desk.choose_channel(what.name))
        elif isinstance(what, NoteRow):
            index = self._picture.notes.index(what)
            self._do(lambda desk: desk.go_to_note(index))
        elif isinstance(what, Glass):
            self._do(lambda desk: desk.choose_panel(what.name))
        elif isinstance(what, Edit):
            if what.key == self._picture.workspace.selected and self._scene.values_focused:
                self._edit_in_place(what)
            else:
                self.draw(values_focused=True)
                self._do(lambda desk: desk.select(what.key))

    def on_chart_view_wheeled(self, message: Any) -> None:
        """Zoom around the pointer."""
        self._do(lambda desk: desk.zoom(message.steps, message.x))

    def on_chart_view_dragged(self, message: Any) -> None:
        """Pan."""
        self._do(lambda desk: desk.pan(message.dx))

    def on_chart_view_pointed(self, message: Any) -> None:
        """Put the cursor there."""
        self._do(lambda desk: desk.put_cursor(message.x))


def _move_value(desk: Desk, by: int) -> None:
    from lesart.desk.picture import move_value

    move_value(desk, by)


def _open_folder(path: Path) -> Desk:
    from lesart.desk.desk import open_desk

    return open_desk(path)


def _open_demo() -> Desk:
    from lesart.desk.begin import open_demo

    return open_demo(Path("linden-yard"))


def _open_new(path: Path) -> Desk:
    from lesart.desk.begin import open_new

    return open_new(path)
