"""The open project's file: saved, watched for changes from outside, unsaved work put aside. Nothing is ever lost."""

from __future__ import annotations

from os.path import exists
from pathlib import Path

from lesart.core.errors import Problem, ProjectError, StorageError
from lesart.project.assets.named import Assets
from lesart.project.check import check_project
from lesart.project.folder.session import Session
from lesart.project.folder.store import FILE, keep_aside, read_text, write_whole
from lesart.project.model import Project


def project_to_open(text: str, before: Project | None = None, assets: Assets | None = None) -> Project:
    """A checked project with something to look at. Raises ProjectError."""
    project = check_project(text, before, assets)
    if not project.channels:
        wanted = "there is none; add one under [channels] with its source and unit"
        raise ProjectError(FILE, (Problem("channels", "", wanted),))
    return project


class Filed:
    """``lesart.toml`` in a folder: the text that was last taken in or saved, and the bytes last seen there.

    The two differ while a text from outside could not be taken in: it is said once, and kept aside when one saves over
    it. ``session`` is the place that this desk holds at the folder; None for one that only looks.
    """

    def __init__(self, folder: Path, text: str, session: Session | None = None) -> None:
        self.folder = folder
        self.session = session
        self._taken = text
        self._seen: object = text
        self._others = 0

    def save(self, text: str) -> str:
        """Write the file and say so. Raises StorageError, with the old file untouched."""
        path = self.folder / FILE
        said = f"Saved {FILE}."
        there: str | bytes
        try:
            there = read_text(path) if exists(path) else self._taken
        except StorageError:  # not a text, or too long for a project: whatever it is, it is not thrown away
            there = _bytes_of(path)
        if there not in (self._taken, text):
            aside = keep_aside(self.folder, "outside", there)
            said = f"Saved; what was written outside is kept in {aside.relative_to(self.folder)}."
        write_whole(path, text)
        self._taken = self._seen = text
        if self.session is not None:
            self.session.keep(text, text)
        return said

    def changed_outside(self) -> str | None:
        """A text that someone else put there, once; None while there is nothing new.

        Raises StorageError for what is no text, again and again; it says that saving writes over it.
        """
        path = self.folder / FILE
        try:
            there = read_text(path)
        except StorageError as error:
            more = " ctrl+s writes it again." if not exists(path) else " ctrl+s puts it aside and writes yours."
            raise StorageError(f"{error}{more}") from error
        if there == self._seen:
            return None
        self._seen = there
        return there if there != self._taken else None

    def take(self, text: str) -> None:
        """Take the text from outside as the present one."""
        self._taken = text

    def put_aside(self, text: str, saved: str) -> None:
        """Keep unsaved work in case of a kill. Raises StorageError."""
        if self.session is not None:
            self.session.keep(text, saved)

    def displaced(self, text: str) -> str:
        """Keep unsaved work that a text from outside replaces, beyond this run; gives the file. Raises StorageError."""
        return str(keep_aside(self.folder, "mine", text).relative_to(self.folder))

    def news_of_others(self) -> str:
        """A sentence, once, when another desk opens the same project or leaves it; else empty."""
        now = self.session.others() if self.session is not None else 0
        before, self._others = self._others, now
        if now > before:
            return (
                "Another Lesart has this project open too. What one saves the other takes in; "
                "unsaved work of both is kept."
            )
        return "" if now == before or now else "The other Lesart has left this project."


def _bytes_of(path: Path) -> bytes:
    try:
        return path.read_bytes()
    except OSError as error:
        raise StorageError(f"{path}: it cannot be read ({error.strerror}); nothing was written over it.") from error
