"""Finding out how a file of numbers is written, without asking."""

from __future__ import annotations

import csv
import itertools
import re
from collections.abc import Mapping, Sequence
from dataclasses import field
from pathlib import Path

from lesart.core.dataclass_later import dataclass
from lesart.core.errors import CaptureError
from lesart.core.raw.cells import (
    NO_VALUE,
    is_decimal,
    is_grouped_whole,
    is_number,
    is_single_group,
    may_be_grouped,
    thousands_in,
)
from lesart.core.raw.moments.column import TimeColumn
from lesart.core.raw.moments.decide import form_of
from lesart.core.units import Unit
from lesart.project.captures.rows.rate_in_head import HeadRate, rate_in_head
from lesart.project.captures.rows.row import Row, is_value
from lesart.project.captures.rows.rows_shape import RowsShape, rows_shape
from lesart.project.captures.text import comment_signs, is_comment, lines_of, sample_text, without_sign

DELIMITERS = {",": ",", ";": ";", "tab": "\t", "|": "|", "space": " "}
"""Delimiters as the project file names them."""
SAMPLE_LINES = 400
_NAMING = re.compile(r"^(?:columns?|fields?|channels?|names?|labels?|header|units?)\s*[:=]\s*", re.IGNORECASE)
"""Words of a comment before the names of the columns."""
_UNITS = re.compile(r"units?\s*[:=]", re.IGNORECASE)
_WHOLE = re.compile(r"[-+−]?\d{1,18}$")
MOST_PLACES = 3
"""Most places after a decimal comma that may separate two columns instead."""
FEWEST = 0.3
"""Least share of cells that must be numbers."""


@dataclass(frozen=True)
class CsvShape:
    """How a file is written. ``time`` is a column's name or empty; ``units`` by column name, where it says one.

    ``doubts`` are sentences on what might be read otherwise; ``found_time`` is all that was found out of the time.
    """

    delimiter: str
    decimal: str
    thousands: str
    header: int
    names_line: int
    groups_line: int
    names: tuple[str, ...]
    found_time: TimeColumn
    units: dict[str, Unit]
    whole: frozenset[str]
    """Columns of integers only: counts, most likely."""
    doubts: tuple[str, ...] = ()
    share: float = 1.0
    """Share of cells that are numbers or times."""
    whose: str = ""
    """The column that says which sensor each row is of."""
    units_in: str = ""
    """The column that says the unit of each number before it."""
    units_of: Mapping[str, Unit] = field(default_factory=dict)
    """By sensor, where a column says them."""
    nearly: Mapping[str, str] = field(default_factory=dict)
    """Columns that begin like numbers and are not, each with one of its cells."""
    head_rate: HeadRate | None = None
    """The sample rate stated above the rows, where no column is a time."""

    @property
    def time(self) -> str:
        """The time column; empty where there is none."""
        return self.found_time.column

    @property
    def time_unit(self) -> str:
        """Unit of the time, or the form it is written in."""
        return self.found_time.unit

    @property
    def value_names(self) -> tuple[str, ...]:
        """All columns but the time."""
        return tuple(name for name in self.names if name not in (self.time, self.found_time.clock, self.whose))


def find_shape(path: Path) -> CsvShape:
    """Delimiter, decimal sign, header, names, time column and units of a file of numbers. Raises CaptureError."""
    lines = lines_of(sample_text(path))[:SAMPLE_LINES]
    best, share, delimiter, decimal = _best(lines)
    if best is None:
        said = next((line for line in lines if line.strip()), "")
        if all(not line.strip() or is_comment(line, ("#", "//", "%")) for line in lines):
            raise CaptureError(f"{path}: it holds comments and blank lines only; a capture holds rows of numbers.")
        raise CaptureError(f'{path}: no rows of numbers were found; the first line is "{_printable(said[:40])}".')
    if not any(_holds_number(cells, decimal) for cells in best.body):
        raise CaptureError(f"{path}: it holds moments and no numbers; a reading needs a column of its own.")
    if share < FEWEST:
        first = next(line for line in lines if line.strip())
        raise CaptureError(f'{path}: no rows of numbers were found; the first line is "{_printable(first[:40])}".')
    decimal, thousands, doubts = _thousands(best, decimal)
    doubts = (*doubts, best.time.doubt) if best.time.doubt else doubts
    doubts = (*doubts, *filter(None, (best.turned, _one_of_two(best, delimiter))), *best.left_out, *best.coded)
    return CsvShape(
        delimiter=delimiter,
        decimal=decimal,
        thousands=thousands,
        header=best.header,
        names_line=best.names_line,
        groups_line=best.groups_line,
        names=best.names,
        found_time=best.time,
        units=dict(best.units),
        whole=best.whole,
        doubts=doubts,
        share=share,
        whose=best.whose,
        units_in=best.units_in,
        units_of=best.units_of,
        nearly=best.nearly,
        head_rate=None if best.time.column else rate_in_head(lines[: best.header], _head_cells(lines, best, delimiter)),
    )


def _head_cells(lines: Sequence[str], best: RowsShape, delimiter: str) -> list[list[str]]:
    return [split_row(line, DELIMITERS[delimiter]) for line in lines[: best.header] if line.strip()]


@dataclass(frozen=True)
class _Way:
    """A way to split lines, and its score."""

    score: tuple[float, int, int]
    delimiter: str
    decimal: str
    rows: list[Row]


def _best(lines: Sequence[str]) -> tuple[RowsShape | None, float, str, str]:
    """The delimiter and decimal sign that make the most cells numbers."""
    ways: list[_Way] = []
    tabs = sum("\t" in line for line in lines) > len(lines) / 2
    for name, sign in DELIMITERS.items():
        if name == "space" and tabs:
            continue  # blanks beside tabs are within cells
        rows = rows_of(lines, name)
        told = [row.cells for row in rows if not row.is_comment]
        quoted = any('"' in line for line in lines)
        for decimal in ".,":
            # Quoted cells may contain the delimiter: "19,8","20,1".
            if (sign != decimal or quoted) and told:
                ways.append(_Way(_score(told, sign, decimal), name, decimal, rows))
    for way in sorted(ways, key=lambda each: each.score, reverse=True):
        shape = rows_shape(way.rows, way.decimal) if way.score[0] > 0 else None
        if shape is not None:
            return shape, way.score[0], way.delimiter, way.decimal
    return None, 0.0, ",", "."


def rows_of(lines: Sequence[str], delimiter: str) -> list[Row]:
    """Non-empty lines split into cells; comments too, since they may name the columns."""
    sign, signs = DELIMITERS[delimiter], comment_signs(delimiter)
    rows = []
    for number, line in enumerate(lines, 1):
        if not line.strip() or (number == 1 and line.strip().lower().startswith("sep=")):
            continue
        if is_comment(line, signs):
            said = without_sign(line)
            cells = comment_cells(said, delimiter)
            rows.append(Row(number, cells, is_comment=True, says_units=_UNITS.match(said) is not None))
        else:
            rows.append(Row(number, split_row(line, sign)))
    return rows


def comment_cells(said: str, delimiter: str) -> list[str]:
    """The cells of a comment, split like the rows, else by its own separators."""
    said = _NAMING.sub("", said)
    own = split_row(said, DELIMITERS[delimiter])
    if len(own) > 1:
        return own
    return max((split_row(said, sign) for sign in DELIMITERS.values()), key=len)


def split_row(line: str, sign: str) -> list[str]:
    """Cells of one line, stripped of quotes and blanks; a run of spaces is one delimiter."""
    if '"' in line:
        try:
            cells = next(csv.reader([line.strip() if sign == " " else line], delimiter=sign, skipinitialspace=True), [])
        except csv.Error:
            cells = line.split(sign)
        cells = [cell for cell in cells if cell] if sign == " " else cells
    else:
        cells = line.split() if sign == " " else line.split(sign)
    return [cell.strip() for cell in cells]


def _score(rows: list[list[str]], sign: str, decimal: str) -> tuple[float, int, int]:
    """Share of cells that are numbers in rows of the most common width, that width, and the number of such rows."""
    widths = [len(row) for row in rows]
    usual = max(set(widths), key=lambda width: (widths.count(width), width))
    same = [row for row in rows if len(row) == usual]
    cells = [cell for row in same for cell in row]
    good = sum(_weight(cell, sign, decimal) for cell in cells)
    # Columns of times are judged as a whole: a single cell may be one by chance.
    for place in range(usual):
        column = [row[place] for row in same]
        if form_of([cell for cell in column[len(column) // 3 :] if not is_number(cell, decimal)][:50]) is not None:
            good += sum(not is_number(cell, decimal) for cell in column)
    # Rows of another width count against a delimiter: a wrong one seldom gives one width throughout.
    share = min(good / max(len(cells), 1), 1.0) * len(same) / len(rows)
    # "1,5" alone in every row under a one-word header is a decimal comma, not two columns.
    if sign == "," and usual == 2 and widths[0] == 1 and len(rows) > 1 and not _has_head_of_two(rows, decimal):
        return (0.0, usual, len(same))
    return (round(share, 2), usual, len(same))


def _has_head_of_two(rows: list[list[str]], decimal: str) -> bool:
    """True where two words are above the first row of numbers. A title covers both."""
    above = itertools.takewhile(lambda row: not any(is_value(cell, decimal) for cell in row), rows)
    return any(len(row) == 2 and all(row) for row in above)


def _weight(cell: str, sign: str, decimal: str) -> float:
    if is_number(cell, decimal):
        # "1,200" is more likely a decimal comma than thousands, where cells have another delimiter.
        return 0.95 if decimal == "." and sign != "," and is_single_group(cell, ",") else 1.0
    if cell.lower() in NO_VALUE:
        return 0.5 if cell else 0.3
    return 0.9 if is_value(cell, decimal) else 0.0


def _holds_number(cells: Sequence[str], decimal: str) -> bool:
    return any(is_value(cell, decimal) for cell in cells) and form_of([*cells][:50]) is None


def _thousands(shape: RowsShape, decimal: str) -> tuple[str, str, tuple[str, ...]]:
    """The decimal sign and the thousands separator, and a doubt where a sign may be either."""
    times = (shape.time.column, shape.time.clock)
    values = {name: cells for name, cells in zip(shape.names, shape.body, strict=True) if name not in times}
    found = thousands_in(values.values(), decimal)
    if found != "none":
        return decimal, found, ()
    is_grouped = any(cell.count(decimal) > 1 for cells in values.values() for cell in cells)
    if not is_grouped and any(is_decimal(cell, decimal) for cells in shape.body for cell in cells):
        return decimal, "none", ()  # a sign has one meaning in the whole file, times included
    signed = [cells for cells in values.values() if any(decimal in cell for cell in cells)]
    if signed and all(is_grouped_whole(cells, decimal) for cells in signed):
        return ("," if decimal == "." else "."), decimal, ()
    doubts = tuple(
        f'"{name}" has three digits after each {"point" if decimal == "." else "comma"}, like "{cells[0]}"; they are '
        "read as decimals, and may be thousands"
        for name, cells in values.items()
        if is_grouped_whole(cells, decimal) or (decimal == "," and may_be_grouped(cells, decimal))
    )
    return decimal, "none", doubts


def _one_of_two(best: RowsShape, delimiter: str) -> str:
    """A doubt where two integers without names may be one number with a decimal comma: the second never has a sign, and
    always as many digits."""
    if DELIMITERS[delimiter] != "," or best.header or best.time.column or len(best.body) != 2:
        return ""
    whole, places = best.body
    if not (all(map(_WHOLE.match, whole)) and all(map(str.isdecimal, places)) and len(set(map(len, places))) == 1):
        return ""
    counts = [int(each.replace("−", "-")) for each in whole]
    if len(places[0]) > MOST_PLACES or all(a < b for a, b in itertools.pairwise(counts)):
        return ""
    one = f"{whole[0]}.{places[0]}"
    return (
        f"each row is read as two numbers, like {whole[0]} and {places[0]}; if that may be one number, {one}, say so "
        'by delimiter = ";" and decimal = ","'
    )


def _printable(text: str) -> str:
    return "".join(letter if letter.isprintable() else "·" for letter in text)
