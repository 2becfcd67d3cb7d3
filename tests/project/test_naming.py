"""Every table that can be renamed is, and all that mentions it follows; nothing that is computed changes."""

from __future__ import annotations

import pytest

from lesart.core.errors import RequestError
from lesart.demo.yard import project_text
from lesart.project.check import check_project, read_tables
from lesart.project.facts.compare import inspect_facts
from lesart.project.naming import NOUNS, copied, mentions_of, renamed
from lesart.project.text import Editor
from lesart.project.toml_values import value_at
from tests.project.facts.benches import BENCH

TEXTS = {"bench": BENCH, "yard": project_text()}
PROJECTS = {name: check_project(text) for name, text in TEXTS.items()}


def mentioned_as(name: str, group: str, table: str) -> frozenset[tuple[str, ...]]:
    """In which tables, by their words, and under which keys a table is mentioned."""
    found = mentions_of(PROJECTS[name], read_tables(TEXTS[name]), group, table, "other")
    return frozenset((str(key[0]), *(str(part) for part in key[2:] if not isinstance(part, int))) for key, _ in found)


def some_of_each() -> list[tuple[str, str, str]]:
    """A table of each group for every way in which one of its group is mentioned."""
    ways: dict[tuple[str, frozenset[tuple[str, ...]]], tuple[str, str, str]] = {}
    for name, project in PROJECTS.items():
        for group in NOUNS:
            for table in project.tables.get(group, {}):
                ways.setdefault((group, mentioned_as(name, group, table)), (name, group, table))
    return list(ways.values())


ALL = some_of_each()


@pytest.mark.parametrize(("name", "group", "old"), ALL)
def test_all_that_mentions_it_follows(name: str, group: str, old: str) -> None:
    """Nothing names the old one any more, as much names the new; its own values stay, and there and back is no way."""
    text, project = TEXTS[name], PROJECTS[name]
    there = renamed(Editor(), text, project, group, old, " other  ")
    after = check_project(there)
    before = list(mentions_of(project, read_tables(text), group, old, "other"))
    assert list(mentions_of(after, read_tables(there), group, old, "x")) == []
    assert len(list(mentions_of(after, read_tables(there), group, "other", "x"))) == len(before)
    assert list(after.tables[group]) == ["other" if each == old else each for each in project.tables[group]]
    assert list(inspect_facts(after)) == []
    assert len(after.homes) == len(project.homes)
    assert renamed(Editor(), there, after, group, "other", old) == text


@pytest.mark.parametrize(("name", "group", "old"), ALL)
def test_a_copy_is_all_of_it_again(name: str, group: str, old: str) -> None:
    """The same values under another name; what was there stays, and is mentioned as before."""
    text, project = TEXTS[name], PROJECTS[name]
    twice = copied(Editor(), text, project, group, old, "other")
    tables = read_tables(twice)
    assert value_at(tables, (group, "other")) == value_at(read_tables(text), (group, old))
    assert value_at(tables, (group, old)) == value_at(read_tables(text), (group, old))
    after = check_project(twice)
    assert set(project.tables[group]) < set(after.tables[group])
    if group == "panels":
        assert [len(face.items) for face in after.faces_on("other")] == [
            len(face.items) for face in project.faces_on(old)
        ]


@pytest.mark.parametrize("typed", ["", "  ", "a.b", 'a"b', "x" * 41, "hive 2 mass", "a\nb"])
def test_a_name_that_cannot_be(typed: str) -> None:
    """Nothing is changed, and the sentence says what would be right."""
    for make in (renamed, copied):
        with pytest.raises(RequestError, match="name"):
            make(Editor(), TEXTS["yard"], PROJECTS["yard"], "channels", "lid air", typed)


def test_comments_stay_where_they_are() -> None:
    """A rename changes headers and mentions only."""
    text = TEXTS["yard"]
    there = renamed(Editor(), text, PROJECTS["yard"], "channels", "lid air", "roof air")
    before, after = text.splitlines(), there.splitlines()
    changed = [(a, b) for a, b in zip(before, after, strict=True) if a != b]
    assert len(changed) > 5
    assert all("lid air" in a and b == a.replace("lid air", "roof air") for a, b in changed)
