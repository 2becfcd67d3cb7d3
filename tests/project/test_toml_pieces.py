"""A text read in pieces is what the standard library reads, or is refused as it refuses it."""

from __future__ import annotations

import tomllib
from pathlib import Path

import pytest
from hypothesis import given
from hypothesis import strategies as st

from lesart.desk.project_folders import make_yard
from lesart.project.toml_pieces import _body, _read, loads

LINES = (
    "[a.b]",
    "[a.c]",
    '[a."b"]',
    "[a]",
    "[[a.b]]",
    "[[a.b.d]]",
    "[a.b.e]",
    "[f]",
    "[[f]]",
    "[f.g]",
    "x = 1",
    "y = [",
    "[1, 2],",
    "]",
    "b.x = 3",
    'z = """',
    '"""',
    "# [a.b]",
    "",
    "[a .b]",
    "[ a.'q' ]",
    'k = "[a.b]"',
    '["a"]',
    "  [f]",
    "d = [{}]",
    "[[a.b.d]] # of it",
    "[a.b.d.e]",
)


def outcome(read: object, text: str) -> object:
    """What comes of it: the tables in their order, or the words of the refusal."""
    try:
        return repr(read(text))  # type: ignore[operator]
    except tomllib.TOMLDecodeError as error:
        return str(error)


@given(st.lists(st.sampled_from(LINES), max_size=14))
def test_any_lines(lines: list[str]) -> None:
    """Whatever stands in which order: headers twice, in between, in lists and in texts."""
    text = "\n".join(lines)
    assert outcome(loads, text) == outcome(tomllib.loads, text)


def test_the_yard_and_an_edit_of_it(tmp_path: Path) -> None:
    """The whole of it, and again with one value changed: only the table with that value is read."""
    for cache in (_read, _body):
        cache.cache_clear()  # a test that ran before in the same process may have read just this piece
    make_yard(tmp_path / "yard")
    text = (tmp_path / "yard" / "lesart.toml").read_text(encoding="utf-8")
    assert repr(loads(text)) == repr(tomllib.loads(text))
    read, bodies = _read.cache_info().misses, _body.cache_info().misses
    edited = text.replace("samples = 5", "samples = 7", 1)
    assert edited != text
    assert loads(edited) == tomllib.loads(edited)
    assert (_read.cache_info().misses, _body.cache_info().misses) == (read + 1, bodies + 1)
    assert loads(text) == tomllib.loads(text)


@pytest.mark.parametrize("text", ["[a.b]\nx = 1\n[c]\n[a.b]\n", "[a]\n[c]\n[a]\n", "[a.b]\nx=1\n[a]\nb.y=2\n"])
def test_what_is_wrong_only_as_a_whole(text: str) -> None:
    """Each piece is right; together they say a thing twice."""
    with pytest.raises(tomllib.TOMLDecodeError):
        loads(text)


def test_with_quotes_and_without_is_one_name() -> None:
    """As in a project that was made, where every name is quoted, and a law was added to it."""
    for cache in (_read, _body):
        cache.cache_clear()
    text = '[channels."counts"]\nunit = "ct"\n\n[[channels.counts.law]]\nkind = "line"\n\n[panels.glass]\nrows = 2\n'
    assert loads(text) == tomllib.loads(text)
    assert _body.cache_info().misses == 4  # what stands before the first header, and each table
    assert loads(text.replace("line", "table")) == tomllib.loads(text.replace("line", "table"))
    assert _body.cache_info().misses == 5
