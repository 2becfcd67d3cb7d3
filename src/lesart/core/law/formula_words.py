"""The words of a formula: its functions, its constants, and how a mistake in it is reported."""

from __future__ import annotations

import math
from collections.abc import Callable
from typing import Any, Literal

import numpy as np

from lesart.core.dataclass_later import dataclass

Takes = Literal["a number", "anything", "an angle", "one kind"]
"""The units that a function accepts."""
Gives = Literal["a number", "the same", "a root", "an angle"]

COMPARED, JOINED = "< <= > >= == !=", "and or not"
CHOSEN = ("if", "else", "and", "or", "not")
CONSTANTS = {"pi": math.pi, "e": math.e}


class FormulaError(ValueError):
    """A mistake in a formula, and the character at which it is."""

    def __init__(self, why: str, text: str, at: int) -> None:
        around = text[at : at + 12] or "the end"
        super().__init__(f'formula, character {min(at, len(text)) + 1}, at "{around}": {why}')
        self.at = at


@dataclass(frozen=True)
class Function:
    """``compute`` takes ``fewest`` to ``most`` arrays."""

    compute: Callable[..., Any]
    takes: Takes
    gives: Gives
    fewest: int = 1
    most: int = 1


def _least(*values: Any) -> Any:
    return np.minimum.reduce(np.broadcast_arrays(*values))


def _greatest(*values: Any) -> Any:
    return np.maximum.reduce(np.broadcast_arrays(*values))


def _half_away(value: Any) -> Any:
    """Rounding as people do it: a half goes away from zero."""
    return np.copysign(np.floor(np.abs(value) + 0.5), value)


FUNCTIONS = {
    "abs": Function(np.abs, "anything", "the same"),
    "min": Function(_least, "one kind", "the same", 2, 8),
    "max": Function(_greatest, "one kind", "the same", 2, 8),
    "hypot": Function(np.hypot, "one kind", "the same", 2, 2),
    "sqrt": Function(np.sqrt, "anything", "a root"),
    "exp": Function(np.exp, "a number", "a number"),
    "ln": Function(np.log, "a number", "a number"),
    "log10": Function(np.log10, "a number", "a number"),
    "log2": Function(np.log2, "a number", "a number"),
    "sin": Function(np.sin, "an angle", "a number"),
    "cos": Function(np.cos, "an angle", "a number"),
    "tan": Function(np.tan, "an angle", "a number"),
    "asin": Function(np.arcsin, "a number", "an angle"),
    "acos": Function(np.arccos, "a number", "an angle"),
    "atan": Function(np.arctan, "a number", "an angle"),
    "atan2": Function(np.arctan2, "one kind", "an angle", 2, 2),
    "floor": Function(np.floor, "a number", "a number"),
    "ceil": Function(np.ceil, "a number", "a number"),
    "round": Function(_half_away, "a number", "a number"),
}
"""Angles of functions are in radians, as everywhere in arithmetic."""
