"""``lesart read``: the readings of a channel as CSV or JSON, of one capture or of many."""

from __future__ import annotations

import argparse
import json
import sys
from collections.abc import Iterator
from dataclasses import replace
from functools import partial
from os.path import exists
from pathlib import Path

import numpy as np

from lesart import FORMAT_VERSION
from lesart.cli.many import Failed, Job, jobs_of, refuse_source_alone, worked
from lesart.cli.printed.answer import needs_escapes
from lesart.cli.printed.rows import Column, print_csv, print_objects
from lesart.cli.project import channel_named
from lesart.core.block import Block, mark_word
from lesart.core.dataclass_later import dataclass
from lesart.core.errors import LesartError, RequestError, StorageError
from lesart.core.quantity import counted, grouped, plain_number
from lesart.core.ranked import distinct
from lesart.core.step import COMPUTED, Step
from lesart.core.through import pieces_through
from lesart.project.folder.store import FILE
from lesart.project.model import Channel, Project
from lesart.study.bench import Bench
from lesart.study.whole_bench import bench_at


@dataclass(frozen=True)
class _Wanted:
    """What to read from each capture."""

    channel: str
    variant: str | None
    step: Step
    start_s: float
    end_s: float
    json: bool
    source: str | None


def run(options: argparse.Namespace) -> int:
    """Print time, value and mark of each sample, with an empty value for none. Several captures go into a file each."""
    refuse_source_alone(options)
    start = -np.inf if options.start is None else options.start
    end = np.inf if options.end is None else options.end
    if start > end:
        raise RequestError(f"--from {plain_number(start)} is after --to {plain_number(end)}; it must be before.")
    wanted = _Wanted(options.channel, options.variant, Step(options.step), start, end, options.json, options.source)
    jobs = jobs_of(options.project, options.over)
    if options.into is not None:
        return _into(options.into, jobs, wanted)
    if len(jobs) > 1:
        raise RequestError(f"the rows of {len(jobs)} captures would be mixed up; give --into FOLDER.")
    _print(jobs[0], wanted)
    return 0


def _print(job: Job, wanted: _Wanted) -> int:
    """Print the rows of a capture; gives their number."""
    folder, project = job.opened(wanted.source, wanted.channel)
    channel = channel_named(project, wanted.channel, wanted.variant)
    unit = channel.unit_raw if wanted.step is Step.RAW else channel.unit
    parts = _parts(project, channel, bench_at(folder), wanted)
    if wanted.json:
        head = {"lesart": FORMAT_VERSION, "channel": channel.name, "step": wanted.step, "unit": unit.symbol}
        print(json.dumps(head, ensure_ascii=needs_escapes(), indent=2)[:-2] + ',\n  "readings": [')
    else:
        name = f"{wanted.step}_{unit.symbol}".replace('"', "'")
        sys.stdout.write(f't_s,"{name}",mark\n')
    rows = 0
    for part in parts:
        if wanted.json and rows and len(part):
            sys.stdout.write(",\n")
        _print_block(part, as_json=wanted.json)
        rows += len(part)
    if wanted.json:
        print("\n  ]\n}" if rows else "  ]\n}")
    return rows


def _parts(project: Project, channel: Channel, bench: Bench, wanted: _Wanted) -> Iterator[Block]:
    """The result after a step, piece by piece, so that for long ones nothing but the capture is held."""
    channel = bench.as_computed(project, channel)
    if channel.chain.reads:
        blocks = iter((bench.run(project, channel).blocks[wanted.step],))
    else:
        steps = COMPUTED[: COMPUTED.index(wanted.step) + 1]
        links = tuple(link for link in channel.chain.links if link.step in steps)
        raw = bench.raw(project, channel)
        # What comes later changes nothing that came before; the first sample after the end ends a window.
        until = raw[: int(np.searchsorted(raw.t, wanted.end_s, side="right")) + 1]
        blocks = (after for _, after in pieces_through(replace(channel.chain, links=links), until))
    for block in blocks:
        first, last = np.searchsorted(block.t, wanted.start_s), np.searchsorted(block.t, wanted.end_s, side="right")
        yield block[int(first) : int(last)]


def _print_block(block: Block, *, as_json: bool) -> None:
    words = {mark: mark_word(mark) for mark in distinct(block.mark).tolist()}
    marks = [words[mark] for mark in block.mark.tolist()]
    columns: dict[str, Column] = {"t": block.t, "value": block.x, "mark": marks}
    if as_json:
        print_objects(columns, between=",\n", end="")
    else:
        print_csv(columns)


def _into(folder: Path, jobs: list[Job], wanted: _Wanted) -> int:
    """Write each capture's rows into a file named after it; a line for each, and one for all."""
    files = list(_files(folder, jobs, ".json" if wanted.json else ".csv"))
    try:
        folder.mkdir(parents=True, exist_ok=True)
    except OSError as error:
        raise StorageError(f"{folder}: it cannot be made ({error.strerror}).") from error
    places = {job.name: path for job, path in zip(jobs, files, strict=True)}
    rows = failed = 0
    for job, found in worked(partial(_write, places=places, wanted=wanted), jobs):
        if isinstance(found, Failed):
            failed += 1
            print(f"{job.name}: {found.sentence}")
            continue
        rows += found
        print(f"{job.name}: {grouped(str(found))} rows in {places[job.name]}")
    left = f"; {failed} could not be read" if failed else ""
    print(f"{len(jobs) - failed} of {counted(len(jobs), 'capture')} read, {grouped(str(rows))} rows{left}.")
    return 2 if failed else 0


def _files(folder: Path, jobs: list[Job], ending: str) -> Iterator[Path]:
    """An output file for each, new and distinct. Raises RequestError."""
    given: dict[Path, Job] = {}
    for job in jobs:
        stem = job.capture.stem if job.capture is not None else _named(job.project)
        path = folder / f"{stem}{ending}"
        if path in given:
            raise RequestError(f"{path}: both {given[path].name} and {job.name} would be written there.")
        if exists(path):
            raise RequestError(f"{path}: it already exists; name another folder with --into.")
        given[path] = job
        yield path


def _named(project: Path) -> str:
    return (project.resolve().parent if project.name == FILE else project.resolve()).name


def _write(job: Job, places: dict[str, Path], wanted: _Wanted) -> int:
    path = places[job.name]
    out = sys.stdout
    try:
        with path.open("x", encoding="utf-8") as sys.stdout:
            return _print(job, wanted)
    except OSError as error:
        path.unlink(missing_ok=True)
        raise StorageError(f"{path}: it cannot be written ({error.strerror}).") from error
    except LesartError:
        path.unlink(missing_ok=True)
        raise
    finally:
        sys.stdout = out
