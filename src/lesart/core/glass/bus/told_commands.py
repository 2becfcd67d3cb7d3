"""Commands that a line tells a display, each with the data behind it, before anyone knows what controller it has."""

from __future__ import annotations

from dataclasses import replace

from lesart.core.dataclass_later import dataclass
from lesart.core.glass.bus.windows import runs_of
from lesart.core.raw.bus_bytes import Words

SPAN = 4
"""Bytes that a command sets a window's columns by, or its rows, at most."""


@dataclass(frozen=True)
class ToldCommand:
    """A command and the data after it: ``data`` its first bytes, ``count`` how many there are."""

    code: int
    data: bytes
    count: int


def told_commands(words: Words) -> list[ToldCommand]:
    """All commands in order; data before the first are left out."""
    found: list[ToldCommand] = []
    for first, behind, is_data in runs_of(words):
        if is_data:
            if found:
                last, data = found[-1], words.value[first : min(behind, first + SPAN)].tobytes()
                found[-1] = replace(last, data=(last.data + data)[:SPAN], count=last.count + behind - first)
            continue
        found += [ToldCommand(byte, b"", 0) for byte in words.value[first:behind].tolist()]
    return found
