"""Kinds of line that a source can be heard on, as records: the parameters of each, and what it gives."""

from __future__ import annotations

from collections.abc import Mapping
from typing import Any

from lesart.core.dataclass_later import dataclass
from lesart.core.parameters import Parameter
from lesart.core.raw.messages.bus_registers import BUS_ORDERS, BUS_TYPES, BusRegister
from lesart.core.raw.messages.checksums import OF_CHECK
from lesart.core.raw.messages.frames import FIELD, FieldSpec, field_from
from lesart.core.raw.messages.registers import TABLES, TYPES, RegisterSpec

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

_FRAMES = (
    Parameter("begins", "begins", "text", "bytes that each frame begins with, like 42 4D; empty: none", "", longest=80),
    Parameter("length", "length", "integer", "of a frame in bytes; 0: a rest ends it", 0, lowest=0, highest=1024),
    Parameter(
        "rest", "rest", "quantity", "that ends a frame of no known length", "50 ms", unit="s", lowest=1e-3, highest=10
    ),
    Parameter(
        "unchecked", "unchecked", "integer", "bytes at its beginning that the check leaves out", 0, lowest=0, highest=64
    ),
)
_ASKS = Parameter(
    "asks", "asks", "text", "bytes that ask for a frame, every period; empty: it comes by itself", "", longest=200
)
REGISTER = (
    Parameter("name", "name", "text", "of the column it gives", longest=60),
    Parameter("table", "table", "choice", "in which it is", "holding", choices=TABLES),
    Parameter("address", "address", "integer", "from 0, as it goes over the line", lowest=0, highest=65_535),
    Parameter("type", "type", "choice", "of the number; longer ones take more registers", "uint16", choices=TYPES),
    Parameter("word_swap", "words swapped", "flag", "does the lower word of two come first", False),
    Parameter("byte_swap", "bytes swapped", "flag", "does the lower byte of each register come first", False),
    Parameter("scale", "scale", "quantity", "what one step is, in the column's unit", "1", lowest=-1e12, highest=1e12),
    Parameter("offset", "offset", "quantity", "added after that", "0", lowest=-1e12, highest=1e12),
)
"""Parameters of a value in the registers of a unit, one of ``registers``."""
BUS_REGISTER = (
    Parameter("name", "name", "text", "of the column it gives", longest=60),
    Parameter(
        "register", "register", "text", "that is read from, like 0xF7; empty: the device just answers", "", longest=6
    ),
    Parameter("type", "type", "choice", "of the number", "uint16", choices=BUS_TYPES),
    Parameter("order", "order", "choice", "of its bytes", "high first", choices=BUS_ORDERS),
    Parameter("scale", "scale", "quantity", "what one step is, in the column's unit", "1", lowest=-1e12, highest=1e12),
    Parameter("offset", "offset", "quantity", "added after that", "0", lowest=-1e12, highest=1e12),
)
"""Parameters of a value in the registers of a device on two wires."""


@dataclass(frozen=True)
class LineKind:
    """``register`` are the parameters of each of its ``entries``, which list its columns; empty where columns are what
    comes. ``is_modbus``: devices can be searched for by unit."""

    name: str
    title: str
    says: str
    parameters: tuple[Parameter, ...]
    register: tuple[Parameter, ...] = ()
    is_modbus: bool = False
    entries: str = "registers"

    @property
    def has_registers(self) -> bool:
        """True where the project lists its columns."""
        return bool(self.register)


_TEXT = (
    Parameter("decimal", "decimal", "choice", "the decimal sign", ".", choices=(".", ",")),
    Parameter(
        "names", "names", "text", "of the columns, with commas between; empty: as the line says", "", longest=400
    ),
)
_HOST = Parameter("host", "host", "text", "name or address in the network", longest=200)
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
                *_TEXT,
            ),
        ),
        LineKind(
            "Modbus RTU",
            "Modbus over a serial port",
            "registers of a unit, read again and again",
            (_port(), _baud(19_200), *_SERIAL, *_ASKING),
            register=REGISTER,
            is_modbus=True,
        ),
        LineKind(
            "Modbus TCP",
            "Modbus over a network",
            "registers of a unit, read again and again",
            (
                _HOST,
                Parameter("tcp_port", "TCP port", "integer", "where it listens", 502, lowest=1, highest=65_535),
                *_ASKING,
            ),
            register=REGISTER,
            is_modbus=True,
        ),
        LineKind(
            "UDP text",
            "text over a network, by UDP",
            "numbers in lines of text that boards send to this computer",
            (
                Parameter(
                    "udp_port", "UDP port", "integer", "at which this computer listens", lowest=1, highest=65_535
                ),
                Parameter(
                    "listen", "listen at", "text", "address of this computer; 0.0.0.0: all", "0.0.0.0", longest=60
                ),
                *_TEXT,
            ),
        ),
        LineKind(
            "MQTT",
            "text over a broker, by MQTT 3.1.1",
            "numbers in what is published under a topic; a bare number is named after its topic",
            (
                _HOST,
                Parameter("tcp_port", "TCP port", "integer", "of the broker", 1883, lowest=1, highest=65_535),
                Parameter("topic", "topic", "text", "with + for one level, # for all below", "#", longest=400),
                Parameter("user", "user", "text", "name that the broker wants; empty: none", "", longest=100),
                Parameter(
                    "password_in", "password in", "text", "variable of the environment; empty: none", "", longest=100
                ),
                *_TEXT,
            ),
        ),
        LineKind(
            "two-wire bus",
            "two-wire bus of this computer",
            "registers of a device, read again and again through the kernel",
            (
                Parameter("bus", "bus", "text", "/dev/i2c-1, or a stand-in in the project's folder", longest=200),
                Parameter("address", "address", "text", "of the device, like 0x76", longest=6),
                _ASKING[1],
            ),
            register=BUS_REGISTER,
        ),
        LineKind(
            "serial frames",
            "frames of bytes over a serial port",
            "values in frames that a device sends by itself, or when it is asked",
            (
                _port(),
                _baud(9600),
                *_SERIAL,
                *_FRAMES,
                *OF_CHECK,
                _ASKS,
                _ASKING[1],
            ),
            register=FIELD,
            entries="fields",
        ),
        LineKind("this computer", "this computer", "its load, memory, disk and temperature", (_ASKING[1],)),
    )
}


@dataclass(frozen=True)
class Line:
    """The line of a source: ``values`` of its kind's parameters by name, and its registers."""

    kind: LineKind
    values: tuple[tuple[str, Any], ...]
    registers: tuple[RegisterSpec | BusRegister | FieldSpec, ...] = ()

    def __getitem__(self, name: str) -> Any:
        """A value by name. Raises KeyError where the kind has no such parameter."""
        return dict(self.values)[name]

    @property
    def says(self) -> str:
        """Where it is, in a few words."""
        told: Mapping[str, Any] = dict(self.values)
        if "port" in told:
            return f"{told['port']}, {told['baud']} baud"
        if "udp_port" in told:
            return f"UDP port {told['udp_port']}"
        if "topic" in told:
            return f"{told['topic']} at {told['host']}:{told['tcp_port']}"
        if "bus" in told:
            return f"{told['address']} on {told['bus']}"
        return f"{told['host']}:{told['tcp_port']}" if "host" in told else self.kind.name


def register_from(values: Mapping[str, Any]) -> RegisterSpec | BusRegister | FieldSpec:
    """A register from values of ``REGISTER`` or ``BUS_REGISTER``, or a field from ``FIELD``.

    Raises ValueError with a clause.
    """
    if "first_bit" in values:
        return field_from(values)
    if "register" in values:
        return BusRegister(**{**values, "register": byte_of(values["register"]) if values["register"] else None})
    return RegisterSpec(**values)


def byte_of(written: str, highest: int = 0xFF) -> int:
    """The byte that ``0xF7`` or ``247`` writes. Raises ValueError with a clause."""
    try:
        number = int(written, 0)
    except ValueError:
        number = -1
    if not 0 <= number <= highest:
        raise ValueError(f"it must be a number from 0x00 to 0x{highest:02X}, like 0x{highest // 2:02X}")
    return number
