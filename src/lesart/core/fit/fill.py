"""Filling a field: exactly its cells, for any reading whatever."""

from __future__ import annotations

import math
from dataclasses import replace

from lesart.core.block import UNUSABLE, Mark
from lesart.core.dataclass_later import dataclass
from lesart.core.fit.cells import POINTS, Cell, split_cells
from lesart.core.fit.clock import time_text
from lesart.core.fit.field import SENT, Field, Reading
from lesart.core.fit.words import word_at
from lesart.core.fit.written_number import fitting, number_cells

AS_TEXT, AS_NUMBERS, AS_BYTE = SENT
BYTE = 256


@dataclass(frozen=True)
class Shown:
    """What a field shows. Promise: ``len(cells) == field.width`` always; a number is shown whole or not at all.

    ``state`` is ``value``, ``overflow``, ``underflow``, ``invalid``, ``settling`` or ``stale``; ``used`` is the number
    of cells that are not padding.
    """

    cells: tuple[Cell, ...]
    state: str
    used: int = 0

    @property
    def whole(self) -> tuple[Cell, ...]:
        """The text without blanks at either end."""
        places = [place for place, cell in enumerate(self.cells) if cell != Cell(" ")]
        return self.cells[places[0] : places[-1] + 1] if places else ()

    @property
    def text(self) -> str:
        """The text of all cells, points included."""
        return "".join(map(str, self.cells))


def fill(field: Field, reading: Reading, *, joined: str = "") -> Shown:
    """Exactly ``field.width`` cells for any reading whatever. ``joined`` are marks that share a cell on the panel."""
    if reading.age_s > field.stale_after_s:
        return _said(field, field.stale, "stale", joined)
    value = field.shown_value(reading.value)
    if reading.mark & UNUSABLE or math.isnan(value):
        return _said(field, field.invalid, "invalid", joined)
    if reading.mark & Mark.SETTLING and field.settling:
        return _said(field, field.settling, "settling", joined)
    cells = _value_cells(field, value, reading.alarms, joined)
    if cells is None:
        below = value < 0 and bool(field.underflow)
        state = "underflow" if below else "overflow"
        return _said(field, field.underflow if below else field.overflow, state, joined)
    return Shown(_placed(field, cells), "value", len(cells))


def _value_cells(field: Field, value: float, alarms: tuple[str, ...], joined: str) -> tuple[Cell, ...] | None:
    """The cells of the value before padding; None where they are too many."""
    if field.shows == "number":
        return _number(field, value, joined)
    if field.shows == "word":
        text: str | None = word_at(field.words, value)
    elif field.shows == "alarm":
        text = " ".join(alarms) or field.calm_word
    else:
        text = time_text(field, value)
    cells = None if text is None else split_cells(text, joined=joined)
    return cells if cells is not None and len(cells) <= field.width else None


def _number(field: Field, value: float, joined: str) -> tuple[Cell, ...] | None:
    if field.sent == AS_BYTE:
        found = fitting(replace(field, decimals=0), value, joined=joined)
        # A byte holds no more: higher bits are cut off, as a processor does.
        return None if found is None else (Cell("·", code=int(found.number) % BYTE),)
    cells = number_cells(field, value, joined=joined)
    if cells is None or field.sent == AS_TEXT:
        return cells
    return tuple(replace(cell, code=int(cell.letter)) if cell.letter.isdecimal() else cell for cell in cells)


def _said(field: Field, text: str, state: str, joined: str) -> Shown:
    if len(text) == 1:
        return Shown(tuple(Cell(text) for _ in range(field.width)), state, field.width)
    cells = split_cells(text, joined=joined)
    if len(cells) > field.width:
        # A mark takes a cell of its own here; without its marks the text fits, as the project check has made sure.
        cells = split_cells("".join(letter for letter in text if letter not in f"{POINTS}:"), joined=joined)
    return Shown(_placed(field, cells), state, len(cells))


def _placed(field: Field, cells: tuple[Cell, ...]) -> tuple[Cell, ...]:
    missing = field.width - len(cells)
    left = {"left": 0, "right": missing, "centre": missing // 2}[field.align]
    return (Cell(" "),) * left + cells + (Cell(" "),) * (missing - left)
