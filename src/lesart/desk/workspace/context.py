"""The context of every workspace, and small texts they share."""

from __future__ import annotations

import math
import textwrap
from collections.abc import Callable, Iterable, Mapping, Sequence
from dataclasses import field
from functools import cached_property
from typing import TypeVar

from lesart.core.block import Block
from lesart.core.dataclass_later import dataclass
from lesart.core.errors import LesartError, RequestError
from lesart.core.fit.field import Reading
from lesart.core.glass.faces.face import FieldItem
from lesart.core.glass.panels.panel import Panel
from lesart.core.notes import Key, Note
from lesart.core.parameters import Parameter
from lesart.core.quantity import beside_unit, grouped, plain_number
from lesart.core.step import Step
from lesart.desk.entries.edits import parameter_at, written_at
from lesart.desk.packing import Packing
from lesart.desk.state import State
from lesart.desk.surveys import Asking
from lesart.project.model import Channel, Project
from lesart.project.toml_values import value_at
from lesart.study.bench import Bench
from lesart.study.run import Run
from lesart.study.views import Edit, Glass, Line, Series, Span, Tone, numeral

Result = TypeVar("Result")
COLUMNS = 600
"""Columns that a chart is decimated to: two points each, more than a terminal or a page resolves."""


WIDTH = 78
"""Columns of a workspace next to margin and glass in a window of 160; its lines are laid out for that."""
INDENT = 3
"""Columns before a row of values."""
ABSURD = 8.0
"""A range this many times that of the middle 99 % of samples is due to absurd ones."""


@dataclass(frozen=True)
class Context:
    """``run`` is None where the capture cannot be read; ``problem`` then says why. ``glasses`` are all panels lit.

    ``at`` holds what each channel reads at the cursor, or by hand, by step: raw, law, true, calm. ``texts`` are those
    that are no reading of a channel, by the key of their item. ``surveys`` are the last ones by source; ``waiting``
    channels whose capture is still to be read. ``in_haste``: an edit has to be on the glass at once, and the same
    picture comes again with new notes. ``notes_of`` finds the notes lazily: most pictures of a step show none, and
    inspecting takes longer than all else.
    """

    state: State
    bench: Bench
    run: Run | None
    problem: str
    view: tuple[float, float]
    at: dict[str, dict[Step, Reading]]
    glasses: tuple[Glass, ...]
    notes_of: Callable[[], tuple[Note, ...]]
    texts: Mapping[str, Reading] = field(default_factory=dict)
    surveys: Mapping[str, Asking] = field(default_factory=dict)
    waiting: frozenset[str] = frozenset()
    packing: Packing | None = None
    """The last pack written from here."""
    in_haste: bool = False

    def in_time(self, what: str, channel: Channel, block: Block, compute: Callable[[], Result]) -> Result | None:
        """A cached result; None in a hasty picture, which comes again later."""
        if self.in_haste and not self.bench.knows(what, channel, block):
            return None
        return self.bench.once_for(what, channel, block, compute)

    @cached_property
    def notes(self) -> tuple[Note, ...]:
        """The notes in numbered order."""
        return self.notes_of()

    @cached_property
    def project(self) -> Project:
        """The project, with the chosen channel's fields as in its variant."""
        return self.state.seen

    @property
    def channel(self) -> Channel:
        """The chosen channel."""
        return self.state.chosen

    @cached_property
    def standing(self) -> Channel:
        """The chosen channel, with the others that its laws read fixed at their readings at the cursor."""
        try:
            return self.bench.standing(self.project, self.channel, self.state.cursor_s)
        except LesartError:
            return self.channel

    @property
    def here(self) -> dict[Step, Reading]:
        """The chosen channel's readings, by step."""
        return self.at[self.channel.name]

    @property
    def readings(self) -> dict[str, Reading]:
        """The reading of every channel for the glass."""
        return {**{name: steps[Step.CALM] for name, steps in self.at.items()}, **self.texts}

    def numerals(self, step: Step, *, channel: str | None = None, panel: str | None = None, most: int = 9) -> str:
        """Superscripts of the notes that speak of a step of a channel, or of a panel; not more than there is room for.

        A channel on four panels has many.
        """
        found = [numeral(number) for number, _ in self._notes_on(step, channel, panel)]
        return " ".join(found[:most]) + ("…" if len(found) > most else "")

    def numerals_of_pace(self) -> tuple[str, bool]:
        """Of notes on the channel, on panels that show it, and on the loop; and whether one is a fault."""
        shown = self.project.panels_showing(self.channel.name)
        found = [
            (number, note)
            for number, note in enumerate(self.notes, 1)
            if note.step == Step.PACE
            and (not note.channels or self.channel.name in note.channels)
            and (not note.panels or any(panel in shown for panel in note.panels))
        ]
        return " ".join(numeral(number) for number, _ in found), any(note.is_fault for _, note in found)

    def is_fault(self, step: Step, *, channel: str | None = None) -> bool:
        """True where a † note is about a step."""
        return any(note.is_fault for _, note in self._notes_on(step, channel, None))

    def _notes_on(self, step: Step, channel: str | None, panel: str | None) -> list[tuple[int, Note]]:
        return [
            (number, note)
            for number, note in enumerate(self.notes, 1)
            if note.step == step
            and (channel is None or (channel in note.channels and self._holds_here(note)))
            and (panel is None or panel in note.panels)
        ]

    def _holds_here(self, note: Note) -> bool:
        """True where it applies to the variant looked at."""
        return self.state.channel not in note.channels or self.channel.variant in note.ways

    def notes_here(self) -> list[tuple[int, Note]]:
        """Notes on the chosen channel in its variant, with their numbers."""
        name = self.channel.name
        return [each for each in enumerate(self.notes, 1) if each[1].channel == name and self._holds_here(each[1])]

    def front(self) -> tuple[Panel, FieldItem, str] | None:
        """Panel, item and face that Fit shows: on the panel in front if that shows the channel."""
        found = self.state.field_in_front
        return None if found is None else (self.project.panels[found[0]], found[2], found[1])


def text(words: str, tone: Tone = "text", *, bold: bool = False) -> Span:
    """A run of text."""
    return Span(words, tone, bold)


def label(words: str) -> Span:
    """A faint word before a value."""
    return Span(words, "faint")


def value(project: Project, key: Key, *, tone: Tone = "text", width: int = 0, title: str | None = None) -> Span:
    """A value edited in place, as the project file writes it."""
    try:
        parameter = parameter_at(project, key)
    except RequestError:
        return Span("", "faint")
    written = written_at(project, key, parameter)
    shown = {True: "yes", False: "no"}[written] if isinstance(written, bool) else str(written)
    plain = "true" if written is True else "false" if written is False else str(written)
    if key in project.homes and value_at(project.tables, key) is None:
        tone = "verdigris"  # taken from its home
    edit = Edit(key, title or parameter.title, plain, _help(parameter))
    return Span((shown or _empty(project, key)).rjust(width), tone, True, edit)


def _empty(project: Project, key: Key) -> str:
    """What an empty text means: a field without a unit of its own uses the channel's."""
    if key[-1] == "unit" and key[0] in ("channels", "faces"):
        name = key[1] if key[0] == "channels" else value_at(project.tables, (*key[:-1], "channel"))
        return project.channels[str(name)].unit.symbol if name in project.channels else "none"
    return "as usual" if key[0] == "panels" and key[-1] in ("order", "addresses") else "none"


def _help(parameter: Parameter) -> str:
    if parameter.kind == "choice":
        return f"{parameter.help}: {', '.join(parameter.choices)}"
    return parameter.help


def rows_of(
    project: Project, place: Key, parameters: Iterable[Parameter], *, in_line: int = 3, column: int = 26
) -> list[Line]:
    """The parameters of a table as short rows, ``in_line`` of them per line, and the homes of those stated
    elsewhere."""
    parameters, cells = tuple(parameters), []
    for parameter in parameters:
        span = value(project, (*place, parameter.name))
        filler = max(column - len(parameter.title) - 1 - len(span.text), 2)
        cells.append((label(f"{parameter.title} "), span, label(" " * filler)))
    rows: list[list[tuple[Span, ...]]] = [[]]
    for cell in cells:
        used = sum(len(span.text) for each in rows[-1] for span in each) + sum(len(span.text) for span in cell[:-1])
        if len(rows[-1]) == in_line or (rows[-1] and used > WIDTH - INDENT):
            rows.append([])
        rows[-1].append(cell)
    # The filler after the last value would only be cut off again.
    shown: list[Line] = [tuple(span for cell in row for span in cell)[:-1] for row in rows if row]
    return [*shown, *_taken(project, place, parameters)]


def _taken(project: Project, place: Key, parameters: Sequence[Parameter]) -> list[Line]:
    """The homes of values that are not stated here, one line each."""
    found: dict[str, list[str]] = {}
    for parameter in parameters:
        home = project.homes.get((*place, parameter.name))
        if home is not None and value_at(project.tables, (*place, parameter.name)) is None:
            found.setdefault(home.says, []).append(parameter.title)
    lines: list[Line] = [
        (label("↳ "), text(", ".join(titles), "verdigris"), label(f" from {says}")) for says, titles in found.items()
    ]
    # The key need only be shown once.
    return [(*lines[0], label("; "), text("H", "ochre"), label(" goes there")), *lines[1:]] if lines else []


def wrapped(words: str, tone: Tone = "text", width: int = WIDTH) -> list[Line]:
    """A sentence in as many lines as it needs."""
    return [(Span(f"  {line}", tone),) for line in textwrap.wrap(words, width - 2)]


def cut(words: str, width: int) -> str:
    """A name cut to the room, with a sign where it is cut."""
    return words if len(words) <= width else f"{words[: width - 1]}…"


def number(amount: float | None, unit: str = "", digits: int = 5) -> str:
    """A number with its unit for a line of text; a dash where there is none."""
    if amount is None or not math.isfinite(amount):
        return "—"
    return beside_unit(grouped(plain_number(amount, digits)), unit)


def decimals_for(step: float) -> int:
    """Decimals that show a difference of ``step``."""
    return min(max(-math.floor(math.log10(step)), 0), 9) if step > 0 and math.isfinite(step) else 3


def trace(context: Context, block: Block, name: str, tone: Tone) -> Series:
    """The part of a block in view, decimated."""
    t, x = context.bench.envelope(block).between(*context.view, COLUMNS)
    return Series(name, t.tolist(), x.tolist(), tone)


def robust_span(context: Context, block: Block, series: Series) -> tuple[float, float]:
    """As ``span_of``, but a few absurd samples do not squeeze all the others flat."""
    low, high = span_of([series])
    least, greatest = context.bench.middle(block)
    if high - low > ABSURD * (greatest - least) > 0:
        margin = (greatest - least) * 0.3
        return least - margin, greatest + margin
    return low, high


def span_of(series: Iterable[Series], room: float = 0.06) -> tuple[float, float]:
    """Least and greatest y of all series, with a small margin."""
    low = min((min(each.y) for each in series if len(each.y)), default=0.0)
    high = max((max(each.y) for each in series if len(each.y)), default=1.0)
    margin = (high - low) * room or abs(high) * 0.01 or 1.0
    return low - margin, high + margin
