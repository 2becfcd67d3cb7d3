"""Values of a TOML document by key: set, removed, looked up."""

from __future__ import annotations

import itertools
from collections.abc import Mapping, MutableMapping
from typing import Any

from lesart.core.errors import RequestError
from lesart.core.notes import Key, Written

LINES = ("references", "joins")
"""Lists with one entry per line: they have many entries, and are read like a table."""


def add_entry(document: Any, key: Key, entry: Mapping[str, Written]) -> None:
    """Add an entry: to an inline array as an inline table, else as a ``[[table]]`` of its own."""
    import tomlkit

    place = document
    for step in key[:-1]:
        if step not in place:
            place[step] = tomlkit.table()
        place = place[step]
    there = place.get(key[-1])
    if there is None and key[-1] in LINES:
        there = place[key[-1]] = tomlkit.array().multiline(True)
    elif there is None:
        place[key[-1]] = tomlkit.aot()
        there = place[key[-1]]
    if isinstance(there, tomlkit.items.AoT):
        table = tomlkit.table()
        table.update(entry)
        table.add(tomlkit.nl())
        there.append(table)
        # The library puts an empty line before an entry of a new list; the one after the entry is enough.
        there[-1].trivia.indent = there[-1].trivia.indent.lstrip("\n")
        return
    inline = tomlkit.inline_table()
    inline.update(entry)
    there.append(inline)


def delete_value(document: Any, key: Key) -> None:
    """Delete a value from plain tables or from a document; with its last entry a list goes too."""
    place = document
    for step in key[:-2]:
        place = place[step]
    del place[key[-2]][key[-1]]
    if not len(place[key[-2]]):
        del place[key[-2]]


def set_value(document: Any, key: Key, value: Written | Mapping[str, Written] | list[Written]) -> None:
    """Change one value in place."""
    import tomlkit

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
    if isinstance(value, Mapping):
        fresh_table = tomlkit.table()
        fresh_table.update(value)
        fresh_table.add(tomlkit.nl())
        place[last] = fresh_table
        return
    # The comment after a value belongs to the person; replacing the item would lose it.
    comment = place.item(last).trivia if hasattr(place, "item") and last in place else None
    place[last] = value
    if comment is not None and hasattr(place, "item"):
        fresh = place.item(last).trivia
        fresh.indent, fresh.comment_ws, fresh.comment, fresh.trail = (
            comment.indent,
            comment.comment_ws,
            comment.comment,
            comment.trail,
        )


def value_at(tables: Any, key: Key) -> Any:
    """The value at ``key`` in plain tables; None where there is none."""
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
