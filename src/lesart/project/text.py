"""Edits to the text of ``lesart.toml`` that keep everything else as it stands: comments, order, own keys."""

from __future__ import annotations

import itertools
from collections.abc import MutableMapping
from typing import Any

from lesart.core.errors import RequestError
from lesart.core.notes import Key


def with_value(text: str, key: Key, value: str | int | bool) -> str:
    """The text with the value at ``key`` set; tables on the way are made where they are missing."""
    import tomlkit  # 75 ms: only when something is edited

    document = tomlkit.parse(text)
    place: Any = document
    for step, following in itertools.pairwise(key):
        if isinstance(step, int):
            place = place[step]
            continue
        if isinstance(place, MutableMapping) and step not in place:
            if isinstance(following, int):
                raise RequestError(f"{dotted(key)}: there is no list there to change.")
            place[step] = tomlkit.table()
        place = place[step]
    last: Any = key[-1]
    # The comment behind a value belongs to the person; replacing the item would lose it.
    comment = place.item(last).trivia if hasattr(place, "item") and last in place else None
    place[last] = value
    if comment is not None and hasattr(place, "item"):
        fresh = place.item(last).trivia
        fresh.indent, fresh.comment_ws, fresh.comment, fresh.trail = (
            comment.indent, comment.comment_ws, comment.comment, comment.trail,
        )  # fmt: skip
    return tomlkit.dumps(document)


def value_at(tables: Any, key: Key) -> Any:
    """What stands at ``key`` in plain tables; None when nothing does."""
    for step in key:
        if isinstance(step, int):
            if not isinstance(tables, list) or step >= len(tables):
                return None
            tables = tables[step]
        elif isinstance(tables, dict) and step in tables:
            tables = tables[step]
        else:
            return None
    return tables


def dotted(key: Key) -> str:
    """A key as problems write it: ``channels.hive 2 mass.law[1].capacity``."""
    text = ""
    for step in key:
        text += f"[{step}]" if isinstance(step, int) else f".{step}" if text else step
    return text
