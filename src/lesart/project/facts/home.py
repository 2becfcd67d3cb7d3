"""A fact with its home, and tables in which facts not stated again are filled in from there."""

from __future__ import annotations

from collections.abc import Iterator, Mapping
from typing import Any

from lesart.core.dataclass_later import dataclass
from lesart.core.notes import Key, Written
from lesart.project.model import Home, Table
from lesart.project.tables.variants import variant_tables
from lesart.project.toml_values import value_at

Homes = Mapping[Key, Home]
"""Homes by the key at which a fact may be stated again."""
Found = Iterator[tuple[Key, Home]]


@dataclass(frozen=True)
class LawPlace:
    """A law of a channel, or of a variant with laws of its own: ``key`` is that of its entry in the list."""

    channel: str
    table: Table
    key: Key
    index: int
    entry: Table
    laws: tuple[Table, ...]


def laws_in(tables: Table) -> Iterator[LawPlace]:
    """Every law of the project; those that a variant shares with its channel only once, at the channel."""
    for name, table in tables.get("channels", {}).items():
        for key, section in _law_lists(name, table):
            laws = tuple(entry for entry in section if isinstance(entry, Mapping)) if isinstance(section, list) else ()
            if laws and len(laws) == len(section):
                for index, entry in enumerate(laws):
                    yield LawPlace(name, table, (*key, index), index, entry, laws)


def _law_lists(name: str, table: Table) -> Iterator[tuple[Key, Any]]:
    own = table.get("law")
    yield ("channels", name, "law"), own
    for variant, each in variant_tables(table).items():
        if isinstance(each, Mapping) and "law" in each:
            yield ("channels", name, "variants", variant, "law"), each["law"]


def with_homes(tables: Table, homes: Homes) -> dict[str, Any]:
    """The tables with each fact that is not stated again filled in from its home; stated ones are kept."""
    missing = {key: home.written for key, home in homes.items() if value_at(tables, key) is None}
    filled: dict[str, Any] = _put(tables, missing) if missing else dict(tables)
    return filled


def _put(node: Any, values: Mapping[Key, Written]) -> Any:
    """A copy of tables and lists along the keys, sharing everything else.

    Anything else on the way is a problem reported elsewhere.
    """
    of_list = any(isinstance(key[0], int) for key in values)
    if node is not None and not isinstance(node, list if of_list else Mapping):
        return node
    copy: Any = list(node) if isinstance(node, list) else dict(node or {})
    below: dict[str | int, dict[Key, Written]] = {}
    for key, value in values.items():
        if len(key) == 1:
            copy[key[0]] = value
        else:
            below.setdefault(key[0], {})[key[1:]] = value
    for head, rest in below.items():
        inner = copy[head] if isinstance(head, int) else copy.get(head)
        copy[head] = _put(inner, rest)
    return copy
