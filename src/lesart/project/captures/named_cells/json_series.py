"""Series in a JSON document, each with times of its own: ``{"temp": [[t, 21.5], …], "hum": …}``, or a list of objects
with a name and such points. They are merged into one table by time."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from itertools import pairwise
from typing import Any

from lesart.core.raw.moments.column import EPOCHS, says_time

TIME = "time"
VALUES = ("", "value", "val", "v", "y")
"""Names of a number whose series, or object, says what it is."""
UNITS = ("unit", "units", "u")
FEWEST_POINTS = 3
FEWEST = 8
"""From this many numbers a list is a column, and not one reading of several values."""
Point = Mapping[str, Any]


def named_series(entries: Sequence[Mapping[str, Any]]) -> dict[str, Any]:
    """Points by the name of their object, with its unit, where each has one unique text, and one list; else empty."""
    lists = _keys_of(entries, lambda value: isinstance(value, list))
    names = [key for key in _keys_of(entries, lambda value: isinstance(value, str) and bool(value)) if key not in UNITS]
    name = next((key for key in names if len({entry[key] for entry in entries}) == len(entries)), None)
    if name is None or len(lists) != 1:
        return {}
    units = ([entry[key] for key in UNITS if isinstance(entry.get(key), str)] for entry in entries)
    return {" ".join((entry[name], *unit)): entry[lists[0]] for entry, unit in zip(entries, units, strict=True)}


def as_columns(series: Mapping[str, Any]) -> list[dict[str, Any]] | None:
    """Rows from lists of numbers that are equally long, and longer than their number; None for anything else."""
    lengths = {len(listed) for listed in series.values()}
    if len(series) < 2 or len(lengths) != 1 or min(lengths) < max(FEWEST, 2 * len(series)):
        return None
    if any(isinstance(each, list | Mapping) for listed in series.values() for each in listed):
        return None
    return [dict(zip(series, row, strict=True)) for row in zip(*series.values(), strict=True)]


def _keys_of(entries: Sequence[Mapping[str, Any]], is_it: Any) -> list[str]:
    """Keys whose values satisfy this in all entries."""
    return [key for key in entries[0] if all(is_it(entry.get(key)) for entry in entries)]


def series_in(found: Mapping[str, Any], least: int = 1) -> list[dict[str, Any]] | None:
    """Rows by their moment, with the values of each series that has one then; None for fewer than ``least`` series.

    ``found`` holds points by name: pairs of a moment and a value, or objects alike, one of whose values is a time. Each
    series may have values of its own; lists of anything else are passed over.
    """
    listed = {name: _points(each) for name, each in found.items()}
    series = {name: (points, time) for name, points in listed.items() if points and (time := _time_of(points))}
    if len(series) < max(least, 1):
        return None
    moment = next(time for _, time in series.values())
    rows: dict[Any, dict[str, Any]] = {}
    for name, (points, time) in series.items():
        for point in points:
            row = rows.setdefault(point[time], {moment: point[time]})
            row |= {name if key in VALUES else f"{name}.{key}": point[key] for key in point if key != time}
    if len({_is_number(each) for each in rows}) > 1:
        return None
    return [rows[each] for each in sorted(rows)]


def _time_of(points: Sequence[Point]) -> str:
    """The key of their time; empty where they are not alike, too few, or none rises."""
    keys = points[0].keys()
    if len(keys) < 2 or len(points) < FEWEST_POINTS or any(point.keys() != keys for point in points):
        return ""
    return next((key for key in keys if says_time(key) and _rises(points, key)), "")


def _points(listed: Any) -> list[Point]:
    """Points as objects; the time of pairs gets a name. Empty for anything else."""
    if not isinstance(listed, list) or not listed:
        return []
    if all(isinstance(each, Mapping) for each in listed):
        return list(listed)
    if not all(isinstance(each, list) and len(each) == 2 for each in listed):
        return []
    last_first = _is_epoch(listed[0][1]) and not _is_epoch(listed[0][0])
    names = ("", TIME) if last_first else (TIME, "")
    return [dict(zip(names, pair, strict=True)) for pair in listed]


def _is_epoch(value: Any) -> bool:
    return isinstance(value, int | float) and any(low <= value < high for low, high, _ in EPOCHS)


def _rises(points: Sequence[Point], key: str) -> bool:
    """True where a value rises, as number or text."""
    values = [point[key] for point in points]
    if not (all(isinstance(each, str) for each in values) or all(_is_number(each) for each in values)):
        return False
    return all(one <= other for one, other in pairwise(values))


def _is_number(value: Any) -> bool:
    return isinstance(value, int | float) and not isinstance(value, bool)
