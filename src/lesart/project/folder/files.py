"""Files from outside: before a byte is read they must be finite files of a reasonable size.

Errors of the libraries that read them become sentences here as well, whatever their kind.
"""

from __future__ import annotations

import mmap
import os
import stat
import zlib
from collections.abc import Callable, Iterator
from contextlib import contextmanager
from pathlib import Path
from typing import BinaryIO

from lesart.core.errors import CaptureError, LesartError

MOST_BYTES = 2_000_000_000
"""Most bytes of a file read as a whole: the results must fit into memory too."""
_KINDS: tuple[tuple[Callable[[int], bool], str], ...] = (
    (stat.S_ISFIFO, "a pipe"),
    (stat.S_ISSOCK, "a socket"),
    (stat.S_ISCHR, "a device"),
    (stat.S_ISBLK, "a device"),
    (stat.S_ISDIR, "a folder"),
)


def is_device(path: Path) -> bool:
    """True for a device, such as a port; False for an impossible name."""
    return stat.S_ISCHR(_mode(path))


def is_socket(path: Path) -> bool:
    """True for a socket; False for an impossible name."""
    return stat.S_ISSOCK(_mode(path))


def _mode(path: Path) -> int:
    """Mode of a file; 0 where there is none."""
    try:
        return path.stat().st_mode
    except (OSError, ValueError):
        return 0


def open_file(path: Path) -> BinaryIO:
    """A file opened for reading. Raises CaptureError for anything else: an empty pipe would block for ever."""
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


PACKED = b"\x1f\x8b"
"""First bytes of a packed file (gzip, RFC 1952), which is read unpacked."""
_AT_ONCE = 1 << 22
MOST_PACKED, PACKED_FREE = 200, 50_000_000
"""Greatest ratio of a packed file, and bytes that any may have.

Logs reach 10 to 50; a thousand, the maximum, is a file made to fill memory, and its rows take many times its bytes once
they are numbers.
"""


def read_whole(path: Path, most: int = MOST_BYTES) -> bytes:
    """All bytes of a file, unpacked. Raises CaptureError where there is none, or it is too large."""
    with open_file(path) as file:
        try:
            # A size of 0 may be wrong, as under /proc: no more than the limit is read in any case.
            data = file.read(most + 1)
        except (OSError, MemoryError) as error:
            raise CaptureError(f"{path}: it cannot be read ({_reason(error)}).") from error
    if len(data) > most:
        raise CaptureError(f"{path}: it has more than {_shown(most)}, which is the most that is read of such a file.")
    return _unpacked(path, data, most) if data[:2] == PACKED else data


def first_bytes(path: Path, count: int) -> bytes:
    """The first bytes of a file, unpacked; fewer where it is shorter. Raises CaptureError."""
    with open_file(path) as file:
        head = file.read(count)
        if head[:2] != PACKED:
            return head
        return _unpacked(path, head + file.read(count), count, cut=True)


@contextmanager
def mapped(path: Path) -> Iterator[mmap.mmap | bytes]:
    """All bytes of a file, memory-mapped; a packed one is unpacked in memory. Raises CaptureError."""
    with open_file(path) as file:
        if file.read(2) != PACKED:
            with mmap.mmap(file.fileno(), 0, access=mmap.ACCESS_READ) as data:
                yield data
            return
    yield read_whole(path)


def is_packed(path: Path) -> bool:
    """True for a packed file. Raises CaptureError where it cannot be read."""
    with open_file(path) as file:
        return file.read(2) == PACKED


def _unpacked(path: Path, data: bytes, most: int, *, cut: bool = False) -> bytes:
    """The unpacked bytes, never more than allowed. ``cut``: only the beginning is wanted."""
    parts: list[bytes] = []
    size, ended, promised = 0, False, max(MOST_PACKED * len(data), PACKED_FREE)
    try:
        while data[:2] == PACKED and not (cut and size > most):
            machine = zlib.decompressobj(wbits=31)
            while data and not machine.eof and size <= most:
                parts.append(machine.decompress(data, _AT_ONCE))
                size += len(parts[-1])
                data = machine.unconsumed_tail
                if size > promised and not cut:
                    much = f"unpacked it has more than {MOST_PACKED} times its size"
                    raise CaptureError(f"{path}: {much}; if that is right, unpack it first.")
            if size > most and not cut:
                raise CaptureError(f"{path}: unpacked it has more than {_shown(most)}, which is the most that is read.")
            ended, data = machine.eof, machine.unused_data
    except zlib.error as error:
        if not cut or not size:
            raise CaptureError(f"{path}: it is packed and damaged ({error}); copy it again, or unpack it.") from error
    if not ended and not cut:
        raise CaptureError(f"{path}: it is packed, and its end is missing; copy it again.")
    return b"".join(parts)[:most] if cut else b"".join(parts)


def _shown(size: int) -> str:
    return f"{size / 1e9:.3g} GB" if size >= 1e9 else f"{size / 1e6:.3g} MB" if size >= 1e6 else f"{size} bytes"


def _reason(error: Exception) -> str:
    return getattr(error, "strerror", None) or str(error) or "there is not enough memory"


@contextmanager
def library(name: str, wanted: str) -> Iterator[None]:
    """Errors of a library over a file become a CaptureError: ``name: it cannot be read as wanted (reason).``

    Damaged files make them raise anything: index errors, a panic of compiled code that is no ``Exception`` at all.
    Anything that such code prints bypassing Python is dropped.
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
