"""A lock file: the operating system releases the lock however its holder ends."""

from __future__ import annotations

import errno
import fcntl
import os
from pathlib import Path


def hold(path: Path) -> int | None:
    """A handle that holds the file, made where it is not there; None where somebody else does.

    Raises OSError where there can be no lock.
    """
    path.parent.mkdir(parents=True, exist_ok=True)
    handle = os.open(path, os.O_RDWR | os.O_CREAT | os.O_CLOEXEC, 0o644)
    try:
        fcntl.flock(handle, fcntl.LOCK_EX | fcntl.LOCK_NB)
    except OSError as error:
        os.close(handle)
        if error.errno in (errno.EAGAIN, errno.EACCES):
            return None
        raise
    return handle


def is_held(path: Path) -> bool:
    """True where somebody holds it now; False where it does not exist."""
    try:
        handle = os.open(path, os.O_RDWR | os.O_CLOEXEC)
    except OSError:
        return False
    try:
        fcntl.flock(handle, fcntl.LOCK_EX | fcntl.LOCK_NB)
    except OSError:
        return True
    finally:
        os.close(handle)
    return False
