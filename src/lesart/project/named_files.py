"""The files that the tables of a project name, with where each is named."""

from __future__ import annotations

from collections.abc import Iterator, Mapping
from typing import Any

NAMED = (("sources", "capture"), ("fonts", "file"), ("pictures", "file"))
"""Tables with what names a file in each of them."""


def named_files(tables: Mapping[str, Any]) -> Iterator[tuple[str, str]]:
    """Place and name of each, whatever else the tables hold."""
    for group, key in NAMED:
        for name, table in _tables(tables.get(group)):
            yield from _text(f"{group}.{name}.{key}", table.get(key))
    for name, panel in _tables(tables.get("panels")):
        for _, trace in _tables({"trace": panel.get("trace")}):
            yield from _text(f"panels.{name}.trace.capture", trace.get("capture"))


def _tables(group: object) -> Iterator[tuple[str, Mapping[str, Any]]]:
    if isinstance(group, Mapping):
        yield from ((name, table) for name, table in group.items() if isinstance(table, Mapping))


def _text(place: str, value: object) -> Iterator[tuple[str, str]]:
    if isinstance(value, str) and value and "\0" not in value:
        yield place, value
