"""Items of a face: labels, fields, bars and marks of alarms, each with its place and how it moves."""

from __future__ import annotations

import dataclasses
import math
from collections.abc import Mapping
from dataclasses import dataclass

from lesart.core.fit.cells import Cell, split_cells
from lesart.core.fit.field import POINT_LETTERS, Field, Reading
from lesart.core.fit.fill import Shown, fill
from lesart.core.glass.bars import bar_cells
from lesart.core.glass.motion import PARAMETERS as MOTION
from lesart.core.glass.motion import Motion
from lesart.core.glass.panel import Panel
from lesart.core.glass.pixel_panel import DEFAULT_FONT, PixelPanel, font_named
from lesart.core.glyphs.fonts import FONTS
from lesart.core.parameters import Parameter

PLACE = (
    Parameter("row", "row", "integer", "at the top the first; of pixels on pixel panels", 0, lowest=0, highest=480),
    Parameter("column", "column", "integer", "at the left the first; of pixels on pixel panels", 0, lowest=0,
              highest=480),
)  # fmt: skip
FONT = Parameter("font", "font", "choice", "on pixel panels", DEFAULT_FONT, choices=FONTS)
RANK = (
    Parameter("importance", "importance", "integer", "when it is arranged; the most important is largest", 5, lowest=1,
              highest=9),
    Parameter("pinned", "pinned", "flag", "stays where it is when the face is arranged", False),
)  # fmt: skip
CHANNEL = Parameter("channel", "channel", "text", "whose reading it shows", longest=60)
LABEL = (Parameter("text", "text", "text", "what it says", longest=80), *PLACE, FONT, *RANK, *MOTION)
FIELD_PLACE = (CHANNEL, *PLACE, FONT, *RANK, *MOTION)
BAR = (
    CHANNEL, *PLACE, Parameter("width", "width", "integer", "cells or pixels across", 8, lowest=1, highest=480),
    Parameter("tall", "tall", "integer", "pixels, on pixel panels", 6, lowest=1, highest=320), *RANK,
    Parameter("lowest", "empty at", "any quantity", "reading; as the channel's lowest if left out", optional=True),
    Parameter("highest", "full at", "any quantity", "reading; as the channel's highest if left out", optional=True),
)  # fmt: skip
ALARM = (
    CHANNEL, *PLACE, Parameter("text", "text", "text", "stands there while an alarm is on", "!", longest=40), FONT,
    *RANK, *MOTION,
)  # fmt: skip
STILL = Motion()
USUAL = 5
BOX = (
    *PLACE, Parameter("width", "width", "integer", "pixels across", 32, lowest=1, highest=480),
    Parameter("tall", "tall", "integer", "pixels; 1 is a line", 1, lowest=1, highest=480),
    Parameter("filled", "filled", "flag", "lit all over, or its outline", True), *RANK,
)  # fmt: skip
TREND = (
    CHANNEL, *PLACE, Parameter("width", "width", "integer", "pixels across", 64, lowest=2, highest=480),
    Parameter("tall", "tall", "integer", "pixels", 16, lowest=2, highest=320),
    Parameter("span", "span", "quantity", "of time, up to now", "10 min", unit="s", lowest=0, above=True),
    Parameter("lowest", "lowest", "any quantity", "reading at its foot; by its data if left out", optional=True),
    Parameter("highest", "highest", "any quantity", "reading on top; by its data if left out", optional=True), *RANK,
)  # fmt: skip
SILENT = Reading(float("nan"), age_s=float("inf"))


@dataclass(frozen=True)
class Label:
    """A text that stands."""

    text: str
    row: int
    column: int
    motion: Motion = STILL
    font: str = DEFAULT_FONT
    importance: int = USUAL
    pinned: bool = False

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
    font: str = DEFAULT_FONT
    importance: int = USUAL
    pinned: bool = False

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
    tall: int = 6
    importance: int = USUAL
    pinned: bool = False

    def share(self, readings: Mapping[str, Reading]) -> float | None:
        """How much of it is filled, 0 to 1; None where the reading is bad or old."""
        reading = readings.get(self.channel, SILENT)
        if fill(self.field, reading).state in ("invalid", "stale"):
            return None
        return min(max((reading.value - self.empty) / (self.full - self.empty), 0.0), 1.0)

    def cells(self, panel: Panel, readings: Mapping[str, Reading]) -> tuple[Cell, ...]:
        """Filled from the left."""
        share = self.share(readings)
        if share is None:
            return fill(self.field, readings.get(self.channel, SILENT), joined=panel.joined).cells
        return bar_cells(panel, share, self.width)

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
    font: str = DEFAULT_FONT
    importance: int = USUAL
    pinned: bool = False

    def cells(self, panel: Panel, readings: Mapping[str, Reading]) -> tuple[Cell, ...]:
        """Blanks while none is on."""
        cells = split_cells(self.text, joined=panel.joined)
        return cells if readings.get(self.channel, SILENT).alarms else (Cell(" "),) * len(cells)

    def named(self) -> str:
        """In notes."""
        return f"alarm mark of {self.channel}"


@dataclass(frozen=True)
class Box:
    """Pixels that are always lit: a box, its outline, or a line."""

    row: int
    column: int
    width: int
    tall: int
    filled: bool
    motion: Motion = STILL
    importance: int = USUAL
    pinned: bool = False

    def cells(self, panel: Panel, readings: Mapping[str, Reading]) -> tuple[Cell, ...]:
        """None: it is no text."""
        return ()

    def named(self) -> str:
        """In notes."""
        return "line" if 1 in (self.width, self.tall) else "box"


@dataclass(frozen=True)
class Trend:
    """A reading's last ``span_s`` seconds as a line; ``low`` and ``high`` in the channel's unit, None by its data."""

    channel: str
    row: int
    column: int
    width: int
    tall: int
    span_s: float
    low: float | None
    high: float | None
    motion: Motion = STILL
    importance: int = USUAL
    pinned: bool = False

    def cells(self, panel: Panel, readings: Mapping[str, Reading]) -> tuple[Cell, ...]:
        """None: it is no text."""
        return ()

    def heights(self, readings: Mapping[str, Reading]) -> list[int | None]:
        """For each column the row from the foot, 0 to ``tall`` − 1; None where there is no good reading."""
        past = readings.get(self.channel, SILENT).past_of(self.span_s, self.width)
        good = [value for value in past if math.isfinite(value)]
        low = self.low if self.low is not None else min(good, default=0.0)
        high = self.high if self.high is not None else max(good, default=1.0)
        span = high - low if high > low else 1.0
        return [
            None if not math.isfinite(value)
            else min(max(round((value - low) / span * (self.tall - 1)), 0), self.tall - 1) for value in past
        ]  # fmt: skip

    def named(self) -> str:
        """In notes."""
        return f"trend of {self.channel}"


Item = Label | FieldItem | Bar | AlarmMark | Box | Trend
ITEMS = {"label": LABEL, "field": FIELD_PLACE, "bar": BAR, "alarm": ALARM, "box": BOX, "trend": TREND}
"""What each kind of item can be told; a field its channel's rules besides."""


def width_of(item: Item, panel: Panel) -> int:
    """Cells, or pixels, that an item takes across."""
    return size_of(item, panel)[0]


def size_of(item: Item, panel: Panel) -> tuple[int, int]:
    """Cells, or pixels, that an item takes across and down: of a field whatever digits it holds."""
    is_pixels = isinstance(panel, PixelPanel)
    if isinstance(item, Box | Trend):
        return item.width, item.tall
    if isinstance(item, Bar):
        return item.width, item.tall if is_pixels else 1
    count = item.field.width if isinstance(item, FieldItem) else len(split_cells(item.text, joined=panel.joined))
    if not is_pixels:
        return item.motion.width(count), 1
    font = font_named(item.font)
    if isinstance(item, FieldItem) or not item.motion.is_still:
        return font.field_width(item.motion.width(count)), font.height
    return font.measure(item.text), font.height


def texts_of(item: Item) -> tuple[str, ...]:
    """Every letter that an item may show, in as few texts as that takes."""
    if isinstance(item, Bar | Box | Trend):
        return ()
    if isinstance(item, Label | AlarmMark):
        return (item.text,)
    field = item.field
    said = (field.overflow, field.invalid, field.stale, field.underflow, field.settling)
    if field.shows == "word":
        return (*said, *(word for _, word in field.words))
    if field.shows == "alarm":
        return (*said, field.calm_word)
    if field.shows != "number":
        return (*said, "0:0")
    sign = {"minus only": "-", "always": "-+", "never": ""}[field.sign]
    return (*said, f"{sign}0{POINT_LETTERS[field.point] if field.decimals else ''}{field.unit_text}")
