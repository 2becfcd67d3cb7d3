"""A field: a fixed number of cells and the rules that fill them."""

from __future__ import annotations

import math
from dataclasses import dataclass
from typing import Any

from lesart.core.block import UNUSABLE
from lesart.core.fit.rounding import LARGEST, MODES, rounded
from lesart.core.parameters import Parameter
from lesart.core.units import Unit, Value, convert

WIDEST = 40

PARAMETERS = (
    Parameter("width", "width", "integer", "cells of the display it fills", 6, lowest=1, highest=WIDEST),
    Parameter("decimals", "decimals", "integer", "digits behind the point", 1, lowest=0, highest=9),
    Parameter("align", "align", "choice", "where a short text stands", "right", choices=("right", "left")),
    Parameter("pad", "pad", "choice", "what fills cells in front of a number", "blank", choices=("blank", "zero")),
    Parameter("sign", "sign", "choice", "signs shown", "minus only", choices=("minus only", "always", "never")),
    Parameter("round", "round", "choice", "what happens to digits that are not shown", "half away",
              choices=tuple(MODES)),
    Parameter("unit_text", "unit text", "text", "stands behind the number", "", longest=8),
    Parameter("unit", "shown in", "text", "unit of the field; empty for the channel's own", "", longest=20),
    Parameter("overflow", "overflow", "text", "for a number too wide; one character is repeated", "-",
              longest=WIDEST),
    Parameter("invalid", "invalid", "text", "for a sample marked bad; one character is repeated", "=",
              longest=WIDEST),
    Parameter("stale", "stale", "text", "when nothing came for long; one character is repeated", "_",
              longest=WIDEST),
    Parameter("stale_after", "stale after", "quantity", "age from which a reading is stale", "5 s", unit="s", lowest=0,
              above=True),
    Parameter("restless", "restless over", "integer", "changes a minute before a note", 20, lowest=0),
)  # fmt: skip


@dataclass(frozen=True)
class Reading:
    """What a field is given: a value in the channel's unit, its mark, and how long ago it came."""

    value: float
    mark: int = 0
    age_s: float = 0.0


@dataclass(frozen=True)
class Field:
    """Rules of a field. ``unit_in`` is the channel's, ``unit_shown`` the field's; they measure the same thing."""

    width: int
    decimals: int
    align: str
    pad: str
    sign: str
    round: str
    unit_text: str
    overflow: str
    invalid: str
    stale: str
    stale_after_s: float
    restless_per_min: int
    unit_in: Unit
    unit_shown: Unit

    def shown_value(self, value: Value) -> Value:
        """One value or an array, in the field's unit."""
        return convert(value, self.unit_in, self.unit_shown)


@dataclass(frozen=True)
class Cell:
    """One place: a character, and on segment displays whether its point is lit."""

    letter: str
    point: bool = False

    def __str__(self) -> str:
        return self.letter + ("." if self.point else "")


@dataclass(frozen=True)
class Shown:
    """What a field shows. Promise: ``len(cells) == field.width`` always; a number is whole or it is not there.

    ``state`` is ``value``, ``overflow``, ``invalid`` or ``stale``.
    """

    cells: tuple[Cell, ...]
    state: str

    @property
    def text(self) -> str:
        """All cells in a row, points where they stand."""
        return "".join(map(str, self.cells))


def build_field(values: dict[str, Any], unit_in: Unit, unit_shown: Unit) -> Field:
    """From values by parameter name. Raises ValueError with a clause where a text does not fit the width."""
    for name in ("overflow", "invalid", "stale"):
        if len(split_cells(values[name], joined_point=True)) > values["width"]:
            raise ValueError(f'the {name} text "{values[name]}" must fit {values["width"]} cells')
    return Field(
        width=values["width"], decimals=values["decimals"], align=values["align"], pad=values["pad"],
        sign=values["sign"], round=values["round"], unit_text=values["unit_text"], overflow=values["overflow"],
        invalid=values["invalid"], stale=values["stale"], stale_after_s=values["stale_after"],
        restless_per_min=values["restless"], unit_in=unit_in, unit_shown=unit_shown,
    )  # fmt: skip


def split_cells(text: str, *, joined_point: bool) -> tuple[Cell, ...]:
    """A text as cells. With ``joined_point`` a point shares the cell of the letter before it, if that has none yet."""
    cells: list[Cell] = []
    for letter in text:
        if joined_point and letter == ".":
            if cells and not cells[-1].point:
                cells[-1] = Cell(cells[-1].letter, True)
            else:
                cells.append(Cell(" ", True))
        else:
            cells.append(Cell(letter))
    return tuple(cells)


def fill(field: Field, reading: Reading, *, joined_point: bool = False) -> Shown:
    """Exactly ``field.width`` cells for any reading whatever."""
    if reading.age_s > field.stale_after_s:
        return _said(field, field.stale, "stale", joined_point)
    value = field.shown_value(reading.value)
    if reading.mark & UNUSABLE or math.isnan(value):
        return _said(field, field.invalid, "invalid", joined_point)
    cells = number_cells(field, value, joined_point=joined_point)
    if cells is None:
        return _said(field, field.overflow, "overflow", joined_point)
    return Shown(_placed(field, cells), "value")


def number_cells(field: Field, shown_value: float, *, joined_point: bool) -> tuple[Cell, ...] | None:
    """The cells of a number in the field's unit before padding with blanks; None when it does not fit."""
    if abs(shown_value) >= LARGEST:
        return None
    number = rounded(shown_value, field.decimals, field.round)
    sign = "-" if number < 0 else "+" if field.sign == "always" else ""
    if field.sign == "never":
        sign = ""
    digits = f"{abs(number):f}"
    cells = split_cells(sign + digits + field.unit_text, joined_point=joined_point)
    missing = field.width - len(cells)
    if missing < 0:
        return None
    if field.pad == "zero" and missing:
        cells = split_cells(sign + "0" * missing + digits + field.unit_text, joined_point=joined_point)
    return cells


def _said(field: Field, text: str, state: str, joined_point: bool) -> Shown:
    if len(text) == 1:
        return Shown(tuple(Cell(text) for _ in range(field.width)), state)
    cells = split_cells(text, joined_point=joined_point)
    if len(cells) > field.width:
        # A point that takes a cell of its own here; without its points the text fits, as the project check has seen.
        cells = split_cells(text.replace(".", ""), joined_point=joined_point)
    return Shown(_placed(field, cells), state)


def _placed(field: Field, cells: tuple[Cell, ...]) -> tuple[Cell, ...]:
    blanks = (Cell(" "),) * (field.width - len(cells))
    return cells + blanks if field.align == "left" else blanks + cells
