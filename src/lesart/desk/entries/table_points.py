"""Points of a table taken from two columns of a file, or from another channel at the same times."""

from __future__ import annotations

import csv
from os.path import isfile
from pathlib import Path

import numpy as np

from lesart.core.errors import CaptureError, RequestError
from lesart.core.latest import latest
from lesart.core.quantity import counted, plain_number
from lesart.core.ranked import distinct, median
from lesart.core.step import Step
from lesart.core.units import convert
from lesart.desk.entries.chain import end_of_laws
from lesart.project.captures.text import decoded
from lesart.project.folder.files import read_whole
from lesart.project.model import Channel, Project
from lesart.study.bench import Bench

MOST_BYTES = 100_000
KNOTS = 9
"""Points of a curve through two channels: enough for its bend, few enough to read."""
LEAST_SAMPLES = 5
"""Fewest samples per point."""
HOW = 'write "table < captures/points.csv" or "table < channel NAME"'


def points_from(what: str, kind: str, project: Project, channel: Channel, bench: Bench, folder: Path) -> dict[str, str]:
    """Values of a table law: ``points`` and the units ``from`` and ``to``. Raises RequestError or CaptureError."""
    if kind.split(" ")[0] != "table":
        raise RequestError(f'Only a table takes its points from elsewhere; "{kind}" does not: {HOW}.')
    unit_in = end_of_laws(channel)
    unit_out = kind.partition(" ")[2].strip()
    word, _, name = what.partition(" ")
    if word == "channel":
        other = project.channels.get(name.strip())
        if other is None or other is channel:
            known = ", ".join(each for each in project.channels if each != channel.name)
            raise RequestError(f'"{name.strip()}" is not another channel; there are {known}.')
        points = _beside(project, channel, other, bench)
        return {"points": points, "from": unit_in.symbol, "to": other.unit.symbol}
    pairs = pairs_of_file(folder, what, HOW)
    if len(pairs) < 2:
        raise RequestError(f"{what} has {counted(len(pairs), 'pair')} of numbers; a table needs at least two.")
    points = "; ".join(f"{x} {y}" for x, y in pairs)
    return {"points": points, "from": unit_in.symbol, "to": unit_out or channel.unit.symbol}


def pairs_of_file(folder: Path, name: str, how: str) -> list[tuple[str, str]]:
    """Two columns of numbers; a first row without numbers is its heading. ``how`` says how a file is named.

    Raises RequestError with the line that is wrong.
    """
    path = folder / name
    if not name or not isfile(path):
        raise RequestError(f'"{name}" is not in the project\'s folder; {how}.')
    if path.stat().st_size > MOST_BYTES:
        raise RequestError(f"{name} has {path.stat().st_size} bytes; a table of points has {MOST_BYTES} at most.")
    try:
        text = decoded(read_whole(path))
    except CaptureError as error:
        raise RequestError(str(error)) from error
    delimiter = next((each for each in ("\t", ";", ",") if each in text), " ")
    pairs = []
    for line, row in enumerate(csv.reader(text.splitlines(), delimiter=delimiter), 1):
        cells = [cell.strip() for cell in row if cell.strip()]
        if not cells or cells[0].startswith("#"):
            continue
        numbers = [_number(cell, decimal_comma=delimiter != ",") for cell in cells[:2]]
        if len(numbers) == 2 and None not in numbers:
            pairs.append((cells[0].replace(",", "."), cells[1].replace(",", ".")))
        elif pairs or line > 1:
            shown = delimiter.join(cells)[:30]
            raise RequestError(f'{name}, line {line}: "{shown}" is not a pair of numbers, like 512{delimiter} 20.5.')
    return pairs


def _number(cell: str, *, decimal_comma: bool) -> float | None:
    try:
        return float(cell.replace(",", ".") if decimal_comma else cell)
    except ValueError:
        return None


def _beside(project: Project, channel: Channel, other: Channel, bench: Bench) -> str:
    """Medians of both channels where this one has a ninth of its samples each, the other one being what is true.

    ``x`` is what the laws of this channel end in. Raises RequestError where the other does not rise or fall with it.
    """
    mine = bench.run(project, channel).blocks[Step.LAW]
    true, mark = latest(bench.run(project, other).calm, mine.t)
    good = mine.usable & np.isfinite(true) & (mark == 0)
    x, y = convert(mine.x[good], channel.unit, end_of_laws(channel)), true[good]
    if len(x) < KNOTS * LEAST_SAMPLES:
        raise RequestError(
            f"{channel.name} and {other.name} have {counted(len(x), 'good sample')} together; that is too few."
        )
    edges = distinct(np.quantile(x, np.linspace(0, 1, KNOTS + 1)))
    place = np.clip(np.searchsorted(edges, x, side="right") - 1, 0, len(edges) - 2)
    groups = [place == each for each in range(len(edges) - 1)]
    points = [(median(x[each]), median(y[each])) for each in groups if each.sum() >= LEAST_SAMPLES]
    steps = np.diff([value for _, value in points])
    if len(points) < 2 or not ((steps > 0).all() or (steps < 0).all()):
        raise RequestError(
            f"{other.name} neither rises nor falls all the way with {channel.name}, so it is not a table."
        )
    return "; ".join(f"{plain_number(a, 7)} {plain_number(b, 7)}".replace("−", "-") for a, b in points)
