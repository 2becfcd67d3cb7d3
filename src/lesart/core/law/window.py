"""Waveforms: a window of samples becomes one level or one frequency."""

from __future__ import annotations

from collections.abc import Callable
from typing import Any, Literal

import numpy as np

from lesart.core.block import Floats
from lesart.core.dataclass_later import dataclass
from lesart.core.law.record import LawKind
from lesart.core.parameters import Parameter
from lesart.core.quantity import Quantity, plain_number
from lesart.core.units import Unit, parse_unit

HERTZ, DECIBEL = parse_unit("Hz"), parse_unit("dB")
MOST_HOPS = 64
"""A window of more hops would cost that many times as much."""
FEWEST = 8
"""The fewest samples of a window in which a frequency is looked for."""


@dataclass(frozen=True)
class Level:
    """Root of the mean square, or the greatest magnitude, of a window, in the signal's unit.

    ``is_steady_part_kept`` counts what stands still too; else the mean is taken off first. Source: definitions.
    """

    what: Literal["RMS", "peak"]
    unit_in: Unit
    window_s: float
    hop_s: float
    is_steady_part_kept: bool

    @property
    def unit_out(self) -> Unit:
        return self.unit_in

    def of_window(self, x: Floats, interval_s: float) -> float:
        moving = x if self.is_steady_part_kept else x - x.mean()
        return float(np.sqrt(np.mean(moving * moving)) if self.what == "RMS" else np.abs(moving).max())

    def at_rest(self, x: Floats) -> Floats:
        return np.abs(x) if self.is_steady_part_kept else 0.0 * x

    def inverse(self, y: float) -> float:
        return y if self.is_steady_part_kept and y >= 0 else float("nan")


@dataclass(frozen=True)
class Decibel:
    """20·log₁₀(RMS ÷ reference) of a window, in dB; silence has none. Source: definition, IEC 60027-3."""

    rms: Level
    reference: float
    unit_out: Unit = DECIBEL

    @property
    def unit_in(self) -> Unit:
        return self.rms.unit_in

    @property
    def window_s(self) -> float:
        return self.rms.window_s

    @property
    def hop_s(self) -> float:
        return self.rms.hop_s

    def of_window(self, x: Floats, interval_s: float) -> float:
        with np.errstate(divide="ignore"):  # silence is −∞ dB
            return float(20.0 * np.log10(self.rms.of_window(x, interval_s) / self.reference))

    def at_rest(self, x: Floats) -> Floats:
        with np.errstate(divide="ignore"):
            return 20.0 * np.log10(self.rms.at_rest(x) / self.reference)

    def inverse(self, y: float) -> float:
        return self.rms.inverse(float(self.reference * np.power(10.0, y / 20.0)))


@dataclass(frozen=True)
class Strongest:
    """Frequency in Hz of the highest peak of a window's spectrum between two bounds; silence has none.

    The mean is taken off, a Hann window laid over, and the peak found between the bins by a parabola through the
    logarithms of the three highest: within a hundredth of a bin for one tone. Source: textbooks of spectral analysis.
    The samples are assumed to be evenly spaced.
    """

    unit_in: Unit
    window_s: float
    hop_s: float
    lowest_hz: float
    highest_hz: float
    unit_out: Unit = HERTZ

    def of_window(self, x: Floats, interval_s: float) -> float:
        n = len(x)
        if n < FEWEST or not interval_s > 0:
            return float("nan")
        power = np.abs(np.fft.rfft((x - x.mean()) * np.hanning(n))) ** 2
        bin_hz = 1.0 / (n * interval_s)
        first = max(int(np.ceil(self.lowest_hz / bin_hz)), 1)
        last = min(int(np.floor(self.highest_hz / bin_hz)) + 1, len(power) - 1)
        if first >= last or not power[first:last].any():
            return float("nan")
        place = first + int(np.argmax(power[first:last]))
        below, middle, above = np.log(power[place - 1 : place + 2] + np.finfo(float).tiny)
        bend = below - 2 * middle + above
        shift = 0.5 * (below - above) / bend if bend < 0 else 0.0
        return float((place + shift) * bin_hz)

    def at_rest(self, x: Floats) -> Floats:
        return np.full_like(x, np.nan)

    def inverse(self, y: float) -> float:
        return float("nan")


def _times(values: dict[str, Any]) -> tuple[float, float]:
    """Window and hop in seconds. Raises ValueError where they do not fit together."""
    window, hop = values["window"], values["hop"] or values["window"]
    if window / hop > MOST_HOPS:
        raise ValueError(f"hop must be at least a {MOST_HOPS}th of the window, {plain_number(window / MOST_HOPS)} s")
    return window, hop


def _level(what: Literal["RMS", "peak"]) -> Callable[[dict[str, Any]], Level]:
    return lambda values: Level(what, values["unit"], *_times(values), values["steady_part"] == "counted")


def _decibel(values: dict[str, Any]) -> Decibel:
    reference: Quantity = values["reference"]
    if not reference.value > 0:
        raise ValueError("reference must be above 0")
    rms = Level("RMS", reference.unit, *_times(values), values["steady_part"] == "counted")
    return Decibel(rms, float(reference.value))


def _strongest(values: dict[str, Any]) -> Strongest:
    if not values["lowest"] < values["highest"]:
        raise ValueError("lowest must be below highest")
    return Strongest(values["unit"], *_times(values), values["lowest"], values["highest"])


_UNIT = Parameter("unit", "signal in", "unit", "unit of the signal", "V")
_WINDOW = (
    Parameter(
        "window",
        "window",
        "quantity",
        "time that makes one value",
        "125 ms",
        unit="s",
        lowest=0,
        above=True,
        highest=3600,
    ),
    Parameter(
        "hop",
        "hop",
        "quantity",
        "from one window to the next; 0: as long as the window",
        "0 s",
        unit="s",
        lowest=0,
        highest=86_400,
    ),
)
_STEADY = Parameter(
    "steady_part",
    "steady part",
    "choice",
    "a steady level, as the middle of a supply",
    "taken off",
    choices=("taken off", "counted"),
)


def _start(unit_in: Unit, unit_out: Unit) -> dict[str, str]:
    return {"unit": unit_in.symbol}


RMS = LawKind(
    name="windowed RMS",
    title="root of the mean square of each window",
    formula="level = √(mean of x²)",
    source="definition",
    example="a sine of 1 V → 0.7071 V",
    parameters=(_UNIT, *_WINDOW, _STEADY),
    build=_level("RMS"),
    start=_start,
)
PEAK = LawKind(
    name="windowed peak",
    title="greatest magnitude of each window",
    formula="level = greatest |x|",
    source="definition",
    example="a sine of 1 V → 1 V",
    parameters=(_UNIT, *_WINDOW, _STEADY),
    build=_level("peak"),
    start=_start,
)
LEVEL = LawKind(
    name="windowed level",
    title="level of each window in decibels",
    formula="level = 20·log₁₀(RMS ÷ reference)",
    source="IEC 60027-3",
    example="a sine of 1 V, reference 1 V → −3.01 dB",
    parameters=(
        Parameter("reference", "reference", "any quantity", "what 0 dB is, e.g. 1 V or 20 µPa"),
        *_WINDOW,
        _STEADY,
    ),
    build=_decibel,
    start=lambda unit_in, unit_out: {"reference": f"1 {unit_in}".removesuffix(" 1")},
)
STRONGEST = LawKind(
    name="strongest frequency",
    title="strongest frequency of each window",
    formula="frequency = highest peak of the spectrum, between its bins by a parabola",
    source="textbooks of spectral analysis, Hann window",
    example="a hum of 230 Hz → 230 Hz",
    parameters=(
        _UNIT,
        *_WINDOW,
        Parameter("lowest", "lowest", "quantity", "frequency looked for", "20 Hz", unit="Hz", lowest=0),
        Parameter("highest", "highest", "quantity", "frequency looked for", "20 kHz", unit="Hz", lowest=0, above=True),
    ),
    build=_strongest,
    start=_start,
)
