"""A folder that exists whole or not at all: made next to its place under a hidden name, then renamed.

A kill in between leaves the hidden folder, which the next run there removes.
"""

from __future__ import annotations

import os
import re
import shutil
import tempfile
from collections.abc import Iterator
from contextlib import contextmanager, suppress
from os.path import exists, isdir, isfile, islink
from pathlib import Path

from lesart.core.errors import StorageError
from lesart.project.folder.locks import hold

_LOCK = ".making"
_LEFTOVER = re.compile(r"\.(?P<name>.{1,255})\.[a-z0-9_]{8}")
"""The name of a file while it is written; see ``store.write_whole``."""


@contextmanager
def workplace(folder: Path) -> Iterator[Path]:
    """A temporary folder next to ``folder``, removed afterwards with everything in it. Raises StorageError."""
    making = lock = None
    try:
        parent = folder.absolute().parent
        parent.mkdir(parents=True, exist_ok=True)
        _forget_abandoned(parent, folder.name)
        making = Path(tempfile.mkdtemp(prefix=f".{folder.name}.", dir=parent))
        lock = hold(making / _LOCK)
        yield making
    except OSError as error:
        raise StorageError(f"{folder}: it cannot be made ({error.strerror}).") from error
    finally:
        if making is not None:
            shutil.rmtree(making, ignore_errors=True)
        if lock is not None:
            os.close(lock)


@contextmanager
def made_beside(folder: Path) -> Iterator[Path]:
    """A new folder to fill, which moves to its place at the end.

    An empty one there is replaced. Raises StorageError.
    """
    if not is_free(folder):
        raise StorageError(f"{folder}: it already exists; name another folder.")
    with workplace(folder) as place:
        making = place / "made"
        making.mkdir()
        yield making
        os.rename(making, folder.absolute())


def is_free(folder: Path) -> bool:
    """True where there is nothing of this name, or an empty folder."""
    try:
        return not islink(folder) and (not exists(folder) or (isdir(folder) and not any(folder.iterdir())))
    except OSError:
        return False


def _forget_abandoned(parent: Path, name: str) -> None:
    """Remove leftovers of killed runs; a folder being made now is locked."""
    for left in parent.glob(f".{name}.*"):
        if leftover_of(left.name) != name or not isfile(left / _LOCK):
            continue
        with suppress(OSError):
            lock = hold(left / _LOCK)
            if lock is not None:
                shutil.rmtree(left, ignore_errors=True)
                os.close(lock)


def leftover_of(name: str) -> str | None:
    """The file that a leftover of this name was to become when its writer was killed; None for any other name."""
    match = _LEFTOVER.fullmatch(name)
    return match["name"] if match else None
