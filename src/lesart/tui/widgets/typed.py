"""The only input line: over a value in place, or after a question on the message line."""

from __future__ import annotations

from collections.abc import Callable

from textual.binding import Binding
from textual.events import Key, Paste
from textual.widgets import Input

from lesart.core.visible import visible
from lesart.tui.widgets.offers import OfferList

Take = Callable[[str], object]
ACTIONS = {
    key.strip(): each.action for each in Input.BINDINGS if isinstance(each, Binding) for key in each.key.split(",")
}
"""Keys that edit the line, and their actions."""
MENDING = frozenset(key for key, action in ACTIONS.items() if action.startswith("delete_left"))
"""Keys that only an input line knows, and which therefore mean the present line."""
MOST_KEPT = 50
"""Entries remembered per question."""


def mending(keys: list[Key]) -> list[Key]:
    """Keys after a refused line that edit it: from the first that deletes on."""
    first = next((index for index, key in enumerate(keys) if key.key in MENDING), len(keys))
    return keys[first:]


class TypedLine(Input, can_focus=True):
    """Shown while something is typed, hidden otherwise.

    Keys may come faster than pictures: ``collect`` takes them before it is known which value they are meant for, and
    ``ask`` then finds what was typed already, ``enter`` included. Once something was entered ``hold`` keeps the keys
    that follow until it is known whether it was taken: after a refusal they were not meant as commands.
    """

    def __init__(self, *, id: str | None = None) -> None:
        super().__init__(id=id, compact=True, select_on_focus=True)
        self.display = False
        self.busy = False
        self._take: Take | None = None
        self._entered: str | None = None
        self._held: list[Key] | None = None
        self._behind: list[Key] | None = None
        """Keys after enter, while that is being processed."""
        self._emptied = False
        """True where something was deleted before the present value was known: then an empty line is meant."""
        self._first: list[Key] = []
        """Held keys to be handled before any other."""
        self._to_complete: str | None = None
        self._past: dict[str, list[str]] = {}
        self._asked, self._back, self._before = "", 0, ""
        self._collected = 0
        self.offers = OfferList()
        """The list of offers; set by the sheet."""
        self.tries: Take | None = None
        """Called with the present text whenever it changes."""

    def collect(self) -> int:
        """Collect what is typed from now on; gives a number for this occasion."""
        self.busy, self._take, self._entered, self._to_complete = True, None, None, None
        self._emptied = False
        self.value = ""
        # It must be displayed to have the focus, but has no place yet.
        self.styles.width, self.styles.offset = 1, (0, 0)
        self.display = True
        self._take_keys()
        self._collected += 1
        return self._collected

    def is_collecting(self, number: int) -> bool:
        """True while it is unknown what is asked, since ``collect`` gave that number."""
        return self.busy and self._take is None and self._held is None and self._collected == number

    def hold(self) -> None:
        """Hold keys from now on."""
        self.busy, self._take, self._held = True, None, []
        self.styles.width, self.styles.offset = 1, (0, 0)
        self.value = ""
        self.display = True
        self._take_keys()

    def let_go(self) -> list[Key]:
        """The held keys, which are no longer held."""
        held, self._held = self._held or [], None
        self.leave()
        return held

    async def _on_key(self, event: Key) -> None:
        """Letters are handled by the framework; everything else, and held keys, here."""
        if self._first:
            self._first.append(event)
        elif not await self._does(event):
            return
        event.stop()
        event.prevent_default()

    async def _does(self, event: Key) -> bool:
        """Handle a key other than a letter; True where it was.

        Held keys are kept. With offers down and then up choose; otherwise up and down go through earlier entries.
        """
        offered = self.offers.display
        if not self.busy:
            # It was on its way here while the line closed, and is meant for whatever has the focus now.
            self.app.post_message(Key(event.key, event.character))
        elif self._held is not None:
            self._held.append(event)
        elif self._behind is not None:
            self._behind.append(event)
        elif event.key == "tab":
            self.complete()
        elif event.key == "enter":
            # What was entered comes as a message a little later; keys until then belong to this line no more. The
            # framework's own way from the key to the message leads over the application, which sends a key that was
            # handed on by this line back to it: enter would then wait after itself.
            self._behind = []
            self.post_message(self.Submitted(self, self.value))
        elif offered and (event.key == "down" or (event.key == "up" and self.offers.is_chosen)):
            self.offers.move(1 if event.key == "down" else -1)
            if self.tries is not None and (found := self.offers.completed()) is not None:
                self.tries(found[0])
        elif event.key in ("up", "down") and self._past.get(self._asked):
            self._recall(1 if event.key == "up" else -1)
        elif event.key in ACTIONS:
            self._emptied |= ACTIONS[event.key].startswith("delete")
            # The framework handles these a little later than the letters that follow them.
            await self.run_action(ACTIONS[event.key])
        else:
            return False
        return True

    def retype(self, keys: list[Key]) -> None:
        """Replay held keys before any already on its way here, which would otherwise be typed first and then deleted
        when the line is emptied."""
        if keys:
            self._first = [*keys, *self._first]
            self.call_next(self._retype)

    async def _retype(self) -> None:
        while self._first:
            key = self._first.pop(0)
            if await self._does(key):
                continue
            if not key.is_printable:
                # For example escape, which is the application's, and so are keys after it.
                self._first, left = [], [key, *self._first]
                for each in left:
                    self.app.post_message(Key(each.key, each.character))
                return
            await super()._on_key(key)

    def complete(self) -> bool:
        """Complete by the chosen offer; True where the line is then complete. Deferred until the offers are known."""
        if self._take is None and self._held is None:
            self._to_complete = self.value
            return False
        found = self._completed()
        if found is None:
            return False
        self.value, is_whole = found
        self.cursor_position = len(self.value)
        return is_whole

    def take_offered(self, index: int) -> None:
        """Take an offer by index, as if chosen by arrows and entered."""
        self.offers.choose(index)
        self._take_keys()
        self.post_message(self.Submitted(self, self.value))

    def _completed(self) -> tuple[str, bool] | None:
        found = self.offers.completed()
        if found is None:
            return None
        text, is_whole = found
        return (text if is_whole or text.endswith(" ") else f"{text} "), is_whole

    def _with_completion(self, typed: str) -> str:
        """The typed text, with the part before tab completed."""
        begun, self._to_complete = self._to_complete, None
        if begun is None or not typed.startswith(begun):
            return typed
        self.offers.narrow(begun)
        found = self._completed()
        return typed if found is None else found[0] + typed[len(begun) :]

    def on_input_changed(self, event: Input.Changed) -> None:
        """The list narrows with every letter."""
        event.stop()
        if self.busy and self._held is None:
            # The initial text does not narrow the list.
            self.offers.narrow("" if event.value == self._before else event.value)
            if self.tries is not None:
                self.tries(event.value)

    def _recall(self, by: int) -> None:
        past = self._past[self._asked]
        self._back = min(max(self._back + by, 0), len(past))
        self.value = past[-self._back] if self._back else ""
        self.cursor_position = len(self.value)

    def ask(
        self, place: tuple[int, int], width: int, written: str, take: Take, *, asked: str = "", again: bool = False
    ) -> None:
        """Open at ``place`` with ``written`` selected, unless something has been typed since ``collect``.

        With ``again`` the text is as it was typed, the cursor at its end. ``asked`` names the question: earlier entries
        to it come back with up.
        """
        self._asked, self._back = asked, 0
        self.select_on_focus = not again
        entered = self._entered
        typed = self._with_completion(entered if entered is not None else self.value if self.busy else "")
        # Enter alone accepts the present value, however early it comes.
        meant = typed or ("" if self._emptied else visible(written))
        if entered is not None:
            behind = self._behind or []
            self.leave()
            take(meant)
            self._hand_on(behind)
            return
        self._take = take
        self.styles.width, self.styles.offset = width, place
        self.display, self.busy = True, True
        self._before = visible(written) if not again else ""
        self.value = meant
        self._take_keys()
        if typed or again or self._emptied:
            self.cursor_position = len(self.value)
        else:
            self.action_select_all()

    def _take_keys(self) -> None:
        """Take the focus at once: the framework's own ``focus`` comes a little later, when the line may be gone
        again."""
        self.screen.set_focus(self)

    def leave(self) -> None:
        """Close the line."""
        self.busy, self._take, self._entered, self._held = False, None, None, None
        self._behind, self._emptied = None, False
        self.display = False
        self.tries = None
        self.offers.close()
        self.screen.set_focus(None)

    def _on_paste(self, event: Paste) -> None:
        """Paste rows of a table as pairs in one line: the framework would only take the first line."""
        rows = [" = ".join(cell.strip() for cell in row.split("\t")) for row in event.text.splitlines() if row.strip()]
        if rows:
            start, end = self.selection
            self.replace("; ".join(rows), *sorted((start, end)))
        event.stop()
        event.prevent_default()

    def on_input_submitted(self, event: Input.Submitted) -> None:
        """Submit what was typed, or keep it until its value is known; then the keys after enter."""
        event.stop()
        behind = self._behind or []
        self._behind = None
        self._submit(event)
        if self._entered is not None:
            self._behind = behind  # it is not yet known what was asked, so they wait, too
        else:
            self._hand_on(behind)

    def _hand_on(self, keys: list[Key]) -> None:
        """Pass held keys to whatever has the focus now: this line asked again, or the application."""
        if self._held is not None:
            self._held += keys
            return
        self.retype(keys)

    def _submit(self, event: Input.Submitted) -> None:
        if self.offers.display and self.offers.is_chosen:
            # The offer chosen with arrows is meant, not the typed letters.
            if not self.complete():
                return
            event.value = self.value
        take = self._take
        if take is None:
            self._entered = event.value if self.busy else None
            return
        if event.value.strip() and self._asked:
            past = self._past.setdefault(self._asked, [])
            past[:] = [*(each for each in past if each != event.value), event.value][-MOST_KEPT:]
        self.leave()
        take(event.value)
