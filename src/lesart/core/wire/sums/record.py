"""The parts of every bench sum: a record that describes it, and a result with its figures and its part."""

from __future__ import annotations

from collections.abc import Callable, Mapping
from dataclasses import field
from typing import Any

from lesart.core.dataclass_later import dataclass
from lesart.core.notes import Written
from lesart.core.parameters import Parameter


@dataclass(frozen=True)
class Figure:
    """One line of a result. ``value`` is in ``unit``, which is an SI unit without a prefix."""

    label: str
    value: float
    unit: str


@dataclass(frozen=True)
class SumResult:
    """``figures`` in the order they follow from each other; ``part`` is what the project gets, its values as written.

    ``warning`` is a sentence where the result does not do what was asked.
    """

    figures: tuple[Figure, ...]
    part: Mapping[str, Written] = field(default_factory=dict)
    warning: str = ""

    def figure(self, label: str) -> float:
        """The value of a line. Raises KeyError where there is none."""
        for each in self.figures:
            if each.label == label:
                return each.value
        raise KeyError(label)


@dataclass(frozen=True)
class SumKind:
    """The record of a sum: help on the screen, the docs and the sheet are made from it.

    ``start`` is how a new sum's parameters are written.
    """

    name: str
    says: str
    formula: str
    source: str
    parameters: tuple[Parameter, ...]
    solve: Callable[[Mapping[str, Any]], SumResult]


@dataclass(frozen=True)
class Sum:
    """One sum in a project. ``part`` names the part that its result is written to."""

    name: str
    kind: SumKind
    values: Mapping[str, Any]
    part: str

    def result(self) -> SumResult:
        """The result of the sum."""
        return self.kind.solve(self.values)


def quantity(
    name: str,
    title: str,
    says: str,
    default: str,
    unit: str,
    lowest: float = 0.0,
    highest: float = 1e12,
    *,
    above: bool = True,
) -> Parameter:
    """A parameter of a sum; each has a start value, so that a new sum shows a result at once."""
    return Parameter(name, title, "quantity", says, default, unit=unit, lowest=lowest, highest=highest, above=above)
