"""Wrong settings in a colour panel's start sequence, and how they look.

Such controllers serve several glasses: where the picture begins in memory, which way it runs, which colour comes first
and whether it is inverted has to be set, differently for each glass.
"""

from __future__ import annotations

from typing import Any

import numpy as np

from lesart.core.dataclass_later import dataclass
from lesart.core.glass.panels.frame import ColourFrame
from lesart.core.glass.panels.pixel_colours import Colours
from lesart.core.glass.panels.pixels import colour_frame, colours_of
from lesart.core.parameters import Parameter
from lesart.core.quantity import counted

PARAMETERS = (
    Parameter(
        "columns_off",
        "columns off",
        "integer",
        "that its picture lies too far right, as where a controller has more columns than the glass",
        0,
        lowest=-320,
        highest=320,
    ),
    Parameter("rows_off", "rows off", "integer", "that its picture lies too far down", 0, lowest=-320, highest=320),
    Parameter(
        "bottom_up", "told bottom up", "flag", "rows in the other order, as where a module is built in turned", False
    ),
    Parameter("right_left", "told right to left", "flag", "columns in the other order", False),
    Parameter("swapped", "red and blue swapped", "flag", "it is set for the other one first", False),
    Parameter("negative", "negative", "flag", "it is set to invert and should not, or the other way round", False),
)


@dataclass(frozen=True)
class ColourSetUp:
    """The settings; all of them right by default."""

    columns_off: int = 0
    rows_off: int = 0
    bottom_up: bool = False
    right_left: bool = False
    swapped: bool = False
    negative: bool = False

    def is_right(self, height: int) -> bool:
        """True where it looks as it should."""
        return self == ColourSetUp()

    def seen(self, frame: ColourFrame, ground: Colours) -> ColourFrame:
        """The controller's frame as the glass shows it."""
        shown = colours_of(frame)
        shown = shown[::-1] if self.bottom_up else shown
        shown = shown[:, ::-1] if self.right_left else shown
        # Memory outside the glass was never written, so what moves in from there is dark.
        for axis, off in enumerate((self.rows_off, self.columns_off)):
            if off:
                sides: list[tuple[int, int]] = [(0, 0)] * 3
                sides[axis] = (max(off, 0), max(-off, 0))
                first = max(-off, 0)
                wide = np.pad(shown, sides)
                shown = wide[first : first + frame.height] if axis == 0 else wide[:, first : first + frame.width]
        shown = shown[..., ::-1] if self.swapped else shown
        return colour_frame(255 - shown if self.negative else shown, ground)

    def lies(self) -> list[str]:
        """What is wrong with the picture's position, in clauses."""
        across, down = ("right" if self.columns_off > 0 else "left"), ("down" if self.rows_off > 0 else "up")
        return [
            *([f"lies {counted(abs(self.columns_off), 'column')} too far {across}"] if self.columns_off else []),
            *([f"lies {counted(abs(self.rows_off), 'row')} too far {down}"] if self.rows_off else []),
            *(["is upside down"] if self.bottom_up and self.right_left else []),
            *(["has its rows from the bottom up"] if self.bottom_up and not self.right_left else []),
            *(["is mirrored"] if self.right_left and not self.bottom_up else []),
            *(["has red for blue"] if self.swapped else []),
            *(["is a negative"] if self.negative else []),
        ]


def build_colour_set_up(values: dict[str, Any]) -> ColourSetUp:
    """The settings from values by parameter name."""
    return ColourSetUp(**values)
