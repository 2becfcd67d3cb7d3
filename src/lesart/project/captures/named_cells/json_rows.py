"""Finding the rows in a JSON document: a list of objects or of rows, lists or times by name, one series or several."""

from __future__ import annotations

from collections.abc import Iterable, Mapping, Sequence
from typing import Any

from lesart.core.raw.moments.column import find_time
from lesart.project.captures.named_cells.json_series import as_columns, named_series, series_in

KEY = "key"
"""Column for the names of objects where each is a row: often times."""
VALUE = "value"
FEWEST = 3
"""From this many times as names they are rows."""


def rows_in(found: Any, deeper: int) -> Iterable[Mapping[str, Any]]:
    """The rows: the longest list of objects, of rows, or of numbers by name; objects by name are rows too."""
    if isinstance(found, list):
        if found and all(isinstance(each, Mapping) for each in found):
            named = named_series(found)
            return series_in(named) or as_columns(named) or found
        if found and all(isinstance(each, list) for each in found):
            return _of_rows(found)
        return _longest(found, deeper)
    if not isinstance(found, Mapping):
        return []
    if (split := _split(found)) is not None:
        return split
    if (series := series_in(found, least=2)) is not None:
        return series
    if isinstance(found.get("name"), str) and (series := series_in(named_series([found]))) is not None:
        return series
    if (by_name := _by_name_and_place(found)) is not None:
        return by_name
    columns = _columns(found)
    length = max(map(len, columns.values()), default=0)
    best = _longest(found.values(), deeper)
    if length and length >= len(best):
        return [
            {name: cells[place] for name, cells in columns.items() if place < len(cells)} for place in range(length)
        ]
    values = [each for each in found.values() if isinstance(each, Mapping)]
    if len(values) > max(len(best), 1) and len(values) == len(found):
        return [{KEY: name, **each} for name, each in found.items()]
    if not best and len(found) >= FEWEST and _are_moments(found):
        return [{KEY: name, VALUE: value} for name, value in found.items()]
    return best or ([found] if any(isinstance(each, int | float) for each in found.values()) else [])


def _longest(values: Iterable[Any], deeper: int) -> list[Mapping[str, Any]]:
    """The longest rows within any of these."""
    within = (each for each in values if isinstance(each, list | Mapping) and deeper)
    return max((list(rows_in(each, deeper - 1)) for each in within), key=len, default=[])


def _are_moments(found: Mapping[str, Any]) -> bool:
    """True where the names of values are times."""
    if any(isinstance(value, list | Mapping) for value in found.values()):
        return False
    return find_time({KEY: list(found), VALUE: [str(value) for value in found.values()]}).column == KEY


def _split(found: Mapping[str, Any]) -> list[Mapping[str, Any]] | None:
    """Names in one list and rows in another, perhaps an index in a third, as table libraries and servers write them;
    None for anything else."""
    lists = {key: each for key, each in found.items() if isinstance(each, list) and each}
    tables = [each for each in lists.values() if all(isinstance(row, list) for row in each)]
    if len(tables) != 1:
        return None
    (rows,) = tables
    width = max(map(len, rows))
    told = (names for each in lists.values() if each is not rows and len(names := _texts(each)) == width)
    names = next(told, [])
    if not names:
        return None
    places = found.get("index")
    by_name = [dict(zip(names, row, strict=False)) for row in rows]
    if isinstance(places, list) and len(places) == len(rows):
        return [{KEY: place, **row} for place, row in zip(places, by_name, strict=True)]
    return list(by_name)


def _texts(names: Sequence[Any]) -> list[str]:
    """Names, or those of objects; empty where they are not names, or two are equal."""
    found = [each.get("name") if isinstance(each, Mapping) else each for each in names]
    texts = [each for each in found if isinstance(each, str)]
    return texts if len(set(texts)) == len(names) else []


def _by_name_and_place(found: Mapping[str, Any]) -> list[Mapping[str, Any]] | None:
    """Columns of values by row index, all with the same indices; None for anything else."""
    columns = list(found.values())
    if not columns or not all(isinstance(each, Mapping) and each for each in columns):
        return None
    places = list(columns[0])
    plain = all(not isinstance(value, list | Mapping) for each in columns for value in each.values())
    if not plain or len(places) <= len(columns) or any(list(each) != places for each in columns):
        return None
    return [{KEY: place, **{name: cells[place] for name, cells in found.items()}} for place in places]


def _columns(document: Mapping[str, Any]) -> dict[str, list[Any]]:
    """Lists of plain values by name, of the most common length; where no two are equally long, as in a truncated file,
    the longest and those at least half as long."""
    lists = {
        name: cells
        for name, cells in document.items()
        if isinstance(cells, list) and cells and (_are_plain(cells) or _are_axes(cells))
    }
    lengths = [len(cells) for cells in lists.values()]
    if not lengths:
        return {}
    usual = max(set(lengths), key=lambda each: (lengths.count(each), each))
    least = usual / 2 if lengths.count(usual) == 1 else usual
    found = {name: cells for name, cells in lists.items() if least <= len(cells) <= usual} if usual > 1 else {}
    # Lists of lists with no column beside them are rows.
    return found if any(_are_plain(cells) for cells in found.values()) else {}


def _are_plain(cells: Sequence[Any]) -> bool:
    return not any(isinstance(cell, list | Mapping) for cell in cells)


def _are_axes(cells: Sequence[Any]) -> bool:
    """True where each is a list of as many numbers, as from a sensor with axes."""
    if not all(isinstance(cell, list) and cell for cell in cells) or len({len(cell) for cell in cells}) != 1:
        return False
    return all(isinstance(each, int | float) for cell in cells for each in cell)


def _of_rows(found: Sequence[Sequence[Any]]) -> Iterable[Mapping[str, Any]]:
    """Rows of values; the first one may be their names."""
    named = bool(found[0]) and all(isinstance(cell, str) for cell in found[0])
    width = max(map(len, found))
    names = list(map(str, found[0])) if named else [f"column {number}" for number in range(1, width + 1)]
    return [dict(zip(names, row, strict=False)) for row in found[named:]]
