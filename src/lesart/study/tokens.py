"""Unique numbers for objects, to name the inputs of a cached result.

``id`` will not do: it is reused once an object is gone, and a result could be found under another object's number
unless all its inputs were kept alive.
"""

from __future__ import annotations

import itertools
import weakref


class Token(int):
    """The number of one object, for as long as the program runs."""


_numbers = itertools.count(1)
_known: dict[int, tuple[weakref.ref[object], Token]] = {}


def token_of(thing: object) -> Token:
    """The same for the same object, another for every other one; arrays, blocks, channels and projects have one.

    Raises TypeError for what cannot be referred to weakly, as numbers, texts, tuples and dictionaries.
    """
    place = id(thing)
    known = _known.get(place)
    if known is not None and known[0]() is thing:
        return known[1]
    token = Token(next(_numbers))
    _known[place] = weakref.ref(thing, lambda gone, place=place: _forget(place, gone)), token  # type: ignore[misc]
    return token


def _forget(place: int, gone: object) -> None:
    """Drop the token of a gone object; its ``id`` may be reused by now."""
    known = _known.get(place)
    if known is not None and known[0] is gone:
        del _known[place]
