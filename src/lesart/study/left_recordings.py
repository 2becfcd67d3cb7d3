"""Orphaned recordings: the program was killed or the disk was full before the project named them.

Each is recognised by its header, which names its source; a note offers the newest, and a key takes it up.
"""

from __future__ import annotations

import re
from collections.abc import Iterator
from functools import partial
from os.path import exists
from pathlib import Path

from lesart.core.dataclass_later import dataclass
from lesart.core.notes import DOUBT, Mend, Note
from lesart.core.quantity import clock, counted
from lesart.core.raw.source import Source
from lesart.core.step import Step
from lesart.project.captures.recording import ENDED, FIRST_LINE, HEADER_LINES
from lesart.project.model import Project
from lesart.study.bench import Bench

MOST_LOOKED_AT = 200
"""Most files of the folder examined, the newest first."""
PIECE = 1 << 20
_TITLE = re.compile(r"# source (.+): (?:text line|Modbus|UDP|MQTT|two-wire bus|this computer)")


@dataclass(frozen=True)
class LeftRecording:
    """``capture`` as in the project file; ``rows`` is the number of whole ones; ``lasts_s`` the last one's time."""

    source: str
    capture: str
    rows: int
    lasts_s: float


def inspect_left_recordings(project: Project, bench: Bench) -> Iterator[Note]:
    """A doubt for each source with a newer recording than the one it names that did not end properly."""
    for source in project.sources.values():
        if source.line is None:
            continue
        found = newest_left(bench, source)
        if found is None:
            continue
        reader = next((each.name for each in project.channels.values() if each.source == source.name), None)
        named = f"the project still names {source.capture}" if source.capture else "the project names none"
        key = ("sources", source.name, "capture")
        yield Note(
            DOUBT,
            Step.RAW,
            reader,
            f"{source.name}: a newer recording of it is there, {found.capture}, with {counted(found.rows, 'row')} up "
            f"to {clock(found.lasts_s)}; {named}.",
            figure=float(found.rows),
            unit="rows",
            remedy="take it up, or move it out of captures",
            m_does="takes it up",
            mend=(Mend(key, found.capture),),
            place=key,
        )


def newest_left(bench: Bench, source: Source) -> LeftRecording | None:
    """The newest recording of a source after the one it names; None where there is none with a row."""
    if source.name in bench.views:
        return None  # a line being listened to has its recording in view
    folder = bench.folder / "captures"
    named = bench.folder / source.capture if source.capture else None
    since = _moment(named) if named is not None else float("-inf")
    files = sorted((each for each in folder.glob("*.csv") if each != named), key=_moment, reverse=True)
    for path in files[:MOST_LOOKED_AT]:
        moment = _moment(path)
        if moment <= since:
            return None
        size = path.stat().st_size if exists(path) else 0
        what = ("left", str(path), moment, size, source.name)
        rows, lasts_s = bench.once_known(what, partial(_rows, path, source))
        if rows:
            return LeftRecording(source.name, f"captures/{path.name}", rows, lasts_s)
    return None


def _moment(path: Path) -> float:
    try:
        return path.stat().st_mtime
    except OSError:
        return float("-inf")


def _rows(path: Path, source: Source) -> tuple[int, float]:
    """Number of whole rows of a recording of that source, and the time of the last; None for another file."""
    try:
        with path.open("rb") as file:
            head = [file.readline(4096).decode("utf-8", "replace") for _ in range(HEADER_LINES)]
            title = _TITLE.match(head[1]) if len(head) > 1 else None
            if not head[0].startswith(FIRST_LINE) or title is None or title[1] != source.name:
                return 0, 0.0
            rows, last, rest = 0, b"", b""
            while piece := file.read(PIECE):
                *lines, rest = (rest + piece).split(b"\n")
                told = [line for line in lines if line and not line.startswith(b"#")]
                if lines and f" {ENDED}: ".encode() in lines[-1] and lines[-1].startswith(b"#"):
                    return 0, 0.0  # it ended properly: whoever wanted it has taken it up
                rows += len(told)
                last = told[-1] if told else last
    except OSError:
        return 0, 0.0
    try:
        return rows, float(last.split(b",")[0]) if last else 0.0
    except ValueError:
        return rows, 0.0
