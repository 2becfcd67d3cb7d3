"""A person's text as a syntax tree, without the parser's own warnings on the terminal: ``1if x`` gives one."""

from __future__ import annotations

import ast
import warnings


def expression_of(text: str) -> ast.Expression:
    """The tree of an expression. Raises SyntaxError, ValueError, MemoryError or RecursionError as the parser does."""
    with warnings.catch_warnings():
        warnings.simplefilter("ignore", SyntaxWarning)
        return ast.parse(text, mode="eval")


def statements_of(text: str) -> ast.Module:
    """The tree of several lines. Raises as ``expression_of`` does."""
    with warnings.catch_warnings():
        warnings.simplefilter("ignore", SyntaxWarning)
        return ast.parse(text, mode="exec")
