"""How a panel's light is scanned: times and currents, for composing and for Pace."""

from __future__ import annotations

from typing import Any

from lesart.core.dataclass_later import dataclass
from lesart.core.parameters import Parameter

PARAMETERS = (
    Parameter("on_time", "on-time", "quantity", "how long each digit is lit", "2 ms", unit="ms", lowest=0, above=True),
    Parameter("blanking", "blanking", "quantity", "all dark before the next digit", "0.1 ms", unit="ms", lowest=0),
    Parameter(
        "wanted",
        "wanted refresh",
        "quantity",
        "least refresh that looks steady",
        "50 Hz",
        unit="Hz",
        lowest=0,
        above=True,
    ),
    Parameter(
        "comfort",
        "at ease from",
        "quantity",
        "refresh that looks steady to a moving eye",
        "80 Hz",
        unit="Hz",
        lowest=0,
        above=True,
    ),
    Parameter(
        "turn_off",
        "goes dark in",
        "quantity",
        "time a digit needs to be off, else its ghost shows",
        "20 µs",
        unit="ms",
        lowest=0,
    ),
    Parameter("supply", "supply", "quantity", "of the segments", "5 V", unit="V", lowest=0, above=True),
    Parameter("forward", "forward", "quantity", "voltage of a lit segment", "2 V", unit="V", lowest=0),
    Parameter("resistor", "resistor", "quantity", "before each segment; 0: not known", "0 Ω", unit="Ω", lowest=0),
    Parameter(
        "line_resistor",
        "in each digit's line",
        "quantity",
        "resistor that its lit segments share; 0: none",
        "0 Ω",
        unit="Ω",
        lowest=0,
    ),
    Parameter(
        "segment_limit", "a segment takes", "quantity", "peak current at most", "25 mA", unit="mA", lowest=0, above=True
    ),
    Parameter(
        "line_limit",
        "a line takes",
        "quantity",
        "peak current of a digit's line at most; 0: not known",
        "0 mA",
        unit="mA",
        lowest=0,
    ),
)


@dataclass(frozen=True)
class Scan:
    """Times of one digit; ``wanted_hz`` is the limit for the refresh. ``resistor_ohm`` 0: not stated."""

    on_time_ms: float
    blanking_ms: float
    wanted_hz: float
    comfort_hz: float = 80.0
    turn_off_ms: float = 0.02
    supply_v: float = 5.0
    forward_v: float = 2.0
    resistor_ohm: float = 0.0
    segment_limit_ma: float = 25.0
    line_limit_ma: float = 0.0
    line_resistor_ohm: float = 0.0


def build_scan(values: dict[str, Any]) -> Scan:
    """A scan from values by parameter name."""
    names = (
        "on_time",
        "blanking",
        "wanted",
        "comfort",
        "turn_off",
        "supply",
        "forward",
        "resistor",
        "segment_limit",
        "line_limit",
        "line_resistor",
    )
    return Scan(*(values[name] for name in names))
