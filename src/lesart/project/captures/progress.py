"""How far long work on files is: told by those who do it, watched by whoever waits, who may also stop it.

One watcher a thread, set once, rather than an argument through every reader: most readers are called from many places,
and none of them cares.
"""

from __future__ import annotations

from collections.abc import Callable
from contextvars import ContextVar

from lesart.core.errors import ReadingStopped

Watch = Callable[[str, int, int, str], bool]
"""Takes a file's name, what is done and what in all, and what is being done with it; False stops it."""
_watch: ContextVar[Watch | None] = ContextVar("watch", default=None)


def watch_with(watch: Watch | None) -> None:
    """Watch what this thread reads."""
    _watch.set(watch)


def tell(name: str, done: int, of: int, doing: str = "Reading") -> None:
    """So far it is. Raises ReadingStopped where the one who waits does not want it any more."""
    watch = _watch.get()
    if watch is not None and not watch(name, done, of, doing):
        share = f" at {100 * done // of} %" if of else ""
        raise ReadingStopped(f"{name}: {doing.lower()} was stopped{share}.")
