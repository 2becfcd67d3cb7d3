"""What a project may read: what lies in its folder, and what the person at this computer allowed it besides.

A project comes from anybody. One that names a file elsewhere, or has a link that leads there, could show what is none
of its business, or have Lesart write there.
"""

from __future__ import annotations

import json
from collections.abc import Iterable, Sequence
from pathlib import Path

from lesart.core.errors import StorageError
from lesart.project.folder.store import OWN_FOLDER, write_whole

WRITTEN_INTO = (OWN_FOLDER, "captures", "firmware", "rig")
"""Folders in which Lesart writes of its own accord."""
LONGEST = 1_000_000
"""Bytes of what is remembered; a longer file is not ours."""


def leads_to(folder: Path, name: str) -> Path | None:
    """Where a file lies that a project names, links followed; None where that is in its folder."""
    try:
        where, own = (folder / name).resolve(), folder.resolve()
    except (OSError, RuntimeError, ValueError):  # a link to itself is nowhere, and reading it says so
        return None
    return None if where.is_relative_to(own) else where


def all_stray(folder: Path, names: Iterable[str]) -> list[Path]:
    """Where the files of these names and the folders that Lesart writes into lie, of those that lie elsewhere."""
    found = (leads_to(folder, name) for name in (*WRITTEN_INTO, *names))
    return list(dict.fromkeys(where for where in found if where is not None))


def is_allowed(folder: Path, where: Path) -> bool:
    """Did the person here say so?"""
    return str(where) in _remembered().get(str(folder.resolve()), [])


def allow(folder: Path, places: Sequence[Path]) -> None:
    """Remember it for this project, where it lies now. Raises StorageError."""
    known, own = _remembered(), str(folder.resolve())
    known[own] = sorted({*known.get(own, []), *map(str, places)})
    path = place()
    try:
        path.parent.mkdir(parents=True, exist_ok=True)
    except OSError as error:
        raise StorageError(f"{path.parent}: it cannot be made ({error.strerror}).") from error
    write_whole(path, json.dumps(known, ensure_ascii=False, indent=1) + "\n")


def place() -> Path:
    """The file with what was allowed: the person's own, never one that a project brings."""
    from platformdirs import user_state_path

    return user_state_path("lesart") / "allowed.json"


def _remembered() -> dict[str, list[str]]:
    """By project; nothing where it cannot be read: then it is asked again."""
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
