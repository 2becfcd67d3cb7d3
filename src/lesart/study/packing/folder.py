"""The folder of a pack: written atomically, and compared with what the project gives."""

from __future__ import annotations

import json
import os
from collections.abc import Mapping
from os.path import exists, isdir, isfile, islink
from pathlib import Path

from lesart.core.errors import StorageError
from lesart.core.pack.written import LIST
from lesart.project.folder.made import is_free, workplace
from lesart.project.folder.store import FILE


def write_pack(folder: Path, files: Mapping[str, str]) -> None:
    """Write all files into a folder of their own. Raises StorageError where something else is there.

    An earlier pack is replaced as a whole; what a person put beside its files is there no more, so a folder with any
    other file is refused.
    """
    check_pack_folder(folder)
    with workplace(folder) as place:
        making = place / "made"
        for name, text in files.items():
            path = making / name
            path.parent.mkdir(parents=True, exist_ok=True)
            path.write_text(text, encoding="utf-8", newline="\n")
        if exists(folder):
            os.rename(folder.absolute(), place / "before")
        os.rename(making, folder.absolute())


def check_pack_folder(folder: Path) -> None:
    """Raises StorageError where no pack can be written, to know it before one is computed."""
    try:
        os.lstat(folder)
    except FileNotFoundError:
        return
    except OSError as error:
        raise StorageError(f"{folder}: it cannot be made ({error.strerror}).") from error
    if is_free(folder):
        return
    if islink(folder) or not isdir(folder):
        raise StorageError(f"{folder}: it is not a folder; name another one.")
    if exists(folder / FILE):
        raise StorageError(f"{folder}: it is a project; name a folder in it, like {folder / 'firmware'}.")
    known = _listed(folder)
    if known is None:
        raise StorageError(f"{folder}: there are files in it that are no pack; name an empty or a new folder.")
    strange = next((each for each in _files_in(folder) if each not in known), None)
    if strange is not None:
        raise StorageError(f"{folder}: {strange} is not of the pack; put it elsewhere, or name another folder.")


def _listed(folder: Path) -> set[str] | None:
    """Names of the files of an existing pack; None where there is none."""
    try:
        content = json.loads((folder / LIST).read_text(encoding="utf-8"))
        return {str(each) for each in content["files"]} | {LIST}
    except (OSError, ValueError, KeyError, TypeError):
        return None


def _files_in(folder: Path) -> list[str]:
    return sorted(str(each.relative_to(folder)) for each in folder.rglob("*") if isfile(each))


def stale_files(folder: Path, files: Mapping[str, str]) -> tuple[str, ...]:
    """Names of files that are missing in a folder, or differ from what the project gives."""
    out = []
    for name, text in files.items():
        try:
            same = (folder / name).read_bytes() == text.encode()
        except OSError:
            same = False
        if not same:
            out.append(name)
    return tuple(out)
