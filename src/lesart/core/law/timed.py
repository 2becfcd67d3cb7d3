"""Times and counts: ticks, echoes, pulses in a gate and the time between them."""

from __future__ import annotations

from typing import Any

import numpy as np

from lesart.core.block import Floats
from lesart.core.dataclass_later import dataclass
from lesart.core.law.linear import Linear
from lesart.core.law.record import Argument, Beside, Law, LawKind
from lesart.core.parameters import Parameter
from lesart.core.units import Unit, parse_unit
from lesart.core.usual import CLOCKS, GATES, MARKS, PRESCALERS, TIMER_BITS

COUNT, SECOND, METRE, CELSIUS = parse_unit("ct"), parse_unit("s"), parse_unit("m"), parse_unit("°C")
SOUND_AT_ZERO_M_S, ZERO_K = 331.3, 273.15
"""Speed of sound in dry air at 0 °C; it grows with the root of the absolute temperature. Source: any textbook."""
RATES = ("1/s", "1/min", "1/h")


@dataclass(frozen=True)
class Bounded(Linear):
    """A straight line, valid from ``lowest`` to ``highest``."""

    lowest: float = 0.0
    highest: float = float("inf")

    @property
    def valid_in(self) -> tuple[float, float]:
        return self.lowest, self.highest


def _ticks(values: dict[str, Any]) -> Law:
    tick_s = values["prescaler"] / values["clock"]
    return Bounded(
        unit_in=COUNT,
        unit_out=SECOND,
        input_at=0.0,
        output_at=0.0,
        gain=tick_s,
        lowest=0.0,
        highest=float(2 ** values["bits"] - 1),
    )


TICKS = LawKind(
    name="timer ticks",
    title="ticks of a timer to seconds",
    formula="time = ticks × prescaler ÷ clock",
    source="definition of a tick",
    example="12 500 ct, 8 MHz, prescaler 64 → 0.1 s",
    parameters=(
        Parameter(
            "clock",
            "clock",
            "quantity",
            "of the timer, before its prescaler",
            "1 MHz",
            unit="Hz",
            lowest=0,
            above=True,
            usual=CLOCKS,
        ),
        Parameter("prescaler", "prescaler", "integer", "clocks a tick", 1, lowest=1, highest=65_536, usual=PRESCALERS),
        Parameter(
            "bits",
            "bits",
            "integer",
            "width of the timer: more ticks cannot be",
            16,
            lowest=4,
            highest=32,
            usual=TIMER_BITS,
        ),
    ),
    build=_ticks,
    start=lambda unit_in, unit_out: {},
)


def sound_m_s(celsius: Floats) -> Floats:
    """Speed of sound in dry air, 343.2 m/s at 20 °C; NaN at and below absolute zero; of one shape."""
    kelvin = celsius + ZERO_K
    return SOUND_AT_ZERO_M_S * np.sqrt(np.where(kelvin > 0, kelvin, np.nan) / ZERO_K)


@dataclass(frozen=True)
class Echo:
    """distance in m = time in s × speed × path + offset; second input: the temperature of the air in °C.

    With a ``speed_m_s`` of 0 it is that of sound in dry air. Source: 331.3 m/s × √(1 + t ÷ 273.15 °C), any textbook.
    """

    speed_m_s: float
    path: float
    offset_m: float
    longest_s: float
    unit_in: Unit = SECOND
    unit_out: Unit = METRE

    def valid(self, *others: Floats) -> tuple[Floats | float, Floats | float]:
        return 0.0, self.longest_s

    def _gain(self, air_c: Floats) -> Floats:
        return (self.speed_m_s + 0.0 * air_c if self.speed_m_s else sound_m_s(air_c)) * self.path

    def forward(self, x: Floats, *others: Floats) -> Floats:
        return self.offset_m + x * self._gain(others[0])

    def inverse(self, y: Floats, *others: Floats) -> Floats:
        return (y - self.offset_m) / self._gain(others[0])

    def slope(self, x: Floats, *others: Floats) -> Floats:
        return 0.0 * x + self._gain(others[0])


def _echo(values: dict[str, Any]) -> Beside:
    law = Echo(values["speed"], values["path"], values["offset"], values["longest"])
    return Beside(law, (Argument("air", CELSIUS, values["air"]),))


ECHO = LawKind(
    name="echo",
    title="time of an echo to distance",
    formula="distance = time × speed × path + offset",
    source="speed of sound in dry air, 331.3 m/s × √(1 + t ÷ 273.15 °C)",
    example="0.01 s, 20 °C, there and back → 1.716 m",
    parameters=(
        Parameter(
            "air",
            "air",
            "quantity",
            "temperature of the air, or the channel that reads it",
            "20 °C",
            unit="°C",
            lowest=-80,
            highest=100,
            channel=True,
            longest=60,
        ),
        Parameter("speed", "speed", "quantity", "of another wave; 0: sound in air", "0 m/s", unit="m/s", lowest=0),
        Parameter(
            "path",
            "path",
            "quantity",
            "part of the way that is the distance: there and back is a half",
            "0.5",
            lowest=0,
            above=True,
            highest=1,
            usual=("0.5", "1"),
        ),
        Parameter("offset", "offset", "quantity", "added: from the sensor to the mark", "0 mm", unit="m"),
        Parameter(
            "longest", "longest", "quantity", "time after which no echo comes", "1 s", unit="s", lowest=0, above=True
        ),
    ),
    build=_echo,
    start=lambda unit_in, unit_out: {},
)


def _gate(values: dict[str, Any]) -> Law:
    rate = parse_unit(values["per"])
    gain = 1.0 / (values["marks"] * values["gate"]) / float(rate.scale)
    return Bounded(COUNT, rate, 0.0, 0.0, gain)


GATE = LawKind(
    name="gate rate",
    title="pulses in a gate to a rate",
    formula="rate = pulses ÷ (marks × gate)",
    source="definition of a rate; one pulse is 60 ÷ (marks × gate in seconds) turns a minute",
    example="5 ct, 2 marks, 1 s → 150 1/min",
    parameters=(
        Parameter(
            "gate", "gate", "quantity", "time that was counted over", "1 s", unit="s", lowest=0, above=True, usual=GATES
        ),
        Parameter("marks", "marks", "quantity", "pulses a turn", "1", lowest=0, above=True, usual=MARKS),
        Parameter("per", "per", "choice", "of the rate", "1/min", choices=RATES),
    ),
    build=_gate,
    start=lambda unit_in, unit_out: {},
)


@dataclass(frozen=True)
class Rate:
    """rate = 1 ÷ (marks × interval), in ``unit_out``; an interval of 0 has no rate. Source: definition."""

    marks: float
    unit_out: Unit
    unit_in: Unit = SECOND

    @property
    def valid_in(self) -> tuple[float, float]:
        return 1e-9, float("inf")

    @property
    def saturated_at(self) -> tuple[float, float] | None:
        return None

    @property
    def _seconds(self) -> float:
        return 1.0 / (self.marks * float(self.unit_out.scale))

    def forward(self, x: Floats) -> Floats:
        return self._seconds / x

    def inverse(self, y: Floats) -> Floats:
        return self._seconds / y

    def slope(self, x: Floats) -> Floats:
        return -self._seconds / (x * x)


INTERVAL = LawKind(
    name="interval rate",
    title="time between pulses to a rate",
    formula="rate = 1 ÷ (marks × interval)",
    source="definition of a rate",
    example="0.02 s, 2 marks → 1500 1/min",
    parameters=(
        Parameter("marks", "marks", "quantity", "pulses a turn", "1", lowest=0, above=True, usual=MARKS),
        Parameter("per", "per", "choice", "of the rate", "1/min", choices=RATES),
    ),
    build=lambda values: Rate(values["marks"], parse_unit(values["per"])),
    start=lambda unit_in, unit_out: {},
)
