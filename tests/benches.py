"""A project of a few lines with a capture of a few numbers, and what is said of it."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from pathlib import Path

from lesart.core.notes import Note
from lesart.demo.jobs.job import csv_of
from lesart.project.check import check_project
from lesart.project.folder.store import FILE
from lesart.project.model import Project
from lesart.study.bench import Bench
from lesart.study.inspect import inspect_project


def bench_of(folder: Path, toml: str, columns: Mapping[str, Sequence[float]] | None = None) -> tuple[Project, Bench]:
    """The project of ``toml``, in a folder with ``bench.csv`` of the columns."""
    text = toml if toml.startswith("lesart") else f'lesart = 1\nname = "bench"\n{toml}'
    (folder / FILE).write_text(text)
    if columns is not None:
        (folder / "bench.csv").write_text(csv_of(columns))
    return check_project(text), Bench(folder)


def notes_of(folder: Path, toml: str, columns: Mapping[str, Sequence[float]] | None = None) -> tuple[Note, ...]:
    """All that is said of it."""
    return inspect_project(*bench_of(folder, toml, columns))
