"""Edits to the text of a project: only what is meant changes, by whichever way."""

from __future__ import annotations

import copy
import difflib
import re
import tomllib
from collections.abc import Iterator
from typing import Any

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from lesart.core.notes import Key
from lesart.demo.yard import project_text
from lesart.project.text import Editor
from lesart.project.toml_lines import replaced_value
from lesart.project.toml_values import value_at

YARD = project_text()
TABLES = tomllib.loads(YARD)


def values(tables: Any, key: Key = ()) -> Iterator[Key]:
    """The key of every plain value."""
    if isinstance(tables, dict):
        for name, value in tables.items():
            yield from values(value, (*key, name))
    elif isinstance(tables, list):
        for index, value in enumerate(tables):
            yield from values(value, (*key, index))
    else:
        yield key


KEYS = sorted(values(TABLES), key=str)


def with_value(tables: Any, key: Key, value: object) -> Any:
    """Plain tables with one value set."""
    changed = copy.deepcopy(tables)
    value_at(changed, key[:-1])[key[-1]] = value
    return changed


@settings(max_examples=20)
@given(key=st.sampled_from(KEYS), value=st.one_of(st.integers(-99, 99), st.booleans(), st.text(max_size=12)))
def test_one_value_changes_and_nothing_else(key: Key, value: int | bool | str) -> None:
    """Any value of the demo to anything: the tables are the same but for it, and so are all other lines."""
    changed = Editor().with_value(YARD, key, value)
    assert tomllib.loads(changed) == with_value(TABLES, key, value)
    before, after = YARD.split("\n"), changed.split("\n")
    assert len(before) == len(after)
    assert sum(old != new for old, new in zip(before, after, strict=True)) <= 1


def test_most_values_are_written_in_their_line() -> None:
    """The quick way takes all that stand alone in a line of a table of its own."""
    quick = [key for key in KEYS if replaced_value(YARD, key, 1) is not None]
    plain = [key for key in KEYS if key[0] != "wire" and "references" not in key]
    assert len(quick) > 0.9 * len(plain)


def without(tables: Any, key: Key) -> Any:
    """Plain tables with one value taken away, and with it the list or table of which it was all."""
    changed = copy.deepcopy(tables)
    del value_at(changed, key[:-1])[key[-1]]
    if not value_at(changed, key[:-1]):
        del value_at(changed, key[:-2])[key[-2]]
    return changed


def kept(before: str, after: str) -> int:
    """How many lines of a text are gone in another; those that are left stand in their order."""
    gone = [line for line in difflib.ndiff(before.splitlines(), after.splitlines()) if line.startswith("- ")]
    return len(gone)


TABLE_KEYS = sorted({key[:-1] for key in KEYS if len(key) > 2 and isinstance(key[-2], str)}, key=str)
LIST_KEYS = sorted({key[: key.index(0)] for key in KEYS if 0 in key}, key=str)
ADDED = {"name": 'a "b" \\ c\n\x7f', "count": 3, "is on": True}


@pytest.mark.parametrize("key", LIST_KEYS, ids=str)
def test_an_entry_more_stands_behind_the_others_and_nothing_else_changes(key: Key) -> None:
    """Of every list of the demo, whichever way it is written."""
    changed = Editor().with_entry(YARD, key, ADDED)
    wanted = copy.deepcopy(TABLES)
    value_at(wanted, key).append(ADDED)
    assert tomllib.loads(changed) == wanted
    assert kept(YARD, changed) == 0
    assert changed.count("\n\n\n") == YARD.count("\n\n\n")
    # What is written above the next table stays above it.
    for comment in re.findall(r"^#.*\n\[.*\n", YARD, re.MULTILINE):
        assert comment in changed


@pytest.mark.parametrize("key", TABLE_KEYS, ids=str)
def test_a_value_or_a_table_more_and_nothing_else_changes(key: Key) -> None:
    """In every table of the demo, and beside it."""
    value = Editor().with_value(YARD, (*key, "more"), "1 kg")
    assert tomllib.loads(value) == with_value(TABLES, (*key, "more"), "1 kg")
    assert (kept(YARD, value), len(value.splitlines())) == (0, len(YARD.splitlines()) + 1)
    table = Editor().with_table(YARD, (*key[:-1], "a new one"), ADDED)
    assert tomllib.loads(table) == with_value(TABLES, (*key[:-1], "a new one"), ADDED)
    assert (kept(YARD, table), table.count("\n\n\n")) == (0, YARD.count("\n\n\n"))


@settings(max_examples=20)
@given(key=st.sampled_from([key for key in KEYS if len(key) > 1 and isinstance(key[-1], str)]))
def test_a_value_less_and_nothing_else_changes(key: Key) -> None:
    """Of any table of the demo."""
    changed = Editor().without_value(YARD, key)
    assert tomllib.loads(changed) == without(TABLES, key)
    assert kept(YARD, changed) <= 2


CASES = [
    ("[a]\nx = 1  # mine\ny = 2\n", ("a", "x"), 5, "[a]\nx = 5  # mine\ny = 2\n"),
    ("[a]\ny = 2\n[a.x]\nx = 1\n", ("a", "x"), 5, None),
    ('[a]\nx = "b # c"\n', ("a", "x"), True, "[a]\nx = true\n"),
    ("[[a.b]]\nx = 1\n[[a.b]]\nx = 2\n", ("a", "b", 1, "x"), "z", '[[a.b]]\nx = 1\n[[a.b]]\nx = "z"\n'),
    ('[a]\nx = """\n[b]\n"""\n[b]\nx = 1\n', ("b", "x"), 2, None),
    ('[a."b c"]\n"d e" = "1"\n', ("a", "b c", "d e"), "2", '[a."b c"]\n"d e" = "2"\n'),
    ("a = {x = 1}\n", ("a", "x"), 2, None),
    ("[a]\nx = [1, 2]\n", ("a", "x"), 2, None),
    ('[a]\nx = "q\\"uote"\n', ("a", "x"), 2, None),
    ("[a]\n[b]\nx = 1\n", ("a", "x"), 2, None),
]


@pytest.mark.parametrize(("text", "key", "value", "wanted"), CASES)
def test_in_its_line_or_not_at_all(text: str, key: Key, value: int | bool | str, wanted: str | None) -> None:
    """What is not written plainly is left to the parser."""
    assert replaced_value(text, key, value) == wanted


def test_quick_and_slow_edits_mix() -> None:
    """One after the other, on one editor: what was changed quickly is still there when the document is written out."""
    editor, key = Editor(), ("channels", "hive 2 mass", "fit", "decimals")
    text = editor.with_value(YARD, key, 3)
    text = editor.with_entry(text, ("channels", "hive 2 mass", "calm"), {"kind": "mean", "samples": 4})
    text = editor.with_value(text, key, 2)
    text = editor.with_table(text, ("panels", "hut"), {"kind": "segments"})
    tables = tomllib.loads(text)
    assert value_at(tables, key) == 2
    assert tables["channels"]["hive 2 mass"]["calm"][-1] == {"kind": "mean", "samples": 4}
    assert tables["panels"]["hut"] == {"kind": "segments"}
    assert [line for line in YARD.splitlines() if line.startswith("#") and line not in text] == []


def test_entries_stand_one_line_apart() -> None:
    """In a list that is made by the first of them, and behind one that was there."""
    editor, text = Editor(), 'lesart = 1\n\n[channels.a]\nunit = "g"\n\n[panels.p]\nkind = "characters"\n'
    for kind in ("converter", "linear", "square root"):
        text = editor.with_entry(text, ("channels", "a", "law"), {"kind": kind})
    assert "\n\n\n" not in text
    assert text.count("\n\n[[channels.a.law]]\n") == 3
    again = Editor().with_entry(text, ("channels", "a", "law"), {"kind": "linear"})
    assert "\n\n\n" not in again
    assert again.count("\n\n[[channels.a.law]]\n") == 4
    assert tomllib.loads(again)["panels"] == {"p": {"kind": "characters"}}
