"""``lesart pace``: the loop played, and every verdict on it."""

from __future__ import annotations

import argparse
from typing import Any

from lesart.cli.answer import exit_code, print_json
from lesart.cli.project import opened
from lesart.core.errors import QuantityError, RequestError
from lesart.core.pace.play import Played
from lesart.core.pace.punctual import punctual
from lesart.core.pace.task import NS, Task
from lesart.core.pace.verdict import Verdict
from lesart.core.quantity import parse_quantity
from lesart.core.units import parse_unit
from lesart.desk.bench import Bench
from lesart.desk.pacing import paced
from lesart.desk.timing import said_of

LONGEST_S = 3600.0


def run(options: argparse.Namespace) -> int:
    """Print verdicts, those that are not met first; 1 when one of them is a fault."""
    folder, project = opened(options.project)
    found = paced(project, Bench(folder), _seconds(options.lasts))
    verdicts = sorted((*found.verdicts, *found.traced), key=lambda each: min(each.rank, 2))
    if options.json:
        print_json({"played_s": found.played.length_ns / 1e9, "verdicts": [_object(each) for each in verdicts],
                    "tasks": [_task(found.played, task) for task in found.loop.tasks]})  # fmt: skip
    else:
        print("\n".join(_line(each) for each in verdicts) or "Nothing is read, drawn or scanned.")
    return exit_code(found.notes)


def _seconds(text: str) -> float:
    try:
        seconds = parse_quantity(text, parse_unit("s")).to(parse_unit("s"))
    except QuantityError as error:
        raise RequestError(f"--for {text}: {error}") from error
    if not 0 < seconds <= LONGEST_S:
        raise RequestError(f"--for {text}: it must be above 0 s and {LONGEST_S:g} s at most.")
    return seconds


def _object(verdict: Verdict) -> dict[str, Any]:
    note = verdict.note
    return {
        "name": verdict.name, "figure": verdict.figure, "unit": verdict.unit, "limit": verdict.limit,
        "ok": verdict.ok, "margin": verdict.margin, "mark": note.mark if note is not None else None,
        "remedy": note.remedy if note is not None else None,
    }  # fmt: skip


def _task(played: Played, task: Task) -> dict[str, Any]:
    found = punctual(played, task.name)
    return {
        "name": task.name, "runs": task.runs, "period_s": task.period_ns / NS, "takes_s": task.mean_ns / NS,
        "rate_hz": found.rate_hz, "jitter_ms": found.jitter_ms, "mean_wait_ms": found.mean_wait_ms,
        "worst_wait_ms": found.worst_wait_ms, "share": found.share, "left_out": found.skipped,
    }  # fmt: skip


def _line(verdict: Verdict) -> str:
    name, figure, limit, margin = said_of(verdict)
    mark = verdict.note.mark if verdict.note is not None else " "
    remedy = f"  {verdict.note.remedy}" if verdict.note is not None and verdict.note.remedy else ""
    return f"{mark} {name:<34}{figure:>12}{limit:>11}{margin:>12}{remedy}".rstrip()
