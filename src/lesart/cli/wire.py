"""``lesart wire``: connections, faults, checks; a proposal; a kind of part to copy."""

from __future__ import annotations

import argparse
from collections.abc import Iterable
from pathlib import Path
from typing import Any

from lesart.cli.printed.answer import exit_code, note_lines, note_object, number, print_json
from lesart.cli.printed.exported import write_out
from lesart.cli.project import opened
from lesart.core.errors import RequestError
from lesart.core.notes import Note, ordered
from lesart.core.visible import visible
from lesart.core.wire.catalogue import KINDS
from lesart.core.wire.check import Check, judge
from lesart.core.wire.faults.inspect import find, inspect_hookup
from lesart.core.wire.faults.measured import inspect_measured
from lesart.core.wire.faults.sums import inspect_sums
from lesart.core.wire.hookup import Hookup, Join, used_roles
from lesart.core.wire.proposal.propose import propose
from lesart.project.folder.store import FILE, read_text, write_whole
from lesart.project.joins_csv import joins_csv
from lesart.project.model import Project
from lesart.project.tables.kind_text import kind_text
from lesart.project.text import Editor


def run(options: argparse.Namespace) -> int:
    """Print what was asked for; 1 when a note is a fault."""
    if options.kind is not None:
        print(kind_text(_kind_named(options.kind)), end="")
        return 0
    if options.project is None:
        raise RequestError("name the project's folder, or a kind of part with --kind.")
    folder, project = opened(options.project)
    if options.propose:
        project = _proposed(folder, project)
    if options.csv is not None:
        write_out(options, joins_csv(project.hookup), folder, options.csv)
    notes = notes_of(project)
    if options.json:
        print_json(_object(project, notes))
    elif options.bring_up:
        print("\n".join(_check_lines(project)) or "Nothing is joined yet.")
    else:
        print(
            "\n".join(visible(line) for line in (*_join_lines(project.hookup), *note_lines(notes))) or "No parts yet."
        )
    return exit_code(notes)


def notes_of(project: Project) -> tuple[Note, ...]:
    """Notes of this step only."""
    sums = inspect_sums(project.sums.values(), project.hookup, find)
    measured = inspect_measured(project.checks, project.measured)
    return ordered((*inspect_hookup(project.hookup), *sums, *measured))


def _kind_named(name: str) -> Any:
    if name not in KINDS:
        raise RequestError(f'"{name}" is not a kind of part; the catalogue has {", ".join(KINDS)}.')
    return KINDS[name]


def _proposed(folder: Path, project: Project) -> Project:
    """Join everything by role and write the project file."""
    plan = propose(project.hookup)
    path = folder / FILE
    if plan.mends:
        write_whole(path, Editor().mended(read_text(path), plan.mends))
    for sentence in plan.unplaced:
        print(sentence)
    return opened(folder)[1]


def _join_lines(hookup: Hookup) -> Iterable[str]:
    if not hookup.joins:
        return
    first = max(len(str(join.pin)) for join in hookup.joins)
    second = max(len(str(join.to)) for join in hookup.joins)
    for join in hookup.joins:
        through = f"  through {join.through}" if join.through else ""
        yield f"{join.pin!s:<{first}}  {join.to!s:<{second}}  {join.colour:<8}{through}".rstrip()


def _check_lines(project: Project) -> Iterable[str]:
    for place, check in enumerate(project.checks, 1):
        measured = project.measured.get(check.key)
        mark = " " if measured is None else "✓" if judge(check, measured).good else "†"
        said = f" Measured: {measured}." if measured is not None else ""
        yield visible(f"{place:>3} {mark} {check.does} Right: {check.expects}.{said}")


def _object(project: Project, notes: Iterable[Note]) -> dict[str, Any]:
    hookup = project.hookup
    return {
        "parts": [
            {"name": part.name, "kind": part.kind.name, "address": part.address} for part in hookup.parts.values()
        ],
        "joins": [_join_object(hookup, join) for join in hookup.joins],
        "bring_up": [_check_object(project, check) for check in project.checks],
        "notes": [note_object(note) for note in notes],
    }


def _join_object(hookup: Hookup, join: Join) -> dict[str, Any]:
    roles = used_roles(hookup, join)
    return {
        "pin": str(join.pin),
        "to": str(join.to),
        "role": roles[0] if roles else None,
        "through": join.through or None,
        "colour": join.colour or None,
    }


def _check_object(project: Project, check: Check) -> dict[str, Any]:
    measured = project.measured.get(check.key)
    judged = None if measured is None else judge(check, measured)
    return {
        "key": check.key,
        "does": check.does,
        "unit": check.unit or None,
        "lowest": number(check.lowest) if check.unit else None,
        "highest": number(check.highest) if check.unit else None,
        "measured": measured,
        "good": None if judged is None else judged.good,
    }
