"""Rows of one sensor each, with its name in a cell: they become a column per sensor, on its own times.

Programs that log many sensors write them so: time, sensor, value, and often the unit.
"""

from __future__ import annotations

import re
from collections import Counter, defaultdict
from collections.abc import Iterable, Mapping, Sequence
from dataclasses import replace
from itertools import pairwise

import numpy as np
import numpy.typing as npt

from lesart.core.block import Block, Floats
from lesart.core.errors import CaptureError
from lesart.core.raw.cells import FLAGS, NO_VALUE, is_number, plain, with_unit
from lesart.core.raw.moments.column import TimeColumn
from lesart.core.raw.spelled.unit_said import unit_said
from lesart.core.units import Unit
from lesart.core.visible import visible
from lesart.project.captures.capture import BadRow, Capture

MOST_NAMES = 200
ALWAYS = 0.9
"""Least share of rows in which the name changes, where there are only names and numbers."""
OFTEN = 0.3
"""Least share of rows for two sensors to take turns, or of times for them to report together."""
RARER = 5
"""How many times more seldom than another one a sensor with a number as name may report."""
SMALLER = 0.8
"""Greatest ratio of steps within a sensor to those between sensors, where numbers name them."""
CALLED = frozenset(
    {"sensor", "sensors", "channel", "ch", "signal", "name", "device", "id", "entity", "topic", "series", "tag"}
    | {"variable", "parameter", "metric", "probe", "node", "source", "station", "measurement", "quantity", "field"}
    | {"key", "line", "pin", "address", "addr"}
)
"""Words in the name of a column of sensor names."""
UNIT_WORDS = frozenset({"unit", "units", "uom"})


class Names:
    """A number for each distinct text, since a table of numbers holds nothing else."""

    def __init__(self) -> None:
        self.known: dict[str, int] = {}

    def codes(self, column: str, cells: Iterable[str]) -> Floats:
        """Numbers for names; NaN for an empty cell. Raises CaptureError where there are too many to be sensors."""
        told = [cell.strip() for cell in cells]
        for cell in told:
            if cell and cell not in self.known:
                self.known[cell] = len(self.known)
        if len(self.known) > MOST_NAMES:
            raise CaptureError(
                f'whose = "{visible(column)}": that column says more than {MOST_NAMES} different things; name the one '
                "that says which sensor each row is of, or none."
            )
        return np.array([self.known.get(cell, np.nan) for cell in told], np.float64)


def whose_column(columns: Mapping[str, Sequence[str]], time: TimeColumn) -> str:
    """The column with the sensor of each row, by its behaviour and its name; empty where there is none.

    Sensors take turns, or report at the same times; lines of a trace toggle each time they are named. A column that
    seldom changes and never has two values at one time is a state, not a name.
    """
    moments = _moments(columns, time)
    keys = {time.column, time.clock}
    found = [
        (share, name)
        for name, cells in columns.items()
        if name not in keys and (share := _share(name, columns, moments, len(keys & set(columns))))
    ]
    return max(found, key=lambda each: each[0])[1] if found and _has_others(columns, time, found) else ""


def _moments(columns: Mapping[str, Sequence[str]], time: TimeColumn) -> list[tuple[str, ...]]:
    parts = [columns[name] for name in (time.column, time.clock) if name and name in columns]
    return list(zip(*parts, strict=True)) if parts else []


def _share(name: str, columns: Mapping[str, Sequence[str]], moments: Sequence[tuple[str, ...]], timed: int) -> float:
    """How well a column tells sensors apart: 0 for one that does not. ``timed`` columns say when."""
    cells = columns[name]
    told = [cell.strip() for cell in cells]
    names = {cell for cell in told if cell.lower() not in NO_VALUE}
    if not 2 <= len(names) <= min(MOST_NAMES, len(told) / 2):
        return 0.0
    words = set(re.findall(r"[a-z]+", name.lower()))
    is_called = bool(words & CALLED)
    is_numbered = bool(re.search(r"\d\s*$", name))  # a second field is one of several, and names no sensor
    is_text = not any(is_number(each, ".") or with_unit(each, ".") for each in names)
    if words & UNIT_WORDS or not (is_text or (is_called and not is_numbered and all(each.isdigit() for each in names))):
        return 0.0
    turns = sum(one != other for one, other in pairwise(told)) / len(told)
    together = _together(told, moments)
    if together >= OFTEN:
        return together + 2 * is_called
    are_words = all(each[:1].isalpha() and each.lower() not in FLAGS for each in names)
    if turns >= ALWAYS and are_words and _in_turn(told, len(names)) and len(columns) == 2 + timed:
        return OFTEN
    others = [cells for other, cells in columns.items() if other != name]
    turn_over = any(_turn_over(told, cells) for cells in others)
    if not is_text and not (turn_over or _in_turn(told, len(names)) or _tells_apart(told, others)):
        return 0.0
    return max(turns, OFTEN) if is_called and (turns >= OFTEN or turn_over) else 0.0


def _tells_apart(told: Sequence[str], others: Iterable[Sequence[str]]) -> bool:
    """True where numbers tell sensors apart: each reports about as often, and its readings continue from its own
    previous ones. Noisy converter counts, in a column named signal, do neither."""
    often = Counter(told)
    if min(often.values()) * RARER < max(often.values()):
        return False
    return any(_goes_on(told, cells) for cells in others)


def _goes_on(told: Sequence[str], cells: Sequence[str]) -> bool:
    """True where steps between rows of one name are smaller than those between successive rows."""
    read = [(name, _number(cell)) for name, cell in zip(told, cells, strict=True)]
    values = [(name, value) for name, value in read if value is not None]
    if len(values) < len(told) / 2:
        return False
    before: dict[str, float] = {}
    own = []
    for name, value in values:
        if name in before:
            own.append(abs(value - before[name]))
        before[name] = value
    mixed = [abs(later - earlier) for (_, earlier), (_, later) in pairwise(values)]
    return bool(own) and sum(own) / len(own) < SMALLER * sum(mixed) / len(mixed)


def _number(cell: str) -> float | None:
    found = plain(cell.strip(), ".")
    return plain(cell.strip(), ",") if found is None else found


def _in_turn(told: Sequence[str], names: int) -> bool:
    """True where names always recur in the same order."""
    return all(one == other for one, other in zip(told, told[names:], strict=False))


def _turn_over(told: Sequence[str], levels: Sequence[str]) -> bool:
    """True where a column of 0 and 1 toggles each time a name recurs."""
    last: dict[str, str] = {}
    same = 0
    for name, level in zip(told, map(str.strip, levels), strict=True):
        if level not in ("0", "1"):
            return False
        same += last.get(name) == level
        last[name] = level
    return same <= len(told) / 20


def _together(told: Sequence[str], moments: Sequence[tuple[str, ...]]) -> float:
    """Share of times with more than one name, and none twice."""
    said: dict[tuple[str, ...], list[str]] = defaultdict(list)
    for moment, name in zip(moments, told, strict=False):
        said[moment].append(name)
    return sum(len(set(names)) == len(names) > 1 for names in said.values()) / max(len(said), 1)


def _has_others(columns: Mapping[str, Sequence[str]], time: TimeColumn, found: Sequence[tuple[float, str]]) -> bool:
    """True where there is another column of numbers."""
    others = columns.keys() - {time.column, time.clock} - {name for _, name in found}
    return any(
        sum(is_number(cell, ".") or is_number(cell, ",") for cell in columns[name]) >= len(columns[name]) / 2
        for name in others
        if columns[name]
    )


def units_said(columns: Mapping[str, Sequence[str]], whose: str) -> dict[str, Unit]:
    """The unit of each sensor, where a column has them; none for one with several."""
    column = next((name for name in columns if set(re.findall(r"[a-z]+", name.lower())) & UNIT_WORDS), "")
    if not column:
        return {}
    said: dict[str, set[str]] = defaultdict(set)
    for name, unit in zip(columns[whose], columns[column], strict=True):
        said[name.strip()].add(unit.strip())
    found = {name: unit_said(next(iter(units))) for name, units in said.items() if len(units) == 1}
    return {name: unit for name, unit in found.items() if unit is not None}


def order_of(t: Floats, codes: Floats) -> npt.NDArray[np.intp] | None:
    """Row order by time, where a file has one sensor after another; None where rows are in order, or a sensor's own
    times run backwards, which is reported and not mended."""
    if not np.isfinite(t).all() or not (np.diff(t) < 0).any():
        return None
    if any((np.diff(t[codes == code]) < 0).any() for code in np.unique(codes[np.isfinite(codes)])):
        return None
    return np.argsort(t, kind="stable")


def column_called(whose: str, name: str, column: str, *, is_only: bool) -> str:
    """The name for a sensor's values of a column: a number alone is not a name."""
    own = f"{whose} {name}" if name.isdigit() else name
    return visible(own if is_only else f"{own} {column}")


def parted(capture: Capture, whose: str, codes: Floats, names: Names, of_line: Mapping[int, str]) -> Capture:
    """A column per name with numbers; ``of_line`` gives the name of bad rows."""
    values = {name: block for name, block in capture.columns.items() if np.isfinite(block.x).any()}
    is_only = len(values) == 1
    columns: dict[str, Block] = {}
    bad_rows = ~np.isfinite(codes)
    for name, code in names.known.items():
        own = np.flatnonzero(codes == code)
        t = capture.t[own]
        for column, block in values.items():
            x = block.x[own]
            # A sensor does not have a column in which it never reports.
            if np.isfinite(x).any():
                called = column_called(whose, name, column, is_only=is_only)
                columns[called] = Block(t, x, block.mark[own])
                bad_rows[own] |= np.isnan(x)
    bad = [each for row in capture.bad if (each := _bad(row, whose, of_line, columns.keys(), is_only=is_only))]
    return replace(capture, columns=columns, bad=tuple(bad), bad_count=int(bad_rows.sum()))


def _bad(
    row: BadRow, whose: str, of_line: Mapping[int, str], columns: Iterable[str], *, is_only: bool
) -> BadRow | None:
    """A bad row under the name of its sensor's column; None where the sensor has no such column."""
    name = of_line.get(row.line, "").strip()
    if row.column is None or not name or row.column == whose:
        return replace(row, column=None)
    called = column_called(whose, name, row.column, is_only=is_only)
    return replace(row, column=called) if called in columns else None
