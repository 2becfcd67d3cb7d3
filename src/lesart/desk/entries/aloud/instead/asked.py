"""What is asked for, told by how it begins."""

from __future__ import annotations

import re
from collections.abc import Iterable

_POLITE = re.compile(r"^(?:please\s+)?(?:(?:an?|the)\s+)?", re.IGNORECASE)

Asks = tuple[tuple[str, str], ...]
"""How it begins, as a pattern, and what does it; the surest first."""


def bare(typed: str) -> str:
    """In small letters, without what only makes it polite."""
    return _POLITE.sub("", typed.strip(), count=1).lower()


def first_of(asks: Iterable[tuple[str, str]], said: str) -> str:
    """What does it; empty for what nobody asks for so."""
    return next((says for pattern, says in asks if re.match(rf"(?:{pattern})", said, re.IGNORECASE)), "")
