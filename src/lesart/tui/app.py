"""The application: mounts the regions, sends keys to the desk as deeds, draws the pictures that come back.

It computes nothing, and before the first picture it imports nothing heavy: the desk comes in its own thread.
"""

from __future__ import annotations

import time
from collections.abc import Callable
from pathlib import Path
from typing import TYPE_CHECKING, Any, ClassVar

from textual.app import App, ComposeResult
from textual.binding import Binding
from textual.containers import Horizontal
from textual.events import Resize
from textual.message import Message
from textual.widgets import Input

from lesart.desk.views import ChannelRow, Edit, Glass, NoteRow, Picture, ThreadStep, visible
from lesart.tui import pages, regions
from lesart.tui.commands import Commands
from lesart.tui.keys import KEYS
from lesart.tui.paint import piece, rule
from lesart.tui.sizes import Size, size_of
from lesart.tui.theme import DARK, LIGHT, style, theme_of
from lesart.tui.widgets.lines import Lines
from lesart.tui.workspace import WorkspaceView

if TYPE_CHECKING:
    from lesart.desk.desk import Desk
    from lesart.desk.worker import Trouble, Worker

FRAMES_PER_SECOND = 20
FIRST_PICTURE_S = 0.05
"""The first picture is written out in this time once the application is ready."""
Opener = Callable[[], "Desk"]
BLANK = Picture("", "", "", "", "", "", False, "")


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

        def __init__(self, what: Picture | Trouble) -> None:
            self.what = what
            super().__init__()

    def __init__(self, opener: Opener | None, name: str = "", *, light: bool = False) -> None:
        super().__init__()
        self.palette = LIGHT if light else DARK
        self._opener = opener
        self._worker: Worker | None = None
        self._picture = BLANK
        self._subject = name
        self._trouble: tuple[str, ...] = ()
        self._values_focused = False
        self._page = "work"
        self._asking: Callable[[str], None] | None = None
        self._editing: Edit | None = None
        self._ticked = 0.0
        self._tick_waits = False
        self._leaving = False
        self._mounted_all = False

    # Mounting

    def compose(self) -> ComposeResult:
        """Regions from top to bottom."""
        yield Lines(id="title", ground="raised")
        yield Lines(id="thread", ground="raised")
        with Horizontal(id="middle"):
            yield Lines(id="margin")
            yield WorkspaceView(id="workspace")
            yield Lines(id="glass")
        with Horizontal(id="foot"):
            yield Lines(id="notes", ground="raised")
            yield Lines(id="glass-foot")
        yield Lines(id="message")
        yield Lines(id="keys", ground="raised")
        yield Input(id="edit", compact=True, select_on_focus=True)

    def on_mount(self) -> None:
        """Colours, an empty picture, then the desk."""
        for palette, name in ((DARK, "lesart-ink"), (LIGHT, "lesart-parchment")):
            self.register_theme(theme_of(palette, name))
        self.theme = "lesart-ink" if self.palette is DARK else "lesart-parchment"
        self.query_one("#edit").display = False
        self._mounted_all = True
        self.set_interval(1 / FRAMES_PER_SECOND, self._tick)
        self.draw()

    def on_ready(self) -> None:
        """The desk only now, and a breath later: its imports would hold up the first picture."""
        if self._opener is not None:
            self.set_timer(FIRST_PICTURE_S, lambda: self.open_with(self._opener))

    def open_with(self, opener: Opener | None) -> None:
        """Start the desk's thread; the first picture comes as a message."""
        if opener is None:
            return
        from lesart.desk.worker import Worker

        self._worker = Worker(opener, self._deliver)
        self._worker.start()
        self.draw()

    def _deliver(self, what: Picture | Trouble) -> None:
        """Called in the desk's thread; messages may be posted from there."""
        self.post_message(self.Drawn(what))

    def on_resize(self, event: Resize) -> None:
        """Other room, other arrangement."""
        self.call_after_refresh(self.draw)

    # Pictures

    def on_lesart_app_drawn(self, message: Drawn) -> None:
        """The one place where what the desk made reaches the screen."""
        if isinstance(message.what, Picture):
            self._picture, self._trouble = message.what, ()
            self._tick_waits = False
        else:
            self._trouble = message.what.sentences
        self.draw()

    def draw(self) -> None:
        """Draw the present picture in the present size."""
        if not self._mounted_all:
            return
        size = size_of(self.size.width, self.size.height)
        self._arrange(size)
        palette, picture, width = self.palette, self._picture, self.size.width
        base, faint = style(palette, "text", "raised"), style(palette, "faint", "raised")
        small = size in (Size.SMALL, Size.TINY)
        self._lines("#title").show([regions.title_line(palette, picture, width)], base, faint)
        thread = (
            [regions.thread_line(palette, picture, width), rule(palette, width)]
            if small else regions.thread_lines(palette, picture, width)
        )  # fmt: skip
        self._lines("#thread").show(thread, base, faint)
        self._draw_sides(size)
        self._draw_workspace(size)
        tone = "rubric" if picture.message_is_fault else "text"
        self._lines("#message").show([[piece(palette, f" {picture.message}", tone)]], style(palette, "text"), faint)
        self._lines("#keys").show([regions.keys_line(palette, width, small=small)], base, faint)

    def _draw_sides(self, size: Size) -> None:
        palette, picture = self.palette, self._picture
        base, faint = style(palette, "text"), style(palette, "faint")
        raised = style(palette, "text", "raised")
        margin = self._lines("#margin")
        rows = regions.margin_lines(
            palette, picture, margin.size.width, focused=not self._values_focused, variants=size is not Size.MIDDLE
        )
        margin.show(rows, base, faint)
        notes, chosen = regions.notes_lines(palette, picture, self._lines("#notes").size.width or self.size.width)
        self._lines("#notes").show(notes, raised, style(palette, "faint", "raised"), chosen)
        glass = self._lines("#glass")
        glass.show(regions.glass_lines(palette, picture.glass, glass.size.width), base, faint)
        foot = self._lines("#glass-foot")
        foot.show(regions.glass_lines(palette, picture.glass[:1], foot.size.width), base, faint)

    def _draw_workspace(self, size: Size) -> None:
        view = self.query_one("#workspace", WorkspaceView)
        if size is Size.TINY:
            view.show_plain(*pages.tiny_page(self.palette, self.size.width, self.size.height), self.palette)
        elif self._page == "keys":
            view.show_plain(*pages.keys_page(self.palette), self.palette)
        elif self._trouble:
            view.show_plain(*pages.trouble_page(self.palette, self._subject, self._trouble), self.palette)
        elif self._opener is None and self._worker is None:
            view.show_plain(*pages.welcome_page(self.palette), self.palette)
        elif self._picture is BLANK:
            view.show_plain(*pages.opening_page(self.palette, self._subject), self.palette)
        else:
            view.show(self._picture.workspace, self.palette, values_focused=self._values_focused)

    def _arrange(self, size: Size) -> None:
        """Which regions are to be seen at this size."""
        for name in Size:
            self.screen.set_class(size is name, f"-{name.value}")
        page = self._page if size is Size.SMALL else "work"
        large = (self._picture.workspace.number == 7 and not self._trouble) or self._page == "keys"
        self.query_one("#margin").display = size in (Size.WIDE, Size.MIDDLE) or page == "margin"
        self.query_one("#workspace").display = page in ("work", "keys")
        self.query_one("#glass").display = (size is Size.WIDE and not large) or page == "glass"
        self.query_one("#foot").display = size in (Size.WIDE, Size.MIDDLE) or page == "notes"
        self.query_one("#middle").display = page != "notes"
        self.query_one("#glass-foot").display = size is Size.MIDDLE

    def _lines(self, name: str) -> Lines:
        return self.query_one(name, Lines)

    # Deeds

    def _do(self, deed: Callable[[Desk], Any]) -> None:
        """Send a deed to the desk, unless a value is being typed."""
        if self._worker is not None and not self._trouble and self._asking is None:
            self._leaving = False
            self._worker.do(deed)

    def _tick(self) -> None:
        now = time.monotonic()
        elapsed, self._ticked = now - self._ticked, now
        if self._picture.is_playing and not self._tick_waits:
            self._tick_waits = True
            self._do(lambda desk: desk.tick(min(elapsed, 0.5)))

    def action_step(self, number: int) -> None:
        """Open a step."""
        self._page = "work"
        self._do(lambda desk: desk.open_step(number))

    def action_up(self) -> None:
        """Up."""
        self._move(-1)

    def action_down(self) -> None:
        """Down."""
        self._move(1)

    def _move(self, by: int) -> None:
        """Through the channels or through the values, whichever has the keys."""
        if not self._values_focused:
            self._do(lambda desk: desk.move_channel(by))
            return
        workspace = self._picture.workspace
        keys = [span.edit.key for line in workspace.lines for span in line if span.edit is not None]
        if keys:
            at = keys.index(workspace.selected) if workspace.selected in keys else -by
            chosen = keys[(at + by) % len(keys)]
            self._do(lambda desk: desk.select(chosen))

    def action_turn(self) -> None:
        """Let ↑ ↓ go through the values, or through the channels again."""
        self._values_focused = not self._values_focused
        self._page = "work"
        self.draw()

    def action_channels(self) -> None:
        """To the channels; on a small screen they take its place."""
        self._values_focused = False
        self._page = "margin" if self._page != "margin" else "work"
        self.draw()

    def action_cursor(self, by: int) -> None:
        """By samples."""
        self._do(lambda desk: desk.move_cursor(by))

    def action_screen(self, by: int) -> None:
        """By a tenth of the view."""
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
        if self._picture.hand:
            self._do(lambda desk: desk.take_hand(""))
        elif self._worker is not None:
            self._ask("hand, a raw value or a reading: ", "", lambda text: self._do(lambda desk: desk.take_hand(text)))

    def action_note(self) -> None:
        """Next note; on a small screen the notes take its place. Without a project: a new one."""
        if self._worker is None:
            self._ask("new project from the file: ", "", self._new_project)
            return
        if size_of(self.size.width, self.size.height) is Size.SMALL:
            self._page = "notes"
        self._do(lambda desk: desk.next_note())

    def action_mend(self) -> None:
        """Mend the chosen note."""
        self._do(lambda desk: desk.mend())

    def action_glass(self) -> None:
        """Next panel; on a small screen the glass takes its place first."""
        if size_of(self.size.width, self.size.height) is Size.SMALL and self._page != "glass":
            self._page = "glass"
            self.draw()
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

    def action_save(self) -> None:
        """Write the file."""
        self._do(lambda desk: desk.save())

    def action_keys(self) -> None:
        """The list of keys."""
        self._page = "keys" if self._page != "keys" else "work"
        self.draw()

    def action_parchment(self) -> None:
        """Dark or light."""
        self.palette = LIGHT if self.palette is DARK else DARK
        self.theme = "lesart-ink" if self.palette is DARK else "lesart-parchment"
        self.draw()

    def action_export(self) -> None:
        """Ask where to, then draw off the interface's thread."""
        if self._worker is None:
            return
        from lesart.desk.export import default_path

        self._ask("export to .svg or .pdf: ", default_path(self._picture), self._export)

    def _export(self, text: str) -> None:
        from lesart.desk.export import export_view

        worker = self._worker
        assert worker is not None
        self._do(lambda desk: export_view(desk, text, done=lambda said, fault: worker.do(
            lambda there: there.say(said, fault=fault))))  # fmt: skip

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
        if self._worker is None and self._asking is None:
            self._subject = "the linden yard"
            self.open_with(_open_demo)

    def key_o(self) -> None:
        """A project, when nothing is open."""
        if self._worker is None and self._asking is None:
            self._ask("open the project folder: ", "", self._open_project)

    def _open_project(self, text: str) -> None:
        self._subject = text
        self.open_with(lambda: _open_folder(Path(text).expanduser()))

    def _new_project(self, text: str) -> None:
        self._subject = text
        self.open_with(lambda: _open_new(Path(text).expanduser()))

    # Typing

    def action_edit(self) -> None:
        """Type over the selected value, in its place."""
        workspace = self._picture.workspace
        for line in workspace.lines:
            for span in line:
                if span.edit is not None and span.edit.key == workspace.selected:
                    self._edit_in_place(span.edit)
                    return

    def _edit_in_place(self, edit: Edit) -> None:
        if not self._values_focused:
            self._values_focused = True
            self.draw()
        place = self.query_one("#workspace", WorkspaceView).place_of(edit)
        self._editing = edit
        said = f"{edit.label}: {edit.help}"

        def take(text: str) -> None:
            self._do(lambda desk: desk.edit(edit.key, text))

        if place is None:
            self._ask(f"{said}  ", edit.written, take)
            return
        self._say(said)
        self._open_input(place[0], place[1], max(place[2] + 6, 14), edit.written, take)

    def _ask(self, question: str, text: str, take: Callable[[str], None]) -> None:
        """Ask on the message line."""
        self._say(question)
        line = self._lines("#message").region
        self._open_input(line.x + 1 + len(question), line.y, max(line.width - len(question) - 2, 10), text, take)

    def _say(self, words: str) -> None:
        faint = style(self.palette, "faint")
        self._lines("#message").show([[piece(self.palette, f" {words}", "ochre")]], style(self.palette, "text"), faint)

    def _open_input(self, x: int, y: int, width: int, text: str, take: Callable[[str], None]) -> None:
        box = self.query_one("#edit", Input)
        box.value = visible(text)
        box.styles.width = min(width, max(self.size.width - x, 4))
        box.styles.offset = (x, y)
        box.display = True
        self._asking = take
        box.focus()

    def on_input_submitted(self, event: Input.Submitted) -> None:
        """Typed."""
        take = self._asking
        self.action_leave()
        if take is not None:
            take(event.value)

    def action_leave(self) -> None:
        """Leave a value as it was, or a page."""
        if self._asking is not None:
            self._asking, self._editing = None, None
            box = self.query_one("#edit", Input)
            box.display = False
            self.set_focus(None)
        else:
            self._page = "work"
        self.draw()

    # Clicks

    def on_lines_clicked(self, message: Lines.Clicked) -> None:
        """Everything visible answers."""
        what = message.meaning
        if self._asking is not None:
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
            if what.key == self._picture.workspace.selected and self._values_focused:
                self._edit_in_place(what)
            else:
                self._values_focused = True
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


def _open_folder(path: Path) -> Desk:
    from lesart.desk.desk import open_desk

    return open_desk(path)


def _open_demo() -> Desk:
    from lesart.desk.begin import open_demo

    return open_demo(Path("linden-yard"))


def _open_new(path: Path) -> Desk:
    from lesart.desk.begin import open_new

    return open_new(path)
