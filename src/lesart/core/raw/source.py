"""A source: which column of a capture a channel reads, and in which unit its raw values are."""

from __future__ import annotations

from dataclasses import dataclass

from lesart.core.parameters import Parameter

CAPTURE = (
    Parameter("capture", "capture", "text", "the file, from the project's folder", longest=200),
    Parameter("delimiter", "delimiter", "choice", "what stands between two numbers",
              ",", choices=(",", ";", "tab", "space", "|")),
    Parameter("decimal", "decimal", "choice", "the decimal sign", ".", choices=(".", ",")),
    Parameter("header", "header", "integer", "lines before the first row of numbers", 0, lowest=0, highest=1000),
    Parameter("time", "time column", "text", "name or number of the time column; empty when there is none", "",
              longest=80),
    Parameter("time_unit", "time unit", "choice", "of the time column", "s", choices=("s", "ms", "µs", "ISO 8601")),
    Parameter("rate", "sample rate", "quantity", "samples a second, where there is no time column", "1 Hz", unit="Hz",
              lowest=0.0, above=True),
)  # fmt: skip


@dataclass(frozen=True)
class Source:
    """A capture file and how it is read. ``time`` is a name of its header; ``rate_hz`` counts where it is empty."""

    name: str
    capture: str
    delimiter: str
    decimal: str
    header: int
    time: str
    time_unit: str
    rate_hz: float
