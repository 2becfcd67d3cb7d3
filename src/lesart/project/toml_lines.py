"""Edits to the text of a project line by line: everything around a change stays to the letter, and it is quick.

Parsing a document with its comments takes ten times as long as parsing its values, and assigns comments after a table
to that table, though they mostly belong to the next one. So plain texts are changed in their lines; each change of more
than a value is parsed again and compared with what was meant, and is None where it differs. The rest goes through the
library's documents, in ``text``.
"""

from __future__ import annotations

import itertools
import json
import re
import tomllib
from collections.abc import Mapping, Sequence
from functools import lru_cache
from typing import Any

from lesart.core.notes import Key, Written
from lesart.project import toml_pieces
from lesart.project.toml_values import LINES, value_at

_BARE = re.compile(r"[A-Za-z0-9_-]+")


def with_table_added(text: str, key: Key, table: Mapping[str, Written]) -> str | None:
    """The text with a table at ``key``, after the last of those with the same parent; None where there is none, where
    the key exists, or where a value takes more than a line."""
    return None if value_at(toml_pieces.loads(text), key) is not None else _added(text, key, table, "[{}]", key[:-1])


def with_entry_added(text: str, key: Key, entry: Mapping[str, Written]) -> str | None:
    """The text with another ``[[table]]`` at the end of the list at ``key``; None for an inline list."""
    there = value_at(toml_pieces.loads(text), key)
    if key[-1] in LINES:
        return _line_added(text, key, entry) if there else None
    return _added(text, key, entry, "[[{}]]", key if there else key[:-1])


def _line_added(text: str, key: Key, entry: Mapping[str, Written]) -> str | None:
    """Another entry in a list with one entry per line, written like the one before it."""
    whole, lines = toml_pieces.loads(text), _lines_of(text)
    inside = _lines_of_list(lines, key)
    if not inside:
        return None
    said = ", ".join(f"{_quoted(name)} = {_scalar(value)}" for name, value in entry.items())
    last = lines[inside[-1]]
    indent, blank = last[: len(last) - len(last.lstrip())], " " if last.lstrip().startswith("{ ") else ""
    line = f"{indent}{{{blank}{said}{blank}}},\n"
    wanted = _with(whole, key, [*(value_at(whole, key) or ()), dict(entry)])
    return _if_it_is([*lines[: inside[-1] + 1], line, *lines[inside[-1] + 1 :]], wanted)


def _replaced_in_line(text: str, key: Key, value: Written) -> str | None:
    """A value replaced in an entry of such a list."""
    *path, index, name = key
    lines = _lines_of(text)
    inside = [place for place in _lines_of_list(lines, tuple(path)) if lines[place].lstrip().startswith("{")]
    if not isinstance(index, int) or index >= len(inside):
        return None
    pattern = re.compile(rf'(?<=[{{,\s])({re.escape(str(name))}\s*=\s*)("[^"\\\n]*"|[\w.+:-]+)')
    line, count = pattern.subn(lambda found: f"{found[1]}{_scalar(value)}", lines[inside[index]], count=1)
    lines[inside[index]] = line
    return _if_it_is(lines, _with(toml_pieces.loads(text), key, value)) if count else None


def _lines_of_list(lines: Sequence[str], key: Key) -> range:
    """The lines of a list whose brackets have lines of their own; none for any other."""
    start = header_of(lines, key[:-1])
    if start is None or not isinstance(key[-1], str):
        return range(0)
    begins = re.compile(rf"\s*{re.escape(key[-1])}\s*=\s*\[\s*(#.*)?")
    first = next((place for place in range(start + 1, len(lines)) if begins.fullmatch(lines[place])), len(lines))
    end = next((place for place in range(first, len(lines)) if lines[place].strip() == "]"), 0)
    return range(first + 1, end)


def _added(text: str, key: Key, table: Mapping[str, Written], brackets: str, behind: Key) -> str | None:
    """The text with lines of a table inserted after the values of the last one that begins with ``behind``.

    Comments after those belong to what comes next, and stay before it.
    """
    path, whole = [str(part) for part in key], toml_pieces.loads(text)
    if path != list(key) or not all(isinstance(value, Written) for value in table.values()):
        return None
    lines = _lines_of(text)
    own: list[int] = []
    while behind and not own:
        own = [place for place in _headers(lines) if header_path(lines[place])[: len(behind)] == list(behind)]
        behind = behind[:-1]
    if not own:
        return None
    there = value_at(whole, key)
    wanted = _with(whole, key, [*(there or ()), dict(table)] if brackets.startswith("[[") else dict(table))
    end = _end_of_table(lines, own[-1], _headers(lines))
    header = brackets.format(".".join(map(_quoted, path)))
    values = [f"{_quoted(name)} = {_scalar(value)}\n" for name, value in table.items()]
    before = [*lines[: end - 1], lines[end - 1].rstrip("\n") + "\n"]
    gap = ["\n"] if lines[end:] and lines[end].strip() else []
    return _if_it_is([*before, "\n", f"{header}\n", *values, *gap, *lines[end:]], wanted)


def _with(tables: Any, key: Key, value: Any) -> Any:
    """Tables with a value at ``key``; shared ones on the way are copied."""
    if not key:
        return value
    if isinstance(key[0], int):
        return [_with(entry, key[1:], value) if place == key[0] else entry for place, entry in enumerate(tables)]
    return {**tables, key[0]: _with(tables.get(key[0], {}), key[1:], value)}


def _without(tables: Any, key: Key) -> Any:
    """Tables without what is at ``key``, and without its list or table where that becomes empty."""
    held = tables[key[0]]  # KeyError or IndexError where nothing is there
    if len(key) == 1:
        if isinstance(tables, list):
            return [*tables[: int(key[0])], *tables[int(key[0]) + 1 :]]
        return {name: value for name, value in tables.items() if name != key[0]}
    left = _without(held, key[1:])
    return _without(tables, key[:1]) if len(key) == 2 and not left else _with(tables, key[:1], left)


def _if_it_is(lines: Sequence[str], wanted: Mapping[str, Any]) -> str | None:
    """The text of lines, if it parses to what it should."""
    text = "".join(lines)
    try:
        return text if toml_pieces.loads(text) == wanted else None
    except tomllib.TOMLDecodeError:
        return None


def _lines_of(text: str) -> list[str]:
    """Lines with their ends; only these end a line of TOML, whatever the standard library takes for one."""
    return re.findall(r"[^\n]*\n|[^\n]+", text)


def _headers(lines: Sequence[str]) -> list[int]:
    """Lines at which a table begins, or a line of a list that looks like one."""
    return [place for place, line in enumerate(lines) if line.lstrip().startswith("[")]


def cut_entry(text: str, key: Key) -> str | None:
    """The text without the lines of a ``[[table]]``; None where the entry is not written as one."""
    wanted = _without(toml_pieces.loads(text), key)
    lines = _lines_of(text)
    headers, path = _headers(lines), [part for part in key if isinstance(part, str)]
    for place, first in enumerate(headers):
        if path[-1] not in lines[first] or header_path(lines[first]) != path:
            continue
        behind = headers[place + 1] if place + 1 < len(headers) else len(lines)
        until = _end_of_table(lines, first, headers)
        if first and not lines[first - 1].strip() and until < behind and not lines[until].strip():
            until += 1  # of two blank lines one is enough
        if (left := _if_it_is([*lines[:first], *lines[until:]], wanted)) is not None:
            return left
    return None


def replaced_value(text: str, key: Key, value: Written) -> str | None:
    """The text with a value that stands alone after its key in a line; None where it is not written so.

    What stands around it stays to the letter. Texts over several lines could hold what looks like a header, so a file
    that has any is left to the parser.
    """
    if '"""' in text or "'''" in text or not isinstance(key[-1], str):
        return None
    if len(key) > 2 and key[-3] in LINES:
        return _replaced_in_line(text, key, value)
    lines = re.split(r"(?<=\n)", text)  # a line of TOML ends nowhere else
    start = header_of(lines, key[:-1])
    if start is None:
        return None
    pattern = re.compile(
        rf'(\s*(?:{re.escape(key[-1])}|"{re.escape(key[-1])}")\s*=\s*)("[^"\\\n]*"|[\w.+:-]+)(\s*(?:#.*)?\s*)'
    )
    for place in range(start + 1, len(lines)):
        if lines[place].lstrip().startswith("["):
            return None
        match = pattern.fullmatch(lines[place])
        if match is not None:
            lines[place] = f"{match[1]}{_scalar(value)}{match[3]}"
            return "".join(lines)
    return None


NONE = "[]"
"""An empty list, as written."""


def value_added(text: str, key: Key, value: Written) -> str | None:
    """The text with another value, after the others of its table; None where the table is not written as one."""
    return _behind_others(text, key, value, _scalar(value))


def none_added(text: str, key: Key) -> str | None:
    """The text with an empty list, placed as by ``value_added``."""
    return _behind_others(text, key, [], NONE)


def cut_none(text: str, key: Key) -> str | None:
    """The text without the line of such a list, whose table stays; None where it is not alone on a line."""
    whole, lines = toml_pieces.loads(text), _lines_of(text)
    table = {name: each for name, each in value_at(whole, key[:-1]).items() if name != key[-1]}
    wanted = _with(whole, key[:-1], table)
    for place, line in enumerate(lines):
        if NONE in line and (left := _if_it_is([*lines[:place], *lines[place + 1 :]], wanted)):
            return left
    return None


def _behind_others(text: str, key: Key, value: Any, literal: str) -> str | None:
    whole, lines = toml_pieces.loads(text), _lines_of(text)
    start = header_of(lines, key[:-1])
    if start is None or isinstance(key[-1], int) or value_at(whole, key) is not None:
        return None
    end = _end_of_table(lines, start, _headers(lines))
    before = [*lines[: end - 1], lines[end - 1].rstrip("\n") + "\n"]
    line = f"{_quoted(key[-1])} = {literal}\n"
    return _if_it_is([*before, line, *lines[end:]], _with(whole, key, value))


def cut_value(text: str, key: Key) -> str | None:
    """The text without the line of a value; None where it is not alone on a line, or is the only one in its table."""
    lines = _lines_of(text)
    start = header_of(lines, key[:-1])
    if start is None:
        return None
    wanted = _without(toml_pieces.loads(text), key)
    for place in range(start + 1, _end_of_table(lines, start, _headers(lines))):
        if str(key[-1]) in lines[place] and (left := _if_it_is([*lines[:place], *lines[place + 1 :]], wanted)):
            return left
    return None


def header_of(lines: Sequence[str], table: Key) -> int | None:
    """The line of the header of a table, or of an entry of a list of tables; None for inline tables."""
    *path, last = table if table else ("",)
    index = last if isinstance(last, int) else None
    wanted = [*path] if index is not None else [*path, last]
    if any(isinstance(part, int) for part in wanted):
        return None
    opening = "[[" if index is not None else "["
    found = [
        place
        for place, line in enumerate(lines)
        if line.lstrip().startswith(opening)
        and str(wanted[-1]) in line
        and header_path(line) == wanted
        and (index is not None or not line.lstrip().startswith("[["))
    ]
    return found[index or 0] if len(found) > (index or 0) else None


def _scalar(value: Written) -> str:
    """A scalar in TOML: a text as in JSON, with one more control code escaped."""
    if isinstance(value, bool):
        return "true" if value else "false"
    return json.dumps(value, ensure_ascii=False).replace("\x7f", "\\u007f") if isinstance(value, str) else str(value)


def swapped(text: str, key: Key) -> str | None:
    """The text with the lines of the ``[[table]]`` at ``key`` and those of the next one swapped; None where they are
    not written so."""
    wanted = tomllib.loads(text)
    first, index = value_at(wanted, key[:-1]), int(key[-1])
    first[index], first[index + 1] = first[index + 1], first[index]
    lines = _lines_of(text)
    headers = _headers(lines)
    own = [place for place in headers if header_path(lines[place]) == list(key[:-1])]
    if len(own) <= index + 1:
        return None
    one, other = ((start, _end_of_table(lines, start, headers)) for start in own[index : index + 2])
    between = lines[one[1] : other[0]]
    moved = [*lines[: one[0]], *lines[slice(*other)], *between, *lines[slice(*one)], *lines[other[1] :]]
    return _if_it_is(moved, wanted)


def _end_of_table(lines: list[str], start: int, headers: list[int]) -> int:
    """The line after a table's last value: anything between that and the next table belongs to the next."""
    behind = next((place for place in headers if place > start), len(lines))
    return 1 + max(place for place in range(start, behind) if lines[place].strip() and not _is_comment(lines[place]))


def cut_tables(text: str, key: Key) -> str | None:
    """The text without the lines of all tables that begin with ``key``; None where that does not leave what it should.

    A channel stands in several tables. What is written between them for what comes next stays.
    """
    wanted = _without(toml_pieces.loads(text), key)
    lines = _lines_of(text)
    headers = _headers(lines)
    left = list(lines)
    for first, behind in itertools.pairwise([*headers, len(lines)]):
        if header_path(lines[first])[: len(key)] != list(key):
            continue
        last = max(index for index in range(first, behind) if lines[index].strip() and not _is_comment(lines[index]))
        until = last + 2 if last + 1 < behind and not lines[last + 1].strip() else last + 1
        left[first:until] = [""] * (until - first)
    return _if_it_is(left, wanted)


def renamed_tables(text: str, key: Key, name: str) -> str | None:
    """The text with all tables that begin with ``key`` renamed in its last part; None where they are not written as
    tables. Only their headers change, so comments stay."""
    wanted = tomllib.loads(text)
    holder = value_at(wanted, key[:-1])
    renamed = {name if each == key[-1] else each: value for each, value in holder.items()}
    holder.clear()
    holder.update(renamed)
    lines = _lines_of(text)
    for place, line in enumerate(lines):
        path = header_path(line) if line.lstrip().startswith("[") else []
        if path[: len(key)] != list(key):
            continue
        opening, closing = ("[[", "]]") if line.lstrip().startswith("[[") else ("[", "]")
        dotted_path = ".".join(_quoted(part) for part in (*path[: len(key) - 1], name, *path[len(key) :]))
        lines[place] = f"{opening}{dotted_path}{closing}{_behind_header(line)}"
    return _if_it_is(lines, wanted)


def with_copied_tables(text: str, key: Key, name: str) -> str | None:
    """The text with a copy of all tables that begin with ``key``, after the last of them, with ``name`` as its last
    part; None where they are not written as tables. Comments within them are copied too."""
    lines = _lines_of(text)
    headers = _headers(lines)
    own = [place for place in headers if header_path(lines[place])[: len(key)] == list(key)]
    if not own:
        return None
    ends = {place: _end_of_table(lines, place, headers) for place in own}
    block = "".join("".join(lines[place:end]).rstrip("\n") + "\n" for place, end in ends.items())
    copied = renamed_tables(block, key, name)
    behind = ends[own[-1]]
    if copied is None:
        return None
    whole = toml_pieces.loads(text)
    wanted = _with(whole, (*key[:-1], name), value_at(whole, key))
    gap = "" if behind and not lines[behind - 1].strip() else "\n"
    rest = ["\n", *lines[behind:]] if lines[behind:] else []
    return _if_it_is([*lines[:behind], gap, copied, *rest], wanted)


def _behind_header(line: str) -> str:
    """The text after the brackets of a header: the shortest end without which it is still a header."""
    for end in range(line.index("]") + 1, len(line) + 1):
        if line[end - 1] == "]" and header_path(line[:end]) and line[end : end + 1] != "]":
            return line[end:]
    return "\n"


def _quoted(part: str) -> str:
    """A part of a header, or a name, quoted where TOML needs it."""
    return part if _BARE.fullmatch(part) else _scalar(part)


def header_path(header: str) -> list[str]:
    """The keys of a table's header; empty where the line is not one."""
    return [*_header_path(header)]


@lru_cache(maxsize=2048)  # every edit reads all headers, and changes one
def _header_path(header: str) -> tuple[str, ...]:
    try:
        found: Any = tomllib.loads(header)
    except tomllib.TOMLDecodeError:
        return ()
    path = []
    while isinstance(found, dict) and found:
        name, found = next(iter(found.items()))
        path.append(name)
        found = found[0] if isinstance(found, list) and found else found
    return tuple(path)


def _is_comment(line: str) -> bool:
    return line.lstrip().startswith("#")
