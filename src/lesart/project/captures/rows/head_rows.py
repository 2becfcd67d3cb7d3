"""The rows above a table: names of its columns, their units, and groups."""

from __future__ import annotations

import re
from collections.abc import Sequence

from lesart.core.raw.cells import is_in_hours, is_number
from lesart.core.raw.spelled.unit_said import unit_said
from lesart.project.captures.rows.row import Row, is_value

LONGEST_NAME = 60
ROW = "row"
"""Name of a nameless column that numbers the rows."""
NO_UNITS = frozenset({"-", "--", "none", "n/a", "1", "iso", "utc", "str", "bool"})
STATISTICS = frozenset(
    {
        *("avg", "mean", "average", "min", "minimum", "max", "maximum", "smp", "sample", "inst", "last", "now"),
        *("tot", "total", "sum", "std", "stdev", "median", "med", "count", "raw", "val", "value"),
    }
)
"""Words of a row below the names: the statistic of each column."""
KEYS = 2
"""Key columns at the left, which may have anything in a row of units: ``TS, RN, degC, %``."""
FEWEST_GROUPS = 2
"""Fewest groups for a row of them to tell columns apart."""
NAMES_TOO = frozenset({"adc", "raw"})
"""Words for counts that are also names of columns."""
WRITTEN = re.compile(r"(?=.{0,8}(?:yy|jj|dd|tt|hh))[yjmdths./:\-_ ]+(?:am/pm)?", re.IGNORECASE)
"""The form of a time, where other columns have a unit: ``dd.mm.yyyy hh:mm``."""


def names_row(above: Sequence[Row], width: int, decimal: str, *, is_labelled: bool) -> tuple[Row | None, Row | None]:
    """The row of names and that of units, searched upwards from the first row of numbers.

    ``is_labelled``: the first column numbers or names the rows, so that it may have no name itself.
    """
    fitting = [row for row in above if not row.says_units and _may_name(row, width, decimal, is_labelled=is_labelled)]
    if not fitting:
        return None, None
    plain = [row for row in fitting if not row.is_comment]
    if len(plain) > 1 and _says(plain[-1].cells, STATISTICS) and any(_is_full(row) for row in plain[-3:-1]):
        plain, fitting = plain[:-1], [row for row in fitting if row is not plain[-1]]
    near = plain[-2:] if plain else fitting[-2:]
    last = near[-1]
    if _are_units(last.cells) or (len(near) > 1 and _is_full(near[0]) and _are_units(last.cells[KEYS:])):
        # Units stand below the names, seldom above.
        told = [row for row in above if not row.says_units]
        above_it = [row for row in told if row.number < last.number and len(row.cells) == len(last.cells)]
        names = next((row for row in reversed(fitting) if row.number < last.number), None)
        # Channels may have numbers as names, where a row of units shows it.
        names = above_it[-1] if above_it and (names is None or above_it[-1].number > names.number) else names
        return (last, _units_said(above, width)) if names is None else (names, last)
    before = near[0] if len(near) > 1 else None
    return last, before if before is not None and _are_units(before.cells) else _units_said(above, width)


def _units_said(above: Sequence[Row], width: int) -> Row | None:
    """A comment with the unit of each column: ``# units: s, V, mA``."""
    said = (row for row in above if row.is_comment and len(row.cells) == width and _are_units(row.cells))
    return next(said, None)


def _says(cells: Sequence[str], words: frozenset[str]) -> bool:
    """True where every filled cell is one of them."""
    filled = [cell.strip().lower() for cell in cells if cell.strip()]
    return bool(filled) and all(cell in words for cell in filled)


def _is_full(row: Row) -> bool:
    """True where every column has a name of its own there."""
    filled = [cell.strip().lower() for cell in row.cells if cell.strip()]
    return len(set(filled)) == len(row.cells) and not _says(filled, STATISTICS)


def _may_name(row: Row, width: int, decimal: str, *, is_labelled: bool) -> bool:
    """True for a possible row of names: as many cells as columns, one less where rows are numbered, or more; hardly any
    a number."""
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
    # A column may be named 24h, such as a daily mean.
    return sum(is_number(cell, decimal) and not is_in_hours(cell) for cell in filled) <= len(filled) / 4


def _are_units(cells: Sequence[str]) -> bool:
    """True where every filled cell is a unit or a dash, and at least one is clearly a unit."""
    filled = [cell.strip().strip("[]()") for cell in cells if cell.strip()]
    filled = filled[1:] if len(filled) > 2 and "unit" in filled[0].lower() else filled
    known = [unit_said(cell) is not None and cell.lower() not in NAMES_TOO for cell in filled]
    others = [cell for cell, is_unit in zip(filled, known, strict=True) if not is_unit]
    are_none = all(cell.lower() in NO_UNITS or WRITTEN.fullmatch(cell) for cell in others)
    return are_none and any(known) and sum(known) >= len(filled) / 2


def groups_row(above: Sequence[Row], below: Row, decimal: str) -> Row | None:
    """The row above duplicate names, with the groups that tell them apart."""
    before = [row for row in above if row.number < below.number and not row.is_comment]
    names = [cell for cell in below.cells if cell.strip()]
    if not before or len(set(names)) == len(names) or len(before[-1].cells) != len(below.cells):
        return None
    told = {cell.strip() for cell in before[-1].cells if cell.strip()}
    if len(told) < FEWEST_GROUPS or any(is_value(cell, decimal) for cell in told):
        return None
    joined = grouped(below.cells, before[-1].cells)
    return before[-1] if len(set(joined)) > len(set(below.cells)) else None


def grouped(names: Sequence[str], groups: Sequence[str]) -> list[str]:
    """Names prefixed by their group, ``hut temp``; a merged cell applies to those after it.

    Unchanged without groups.
    """
    if len(groups) != len(names):
        return [*names]
    found, group = [], ""
    for name, own in zip(names, groups, strict=True):
        group = own.strip() or group
        found.append(f"{group} {name}".strip())
    return found


def column_names(header: Sequence[str], width: int, *, body: Sequence[Sequence[str]] = ()) -> tuple[str, ...]:
    """Names of a header, made distinct; else ``column 1`` and so on.

    A header that is one short has no name for the column that numbers the rows.
    """
    cells = [*header]
    if len(cells) == width - 1 and width > 1:
        cells = [ROW, *cells]
    if len(cells) < width or any(cell.strip() for cell in cells[width:]):
        return tuple(f"column {number}" for number in range(1, width + 1))
    names: list[str] = []
    for number, cell in enumerate(cells[:width], 1):
        name = clean_name(cell) or (ROW if number == 1 and counts_rows(body) else f"column {number}")
        names.append(name if name not in names else f"{name} {number}")
    return tuple(names)


def counts_rows(body: Sequence[Sequence[str]]) -> bool:
    """True where the first column numbers the rows."""
    firsts = [row[0].strip() for row in body if row]
    return (
        len(firsts) > 1
        and firsts[:1] in (["0"], ["1"])
        and firsts == [str(int(firsts[0]) + place) for place in range(len(firsts))]
    )


def clean_name(cell: str) -> str:
    """A name on one line, with printable characters only."""
    return "".join(letter if letter.isprintable() else "·" for letter in " ".join(cell.split()))[:LONGEST_NAME]
