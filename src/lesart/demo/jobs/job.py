"""A worked job: its project file, its captures, and commands that show the result."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass, field
from itertools import groupby
from operator import itemgetter

from lesart.core.block import Floats
from lesart.project.folder.store import FILE

Column = Sequence[float] | Floats

CAPTURE = "bench.csv"


@dataclass(frozen=True)
class Job:
    """``toml`` is its project file without its first lines; ``columns`` are those of ``bench.csv``, ``files`` others.

    ``title`` is a line, ``tells`` a few sentences on what it teaches. ``tries`` are commands of `lesart`, as typed in
    its folder.
    """

    name: str
    toml: str
    columns: Mapping[str, Column] = field(default_factory=dict)
    files: Mapping[str, str] = field(default_factory=dict)
    title: str = ""
    tells: str = ""
    tries: tuple[str, ...] = ()

    @property
    def folder(self) -> str:
        """The name of its folder."""
        return self.name.replace(" ", "-")

    @property
    def text(self) -> str:
        """The project file, a blank line before each table."""
        head = f'lesart = 1\nname = "{self.name}"\nabout = "{self.title[0].upper()}{self.title[1:]}."\n'
        spaced: list[str] = []
        for line in filter(None, self.toml.splitlines()):
            if line.startswith("["):
                spaced.append("")
            spaced.append(line)
        return head + "\n".join(spaced) + "\n"


def job_files(job: Job) -> dict[str, str]:
    """All its files by name; the project file comes last, as it reads the others."""
    captures = {CAPTURE: csv_of(job.columns)} if job.columns else {}
    return {**captures, **job.files, FILE: job.text}


def csv_of(columns: Mapping[str, Column]) -> str:
    """CSV with a header; every number in full."""
    rows = zip(*columns.values(), strict=True)
    return ",".join(columns) + "\n" + "".join(",".join(repr(float(x)) for x in row) + "\n" for row in rows)


def vcd(lines: Mapping[str, Sequence[tuple[float, int]]], end_s: float) -> str:
    """A VCD of lines by their changes, (seconds, level), in steps of a tenth of a microsecond."""
    ids = {name: chr(33 + place) for place, name in enumerate(lines)}
    head = ["$timescale 100 ns $end"] + [f"$var wire 1 {ids[name]} {name} $end" for name in lines]
    changes = sorted((round(t * 1e7), level, ids[name]) for name, each in lines.items() for t, level in each)
    body = []
    for at, together in groupby(changes, key=itemgetter(0)):
        body += [f"#{at}", *(f"{level}{code}" for _, level, code in together)]
    return "\n".join([*head, "$enddefinitions $end", *body, f"#{round(end_s * 1e7)}", ""])


def pulses(times_s: Sequence[float], width_s: float) -> list[tuple[float, int]]:
    """A line that is low, and high for a while at each time."""
    found: list[tuple[float, int]] = [(0.0, 0)]
    for t in times_s:
        found += [(t, 1), (t + width_s, 0)]
    return found
