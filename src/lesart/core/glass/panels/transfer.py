"""Transfer times to a panel: by two wires, by four, in parallel, or by one line."""

from __future__ import annotations

from typing import Any

from lesart.core.dataclass_later import dataclass
from lesart.core.parameters import Parameter

TWO_WIRE, FOUR_WIRE, PARALLEL = BUSES = ("two-wire", "four-wire", "parallel")
ONE_LINE = "one line"
"""Of pulses, a bit each; no bus for other panels than lamps."""
CLOCKS_A_BYTE = {TWO_WIRE: 9, FOUR_WIRE: 8, PARALLEL: 1, ONE_LINE: 8}
"""Clocks per byte; two wires take an acknowledge after each."""
ENDS = 2
"""Clocks for start and stop on two wires."""
HEAD = 2
"""Bytes before the data of each two-wire transmission: the address, and the control byte."""

PARAMETERS = (
    Parameter("bus", "bus", "choice", "how bytes reach it", TWO_WIRE, choices=BUSES),
    Parameter(
        "clock",
        "bus clock",
        "quantity",
        "bits a second on a wire",
        "400 kHz",
        unit="Hz",
        lowest=0,
        above=True,
        highest=100_000_000,
    ),
    Parameter(
        "at_once",
        "bytes at once",
        "integer",
        "data bytes in one transmission, on two wires; 0: all of them",
        0,
        lowest=0,
        highest=4096,
    ),
)


@dataclass(frozen=True)
class Bus:
    """``at_once``: data bytes per transmission, 0 for all in one. ``head``: bytes before them on two wires.

    ``rest_s`` is a pause behind them until they are shown.
    """

    kind: str = TWO_WIRE
    clock_hz: float = 400_000.0
    at_once: int = 0
    head: int = HEAD
    rest_s: float = 0.0

    def transfer_s(self, count: int) -> float:
        """Time for a number of data bytes, overhead included. Source: the two-wire bus has 9 clocks per byte."""
        if count <= 0:
            return 0.0
        clocks = count * CLOCKS_A_BYTE[self.kind]
        if self.kind == TWO_WIRE:
            parts = -(-count // self.at_once) if self.at_once else 1
            clocks += parts * (self.head * CLOCKS_A_BYTE[TWO_WIRE] + ENDS)
        return clocks / self.clock_hz + self.rest_s


def build_bus(values: dict[str, Any]) -> Bus:
    """A bus from values by parameter name."""
    return Bus(values["bus"], values["clock"], values["at_once"])
