"""A source: a capture, how it is read, what is decoded in it, and the positions of values in its frames."""

from __future__ import annotations

from typing import Any

from lesart.core.dataclass_later import dataclass
from lesart.core.parameters import Parameter
from lesart.core.raw.cells import THOUSANDS
from lesart.core.raw.decode import DecoderKind
from lesart.core.raw.heard_registers import HeardRegister
from lesart.core.raw.lines.line import Line
from lesart.core.raw.messages.checksums import NO_CHECK, OF_CHECK, FrameCheck
from lesart.core.raw.messages.frames import FieldSpec
from lesart.core.raw.moments.read import FORMS

FORMATS = (
    "csv",
    "json lines",
    "json",
    "parquet",
    "spreadsheet",
    "text log",
    "sentences",
    "arrays",
    "wav",
    "sound",
    "binary",
    "vcd",
    "hex",
    "recording",
)
TABLES = ("json lines", "json", "parquet", "spreadsheet", "text log", "sentences", "arrays")
"""Formats whose columns have names."""
NUMBER_TYPES = (
    "int8",
    "uint8",
    "int16",
    "uint16",
    "int24",
    "uint24",
    "int32",
    "uint32",
    "int64",
    "uint64",
    "float32",
    "float64",
)
FORMAT = Parameter("format", "format", "choice", "of the file", "csv", choices=FORMATS)
EARLY = (
    Parameter(
        "settle",
        "settles in",
        "quantity",
        "after power-up or a long pause; readings until then are marked",
        "0 s",
        unit="s",
        lowest=0.0,
        highest=1e6,
    ),
    Parameter(
        "least_interval",
        "least interval",
        "quantity",
        "between readings; those that come sooner are marked",
        "0 s",
        unit="s",
        lowest=0.0,
        highest=1e6,
    ),
)
"""Parameters of every source: how early is too early."""
FILE_NAME = Parameter("capture", "capture", "text", "the file, from the project's folder", longest=200)
_RATE = Parameter(
    "rate",
    "sample rate",
    "quantity",
    "samples a second, where there is no time column",
    "1 Hz",
    unit="Hz",
    lowest=0.0,
    above=True,
)
_TIME = (
    Parameter(
        "time", "time column", "text", "name or number of the time column; empty when there is none", "", longest=80
    ),
    Parameter("time_unit", "time as", "choice", "how the time column is written: its unit or form", "s", choices=FORMS),
    Parameter(
        "clock",
        "time of day",
        "text",
        "column with it, where the time column has dates only; empty: none",
        "",
        longest=80,
    ),
    _RATE,
)
_HEAD = (
    Parameter("header", "header", "integer", "lines before the first row of numbers", 0, lowest=0, highest=1000),
    Parameter(
        "names_line", "names in line", "integer", "of the file; 0: the last of the header", 0, lowest=0, highest=1000
    ),
    Parameter(
        "groups_line",
        "groups in line",
        "integer",
        "of the file, with what several columns are of, which comes before their names; 0: none",
        0,
        lowest=0,
        highest=1000,
    ),
)
_CELLS = (
    Parameter("decimal", "decimal", "choice", "the decimal sign", ".", choices=(".", ",")),
    Parameter(
        "thousands", "thousands", "choice", "sign between groups of three digits", "none", choices=tuple(THOUSANDS)
    ),
)
_WHOSE = Parameter(
    "whose",
    "rows are of",
    "text",
    "column that says which sensor a row is of; empty: all are of one",
    "",
    longest=80,
)
_UNITS_IN = Parameter(
    "units_in",
    "units in",
    "text",
    "column that says the unit of each number beside it, as meters do that change their range; empty: none",
    "",
    longest=80,
)
_LAYOUT = (
    Parameter("numbers", "numbers", "choice", "what each one is", "int16", choices=NUMBER_TYPES),
    Parameter("columns", "columns", "integer", "numbers that come together", 1, lowest=1, highest=256),
    Parameter("order", "order", "choice", "of the bytes of a number", "low first", choices=("low first", "high first")),
    Parameter("skip", "skip", "integer", "bytes before the first number", 0, lowest=0, highest=1_000_000_000),
)
CAPTURE = (
    FILE_NAME,
    Parameter(
        "delimiter",
        "delimiter",
        "choice",
        "what separates two numbers",
        ",",
        choices=(",", ";", "tab", "space", "|"),
    ),
    *_CELLS,
    *_HEAD,
    *_TIME,
    _WHOSE,
    _UNITS_IN,
    *EARLY,
)
"""Parameters of a file of numbers."""
OF_FORMAT: dict[str, tuple[Parameter, ...]] = {
    "csv": CAPTURE,
    **dict.fromkeys(TABLES, (FILE_NAME, *_CELLS, *_TIME, _WHOSE, *EARLY)),
    "spreadsheet": (
        FILE_NAME,
        Parameter("sheet", "sheet", "text", "by name; empty: the one with the most numbers", "", longest=80),
        *_CELLS,
        *_TIME,
        _WHOSE,
        *EARLY,
    ),
    "wav": (FILE_NAME, *EARLY),
    "sound": (FILE_NAME, *EARLY),
    "binary": (FILE_NAME, *_LAYOUT, _RATE, *EARLY),
    "vcd": (FILE_NAME, *EARLY),
    "hex": (FILE_NAME, *EARLY),
    "recording": (
        Parameter("capture", "capture", "text", "the last recording; empty while there is none", "", longest=200),
        *EARLY,
    ),
}
"""Parameters of each format."""

MESSAGES = ("none", "Modbus RTU", "Modbus ASCII", "text lines")
DECODE = (
    Parameter(
        "messages",
        "messages",
        "choice",
        "that the frames are; registers and numbers in lines become columns",
        "none",
        choices=MESSAGES,
    ),
    Parameter(
        "begins",
        "begins",
        "text",
        "bytes that a frame must begin with to count, like CC BE; fields and the check are of what comes after them",
        "",
        longest=80,
    ),
    *OF_CHECK,
)
"""Besides a decoder's own parameters: the check of its frames."""


@dataclass(frozen=True)
class Decoding:
    """A decoder with its values, and the signals of the capture that it reads, by role."""

    kind: DecoderKind
    lines: tuple[tuple[str, str], ...]
    values: tuple[tuple[str, Any], ...]
    check: FrameCheck = NO_CHECK
    messages: str = "none"
    begins: bytes = b""


@dataclass(frozen=True)
class Source:
    """A capture file and how it is read. ``time`` is a name of its header; ``rate_hz`` counts where it is empty.

    ``decoding``, ``fields`` and ``registers`` make columns of the edges, frames and messages in it. ``settle_s`` and
    ``least_interval_s`` say which readings come too early. ``line`` is where it can be listened to; ``capture`` is its
    last recording then, empty where there is none.
    """

    name: str
    capture: str
    delimiter: str = ","
    decimal: str = "."
    header: int = 0
    thousands: str = "none"
    names_line: int = 0
    groups_line: int = 0
    time: str = ""
    time_unit: str = "s"
    clock: str = ""
    whose: str = ""
    units_in: str = ""
    sheet: str = ""
    numbers: str = "int16"
    columns: int = 1
    order: str = "low first"
    skip: int = 0
    rate_hz: float = 1.0
    format: str = "csv"
    decoding: Decoding | None = None
    fields: tuple[FieldSpec, ...] = ()
    registers: tuple[HeardRegister, ...] = ()
    settle_s: float = 0.0
    least_interval_s: float = 0.0
    line: Line | None = None


def beginning_from(written: str) -> bytes:
    """The bytes written in ``begins``. Raises ValueError with a clause where it is not bytes."""
    try:
        return bytes.fromhex(written)
    except ValueError:
        raise ValueError("it must be bytes in hexadecimal, like CC BE") from None
