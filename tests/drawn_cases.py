"""Of a test with many cases only some are run where a run is named: which ones, the name decides.

``make test`` names a run by the commit, so that it can be repeated, and so that over a few commits every case comes.
``make proof``, and pytest without a name, leave none out.
"""

from __future__ import annotations

from collections import defaultdict
from collections.abc import Iterable, Sequence
from hashlib import blake2b
from typing import TypeVar

LEAST = 1
"""Cases of a test that are always run. With two of them a run took ten minutes where a machine was busy."""
ONE_IN = 10
"""So large a part of the others is drawn."""

T = TypeVar("T")


def drawn(cases: Sequence[T], names: Sequence[str], run: str) -> list[T]:
    """One in ``ONE_IN`` of the cases, and at least ``LEAST``, in the order they stand in."""
    wanted = max(LEAST, -(-len(cases) // ONE_IN))
    by_chance = sorted(range(len(cases)), key=lambda index: _lot(f"{run} {names[index]}"))
    return [cases[index] for index in sorted(by_chance[:wanted])]


def split(cases: Iterable[T], tests: Iterable[str], names: Iterable[str], run: str) -> tuple[list[T], list[T]]:
    """Those that are run, and those that are left out; ``tests`` says to which test each of them belongs."""
    cases, names = list(cases), list(names)
    of_test: dict[str, list[int]] = defaultdict(list)
    for index, test in enumerate(tests):
        of_test[test].append(index)
    kept = {index for places in of_test.values() for index in drawn(places, [names[index] for index in places], run)}
    return (
        [case for index, case in enumerate(cases) if index in kept],
        [case for index, case in enumerate(cases) if index not in kept],
    )


def _lot(text: str) -> bytes:
    return blake2b(text.encode(), digest_size=8).digest()
