"""How a panel's light is driven: what is needed to compose it, and what Pace judges."""

from __future__ import annotations

from dataclasses import dataclass

from lesart.core.parameters import Parameter

PARAMETERS = (
    Parameter("on_time", "on-time", "quantity", "how long each digit is lit", unit="ms", lowest=0, above=True),
    Parameter("blanking", "blanking", "quantity", "all dark before the next digit", "0.1 ms", unit="ms", lowest=0),
    Parameter("wanted", "wanted refresh", "quantity", "least refresh that looks steady", "50 Hz", unit="Hz", lowest=0,
              above=True),
)  # fmt: skip


@dataclass(frozen=True)
class Scan:
    """Times of one digit; ``wanted_hz`` is the limit the refresh is held against."""

    on_time_ms: float
    blanking_ms: float
    wanted_hz: float
