"""The first picture of a project, made ahead in a process of its own while this one loads the screen.

On a machine with a second core the reading that a person opened the project for is then there as soon as there is a
screen to show it on. It is the same picture that the desk makes a moment later; nothing is changed or locked for it,
and where it cannot be made, or unsaved work of an earlier run is waiting, the desk's own comes first.
"""

from __future__ import annotations

import io
import os
import pickle
import signal
import tomllib
from collections.abc import Callable
from os.path import isfile
from pathlib import Path
from typing import TYPE_CHECKING, Any

from lesart.project.folder.remembered import has_unsaved
from lesart.project.folder.store import FILE, read_text

if TYPE_CHECKING:
    from lesart.study.views import Picture

LARGEST = 16 << 20
"""Greatest size in bytes of a capture that may be read twice."""


class Ahead:
    """The output of the other process. ``handle`` can be waited on; ``take`` gives the picture once it is complete."""

    def __init__(self, handle: int, child: int) -> None:
        self.handle = handle
        self._child = child
        self._written = b""

    def hear(self) -> bool:
        """Take what is there; True once it is complete."""
        part = os.read(self.handle, 1 << 16)
        self._written += part
        return not part

    def take(self) -> Picture | None:
        """The picture; None where the other process made none. Ends it."""
        os.close(self.handle)
        _, status = os.waitpid(self._child, 0)
        # A child that was stopped on the way, perhaps for lack of memory, has written half a picture.
        return _Own(io.BytesIO(self._written)).load() if self._written and status == 0 else None

    def leave(self) -> None:
        """End it: it is not wanted any more."""
        os.close(self.handle)
        os.kill(self._child, signal.SIGKILL)
        os.waitpid(self._child, 0)


class _Own(pickle.Unpickler):
    """Unpickles what this program's own child wrote, through a pipe that nobody else holds; nothing but Lesart's views
    can be made from it."""

    def find_class(self, module: str, name: str) -> Any:
        if not module.startswith("lesart."):
            raise pickle.UnpicklingError(f"{module}.{name}")
        return super().find_class(module, name)


def begin(folder: Path, make: Callable[[Path], Picture | None] | None = None) -> Ahead | None:
    """Start, before there is any thread.

    None where there is no such project, on a machine without a second core (or that is no Linux), or
    where unsaved work of an earlier run is to be taken up first.
    """
    if not isfile(folder / FILE) or has_unsaved(str(folder)):
        return None
    if not hasattr(os, "sched_getaffinity") or len(os.sched_getaffinity(0)) < 2:
        return None
    ours, theirs = os.pipe()
    child = os.fork()
    if child:
        os.close(theirs)
        return Ahead(ours, child)
    try:
        os.close(ours)
        _be_still()
        picture = (make or first_picture)(folder)
        if picture is not None:
            with os.fdopen(theirs, "wb") as pipe:
                pipe.write(pickle.dumps(picture, protocol=pickle.HIGHEST_PROTOCOL))
    # Whatever it is, the desk will find it too, and say it.
    except BaseException:  # noqa: BLE001
        os._exit(1)
    os._exit(0)


def _be_still() -> None:
    """Keep its output from the terminal, and let a key that ends the program end it too."""
    nothing = os.open(os.devnull, os.O_RDWR)
    for handle in range(3):
        os.dup2(nothing, handle)
    for number in (signal.SIGINT, signal.SIGHUP, signal.SIGTERM):
        signal.signal(number, signal.SIG_DFL)


def first_picture(folder: Path) -> Picture | None:
    """The picture as the desk makes it: the chosen channel's reading, and those of others where they are at hand.

    None where a capture is too long to be read twice.
    """
    sources = tomllib.loads(read_text(folder / FILE)).get("sources", {})
    for source in sources.values():
        if (folder / source["capture"]).stat().st_size > LARGEST:
            return None
    from lesart.desk.opening import look_at
    from lesart.desk.picture import look

    return look(look_at(folder, keeps=False), wait_for_notes=False, wait_for_others=False)
