"""Files: read in full, written atomically.

A write goes to a new file next to the old one, is forced to the disk, and replaces the old one: a reader sees the old
text or the new, never half of one.
"""

from __future__ import annotations

import contextlib
import hashlib
import os
import tempfile
from os.path import exists, isdir, isfile
from pathlib import Path

from lesart.core.errors import CaptureError, StorageError
from lesart.project.folder.files import read_whole

FILE = "lesart.toml"
OWN_FOLDER = ".lesart"
LARGEST_BYTES = 4_000_000


def project_folder(path: Path) -> Path:
    """The folder of a project, given by itself or by its ``lesart.toml``. Raises StorageError where there is none."""
    folder = path.parent if path.name == FILE else path
    if not isfile(folder / FILE):
        hint = f"there is no {FILE} in it" if isdir(folder) else "there is no such folder"
        raise StorageError(f"{path}: {hint}; lesart new FILE.csv makes a project, lesart demo opens one.")
    return folder


def read_text(path: Path) -> str:
    """The text of a project. Raises StorageError where it cannot be one."""
    try:
        # Some editors begin a file with a byte order mark, which is a character of its own.
        text = read_whole(path, LARGEST_BYTES).decode("utf-8")
        return text.removeprefix("\ufeff").replace("\r\n", "\n")
    except UnicodeDecodeError as error:
        raise StorageError(f"{path}: byte {error.start} is not UTF-8 text; a project is TOML text.") from error
    except CaptureError as error:
        raise StorageError(str(error)) from error


def write_whole(path: Path, content: str | bytes) -> None:
    """Replace a file atomically. Raises StorageError, with the old file untouched, where that fails."""
    data = content.encode("utf-8") if isinstance(content, str) else content
    temporary = None
    try:
        path.parent.mkdir(parents=True, exist_ok=True)
        handle, temporary = tempfile.mkstemp(prefix=f".{path.name}.", dir=path.parent)
        with os.fdopen(handle, "wb") as file:
            file.write(data)
            file.flush()
            os.fsync(file.fileno())
        # A temporary file is private; the saved one keeps the old permissions, or gets the usual ones.
        os.chmod(temporary, path.stat().st_mode & 0o777 if exists(path) else 0o644)
        os.replace(temporary, path)
    except OSError as error:
        if temporary is not None:
            with contextlib.suppress(OSError):
                os.unlink(temporary)
        raise StorageError(f"{path}: it cannot be written ({error.strerror}); nothing was changed.") from error


def digest(text: str | bytes) -> str:
    """A digest of a text, to tell whether two are the same."""
    return hashlib.sha256(text.encode() if isinstance(text, str) else text).hexdigest()[:16]


def keep_aside(folder: Path, name: str, text: str | bytes) -> Path:
    """Keep a text under a name of its own in the project's ``.lesart`` folder; its path. Raises StorageError."""
    path = folder / OWN_FOLDER / f"{name}-{digest(text)}.toml"
    write_whole(path, text)
    return path
