"""Sessions that have a project open, and the unsaved work of each: several may share a folder, and none loses its work.

Each holds a slot, ``open`` or ``open-2`` and so on, by a lock that the operating system releases however it ends. Its
unsaved work has the same number. Work whose slot nobody holds belongs to a killed session.
"""

from __future__ import annotations

import contextlib
import os
import re
import weakref
from pathlib import Path

from lesart.core.dataclass_later import dataclass
from lesart.core.errors import StorageError
from lesart.project.folder.locks import hold, is_held
from lesart.project.folder.store import OWN_FOLDER, digest, read_text, write_whole

MOST = 32
_BASE = "# unsaved work over "
_LOCK, _UNSAVED = re.compile(r"open(?:-(\d{1,2}))?"), re.compile(r"unsaved(?:-(\d{1,2}))?\.toml")


@dataclass(frozen=True)
class Unsaved:
    """Work found after a kill: its text, where it lies, and whether the saved file is still the one it was based on.

    ``text`` is None where the file is no text.
    """

    path: Path
    text: str | None
    fits: bool = False


class Session:
    """A slot at a project's folder, held until ``close``.

    Where none can be held, as on a read-only disk, ``number`` is 0; unsaved work cannot be kept there either.
    """

    def __init__(self, folder: Path) -> None:
        self.folder = folder
        self.number = 0
        self._has_kept = False
        self._let_go: weakref.finalize[[int], Session] | None = None
        for number in range(1, MOST + 1):
            try:
                handle = hold(_lock_of(folder, number))
            except OSError:
                return
            if handle is not None:
                self.number = number
                self._let_go = weakref.finalize(self, os.close, handle)
                return

    def others(self) -> int:
        """Number of other sessions that have the project open now."""
        taken = (number for number in _numbers(self.folder, _LOCK) if number != self.number)
        return sum(is_held(_lock_of(self.folder, number)) for number in taken)

    def keep(self, text: str, saved: str) -> None:
        """Put unsaved work aside, or remove it when nothing is unsaved. Raises StorageError."""
        path = _unsaved_of(self.folder, max(self.number, 1))
        self._has_kept = True
        if text != saved:
            write_whole(path, f"{_BASE}{digest(saved)}\n{text}")
        elif self.number:
            with contextlib.suppress(OSError):
                path.unlink()

    def left_behind(self, saved: str) -> list[Unsaved]:
        """Unsaved work of killed runs, the latest first. It stays until ``forget``."""
        found = []
        for number in _numbers(self.folder, _UNSAVED):
            path = _unsaved_of(self.folder, number)
            is_mine = number == self.number
            if (is_mine and self._has_kept) or (not is_mine and is_held(_lock_of(self.folder, number))):
                continue
            try:
                first, _, text = read_text(path).partition("\n")
            except StorageError:
                found.append(Unsaved(path, None))
                continue
            if text != saved:
                found.append(Unsaved(path, text, first == f"{_BASE}{digest(saved)}"))
        return sorted(found, key=lambda each: _changed(each.path), reverse=True)

    def forget(self, left: Unsaved) -> None:
        """Delete unsaved work that has been taken up, unless it is this session's own file."""
        if left.path != _unsaved_of(self.folder, self.number):
            with contextlib.suppress(OSError):
                left.path.unlink()

    def set_aside(self, left: Unsaved) -> Path:
        """Rename a file that is not text so that it is not taken for unsaved work. It stays where that fails."""
        there = left.path.with_name(f"unreadable-{left.path.name}")
        with contextlib.suppress(OSError):
            os.replace(left.path, there)
        return there.relative_to(self.folder)

    def close(self) -> None:
        """Release the slot."""
        if self._let_go is not None:
            self._let_go()


def _numbers(folder: Path, name: re.Pattern[str]) -> list[int]:
    """Numbers of files with such a name in Lesart's own folder."""
    with contextlib.suppress(OSError):
        matches = [name.fullmatch(each) for each in os.listdir(folder / OWN_FOLDER)]
        return sorted(int(match[1] or 1) for match in matches if match)
    return []


def _lock_of(folder: Path, number: int) -> Path:
    return folder / OWN_FOLDER / ("open" if number == 1 else f"open-{number}")


def _unsaved_of(folder: Path, number: int) -> Path:
    return folder / OWN_FOLDER / ("unsaved.toml" if number == 1 else f"unsaved-{number}.toml")


def _changed(path: Path) -> float:
    try:
        return path.stat().st_mtime
    except OSError:
        return 0.0
