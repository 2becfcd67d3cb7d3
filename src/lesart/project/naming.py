"""Renaming and copying tables of the project; all mentions follow.

The parameters themselves say what they name, so a new one is followed as soon as it does.
"""

from __future__ import annotations

import re
from collections.abc import Iterator

from lesart.core.errors import RequestError
from lesart.core.notes import Key
from lesart.core.parameters import Parameter
from lesart.project.check import read_tables
from lesart.project.model import Project, Table
from lesart.project.schema import parameters_at, tables_in
from lesart.project.text import Editor
from lesart.project.toml_lines import with_copied_tables
from lesart.project.toml_values import value_at

NOUNS = {"channels": "channel", "panels": "panel", "faces": "face", "parts": "part"}
"""What can be renamed and copied, with its noun."""
CALLED = {**NOUNS, "charsets": "character set", "pictures": "picture", "fonts": "font"}
"""Everything that a person names."""
LONGEST = 40
TASKS = {"channels": ("convert", "count"), "panels": ("draw", "scan"), "sources": ("read", "count")}
"""Tasks of the loop are named after their subjects."""
LINKED = {"parts": ("panels", "sums"), "panels": ("parts",)}
"""A panel and its part in the hook-up share a name, and so do a sum and its part."""


def renamed(editor: Editor, text: str, project: Project, group: str, old: str, typed: str) -> str:
    """The text with a table renamed, and every mention of it. Raises RequestError for an invalid name."""
    new = free_name(project, group, typed)
    for each in (group, *LINKED.get(group, ())):
        tables = read_tables(text)
        if old in tables.get(each, {}) and new not in tables.get(each, {}):
            text = _with_name(editor, text, project, each, old, new)
    return _measured(editor, text, project, old, new) if group == "parts" else text


def _with_name(editor: Editor, text: str, project: Project, group: str, old: str, new: str) -> str:
    mentions = list(mentions_of(project, read_tables(text), group, old, new))
    text = editor.with_renamed(text, (group, old), new)
    for key, value in mentions:
        text = editor.with_value(text, (group, new, *key[2:]) if key[:2] == (group, old) else key, value)
    for word in TASKS.get(group, ()):
        if f"{word} {old}" in project.loop.overruled:
            text = editor.with_renamed(text, ("loop", "tasks", f"{word} {old}"), f"{word} {new}")
    return text


def _measured(editor: Editor, text: str, project: Project, old: str, new: str) -> str:
    """The text with measured values renamed, which are named after their pins."""
    for name, value in project.measured.items():
        if name.startswith((f"{old}.", f"{old} ")):
            called = new + name.removeprefix(old)
            # In its line, so that the list keeps its order; in a file written differently it goes to the end.
            in_line = re.sub(rf'(?m)^(\s*)"{re.escape(name)}"(?=\s*=)', rf'\1"{called}"', text)
            if value_at(read_tables(in_line), ("wire", "measured", called)) == value:
                text = in_line
                continue
            text = editor.without_value(text, ("wire", "measured", name))
            text = editor.with_value(text, ("wire", "measured", called), value)
    return text


def mentions_of(project: Project, tables: Table, group: str, old: str, new: str) -> Iterator[tuple[Key, str]]:
    """Each value that names a table, with its new value after renaming."""
    for table in tables_in(tables):
        for parameter in parameters_at(project, table):
            written = value_at(tables, (*table, parameter.name))
            if isinstance(written, str):
                value = _followed(parameter, written, group, old, new)
                if value != written:
                    yield (*table, parameter.name), value


def _followed(parameter: Parameter, written: str, group: str, old: str, new: str) -> str:
    own = "channels" if parameter.channel else "parts" if parameter.kind == "part" else parameter.names
    if own == group:
        return new if written == old else written
    if own == "pins" and group == "parts":
        part, dot, pin = written.rpartition(".")
        return f"{new}{dot}{pin}" if part == old else written
    if own == "formula" and group == "channels":
        # ``t = yard air in °C; r = 4.7 kΩ``: a channel comes after the sign, with or without its unit.
        pattern = rf"(=\s*){re.escape(old)}(?=\s*(?:;|$| in ))"
        return re.sub(pattern, lambda match: match[1] + new, written)
    return written


def free_name(project: Project, group: str, typed: str) -> str:
    """A name that nothing of its group has yet. Raises RequestError."""
    name = typed.strip()
    if not name or len(name) > LONGEST or not name.isprintable() or "." in name or '"' in name:
        raise RequestError(f'"{typed}" cannot be a name; it is 1 to {LONGEST} letters, without points and quotes.')
    if name in project.tables.get(group, {}):
        raise RequestError(f'There is a {CALLED.get(group, group)} "{name}" already; use another name.')
    return name


def copied(editor: Editor, text: str, project: Project, group: str, old: str, typed: str) -> str:
    """The text with a table a second time under another name; of a panel with its faces, which show on the copy.

    Raises RequestError where the name cannot be, or the table is written in line.
    """
    new = free_name(project, group, typed)
    text = _copy(text, (group, old), new)
    if group == "panels":
        for face in project.faces_on(old):
            other = face.name.replace(old, new) if old in face.name else f"{face.name} {new}"
            if other in project.faces:
                other = f"{face.name} on {new}"
            text = _copy(text, ("faces", face.name), other)
            text = editor.with_value(text, ("faces", other, "panel"), new)
    return text


def _copy(text: str, key: Key, name: str) -> str:
    found = with_copied_tables(text, key, name)
    if found is None:
        raise RequestError(f"{key[0]}.{key[1]} is not written as a table of its own, so it cannot be copied here.")
    return found
