"""TOML read in pieces, each a named table with all that hangs on it: what was read before is not read again.

An edit changes one value of one table, and must be on the glass at once. Where a text cannot be parted with certainty
it is read whole by the standard library, which also says what is wrong with one.
"""

from __future__ import annotations

import re
import tomllib
from collections.abc import Iterator
from functools import lru_cache
from typing import Any

_NAME = r"""[A-Za-z0-9_-]+|"[^"\\\n]*"|'[^'\n]*'"""
_HEADER = re.compile(rf"^\[\[?[ \t]*([A-Za-z0-9_-]+)[ \t]*(?:\.[ \t]*({_NAME}))?", re.MULTILINE)
KEPT = 512


def loads(text: str) -> dict[str, Any]:
    """The tables of a text; they are shared with those of other texts and must not be changed. Raises TOMLDecodeError
    and whatever the standard library raises."""
    # Within a text of several lines a line may look like a header.
    if '"""' in text or "'''" in text:
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
    """Put a piece to those before it; False where that might be another thing than to read them in one go."""
    own = found.get(group)
    there = whole.setdefault(group, {})
    if list(found) != [group] or not isinstance(own, dict) or not isinstance(there, dict):
        return False
    if not there.keys().isdisjoint(own) or (name is not None and len(own) != 1):
        return False
    whole[group] = {**there, **own}
    return True


def _pieces(text: str) -> Iterator[tuple[str | None, str | None, str]]:
    """Group, name and text of each run of headers that belong to one name; first what stands before any header."""
    start, group, name = 0, None, None
    for found in _HEADER.finditer(text):
        if (found[1], found[2]) == (group, name) and name is not None:
            continue
        yield group, name, text[start : found.start()]
        start, group, name = found.start(), found[1], found[2]
    yield group, name, text[start:]


@lru_cache(maxsize=KEPT)
def _read(piece: str) -> dict[str, Any]:
    return tomllib.loads(piece)
