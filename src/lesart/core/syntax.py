"""Text from a person as a tree, without a word of the parser's own on the terminal: of ``1if x`` it warns."""

from __future__ import annotations

import ast
import warnings


def expression_of(text: str) -> ast.Expression:
    """The tree of an expression. Raises SyntaxError, ValueError, MemoryError or RecursionError as the parser does."""
    with warnings.catch_warnings():
        warnings.simplefilter("ignore", SyntaxWarning)
        return ast.parse(text, mode="eval")


def statements_of(text: str) -> ast.Module:
    """The tree of lines. Raises as ``expression_of`` does."""
    with warnings.catch_warnings():
        warnings.simplefilter("ignore", SyntaxWarning)
        return ast.parse(text, mode="exec")
