"""The application driven without a terminal: keys and clicks in, the words of its regions out."""

from __future__ import annotations

from collections.abc import AsyncIterator, Callable
from contextlib import asynccontextmanager
from pathlib import Path

import pytest
from textual.pilot import Pilot

from lesart.tui.app import LesartApp
from lesart.tui.widgets.lines import Lines
from tests.warm import open_warm

WIDE, MIDDLE, SMALL = (160, 47), (120, 36), (80, 24)
PATIENCE = 3000
"""Rounds of the event loop, each some milliseconds, before something is held not to come."""


class Driven:
    """An application with its pilot, and ways to look at it."""

    def __init__(self, app: LesartApp, pilot: Pilot[int]) -> None:
        self.app, self.pilot = app, pilot

    async def press(self, *keys: str) -> None:
        """Press keys and wait until the picture shows what they did."""
        await self.pilot.press(*keys)
        await self.settled()

    async def settled(self) -> None:
        """Until all that was sent to the desk is in the picture."""
        await self.until(lambda: self.app._done >= self.app._sent)

    async def until(self, holds: Callable[[], bool]) -> None:
        """Let the application work until a condition holds."""
        for _ in range(PATIENCE):
            await self.pilot.pause(0.01)
            if holds():
                return
        pytest.fail(f"it did not come; the screen was\n{self.text()}")

    def text(self, *names: str) -> str:
        """The words in the regions named, or in all that are displayed."""
        regions = [self.app._sheet.query_one(f"#{name}", Lines) for name in names] or list(
            self.app._sheet.query(Lines).results()
        )
        shown = [region for region in regions if names or _is_displayed(region)]
        return "\n".join(
            "".join(segment.text for segment in region.render_line(y)).rstrip()
            for region in shown
            for y in range(region.size.height)
        )

    def place(self, name: str, words: str) -> tuple[int, int]:
        """Column and row of words in a region."""
        for y, line in enumerate(self.text(name).splitlines()):
            if words in line:
                return line.index(words), y
        raise AssertionError(f"{words!r} is not in {self.text(name)}")

    async def click(self, name: str, words: str) -> None:
        """Click on words in a region."""
        await self.pilot.click(f"#{name}", offset=self.place(name, words))
        await self.settled()


def _is_displayed(region: Lines) -> bool:
    return region.display and all(above.display for above in region.ancestors if hasattr(above, "display"))


@asynccontextmanager
async def opened(yard: Path, size: tuple[int, int] = WIDE) -> AsyncIterator[Driven]:
    """The yard on a screen of a size, with its notes."""
    app = LesartApp(lambda: open_warm(yard), str(yard))
    async with app.run_test(size=size) as pilot:
        driven = Driven(app, pilot)
        await driven.until(lambda: bool(app._picture.notes))
        await pilot.pause()
        yield driven
        if app._worker is not None:
            app._worker.stop()
