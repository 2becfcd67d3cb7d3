"""The one place where something is typed: over a value in place, or behind a question on the message line."""

from __future__ import annotations

from collections.abc import Callable

from textual.events import Paste
from textual.widgets import Input

from lesart.core.visible import visible

Take = Callable[[str], object]


class TypedLine(Input, can_focus=True):
    """Shown while something is typed, hidden otherwise.

    Keys may come faster than pictures: ``collect`` takes them before it is known which value they are meant for, and
    ``ask`` then finds what was typed already, ``enter`` included.
    """

    def __init__(self, *, id: str | None = None) -> None:
        super().__init__(id=id, compact=True, select_on_focus=True)
        self.display = False
        self.busy = False
        self._take: Take | None = None
        self._entered: str | None = None

    def collect(self) -> None:
        """Take what is typed from now on."""
        self.busy, self._take, self._entered = True, None, None
        self.value = ""
        # It must be there to have the keys, but has no place yet.
        self.styles.width, self.styles.offset = 1, (0, 0)
        self.display = True
        self._take_keys()

    def ask(self, place: tuple[int, int], width: int, written: str, take: Take) -> None:
        """Stand at ``place`` with ``written`` selected, unless something has been typed since ``collect``."""
        entered, typed = self._entered, self.value if self.busy else ""
        if entered is not None:
            self.leave()
            take(entered)
            return
        self._take = take
        self.styles.width, self.styles.offset = width, place
        self.display, self.busy = True, True
        self.value = typed or visible(written)
        self._take_keys()
        if typed:
            self.cursor_position = len(typed)
        else:
            self.action_select_all()

    def _take_keys(self) -> None:
        """At once: the framework's own ``focus`` comes a little later, when the line may be gone again."""
        self.screen.set_focus(self)

    def leave(self) -> None:
        """Nothing more is typed here."""
        self.busy, self._take, self._entered = False, None, None
        self.display = False
        self.screen.set_focus(None)

    def _on_paste(self, event: Paste) -> None:
        """Rows of a table become pairs in one line: the framework's own takes the first line only."""
        rows = [" = ".join(cell.strip() for cell in row.split("\t")) for row in event.text.splitlines() if row.strip()]
        if rows:
            start, end = self.selection
            self.replace("; ".join(rows), *sorted((start, end)))
        event.stop()
        event.prevent_default()

    def on_input_submitted(self, event: Input.Submitted) -> None:
        """Hand on what was typed; or keep it until it is known for which value."""
        event.stop()
        take = self._take
        if take is None:
            self._entered = event.value if self.busy else None
            return
        self.leave()
        take(event.value)
