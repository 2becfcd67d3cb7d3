"""Requests recognised by how they begin."""

from __future__ import annotations

import re
from collections.abc import Iterable

from lesart.desk.entries.said.patterns import any_case

_POLITE = re.compile(r"^(?:please\s+)?(?:(?:an?|the)\s+)?", re.IGNORECASE)

Asks = tuple[tuple[str, str], ...]
"""Patterns for the beginning of a request, and the answers; the surest first."""


def bare(typed: str) -> str:
    """The text in lower case, without polite phrases."""
    return _POLITE.sub("", typed.strip(), count=1).lower()


def first_of(asks: Iterable[tuple[str, str]], said: str) -> str:
    """The answer to a request; empty where it is not recognised."""
    return next((says for pattern, says in asks if any_case(rf"(?:{pattern})").match(said)), "")
