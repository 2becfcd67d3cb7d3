"""Reading events: lines that say when something happened, and perhaps what, in words, but without numbers."""

from __future__ import annotations

import re
from collections import Counter
from collections.abc import Sequence
from pathlib import Path

from lesart.core.dataclass_later import dataclass
from lesart.project.captures.table import Table
from lesart.project.captures.text import decoded
from lesart.project.folder.files import first_bytes

TIME, EVENT = "time", "event"
"""Names of the column of times, and of events without a name."""
FEWEST, SHARE = 3, 0.8
"""Fewest lines, and their least share of all, that have to be events."""
MOST_KINDS, LONGEST = 8, 40
"""Most kinds of events, and most characters of their names; the rest count as one."""
LOOKED_AT = 400
_WHEN = re.compile(
    r"[\s\[(<\"']*+("
    r"\d{4}[-/.]\d{1,2}[-/.]\d{1,2}[T ]\d{1,2}:\d{2}(?::\d{2}(?:[.,]\d+)?)?(?:Z|[+-]\d{2}:?\d{2})?"
    r"|\d{1,2}[-/.]\d{1,2}[-/.]\d{2,4},? \d{1,2}:\d{2}(?::\d{2}(?:[.,]\d+)?)?(?: ?[AaPp][Mm])?"
    r"|\d{1,2}:\d{2}:\d{2}(?:[.,]\d+)?(?: ?[AaPp][Mm])?"
    r"|1\d{9}(?:\.\d+|\d{3})?"
    r")(?=[\s\])>\"',;|:-]|$)"
)
_AROUND = " \t,;:|\"'[]()<>-=>."


@dataclass(frozen=True)
class _Event:
    number: int
    when: str
    what: str


def looks_like_events(path: Path) -> bool:
    """True where nearly all of its first lines are events."""
    return _are_events(decoded(first_bytes(path, 1 << 16)).splitlines())


def events_in(lines: Sequence[str]) -> Table | None:
    """A row per event, a column per kind: 1 where it was that, 0 where it was another.

    So a sum of a column counts it, and a door that opened stays open until another event. None where the lines are not
    events.
    """
    if not _are_events(lines):
        return None
    events = _events(lines)
    kinds = list(dict.fromkeys(each.what for each in events))
    columns: dict[str, list[float | str | None]] = {TIME: [each.when for each in events]}
    if len(kinds) > MOST_KINDS or kinds == [""]:
        columns[EVENT] = [1.0] * len(events)
    else:
        columns |= {kind or EVENT: [float(each.what == kind) for each in events] for kind in kinds}
    return Table(len(events), columns, [each.number for each in events], "line")


def _are_events(lines: Sequence[str]) -> bool:
    told = [line for line in lines[:LOOKED_AT] if line.strip()]
    found = _events(told)
    if len(found) < max(FEWEST, SHARE * len(told)):
        return False
    # A date alone in front of words is when a log was begun, not an event.
    return max(Counter(each.when for each in found).values()) < len(found) / 2


def _events(lines: Sequence[str]) -> list[_Event]:
    """Lines of a time and words."""
    found = []
    for number, line in enumerate(lines, 1):
        match = _WHEN.match(line)
        if match is None:
            continue
        rest = " ".join(line[match.end() :].split()).strip(_AROUND)
        if len(rest) <= LONGEST and rest.isprintable() and not any(letter.isdigit() for letter in rest):
            found.append(_Event(number, match[1], rest))
    return found
