"""Habits by chance together: a time of some form, a delimiter, a decimal sign, a head, units, quotes, a coding."""

from __future__ import annotations

import random
from collections.abc import Callable
from dataclasses import dataclass
from datetime import datetime, timedelta
from pathlib import Path

import numpy as np
import pytest

from lesart.core.errors import LesartError
from lesart.project.check import check_project
from lesart.project.new.make import make_project
from lesart.study.bench import Bench

FORMS: dict[str, Callable[[datetime, float], str]] = {
    "iso": lambda m, t: f"{m:%Y-%m-%dT%H:%M:%S}",
    "iso zone": lambda m, t: f"{m:%Y-%m-%d %H:%M:%S}+01:00",
    "points": lambda m, t: f"{m:%d.%m.%Y %H:%M:%S}",
    "points short": lambda m, t: f"{m:%d.%m.%y %H:%M:%S}",
    "slashes, half": lambda m, t: f"{m:%m/%d/%Y %I:%M:%S %p}",
    "year slashes": lambda m, t: f"{m:%Y/%m/%d %H:%M:%S}",
    "letters": lambda m, t: f"{m:%d %b %Y %H:%M:%S}",
    "epoch": lambda m, t: f"{(m - datetime(1970, 1, 1)).total_seconds():.0f}",
    "epoch ms": lambda m, t: f"{1000 * (m - datetime(1970, 1, 1)).total_seconds():.0f}",
    "clock": lambda m, t: f"{m:%H:%M:%S}",
    "seconds": lambda m, t: f"{t:.1f}",
    "two columns": lambda m, t: f"{m:%d.%m.%Y}\0{m:%H:%M:%S}",
    "days": lambda m, t: f"{(m - datetime(1899, 12, 30)) / timedelta(days=1):.8f}",
}
TIME_NAMES = ("time", "Time", "Timestamp", "date", "Datum", "Zeit", "datetime")
QUANTITIES = (("temp", "°C"), ("Pressure", "hPa"), ("mass", "kg"), ("Humidity", "%"), ("lid", "mV"), ("Level", "mm"))
UNIT_STYLES = ("{0} [{1}]", "{0} ({1})", "{0} / {1}", "{0} in {1}", "below", "none")


@dataclass(frozen=True)
class Mixed:
    """The file, and what is true of it."""

    said: str
    data: bytes
    step_s: float
    units: list[str | None]
    values: list[list[float]]


def mixed(dice: random.Random) -> Mixed:
    rows, count = dice.randrange(12, 60), dice.randrange(1, 5)
    form = dice.choice(list(FORMS))
    step = dice.choice([1.0, 10.0, 60.0, 600.0])
    start = datetime(2031, dice.randrange(1, 13), dice.randrange(13, 28), dice.randrange(24), dice.randrange(60))
    comma = dice.random() < 0.4
    sign = dice.choice([";", "\t", "|"] if comma else [",", ";", "\t", "|"])
    style = dice.choice(UNIT_STYLES)
    chosen = dice.sample(QUANTITIES, count)
    values = []
    for _ in chosen:
        low, size = dice.choice([0, 20, 900, 45_000]), dice.choice([0.01, 0.3, 5.0])
        values.append([round(low + size * dice.gauss(0, 1) + size * k / 7, 2) for k in range(rows)])
    quote_all, quote_names = dice.random() < 0.2, dice.random() < 0.2

    def cell(text: str, *, is_name: bool = False) -> str:
        return f'"{text}"' if quote_all or (quote_names and is_name) or sign in text else text

    time_name = dice.choice(TIME_NAMES)
    times = [time_name] if form != "two columns" else ["Date", "Time"]
    names = [style.format(*each) if "{" in style else each[0] for each in chosen]
    lines = []
    for _ in range(dice.choice([0, 0, 0, 1, 3])):
        lines.append(dice.choice(["# logger of the yard", "# version: 3", "// made by hand", "# rate, 5, a"]))
    lines.append(sign.join(cell(name, is_name=True) for name in [*times, *names]))
    if style == "below":
        blank = "s" if form == "seconds" else ""
        lines.append(sign.join(cell(text) for text in [*([blank] * len(times)), *(unit for _, unit in chosen)]))
    for k in range(rows):
        moment = start + timedelta(seconds=step * k)
        numbers = [f"{column[k]:.2f}" for column in values]
        told = FORMS[form](moment, step * k).split("\0")
        if comma:
            numbers = [number.replace(".", ",") for number in numbers]
            told = [each.replace(".", ",") if form in ("seconds", "days") else each for each in told]
        lines.append(sign.join(cell(text) for text in [*told, *numbers]))
    coding = dice.choice(["utf-8", "utf-8", "utf-8-sig", "cp1252", "utf-16"])
    end = dice.choice(["\n", "\n", "\r\n"])
    units = [unit if style != "none" else None for _, unit in chosen]
    said = f"{form}, {sign!r}, comma {comma}, {style}, quotes {quote_all} {quote_names}, {coding}, {lines[:5]}"
    return Mixed(said, (end.join(lines) + end).encode(coding), step, units, values)


def wrong(made_of: Mixed, folder: Path) -> str:
    """What of it is read wrongly without a word; empty where nothing is."""
    folder.mkdir()
    path = folder / "log.csv"
    path.write_bytes(made_of.data)
    try:
        made = make_project(path, folder / "made")
        project = check_project((made.folder / "lesart.toml").read_text(encoding="utf-8"))
        capture = Bench(made.folder, keeps=False).capture(project.sources["capture"])
    except LesartError as error:
        return f"refused: {error}"
    if made.assumes_rate:
        return f"the time is not found: {made.said}"
    t = capture.t - capture.t[0]
    if not np.allclose(t, made_of.step_s * np.arange(len(t)), atol=0.01 * made_of.step_s):
        return f"times {t[:4]} of {made.time}"
    columns = [capture.columns[channel.column] for channel in project.channels.values()]
    if len(columns) != len(made_of.values):
        return f"{len(columns)} columns: {list(project.channels)}"
    for block, values, unit, channel in zip(
        columns, made_of.values, made_of.units, project.channels.values(), strict=True
    ):
        if not np.allclose(block.x, values, atol=1e-9):
            return f"{channel.name}: {block.x[:3]} instead of {values[:3]}"
        if str(channel.unit_raw) not in (unit or "1", "ct"):
            return f"{channel.name} in {channel.unit_raw} instead of {unit}"
    return ""


FURTHER = [pytest.param(seed, marks=pytest.mark.long) for seed in range(1, 10)]


@pytest.mark.parametrize("seed", [0, *FURTHER])
def test_habits_mixed_by_chance_are_read_rightly(seed: int, tmp_path: Path) -> None:
    """Thirty files a seed: times, columns, values and units as they were meant."""
    dice = random.Random(seed)
    found = []
    for place in range(30):
        made_of = mixed(dice)
        why = wrong(made_of, tmp_path / str(place))
        if why:
            found.append((why, made_of.said))
    assert not found
