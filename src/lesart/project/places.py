"""The place of a problem: from the dotted place to the key, the line of the file, and the words of the screen."""

from __future__ import annotations

import re
from collections.abc import Mapping
from dataclasses import replace
from typing import Any

from lesart.core.errors import Problem
from lesart.core.notes import Key
from lesart.project.toml_lines import header_of, header_path
from lesart.project.toml_values import dotted

_INDEX = re.compile(r"\[(\d+)\]")


def located(problem: Problem, tables: Mapping[str, Any], text: str) -> Problem:
    """A problem with its line and its words, where found."""
    key = key_of(tables, problem.place)
    return replace(problem, line=line_of(text, key), words=in_words(tables, key))


def key_of(tables: Any, place: str) -> Key:
    """The key of a dotted place, by existing names: a name may have dots in it. Missing parts are kept as written."""
    key: list[str | int] = []
    node, rest = tables, place
    while rest:
        index = _INDEX.match(rest)
        if index is not None:
            at = int(index[1])
            key.append(at)
            rest = rest[index.end() :].removeprefix(".")
            node = node[at] if isinstance(node, list) and at < len(node) else None
            continue
        names = [str(name) for name in node] if isinstance(node, Mapping) else []
        fits = [name for name in names if rest == name or rest.startswith((f"{name}.", f"{name}["))]
        name = max(fits, key=len) if fits else re.split(r"[.\[]", rest, maxsplit=1)[0] or rest
        key.append(name)
        node = node.get(name) if isinstance(node, Mapping) else None
        rest = rest[len(name) :].removeprefix(".")
    return tuple(key)


def line_of(text: str, key: Key) -> int:
    """The line of a value, or of its table; 0 where neither is written as one."""
    lines = text.splitlines()
    for end in range(len(key), 0, -1):
        header = header_of(lines, key[:end])
        if header is not None:
            return _line_in(lines, header + 1, key[end:]) or header + 1
        if end == len(key) and (below := _first_below(lines, key)):
            return below
    return _line_in(lines, 0, key)


def _first_below(lines: list[str], table: Key) -> int:
    """The first header below a table without a header of its own; 0 without any."""
    names = [str(part) for part in table]
    headers = (number for number, line in enumerate(lines, 1) if line.lstrip().startswith("["))
    return next((number for number in headers if header_path(lines[number - 1])[: len(names)] == names), 0)


def _line_in(lines: list[str], header: int, rest: Key) -> int:
    """The line of a key after a header, or at the top of the file; 0 where it has no line of its own."""
    if not rest or not isinstance(rest[0], str):
        return 0
    pattern = re.compile(rf"\s*(?:{re.escape(rest[0])}|\"{re.escape(rest[0])}\")\s*=")
    for number in range(header, len(lines)):
        if lines[number].lstrip().startswith("["):
            return 0
        if pattern.match(lines[number]):
            return number + 1
    return 0


NOUNS = {"law": "law", "calm": "filter", "alarms": "alarm", "references": "reference", "items": "item"}
GROUPS = {
    "sources": "source ",
    "panels": "panel ",
    "faces": "face ",
    "parts": "part ",
    "sums": "sum ",
    "channels": "",
    "charsets": "character set ",
    "fonts": "font ",
    "pictures": "picture ",
    "controllers": "controller ",
    "kinds": "kind ",
}
SECTIONS = {
    "fit": "field",
    "true": "correction",
    "scan": "scan",
    "trace": "trace",
    "line": "line",
    "decode": "decoder",
    "registers": "register",
    "fields": "field",
    "glyphs": "glyph",
}


def in_words(tables: Mapping[str, Any], key: Key) -> str:
    """A place in the words of the screen, counted from 1: ``beta of law 3 of counts``; a dotted key where there are
    none."""
    if key[:2] == ("wire", "joins") and len(key) > 2 and isinstance(key[2], int):
        return _of_join(tables, key)
    if key[:2] == ("loop", "tasks") and len(key) > 2:
        return _chained([f"task {key[2]}", *map(_plain, key[3:])])
    if not key or key[0] not in GROUPS or len(key) < 2:
        return dotted(key)
    parts = [f"{GROUPS[str(key[0])]}{key[1]}"]
    rest = list(key[2:])
    while rest:
        name = rest.pop(0)
        if name == "variants" and rest:
            parts.append(f"variant {rest.pop(0)}")
        elif rest and isinstance(rest[0], int):
            noun = NOUNS.get(str(name), SECTIONS.get(str(name), _plain(name)))
            parts.append(f"{noun} {int(rest.pop(0)) + 1}")
        elif rest or name in ("fit", "true"):
            parts.append(f"the {SECTIONS.get(str(name), _plain(name))}")
        else:
            parts.append(_plain(name))
    return _chained(parts)


def _of_join(tables: Mapping[str, Any], key: Key) -> str:
    joins = tables.get("wire", {}).get("joins", [])
    index = int(key[2])
    join = joins[index] if isinstance(joins, list) and index < len(joins) and isinstance(joins[index], Mapping) else {}
    which = f"the connection of {join['pin']}" if "pin" in join else f"connection {index + 1}"
    return _chained([which, *map(_plain, key[3:])])


def _chained(parts: list[str]) -> str:
    """Parts chained, the innermost first."""
    return " of ".join(reversed(parts))


def _plain(name: object) -> str:
    return str(name).replace("_", " ")
