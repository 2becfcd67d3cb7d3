"""What a project may read: its folder, and whatever the person at this computer has allowed besides.

A project may come from anybody. One that names a file elsewhere, or has a link that leads there, could show private
files, or make Lesart write there.
"""

from __future__ import annotations

import json
from collections.abc import Iterable, Sequence
from pathlib import Path

from lesart.core.errors import StorageError
from lesart.project.folder.store import OWN_FOLDER, write_whole

WRITTEN_INTO = (OWN_FOLDER, "captures", "firmware", "rig")
"""Folders in which Lesart writes on its own."""
LONGEST = 1_000_000
"""Most bytes of the file; a longer one is not ours."""


def leads_to(folder: Path, name: str) -> Path | None:
    """The real path of a file that a project names, links followed; None inside its folder."""
    try:
        where, own = (folder / name).resolve(), folder.resolve()
    except (OSError, RuntimeError, ValueError):  # a link to itself is nowhere, and reading it says so
        return None
    return None if where.is_relative_to(own) else where


def all_stray(folder: Path, names: Iterable[str]) -> list[Path]:
    """Real paths outside the folder of these files, and of the folders that Lesart writes into."""
    found = (leads_to(folder, name) for name in (*WRITTEN_INTO, *names))
    return list(dict.fromkeys(where for where in found if where is not None))


def is_allowed(folder: Path, where: Path) -> bool:
    """True where the person at this computer has allowed it."""
    return str(where) in _remembered().get(str(folder.resolve()), [])


def allow(folder: Path, places: Sequence[Path]) -> None:
    """Remember the permission for this project at its present place. Raises StorageError."""
    known, own = _remembered(), str(folder.resolve())
    known[own] = sorted({*known.get(own, []), *map(str, places)})
    path = place()
    try:
        path.parent.mkdir(parents=True, exist_ok=True)
    except OSError as error:
        raise StorageError(f"{path.parent}: it cannot be made ({error.strerror}).") from error
    write_whole(path, json.dumps(known, ensure_ascii=False, indent=1) + "\n")


def place() -> Path:
    """The file of permissions: the person's own, never one that comes with a project."""
    from platformdirs import user_state_path

    return user_state_path("lesart") / "allowed.json"


def _remembered() -> dict[str, list[str]]:
    """Permissions by project; empty where the file cannot be read: then it is asked again."""
    try:
        if place().stat().st_size > LONGEST:
            return {}
        told = json.loads(place().read_text(encoding="utf-8"))
    except (OSError, ValueError, RecursionError):
        return {}
    if not isinstance(told, dict):
        return {}
    return {
        folder: [each for each in places if isinstance(each, str)]
        for folder, places in told.items()
        if isinstance(places, list)
    }
