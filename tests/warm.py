"""The yard opened with what was computed of it before: results hang on values, and its files are the same each time.

Most tests open it, and each would read, check and compute the same for a second. Tests of opening itself open it cold.
"""

from __future__ import annotations

import atexit
import shutil
import tempfile
from collections import OrderedDict
from collections.abc import Hashable
from functools import cache, partial
from pathlib import Path
from unittest.mock import patch

from lesart.desk import opening
from lesart.desk.desk import Desk
from lesart.desk.picture import picture_of
from lesart.desk.project_file import project_to_open
from lesart.desk.project_folders import make_yard
from lesart.study.bench import Bench
from lesart.study.tokens import token_of
from lesart.study.whole_bench import bench_at


@cache
def yard_once_made() -> Path:
    """The yard's files. Read only; gone with the process."""
    folder = Path(tempfile.mkdtemp(prefix="lesart-yard-"))
    atexit.register(shutil.rmtree, folder, ignore_errors=True)
    make_yard(folder / "yard")
    return folder / "yard"


@cache
def warmed() -> Desk:
    """A desk over the yard that has computed its notes and its first picture; closed, and nothing but known from."""
    made = yard_once_made()
    desk = opening.open_desk(shutil.copytree(made, made.with_name("opened")))
    assert desk.notes
    picture_of(desk)
    desk.close()
    return desk


def open_warm(folder: Path) -> Desk:
    """A copy of the yard. What stands in it as in the yard is taken from there, and so is what hangs on it; one whose
    captures are not as they were made computes all of it."""
    known = warmed()
    with (
        patch.object(opening, "project_to_open", partial(project_to_open, before=known.state.project)),
        patch.object(opening, "bench_at", partial(_bench_knowing, known)),
    ):
        desk = opening.open_desk(folder)
    if desk.bench.kept and desk.state.history.text == known.state.history.text:
        was, now = token_of(known.state.project), token_of(desk.state.project)
        for key, result in known.bench.recent.items():
            desk.bench.recent.setdefault(_in_place(key, known.folder, folder, {was: now}), result)
    return desk


def _in_place(key: Hashable, was: Path, now: Path, changed: dict[Hashable, Hashable]) -> Hashable:
    """The key of the same result in another folder."""
    if not isinstance(key, tuple):
        return key
    return tuple(part.replace(str(was), str(now)) if isinstance(part, str) else changed.get(part, part) for part in key)


def _bench_knowing(known: Desk, folder: Path, *, keeps: bool = True) -> Bench:
    bench = bench_at(folder, keeps=keeps)
    made = [each for each in known.folder.glob("*/*") if each.is_file()]
    if all(_is_as(folder / each.relative_to(known.folder), each) for each in made):
        bench.kept, bench._bytes = OrderedDict(known.bench.kept), dict(known.bench._bytes)
        for what in known.bench.kept:
            if isinstance(what, tuple) and what[0] == "capture":
                bench.files.note(folder / what[1].capture)
        for trace in known.state.project.traces.values():
            bench.files.note(folder / trace.capture)
    return bench


def _is_as(path: Path, made: Path) -> bool:
    return path.exists() and path.stat().st_size == made.stat().st_size
