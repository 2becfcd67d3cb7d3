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
    """A value that can be changed in place. ``written`` is how it stands, or would stand, in the project file."""

    key: Key
    label: str
    written: str
    help: str


@dataclass(frozen=True)
class Span:
    """A run of text. With ``edit`` it is a value in place."""

    text: str
    tone: Tone = "text"
    bold: bool = False
    edit: Edit | None = None


Line = tuple[Span, ...]
Box = tuple[int, int, int, int]
"""Left, top, width, height."""


@dataclass(frozen=True)
class Series:
    """Points to draw: as a ``line``, as ``dots``, or larger as ``points`` or ``rings``; so no colour has to tell."""

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
    """A panel lit. ``ground``, ``lit`` and ``unlit`` are its own colours: behind, lit, and there but dark."""

    name: str
    says: str
    frame: Frame
    ground: str
    lit: str
    unlit: str
    marked: tuple[tuple[int, int, int], ...] = ()
    """Row, first cell and after the last one of the item that is worked on: its dark dots stand out."""
    clashing: tuple[tuple[int, int], ...] = ()
    """Row and column of cells that two items claim, or of the last one before an item is cut off."""
    struck: tuple[tuple[int, int, int, int], ...] = ()
    """The same on pixels: left, top, and one past the right and lower edge."""
    stripe: tuple[int, str, str] | None = None
    """So many rows on top have a ground and a light of their own."""
    focus: Box | None = None
    """Where to look first, in pixels or in cells, when there is no room for all of it."""
    close: bool = False
    """Is every dot to be seen, though the whole may not be?"""
    round: bool = False
    """Are its dots round?"""
    dot_mm: float = 0.0
    """From dot to dot, of digits for each millimetre of their drawing; 0 where nobody knows."""
    share: float = 1.0
    """How much of their light colours of a frame's own have."""
    light: str = ""
    """Of its light, in a few words: which, how bright, whether an alarm changed it."""


@dataclass(frozen=True)
class CellRow:
    """Cells of a field drawn large, with a caption line or two under each."""

    glass: Glass
    captions: tuple[tuple[Span, ...], ...]


@dataclass(frozen=True)
class ThreadStep:
    """One of the nine, at the cursor. ``miniature`` is a row of block characters; ``fault``: a † note speaks of it."""

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
        """As the thread says it."""
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
    """A line of the apparatus. ``index`` is its place among all notes; -1 of the line that folded ones stand for."""

    numeral: str
    mark: str
    step: str
    text: str
    remedy: str
    chosen: bool
    index: int = -1
    count: int = 1
    """Of the notes that it stands for."""


@dataclass(frozen=True)
class Leaf:
    """One of several leaves of a workspace, with the numerals of notes that stand there."""

    name: str
    open: bool
    notes: str = ""


@dataclass(frozen=True)
class Offer:
    """Something that can be typed, and what it is; ``is_whole`` where nothing has to follow it."""

    text: str
    says: str = ""
    is_whole: bool = True


Offers = Mapping[str, tuple[Offer, ...]]
"""By the sign that they come after: an empty one is the beginning of the line."""


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
    """What ``+`` takes here."""
    choices: tuple[Offer, ...] = ()
    """What the selected value may be, where there is an end of it."""

    @property
    def name(self) -> str:
        """Its heading."""
        return self.step.shown if self.step is not None else "All"

    @property
    def edits(self) -> tuple[Edit, ...]:
        """All values in place, in reading order."""
        return tuple(span.edit for line in self.lines for span in line if span.edit is not None)

    @property
    def selected_edit(self) -> Edit | None:
        """The value that enter would edit."""
        return next((edit for edit in self.edits if edit.key == self.selected), None)


@dataclass(frozen=True)
class Picture:
    """Everything on the screen at one moment."""

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
    """The step that they are only of, where they are; empty: of all."""
    message: str = ""
    message_is_fault: bool = False
    faults: int = 0
    asks: str = ""
    is_playing: bool = False
    notes_are_fresh: bool = True
    variant: str = ""
    looked_at: str = ""
    """What R renames and C copies, in words; empty where there is nothing."""
    preview: Picture | None = None
    """As it would be, were what is typed entered."""


SUPERSCRIPTS = str.maketrans("0123456789", "⁰¹²³⁴⁵⁶⁷⁸⁹")


def numeral(number: int) -> str:
    """The superscript that stands at a value and before its note."""
    return str(number).translate(SUPERSCRIPTS)
