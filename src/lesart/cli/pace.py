"""``lesart pace``: the loop played, and every verdict on it."""

from __future__ import annotations

import argparse
from typing import Any

from lesart.cli.printed.answer import exit_code, number, print_json, quantity_of
from lesart.cli.project import opened
from lesart.core.pace.jitter import punctual
from lesart.core.pace.play import MOST_RUNS, Played
from lesart.core.pace.rules import rule_of
from lesart.core.pace.task import NS, Task
from lesart.core.pace.verdict import Verdict
from lesart.study.loop_verdicts import paced
from lesart.study.timing import said_of
from lesart.study.whole_bench import bench_at

SHORTEST_S, LONGEST_S = 1e-3, 3600.0


def run(options: argparse.Namespace) -> int:
    """Print verdicts, unmet ones first; 1 when one of them is a fault."""
    folder, project = opened(options.project)
    found = paced(
        project,
        bench_at(folder),
        quantity_of(options.lasts, "--for", "s", lowest=SHORTEST_S, highest=LONGEST_S),
        MOST_RUNS,
    )
    verdicts = sorted((*found.verdicts, *found.traced), key=lambda each: min(each.rank, 2))
    if options.json:
        print_json(
            {
                "played_s": found.played.length_ns / 1e9,
                "verdicts": [_object(each) for each in verdicts],
                "tasks": [_task(found.played, task) for task in found.loop.tasks],
            }
        )
    else:
        lines = [line for each in verdicts for line in (_line(each), *(_rule(each) if options.explain else ()))]
        print("\n".join(lines) or "Nothing is read, drawn or scanned.")
    return exit_code(found.notes)


def _object(verdict: Verdict) -> dict[str, Any]:
    note = verdict.note
    return {
        "name": verdict.name,
        "figure": number(verdict.figure),
        "unit": verdict.unit,
        "limit": verdict.limit,
        "ok": verdict.ok,
        "margin": verdict.margin,
        "mark": note.mark if note is not None else None,
        "remedy": note.remedy if note is not None else None,
    }


def _task(played: Played, task: Task) -> dict[str, Any]:
    found = punctual(played, task.name)
    return {
        "name": task.name,
        "runs": task.runs,
        "period_s": task.period_ns / NS,
        "takes_s": task.mean_ns / NS,
        "rate_hz": found.rate_hz,
        "jitter_ms": found.jitter_ms,
        "mean_wait_ms": found.mean_wait_ms,
        "worst_wait_ms": found.worst_wait_ms,
        "share": found.share,
        "left_out": found.skipped,
    }


def _line(verdict: Verdict) -> str:
    name, figure, limit, margin = said_of(verdict)
    mark = verdict.note.mark if verdict.note is not None else " "
    remedy = f"  {verdict.note.remedy}" if verdict.note is not None and verdict.note.remedy else ""
    return f"{mark} {name:<34}{figure:>12}{limit:>11}{margin:>12}{remedy}".rstrip()


def _rule(verdict: Verdict) -> list[str]:
    """How a figure is computed, and its limit."""
    rule = rule_of(verdict.name)
    if rule is None:
        return []
    return [f"    {rule.works_out}{f'; limit: {rule.limit}' if rule.limit else ''}"]
