"""Edits to the text of ``lesart.toml`` that keep everything else as it stands: comments, order, own keys."""

from __future__ import annotations

import copy
import itertools
import re
import tomllib
from collections.abc import Callable, Iterable, Mapping, Sequence
from typing import Any

from lesart.core.errors import RequestError
from lesart.core.notes import Key, Mend, Written
from lesart.project.toml_values import LINES, add_entry, delete_value, dotted, set_value, value_at

_BARE = re.compile(r"[A-Za-z0-9_-]+")


class Editor:
    """Sets values in project texts. Keeps the last document: parsing with comments costs more than all the rest."""

    def __init__(self) -> None:
        self._text: str | None = None
        self._document: Any = None

    def prepare(self, text: str) -> None:
        """Parse a text that will be edited next."""
        import tomlkit  # 75 ms: only when something is edited

        if self._text != text:
            self._document, self._text = tomlkit.parse(text), text

    def with_value(self, text: str, key: Key, value: Written) -> str:
        """The text with the value at ``key`` set; tables on the way are made where they are missing.

        Where the value stands in a line of its own only that is written anew: writing out the document takes half of
        the time that an edit has.
        """
        if (changed := replaced_value(text, key, value)) is None:
            return self._changed(text, lambda document: set_value(document, key, value))
        self.prepare(text)
        set_value(self._document, key, value)
        self._text = changed
        return changed

    def with_table(self, text: str, key: Key, table: Mapping[str, Written]) -> str:
        """The text with a new table at ``key``, behind the others of its kind."""
        return self._changed(text, lambda document: set_value(document, key, table))

    def mended(self, text: str, mends: Iterable[Mend]) -> str:
        """The text with all edits of a remedy."""
        for mend in mends:
            if mend.value is None:
                text = self.without_value(text, mend.key)
            elif not isinstance(mend.value, Mapping):
                text = self.with_value(text, mend.key, mend.value)
            elif mend.key[-1] in LINES:
                text = self.with_entry(text, mend.key, mend.value)
            else:
                text = self.with_table(text, mend.key, mend.value)
        return text

    def with_entry(self, text: str, key: Key, entry: Mapping[str, Written]) -> str:
        """The text with an entry more at the end of the list at ``key``; the list is made where there is none."""
        return self._changed(text, lambda document: add_entry(document, key, entry))

    def without(self, text: str, key: Key) -> str:
        """The text without the entry at ``key``, which ends in its index; the list goes too when it was the last."""
        cut = cut_entry(text, key) or cut_tables(text, key)
        return cut or self._changed(text, lambda document: delete_value(document, key))

    def without_value(self, text: str, key: Key) -> str:
        """The text without the value at ``key``, which is one of a table; its line goes, all others stay."""
        return self._changed(text, lambda document: delete_value(document, key))

    def with_renamed(self, text: str, key: Key, name: str) -> str:
        """The text with the table at ``key`` called ``name``. Raises RequestError where it is in line."""
        changed = renamed_tables(text, key, name)
        if changed is None:
            raise RequestError(f"{dotted(key)} is not written as a table of its own, so it cannot be renamed here.")
        return changed

    def with_neighbours_changed(self, text: str, key: Key, by: int) -> str:
        """The text with the entry at ``key``, which ends in its index, one place on or back in its list of tables.

        Its lines go with it, comments within them too. Raises RequestError where there is no place to go to.
        """
        index, last = int(key[-1]), len(value_at(tomllib.loads(text), key[:-1]) or ()) - 1
        if not 0 <= index + by <= last:
            raise RequestError("It is the first already." if by < 0 else "It is the last already.")
        changed = swapped(text, (*key[:-1], min(index, index + by)))
        if changed is None:
            raise RequestError(f"{dotted(key)} is not written as a table of its own, so its lines cannot be moved.")
        return changed

    def _changed(self, text: str, change: Callable[[Any], None]) -> str:
        self.prepare(text)
        document, self._text = self._document, None
        change(document)
        # The document now is that of the new text; should the project refuse it, the next edit parses anew.
        self._text = str(document.as_string())
        return self._text


def cut_entry(text: str, key: Key) -> str | None:
    """The text without the lines of a ``[[table]]``; None where the entry is not written as one.

    Line by line, because a TOML document gives the comments behind a table to that table, though they mostly speak of
    what comes next; with the table they would be gone. What is left is read again and compared, so that no line too
    many goes.
    """
    wanted = copy.deepcopy(tomllib.loads(text))
    delete_value(wanted, key)
    lines = text.splitlines(keepends=True)
    headers = [index for index, line in enumerate(lines) if line.lstrip().startswith("[")]
    for place, first in enumerate(headers):
        if str(key[-2]) not in lines[first]:
            continue
        behind = headers[place + 1] if place + 1 < len(headers) else len(lines)
        last = max(index for index in range(first, behind) if lines[index].strip() and not _is_comment(lines[index]))
        until = last + 1
        if first and not lines[first - 1].strip() and until < len(lines) and not lines[until].strip():
            until += 1  # of two blank lines one is enough
        left = "".join(lines[:first] + lines[until:])
        try:
            if tomllib.loads(left) == wanted:
                return left
        except tomllib.TOMLDecodeError:
            continue
    return None


def replaced_value(text: str, key: Key, value: Written) -> str | None:
    """The text with a value that stands alone behind its key in a line; None where it is not written so.

    What stands around it stays to the letter. Texts over several lines could hold what looks like a header, so a file
    that has any is left to the parser.
    """
    if '"""' in text or "'''" in text or not isinstance(key[-1], str):
        return None
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


def header_of(lines: Sequence[str], table: Key) -> int | None:
    """The line of the header of a table, or of an entry of a list of tables; None for tables written in line."""
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
    """As TOML writes it."""
    import tomlkit

    if isinstance(value, bool):
        return "true" if value else "false"
    return tomlkit.string(value).as_string() if isinstance(value, str) else str(value)


def swapped(text: str, key: Key) -> str | None:
    """The text with the lines of the ``[[table]]`` at ``key`` and those of the next one changed; None where they are
    not written so.
    """
    wanted = copy.deepcopy(tomllib.loads(text))
    first, index = value_at(wanted, key[:-1]), int(key[-1])
    first[index], first[index + 1] = first[index + 1], first[index]
    lines = text.splitlines(keepends=True)
    headers = [place for place, line in enumerate(lines) if line.lstrip().startswith("[")]
    own = [place for place in headers if header_path(lines[place]) == list(key[:-1])]
    if len(own) <= index + 1:
        return None
    one, other = ((start, _end_of_table(lines, start, headers)) for start in own[index : index + 2])
    between = lines[one[1] : other[0]]
    moved = [*lines[: one[0]], *lines[slice(*other)], *between, *lines[slice(*one)], *lines[other[1] :]]
    try:
        return "".join(moved) if tomllib.loads("".join(moved)) == wanted else None
    except tomllib.TOMLDecodeError:
        return None


def _end_of_table(lines: list[str], start: int, headers: list[int]) -> int:
    """The line behind a table's last value: what is written between that and the next one speaks of what comes."""
    behind = next((place for place in headers if place > start), len(lines))
    return 1 + max(place for place in range(start, behind) if lines[place].strip() and not _is_comment(lines[place]))


def cut_tables(text: str, key: Key) -> str | None:
    """The text without the lines of all tables that begin with ``key``; None where that does not leave what it should.

    A channel stands in several tables. What is written between them for what comes next stays.
    """
    wanted = copy.deepcopy(tomllib.loads(text))
    delete_value(wanted, key)
    lines = text.splitlines(keepends=True)
    headers = [index for index, line in enumerate(lines) if line.lstrip().startswith("[")]
    left = list(lines)
    for first, behind in itertools.pairwise([*headers, len(lines)]):
        if header_path(lines[first])[: len(key)] != list(key):
            continue
        last = max(index for index in range(first, behind) if lines[index].strip() and not _is_comment(lines[index]))
        until = last + 2 if last + 1 < behind and not lines[last + 1].strip() else last + 1
        left[first:until] = [""] * (until - first)
    try:
        return "".join(left) if tomllib.loads("".join(left)) == wanted else None
    except tomllib.TOMLDecodeError:
        return None


def renamed_tables(text: str, key: Key, name: str) -> str | None:
    """The text in which all tables that begin with ``key`` have another name for its last part; None where they are
    not written as tables. Only their headers change, so comments stay.
    """
    wanted = copy.deepcopy(tomllib.loads(text))
    holder = value_at(wanted, key[:-1])
    renamed = {name if each == key[-1] else each: value for each, value in holder.items()}
    holder.clear()
    holder.update(renamed)
    lines = text.splitlines(keepends=True)
    for place, line in enumerate(lines):
        path = header_path(line) if line.lstrip().startswith("[") else []
        if path[: len(key)] != list(key):
            continue
        opening, closing = ("[[", "]]") if line.lstrip().startswith("[[") else ("[", "]")
        dotted_path = ".".join(_quoted(part) for part in (*path[: len(key) - 1], name, *path[len(key) :]))
        lines[place] = f"{opening}{dotted_path}{closing}{_behind_header(line)}"
    try:
        return "".join(lines) if tomllib.loads("".join(lines)) == wanted else None
    except tomllib.TOMLDecodeError:
        return None


def with_copied_tables(text: str, key: Key, name: str) -> str | None:
    """The text with all tables that begin with ``key`` a second time, behind the last of them, with ``name`` for its
    last part; None where they are not written as tables. Comments within them are copied too."""
    lines = text.splitlines(keepends=True)
    headers = [place for place, line in enumerate(lines) if line.lstrip().startswith("[")]
    own = [place for place in headers if header_path(lines[place])[: len(key)] == list(key)]
    if not own:
        return None
    ends = {place: _end_of_table(lines, place, headers) for place in own}
    block = "".join("".join(lines[place:end]).rstrip("\n") + "\n" for place, end in ends.items())
    copied = renamed_tables(block, key, name)
    behind = ends[own[-1]]
    if copied is None:
        return None
    wanted = copy.deepcopy(tomllib.loads(text))
    value_at(wanted, key[:-1])[name] = copy.deepcopy(value_at(wanted, key))
    gap = "" if behind and not lines[behind - 1].strip() else "\n"
    made = "".join(lines[:behind]) + gap + copied + "".join(["\n", *lines[behind:]] if lines[behind:] else [])
    try:
        return made if tomllib.loads(made) == wanted else None
    except tomllib.TOMLDecodeError:
        return None


def _behind_header(line: str) -> str:
    """What a person wrote behind the brackets of a header: the shortest end without which it still is one."""
    for end in range(line.index("]") + 1, len(line) + 1):
        if line[end - 1] == "]" and header_path(line[:end]) and line[end : end + 1] != "]":
            return line[end:]
    return "\n"


def _quoted(part: str) -> str:
    """A part of a header as TOML wants it."""
    import tomlkit

    return part if _BARE.fullmatch(part) else tomlkit.string(part).as_string()


def header_path(header: str) -> list[str]:
    """The keys of a table's header; empty where the line is none after all."""
    try:
        found: Any = tomllib.loads(header)
    except tomllib.TOMLDecodeError:
        return []
    path = []
    while isinstance(found, dict) and found:
        name, found = next(iter(found.items()))
        path.append(name)
        found = found[0] if isinstance(found, list) and found else found
    return path


def _is_comment(line: str) -> bool:
    return line.lstrip().startswith("#")
