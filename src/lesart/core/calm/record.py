"""The parts of every filter: a record that describes it, and a causal stage that states its cost."""

from __future__ import annotations

from collections.abc import Callable, Iterable, Mapping, Sequence
from dataclasses import field
from typing import Any

from lesart.core.chain import Stage
from lesart.core.dataclass_later import dataclass
from lesart.core.parameters import Parameter
from lesart.core.units import Unit


@dataclass(frozen=True)
class Cost:
    """``delay_samples`` at low frequency; ``noise_factor`` on white noise; memory, and operations per sample, on a
    small processor with 4-byte values: each sum, product, quotient, comparison, exponential and absolute value is one.
    Tests measure all of them."""

    delay_samples: float
    noise_factor: float
    memory_bytes: int
    operations: float


@dataclass(frozen=True)
class FilterKind:
    """The record of a filter. ``build`` takes values by parameter name and the reading's unit; it raises UnitError."""

    name: str
    title: str
    says: Callable[[dict[str, Any]], str]
    """A few words for a variant's line: ``median 5``."""
    parameters: tuple[Parameter, ...]
    build: Callable[[dict[str, Any], Unit], Stage]
    cost: Callable[[dict[str, Any], float], Cost]
    """Cost from values and the seconds between samples, which some filters' costs depend on."""
    start: Callable[[Unit, float], dict[str, Any]] = lambda unit, interval_s: {}
    """Values of a new filter in place of its defaults, by the reading's unit and the seconds between samples."""
    in_turn: tuple[str, ...] = ()
    """Parameters for the values typed after its name, in that order; empty for the order of the parameters."""
    averages: bool = False
    """True where it makes values between two counts, out of noise that spans several of them."""
    rate: str = ""
    """The parameter with the sample rate in Hz, or the time between samples in s; empty for none."""
    thins: str = ""
    """The parameter with the number of samples of which one passes; empty where all do."""
    computes: str = ""
    """Equations, start and exceptions, enough to write it again in another language; x is the good sample that comes
    in, y the output, t its time."""
    evenly_over: str = ""
    """The parameter with the number of equally weighted samples: hum with whole periods in them is gone after it."""

    @property
    def takes(self) -> tuple[str, ...]:
        """Names of those."""
        return self.in_turn or tuple(parameter.name for parameter in self.parameters)


@dataclass(frozen=True)
class FilterEntry:
    """A filter of a channel: its values by parameter name, and the same as written in the project file."""

    kind: FilterKind
    values: Mapping[str, Any] = field(hash=False)
    written: Mapping[str, Any] = field(hash=False)

    @property
    def says(self) -> str:
        """A few words: ``median 5``."""
        return self.kind.says(dict(self.values))

    @property
    def told_hz(self) -> float:
        """The sample rate that it is set to, in Hz; 0 where it has none."""
        told = float(self.values.get(self.kind.rate) or 0.0)
        parameter = next((each for each in self.kind.parameters if each.name == self.kind.rate), None)
        return 1.0 / told if told and parameter is not None and parameter.unit == "s" else told

    def cost(self, interval_s: float) -> Cost:
        """Its cost where samples are ``interval_s`` apart."""
        return self.kind.cost(dict(self.values), interval_s)

    def interval_behind_s(self, interval_s: float) -> float:
        """Seconds between samples after it, where they are ``interval_s`` apart before it."""
        return interval_s * int(self.values[self.kind.thins]) if self.kind.thins else interval_s


@dataclass(frozen=True)
class TotalCost:
    """Cost of filters one after another, each at the rate at which samples reach it.

    ``lag_s`` in seconds at low frequency; ``operations`` on each sample that comes to the first of them, on average;
    ``interval_s`` from sample to sample after the last.
    """

    lag_s: float
    memory_bytes: int
    operations: float
    interval_s: float


def intervals_s(filters: Iterable[FilterEntry], interval_s: float) -> tuple[float, ...]:
    """Seconds between samples before each filter, and after the last: one more than there are filters."""
    found = [interval_s]
    for each in filters:
        found.append(each.interval_behind_s(found[-1]))
    return tuple(found)


def total_cost(filters: Sequence[FilterEntry], interval_s: float) -> TotalCost:
    """Delays in seconds and memory add up.

    After a thinning filter the samples are further apart, so delays are longer and work comes less often. Noise factors
    do not multiply: see ``noise_factor``.
    """
    lag, memory, operations = 0.0, 0, 0.0
    own = intervals_s(filters, interval_s)
    for each, own_s in zip(filters, own, strict=False):
        cost = each.cost(own_s)
        lag += cost.delay_samples * own_s
        memory += cost.memory_bytes
        operations += cost.operations * (interval_s / own_s if own_s > 0 else 1.0)
    return TotalCost(lag, memory, operations, own[-1])
