"""What a person's computer remembers between runs: recent projects, the look, the position in the walk.

It is a convenience: where it cannot be read or written nothing is reported, and nothing is lost.
"""

from __future__ import annotations

import json
from dataclasses import asdict, replace
from os.path import isfile
from pathlib import Path
from typing import Any

from lesart.core.dataclass_later import dataclass
from lesart.core.errors import StorageError
from lesart.project.folder.store import FILE, OWN_FOLDER, write_whole

MOST_RECENT = 5
LONGEST = 20_000
"""Bytes of the file; a longer one is not ours."""


@dataclass(frozen=True)
class Remembered:
    """``recent`` are folders of projects, the latest first; ``walk`` is the stop at which the guided walk continues."""

    recent: tuple[str, ...] = ()
    light: bool = False
    walk: int = 0


def place() -> Path:
    """The file."""
    from platformdirs import user_state_path

    return user_state_path("lesart") / "remembered.json"


def remembered() -> Remembered:
    """What is remembered, without projects that no longer exist."""
    try:
        path = place()
        if path.stat().st_size > LONGEST:
            return Remembered()
        told: Any = json.loads(path.read_text(encoding="utf-8"))
    except (OSError, ValueError, RecursionError):
        return Remembered()
    if not isinstance(told, dict):
        return Remembered()
    recent, light, walk = told.get("recent"), told.get("light"), told.get("walk")
    folders = [each for each in recent if isinstance(each, str)] if isinstance(recent, list) else []
    return Remembered(
        tuple(each for each in folders if _is_project(each))[:MOST_RECENT],
        light is True,
        walk if type(walk) is int and walk >= 0 else 0,
    )


def _is_project(folder: str) -> bool:
    try:
        return isfile(Path(folder) / FILE)
    except (OSError, ValueError):
        return False


def remember_project(folder: Path) -> None:
    """Remember a project as the latest."""
    was = remembered()
    own = str(folder.absolute())
    _write(replace(was, recent=(own, *(each for each in was.recent if each != own))[:MOST_RECENT]))


def remember_look(*, light: bool) -> None:
    """Remember the look: dark ink or light parchment."""
    _write(replace(remembered(), light=light))


def remember_walk(stop: int) -> None:
    """Remember where the guided walk continues."""
    _write(replace(remembered(), walk=stop))


def has_unsaved(folder: str) -> bool:
    """True where a run left unsaved work there."""
    try:
        return any((Path(folder) / OWN_FOLDER).glob("unsaved*.toml"))
    except OSError:
        return False


def _write(what: Remembered) -> None:
    try:
        path = place()
        path.parent.mkdir(parents=True, exist_ok=True)
        write_whole(path, json.dumps(asdict(what), ensure_ascii=False, indent=1) + "\n")
    except (OSError, StorageError):
        return
