"""Where the numbers of a table begin, what its columns are called, and in which units they are.

The same for lines of a text file and for rows of a spreadsheet: both are rows of cells by the time they come here.
"""

from __future__ import annotations

import re
from collections import Counter
from collections.abc import Collection, Mapping, Sequence
from dataclasses import field
from itertools import pairwise

from lesart.core.dataclass_later import dataclass
from lesart.core.raw.cells import FLAGS, NO_VALUE, are_hours, is_in_hours, is_number, with_unit
from lesart.core.raw.moments.column import TimeColumn, find_time
from lesart.core.raw.moments.decide import form_of
from lesart.core.raw.spelled.unit_said import unit_among, unit_said
from lesart.core.units import Unit
from lesart.core.visible import visible
from lesart.project.captures.whose_rows import UNIT_WORDS, units_said, whose_column

SAME = 0.6
"""Of the columns that hold numbers below: so many must in a row that is one of them, and not of the head."""
LONGEST_NAME = 60
ROW = "row"
"""What a column is called that numbers the rows and has no name."""
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
        "entry",
        "entry_id",
        "seq",
        "sequence",
        "lfd. nr",
    }
)
NO_UNITS = frozenset({"-", "--", "none", "n/a", "1", "iso", "utc", "str", "bool"})
STATISTICS = frozenset(
    {
        *("avg", "mean", "average", "min", "minimum", "max", "maximum", "smp", "sample", "inst", "last", "now"),
        *("tot", "total", "sum", "std", "stdev", "median", "med", "count", "raw", "val", "value"),
    }
)
"""What a row below the names may say of each column: what was made of its samples."""
KEYS = 2
"""Columns at the left that say when and which, and may have anything in a row of units: ``TS, RN, degC, %``."""
FEWEST_MOMENTS = 4
"""Columns called by moments from which on a table stands on its side."""
NAMES_TOO = frozenset({"adc", "raw"})
"""Words for counts that columns are called by."""
WRITTEN = re.compile(r"(?=.{0,8}(?:yy|jj|dd|tt|hh))[yjmdths./:\-_ ]+(?:am/pm)?", re.IGNORECASE)
"""How a moment is written, where others have a unit: ``dd.mm.yyyy hh:mm``."""


@dataclass(frozen=True)
class Row:
    """``number`` is its line or row, from 1. A comment's cells are what stands behind its sign."""

    number: int
    cells: list[str]
    is_comment: bool = False


@dataclass(frozen=True)
class RowsShape:
    """``header`` rows stand before the first one of numbers, counted with blank ones; ``names_line`` is that of the
    names, 0 where it is the last of them, or where there are none. ``units`` by name, where something says one."""

    header: int
    names_line: int
    names: tuple[str, ...]
    units: Mapping[str, Unit]
    time: TimeColumn
    whole: frozenset[str]
    body: tuple[tuple[str, ...], ...] = field(default=(), repr=False)
    """Rows that were looked at, cells by column."""
    whose: str = ""
    """The column that says which sensor each row is of; empty where none does."""
    units_of: Mapping[str, Unit] = field(default_factory=dict)
    """By sensor, where a column says them."""
    units_in: str = ""
    """The column that says the unit of each number before it, where that changes from row to row."""
    nearly: Mapping[str, str] = field(default_factory=dict)
    """Columns that begin like numbers and are none, each with a cell of it: ``<0.5``, ``19.8 ± 0.1``, ``4k7``."""

    @property
    def turned(self) -> str:
        """A sentence where columns are called by moments and rows by words, as in a table with a row a channel."""
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
        """A sentence on each of them."""
        return tuple(
            f'"{visible(name)}" is left out: "{visible(cell)[:20]}" is no number' for name, cell in self.nearly.items()
        )


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
    is_labelled = _counts(body) or not is_value(body[0][0], decimal)
    names_row, unit_row = _names_row(above, width, decimal, is_labelled=is_labelled)
    names = column_names(names_row.cells if names_row else [], width, body=body)
    units = _units(names, unit_row.cells if unit_row else [], width, body, decimal)
    columns = {name: [row[place] for row in body] for place, name in enumerate(names)}
    usual_names = above[-1].number if above and not above[-1].is_comment and above[-1].number == begin.number - 1 else 0
    names_line = 0 if names_row is None or names_row.number == usual_names else names_row.number
    time = find_time(columns, decimal, named=names_row is not None, units=units)
    whole = frozenset(
        name for name, cells in columns.items() if all(not cell or cell.lstrip("+-").isdigit() for cell in cells)
    )
    cells = tuple(tuple(cells) for cells in columns.values())
    whose = whose_column(columns, time)
    units_of = units_said(columns, whose) if whose else {}
    others = {name: found for name, found in columns.items() if name not in (time.column, time.clock, whose)}
    nearly = {name: cell for name, found in others.items() if (cell := _nearly_numbers(found, decimal))}
    units_in = "" if whose else units_column(columns, (time.column, time.clock), decimal)
    said = list(dict.fromkeys(unit for cell in columns.get(units_in, ()) if (unit := unit_said(cell)) is not None))
    if units_in and names[_beside(names.index(units_in))] not in units:
        units[names[_beside(names.index(units_in))]] = said[0]
    mixed = units_in if len(said) > 1 else ""
    return RowsShape(begin.number - 1, names_line, names, units, time, whole, cells, whose, units_of, mixed, nearly)


def units_column(columns: Mapping[str, Sequence[str]], keys: Collection[str], decimal: str) -> str:
    """A column that says the unit of the numbers before it, as meters write them; empty where there is none. Those of
    one column measure one thing: V and mV."""
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
    """Where the numbers stand whose units a column says."""
    return place - 1


def _nearly_numbers(cells: Sequence[str], decimal: str) -> str:
    """The first cell of a column of which hardly any is a number and most begin like one; empty for all others."""
    filled = [cell.strip() for cell in cells if cell.strip().lower() not in NO_VALUE]
    alike = [cell for cell in filled if NEARLY.match(cell) and not is_value(cell, decimal)]
    if not alike or len(alike) < len(filled) / 2 or _is_numeric(filled, decimal) or form_of(filled) is not None:
        return ""
    return alike[0] if alike else ""


def _usual(rows: Sequence[Row], decimal: str) -> tuple[int, tuple[bool, ...]]:
    """The usual width of rows with a number in them, and which columns hold numbers there, or moments."""
    numeric = [row for row in rows if any(is_value(cell, decimal) for cell in row.cells)]
    if not numeric:
        return 0, ()
    # A head may be longer than the rows that are looked at for its sake: the later ones say what is usual.
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


def is_value(cell: str, decimal: str) -> bool:
    """A number in any way of writing it, with or without a unit, true or false."""
    text = cell.strip()
    return is_number(text, decimal) or text.lower() in FLAGS or with_unit(text, decimal) is not None


def _is_of(row: Row, width: int, kinds: Sequence[bool], decimal: str) -> bool:
    """Does a row hold numbers where those below do?"""
    if len(row.cells) != width:
        return False
    wanted = [cell for cell, kind in zip(row.cells, kinds, strict=True) if kind]
    filled = [cell for cell in wanted if cell.strip().lower() not in NO_VALUE]
    good = sum(is_value(cell, decimal) for cell in filled)
    return bool(good) and good >= SAME * len(filled)


def _is_failed(row: Row, below: Sequence[Row], width: int, kinds: Sequence[bool], decimal: str) -> bool:
    """Is it a row too, whose sensor had nothing to say at first: a number where the first ones stand, and in place of
    the others what begins like one, ``<0.5``, or stands below as well?"""
    if len(row.cells) != width or not is_value(row.cells[kinds.index(True)], decimal):
        return False
    for place, cell in enumerate(row.cells):
        if not kinds[place] or is_value(cell, decimal) or cell.strip().lower() in NO_VALUE or NEARLY.match(cell):
            continue
        if not any(len(other.cells) == width and other.cells[place] == cell for other in below):
            return False
    return True


def _are_words(behind: Sequence[Row], decimal: str) -> bool:
    """Is the next row one of words? Then this one, with numbers for names, is of the head as well."""
    cells = [cell for row in behind for cell in row.cells if cell.strip().lower() not in NO_VALUE]
    return bool(cells) and not any(is_value(cell, decimal) for cell in cells) and form_of(cells) is None


def _names_row(above: Sequence[Row], width: int, decimal: str, *, is_labelled: bool) -> tuple[Row | None, Row | None]:
    """The row of names and that of units, looked for from the first row of numbers upwards. ``is_labelled``: the first
    column numbers the rows or names them, so that it may have no name itself."""
    fitting = [row for row in above if _may_name(row, width, decimal, is_labelled=is_labelled)]
    if not fitting:
        return None, None
    plain = [row for row in fitting if not row.is_comment]
    if len(plain) > 1 and _says(plain[-1].cells, STATISTICS) and any(_is_full(row) for row in plain[-3:-1]):
        plain, fitting = plain[:-1], [row for row in fitting if row is not plain[-1]]
    near = plain[-2:] if plain else fitting[-2:]
    last = near[-1]
    if _are_units(last.cells) or (len(near) > 1 and _is_full(near[0]) and _are_units(last.cells[KEYS:])):
        # Units stand below the names, seldom above.
        above_it = [row for row in above if row.number < last.number and len(row.cells) == len(last.cells)]
        names = next((row for row in reversed(fitting) if row.number < last.number), None)
        # Channels may have numbers for names, where a row of units says that they are.
        names = above_it[-1] if above_it and (names is None or above_it[-1].number > names.number) else names
        return (last, None) if names is None else (names, last)
    before = near[0] if len(near) > 1 else None
    return last, before if before is not None and _are_units(before.cells) else None


def _says(cells: Sequence[str], words: frozenset[str]) -> bool:
    """Is every filled cell one of them?"""
    filled = [cell.strip().lower() for cell in cells if cell.strip()]
    return bool(filled) and all(cell in words for cell in filled)


def _is_full(row: Row) -> bool:
    """Has every column a name of its own there?"""
    filled = [cell.strip().lower() for cell in row.cells if cell.strip()]
    return len(set(filled)) == len(row.cells) and not _says(filled, STATISTICS)


def _may_name(row: Row, width: int, decimal: str, *, is_labelled: bool) -> bool:
    """As many cells as columns, one less where rows are numbered, or more; hardly any a number."""
    cells = row.cells
    if row.is_comment and any(cell.endswith(":") for cell in cells):
        return False  # it says what the file is
    if len(cells) != width and not (len(cells) == width - 1 and is_labelled and width > 1 and not row.is_comment):
        if len(cells) < width or row.is_comment or any(cell.strip() for cell in cells[width:]):
            return False
        cells = cells[:width]
    filled = [cell for cell in cells if cell.strip()]
    sparse = width > 2 and len(filled) < width / 2 and not _are_units(cells)
    if not filled or sparse or all(set(cell) <= set("-=:_+ ") for cell in filled):
        return False
    # A column may be called 24h, as a mean over a day is.
    return sum(is_number(cell, decimal) and not is_in_hours(cell) for cell in filled) <= len(filled) / 4


def _are_units(cells: Sequence[str]) -> bool:
    """Is every filled cell a unit, or a dash, and at least one clearly one?"""
    filled = [cell.strip().strip("[]()") for cell in cells if cell.strip()]
    filled = filled[1:] if len(filled) > 2 and "unit" in filled[0].lower() else filled
    known = [unit_said(cell) is not None and cell.lower() not in NAMES_TOO for cell in filled]
    others = [cell for cell, is_unit in zip(filled, known, strict=True) if not is_unit]
    are_none = all(cell.lower() in NO_UNITS or WRITTEN.fullmatch(cell) for cell in others)
    return are_none and any(known) and sum(known) >= len(filled) / 2


def column_names(header: Sequence[str], width: int, *, body: Sequence[Sequence[str]] = ()) -> tuple[str, ...]:
    """Names of a header, made distinct; else ``column 1`` and so on. A header that is one short leaves out the name of
    the column that numbers the rows."""
    cells = [*header]
    if len(cells) == width - 1 and width > 1:
        cells = [ROW, *cells]
    if len(cells) < width or any(cell.strip() for cell in cells[width:]):
        return tuple(f"column {number}" for number in range(1, width + 1))
    names: list[str] = []
    for number, cell in enumerate(cells[:width], 1):
        name = clean_name(cell) or (ROW if number == 1 and _counts(body) else f"column {number}")
        names.append(name if name not in names else f"{name} {number}")
    return tuple(names)


def _counts(body: Sequence[Sequence[str]]) -> bool:
    """Does the first column number the rows?"""
    firsts = [row[0].strip() for row in body if row]
    return (
        len(firsts) > 1
        and firsts[:1] in (["0"], ["1"])
        and firsts == [str(int(firsts[0]) + place) for place in range(len(firsts))]
    )


def clean_name(cell: str) -> str:
    """One line of letters that can be printed."""
    return "".join(letter if letter.isprintable() else "·" for letter in " ".join(cell.split()))[:LONGEST_NAME]


def _units(
    names: Sequence[str], said: Sequence[str], width: int, body: Sequence[Sequence[str]], decimal: str
) -> dict[str, Unit]:
    """By a row of units, by the name, by what stands behind the numbers."""
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
    """Does a column only number its rows?"""
    if name.lower().rstrip(".") not in COUNTERS or len(cells) < 2:
        return False
    first = cells[0]
    return first in (0, 1) and all(value == first + place for place, value in enumerate(cells))
