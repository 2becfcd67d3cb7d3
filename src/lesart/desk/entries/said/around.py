"""What stands around a line and says nothing: the stop of a sentence, and that something is to be added."""

from __future__ import annotations

import re
from collections.abc import Iterator

STOPS = " .;,!"
"""Behind a sentence that was pasted, or a line of a program."""
ASKED_FOR = re.compile(
    r"\s*(?:please\s+)?(?:(?:add|insert|put|create|make|use|set|i\s+(?:want|need|have))\s+(?:(?:an?|the|in)\s+)?)+(?=\S)",
    re.IGNORECASE,
)
"""What + does anyway."""
_NAMES = re.compile(r"[^\W\d]{3}")
"""What is to be added has a name: ``add 0.5`` is a sum."""


def without_around(typed: str) -> Iterator[str]:
    """The line without its stop, and without that as well by which it is asked for; none where there is neither."""
    sentence = typed.rstrip(STOPS)
    if sentence and sentence != typed.rstrip():
        yield sentence
    asked = ASKED_FOR.match(sentence)
    if asked is not None and _NAMES.search(sentence, asked.end()):
        yield sentence[asked.end() :]
