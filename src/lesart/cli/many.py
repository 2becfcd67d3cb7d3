"""Several projects, or several captures of one, processed by all cores in parallel."""

from __future__ import annotations

import argparse
import os
from collections.abc import Callable, Iterator, Sequence
from dataclasses import replace
from pathlib import Path
from typing import TypeVar

from lesart.cli.printed.answer import over
from lesart.cli.project import opened
from lesart.core.dataclass_later import dataclass
from lesart.core.errors import LesartError, RequestError
from lesart.project.model import Project

Result = TypeVar("Result")


@dataclass(frozen=True)
class Job:
    """A project, and the capture that one of its sources reads instead of its own."""

    project: Path
    capture: Path | None = None

    @property
    def name(self) -> str:
        """A name that distinguishes it from the others."""
        return str(self.project if self.capture is None else self.capture)

    def opened(self, source: str | None, channel: str = "") -> tuple[Path, Project]:
        """The folder, and the project with ``source`` reading the capture; by default the source of ``channel``, or the
        only one. Raises as ``cli.project.opened``, and RequestError."""
        folder, project = opened(self.project)
        if self.capture is None:
            return folder, project
        names = list(project.sources)
        if source is None and channel in project.channels:
            source = project.channels[channel].source
        if source is None and len(names) != 1:
            raise RequestError(f"--over: {self.project} has several sources, {', '.join(names)}; name one: --source.")
        name = source or names[0]
        if name not in project.sources:
            raise RequestError(f'--source "{name}" is not in {self.project}, which has {", ".join(names)}.')
        # An absolute path stays itself wherever the project is.
        read = replace(project.sources[name], capture=str(self.capture.resolve()))
        return folder, replace(project, sources={**project.sources, name: read})


def jobs_of(projects: Sequence[Path], captures: Sequence[Path]) -> list[Job]:
    """A job per project, or per capture of the one. Raises RequestError."""
    if captures and len(projects) > 1:
        raise RequestError("--over reads captures as one project does; name one project.")
    return [Job(projects[0], each) for each in captures] if captures else [Job(each) for each in projects]


def refuse_source_alone(options: argparse.Namespace) -> None:
    """``--source`` says which source reads what ``--over`` names. Raises RequestError without it."""
    if options.source is not None and not options.over:
        raise RequestError(f"--source {options.source}: it goes with --over; name captures, like --over day-*.csv.")


@dataclass(frozen=True)
class Failed:
    """Why a job failed, in a sentence."""

    sentence: str


def _guarded(work: Callable[[Job], Result], job: Job) -> Result | Failed:
    try:
        return work(job)
    except LesartError as error:
        return Failed(str(error))


def worked(work: Callable[[Job], Result], jobs: Sequence[Job]) -> Iterator[tuple[Job, Result | Failed]]:
    """Each job with its result, in order; progress goes to standard error.

    ``work`` is a module-level function, at most with plain values bound.
    """
    cores = len(os.sched_getaffinity(0)) if hasattr(os, "sched_getaffinity") else os.cpu_count() or 1
    if min(cores, len(jobs)) < 2:
        yield from ((job, _guarded(work, job)) for job in jobs)
        return
    # Imported here: one project, which is usual, needs no other processes.
    import multiprocessing
    from concurrent.futures import ProcessPoolExecutor

    ways = multiprocessing.get_all_start_methods()
    context = multiprocessing.get_context("fork" if "fork" in ways else None)
    with ProcessPoolExecutor(min(cores, len(jobs)), mp_context=context) as pool:
        waiting = [pool.submit(_guarded, work, job) for job in jobs]
        for number, (job, each) in enumerate(zip(jobs, waiting, strict=True)):
            over(f"{number} of {len(jobs)} done ")
            yield job, each.result()
        over(f"{len(jobs)} of {len(jobs)} done\n")
