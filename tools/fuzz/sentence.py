"""What may come of absurd input: a sentence that a person can read, and a terminal can show."""

from __future__ import annotations

import contextlib
import unicodedata
from collections.abc import Iterator

from lesart.core.errors import LesartError, Problem, ProjectError

LONGEST = 900
"""Letters: a sentence quotes what is wrong, and not all of a file."""


def check_sentence(said: str) -> None:
    """Raises AssertionError for one that is none: empty, on several lines, with what a terminal obeys, too long."""
    assert said.strip(), "nothing is said"
    odd = [letter for letter in said if unicodedata.category(letter) in ("Cc", "Cs")]
    assert not odd, f"{odd[0]!r} is in {said!r}"
    assert len(said) <= LONGEST, f"{len(said)} letters: {said[:200]!r}"


@contextlib.contextmanager
def only_a_sentence(*also: type[Exception]) -> Iterator[None]:
    """Takes a refusal, or one of ``also``, whose clause is read; of a project each of its problems."""
    try:
        yield
    except ProjectError as error:
        for problem in error.problems:
            check_sentence(problem.on_screen)
            check_sentence(str(problem))
    except LesartError as error:
        check_sentence(str(error))
    except also as error:
        check_sentence(str(Problem("here", "", str(error))))
