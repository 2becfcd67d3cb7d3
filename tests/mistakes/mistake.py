"""A job that is done rightly, and mistakes made in it: each an edit, and the note that must come of it."""

from __future__ import annotations

import tempfile
from collections.abc import Callable, Mapping, Sequence
from dataclasses import dataclass
from functools import cache
from pathlib import Path

from lesart.core.errors import ProjectError
from lesart.core.notes import Note
from lesart.core.step import Step
from lesart.demo.jobs.job import Job
from lesart.project.assets.named import Assets
from lesart.project.check import check_project
from lesart.project.folder.store import FILE
from lesart.study.bench import Bench
from lesart.study.inspect import inspect_project
from tests.benches import csv_of

Columns = Mapping[str, Sequence[float]]
REFUSED = "refused"
"""In place of a mark: such a project is not opened at all."""


@dataclass(frozen=True)
class Mistake:
    """``says`` what was done wrong; ``edits`` of the project file, or other ``columns`` or ``files``, are how.

    The note has ``mark`` and ``step``, speaks of ``at`` (a channel, a panel, a part, or the key it stands at), and its
    figure is ``figure``, where it has one; an empty ``at``: it is about the whole.
    """

    says: str
    step: Step | str
    mark: str
    at: str
    figure: float | None = None
    edits: tuple[tuple[str, str], ...] = ()
    columns: Callable[[Columns], Columns] | None = None
    files: Mapping[str, str] | None = None


@dataclass(frozen=True)
class Said:
    """What comes of a project: notes, or the places of the problems for which it is refused."""

    notes: tuple[Note, ...]
    refused: tuple[str, ...] = ()


def said_of(job: Job, mistake: Mistake | None = None) -> Said:
    """Of a job, with a mistake in it."""
    toml = job.toml
    for old, new in mistake.edits if mistake is not None else ():
        assert old in toml, f"{job.name} has no {old!r}"
        toml = toml.replace(old, new)
    text = f'lesart = 1\nname = "{job.name}"\n{toml}'
    columns = mistake.columns(job.columns) if mistake is not None and mistake.columns else job.columns
    files = {**job.files, **((mistake.files if mistake is not None else None) or {})}
    with tempfile.TemporaryDirectory() as made:
        folder = Path(made)
        (folder / FILE).write_text(text)
        if columns:
            (folder / "bench.csv").write_text(csv_of(columns))
        for name, content in files.items():
            (folder / name).write_text(content)
        try:
            project = check_project(text, assets=Assets(folder))
        except ProjectError as error:
            return Said((), tuple(problem.place for problem in error.problems))
        return Said(inspect_project(project, Bench(folder)))


@cache
def said_rightly(job_name: str) -> Said:
    """Of a job without a mistake, once."""
    from tests.mistakes.jobs import JOBS

    return said_of(next(job for job, _ in JOBS if job.name == job_name))


def speaks_of(note: Note) -> set[str]:
    """All that a note may be found by."""
    places = [note.place or (), note.limit_at or (), *(mend.key for mend in note.mend)]
    keys = {str(part) for place in places for part in place}
    return {str(each) for each in (note.channel, note.panel, note.part) if each} | keys | set(note.pins)


def column(name: str, change: Callable[[Sequence[float]], Sequence[float]]) -> Callable[[Columns], Columns]:
    """A capture with one of its columns otherwise."""
    return lambda columns: {**columns, name: change(columns[name])}
