"""Variants of a channel: other ways to read the same signal, each with its own laws, correction, filters or alarms.

A section that a variant does not have itself is that of its channel. It is copied before an edit, so that no variant
ever changes another.
"""

from __future__ import annotations

import tomllib
from collections.abc import Mapping
from typing import Any

from lesart.core.errors import RequestError
from lesart.core.notes import Key, Written
from lesart.project.model import VARYING, Table
from lesart.project.text import Editor
from lesart.project.toml_values import LINES, value_at

NAMES = "βγδεζηθικλμνξοπρστυφχψω"
FIRST = "α"
"""Name of the channel itself among its variants."""


def resolved(tables: dict[str, Any]) -> dict[str, Any]:
    """The tables with every variant's sections filled in from its channel, for looking values up."""
    channels = tables.get("channels")
    if not isinstance(channels, Mapping) or not any(variant_tables(table) for table in channels.values()):
        return tables
    filled = {name: _filled(table) for name, table in channels.items()}
    return {**tables, "channels": filled}


def variant_tables(table: object) -> Mapping[str, Any]:
    """The variants of a channel's table, by name."""
    found = table.get("variants") if isinstance(table, Mapping) else None
    return found if isinstance(found, Mapping) else {}


def _filled(table: Any) -> Any:
    own = {section: table[section] for section in VARYING if section in table} if variant_tables(table) else {}
    if not own:
        return table
    variants = {
        name: {**own, **each} if isinstance(each, Mapping) else each for name, each in variant_tables(table).items()
    }
    return {**table, "variants": variants}


def sections_of(table: Table, variant: Table) -> dict[str, Any]:
    """The channel's table as a variant has it, without variants."""
    plain = {key: value for key, value in table.items() if key != "variants"}
    return {**plain, **{section: variant[section] for section in VARYING if section in variant}}


def free_name(table: Table) -> str:
    """The next Greek letter. Raises RequestError when they are all used."""
    taken = variant_tables(table)
    for name in NAMES:
        if name not in taken:
            return name
    raise RequestError("All Greek letters are taken; drop a variant first.")


def with_own(editor: Editor, text: str, key: Key) -> str:
    """The text in which the variant has its own copy of the section of ``key``; unchanged for other keys."""
    if len(key) < 5 or key[0] != "channels" or key[2] != "variants":
        return text
    section, tables = key[:5], tomllib.loads(text)
    if value_at(tables, section) is not None:
        return text
    return copied(editor, text, value_at(tables, (*key[:2], key[4])), section)


def copied(editor: Editor, text: str, value: Any, key: Key) -> str:
    """The text with a section written at ``key``: lists as entries, tables as tables."""
    if isinstance(value, list):
        for entry in value:
            text = editor.with_entry(text, key, entry)
        return text
    if not isinstance(value, Mapping):
        return text
    plain: dict[str, Written] = {name: each for name, each in value.items() if name not in LINES}
    text = editor.with_table(text, key, plain)
    for name in LINES:
        for entry in value.get(name, ()):
            text = editor.with_entry(text, (*key, name), entry)
    return text
