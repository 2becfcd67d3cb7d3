"""``lesart open`` and ``lesart`` alone: the full screen."""

from __future__ import annotations

import argparse
import sys
from collections.abc import Callable
from os.path import exists
from pathlib import Path
from typing import TYPE_CHECKING

from lesart.core.errors import RequestError

if TYPE_CHECKING:
    from lesart.desk.desk import Desk


def run(options: argparse.Namespace) -> int:
    """Open a project, or the welcome page where none is named."""
    if options.command is None:
        return show(None, "")
    folder: Path = options.project
    if not exists(folder):
        raise RequestError(f"{folder}: there is no such folder; lesart new FILE.csv makes a project.")

    def opener() -> Desk:
        from lesart.desk.opening import open_desk

        return open_desk(folder)

    return show(opener, str(folder), light=options.light)


def show(opener: Callable[[], Desk] | None, name: str, *, light: bool | None = None, walk: bool = False) -> int:
    """Run the application until it is left; by default in the look of the last run.

    Raises RequestError without a terminal.
    """
    if not (sys.stdin.isatty() and sys.stdout.isatty()):
        raise RequestError("a full screen needs a terminal; lesart hand, read, check and draw work without one.")
    from lesart.desk import ahead

    # Before any heavy import, and before there is a thread.
    first = ahead.begin(Path(name)) if opener is not None else None
    from lesart.tui.run import run_screen

    return run_screen(opener, name, light=light, walk=walk, first=first)
