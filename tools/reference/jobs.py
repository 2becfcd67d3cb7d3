"""The jobs worked out: a page each, with what its commands really print, and one that lists them."""

from __future__ import annotations

import io
import shlex
import tempfile
from collections.abc import Mapping
from contextlib import chdir, redirect_stderr, redirect_stdout
from pathlib import Path
from textwrap import fill

from tools.reference.columns import columns

from lesart.cli.main import main
from lesart.demo.jobs.job import Job
from lesart.demo.jobs.listed import JOBS
from lesart.desk.project_folders import make_job
from lesart.project.folder.store import FILE

COLUMNS = 120
FIRST_LINES, LAST_LINES = 24, 10
"""Of what a command prints; those between are counted."""
HEAD = """\
# Twenty-one jobs

Each is a small project of the made-up linden yard: a sensor, what is made of it, and what shows it.
`lesart demo --list` lists them, `lesart demo --job hut` makes one and opens it; what stands on their pages below a
command was printed by it.

*These pages are made from the program by `make reference`.*
"""


def pages() -> Mapping[str, str]:
    """Of the list and of each job."""
    rows = "\n".join(f"- [{job.name}]({job.folder}.md): {job.title}" for job in JOBS)
    return {"jobs/index.md": f"{HEAD}\n{rows}\n", **{f"jobs/{job.folder}.md": _page(job) for job in JOBS}}


def _page(job: Job) -> str:
    with tempfile.TemporaryDirectory() as made:
        folder = make_job(job.folder, Path(made) / job.folder)
        with chdir(folder):
            shown = "\n".join(f"```console\n$ lesart {line}\n{printed(line)}```\n" for line in job.tries)
        toml = (folder / FILE).read_text(encoding="utf-8")
    return (
        f"# {job.name[0].upper()}{job.name[1:]}\n\n{job.title[0].upper()}{job.title[1:]}.\n\n{fill(job.tells, 120)}\n\n"
        f"```console\n$ lesart demo --job {job.folder}\n```\n\n## What it gives\n\n{shown}\n"
        f"## Its project file\n\n```toml\n{toml}```\n"
    )


def printed(line: str) -> str:
    """What a terminal shows of a command in the open folder, not more than fits on a page."""
    sink = io.StringIO()
    with redirect_stdout(sink), redirect_stderr(sink), columns(COLUMNS):
        main(shlex.split(line))
    lines = [each.rstrip() for each in sink.getvalue().splitlines()]
    left_out = len(lines) - FIRST_LINES - LAST_LINES
    if left_out > 1:
        lines = [*lines[:FIRST_LINES], f"… {left_out} lines …", *lines[-LAST_LINES:]]
    return "".join(f"{each}\n" for each in lines)
