"""A channel meant by part of its name: ``volts`` for ``volts [V]``."""

from __future__ import annotations

import re
from collections.abc import Iterable

_UNIT = re.compile(r"\s*(?:\[[^\[\]]*\]|\([^()]*\)|/\s*\S+)\s*$")


def bare_name(name: str) -> str:
    """A name without the unit at its end, in brackets or after a slash."""
    return _UNIT.sub("", name).strip() or name


def channel_called(said: str, names: Iterable[str]) -> str | None:
    """The channel of that name; else the only one of that name apart from its unit and its case."""
    names = list(names)
    if said in names:
        return said
    wanted = " ".join(said.split()).lower()
    found = [each for each in names if wanted in (each.lower(), bare_name(each).lower())]
    return found[0] if len(found) == 1 else None
