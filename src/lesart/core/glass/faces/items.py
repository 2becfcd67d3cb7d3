"""Items of a face: labels, fields, bars and alarm marks, and the parameters of each kind."""

from __future__ import annotations

import dataclasses
from collections.abc import Iterable, Mapping
from dataclasses import replace

from lesart.core.dataclass_later import dataclass
from lesart.core.fit.cells import Cell, split_cells
from lesart.core.fit.field import POINT_LETTERS, Field, Reading
from lesart.core.fit.fill import Shown, fill
from lesart.core.glass.faces.bars import bar_cells
from lesart.core.glass.faces.hue import PLAIN, Hue
from lesart.core.glass.faces.item_parameters import (
    ALARM,
    BAR,
    BOX,
    BUBBLE,
    DATE,
    DATE_AND_TIME,
    DIAL,
    EXAMPLE,
    FIELD_PLACE,
    FONT,
    HOST,
    LABEL,
    PICTURE,
    SPECTRUM,
    TEXT,
    TIME_OF_DAY,
    TREND,
)
from lesart.core.glass.faces.motion import LEFT, STANDS, Motion, moved
from lesart.core.glass.faces.shapes import SILENT, STILL, USUAL, Shape
from lesart.core.glass.panels.panel import Panel, PixelGrid
from lesart.core.glass.panels.pixel_panel import DEFAULT_FONT
from lesart.core.parameters import Parameter

DATED = {DATE_AND_TIME: "2026-05-14 06:00:00", DATE: "2026-05-14", TIME_OF_DAY: "06:00:00"}
"""Date and time items, and their forms."""


@dataclass(frozen=True)
class Label:
    """A fixed text."""

    text: str
    row: int
    column: int
    motion: Motion = STILL
    font: str = DEFAULT_FONT
    importance: int = USUAL
    pinned: bool = False
    hue: Hue = PLAIN

    @property
    def reads(self) -> tuple[str, ...]:
        """The channels that it shows."""
        return ()

    @property
    def is_still(self) -> bool:
        """True where it never changes."""
        return self.motion.is_still

    def cells(self, panel: Panel, readings: Mapping[str, Reading]) -> tuple[Cell, ...]:
        """Its cells before any motion."""
        return split_cells(self.text, joined=panel.joined)

    def named(self) -> str:
        """Its name in notes."""
        return f'label "{self.text}"'


@dataclass(frozen=True)
class TextItem(Label):
    """A text not known beforehand, in ``width`` cells: one that is longer runs through them.

    ``text`` is an example; what it is now comes as the reading under ``key``. Of dates ``begins`` is the moment at
    which the captures do.
    """

    source: str = EXAMPLE
    width: int = 16
    begins: str = ""

    @property
    def key(self) -> str:
        """The key of its text among the readings; no channel has that name."""
        return f"\ttext of {self.source} {self.begins}".rstrip()

    @property
    def example(self) -> str:
        """The text where none is given."""
        return DATED.get(self.source, self.text) if self.text == TEXT[1].default else self.text

    @property
    def is_still(self) -> bool:
        """False: it may change at any time."""
        return False

    def cells(self, panel: Panel, readings: Mapping[str, Reading]) -> tuple[Cell, ...]:
        """Its cells, padded to its width."""
        given = readings.get(self.key)
        cells = split_cells(given.text if given is not None and given.text else self.example, joined=panel.joined)
        return cells + (Cell(" "),) * (self.width - len(cells))

    def named(self) -> str:
        """Its name in notes."""
        return f"text of {self.source}" if self.source != EXAMPLE else f'text "{self.text}"'


@dataclass(frozen=True)
class _OfChannel:
    """An item that shows one channel."""

    channel: str

    @property
    def reads(self) -> tuple[str, ...]:
        """The channels that it shows."""
        return (self.channel,)

    @property
    def is_still(self) -> bool:
        """True where it never changes."""
        return False


@dataclass(frozen=True)
class FieldItem(_OfChannel):
    """A channel's reading in a field.

    ``own_keys`` are the rules that this item sets itself; ``of_variants`` is the field for each variant of the channel.
    """

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
    hue: Hue = PLAIN

    def shown(self, panel: Panel, readings: Mapping[str, Reading]) -> Shown:
        """The filled field."""
        return fill(self.field, readings.get(self.channel, SILENT), joined=panel.joined)

    def cells(self, panel: Panel, readings: Mapping[str, Reading]) -> tuple[Cell, ...]:
        """All of its cells; a moving text has no blanks at its ends."""
        shown = self.shown(panel, readings)
        return shown.cells if self.motion.moves == STILL.moves else shown.whole

    def named(self) -> str:
        """Its name in notes."""
        return f"field of {self.channel}"


LEAST_OUTLINED = 3
"""Pixels down of the lowest bar with an inside, so that its outline is told from what fills it."""


@dataclass(frozen=True)
class Bar(_OfChannel):
    """A reading as a length.

    ``empty`` and ``full`` in the channel's unit; ``field`` gives the text shown instead of a bar when the reading is
    bad or stale.
    """

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
    hue: Hue = PLAIN

    def share(self, readings: Mapping[str, Reading]) -> float | None:
        """The filled share, 0 to 1; None where the reading is bad or stale."""
        reading = readings.get(self.channel, SILENT)
        if fill(self.field, reading).state in ("invalid", "stale"):
            return None
        return min(max((reading.value - self.empty) / (self.full - self.empty), 0.0), 1.0)

    def cells(self, panel: Panel, readings: Mapping[str, Reading]) -> tuple[Cell, ...]:
        """Cells filled from the left."""
        share = self.share(readings)
        if share is None:
            return fill(self.field, readings.get(self.channel, SILENT), joined=panel.joined).cells
        return bar_cells(panel, share, self.width)

    def named(self) -> str:
        """Its name in notes."""
        return f"bar of {self.channel}"


@dataclass(frozen=True)
class AlarmMark(_OfChannel):
    """A text shown while an alarm of the channel is on."""

    row: int
    column: int
    text: str
    motion: Motion = STILL
    font: str = DEFAULT_FONT
    importance: int = USUAL
    pinned: bool = False
    hue: Hue = PLAIN

    def cells(self, panel: Panel, readings: Mapping[str, Reading]) -> tuple[Cell, ...]:
        """Its cells; blanks while no alarm is on."""
        cells = split_cells(self.text, joined=panel.joined)
        return cells if readings.get(self.channel, SILENT).alarms else (Cell(" "),) * len(cells)

    def named(self) -> str:
        """Its name in notes."""
        return f"alarm mark of {self.channel}"


Item = Label | FieldItem | Bar | AlarmMark | Shape
ITEMS = {
    "label": LABEL,
    "text": TEXT,
    "field": FIELD_PLACE,
    "bar": BAR,
    "alarm": ALARM,
    "box": BOX,
    "trend": TREND,
    "dial": DIAL,
    "spectrum": SPECTRUM,
    "bubble": BUBBLE,
    "picture": PICTURE,
}
"""The parameters of each kind of item; a field has its channel's rules besides."""
ONLY_PIXELS = ("box", "trend", "dial", "spectrum", "bubble", "picture")


def item_parameters(kind: str, fonts: Iterable[str] = ()) -> tuple[Parameter, ...]:
    """The parameters of items in a project with fonts of its own."""
    own = tuple(fonts)
    return tuple(
        replace(each, choices=(*each.choices, *own)) if own and each is FONT else each for each in ITEMS.get(kind, ())
    )


def width_of(item: Item, panel: Panel) -> int:
    """Cells, or pixels, that an item takes across."""
    return size_of(item, panel)[0]


def size_of(item: Item, panel: Panel) -> tuple[int, int]:
    """Cells, or pixels, that an item takes across and down; for a field, whatever its digits."""
    grid = panel.grid
    if isinstance(item, Shape):
        return item.width, item.tall
    if isinstance(item, Bar):
        return item.width, item.tall if grid is not None else 1
    if isinstance(item, TextItem):
        return (item.width, 1) if grid is None else (grid.font(item.font).field_width(item.width), _high(item, grid))
    count = item.field.width if isinstance(item, FieldItem) else len(split_cells(item.text, joined=panel.joined))
    if grid is None:
        return item.motion.width(count), 1
    font = grid.font(item.font)
    if isinstance(item, FieldItem) or not item.motion.is_still:
        return font.field_width(item.motion.width(count)), font.height
    return font.measure(item.text), font.height


def _high(item: TextItem, grid: PixelGrid) -> int:
    return grid.font(item.font).height


def written_cells(item: Item, panel: Panel, readings: Mapping[str, Reading], t_s: float) -> tuple[Cell, ...]:
    """The cells of an item on the panel ``t_s`` after its face came on."""
    cells = item.cells(panel, readings)
    if isinstance(item, TextItem):
        runs = len(cells) > item.width
        return moved(cells, replace(item.motion, moves=LEFT if runs else STANDS, window=item.width), t_s)
    return moved(cells, item.motion, t_s)


def texts_of(item: Item) -> tuple[str, ...]:
    """Every letter that an item may show, in as few texts as possible."""
    if isinstance(item, Bar | Shape):
        return ()
    if isinstance(item, TextItem):
        also = "0123456789.:- " if item.source not in (EXAMPLE, HOST) else ""
        return (item.example, also)
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
