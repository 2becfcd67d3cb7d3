"""The yard opened with what was computed of it before: results hang on values, and its files are the same each time.

Most tests open it, and each would read and compute the same for a second. Tests of opening itself open it cold.
"""

from __future__ import annotations

import tempfile
from collections import OrderedDict
from functools import cache
from pathlib import Path

from lesart.desk.desk import Desk
from lesart.desk.opening import open_desk
from lesart.desk.project_folders import make_yard
from lesart.study.bench import Bench


@cache
def warmed() -> tuple[Bench, dict[str, int]]:
    """What a desk has computed once its notes are there, and the sizes of the captures it read."""
    with tempfile.TemporaryDirectory() as folder:
        yard = Path(folder) / "yard"
        make_yard(yard)
        desk = open_desk(yard)
        assert desk.notes
        desk.close()
        read = [what[1] for what in desk.bench.kept if isinstance(what, tuple) and what[0] == "capture"]
        return desk.bench, {each.capture: (yard / each.capture).stat().st_size for each in read}


def open_warm(folder: Path) -> Desk:
    """A copy of the yard; one whose captures are not as they were made is opened cold."""
    desk, (known, sizes) = open_desk(folder), warmed()
    paths = {folder / name: size for name, size in sizes.items()}
    if all(path.exists() and path.stat().st_size == size for path, size in paths.items()):
        desk.bench.kept, desk.bench.recent = OrderedDict(known.kept), OrderedDict(known.recent)
        desk.bench._bytes = dict(known._bytes)
        for path in paths:
            desk.bench.files.note(path)
    return desk
