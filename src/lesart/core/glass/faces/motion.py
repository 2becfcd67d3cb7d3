"""Moving texts: scrolling, shown digit by digit in too small a place, blinking."""

from __future__ import annotations

import math
from collections.abc import Mapping
from typing import Any

from lesart.core.dataclass_later import dataclass
from lesart.core.fit.cells import Cell
from lesart.core.parameters import Parameter

STANDS, LEFT, RIGHT, TURN = MOVES = ("stands", "runs left", "runs right", "digits in turn")
BLANK = Cell(" ")

PARAMETERS = (
    Parameter("moves", "moves", "choice", "how a text longer than its place is shown", STANDS, choices=MOVES),
    Parameter(
        "window", "window", "integer", "cells it moves in; 0: all, or one for digits in turn", 0, lowest=0, highest=40
    ),
    Parameter(
        "step_time", "each step", "quantity", "a cell on, or a digit lit", "0.4 s", unit="s", lowest=0, above=True
    ),
    Parameter("gap_time", "gap", "quantity", "dark between two digits in turn", "0.1 s", unit="s", lowest=0),
    Parameter("pause_time", "pause", "quantity", "dark before it begins again", "1 s", unit="s", lowest=0),
    Parameter("times", "times", "integer", "how often; 0 for ever", 0, lowest=0, highest=1000),
    Parameter(
        "blink", "blinks at", "quantity", "half of the time dark; 0 not at all", "0 Hz", unit="Hz", lowest=0, highest=50
    ),
)


@dataclass(frozen=True)
class Motion:
    """How a text moves through ``window`` cells; 0 for as many as it has. Times in seconds."""

    moves: str = STANDS
    window: int = 0
    step_s: float = 0.4
    gap_s: float = 0.1
    pause_s: float = 1.0
    times: int = 0
    blink_hz: float = 0.0

    def width(self, cells: int) -> int:
        """Cells that a text of a given length takes on the panel."""
        if self.moves == STANDS:
            return cells
        return self.window or (1 if self.moves == TURN else cells)

    def round_s(self, cells: int) -> float:
        """Duration of a round, for a text of a given length."""
        if self.moves == TURN:
            return cells * (self.step_s + self.gap_s) + self.pause_s
        return (cells + self.width(cells)) * self.step_s + self.pause_s

    @property
    def is_still(self) -> bool:
        """True where nothing depends on time."""
        return self.moves == STANDS and not self.blink_hz


def build_motion(values: Mapping[str, Any]) -> Motion:
    """From values by parameter name."""
    return Motion(
        moves=values["moves"],
        window=values["window"],
        step_s=values["step_time"],
        gap_s=values["gap_time"],
        pause_s=values["pause_time"],
        times=values["times"],
        blink_hz=values["blink"],
    )


def moved(cells: tuple[Cell, ...], motion: Motion, t_s: float) -> tuple[Cell, ...]:
    """The visible cells of a text at a time; always ``motion.width`` of them."""
    width = motion.width(len(cells))
    if motion.blink_hz and t_s * motion.blink_hz % 1.0 >= 0.5:
        return (BLANK,) * width
    if motion.moves == STANDS:
        return cells
    round_s = motion.round_s(len(cells))
    done, within = divmod(t_s, round_s)
    if motion.times and done >= motion.times:
        return (BLANK,) * width
    if motion.moves == TURN:
        return _in_turn(cells, motion, within, width)
    step = math.floor(within / motion.step_s + 1e-9)
    return _run(cells, width, step, is_left=motion.moves == LEFT)


def _in_turn(cells: tuple[Cell, ...], motion: Motion, within_s: float, width: int) -> tuple[Cell, ...]:
    """The digits of a text, as many at a time as there is room for; dark in between, so that 11 can be told from 1."""
    place, into = divmod(within_s + 1e-9, motion.step_s + motion.gap_s)
    first = int(place) * width
    if first >= len(cells) or into >= motion.step_s:
        return (BLANK,) * width
    return (cells[first : first + width] + (BLANK,) * width)[:width]


def _run(cells: tuple[Cell, ...], width: int, step: int, *, is_left: bool) -> tuple[Cell, ...]:
    """A window over the text with a window's width of blanks around it."""
    strip = (BLANK,) * width + cells + (BLANK,) * width
    start = min(step, len(cells) + width) if is_left else max(len(cells) + width - step, 0)
    return strip[start : start + width]
