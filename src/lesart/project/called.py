"""A channel that is called by a part of its name: ``volts`` for ``volts [V]``."""

from __future__ import annotations

import re
from collections.abc import Iterable

_UNIT = re.compile(r"\s*(?:\[[^\[\]]*\]|\([^()]*\)|/\s*\S+)\s*$")


def bare_name(name: str) -> str:
    """Without the unit that comes after it, in brackets or after a stroke."""
    return _UNIT.sub("", name).strip() or name


def channel_called(said: str, names: Iterable[str]) -> str | None:
    """The channel of that name; else the only one that is called so but for its unit and for large letters."""
    names = list(names)
    if said in names:
        return said
    wanted = " ".join(said.split()).lower()
    found = [each for each in names if wanted in (each.lower(), bare_name(each).lower())]
    return found[0] if len(found) == 1 else None
