"""A controller's settings for its glass, and how wrong ones look.

A controller scans its row lines in turn; on many a glass they lead to every second row, first the even ones, then the
odd ones. Set to fewer rows, or to another order, it puts rows of the picture where they do not belong. Nothing is
broken then, and nothing looks right.
"""

from __future__ import annotations

from typing import Any

import numpy as np

from lesart.core.dataclass_later import dataclass
from lesart.core.glass.panels.frame import PixelFrame
from lesart.core.glass.panels.pixels import frame_of, pixels_of
from lesart.core.parameters import Parameter
from lesart.core.quantity import counted

IN_TURN, EVERY_SECOND = ORDERS = ("one after another", "every second")

PARAMETERS = (
    Parameter(
        "rows_told",
        "told of rows",
        "integer",
        "by its start sequence; 0: all that there are",
        0,
        lowest=0,
        highest=320,
    ),
    Parameter(
        "rows_wired", "rows lie", "choice", "on the row lines, the even ones first or not", EVERY_SECOND, choices=ORDERS
    ),
    Parameter(
        "order_told",
        "told they lie",
        "choice",
        "by its start sequence",
        "as they lie",
        choices=("as they lie", *ORDERS),
    ),
    Parameter(
        "columns_off",
        "columns off",
        "integer",
        "that its picture lies too far right, as where a controller has more columns than the glass",
        0,
        lowest=-64,
        highest=64,
    ),
    Parameter(
        "bottom_up", "told bottom up", "flag", "rows in the other order, as where a module is built in turned", False
    ),
    Parameter("right_left", "told right to left", "flag", "columns in the other order", False),
)


@dataclass(frozen=True)
class SetUp:
    """``told`` is the number of rows set, 0 for all; ``wired`` is the real order of rows and ``order`` the one set."""

    told: int = 0
    wired: str = EVERY_SECOND
    order: str = EVERY_SECOND
    columns_off: int = 0
    bottom_up: bool = False
    right_left: bool = False

    def is_right(self, height: int) -> bool:
        """True where it looks as it should."""
        lies = not (self.columns_off or self.bottom_up or self.right_left)
        return lies and self.order == self.wired and self.told in (0, height)

    def rows(self, height: int) -> list[int | None]:
        """For each row of the glass the row of the picture shown there; None for none."""
        told = min(self.told or height, height)
        found: list[int | None] = [None] * height
        for row in range(told):
            line = row if self.order == IN_TURN else row // 2 + row % 2 * (height // 2)
            place = line if self.wired == IN_TURN else _every_second(line, height)
            if place < height:
                found[place] = row
        return found

    def seen(self, frame: PixelFrame) -> PixelFrame:
        """The controller's frame as the glass shows it."""
        if self.is_right(frame.height):
            return frame
        pixels = pixels_of(frame)
        shown = np.zeros_like(pixels)
        for place, row in enumerate(self.rows(frame.height)):
            if row is not None:
                shown[place] = pixels[row]
        shown = shown[::-1] if self.bottom_up else shown
        shown = shown[:, ::-1] if self.right_left else shown
        if self.columns_off:
            # Memory outside the glass was never written, so what moves in from there is dark.
            left, right = max(self.columns_off, 0), max(-self.columns_off, 0)
            shown = np.pad(shown, ((0, 0), (left, right)))[:, right : right + frame.width]
        return frame_of(shown)

    def lies(self) -> list[str]:
        """What is wrong with the picture's position, in clauses."""
        side = "right" if self.columns_off > 0 else "left"
        return [
            *([f"{counted(abs(self.columns_off), 'column')} too far {side}"] if self.columns_off else []),
            *(["upside down"] if self.bottom_up and self.right_left else []),
            *(["with its rows from the bottom up"] if self.bottom_up and not self.right_left else []),
            *(["mirrored"] if self.right_left and not self.bottom_up else []),
        ]

    def says(self, height: int) -> str:
        """What one sees, in words."""
        rows = self.rows(height)
        there = [place for place, row in enumerate(rows) if row is not None]
        told = min(self.told or height, height)
        lost = height - told
        unseen = f"; {counted(lost, 'row')} of the picture {'is' if lost == 1 else 'are'} not seen" if lost else ""
        if self.order == self.wired:
            lit = f"rows 0 to {max(there)} of {height} are" if max(there) else f"row 0 of {height} is"
            return f"only {lit} lit{unseen}"
        if self.wired == EVERY_SECOND and told <= height // 2:
            return f"every second row is dark, as if the picture were twice as high{unseen}"
        return f"rows of its upper and its lower half are interleaved{unseen}"


def _every_second(line: int, height: int) -> int:
    half = height // 2
    return 2 * line if line < half else 2 * (line - half) + 1


def build_set_up(values: dict[str, Any]) -> SetUp:
    """The settings from values by parameter name."""
    wired = values["rows_wired"]
    order = wired if values["order_told"] == "as they lie" else values["order_told"]
    lies = {name: values[name] for name in ("columns_off", "bottom_up", "right_left")}
    return SetUp(values["rows_told"], wired, order, **lies)
