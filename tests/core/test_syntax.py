"""Trees of what a person typed."""

from __future__ import annotations

import ast
import subprocess
import sys
import warnings

import pytest

from lesart.core.law.formula import parse_formula
from lesart.core.syntax import expression_of, statements_of


@pytest.mark.parametrize("text", ["1if x else 2", "3and x"])
def test_no_word_of_the_parser_reaches_the_terminal(text: str) -> None:
    """Of a number that runs into a word the language itself warns."""
    with pytest.warns(SyntaxWarning):
        ast.parse(text, mode="eval")
    with warnings.catch_warnings():
        warnings.simplefilter("error")
        assert ast.dump(expression_of(text)) == ast.dump(
            expression_of(text.replace("if", " if").replace("and", " and"))
        )
        assert len(statements_of(f"y = {text}").body) == 1


def test_a_formula_that_is_warned_of_is_read() -> None:
    with warnings.catch_warnings():
        warnings.simplefilter("error")
        parse_formula("1if x else 2", ("x",))


def test_nothing_is_printed_beside_an_answer() -> None:
    """In a process of its own, where warnings are shown as they are to anyone."""
    done = subprocess.run(
        [sys.executable, "-m", "lesart", "law", "formula", "2", "--set", "formula=1if x else 2"],
        capture_output=True,
        text=True,
        check=False,
    )
    assert "Warning" not in done.stderr
    assert done.stdout or done.stderr
