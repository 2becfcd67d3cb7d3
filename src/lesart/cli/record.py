"""``lesart record``: listen to a source's line and record it into a new capture."""

from __future__ import annotations

import argparse
import math
import sys
from datetime import datetime
from pathlib import Path
from typing import Any

from lesart.cli.ended import ended_by_signals
from lesart.cli.printed.answer import number, print_json
from lesart.cli.project import opened
from lesart.core.errors import RequestError, StorageError
from lesart.core.quantity import counted
from lesart.core.raw.source import Source
from lesart.core.raw.spelled.unit_typed import quantity_typed
from lesart.core.units import parse_unit
from lesart.core.visible import visible
from lesart.live.listening import LineState, Listening, next_free
from lesart.live.record_file import Recorded
from lesart.project.folder.store import FILE, read_text, write_whole
from lesart.project.model import Project
from lesart.project.text import Editor

SAY_EVERY_S = 1.0
SECOND = parse_unit("s")


def run(options: argparse.Namespace) -> int:
    """Record; 0 where rows came, 1 where none did."""
    lasts_s = lasting(options.lasts)
    folder, project = opened(options.project)
    source = _source_with_line(project, options.source)
    path = options.to or folder / next_free(folder, source.name, datetime.now())
    listening = Listening(source, folder)
    listening.record(path)
    listening.start()
    try:
        wait(listening, lasts_s, quiet=options.json)
    finally:
        recorded = listening.stop()
    assert recorded is not None
    kept, untaken = recorded.rows > 0, ""
    if kept and options.to is None:
        try:
            _adopt(folder, source.name, str(path.relative_to(folder)))
        except StorageError as error:
            untaken = str(error)
    _say(listening.state, recorded, untaken, as_json=options.json)
    return 0 if kept and not untaken else 1


def lasting(written: str | None) -> float:
    """Seconds to listen. Raises RequestError or QuantityError."""
    if written is None:
        return math.inf
    lasts_s = quantity_typed(written, SECOND).to(SECOND)
    if not lasts_s > 0:
        raise RequestError(f'--for "{written}"; it must be above 0 s, like 10s or 5 min.')
    return lasts_s


def _source_with_line(project: Project, name: str) -> Source:
    """The source to record. Raises RequestError with those that have a line."""
    lines = [source.name for source in project.sources.values() if source.line is not None]
    if name in lines:
        return project.sources[name]
    known = f"those with one are {', '.join(lines)}" if lines else "none has one"
    what = "has no line to listen to" if name in project.sources else "is not in the project"
    raise RequestError(f'source "{name}" {what}; {known}.')


def wait(listening: Listening, lasts_s: float, *, quiet: bool) -> None:
    """Wait until it is over or ended by a signal, reporting changes."""
    said_at = 0.0
    with ended_by_signals() as ended:
        while listening.clock() < lasts_s and not ended.wait(min(0.05, max(lasts_s - listening.clock(), 0.0))):
            if not quiet and listening.clock() - said_at >= SAY_EVERY_S:
                said_at = listening.clock()
                print(_status(listening.state), file=sys.stderr, flush=True)


def _status(state: LineState) -> str:
    bad = "".join(f", {count} {what}" for what, count in state.tally.bad.items())
    trouble = f"; {state.trouble}, tried again" if state.trouble else ""
    recorded, full = state.recorded, ""
    if recorded is not None and recorded.trouble:
        full = f"; writing fails: {recorded.trouble}, {counted(recorded.lost, 'row')} lost"
    # Only written rows count: those still waiting may never be.
    rows = counted(recorded.rows if recorded is not None else state.tally.rows, "row")
    return visible(f"{state.now_s:7.1f} s  {rows}, {state.rate_hz:.3g} a second{bad}{trouble}{full}")


def _adopt(folder: Path, source: str, capture: str) -> None:
    """Make the recording the source's capture; comments and everything else in the file stay."""
    text = read_text(folder / FILE)
    write_whole(folder / FILE, Editor().with_value(text, ("sources", source, "capture"), capture))


def _say(state: LineState, recorded: Recorded, untaken: str, *, as_json: bool) -> None:
    """Report what came, and finally how much of it is safe. ``untaken`` is why the project does not name it."""
    tally = state.tally
    if as_json:
        content: dict[str, Any] = {
            "file": str(recorded.path) if recorded.rows else None,
            "rows": recorded.rows,
            "lost": recorded.lost,
            "bad": dict(tally.bad),
            "trouble": recorded.trouble or state.trouble or None,
            "last_t": number(tally.last_t),
            "untaken": untaken or None,
        }
        print_json(content)
        return
    for event in tally.last:
        print(visible(f"{event.t:9.3f} s  {event.what}: {event.says}"), file=sys.stderr)
    if not recorded.rows:
        why = f" ({state.trouble})" if state.trouble else ""
        print(visible(f"Nothing came{why}, so there is no recording."))
        return
    if untaken:
        print(f"It could not be written into the project: {untaken}")
        print("lesart check and the next open offer it.")
    lost = f"; {counted(recorded.lost, 'row')} lost ({recorded.trouble})" if recorded.lost else ""
    print(f"{recorded.path}: {counted(recorded.rows, 'row')} safe{lost}.")
