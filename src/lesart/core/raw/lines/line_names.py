"""Names of the numbers in a line that is spoken: ``Distance is 12 cm``, ``temp 21.5 hum 60``, ``[CH0] 512 [CH1] 498``.

Only lines that are all alike may be read so, which nobody sees in one line alone.
"""

from __future__ import annotations

from lesart.core.raw.spelled.unit_said import unit_said

NUMBER = "\0"
"""Stands for a number among the words of a line, which is no letter of any."""
MOST_WORDS = 3
"""Words of a name; more are a sentence."""
BRACKETS = "[](){}<>:;,=|-'\"*"
TIME, STAMPS = "time", frozenset(f"{NUMBER}{unit}" for unit in ("ms", "s", "us", "µs"))
"""The time since the start before all else, glued to its unit: ``[1200ms]``."""
LITTLE = frozenset(
    {"a", "an", "and", "are", "at", "has", "is", "it", "now", "of", "our", "the", "this", "to", "was", "were", "its"}
)
"""Words that name nothing."""


def spoken_names(words: str) -> tuple[str, ...]:
    """A name for each number, by the words before it; several numbers after one name are ``acc.1``, ``acc.2``.

    Empty where a number has no name of its own, or a name would be a sentence.
    """
    phrases = _phrases(words)
    if not phrases or not all(1 <= len(phrase) <= MOST_WORDS for phrase, _ in phrases):
        return ()
    names = tuple(
        name if count == 1 else f"{name}.{place}"
        for phrase, count in phrases
        for name in (" ".join(phrase),)
        for place in range(1, count + 1)
    )
    return names if len(set(names)) == len(names) else ()


def _phrases(words: str) -> list[tuple[list[str], int]]:
    """The words before each run of numbers, and how many numbers it has."""
    found: list[tuple[list[str], int]] = []
    phrase: list[str] = []
    unit: str = ""
    for token in words.split():
        word = token.strip(BRACKETS)
        if word == NUMBER:
            if unit and not phrase:
                phrase = [unit]  # V 3.3 A 0.5: a letter that could be a unit names what follows
            if phrase or not found:
                found.append((phrase, 1))
            else:
                found[-1] = (found[-1][0], found[-1][1] + 1)
            phrase, unit = [], ""
        elif not (found or phrase) and word in STAMPS:
            found.append(([TIME], 1))
        elif NUMBER in word:
            return []  # a number is glued to a word, and is part of it
        elif found and not phrase and not unit and unit_said(word) is not None:
            unit = word
        elif word and word.lower() not in LITTLE:
            phrase.append(word)
    return found
