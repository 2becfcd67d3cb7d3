"""TOML parsed in pieces, each a named table with its subtables: unchanged pieces are not parsed again.

An edit changes one value of one table, and must be on the glass at once; within a changed piece the other tables are
not parsed again either. Where a text cannot be split safely it is parsed whole by the standard library, which also
reports errors.
"""

from __future__ import annotations

import itertools
import re
import tomllib
from collections.abc import Iterator
from functools import lru_cache
from typing import Any

_NAME = r"""[A-Za-z0-9_-]+|"[^"\\\n]*"|'[^'\n]*'"""
_HEADER = re.compile(rf"^\[\[?[ \t]*([A-Za-z0-9_-]+)[ \t]*(?:\.[ \t]*({_NAME}))?", re.MULTILINE)
_OPENING = re.compile(r"^[ \t]*\[", re.MULTILINE)
"""A line at which a table begins, or a line of a list that looks like one, where the part before it would be
incomplete."""
KEPT, KEPT_BODIES = 512, 2048

Key = tuple[str, ...]


def loads(text: str) -> dict[str, Any]:
    """The tables of a text; they are shared with those of other texts and must not be changed. Raises TOMLDecodeError
    and whatever the standard library raises."""
    # Within a text of several lines a line may look like a header; one that is indented, or whose first name stands in
    # quotes, may open what another piece did.
    if '"""' in text or "'''" in text or len(_OPENING.findall(text)) != len(_HEADER.findall(text)):
        return tomllib.loads(text)
    whole: dict[str, Any] = {}
    alone: set[str | None] = set()
    try:
        for group, name, piece in _pieces(text):
            found = _read(piece)
            if group is None:
                whole |= found
            elif not _is_added(whole, group, name, found) or (name is None and group in alone):
                return tomllib.loads(text)
            if name is None:
                alone.add(group)
    except (ValueError, RecursionError):
        return tomllib.loads(text)
    return whole


def _is_added(whole: dict[str, Any], group: str, name: str | None, found: dict[str, Any]) -> bool:
    """Add a piece to those before it; False where the result might differ from parsing them in one go."""
    own = found.get(group)
    there = whole.setdefault(group, {})
    if list(found) != [group] or not isinstance(own, dict) or not isinstance(there, dict):
        return False
    if not there.keys().isdisjoint(own) or (name is not None and len(own) != 1):
        return False
    whole[group] = {**there, **own}
    return True


def _pieces(text: str) -> Iterator[tuple[str | None, str | None, str]]:
    """Group, name and text of each run of headers of one name; first the part before any header."""
    start, group, name = 0, None, None
    for found in _HEADER.finditer(text):
        its_name = found[2] and _unquoted(found[2])
        if (found[1], its_name) == (group, name) and name is not None:
            continue
        yield group, name, text[start : found.start()]
        start, group, name = found.start(), found[1], its_name
    yield group, name, text[start:]


def _unquoted(name: str) -> str:
    """A header's name without quotes: quoted and bare keys may be the same."""
    return name[1:-1] if name[0] in "\"'" else name


@lru_cache(maxsize=KEPT)
def _read(piece: str) -> dict[str, Any]:
    try:
        found = _of_tables(piece)
    except ValueError:
        found = None
    return tomllib.loads(piece) if found is None else found


def _of_tables(piece: str) -> dict[str, Any] | None:
    """The tables of a piece, each parsed alone; None where one reopens what another wrote inline, or before.

    Raises ValueError where the standard library does for one of them.
    """
    starts = [found.start() for found in _OPENING.finditer(piece)]
    whole = {**_body(piece[: starts[0] if starts else len(piece)])}
    by_header = _ByHeader()
    for start, end in itertools.pairwise([*starts, len(piece)]):
        header, _, body = piece[start:end].partition("\n")
        path, is_entry = _header(header)
        holder = by_header.holder(whole, path[:-1])
        put = by_header.entry_put if is_entry else by_header.table_put
        if holder is None or not put(holder, path[-1], _body(body)):
            return None
    return whole


class _ByHeader:
    """Nests tables, and tracks which of them headers made: only those may be reopened."""

    def __init__(self) -> None:
        self._open: set[int] = set()
        self._written: set[int] = set()
        self._lists: set[int] = set()

    def holder(self, whole: dict[str, Any], path: Key) -> dict[str, Any] | None:
        """The table at a path, made where missing, the last one of a list; None for an inline one."""
        here = whole
        for part in path:
            there = here.get(part)
            if there is None:
                there = here[part] = {}
                self._open.add(id(there))
            elif id(there) in self._lists:
                there = there[-1]
            elif id(there) not in self._open:
                return None
            here = there
        return here

    def entry_put(self, holder: dict[str, Any], name: str, body: dict[str, Any]) -> bool:
        """Append a table to the list of that name; False where that is not a list made by headers."""
        if name not in holder:
            self._lists.add(id(holder.setdefault(name, [])))
        entries = holder[name]
        if id(entries) not in self._lists:
            return False
        entries.append({**body})
        self._open.add(id(entries[-1]))
        return True

    def table_put(self, holder: dict[str, Any], name: str, body: dict[str, Any]) -> bool:
        """Set the values of a table, which may already have subtables; False where it has values."""
        table = holder.get(name)
        if table is None:
            table = holder[name] = {}
        elif id(table) not in self._open or id(table) in self._written or not table.keys().isdisjoint(body):
            return False
        table.update(body)
        self._open.add(id(table))
        self._written.add(id(table))
        return True


@lru_cache(maxsize=KEPT_BODIES)
def _body(text: str) -> dict[str, Any]:
    return tomllib.loads(text)


@lru_cache(maxsize=KEPT_BODIES)
def _header(line: str) -> tuple[Key, bool]:
    """The path of a header, and whether it is an entry of a list. Raises ValueError for any other line."""
    path, here = [], tomllib.loads(line)
    while isinstance(here, dict) and here:
        ((name, here),) = here.items()
        path.append(name)
    return tuple(path), isinstance(here, list)
