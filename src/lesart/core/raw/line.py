"""Lines that a source can be listened to on, as records: what each kind needs to be told, and what it gives."""

from __future__ import annotations

from collections.abc import Mapping
from typing import Any

from lesart.core.dataclass_later import dataclass
from lesart.core.parameters import Parameter
from lesart.core.raw.registers import TABLES, TYPES, RegisterSpec

PARITIES = ("none", "even", "odd")


def _port(default: str | None = None) -> Parameter:
    says = "a serial port, or a file in the project's folder that leads to one"
    return Parameter("port", "port", "text", says, default, longest=200)


_SERIAL = (
    Parameter("parity", "parity", "choice", "of each byte", "none", choices=PARITIES),
    Parameter("stop_bits", "stop bits", "integer", "after each byte", 1, lowest=1, highest=2),
)


def _baud(default: int) -> Parameter:
    return Parameter("baud", "baud", "integer", "bits a second", default, lowest=50, highest=4_000_000)


_ASKING = (
    Parameter("unit", "unit", "integer", "address of the device on the bus", 1, lowest=1, highest=247),
    Parameter(
        "period", "period", "quantity", "between two readings", "1 s", unit="s", lowest=0.0, above=True, highest=86_400
    ),
    Parameter("timeout", "time-out", "quantity", "for a reply", "0.5 s", unit="s", lowest=0.01, highest=60),
)

REGISTER = (
    Parameter("name", "name", "text", "of the column it gives", longest=60),
    Parameter("table", "table", "choice", "in which it stands", "holding", choices=TABLES),
    Parameter("address", "address", "integer", "from 0, as it goes over the line", lowest=0, highest=65_535),
    Parameter("type", "type", "choice", "of the number; longer ones take more registers", "uint16", choices=TYPES),
    Parameter("word_swap", "words swapped", "flag", "does the lower word of two come first", False),
    Parameter("byte_swap", "bytes swapped", "flag", "does the lower byte of each register come first", False),
    Parameter("scale", "scale", "quantity", "what one step is, in the column's unit", "1", lowest=-1e12, highest=1e12),
    Parameter("offset", "offset", "quantity", "added after that", "0", lowest=-1e12, highest=1e12),
)
"""A value in the registers of a unit, one of ``registers``."""


@dataclass(frozen=True)
class LineKind:
    """``has_registers``: its columns are listed in the project; else they are what comes."""

    name: str
    title: str
    says: str
    parameters: tuple[Parameter, ...]
    has_registers: bool = False


LINES = {
    kind.name: kind
    for kind in (
        LineKind(
            "text line",
            "serial text line",
            "numbers in lines of text, with names or without",
            (
                _port(),
                _baud(115_200),
                *_SERIAL,
                Parameter("decimal", "decimal", "choice", "the decimal sign", ".", choices=(".", ",")),
                Parameter(
                    "names",
                    "names",
                    "text",
                    "of the columns, with commas between; empty: as the line says",
                    "",
                    longest=400,
                ),
            ),
        ),
        LineKind(
            "Modbus RTU",
            "Modbus over a serial port",
            "registers of a unit, read again and again",
            (_port(), _baud(19_200), *_SERIAL, *_ASKING),
            has_registers=True,
        ),
        LineKind(
            "Modbus TCP",
            "Modbus over a network",
            "registers of a unit, read again and again",
            (
                Parameter("host", "host", "text", "name or address in the network", longest=200),
                Parameter("tcp_port", "TCP port", "integer", "where it listens", 502, lowest=1, highest=65_535),
                *_ASKING,
            ),
            has_registers=True,
        ),
        LineKind("this computer", "this computer", "its load, memory, disk and temperature", (_ASKING[1],)),
    )
}


@dataclass(frozen=True)
class Line:
    """Where a source is listened to: ``values`` of its kind's parameters by name, and its registers."""

    kind: LineKind
    values: tuple[tuple[str, Any], ...]
    registers: tuple[RegisterSpec, ...] = ()

    def __getitem__(self, name: str) -> Any:
        """A value by name; KeyError where the kind has none of it."""
        return dict(self.values)[name]

    @property
    def says(self) -> str:
        """Where it is, in a few words."""
        told: Mapping[str, Any] = dict(self.values)
        if "port" in told:
            return f"{told['port']}, {told['baud']} baud"
        return f"{told['host']}:{told['tcp_port']}" if "host" in told else self.kind.name


def register_from(values: Mapping[str, Any]) -> RegisterSpec:
    """A register of values of ``REGISTER``."""
    return RegisterSpec(**values)
