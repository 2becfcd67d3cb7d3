"""The guided walk on the screen: it waits for the key of its stop, forgives every other, and can be left and
continued."""

from __future__ import annotations

from lesart.study.walk import STOPS
from lesart.tui import deeds
from lesart.tui.asking import AskingApp
from lesart.tui.walk_stop import Walk


class WalkingApp(AskingApp):
    """The application with the walk."""

    def begin_walk(self, stop: int) -> None:
        """Begin at a stop; from the beginning after the end."""
        since = None if self._scene.is_plain else self._picture
        self.draw(walk=Walk(stop % len(STOPS), since=since))

    def leave_walk(self) -> None:
        """Leave the walk, to continue later."""
        self.draw(walk=None)

    def pictured(self) -> None:
        """Check whether a new picture shows what the stop waits for."""
        walk = self._scene.walk
        if walk is None or self._scene.is_plain:
            return
        now = walk.after(self._picture)
        if now is not walk:
            if now.stop != walk.stop:
                deeds.remember_walk(now.stop % len(STOPS))
            self.draw(walk=now)
