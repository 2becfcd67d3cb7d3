"""``lesart check``: every note."""

from __future__ import annotations

import argparse
from datetime import date

from lesart.cli.answer import exit_code, note_lines, note_object, print_json
from lesart.cli.project import opened
from lesart.study.bench import Bench
from lesart.study.inspect import inspect_project


def run(options: argparse.Namespace) -> int:
    """Print notes; 1 when one is a fault."""
    folder, project = opened(options.project)
    notes = inspect_project(project, Bench(folder), date.today())
    if options.json:
        # What is said at once to a person is said of each to a program.
        print_json({"notes": [note_object(each) for note in notes for each in note.of or (note,)]})
    else:
        print("\n".join(note_lines(notes)) or "Nothing to say.")
    return exit_code(notes)
