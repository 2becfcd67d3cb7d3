"""Arguments shared by many commands."""

from __future__ import annotations

import argparse
from pathlib import Path

Command = argparse.ArgumentParser


def as_json(command: Command) -> None:
    command.add_argument("--json", action="store_true", help="print JSON for a script; the object says its version")


def with_force(command: Command) -> None:
    command.add_argument(
        "--force", action="store_true", help="replace a file that exists; never one that a project reads"
    )


def with_look(command: Command) -> None:
    look = command.add_mutually_exclusive_group()
    look.add_argument("--light", action="store_const", const=True, help="dark letters on parchment")
    look.add_argument("--dark", dest="light", action="store_const", const=False, help="light letters on ink")


def many_projects(command: Command) -> None:
    """Arguments for several projects, or for several captures that one reads in turn."""
    command.add_argument("project", type=Path, nargs="+")
    command.add_argument(
        "--over", type=Path, nargs="+", default=[], metavar="FILE", help="captures to read instead of the project's own"
    )
    command.add_argument(
        "--source",
        metavar="NAME",
        help="the source whose capture they replace; default: the channel's, or the only one",
    )
