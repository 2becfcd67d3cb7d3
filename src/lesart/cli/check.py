"""``lesart check``: every note, of one project or of many."""

from __future__ import annotations

import argparse
from collections.abc import Sequence
from datetime import date
from functools import partial

from lesart.cli.many import Failed, Job, jobs_of, refuse_source_alone, worked
from lesart.cli.printed.answer import exit_code, note_lines, note_object, print_json
from lesart.cli.printed.reports import sarif, test_cases
from lesart.core.notes import DOUBT, FAULT, REMARK, Note
from lesart.study.inspect import inspect_project
from lesart.study.whole_bench import bench_at


def run(options: argparse.Namespace) -> int:
    """Print notes; 1 when one is a fault, 2 when a project of several is broken."""
    refuse_source_alone(options)
    if options.form in ("sarif", "xml"):
        return _reported(options)
    as_json = options.json or options.form == "json"
    jobs = jobs_of(options.project, options.over)
    work = partial(_notes, source=options.source)
    if len(jobs) > 1:
        return _many(jobs, work, as_json=as_json)
    notes = work(jobs[0])
    if as_json:
        print_json({"notes": _objects(notes)})
    else:
        print("\n".join(note_lines(notes)) or "Nothing to say.")
    return exit_code(notes)


def _reported(options: argparse.Namespace) -> int:
    """A report for a build server. A project that cannot be read has no notes, so it is refused as a whole."""
    notes: dict[str, list[Note]] = {}
    channels: dict[str, tuple[str, ...]] = {}
    for job in jobs_of(options.project, options.over):
        folder, project = job.opened(options.source)
        found = inspect_project(project, bench_at(folder), date.today())
        notes[job.name] = [each for note in found for each in note.of or (note,)]
        channels[job.name] = tuple(project.channels)
    print(sarif(notes) if options.form == "sarif" else test_cases(notes, channels))
    return max(exit_code(found) for found in notes.values())


def _notes(job: Job, source: str | None) -> tuple[Note, ...]:
    folder, project = job.opened(source)
    return inspect_project(project, bench_at(folder), date.today())


def _objects(notes: Sequence[Note]) -> list[dict[str, object]]:
    # Notes summed up for a person are listed one by one for a program.
    return [note_object(each) for note in notes for each in note.of or (note,)]


def _many(jobs: Sequence[Job], work: partial[tuple[Note, ...]], *, as_json: bool) -> int:
    codes: list[int] = []
    every: list[Note] = []
    objects: list[dict[str, object]] = []
    for job, found in worked(work, jobs):
        if isinstance(found, Failed):
            codes.append(2)
            objects.append({"project": job.name, "problem": found.sentence, "notes": []})
            if not as_json:
                print(f"{job.name}\n  {found.sentence}\n")
            continue
        codes.append(exit_code(found))
        every += found
        objects.append({"project": job.name, "problem": None, "notes": _objects(found)})
        if not as_json:
            print(job.name, *(f"  {line}" for line in note_lines(found) or ["Nothing to say."]), "", sep="\n")
    if as_json:
        print_json({"projects": objects})
        return max(codes)
    counts = ", ".join(f"{sum(note.mark == mark for note in every)} {mark}" for mark in (FAULT, DOUBT, REMARK))
    broken = f"; {codes.count(2)} could not be checked" if 2 in codes else ""
    print(f"{len(jobs)} checked: {counts}; {codes.count(1)} with a fault{broken}.")
    return max(codes)
