"""The position in the guided walk, and its text."""

from __future__ import annotations

from dataclasses import replace

from lesart.core.dataclass_later import dataclass
from lesart.study.views import Picture
from lesart.study.walk import END, STOPS


@dataclass(frozen=True)
class Walk:
    """The present stop, counted from 0, what was to be noticed at the previous one, and the picture it began with."""

    stop: int = 0
    notice: str = ""
    since: Picture | None = None

    @property
    def says(self) -> tuple[str, str, str]:
        """What there was to notice, what to look at, and what to press."""
        if self.stop >= len(STOPS):
            return self.notice, END, ""
        return self.notice, STOPS[self.stop].look, STOPS[self.stop].press

    @property
    def number(self) -> str:
        """``walk 3 of 12``."""
        return f"walk {min(self.stop + 1, len(STOPS))} of {len(STOPS)}"

    def after(self, picture: Picture) -> Walk:
        """The walk at the next stop, where the key of this one was pressed."""
        if self.since is None or self.stop >= len(STOPS):
            return replace(self, since=picture)
        stop = STOPS[self.stop]
        return Walk(self.stop + 1, stop.notice, picture) if stop.is_done(self.since, picture) else self
