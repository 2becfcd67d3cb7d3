"""What a screen draws, as data: texts with a tone, charts as points, panels as frames. Light to import.

A tone says what a text is, not its colour: the theme of the screen gives it one.
"""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import field
from typing import Literal

from lesart.core.dataclass_later import dataclass
from lesart.core.glass.panels.frame import Frame
from lesart.core.notes import Key
from lesart.core.step import Step

Tone = Literal["text", "faint", "rubric", "lapis", "ochre", "verdigris", "cells"]


@dataclass(frozen=True)
class Edit:
    """A value editable in place. ``written`` is its text in the project file, or would be."""

    key: Key
    label: str
    written: str
    help: str


@dataclass(frozen=True)
class Span:
    """A run of text. With ``edit`` it is an editable value."""

    text: str
    tone: Tone = "text"
    bold: bool = False
    edit: Edit | None = None


Line = tuple[Span, ...]
Box = tuple[int, int, int, int]
"""Left, top, width, height."""


@dataclass(frozen=True)
class Series:
    """Points to draw: as a ``line``, as ``dots``, or larger as ``points`` or ``rings``, so that colour alone never
    carries meaning."""

    name: str
    x: Sequence[float]
    y: Sequence[float]
    tone: Tone
    style: Literal["line", "dots", "points", "rings"] = "line"


@dataclass(frozen=True)
class Chart:
    """Evidence. ``cursor`` is where the red line stands; ``bands`` are x positions of marked samples, by word.

    With ``decades`` x are logarithms to the base of ten, and its ticks say what they are of.
    """

    title: str
    series: tuple[Series, ...]
    x_label: str
    y_label: str
    x_range: tuple[float, float]
    y_range: tuple[float, float]
    cursor: float | None = None
    bands: tuple[tuple[str, Sequence[float]], ...] = ()
    time_axis: bool = False
    decades: bool = False


@dataclass(frozen=True)
class Glass:
    """A lit panel. ``ground``, ``lit`` and ``unlit`` are its own colours: background, lit, and dark elements."""

    name: str
    says: str
    frame: Frame
    ground: str
    lit: str
    unlit: str
    marked: tuple[tuple[int, int, int], ...] = ()
    """Row, first cell and one past the last of the selected item: its dark dots stand out."""
    clashing: tuple[tuple[int, int], ...] = ()
    """Row and column of cells that two items claim, or of the last one before an item is cut off."""
    struck: tuple[tuple[int, int, int, int], ...] = ()
    """The same on pixels: left, top, and one past the right and lower edge."""
    stripe: tuple[int, str, str] | None = None
    """Number of rows on top with a ground and light of their own."""
    focus: Box | None = None
    """Where to look first, in pixels or in cells, when there is no room for all of it."""
    close: bool = False
    """True where every dot should be visible, even if the whole is not."""
    round: bool = False
    """True for round dots."""
    dot_mm: float = 0.0
    """Dot pitch, or for digits millimetres per millimetre of their drawing; 0 where unknown."""
    share: float = 1.0
    """Brightness share of a frame's own colours."""
    light: str = ""
    """Its light in a few words: which, how bright, whether an alarm changed it."""


@dataclass(frozen=True)
class CellRow:
    """Cells of a field drawn large, with a caption line or two under each."""

    glass: Glass
    captions: tuple[tuple[Span, ...], ...]


@dataclass(frozen=True)
class ThreadStep:
    """One of the nine steps, at the cursor.

    ``miniature`` is a row of block characters; ``fault``: a † note is about it.
    """

    step: Step
    value: Span
    detail: str
    miniature: str = ""
    notes: str = ""
    fault: bool = False

    @property
    def number(self) -> int:
        """The key that opens it."""
        return self.step.number

    @property
    def name(self) -> str:
        """The step's name in the thread."""
        return self.step.shown


@dataclass(frozen=True)
class ChannelRow:
    """A line of the margin."""

    name: str
    value: str
    notes: str
    chosen: bool
    tone: Tone = "ochre"


@dataclass(frozen=True)
class NoteRow:
    """A line of the list of notes. ``index`` is its index among all notes; -1 for the line of folded ones."""

    numeral: str
    mark: str
    step: str
    text: str
    remedy: str
    chosen: bool
    index: int = -1
    count: int = 1
    """Number of notes that it represents."""


@dataclass(frozen=True)
class Leaf:
    """One of several leaves of a workspace, with the numerals of its notes."""

    name: str
    open: bool
    notes: str = ""


@dataclass(frozen=True)
class Offer:
    """Something that can be typed, with a description; ``is_whole`` where nothing has to follow it."""

    text: str
    says: str = ""
    is_whole: bool = True


Offers = Mapping[str, tuple[Offer, ...]]
"""Offers by the sign before them; empty for the beginning of the line."""


@dataclass(frozen=True)
class Workspace:
    """The open step, or None: all channels at once.

    ``lines`` stand under the evidence; ``selected`` is the key of the value that enter would edit.

    ``adds`` is the question that ``+`` asks; empty where a step has no entries. ``hints`` are keys
    of a leaf with what they do.
    """

    step: Step | None
    subtitle: str
    chart: Chart | None = None
    cells: CellRow | None = None
    glass: Glass | None = None
    lines: tuple[Line, ...] = ()
    selected: Key | None = None
    adds: str = ""
    leaves: tuple[Leaf, ...] = ()
    hints: tuple[tuple[str, str], ...] = ()
    offers: Offers = field(default_factory=dict)
    """What ``+`` accepts here."""
    choices: tuple[Offer, ...] = ()
    """The possible values of the selected one, where they are finite."""

    @property
    def name(self) -> str:
        """Its heading."""
        return self.step.shown if self.step is not None else "All"

    @property
    def edits(self) -> tuple[Edit, ...]:
        """All editable values, in reading order."""
        return tuple(span.edit for line in self.lines for span in line if span.edit is not None)

    @property
    def selected_edit(self) -> Edit | None:
        """The value that enter would edit."""
        return next((edit for edit in self.edits if edit.key == self.selected), None)


@dataclass(frozen=True)
class Picture:
    """Everything on the screen at one time."""

    project: str
    channel: str
    capture: str
    cursor: str
    playing: str
    rate: str
    unsaved: bool
    hand: str
    thread: tuple[ThreadStep, ...] = ()
    channels: tuple[ChannelRow, ...] = ()
    variants: tuple[Line, ...] = ()
    workspace: Workspace = field(default_factory=lambda: Workspace(None, ""))
    glass: tuple[Glass, ...] = ()
    notes: tuple[NoteRow, ...] = ()
    notes_of: str = ""
    """The step that notes are filtered by; empty for all."""
    message: str = ""
    message_is_fault: bool = False
    faults: int = 0
    asks: str = ""
    is_playing: bool = False
    notes_are_fresh: bool = True
    variant: str = ""
    looked_at: str = ""
    """The object of R and C, in words; empty where there is none."""
    preview: Picture | None = None
    """The picture as it would be if the typed text were entered."""


SUPERSCRIPTS = str.maketrans("0123456789", "⁰¹²³⁴⁵⁶⁷⁸⁹")


def numeral(number: int) -> str:
    """The superscript at a value and before its note."""
    return str(number).translate(SUPERSCRIPTS)
