"""What some lines of a trace say together, how sure that is, and why."""

from __future__ import annotations

import re
from collections.abc import Callable, Iterable, Iterator, Mapping
from typing import Any

from lesart.core.dataclass_later import dataclass
from lesart.core.quantity import parse_quantity
from lesart.core.raw.talks.seen_line import SeenLine
from lesart.core.units import parse_unit

SCANNED, PARALLEL, STILL, TRIGGER = "scanned digits", "parallel bus", "nothing", "trigger"
"""Talks that no decoder reads: those of panels, a line that never changes, and one that only triggers."""
_CALLED = {
    "clock": r"scl|sclk|sck|clk|clock|c(?:lo)?ck?",
    "data": r"sda|sdi|sdo|mosi|miso|din|dout|dio|data|dat|d",
    "select": r"cs|ss|nss|ncs|csn|ce|sel|select|latch|stb|rck|load|le|en",
    "command": r"dc|d_c|rs|a0|cd|command|cmd",
    "line": r"tx|rx|txd|rxd|uart|ser(?:ial)?",
    "enable": r"e|en|enable|strobe",
}
"""Usual names of such lines; a number or a prefix may be next to it."""


@dataclass(frozen=True)
class Talk:
    """``kind`` is a decoder's name, or one of a panel's; ``lines`` signals by what each is for, in the order of its
    roles; ``values`` what the decoder has to be told. ``sure`` is from 0 to 1; ``why`` a clause with its figures.

    ``weight`` is how much of the trace it explains; ``check`` and ``messages`` what its frames have, ``fields`` values
    that stand in them, as the project file would have them.
    """

    kind: str
    lines: tuple[tuple[str, str], ...]
    sure: float
    why: str
    values: tuple[tuple[str, Any], ...] = ()
    weight: float = 0.0
    check: str = "none"
    messages: str = "none"
    fields: tuple[Mapping[str, Any], ...] = ()

    @property
    def signals(self) -> tuple[str, ...]:
        """All of its signals, each once."""
        return tuple(dict.fromkeys(name for _, names in self.lines for name in names.split(" ") if name))

    @property
    def shortest_s(self) -> float:
        """Shorter pulses are glitches and were left out, in seconds; 0 where there are none."""
        written = dict(self.values).get("shortest")
        return parse_quantity(str(written), parse_unit("s")).to(parse_unit("s")) if written else 0.0

    def line(self, role: str) -> str:
        """The signal for a role; empty where there is none."""
        return dict(self.lines).get(role, "")


Look = Callable[[Mapping[str, SeenLine]], Iterable[Talk]]
"""A recogniser: all talks of one kind that the lines of a trace might be."""


def is_called(name: str, role: str) -> bool:
    """True where a signal has a usual name for such a line."""
    bare = re.sub(r"[\d_\-]+$", "", name.rpartition(".")[2].lower().lstrip("_~n"))
    bare = bare or name.rpartition(".")[2].lower()
    wanted = _CALLED.get(role)
    if wanted is None:
        return bare == role
    return bool(re.fullmatch(wanted, bare) or re.fullmatch(wanted, name.rpartition(".")[2].lower()))


def named_right(lines: Iterable[tuple[str, str]]) -> float:
    """Share of the lines whose names match their roles."""
    told = [(role, name) for role, name in lines if role in _CALLED]
    return sum(is_called(name, role) for role, name in told) / len(told) if told else 0.0


def named_otherwise(lines: Iterable[tuple[str, str]]) -> bool:
    """True where one of them is named after another role."""
    return any(
        not is_called(name, role) and any(is_called(name, other) for other in ("clock", "select") if other != role)
        for role, name in lines
        if role in ("clock", "data", "select", "command")
    )


def pairs(lines: Mapping[str, SeenLine]) -> Iterator[tuple[SeenLine, SeenLine]]:
    """All ordered pairs of different lines."""
    for first in lines.values():
        for second in lines.values():
            if first.name != second.name:
                yield first, second
