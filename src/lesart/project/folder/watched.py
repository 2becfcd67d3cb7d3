"""Watching files that were read: somebody may change, truncate or remove one while its content is shown."""

from __future__ import annotations

from dataclasses import field
from pathlib import Path

from lesart.core.dataclass_later import dataclass

Stamp = tuple[int, int, int]
"""Modification time in nanoseconds, size in bytes, and inode."""


@dataclass(frozen=True)
class Changes:
    """Changes since the last look.

    ``changed`` are to be read again, ``growing`` are still being written, ``gone`` no longer exist.
    """

    changed: tuple[Path, ...] = ()
    growing: tuple[Path, ...] = ()
    gone: tuple[Path, ...] = ()
    back: tuple[Path, ...] = ()

    def __add__(self, other: Changes) -> Changes:
        return Changes(
            self.changed + other.changed, self.growing + other.growing, self.gone + other.gone, self.back + other.back
        )

    @property
    def any(self) -> bool:
        """True where there is any change."""
        return bool(self.changed or self.growing or self.gone or self.back)

    @property
    def sentence(self) -> str:
        """A sentence for a person."""
        told = (
            (self.changed, "was changed outside and is read again."),
            (self.growing, "is being written to; it is read again once it rests."),
            (self.gone, "is gone; what was read of it is still shown."),
            (self.back, "is back, as it was."),
        )
        return " ".join(f"{', '.join(path.name for path in paths)} {says}" for paths, says in told if paths)


@dataclass
class WatchedFiles:
    """Watched files; ``gone`` are those that do not exist now."""

    gone: set[Path] = field(default_factory=set)
    _read: dict[Path, Stamp] = field(default_factory=dict)
    _last: dict[Path, Stamp] = field(default_factory=dict)

    def note(self, path: Path) -> None:
        """Note that a file has been read."""
        stamp = _stamp(path)
        self.gone.discard(path)
        self._last.pop(path, None)
        if stamp is not None:
            self._read[path] = stamp

    def look(self) -> Changes:
        """Look for changes. A file counts as changed once it was the same twice in a row."""
        changed, growing, gone, back = [], [], [], []
        for path, read in list(self._read.items()):
            now, before = _stamp(path), self._last.get(path)
            if now is None:
                if path not in self.gone:
                    gone.append(path)
                    self.gone.add(path)
                continue
            was_gone = path in self.gone
            self.gone.discard(path)
            if now == read:
                if was_gone:
                    back.append(path)
                self._last.pop(path, None)
                continue
            self._last[path] = now
            if now == before:
                changed.append(path)
                del self._read[path]
            elif before is None:
                growing.append(path)
        return Changes(tuple(changed), tuple(growing), tuple(gone), tuple(back))


def _stamp(path: Path) -> Stamp | None:
    try:
        stat = path.stat()
    except OSError:
        return None
    return stat.st_mtime_ns, stat.st_size, stat.st_ino
