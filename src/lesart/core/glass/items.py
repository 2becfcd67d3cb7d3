"""Items of a face: labels, fields, bars and marks of alarms, each with its place and how it moves."""

from __future__ import annotations

import dataclasses
from collections.abc import Mapping
from dataclasses import dataclass

from lesart.core.fit.cells import Cell, split_cells
from lesart.core.fit.field import Field, Reading
from lesart.core.fit.fill import Shown, fill
from lesart.core.glass.bars import bar_cells
from lesart.core.glass.motion import PARAMETERS as MOTION
from lesart.core.glass.motion import Motion
from lesart.core.glass.panel import Panel
from lesart.core.parameters import Parameter

PLACE = (
    Parameter("row", "row", "integer", "at the top the first", 0, lowest=0, highest=4),
    Parameter("column", "column", "integer", "at the left the first", 0, lowest=0, highest=40),
)
CHANNEL = Parameter("channel", "channel", "text", "whose reading it shows", longest=60)
LABEL = (Parameter("text", "text", "text", "what it says", longest=80), *PLACE, *MOTION)
FIELD_PLACE = (CHANNEL, *PLACE, *MOTION)
BAR = (
    CHANNEL, *PLACE, Parameter("width", "width", "integer", "cells it has", 8, lowest=1, highest=40),
    Parameter("lowest", "empty at", "any quantity", "reading; as the channel's lowest if left out", optional=True),
    Parameter("highest", "full at", "any quantity", "reading; as the channel's highest if left out", optional=True),
)  # fmt: skip
ALARM = (
    CHANNEL, *PLACE, Parameter("text", "text", "text", "stands there while an alarm is on", "!", longest=40), *MOTION,
)  # fmt: skip
STILL = Motion()
SILENT = Reading(float("nan"), age_s=float("inf"))


@dataclass(frozen=True)
class Label:
    """A text that stands."""

    text: str
    row: int
    column: int
    motion: Motion = STILL

    def cells(self, panel: Panel, readings: Mapping[str, Reading]) -> tuple[Cell, ...]:
        """Before any motion."""
        return split_cells(self.text, joined=panel.joined)

    def named(self) -> str:
        """In notes."""
        return f'label "{self.text}"'


@dataclass(frozen=True)
class FieldItem:
    """A channel's reading in a field. ``own_keys`` are the rules this item states itself; ``of_variants`` the field
    that each variant of the channel has here.
    """

    channel: str
    row: int
    column: int
    field: Field
    own_keys: frozenset[str]
    index: int
    of_variants: Mapping[str, Field] = dataclasses.field(default_factory=dict)
    motion: Motion = STILL

    def shown(self, panel: Panel, readings: Mapping[str, Reading]) -> Shown:
        """The field filled."""
        return fill(self.field, readings.get(self.channel, SILENT), joined=panel.joined)

    def cells(self, panel: Panel, readings: Mapping[str, Reading]) -> tuple[Cell, ...]:
        """All of its cells; what moves has none that are blank at its ends."""
        shown = self.shown(panel, readings)
        return shown.cells if self.motion.moves == STILL.moves else shown.whole

    def named(self) -> str:
        """In notes."""
        return f"field of {self.channel}"


@dataclass(frozen=True)
class Bar:
    """A reading as a length. ``empty`` and ``full`` in the channel's unit; ``field`` says what stands there instead of
    a bar when the reading is bad or old."""

    channel: str
    row: int
    column: int
    width: int
    empty: float
    full: float
    field: Field
    motion: Motion = STILL

    def cells(self, panel: Panel, readings: Mapping[str, Reading]) -> tuple[Cell, ...]:
        """Filled from the left."""
        reading = readings.get(self.channel, SILENT)
        said = fill(self.field, reading, joined=panel.joined)
        if said.state in ("invalid", "stale"):
            return said.cells
        return bar_cells(panel, (reading.value - self.empty) / (self.full - self.empty), self.width)

    def named(self) -> str:
        """In notes."""
        return f"bar of {self.channel}"


@dataclass(frozen=True)
class AlarmMark:
    """A text that stands there while an alarm of the channel is on."""

    channel: str
    row: int
    column: int
    text: str
    motion: Motion = STILL

    def cells(self, panel: Panel, readings: Mapping[str, Reading]) -> tuple[Cell, ...]:
        """Blanks while none is on."""
        cells = split_cells(self.text, joined=panel.joined)
        return cells if readings.get(self.channel, SILENT).alarms else (Cell(" "),) * len(cells)

    def named(self) -> str:
        """In notes."""
        return f"alarm mark of {self.channel}"


Item = Label | FieldItem | Bar | AlarmMark
ITEMS = {"label": LABEL, "field": FIELD_PLACE, "bar": BAR, "alarm": ALARM}
"""What each kind of item can be told; a field its channel's rules besides."""


def width_of(item: Item, panel: Panel) -> int:
    """Cells an item takes on the panel."""
    if isinstance(item, Bar):
        return item.width
    cells = item.field.width if isinstance(item, FieldItem) else len(split_cells(item.text, joined=panel.joined))
    return item.motion.width(cells)
