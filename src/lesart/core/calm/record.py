"""What every filter is: a record that describes it, and a causal stage that states what it costs."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass
from typing import Any

from lesart.core.chain import Stage
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
    """From values and the seconds from one sample to the next, which some filters' costs hang on."""
    start: Callable[[Unit, float], dict[str, Any]] = lambda unit, interval_s: {}
    """Values of a new filter in place of its defaults, by the reading's unit and the seconds between samples."""
    in_turn: tuple[str, ...] = ()
    """Parameters that values typed behind its name are for, in that order; all in theirs where nothing is said."""

    @property
    def takes(self) -> tuple[str, ...]:
        """Names of those."""
        return self.in_turn or tuple(parameter.name for parameter in self.parameters)
