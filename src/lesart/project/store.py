"""Files: read in full, written in one step, unsaved work kept aside.

A write goes to a new file beside the old one, is forced to the disk, and takes the old one's place: whoever looks sees
the old text or the new, never half of one.
"""

from __future__ import annotations

import contextlib
import hashlib
import os
import tempfile
from dataclasses import dataclass
from pathlib import Path

from lesart.core.errors import StorageError
from lesart.project.check import FILE

OWN_FOLDER = ".lesart"
UNSAVED = "unsaved.toml"
_BASE = "# unsaved work over "
LARGEST_BYTES = 4_000_000


def project_folder(path: Path) -> Path:
    """The folder of a project, named by itself or by its ``lesart.toml``. Raises StorageError when there is none."""
    folder = path.parent if path.name == FILE else path
    if not (folder / FILE).is_file():
        hint = f"there is no {FILE} in it" if folder.is_dir() else "there is no such folder"
        raise StorageError(f"{path}: {hint}; lesart new FILE.csv makes a project, lesart demo opens one.")
    return folder


def read_text(path: Path) -> str:
    """A project text. Raises StorageError where it cannot be one."""
    try:
        if path.stat().st_size > LARGEST_BYTES:
            raise StorageError(f"{path}: {path.stat().st_size} bytes are too many for a project; it must be TOML text.")
        return path.read_bytes().decode("utf-8").replace("\r\n", "\n")
    except UnicodeDecodeError as error:
        raise StorageError(f"{path}: byte {error.start} is not UTF-8 text; a project is TOML text.") from error
    except OSError as error:
        raise StorageError(f"{path}: it cannot be read ({error.strerror}).") from error


def write_whole(path: Path, content: str | bytes) -> None:
    """Replace a file in one step. Raises StorageError, with the old file untouched, when that cannot be done."""
    data = content.encode("utf-8") if isinstance(content, str) else content
    temporary = None
    try:
        path.parent.mkdir(parents=True, exist_ok=True)
        handle, temporary = tempfile.mkstemp(prefix=f".{path.name}.", dir=path.parent)
        with os.fdopen(handle, "wb") as file:
            file.write(data)
            file.flush()
            os.fsync(file.fileno())
        # A new file is private to its maker; a saved one keeps the rights it had, or gets the usual ones.
        os.chmod(temporary, path.stat().st_mode & 0o777 if path.exists() else 0o644)
        os.replace(temporary, path)
    except OSError as error:
        if temporary is not None:
            with contextlib.suppress(OSError):
                os.unlink(temporary)
        raise StorageError(f"{path}: it cannot be written ({error.strerror}); nothing was changed.") from error


def digest(text: str) -> str:
    """A short name for a text, to tell whether two are the same."""
    return hashlib.sha256(text.encode()).hexdigest()[:16]


@dataclass(frozen=True)
class Unsaved:
    """Work found after a kill: its text, and whether the saved file is still the one it was based on."""

    text: str
    fits: bool


def keep_unsaved(folder: Path, text: str, saved: str) -> None:
    """Put unsaved work aside; or remove it when nothing is unsaved. Raises StorageError."""
    path = folder / OWN_FOLDER / UNSAVED
    if text == saved:
        with contextlib.suppress(FileNotFoundError):
            path.unlink()
        return
    write_whole(path, f"{_BASE}{digest(saved)}\n{text}")


def find_unsaved(folder: Path, saved: str) -> Unsaved | None:
    """Unsaved work of an earlier run; None when there is none or it is what was saved."""
    path = folder / OWN_FOLDER / UNSAVED
    if not path.is_file():
        return None
    first, _, text = read_text(path).partition("\n")
    if not first.startswith(_BASE) or text == saved:
        return None
    return Unsaved(text, first.removeprefix(_BASE) == digest(saved))


def keep_aside(folder: Path, name: str, text: str) -> Path:
    """Keep a text under a name of its own in the project's ``.lesart`` folder."""
    path = folder / OWN_FOLDER / f"{name}-{digest(text)}.toml"
    write_whole(path, text)
    return path
