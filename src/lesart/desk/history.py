"""Undo and redo over whole project texts: simple, exact, and comments come back with them."""

from __future__ import annotations

from dataclasses import replace

from lesart.core.dataclass_later import dataclass

LONGEST = 500


@dataclass(frozen=True)
class History:
    """``texts[at]`` is the present one; ``deeds[k]`` describes the edit from text k to text k + 1."""

    texts: tuple[str, ...]
    deeds: tuple[str, ...] = ()
    at: int = 0

    @property
    def text(self) -> str:
        """The present text."""
        return self.texts[self.at]

    def done(self, text: str, deed: str) -> History:
        """The history with a new text; undone texts are dropped, and so are very old ones."""
        texts = (*self.texts[: self.at + 1], text)[-LONGEST:]
        deeds = (*self.deeds[: self.at], deed)[-(LONGEST - 1) :]
        return History(texts, deeds, len(texts) - 1)

    def undone(self) -> tuple[History, str] | None:
        """One step back, and what was undone; None at the beginning."""
        return (replace(self, at=self.at - 1), self.deeds[self.at - 1]) if self.at > 0 else None

    def redone(self) -> tuple[History, str] | None:
        """One step forward, and what was redone; None at the end."""
        return (replace(self, at=self.at + 1), self.deeds[self.at]) if self.at + 1 < len(self.texts) else None
