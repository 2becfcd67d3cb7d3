"""Every command by name, for the framework's command list."""

from __future__ import annotations

import contextlib
from functools import partial
from typing import TYPE_CHECKING, Any, cast

from textual.await_complete import AwaitComplete
from textual.command import CommandPalette, DiscoveryHit, Hit, Hits, Provider

from lesart.tui.keys import KEYS, MORE_COMMANDS, Key

if TYPE_CHECKING:
    from lesart.tui.app import LesartApp


class Commands(Provider):
    """The keys' commands, found by what they do."""

    async def discover(self) -> Hits:
        """All of them, before anything is typed."""
        for key in self._commands():
            yield DiscoveryHit(key.says, partial(key.does, self._lesart), help=key.shown)

    async def search(self, query: str) -> Hits:
        """Those that match."""
        matcher = self.matcher(query)
        for key in self._commands():
            score = matcher.match(key.says)
            if score > 0:
                yield Hit(score, matcher.highlight(key.says), partial(key.does, self._lesart), help=key.shown)

    @property
    def _lesart(self) -> LesartApp:
        return cast("LesartApp", self.app)

    @staticmethod
    def _commands() -> tuple[Key, ...]:
        return tuple(key for key in (*KEYS, *MORE_COMMANDS) if key.command)


class CommandSheet(CommandPalette):
    """The framework's list, made fit for keys that come faster than it closes."""

    def dismiss(self, result: None = None) -> AwaitComplete:
        """Once: enter pressed twice would close the sheet beneath as well."""
        return super().dismiss(result) if self in self.app.screen_stack else AwaitComplete()

    def _action_command_list(self, action: str) -> None:
        """A page up or down needs the list to have been laid out."""
        # The framework looks the highlighted line up in a table that it only fills then.
        with contextlib.suppress(KeyError):
            super()._action_command_list(action)

    def _refresh_command_list(self, *gathered: Any) -> None:
        """What is still being gathered when the list closes has no place any more."""
        if self in self.app.screen_stack:
            super()._refresh_command_list(*gathered)
