"""Ways to begin: the demo, written where it is not there yet; a new project from a capture."""

from __future__ import annotations

from pathlib import Path

from lesart.demo.yard import write_yard
from lesart.desk.desk import Desk, open_desk
from lesart.project.check import FILE
from lesart.project.new import make_project


def open_demo(folder: Path) -> Desk:
    """The linden yard; its files are made when the folder has none. Raises StorageError."""
    if not (folder / FILE).exists():
        write_yard(folder)
    return open_desk(folder)


def folder_for(capture: Path) -> Path:
    """Where a project from a capture goes when nobody says: a folder with its name, here."""
    return Path(capture.stem or "project")


def open_new(capture: Path) -> Desk:
    """A new project from a capture. Raises CaptureError or StorageError."""
    return open_desk(make_project(capture, folder_for(capture)).folder)
