"""The parts of every law: a record that describes it, and an object that computes it."""

from __future__ import annotations

from collections.abc import Callable, Mapping
from dataclasses import field, replace
from typing import Any, Protocol

import numpy as np

from lesart.core.block import Floats
from lesart.core.dataclass_later import dataclass
from lesart.core.parameters import ChannelName, Parameter
from lesart.core.units import Unit


class Law(Protocol):
    """A conversion with parameters filled in. All functions take and give float64 arrays of one shape.

    ``inverse(forward(x)) == x`` within 1e-12 of the valid range, over the valid range.
    """

    @property
    def unit_in(self) -> Unit: ...
    @property
    def unit_out(self) -> Unit: ...
    @property
    def valid_in(self) -> tuple[float, float]:
        """The valid inputs; those outside are marked RANGE, never guessed."""
        ...

    @property
    def saturated_at(self) -> tuple[float, float] | None:
        """Inputs at or beyond these are marked SATURATED; None where nothing saturates."""
        ...

    def forward(self, x: Floats) -> Floats: ...
    def inverse(self, y: Floats) -> Floats: ...
    def slope(self, x: Floats) -> Floats: ...


class BesideLaw(Protocol):
    """A conversion that takes other inputs besides its own: each of ``others`` has the shape of ``x``, or (1,).

    The others being what they are, inverse and slope are in ``x``.
    """

    @property
    def unit_in(self) -> Unit: ...
    @property
    def unit_out(self) -> Unit: ...
    def valid(self, *others: Floats) -> tuple[Floats | float, Floats | float]:
        """Least and greatest valid input, given the others."""
        ...

    def forward(self, x: Floats, *others: Floats) -> Floats: ...
    def inverse(self, y: Floats, *others: Floats) -> Floats: ...
    def slope(self, x: Floats, *others: Floats) -> Floats: ...


@dataclass(frozen=True)
class Argument:
    """Another input of a law, in ``unit``: a constant, or a channel's reading. ``name`` is that of its parameter."""

    name: str
    unit: Unit
    given: float | ChannelName


@dataclass(frozen=True)
class Beside:
    """A law with its other inputs."""

    law: BesideLaw
    arguments: tuple[Argument, ...]

    @property
    def channels(self) -> tuple[Argument, ...]:
        """The other inputs that come from channels."""
        return tuple(each for each in self.arguments if isinstance(each.given, ChannelName))

    def fixed(self, values: tuple[float, ...]) -> Fixed:
        """The law with ``values``, in order, instead of its channels."""
        left = iter(values)
        return Fixed(
            self.law,
            tuple(next(left) if isinstance(each.given, ChannelName) else each.given for each in self.arguments),
        )


@dataclass(frozen=True)
class Fixed:
    """A law whose other inputs are constant: a law of one input."""

    law: BesideLaw
    others: tuple[float, ...]

    @property
    def unit_in(self) -> Unit:
        return self.law.unit_in

    @property
    def unit_out(self) -> Unit:
        return self.law.unit_out

    @property
    def valid_in(self) -> tuple[float, float]:
        low, high = self.law.valid(*self._others)
        return float(np.max(low)), float(np.min(high))

    @property
    def saturated_at(self) -> tuple[float, float] | None:
        return None

    @property
    def _others(self) -> tuple[Floats, ...]:
        return tuple(np.array([value]) for value in self.others)

    def forward(self, x: Floats) -> Floats:
        return self.law.forward(x, *self._others)

    def inverse(self, y: Floats) -> Floats:
        return self.law.inverse(y, *self._others)

    def slope(self, x: Floats) -> Floats:
        return self.law.slope(x, *self._others)


class WindowLaw(Protocol):
    """One value for each window of samples: a level, a frequency. ``window_s`` and ``hop_s`` are above 0."""

    @property
    def unit_in(self) -> Unit: ...
    @property
    def unit_out(self) -> Unit: ...
    @property
    def window_s(self) -> float: ...
    @property
    def hop_s(self) -> float:
        """Seconds from the start of one window to that of the next."""
        ...

    def of_window(self, x: Floats, interval_s: float) -> float:
        """The value of a window whose usable samples are ``x``, shape (n,), n ≥ 1; NaN where it has none."""
        ...

    def at_rest(self, x: Floats) -> Floats:
        """What it settles to on a constant input; each of ``x`` for itself."""
        ...

    def inverse(self, y: float) -> float:
        """The resting value that gives ``y``, NaN where none does."""
        ...


class OverTimeLaw(Protocol):
    """A value for each sample from it and those before it, with their times in seconds."""

    @property
    def unit_in(self) -> Unit: ...
    @property
    def unit_out(self) -> Unit: ...
    @property
    def says(self) -> str:
        """What it does, in few enough words for the thread."""
        ...

    @property
    def adds_up(self) -> bool:
        """True for a total, to which a single input value is one contribution of many."""
        ...

    @property
    def slope(self) -> float:
        """Output per input: for a total by how long the input lasts, for a change by how long it took."""
        ...

    @property
    def by_hand(self) -> str:
        """What a single value is taken for, in a few words."""
        ...

    def advance(self, state: Any, t: Floats, x: Floats) -> tuple[Any, Floats]:
        """The state after usable samples, shape (n,), n ≥ 1, and a value for each; NaN where there is none yet.

        ``t`` never runs back. ``state`` is None before the first. Cutting the samples gives the same to the bit.
        """
        ...

    def at_rest(self, x: Floats) -> Floats:
        """The result for a single value; each of ``x`` for itself."""
        ...

    def inverse(self, y: float) -> float:
        """The single value whose result is ``y``; NaN where there is none."""
        ...


@dataclass(frozen=True)
class LawKind:
    """The record of a law, from which the help on the screen, the listing on the command line and the docs are made.

    Every number of a law may be written with its tolerance, which goes into the error budget.
    """

    name: str
    title: str
    formula: str
    source: str
    example: str
    parameters: tuple[Parameter, ...]
    build: Callable[[dict[str, Any]], Law | Beside | WindowLaw | OverTimeLaw]
    """Builds the law from values by parameter name. Raises ValueError with a clause where they do not fit together."""
    start: Callable[[Unit, Unit], dict[str, str]]
    """Values of a new law for parameters without a default, by the unit that comes in and the wanted one."""
    derived: Callable[[dict[str, Any]], str] = lambda values: ""
    """What follows from its values and a person wants to know, such as coefficients worked out from points."""

    ends: Callable[[Mapping[str, Any]], tuple[float, float] | None] = lambda values: None
    """Least and greatest output by its values, in its unit, whatever comes in; None where that depends on the input."""

    def __post_init__(self) -> None:
        numbers = ("quantity", "any quantity")
        marked = tuple(replace(each, toleranced=True) if each.kind in numbers else each for each in self.parameters)
        object.__setattr__(self, "parameters", marked)


@dataclass(frozen=True)
class LawEntry:
    """A law of a channel: its values by parameter name, and the same as written in the project file.

    A parameter that names a part of the hook-up has the part itself among ``values``.
    """

    kind: LawKind
    values: Mapping[str, Any] = field(hash=False)
    written: Mapping[str, Any] = field(hash=False)

    @property
    def derived(self) -> str:
        """What follows from its values, in a few words; empty where nothing does."""
        return self.kind.derived(dict(self.values))
