"""The open project's file: saved, watched for changes from outside, unsaved work put aside. Nothing is ever lost."""

from __future__ import annotations

from pathlib import Path

from lesart.core.errors import Problem, ProjectError
from lesart.project.assets import Assets
from lesart.project.check import FILE, check_project
from lesart.project.model import Project
from lesart.project.store import keep_aside, keep_unsaved, read_text, write_whole


def project_to_open(text: str, before: Project | None = None, assets: Assets | None = None) -> Project:
    """A checked project with something to look at. Raises ProjectError."""
    project = check_project(text, before, assets)
    if not project.channels:
        wanted = "there is none; add one under [channels] with its source and unit"
        raise ProjectError(FILE, (Problem("channels", "", wanted),))
    return project


class Filed:
    """``lesart.toml`` in a folder: the text that was last taken in or saved, and the text last seen there.

    The two differ while a text from outside could not be taken in: it is said once, and kept aside when one saves over
    it.
    """

    def __init__(self, folder: Path, text: str) -> None:
        self.folder = folder
        self._taken = self._seen = text

    def save(self, text: str) -> str:
        """Write the file and say so. Raises StorageError, with the old file untouched."""
        path = self.folder / FILE
        said = f"Saved {FILE}."
        there = read_text(path) if path.exists() else self._taken
        if there not in (self._taken, text):
            aside = keep_aside(self.folder, "outside", there)
            said = f"Saved; what was written outside is kept in {aside.relative_to(self.folder)}."
        write_whole(path, text)
        self._taken = self._seen = text
        keep_unsaved(self.folder, text, text)
        return said

    def changed_outside(self) -> str | None:
        """A text that someone else put there, once; None while there is nothing new. Raises StorageError."""
        there = read_text(self.folder / FILE)
        if there == self._seen:
            return None
        self._seen = there
        return there if there != self._taken else None

    def take(self, text: str) -> None:
        """The text from outside is the present one now."""
        self._taken = text

    def put_aside(self, text: str, saved: str) -> None:
        """Keep unsaved work for the case of a kill. Raises StorageError."""
        keep_unsaved(self.folder, text, saved)
