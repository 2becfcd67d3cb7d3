"""Patterns put together from names and words, each compiled once.

The module ``re`` keeps the last 512 that it compiled, and a single line meets more than those: nearly every one was
compiled again for the next line, which took four times as long as all the rest.
"""

from __future__ import annotations

import re
from functools import lru_cache

MOST = 8192
"""Several times as many as all tables of words have; names of channels come and go."""
NO_UNIT = ("ct", "1")
"""Units of raw numbers without a meaning yet."""
UNIT = r"[^\W\d_°%Ωµ]?[°%Ωµ]?[^\W\d_]*(?:[·/][^\W\d_]+)?(?:[²³]|[23](?!\d))?"
"""A unit behind its number, of letters and signs; whether it is one is another question."""


@lru_cache(maxsize=MOST)
def any_case(written: str) -> re.Pattern[str]:
    """The pattern, for letters of either case."""
    return re.compile(written, re.IGNORECASE)


@lru_cache(maxsize=MOST)
def begins_with(name: str) -> re.Pattern[str]:
    """The pattern of a name as whole words, for ``match``."""
    return any_case(rf"{re.escape(name)}\b")
