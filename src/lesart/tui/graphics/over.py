"""Pixels over text: with each update only the rows that it touches are drawn again."""

from __future__ import annotations

import os
from collections.abc import Sequence
from dataclasses import replace
from typing import Any

from textual._compositor import ChopsUpdate, CompositorUpdate
from textual.geometry import Region
from textual.screen import Screen

from lesart.tui.framework import KeysInTurn
from lesart.tui.graphics.answers import (
    QUESTIONS,
    Answered,
    AnsweringParser,
    Asked,
    cell_in_pixels,
    may_be_asked,
    read_answers,
)
from lesart.tui.graphics.terminal import Graphics
from lesart.tui.widgets.lines import Lines

KEEP, BACK = "\x1b7", "\x1b8"
"""Where the cursor is."""


class PicturedApp(KeysInTurn):
    """An application whose lines may be drawn in pixels."""

    def __init__(self) -> None:
        super().__init__()
        self._over = ""
        self._has_pixels = False
        self._asked = Asked()
        read_answers()

    def ask_for_graphics(self) -> None:
        """Query the terminal; the result comes with ``can_draw``."""
        if self._driver is not None and not self.is_headless and may_be_asked(os.environ):
            AnsweringParser.waiting = True
            self._driver.write(QUESTIONS)
            self._driver.flush()

    def on_answered(self, message: Answered) -> None:
        """Collect answers; the terminal's identity comes last."""
        graphics = self._asked.after(message.answer)
        if graphics is not None:
            self._has_pixels = True
            self.can_draw(graphics)

    def measured_again(self, graphics: Graphics) -> Graphics:
        """Measure again after a resize: cells may have another size now."""
        cell = cell_in_pixels()
        return graphics if cell is None else replace(graphics, cell_width=cell[0], cell_height=cell[1])

    def can_draw(self, graphics: Graphics) -> None:
        """The terminal has graphics."""
        raise NotImplementedError

    @property
    def covered(self) -> Sequence[Region]:
        """Regions where something lies over the lines."""
        return ()

    def _display(self, screen: Screen[Any], renderable: Any) -> None:
        """The framework writes text; pixel rows that it touches are written together with it."""
        is_drawn = self._has_pixels and isinstance(renderable, CompositorUpdate) and len(self.screen_stack) == 1
        self._over = self._pixels_over(renderable) if is_drawn else ""
        super()._display(screen, renderable)

    def _end_update(self) -> None:
        over, self._over = self._over, ""
        if over and self._driver is not None:
            self._driver.write(over)
        super()._end_update()

    def _pixels_over(self, update: CompositorUpdate) -> str:
        """The visible pixel rows that a text update erases."""
        touched: dict[int, list[tuple[int, int]]] | None = None
        if isinstance(update, ChopsUpdate):
            touched = {}
            for y, first, behind in update.spans:
                touched.setdefault(y, []).append((first, behind))
        covered = self.covered
        parts = [
            f"\x1b[{y + 1};{x + 1}H{escape}"
            for lines in self.screen.query(Lines)
            for x, y, width, escape in lines.pixels_in_sight()
            if touched is None or any(first < x + width and x < behind for first, behind in touched.get(y, ()))
            if not any(each.overlaps(Region(x, y, width, 1)) for each in covered)
        ]
        return f"{KEEP}{''.join(parts)}{BACK}" if parts else ""
