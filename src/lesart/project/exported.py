"""Exported files: none replaces a file that a project reads, nor any other one without permission."""

from __future__ import annotations

from collections.abc import Iterator
from os.path import exists, isfile
from pathlib import Path

from lesart.core.errors import LesartError, StorageError
from lesart.project.check import read_tables
from lesart.project.folder.store import FILE, OWN_FOLDER, read_text, write_whole
from lesart.project.named_files import named_files


class TakenError(StorageError):
    """Another file is there; the person may want it replaced."""


def check_free(path: Path, project: Path | None = None, *, replace: bool = False) -> None:
    """Check whether a file may be written.

    Raises StorageError where a project reads it: that in the folder ``project``, or that in the file's own folder; and
    TakenError where another file is there that is not to be replaced.
    """
    where = path.resolve()
    for folder in _projects(where, project):
        if where.is_relative_to(folder / OWN_FOLDER):
            raise StorageError(f"{path}: Lesart keeps its own files there; name another folder, like drawings.")
        if where in _read_by(folder):
            raise StorageError(f"{path}: the project in {folder.name} reads this file; name another one.")
    if exists(path) and not isfile(path):
        raise StorageError(f"{path}: it is not a file that can be replaced; name another one.")
    if exists(path) and not replace:
        raise TakenError(f"{path}: it already exists.")


def write_export(path: Path, content: str | bytes, project: Path | None = None, *, replace: bool = False) -> None:
    """Write an exported file, as ``check_free`` allows. Raises StorageError."""
    check_free(path, project, replace=replace)
    write_whole(path, content)


def _projects(where: Path, project: Path | None) -> Iterator[Path]:
    if project is not None:
        yield project.resolve()
    yield from (folder for folder in where.parents if isfile(folder / FILE))


def _read_by(folder: Path) -> set[Path]:
    """All files that a project reads, ``lesart.toml`` first; for a broken project only that one."""
    found = {(folder / FILE).resolve()}
    try:
        tables = read_tables(read_text(folder / FILE))
    except LesartError:
        return found
    return found | {(folder / name).resolve() for _, name in named_files(tables)}
