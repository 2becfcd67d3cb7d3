"""The application: what each key, answer and click means to the desk.

It computes nothing, and imports nothing heavy before the first picture: the desk starts in its own thread.
"""

from __future__ import annotations

import asyncio
import time
from collections.abc import Callable
from pathlib import Path
from typing import TYPE_CHECKING, Any, ClassVar

from textual.binding import Binding
from textual.events import Key

from lesart.core.step import Step
from lesart.study.views import ChannelRow, Edit, Glass, Leaf, NoteRow, Offer, ThreadStep
from lesart.tui import deeds
from lesart.tui.commands import Commands
from lesart.tui.framework import CommandSheet
from lesart.tui.keys import KEYS, MORE_COMMANDS
from lesart.tui.questions import QuestioningApp
from lesart.tui.regions import Pressed
from lesart.tui.sizes import Size
from lesart.tui.theme import DARK, LIGHT
from lesart.tui.widgets.lines import Lines
from lesart.tui.widgets.offers import narrowed

if TYPE_CHECKING:
    from lesart.desk.desk import Desk


class LesartApp(QuestioningApp):
    """Full-screen Lesart: its keys, its questions, its clicks."""

    TITLE = "Lesart"
    CSS_PATH = "app.tcss"
    ENABLE_COMMAND_PALETTE = True
    AUTO_FOCUS = None
    COMMANDS: ClassVar[set[Any]] = {Commands}
    BINDINGS: ClassVar[list[Any]] = [
        Binding(key.keys, f"press({place})", key.says, show=False, priority=key.keys in ("tab", "ctrl+q"))
        for place, key in enumerate(KEYS)
    ]

    # Deeds

    def action_press(self, place: int) -> None:
        """Do what a key of the table means; the framework knows actions only by name."""
        KEYS[place].does(self)

    def open_step(self, step: Step | None) -> None:
        """Open a step, or all channels; on the welcome page a recent project by its number."""
        if self._worker is None:
            self._open_recent(step.number if step is not None else 0)
            return
        self.draw(page="work")
        self._do(lambda desk: desk.open_step(step))

    def action_up(self) -> None:
        """Up."""
        self._move(-1)

    def action_down(self) -> None:
        """Down."""
        self._move(1)

    def _move(self, by: int) -> None:
        """Move through the channels or through the values, whichever has the keys."""
        if self._scene.values_focused:
            self._do(lambda desk: deeds.move_value(desk, by))
        else:
            self._do(lambda desk: desk.move_channel(by))

    def action_turn(self) -> None:
        """Let ↑ ↓ move through the values, or through the channels again; complete a line being typed."""
        if self._sheet.typed.busy:
            # After the characters still on their way to the line, not before them.
            self._sheet.typed.post_message(Key("tab", None))
            return
        self.draw(values_focused=not self._scene.values_focused, page="work")

    def action_channels(self) -> None:
        """Go to the channels; on a small screen they replace the workspace."""
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

    def action_note(self) -> None:
        """Next note; on a small screen the notes replace the workspace. Without a project: a new one."""
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
        """Next panel; on a small screen the glass first replaces the workspace."""
        if self._sheet.room is Size.SMALL and self._scene.page != "glass":
            self.draw(page="glass")
            return
        self._do(lambda desk: desk.next_panel())

    def action_way(self) -> None:
        """Show panels in the next available way."""
        means = self._scene.means.turned()
        self.draw(means=means)
        self._do(lambda desk: desk.say(f"Panels are drawn as: {means.way.value}."))

    def action_nudge(self, direction: int) -> None:
        """The selected value."""
        self._do(lambda desk: deeds.nudge_value(desk, direction))

    def action_undo(self) -> None:
        """Undo."""
        self._do(lambda desk: desk.undo())

    def action_redo(self) -> None:
        """Redo."""
        self._do(lambda desk: desk.redo())

    def action_scroll(self, pages: int) -> None:
        """Scroll the workspace."""
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
        deeds.remember_look(light=dark)
        self.draw(palette=LIGHT if dark else DARK)

    def action_leave_lesart(self) -> None:
        """Leave; with unsaved work only at the second request. It is kept either way."""
        if self._picture.unsaved and not self._leaving:
            self._do(lambda desk: desk.ask_to_leave())
            self._leaving = True
            return
        if self._worker is not None:
            self._worker.stop()
        self.exit(0)

    # The welcome

    def key_d(self) -> None:
        """Open the demo, when nothing is open."""
        if self._worker is None and not self._sheet.typed.busy:
            self.draw(subject="the linden yard")
            self.open_with(deeds.open_demo)

    def _open_recent(self, number: int) -> None:
        if 1 <= number <= len(self._scene.recent) and not self._sheet.typed.busy:
            self._open_project(self._scene.recent[number - 1].folder)

    def action_write_sum(self) -> None:
        """Write the selected sum's result; on the welcome page start the guided walk."""
        if self._worker is not None:
            self._do(deeds.write_sum)
        elif not self._sheet.typed.busy:
            self.begin_walk(deeds.walk_waits_at())
            self.key_d()

    def action_join(self) -> None:
        """Join all pins by their roles; on the welcome page open a worked job."""
        if self._worker is not None:
            self._do(deeds.join_by_role)
        elif not self._sheet.typed.busy:
            self.run_worker(self._ask_job(self._sheet.typed.collect()))

    async def _ask_job(self, collecting: int) -> None:
        """Ask for one of the jobs, once they are known; anything typed until then belongs to the answer."""
        offers = {"": tuple(Offer(*each) for each in (await asyncio.to_thread(deeds.jobs_by_name)).items())}

        def taken(typed: str) -> None:
            self.draw()
            name = next((each.text for each in narrowed(offers, typed)), typed.strip())
            if typed.strip():
                self.draw(subject=name)
                self.open_with(lambda: deeds.open_job(name))

        if self._sheet.typed.is_collecting(collecting):
            self._sheet.ask(self._scene.palette, "open the job: ", "", taken, "", offers)

    def _open_project(self, text: str) -> None:
        self.draw(subject=text)
        self.open_with(lambda: deeds.open_folder(Path(text).expanduser()))

    def _new_project(self, text: str) -> None:
        self.draw(subject=text)
        self.open_with(lambda: deeds.open_new(Path(text).expanduser()))

    # Entries

    def action_find(self) -> None:
        """Find any key, note, value or name by a word of it."""
        self._do(deeds.search)
        self._when_typing(self._ask_what_to_find)

    def _ask_what_to_find(self) -> None:
        there = self._picture.workspace.offers.get("", ())
        keys = {key.says: key for key in (*KEYS, *MORE_COMMANDS) if key.command}
        offers = {"": (*there, *(Offer(says, f"key {key.shown}".rstrip()) for says, key in keys.items()))}

        def taken(typed: str) -> None:
            self.draw()
            # A word or two are enough: the first of the list is meant.
            found = next((each.text for each in narrowed(offers, typed)), typed.strip()) if typed.strip() else ""
            if found in keys:
                keys[found].does(self)
                return
            self._answered(
                lambda desk: deeds.find(desk, found) if found else None,
                lambda why: self._sheet.ask(self._scene.palette, "find: ", typed, taken, why, offers),
            )

        self._sheet.ask(self._scene.palette, "find: ", "", taken, "", offers)

    def action_take_away(self) -> None:
        """Remove the selected law, reference or filter."""
        self._do(lambda desk: desk.take_away())

    def action_move_entry(self, by: int) -> None:
        """Move the selected law or filter among the others."""
        self._do(lambda desk: desk.move_entry(by))

    def deed(self, deed: Callable[[Desk], None]) -> None:
        """Something the desk does that needs no question."""
        self._do(deed)

    def action_tare(self) -> None:
        """Tare: make the reading at the cursor zero."""
        self._do(lambda desk: desk.tare())

    def action_next_unit(self) -> None:
        """Next unit of the field in Fit."""
        self._do(lambda desk: desk.next_unit())

    def action_leaf(self, by: int) -> None:
        """Open the next leaf of the step."""
        self._do(lambda desk: desk.turn_leaf(by))

    def action_listen(self) -> None:
        """Listen to the chosen channel's line. Without a project: open one."""
        if self._worker is None:
            if not self._sheet.typed.busy:
                self._ask("open the project folder: ", "", self._open_project)
            return
        self._do(deeds.toggle_listening)

    def action_record(self) -> None:
        """Record the chosen channel's line."""
        self._do(deeds.toggle_recording)

    # Clicks

    def on_lines_clicked(self, message: Lines.Clicked) -> None:
        """Everything visible answers."""
        what = message.meaning
        if self._sheet.typed.busy:
            self.action_leave()
        if isinstance(what, ThreadStep):
            self.open_step(what.step)
        elif isinstance(what, ChannelRow):
            self._do(lambda desk: desk.choose_channel(what.name))
        elif isinstance(what, NoteRow):
            self._do(lambda desk: desk.fold_remarks() if what.index < 0 else desk.go_to_note(what.index))
        elif isinstance(what, Leaf):
            self._do(lambda desk: desk.choose_leaf(what.name))
        elif isinstance(what, Glass):
            self._do(lambda desk: desk.choose_panel(what.name))
        elif isinstance(what, Pressed):
            self._press_shown(what.shown)
        elif isinstance(what, Edit):
            if what.key == self._picture.workspace.selected and self._scene.values_focused:
                self._edit_in_place(what)
            else:
                self.draw(values_focused=True)
                self._do(lambda desk: desk.select(what.key))

    def _press_shown(self, shown: str) -> None:
        """Press a key of the foot line; of several shown together the first."""
        key = next((each for each in KEYS if each.shown in (shown, shown.split()[0])), None)
        if key is not None and key.keys not in ("up", "down"):
            key.does(self)

    def on_chart_lines_wheeled(self, message: Any) -> None:
        """Zoom around the pointer."""
        self._do(lambda desk: desk.zoom(message.steps, message.x))

    def on_chart_lines_dragged(self, message: Any) -> None:
        """Pan."""
        self._do(lambda desk: desk.pan(message.dx))

    def on_chart_lines_pointed(self, message: Any) -> None:
        """Put the cursor there."""
        self._do(lambda desk: desk.put_cursor(message.x))
