"""Edits to the text of ``lesart.toml`` that keep everything else: comments, order, own keys."""

from __future__ import annotations

import tomllib
from collections.abc import Callable, Iterable, Mapping
from typing import Any

from lesart.core.errors import RequestError
from lesart.core.notes import Key, Mend, Written
from lesart.project.toml_lines import (
    cut_entry,
    cut_none,
    cut_tables,
    cut_value,
    none_added,
    renamed_tables,
    replaced_value,
    swapped,
    value_added,
    with_entry_added,
    with_table_added,
)
from lesart.project.toml_values import LINES, add_entry, delete_value, dotted, set_value, value_at


class Editor:
    """Edits project texts: line by line where written plainly, else through a library's document, of which it caches
    the last; parsing one with its comments costs more than everything else."""

    def __init__(self) -> None:
        self._text: str | None = None
        self._document: Any = None

    def with_value(self, text: str, key: Key, value: Written) -> str:
        """The text with the value at ``key`` set; missing tables on the way are made."""
        changed = replaced_value(text, key, value)
        if changed is None:
            changed = value_added(text, key, value)
        return self._changed(text, lambda document: set_value(document, key, value)) if changed is None else changed

    def with_table(self, text: str, key: Key, table: Mapping[str, Written]) -> str:
        """The text with a new table at ``key``, after the others of its kind."""
        added = with_table_added(text, key, table)
        return self._changed(text, lambda document: set_value(document, key, table)) if added is None else added

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
        """The text with another entry at the end of the list at ``key``; the list is made where there is none."""
        if value_at(tomllib.loads(text), key) == []:
            text = cut_none(text, key) or self.without_value(text, key)
        added = with_entry_added(text, key, entry)
        return self._changed(text, lambda document: add_entry(document, key, entry)) if added is None else added

    def without(self, text: str, key: Key) -> str:
        """The text without the entry at ``key``, which ends in its index; with the last entry the list goes too."""
        cut = cut_entry(text, key) or cut_tables(text, key)
        return cut or self._changed(text, lambda document: delete_value(document, key))

    def with_none(self, text: str, key: Key) -> str:
        """The text with an explicit empty list at ``key``, where there is no list."""
        if value_at(tomllib.loads(text), key) is not None:
            return text
        added = none_added(text, key)
        return self._changed(text, lambda document: set_value(document, key, [])) if added is None else added

    def without_value(self, text: str, key: Key) -> str:
        """The text without the value at ``key`` of a table; only its line goes."""
        return cut_value(text, key) or self._changed(text, lambda document: delete_value(document, key))

    def with_renamed(self, text: str, key: Key, name: str) -> str:
        """The text with the table at ``key`` renamed to ``name``. Raises RequestError for an inline table."""
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
        import tomlkit  # 75 ms: only where it is needed

        document = self._document if self._text == text else tomlkit.parse(text)
        self._text = None
        change(document)
        # The document now is that of the new text; should the project refuse it, the next edit parses again.
        self._document, self._text = document, str(document.as_string())
        return self._text
