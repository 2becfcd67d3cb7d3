"""Brackets around all of an expression, which a statement does not need."""

from __future__ import annotations


def bare(text: str) -> str:
    """An expression without a pair of brackets around all of it."""
    if not (text.startswith("(") and text.endswith(")")):
        return text
    depth = 0
    for place, letter in enumerate(text):
        depth += (letter == "(") - (letter == ")")
        if depth == 0 and place < len(text) - 1:
            return text
    return text[1:-1]
