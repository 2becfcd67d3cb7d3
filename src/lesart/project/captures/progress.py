"""Progress of long work on files: reported by the workers, watched by whoever waits, who may also stop it.

One watcher per thread, set once, rather than an argument through every reader: most readers are called from many places
that do not care.
"""

from __future__ import annotations

from collections.abc import Callable
from contextvars import ContextVar

from lesart.core.errors import ReadingStopped

Watch = Callable[[str, int, int, str], bool]
"""Takes a file's name, the amount done and the total, and the activity; returning False stops it."""
_watch: ContextVar[Watch | None] = ContextVar("watch", default=None)


def watch_with(watch: Watch | None) -> None:
    """Set the watcher of this thread."""
    _watch.set(watch)


def tell(name: str, done: int, of: int, doing: str = "Reading") -> None:
    """Report progress. Raises ReadingStopped where the watcher stops it."""
    watch = _watch.get()
    if watch is not None and not watch(name, done, of, doing):
        share = f" at {100 * done // of} %" if of else ""
        raise ReadingStopped(f"{name}: {doing.lower()} was stopped{share}.")
