"""Every value of the yard is found again from its dotted place: its key, its line, and words that name it."""

from __future__ import annotations

import tomllib
from collections.abc import Iterator
from typing import Any

import pytest

from lesart.core.errors import Problem
from lesart.core.notes import Key
from lesart.demo.yard import project_text
from lesart.project.places import in_words, key_of, line_of, located
from lesart.project.toml_values import dotted


def keys_in(node: Any, key: Key = ()) -> Iterator[tuple[Key, Any]]:
    """Every value that is no table, with its key."""
    if isinstance(node, dict):
        for name, each in node.items():
            yield from keys_in(each, (*key, name))
    elif isinstance(node, list) and node and isinstance(node[0], dict):
        for index, each in enumerate(node):
            yield from keys_in(each, (*key, index))
    else:
        yield key, node


def test_every_value_is_found_by_its_place() -> None:
    """The key back from the words of a problem, and on its line that very value, where it has a line of its own."""
    text = project_text()
    tables, lines = tomllib.loads(text), text.splitlines()
    found = 0
    for key, value in keys_in(tables):
        assert key_of(tables, dotted(key)) == key
        number = line_of(text, key)
        assert number, key
        if "{" in lines[number - 1] or key[:2] in (("wire", "joins"), ("kinds", "rain gauge")):
            continue  # written in line
        name, _, written = lines[number - 1].partition("=")
        if name.strip().strip('"') == key[-1] and not written.strip().startswith("["):
            assert tomllib.loads(f"x = {written}")["x"] == value, key
            found += 1
    assert found > 400


def test_names_with_dots_in_them() -> None:
    """The longest that is there; what is not there stands as it is written."""
    tables = {"parts": {"a": {"b": 1}, "a.b": {"c": 2}}}
    assert key_of(tables, "parts.a.b.c") == ("parts", "a.b", "c")
    assert key_of(tables, "parts.a.colour") == ("parts", "a", "colour")
    assert key_of(tables, "parts.new[3].x") == ("parts", "new", 3, "x")
    assert key_of(tables, "") == ()


WORDS = {
    ("channels", "hive 2 mass", "law", 1, "capacity"): "capacity of law 2 of hive 2 mass",
    ("channels", "hive 2 mass", "calm", 0, "lowest"): "lowest of filter 1 of hive 2 mass",
    (
        "channels",
        "hive 2 mass",
        "true",
        "references",
        1,
        "count",
    ): "count of reference 2 of the correction of hive 2 mass",
    (
        "channels",
        "hive 2 mass",
        "variants",
        "β",
        "fit",
        "decimals",
    ): "decimals of the field of variant β of hive 2 mass",
    ("channels", "lid air", "fit", "unit_text"): "unit text of the field of lid air",
    ("faces", "mass", "items", 0, "channel"): "channel of item 1 of face mass",
    ("panels", "stand", "scan", "on_time"): "on time of the scan of panel stand",
    ("parts", "node", "kind"): "kind of part node",
    ("sources", "scale", "header"): "header of source scale",
    ("loop", "tasks", "count beam", "runs"): "runs of task count beam",
    ("wire", "joins", 0, "to"): "to of the connection of pack.+",
    ("name",): "name",
}


@pytest.mark.parametrize("key", WORDS, ids=dotted)
def test_in_the_words_of_the_screen(key: Key) -> None:
    """Counted from 1, the inmost first."""
    assert in_words(tomllib.loads(project_text()), key) == WORDS[key]


def test_a_problem_is_said_both_ways() -> None:
    """With the key for whoever edits the file, in words for whoever looks at the screen."""
    text = project_text()
    problem = located(Problem("channels.lid air.fit.decimals", "99", "it must be less"), tomllib.loads(text), text)
    assert str(problem) == "channels.lid air.fit.decimals = 99; it must be less."
    assert problem.on_screen == "decimals of the field of lid air = 99; it must be less."
    assert text.splitlines()[problem.line - 1].startswith("decimals = ")
    assert Problem("channels.x", "", "no law").on_screen == "channels.x: no law."
