"""Sentences for a person: on one line, what they quote known again and no longer than it need be."""

from __future__ import annotations

import pytest

from lesart.core.errors import LesartError, Problem, ProjectError, RequestError, sentence

BETWEEN = (
    "is none of the many things that could stand here; there are hive 2 mass, lid air, brood probe and yard air, like"
)


@pytest.mark.parametrize(
    ("said", "shown"),
    [
        ('"5 kg" is heavy.', '"5 kg" is heavy.'),
        ('"a\nb" has\ttwo lines.', '"a\\x0ab" has\\x09two lines.'),
        ("\x1b[2J clears.", "\\x1b[2J clears."),
        (f'"{"x" * 77}" is long.', f'"{"x" * 77}" is long.'),
        (f'"{"x" * 78}" is longer.', f'"{"x" * 57}…" is longer.'),
        (f'"x" {BETWEEN} "y".', f'"x" {BETWEEN} "y".'),
        (f'"{"x" * 90}" {BETWEEN} "{"y" * 90}".', f'"{"x" * 57}…" {BETWEEN} "{"y" * 57}…".'),
        (f"{'a' * 300}: there is none.", f"{'a' * 300}: there is none."),
        (f"{'a' * 301}: there is none.", f"{'a' * 300}…: there is none."),
        ("0 °C − 5 Ω ≠ ½ „ja“ …", "0 °C − 5 Ω ≠ ½ „ja“ …"),
    ],
)
def test_a_sentence(said: str, shown: str) -> None:
    assert sentence(said) == shown
    assert sentence(shown) == shown
    assert str(LesartError(said)) == shown
    assert str(RequestError(said, said)) == f"{shown}\n{shown}"


def test_problems_have_a_line_each() -> None:
    problems = (Problem("a.b", '"x\ny"', "it must be one"), Problem("c", "", "it must be there", line=7))
    assert str(ProjectError("p.toml", problems)) == (
        'p.toml: a.b = "x\\x0ay"; it must be one.\np.toml:7: c: it must be there.'
    )
    assert problems[0].on_screen == 'a.b = "x\\x0ay"; it must be one.'
