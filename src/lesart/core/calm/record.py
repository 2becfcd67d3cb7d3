"""What every filter is: a record that describes it, and a causal stage that states what it costs."""

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
    """``delay_samples`` at low frequency; ``noise_factor`` on white noise; memory and operations a sample on a small
    processor with 4-byte values: each sum, product, quotient, comparison and exponential is one, so is an absolute
    value. All are measured by tests."""

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
    """From values and the seconds from one sample to the next, which some filters' costs depend on."""
    start: Callable[[Unit, float], dict[str, Any]] = lambda unit, interval_s: {}
    """Values of a new filter instead of its defaults, by the reading's unit and the seconds between samples."""
    in_turn: tuple[str, ...] = ()
    """Parameters that values typed behind its name are for, in that order; all in theirs where nothing is said."""
    averages: bool = False
    """Does it make values between two counts, out of noise that goes over several of them?"""
    rate: str = ""
    """The parameter that says at which rate samples come, in Hz, or how long after each other, in s; empty for none."""
    thins: str = ""
    """The parameter that says of how many samples one passes; empty where all do."""
    computes: str = ""
    """Equations, start and exceptions, enough to write it again in another language; x is the good sample that comes,
    y what goes out, t its time."""
    evenly_over: str = ""
    """The parameter that says over how many samples all weigh alike: whole periods of a hum are gone behind it."""

    @property
    def takes(self) -> tuple[str, ...]:
        """Names of those."""
        return self.in_turn or tuple(parameter.name for parameter in self.parameters)


@dataclass(frozen=True)
class FilterEntry:
    """A filter as a channel has it: what it is told, by parameter, and the same as the project file says it."""

    kind: FilterKind
    values: Mapping[str, Any] = field(hash=False)
    written: Mapping[str, Any] = field(hash=False)

    @property
    def says(self) -> str:
        """A few words: ``median 5``."""
        return self.kind.says(dict(self.values))

    @property
    def told_hz(self) -> float:
        """The rate of samples that it is told; 0 where it is told none."""
        told = float(self.values.get(self.kind.rate) or 0.0)
        parameter = next((each for each in self.kind.parameters if each.name == self.kind.rate), None)
        return 1.0 / told if told and parameter is not None and parameter.unit == "s" else told

    def cost(self, interval_s: float) -> Cost:
        """What it costs where samples come ``interval_s`` after each other."""
        return self.kind.cost(dict(self.values), interval_s)

    def interval_behind_s(self, interval_s: float) -> float:
        """From sample to sample behind it, where they come ``interval_s`` after each other before it."""
        return interval_s * int(self.values[self.kind.thins]) if self.kind.thins else interval_s


@dataclass(frozen=True)
class TotalCost:
    """Of filters behind each other, each with the samples as they come to it.

    ``lag_s`` in seconds at low frequency; ``operations`` on each sample that comes to the first of them, on average;
    ``interval_s`` from sample to sample behind the last.
    """

    lag_s: float
    memory_bytes: int
    operations: float
    interval_s: float


def intervals_s(filters: Iterable[FilterEntry], interval_s: float) -> tuple[float, ...]:
    """From sample to sample before each filter, and behind the last: one longer than the filters are many."""
    found = [interval_s]
    for each in filters:
        found.append(each.interval_behind_s(found[-1]))
    return tuple(found)


def total_cost(filters: Sequence[FilterEntry], interval_s: float) -> TotalCost:
    """Delays in seconds and memory add. What is behind a filter that thins samples out is delayed by longer samples,
    and computes less often. What is left of noise is no product of their factors: see ``noise_factor``."""
    lag, memory, operations = 0.0, 0, 0.0
    own = intervals_s(filters, interval_s)
    for each, own_s in zip(filters, own, strict=False):
        cost = each.cost(own_s)
        lag += cost.delay_samples * own_s
        memory += cost.memory_bytes
        operations += cost.operations * (interval_s / own_s if own_s > 0 else 1.0)
    return TotalCost(lag, memory, operations, own[-1])
