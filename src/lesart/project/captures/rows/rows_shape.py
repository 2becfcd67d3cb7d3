"""Where the numbers of a table begin, and the names and units of its columns.

The same for lines of a text file and for rows of a spreadsheet: both are rows of cells here.
"""

from __future__ import annotations

import re
from collections import Counter
from collections.abc import Collection, Mapping, Sequence
from dataclasses import field
from itertools import pairwise

from lesart.core.dataclass_later import dataclass
from lesart.core.raw.cells import NO_VALUE, are_hours, base_written, in_code, with_unit
from lesart.core.raw.moments.column import TimeColumn, find_time
from lesart.core.raw.moments.decide import form_of
from lesart.core.raw.spelled.unit_said import unit_among, unit_said
from lesart.core.units import Unit
from lesart.core.visible import visible
from lesart.project.captures.rows.head_rows import ROW, column_names, counts_rows, grouped, groups_row, names_row
from lesart.project.captures.rows.row import Row, is_value
from lesart.project.captures.whose_rows import UNIT_WORDS, units_said, whose_column

SAME = 0.6
"""Share of the columns with numbers that must have one for a row to belong to the table and not to the header."""
NEARLY = re.compile(r"[^\w\s]{0,3}\s?[-+−]?[.,]?\d")
COUNTERS = frozenset(
    {
        ROW,
        "index",
        "idx",
        "no",
        "nr",
        "n",
        "#",
        "rownames",
        "id",
        "number",
        "record",
        "rec",
        "sample",
        "sample no",
        "sample number",
        "point",
        "entry",
        "entry_id",
        "seq",
        "sequence",
        "lfd. nr",
    }
)
FEWEST_MOMENTS = 4
"""From this many columns named by times a table is transposed."""


@dataclass(frozen=True)
class RowsShape:
    """``header`` is the number of rows before the first one of numbers, blank ones included; ``names_line`` is that of
    the names, 0 for the last of them, or where there are none; ``groups_line`` is that of groups, 0 without. ``units``
    by name, where stated."""

    header: int
    names_line: int
    groups_line: int
    names: tuple[str, ...]
    units: Mapping[str, Unit]
    time: TimeColumn
    whole: frozenset[str]
    body: tuple[tuple[str, ...], ...] = field(default=(), repr=False)
    """Rows examined, cells by column."""
    whose: str = ""
    """The column that says which sensor each row is of; empty where none does."""
    units_of: Mapping[str, Unit] = field(default_factory=dict)
    """By sensor, where a column says them."""
    units_in: str = ""
    """The column with the unit of each number before it, which may change further on."""
    nearly: Mapping[str, str] = field(default_factory=dict)
    """Columns that begin like numbers and are not, each with one of its cells: ``<0.5``, ``19.8 ± 0.1``, ``4k7``."""

    @property
    def units_vary(self) -> bool:
        """True where the unit differs in some row."""
        cells = self.body[self.names.index(self.units_in)] if self.units_in else ()
        return len({unit_said(cell) for cell in cells if cell.strip()}) > 1

    @property
    def turned(self) -> str:
        """A sentence where columns are named by times and rows by words, as in a table with one row per channel."""
        names = self.names[1:]
        if len(names) < FEWEST_MOMENTS or self.time.column or not self.body:
            return ""
        words = [cell for cell in self.body[0] if cell.strip()]
        if not words or any(is_value(cell, ".") or is_value(cell, ",") for cell in words) or form_of(words) is not None:
            return ""
        if form_of([*names]) is None:
            return ""
        first, last = visible(names[0]), visible(names[-1])
        said = f'its columns are called by moments, "{first}" to "{last}", and its rows by words'
        return f"{said}; where each row is a channel, turn the table round first"

    @property
    def left_out(self) -> tuple[str, ...]:
        """A sentence on each column left out."""
        return tuple(
            f'"{visible(name)}" is left out: "{visible(cell)[:20]}" is not a number'
            for name, cell in self.nearly.items()
        )

    @property
    def coded(self) -> tuple[str, ...]:
        """A sentence on each column written in another base without a prefix."""
        told = []
        for name, cells in zip(self.names, self.body, strict=True):
            base = base_written(cells) if name != self.time.column else 0
            cell = next((cell for cell in cells if cell.strip()), "")
            if base:
                way = "bits" if base == 2 else "hexadecimal"
                told.append(f'"{visible(name)}" is taken for {way}: {cell.strip()} is {int(cell, base)}')
        return tuple(told)


def rows_shape(rows: Sequence[Row], decimal: str) -> RowsShape | None:
    """The shape of the first rows of a table; None where no row of them holds a number."""
    told = [row for row in rows if not row.is_comment]
    width, kinds = _usual(told, decimal)
    if not any(kinds):
        return None
    first = next(
        (
            place
            for place, row in enumerate(told)
            if _is_of(row, width, kinds, decimal) and not _are_words(told[place + 1 : place + 2], decimal)
        ),
        None,
    )
    if first is None:
        return None
    while first and _is_failed(told[first - 1], told[first:], width, kinds, decimal):
        first -= 1
    begin = told[first]
    body = [row.cells for row in told[first:] if len(row.cells) == width]
    above = [row for row in rows if row.number < begin.number]
    is_labelled = counts_rows(body) or not is_value(body[0][0], decimal)
    named, unit_row = names_row(above, width, decimal, is_labelled=is_labelled)
    groups = groups_row(above, named, decimal) if named else None
    # The reader takes the last line of the header for names, whatever stands there.
    last = above[-1].cells if above and not above[-1].is_comment and above[-1].number == begin.number - 1 else []
    header = grouped(named.cells, groups.cells if groups else ()) if named else last
    names = column_names(header, width, body=body)
    units = _units(names, unit_row.cells if unit_row else [], width, body, decimal)
    columns = {name: [row[place] for row in body] for place, name in enumerate(names)}
    usual_names = above[-1].number if above and not above[-1].is_comment and above[-1].number == begin.number - 1 else 0
    names_line = 0 if named is None or named.number == usual_names else named.number
    time = find_time(columns, decimal, named=named is not None, units=units)
    whole = frozenset(
        name
        for name, cells in columns.items()
        if base_written(cells)
        or all(not cell or cell.lstrip("+-").isdigit() or in_code(cell) is not None for cell in cells)
    )
    cells = tuple(tuple(cells) for cells in columns.values())
    whose = whose_column(columns, time)
    units_of = units_said(columns, whose) if whose else {}
    others = {name: found for name, found in columns.items() if name not in (time.column, time.clock, whose)}
    nearly = {name: cell for name, found in others.items() if (cell := _nearly_numbers(found, decimal))}
    units_in = "" if whose else units_column(columns, (time.column, time.clock), decimal)
    first_unit = next((unit for cell in columns.get(units_in, ()) if (unit := unit_said(cell)) is not None), None)
    if first_unit is not None:
        units.setdefault(names[_beside(names.index(units_in))], first_unit)
    groups_line = groups.number if groups is not None else 0
    return RowsShape(
        begin.number - 1, names_line, groups_line, names, units, time, whole, cells, whose, units_of, units_in, nearly
    )


def units_column(columns: Mapping[str, Sequence[str]], keys: Collection[str], decimal: str) -> str:
    """A column with the unit of the numbers before it, as meters write them; empty where there is none.

    Its units have one dimension: V and mV.
    """
    names = list(columns)
    for place, name in enumerate(names[1:], 1):
        cells = {cell.strip() for cell in columns[name]} - {""}
        units = [unit_said(cell) for cell in cells]
        if not UNIT_WORDS & {*re.findall(r"[a-z]+", name.lower())} or not units or None in units:
            continue
        value = names[_beside(place)]
        alike = all(one and other and one.same_dimension(other) for one, other in pairwise(units))
        if alike and value not in keys and _is_numeric(columns[value], decimal):
            return name
    return ""


def _beside(place: int) -> int:
    """The column whose units a column states."""
    return place - 1


def _nearly_numbers(cells: Sequence[str], decimal: str) -> str:
    """The first cell of a column where hardly any cell is a number and most begin like one; else empty."""
    filled = [cell.strip() for cell in cells if cell.strip().lower() not in NO_VALUE]
    alike = [cell for cell in filled if NEARLY.match(cell) and not is_value(cell, decimal)]
    if not alike or len(alike) < len(filled) / 2 or _is_numeric(filled, decimal) or form_of(filled) is not None:
        return ""
    return alike[0] if alike else ""


def _usual(rows: Sequence[Row], decimal: str) -> tuple[int, tuple[bool, ...]]:
    """The usual width of rows with numbers, and their columns of numbers or times."""
    numeric = [row for row in rows if any(is_value(cell, decimal) for cell in row.cells)]
    if not numeric:
        return 0, ()
    # A header may be longer than the rows examined for it: the later ones show what is usual.
    later = numeric[len(numeric) // 2 :]
    counts = Counter(len(row.cells) for row in later)
    width = max(counts, key=lambda each: (counts[each], each))
    same = [row.cells for row in later if len(row.cells) == width]
    kinds = tuple(_is_numeric([row[place] for row in same], decimal) for place in range(width))
    return width, kinds


def _is_numeric(cells: Sequence[str], decimal: str) -> bool:
    filled = [cell for cell in cells if cell.strip().lower() not in NO_VALUE]
    good = sum(is_value(cell, decimal) for cell in filled)
    return bool(filled) and good >= len(filled) / 2


def _is_of(row: Row, width: int, kinds: Sequence[bool], decimal: str) -> bool:
    """True where a row has numbers where those below do."""
    if len(row.cells) != width:
        return False
    wanted = [cell for cell, kind in zip(row.cells, kinds, strict=True) if kind]
    filled = [cell for cell in wanted if cell.strip().lower() not in NO_VALUE]
    good = sum(is_value(cell, decimal) for cell in filled)
    return bool(good) and good >= SAME * len(filled)


def _is_failed(row: Row, below: Sequence[Row], width: int, kinds: Sequence[bool], decimal: str) -> bool:
    """True for a first row of failed readings: with the first numbers, or times, in place, and otherwise cells that
    begin like a number, ``<0.5``, or recur below."""
    if len(row.cells) != width:
        return False
    moments = [place for place, kind in enumerate(kinds) if not kind and form_of([row.cells[place]]) is not None]
    if not is_value(row.cells[kinds.index(True)], decimal) and not moments:
        return False
    for place, cell in enumerate(row.cells):
        if (
            place in moments
            or not kinds[place]
            or is_value(cell, decimal)
            or cell.strip().lower() in NO_VALUE
            or NEARLY.match(cell)
        ):
            continue
        if not any(len(other.cells) == width and other.cells[place] == cell for other in below):
            return False
    return True


def _are_words(behind: Sequence[Row], decimal: str) -> bool:
    """True where the next row is one of words: then this one, with numbers as names, belongs to the header too."""
    cells = [cell for row in behind for cell in row.cells if cell.strip().lower() not in NO_VALUE]
    return bool(cells) and not any(is_value(cell, decimal) for cell in cells) and form_of(cells) is None


def _units(
    names: Sequence[str], said: Sequence[str], width: int, body: Sequence[Sequence[str]], decimal: str
) -> dict[str, Unit]:
    """Units by a row of units, by the name, or after the numbers."""
    said = [*said] if len(said) == width else ["", *said] if len(said) == width - 1 else []
    found: dict[str, Unit] = {}
    for place, name in enumerate(names):
        unit = unit_said(said[place].strip().strip("[]()")) if place < len(said) else None
        unit = unit or unit_among(name, names)
        if unit is None:
            cell = next((row[place] for row in body if row[place].strip()), "")
            behind = with_unit(cell, decimal)
            is_word = behind is not None and are_hours([row[place] for row in body]) is False
            unit = behind[1] if behind and not is_word else None
        if unit is not None:
            found[name] = unit
    return found


def is_counter(name: str, cells: Sequence[float]) -> bool:
    """True for a column that only numbers its rows."""
    if name.lower().rstrip(".") not in COUNTERS or len(cells) < 2:
        return False
    first = cells[0]
    return first in (0, 1) and all(value == first + place for place, value in enumerate(cells))
