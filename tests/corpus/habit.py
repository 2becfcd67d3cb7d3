"""A habit of writing files, what a careful person reads in one, and how what Lesart reads compares with it."""

from __future__ import annotations

from collections.abc import Callable, Mapping
from dataclasses import dataclass, field
from datetime import datetime, timedelta
from pathlib import Path

import numpy as np

from lesart.core.errors import LesartError
from lesart.project.check import check_project
from lesart.project.new.make import make_project
from lesart.study.bench import Bench

ROWS = 40
START = datetime(2031, 5, 14, 8, 0, 7)
Write = Callable[[Path], Path]
"""Writes the file into a folder and says where it is."""


@dataclass(frozen=True)
class Wanted:
    """``units`` by column in the file's order; ``ends`` the first and the last good value of some; ``rows`` in all.

    ``rate_hz`` 0 where the file says nothing of its times, which must be said.
    """

    rate_hz: float
    units: Mapping[str, str]
    ends: Mapping[str, tuple[float, float]] = field(default_factory=dict)
    rows: int = ROWS
    lasts_s: float = 0.0


@dataclass(frozen=True)
class Habit:
    """``refused`` is a part of the sentence that a file is refused with; ``said`` that something must be said."""

    name: str
    write: Write
    wanted: Wanted | None = None
    refused: str = ""
    said: str = ""


@dataclass(frozen=True)
class Outcome:
    """Is what came right; if not, why, and was anything said?"""

    right: bool
    why: str = ""
    said: tuple[str, ...] = ()


def outcome(habit: Habit, folder: Path) -> Outcome:
    """Make a project of it, and hold what it reads against what is wanted."""
    path = habit.write(folder)
    try:
        made = make_project(path, folder / "made")
        project = check_project((made.folder / "lesart.toml").read_text(encoding="utf-8"))
        capture = Bench(made.folder, keeps=False).capture(project.sources["capture"])
    except LesartError as error:
        return Outcome(bool(habit.refused) and habit.refused in str(error), str(error), (str(error),))
    said = (*made.said, *(("1 Hz is assumed",) if made.assumes_rate else ()))
    if habit.wanted is None:
        return Outcome(False, "it was not refused", said)
    why = _difference(habit.wanted, {c.column: str(c.unit_raw) for c in project.channels.values()}, capture, made)
    if not why and habit.said and not any(habit.said in sentence for sentence in said):
        return Outcome(False, f'"{habit.said}" is not said, but {said}', said)
    return Outcome(not why, why, said)


def _difference(wanted: Wanted, units: Mapping[str, str], capture, made) -> str:  # type: ignore[no-untyped-def]
    if wanted.rate_hz == 0:
        if not made.assumes_rate:
            return f"a rate of {made.rate_hz} Hz was taken, though the file says none"
    elif made.assumes_rate or abs(made.rate_hz - wanted.rate_hz) > 0.002 * wanted.rate_hz:
        return f"{made.rate_hz} Hz{' assumed' if made.assumes_rate else ''}, wanted {wanted.rate_hz}"
    if dict(units) != dict(wanted.units):
        return f"columns {dict(units)}, wanted {dict(wanted.units)}"
    if made.rows != wanted.rows:
        return f"{made.rows} rows, wanted {wanted.rows}"
    if wanted.lasts_s and abs(float(capture.t[-1] - capture.t[0]) - wanted.lasts_s) > 1e-3 * wanted.lasts_s:
        return f"it lasts {capture.t[-1] - capture.t[0]} s, wanted {wanted.lasts_s}"
    for name, (first, last) in wanted.ends.items():
        block = capture.columns[name]
        good = block.x[block.usable]
        if not len(good) or not np.allclose([good[0], good[-1]], [first, last], rtol=1e-6, atol=1e-9):
            return f"{name} is {good[:1]} … {good[-1:]}, wanted {first} … {last}"
    return ""


def moments(step_s: float, rows: int = ROWS, start: datetime = START) -> list[datetime]:
    """Moments a step apart."""
    return [start + timedelta(seconds=step_s * place) for place in range(rows)]


def text_file(name: str, *lines: str, coding: str = "utf-8", end: str = "\n") -> Write:
    """A file of those lines."""

    def write(folder: Path) -> Path:
        path = folder / name
        path.write_bytes((end.join(lines) + end).encode(coding))
        return path

    return write
