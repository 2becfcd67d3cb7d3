"""Every command by name, for the framework's command list."""

from __future__ import annotations

from functools import partial
from typing import TYPE_CHECKING, cast

from textual.command import DiscoveryHit, Hit, Hits, Provider

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
