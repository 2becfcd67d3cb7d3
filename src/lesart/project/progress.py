"""How far a file is read: told by readers, watched by whoever waits, who may also stop it.

One watcher a thread, set once, rather than an argument through every reader: most readers are called from many places,
and none of them cares.
"""

from __future__ import annotations

from collections.abc import Callable
from contextvars import ContextVar

from lesart.core.errors import ReadingStopped

Watch = Callable[[str, int, int], bool]
"""Takes a file's name, bytes done and bytes in all; False stops the reading."""
_watch: ContextVar[Watch | None] = ContextVar("watch", default=None)


def watch_with(watch: Watch | None) -> None:
    """Watch what this thread reads."""
    _watch.set(watch)


def tell(name: str, done: int, of: int) -> None:
    """So far it is. Raises ReadingStopped where the one who waits does not want it any more."""
    watch = _watch.get()
    if watch is not None and not watch(name, done, of):
        share = f" at {100 * done // of} %" if of else ""
        raise ReadingStopped(f"{name}: reading was stopped{share}.")
