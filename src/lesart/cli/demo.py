"""``lesart demo``: the linden yard, and worked jobs."""

from __future__ import annotations

import argparse
from os.path import exists
from pathlib import Path
from typing import TYPE_CHECKING

from lesart.cli.screen import show
from lesart.project.folder.store import FILE

if TYPE_CHECKING:
    from lesart.desk.desk import Desk


def run(options: argparse.Namespace) -> int:
    """Open it, or only make its files, or list the worked jobs."""
    if options.list:
        return _list()
    if options.job is not None:
        return _job(options)
    folder = options.folder or Path("linden-yard-wrong" if options.wrong else "linden-yard")
    if options.wrong and not exists(folder / FILE):
        from lesart.desk.project_folders import make_wrong_yard

        make_wrong_yard(folder)
        if options.make:
            print(f"{folder}: the linden yard is there, with two mistakes in it. lesart open {folder}; y asks why.")
            return 0
    elif options.make:
        from lesart.desk.project_folders import make_yard

        make_yard(folder)
        print(f"{folder}: the linden yard is there. lesart open {folder} shows it.")
        return 0

    def opener() -> Desk:
        from lesart.desk.opening import open_demo

        return open_demo(folder)

    return show(opener, str(folder), light=options.light, walk=options.walk)


def _list() -> int:
    from lesart.demo.jobs.listed import JOBS

    width = max(len(job.folder) for job in JOBS)
    for job in JOBS:
        print(f"{job.folder:<{width}}  {job.title}")
    print()
    print(f"lesart demo --job {JOBS[0].folder} makes and opens one; lesart demo alone opens the whole yard.")
    return 0


def _job(options: argparse.Namespace) -> int:
    from lesart.demo.jobs.listed import job_named
    from lesart.desk.project_folders import make_job

    name = job_named(options.job).folder
    folder = make_job(name, options.folder or Path(name))
    if options.make:
        print(f"{folder}: {name} is there. lesart open {folder} shows it.")
        return 0

    def opener() -> Desk:
        from lesart.desk.opening import open_desk

        return open_desk(folder)

    return show(opener, str(folder), light=options.light)
