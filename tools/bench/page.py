"""The table as a page of the docs, and what stands in the page of the last time."""

from __future__ import annotations

import math
import platform
import re
from collections.abc import Iterable
from datetime import date
from pathlib import Path

import psutil
from tools.bench.sides import Row

HEAD = """# Performance

Made by `make bench` on {machine}, Python {python}, {day}. All sides of a line are timed in turns in one run, and the
median of each is given: a machine that slows down slows them all, so ratios hold where times do not. The *floor* is
what cannot be beaten, like a loop in C that does nothing else; a *peer* is what a person would write instead. `make
bench-short` prints the ratios of a change beside these.

| what | Lesart | floor | ratio | allowed | peers | |
| --- | --- | --- | --- | --- | --- | --- |
"""


def _time(seconds: float) -> str:
    if math.isnan(seconds):
        return ""
    return (
        f"{seconds * 1e3:.1f} ms"
        if seconds < 0.1
        else f"{seconds * 1e3:.0f} ms"
        if seconds < 10
        else f"{seconds:.1f} s"
    )


def line(row: Row) -> str:
    """A row of the table."""
    floor = f"{_time(row.floor[1])} ({row.floor[0]})" if row.floor else ""
    peers = ", ".join(f"{name} {_time(took)}, {took / row.ours_s:.1f} × ours" for name, took in row.peers.items())
    ratio = f"{row.ratio:.2f}" if row.ratio is not None else ""
    cells = (row.name, _time(row.ours_s), floor, ratio, f"{row.target:g}" if row.target else "", peers, row.remark)
    return f"| {' | '.join(cells)} |"


def page(rows: Iterable[Row]) -> str:
    """The whole page."""
    memory = psutil.virtual_memory().total / 2**30
    machine = f"{psutil.cpu_count()} cores of {platform.machine()}, {memory:.0f} GiB"
    head = HEAD.format(machine=machine, python=platform.python_version(), day=date.today().isoformat())
    return head + "\n".join(line(row) for row in rows) + "\n"


def with_lines(written: str, rows: Iterable[Row]) -> str:
    """A page with the lines of some rows measured again."""
    for row in rows:
        written = re.sub(rf"^\| {re.escape(row.name)} \|.*$", lambda _, row=row: line(row), written, flags=re.MULTILINE)
    return written


def ratios_of(path: Path) -> dict[str, str]:
    """Of each line of a page that has one, by its name."""
    if not path.exists():
        return {}
    found = re.findall(r"^\| ([^|]+?) \|[^|]*\|[^|]*\| ([0-9.]+) \|", path.read_text(encoding="utf-8"), re.MULTILINE)
    return dict(found)
