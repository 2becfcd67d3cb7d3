"""The logic trace of a panel's lines: which signal is which, and which controller took the bytes."""

from __future__ import annotations

from collections.abc import Mapping
from typing import Any

from lesart.core.dataclass_later import dataclass
from lesart.core.glass.panels.panel import Panel
from lesart.core.parameters import Parameter
from lesart.core.raw.decode.four_wire import FOUR_WIRE
from lesart.core.raw.decode.record import GLITCH

TWO, FOUR, PARALLEL, LINES, ONE = WIRES = ("two-wire", "four-wire", "parallel", "two lines", "one line")
HIGH, LOW = LEVELS = ("high", "low")
_CAPTURE = (
    Parameter("capture", "capture", "text", "a trace (.vcd), in the project folder", longest=200),
    Parameter(
        "starts_at",
        "starts at",
        "quantity",
        "moment of the project's captures at which it begins; without one, readings at the cursor",
        unit="s",
        lowest=0,
        optional=True,
    ),
)
BUS_TRACE = (
    *_CAPTURE,
    Parameter("wires", "wires", "choice", "of the bus", TWO, choices=WIRES),
    Parameter(
        "clock",
        "clock",
        "text",
        "its signal; of parallel lines the one that enables; one line has none",
        "clock",
    ),
    Parameter(
        "data", "data", "text", "its signal; of parallel lines all, the lowest first: d4 d5 d6 d7", "data", longest=200
    ),
    Parameter("select", "select", "text", "its signal, of four wires; empty: none", ""),
    Parameter("command", "data or command", "text", "signal that is high for data; empty: none", ""),
    Parameter("address", "address", "text", "on two wires, like 0x3C; empty: any", "", longest=6),
    Parameter("controller", "controller", "text", "one that is built in, or of the project; empty: as usual", ""),
    Parameter(
        "rest",
        "drawings rest",
        "quantity",
        "a time without a byte that separates two drawings",
        "10 ms",
        unit="s",
        lowest=0,
        above=True,
        highest=3600,
    ),
    *(parameter for parameter in FOUR_WIRE.parameters if parameter.name in ("mode", "first", "selected")),
    GLITCH,
)
DIGITS_TRACE = (
    *_CAPTURE,
    Parameter("digits", "digit lines", "text", "signals of the digits, left to right: d1 d2 d3 d4", longest=400),
    Parameter(
        "segments",
        "segment lines",
        "text",
        "signals in the order of bits: a b c d e f g dp; empty: not traced",
        "",
        longest=400,
    ),
    Parameter("digit_on", "digit on by", "choice", "level of its line", HIGH, choices=LEVELS),
    Parameter("segment_on", "segment on by", "choice", "level of its line", HIGH, choices=LEVELS),
    GLITCH,
)


@dataclass(frozen=True)
class PanelTrace:
    """``values`` by parameter name: those for digits where its panel is scanned, else for a bus."""

    panel: str
    values: Mapping[str, Any]
    is_digits: bool

    @property
    def capture(self) -> str:
        """The capture, relative to the project."""
        return str(self.values["capture"])

    @property
    def address(self) -> int | None:
        """The address on two wires; None for any."""
        written = self.values.get("address", "")
        return int(written, 0) if written else None


def trace_parameters(panel: Panel) -> tuple[Parameter, ...]:
    """The parameters of a panel's trace."""
    return DIGITS_TRACE if is_scanned(panel) else BUS_TRACE


def is_scanned(panel: Panel) -> bool:
    """True where its digits are lit in turn by lines of their own; behind registers they share the lines of those."""
    return panel.scan is not None and not panel.is_shifted
