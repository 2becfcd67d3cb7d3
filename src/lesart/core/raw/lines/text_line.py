"""A serial line that just talks: lines of text with numbers in them, with names or without, whatever is between.

Bytes in, rows out, in pieces of any size: ``take(state, bytes, …) -> (state, heard)``. No byte is dropped silently: a
line that cannot be trusted becomes a row without values and an event that shows it.
"""

from __future__ import annotations

import math
import re
from dataclasses import replace

from lesart.core.block import Mark
from lesart.core.dataclass_later import dataclass
from lesart.core.quantity import counted
from lesart.core.raw.lines.line_cells import LineCells, line_cells, readable
from lesart.core.raw.lines.line_names import spoken_names
from lesart.core.raw.lines.received import Event, Received, visible_bytes

LONGEST_LINE = 4096
"""This many bytes without a line end are garbage: the wrong baud rate, or no text at all."""
QUIET_S = 0.05
"""A line that begins after such a silence was heard from its start."""
ALONE_S = 1.0
"""The first line of a slow device is accepted when no second one has come for this long."""
MOST_HELD = 16
LEAST_STEP_S = 1e-6
MISSING = int(Mark.MISSING)
Shape = tuple[tuple[str, ...], int, str]
"""Names, how many values, and the words between them where a line is one of words."""


@dataclass(frozen=True)
class TextState:
    """``rest`` is a line not yet ended; ``columns`` are empty until the first row says how many there are.

    ``begun``: is the line at hand heard from its start? ``last_t`` is the time of the last row, ``last_read`` that of
    the last bytes, both in seconds. ``asked`` are names that the project gives; ``header`` is a line of words that may
    name the columns, ``words`` those between the numbers that do. ``wordy`` are columns that held no number from the
    first row on. ``partial`` are values of a row that comes in several lines, by name. ``held`` are first lines with
    their times, until two agree on the columns.
    """

    asked: tuple[str, ...] = ()
    decimal: str = "."
    byte_s: float = 0.0
    rest: bytes = b""
    columns: tuple[str, ...] = ()
    header: tuple[str, ...] = ()
    words: str = ""
    separator: bytes | None = b""
    wordy: frozenset[int] = frozenset()
    partial: tuple[tuple[str, float], ...] = ()
    held: tuple[tuple[bytes, float], ...] = ()
    begun: bool = False
    last_t: float = -math.inf
    last_read: float = -math.inf


def joined(state: TextState, now: float) -> TextState:
    """The state when the line was just opened, or reopened: the first bytes may be the end of a line."""
    return replace(state, rest=b"", partial=(), begun=False, last_read=now)


def take(state: TextState, data: bytes, now: float) -> tuple[TextState, Received]:
    """Rows of the lines that end in ``data``, which arrived at ``now``, in seconds. Without data, time has passed.

    A row's time is when its line ended: bytes that were read together came one after another, ``byte_s`` apart, but not
    before the bytes of the previous read. When several lines arrive in one run without a pause, their own times are
    unknown: an adapter that ignores the baud rate hands them over in bunches. They are spread evenly over the time
    since the previous read, so that their rate is that of the device.
    """
    begun = state.begun or (not state.rest and now - state.last_read >= QUIET_S)
    whole = state.rest + data
    # A carriage return alone ends a line too; a line feed after it ends an empty one, which does not count.
    *lines, rest = whole.replace(b"\r", b"\n").split(b"\n")
    since_s = max(now - state.last_read, 0.0)
    is_bunch = len(lines) > 1 and since_s < QUIET_S
    span_s = since_s if is_bunch else min(len(data) * state.byte_s, since_s)
    batch = _Batch(replace(state, begun=begun))
    after = len(whole)
    for line in lines:
        after -= len(line) + 1
        batch.line(line, now - span_s * after / len(data))
    if len(batch.state.held) == 1 and now - batch.state.held[0][1] > ALONE_S:
        batch.believe_the_last()
    if len(rest) > LONGEST_LINE:
        batch.garbage(rest, now, f"{counted(len(rest), 'byte')} without an end of line; is the baud rate right?")
        rest = b""
    heard = batch.heard()
    return replace(batch.state, rest=rest, last_read=now if data else state.last_read), heard


class _Batch:
    """Builds rows from one run of bytes."""

    def __init__(self, state: TextState) -> None:
        self.state = state
        self.last_t = state.last_t
        self.t: list[float] = []
        self.values: list[tuple[float, ...]] = []
        self.events: list[Event] = []

    def heard(self) -> Received:
        self.state = replace(self.state, last_t=self.last_t)
        marks = (MISSING,) * len(self.t)
        return Received(self.state.columns, tuple(self.t), tuple(self.values), marks, tuple(self.events))

    def line(self, line: bytes, t: float) -> None:
        if not self.state.begun:
            self.state = replace(self.state, begun=True)
            if line.strip():
                self.events.append(Event(t, "joined", f'joined in the middle of a line: "{visible_bytes(line)}"'))
            return
        width = len(self.state.columns)
        if width and self.state.separator is not None:
            # The common case: as many plain numbers as always.
            try:
                numbers = tuple(map(float, line.split(self.state.separator or None)))
            except ValueError:
                numbers = ()
            # Python reads 1_0 as ten, and nobody else does.
            if len(numbers) == width and all(map(math.isfinite, numbers)) and b"_" not in line:
                self.row(numbers, t)
                return
        if line.strip():
            self.odd(line, t)

    def row(self, values: tuple[float, ...], t: float) -> None:
        t = round(max(t, self.last_t + LEAST_STEP_S), 6)
        self.last_t = t
        self.t.append(t)
        self.values.append(values)

    def odd(self, line: bytes, t: float) -> None:
        """Handle first lines, lines with names, and lines unlike the others."""
        text = readable(line)
        if text is None:
            self.garbage(line, t, "these bytes are not text; is the baud rate right?")
            return
        cells = line_cells(text, self.state.decimal)
        if cells.passed_over:
            return
        if cells.wrong:
            # Not a row: others at the same time give the rest of it.
            self.events.append(Event(t, "garbage", f'"{visible_bytes(line)}": {cells.wrong}'))
            return
        names, values, separator = cells.names, cells.values, cells.separator
        if all(map(math.isnan, values)) and not (self.state.columns and len(values) == len(self.state.columns)):
            self.chatter(line, text, t)
            return
        if not self.state.columns:
            self._hold(line, t, (names, len(values), cells.words))
            return
        columns = self.state.columns
        if cells.words and not names and not (_are_numbered(columns) or cells.words == self.state.words):
            # Where values have names, words with a number in them are something else that is said.
            self.chatter(line, text, t)
            return
        if names and names != columns and set(names) <= set(columns):
            self.part_of_row(dict(zip(names, values, strict=True)), t)
            return
        if len(values) != len(columns) or (names and names != columns and not self.state.asked):
            came = ", ".join(names) or f"{counted(len(values), 'value')}"
            why = f"{came} where {', '.join(columns) if names else len(columns)} belong"
            self.garbage(line, t, f"{why}; names can list all there are" if names else why)
            return
        if any(math.isnan(value) and place not in self.state.wordy for place, value in enumerate(values)):
            self.events.append(Event(t, "garbage", f'no number in a part of "{visible_bytes(line)}"'))
        if self.state.separator is None and separator is not None:
            self.state = replace(self.state, separator=separator)
        self.row(values, t)

    def _hold(self, line: bytes, t: float, shape: Shape) -> None:
        """What the columns are is believed when two lines agree: the first one may be half noise.

        A device that sends a line a quantity says them in turn: then each has to come twice.
        """
        before = self.state.held
        if len(before) == MOST_HELD:
            (oldest, came), *rest = before
            says = f'"{visible_bytes(oldest)}": no two of {MOST_HELD} lines have the same values'
            self.events.append(Event(came, "garbage", says))
            before = tuple(rest)
        self.state = replace(self.state, held=(*before, (line, t)))
        shapes = [_shape(earlier, self.state.decimal) for earlier, _ in before]
        if shape in shapes:
            place = len(shapes) - 1 - shapes[::-1].index(shape)
            between = [other for other in shapes[place + 1 :] if other[0]]
            if all(shapes.count(other) > 1 for other in between):
                names = dict.fromkeys(name for other in (*between, shape) for name in other[0])
                self._learn_from(line, before[place][0], tuple(sorted(names, key=list(_all_names(shapes)).index)))
        elif shape[0] and set(shape[0]) <= set(self.state.asked):
            self._learn_from(line, line, shape[0])

    def believe_the_last(self) -> None:
        """Accept the last held line, since nothing else came."""
        line = self.state.held[-1][0]
        self._learn_from(line, line, _shape(line, self.state.decimal)[0])

    def _learn_from(self, line: bytes, other: bytes, names: tuple[str, ...]) -> None:
        held, self.state = self.state.held, replace(self.state, held=())
        cells = line_cells(readable(line) or "", self.state.decimal)
        others = line_cells(readable(other) or "", self.state.decimal)
        separator = cells.separator
        both = zip(cells.values, others.values, strict=True)
        wordy = frozenset(place for place, pair in enumerate(both) if all(map(math.isnan, pair)))
        if cells.words and cells.words == others.words and not names:
            self.state = replace(self.state, words=cells.words)
        self._learn(names, len(names) or len(cells.values), separator, wordy)
        if held:
            self._say_units(cells, held)
        for earlier, t in held:
            self.line(earlier, t)

    def part_of_row(self, found: dict[str, float], t: float) -> None:
        """Collect a row from devices that send one line per quantity: it is whole when all have come, or one comes
        again."""
        before = dict(self.state.partial)
        if found.keys() & before.keys():
            self.row(tuple(before.get(name, math.nan) for name in self.state.columns), t)
            before = {}
        before |= found
        if len(before) == len(self.state.columns):
            self.row(tuple(before[name] for name in self.state.columns), t)
            before = {}
        self.state = replace(self.state, partial=tuple(before.items()))

    def _say_units(self, cells: LineCells, held: tuple[tuple[bytes, float], ...]) -> None:
        """Report the units after the numbers of the first rows: a recording keeps them, and a project learns them from
        there."""
        columns = self.state.columns
        units = dict(zip(columns, cells.units, strict=True)) if len(cells.units) == len(columns) else {}
        if not units:
            # A row that comes in several lines has a unit in each of them.
            for line, _ in held:
                one = line_cells(readable(line) or "", self.state.decimal)
                units |= dict(zip(one.names, one.units, strict=False))
        told = [f"{name} {unit}" for name in columns if (unit := units.get(name)) is not None]
        if told:
            self.events.append(Event(held[0][1], "units", "; ".join(told)))

    def _learn(self, names: tuple[str, ...], width: int, separator: bytes | None, wordy: frozenset[int]) -> None:
        asked = self.state.asked
        if names and set(names) < set(asked):
            self.state = replace(self.state, columns=asked, separator=separator)
            return
        numbered = tuple(f"column {number}" for number in range(1, width + 1))
        header = self.state.header if len(self.state.header) == width else ()
        said = spoken_names(self.state.words)
        columns = (asked if len(asked) == width else ()) or names or header or said or numbered
        self.state = replace(self.state, columns=columns, separator=separator, wordy=wordy)

    def chatter(self, line: bytes, text: str, t: float) -> None:
        """Handle a line of words only: a greeting, or the names of what follows."""
        self.events.append(Event(t, "chatter", f'"{visible_bytes(line)}"'))
        if not self.state.columns:
            words = [word.strip()[:60] for word in re.split(r"[;,|\t]", text)]
            distinct = len(set(words)) == len(words) > 1 and all(words)
            self.state = replace(self.state, header=tuple(words) if distinct else ())

    def garbage(self, line: bytes, t: float, why: str) -> None:
        self.events.append(Event(t, "garbage", f'"{visible_bytes(line)}": {why}'))
        if self.state.columns:
            self.row((math.nan,) * len(self.state.columns), t)


def _shape(line: bytes, decimal: str) -> Shape:
    """The columns as one line shows them."""
    cells = line_cells(readable(line) or "", decimal)
    return cells.names, len(cells.values), cells.words


def _are_numbered(columns: tuple[str, ...]) -> bool:
    return columns == tuple(f"column {number}" for number in range(1, len(columns) + 1))


def _all_names(shapes: list[Shape]) -> dict[str, None]:
    """All names in the order of their first appearance."""
    return dict.fromkeys(name for names, _, _ in shapes for name in names)
