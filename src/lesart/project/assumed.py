"""Assumed values: set by a recipe, and listed in their table by ``assumed = "bits, reference"``.

They count like all others; each has a note until a person has stated or confirmed it.
"""

from __future__ import annotations

import tomllib
from collections.abc import Iterable, Iterator, Mapping
from typing import Any

from lesart.core.errors import Problem
from lesart.core.notes import Key, Mend
from lesart.core.parameters import shown
from lesart.project.text import Editor
from lesart.project.toml_values import dotted, value_at

ASSUMED = "assumed"
IN = ("channels", "parts", "panels", "faces", "sources")
"""Groups whose tables may hold assumed values."""


def parted(tables: Mapping[str, Any]) -> tuple[dict[str, Any], tuple[Key, ...], list[Problem]]:
    """The tables without ``assumed``, the keys that it lists, and problems in it."""
    found: list[Key] = []
    problems: list[Problem] = []
    left = {name: _without(group, (name,), found, problems) if name in IN else group for name, group in tables.items()}
    return left, tuple(found), problems


def without_assumed(table: Mapping[str, Any]) -> dict[str, Any]:
    """A table without ``assumed``, in its inner tables too."""

    def bare(value: Any) -> Any:
        if isinstance(value, Mapping):
            return without_assumed(value)
        return [bare(each) for each in value] if isinstance(value, list | tuple) else value

    return {key: bare(value) for key, value in table.items() if key != ASSUMED}


def _without(node: Any, key: Key, found: list[Key], problems: list[Problem]) -> Any:
    if isinstance(node, list):
        return [_without(each, (*key, index), found, problems) for index, each in enumerate(node)]
    if not isinstance(node, Mapping):
        return node
    is_entry = len(key) > 1
    if is_entry and ASSUMED in node:
        found += _named(node, key, problems)
    return {
        name: _without(each, (*key, name), found, problems)
        for name, each in node.items()
        if not (is_entry and name == ASSUMED)
    }


def _named(table: Mapping[str, Any], key: Key, problems: list[Problem]) -> Iterator[Key]:
    said = table[ASSUMED]
    for name in _names(said):
        if name in table and name != ASSUMED:
            yield (*key, name)
        else:
            there = ", ".join(each for each in table if each not in (ASSUMED, "kind"))
            problems.append(Problem(f"{dotted(key)}.{ASSUMED}", shown(said), f"it names values of this table: {there}"))


def _names(said: object) -> tuple[str, ...]:
    return tuple(each.strip() for each in said.split(",")) if isinstance(said, str) else (str(said),)


def joined(names: Iterable[str]) -> str:
    """Assumed names as the project file lists them."""
    return ", ".join(names)


def mend_of(assumed: Iterable[Key], key: Key) -> Mend:
    """The mend that confirms the assumed value at ``key``."""
    left = [str(each[-1]) for each in assumed if each[:-1] == key[:-1] and each != key]
    return Mend((*key[:-1], ASSUMED), joined(left) or None)


def with_said(editor: Editor, text: str, keys: Iterable[Key]) -> str:
    """The text in which the values at ``keys`` are no longer assumed; unchanged where none of them was."""
    tables = tomllib.loads(text)
    left: dict[Key, list[str]] = {}
    for key in keys:
        place = (*key[:-1], ASSUMED)
        if value_at(tables, place) is None:
            continue
        names = left.setdefault(place, list(_names(value_at(tables, place) or "")))
        names[:] = [each for each in names if each != key[-1]]
    return editor.mended(text, (Mend(place, joined(names) or None) for place, names in left.items()))
