"""Files from outside, before a byte of them is read: they must be files that end, and not beyond all measure.

What the libraries that read them raise becomes a sentence here as well, whatever kind of error it is.
"""

from __future__ import annotations

import os
import stat
from collections.abc import Callable, Iterator
from contextlib import contextmanager
from pathlib import Path
from typing import BinaryIO

from lesart.core.errors import CaptureError, LesartError

MOST_BYTES = 2_000_000_000
"""Of a file that is read as a whole: what is made of it must fit into memory beside it."""
_KINDS: tuple[tuple[Callable[[int], bool], str], ...] = (
    (stat.S_ISFIFO, "a pipe"),
    (stat.S_ISSOCK, "a socket"),
    (stat.S_ISCHR, "a device"),
    (stat.S_ISBLK, "a device"),
    (stat.S_ISDIR, "a folder"),
)


def open_file(path: Path) -> BinaryIO:
    """A file to read. Raises CaptureError for what is none: a pipe that nobody fills would be waited for for ever."""
    try:
        handle = os.open(path, os.O_RDONLY | os.O_NONBLOCK | os.O_CLOEXEC)
    except (OSError, ValueError) as error:
        raise CaptureError(f"{path}: it cannot be read ({_reason(error)}).") from error
    mode = os.fstat(handle).st_mode
    if not stat.S_ISREG(mode):
        os.close(handle)
        kind = next((says for is_kind, says in _KINDS if is_kind(mode)), "something else")
        raise CaptureError(f"{path}: it is {kind}; a regular file is needed.")
    return os.fdopen(handle, "rb")


def read_whole(path: Path, most: int = MOST_BYTES) -> bytes:
    """All bytes of a file. Raises CaptureError where there is none, or too much of it."""
    with open_file(path) as file:
        try:
            # A size of 0 may be a lie, as under /proc: no more than may be is read, whatever it says.
            data = file.read(most + 1)
        except (OSError, MemoryError) as error:
            raise CaptureError(f"{path}: it cannot be read ({_reason(error)}).") from error
    if len(data) > most:
        raise CaptureError(f"{path}: it has more than {_shown(most)}, which is all that is read of such a file.")
    return data


def _shown(size: int) -> str:
    return f"{size / 1e9:.3g} GB" if size >= 1e9 else f"{size / 1e6:.3g} MB" if size >= 1e6 else f"{size} bytes"


def _reason(error: Exception) -> str:
    return getattr(error, "strerror", None) or str(error) or "there is not enough memory"


@contextmanager
def library(name: str, wanted: str) -> Iterator[None]:
    """What a library raises over a file becomes a CaptureError: ``name: it cannot be read as wanted (reason).``

    Damaged files make them raise anything: index errors, a panic of compiled code that is no ``Exception`` at all. What
    such code prints past Python is dropped.
    """
    stderr, nowhere = os.dup(2), os.open(os.devnull, os.O_WRONLY)
    os.dup2(nowhere, 2)
    try:
        yield
    except (LesartError, KeyboardInterrupt, SystemExit, GeneratorExit):
        raise
    except BaseException as error:
        reason = getattr(error, "strerror", None) or " ".join(str(error).split())[:120].rstrip(".:") or "it is damaged"
        raise CaptureError(f"{name}: it cannot be read as {wanted} ({reason}).") from error
    finally:
        os.dup2(stderr, 2)
        os.close(stderr)
        os.close(nowhere)
