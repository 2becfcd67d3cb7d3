"""Suspects that are solved for: each number of a law as it would have to be, whatever is usual."""

from __future__ import annotations

import math
from collections.abc import Callable, Iterator
from dataclasses import replace
from fractions import Fraction
from typing import Any

import numpy as np

from lesart.core.block import Floats
from lesart.core.law.record import LawEntry
from lesart.core.notes import Key
from lesart.core.parameters import Parameter
from lesart.core.quantity import Quantity
from lesart.core.units import parse_unit
from lesart.project.model import Channel
from lesart.study.why.of_parameters import as_written, rebuilt, said_of, titled
from lesart.study.why.suspect import RARE, SELDOM, Suspect
from lesart.study.why.thread_model import NEVER, ThreadModel

STEP = 1e-4
"""Of the logarithm of a value that is solved for."""
MOST_DIGITS, FEW_DIGITS = 5, 2
"""Digits of a value that is solved for; of one truth only a round one is believed, since any could be made to fit."""
NEWTON = 12
Misfit = Callable[[ThreadModel], Floats]
Setting = Callable[[ThreadModel, float], ThreadModel]


def solved_suspects(channel: Channel, misfit: Misfit, model: ThreadModel, truths: int) -> Iterator[Suspect]:
    """The roundest value of each number that meets all ``truths``; ``misfit`` is how far each is off, in tolerances."""
    for place, entry in enumerate(channel.laws):
        for parameter in entry.kind.parameters:
            value = entry.values.get(parameter.name)
            number = float(value.value) if isinstance(value, Quantity) else value
            if parameter.kind in ("quantity", "any quantity") and isinstance(number, float):
                found = _solved_for(channel, entry, place, parameter, value, number, misfit, model, truths)
                if found is not None:
                    yield found


def _solved_for(
    channel: Channel,
    entry: LawEntry,
    place: int,
    parameter: Parameter,
    value: Any,
    number: float,
    misfit: Misfit,
    model: ThreadModel,
    truths: int,
) -> Suspect | None:
    def setting(model: ThreadModel, to: float) -> ThreadModel:
        other = replace(value, value=Fraction(to)) if isinstance(value, Quantity) else to
        return rebuilt(entry, place, {parameter.name: other}, model)

    def off(to: float) -> Floats:
        return misfit(setting(model, to))

    solved = _by_factor(off, number) if number else _from_nothing(off)
    rounded = None if solved is None else _roundest(off, solved)
    if rounded is None or (truths < 2 and rounded[1] > FEW_DIGITS):
        return None
    to, digits = rounded
    key: Key = (*channel.key("law"), place, parameter.name)
    unit = value.unit if isinstance(value, Quantity) else parse_unit(parameter.unit)
    written = str(entry.written.get(parameter.name, parameter.default))
    would = as_written(to, unit, written, MOST_DIGITS)
    weight = SELDOM if digits > FEW_DIGITS else RARE - 0.5 * digits
    return Suspect(
        f"law {place} {parameter.name}",
        titled(entry, parameter.title),
        said_of(written),
        would,
        weight,
        lambda model: setting(model, to),
        key,
        would,
        is_solved=True,
    )


def _cost(off: Callable[[float], Floats], to: float) -> float:
    try:
        total = float(np.sum(off(to) ** 2))
    except NEVER:
        return math.inf
    return total if math.isfinite(total) else math.inf


def _by_factor(off: Callable[[float], Floats], number: float) -> float | None:
    """Where the sum of squares is least, within a factor of twenty: by halving about the best of some."""
    tried = {power: _cost(off, number * math.exp(power)) for power in np.linspace(-3.0, 3.0, 25).tolist()}
    best = min(tried, key=lambda power: tried[power])
    if not math.isfinite(tried[best]):
        return None
    least, step = tried[best], 0.125
    while step > STEP:
        near = {power: _cost(off, number * math.exp(power)) for power in (best - step, best + step)}
        better = min(near, key=lambda power: near[power])
        if near[better] < least:
            best, least = better, near[better]
        else:
            step /= 2
    return number * math.exp(best)


def _from_nothing(off: Callable[[float], Floats]) -> float | None:
    """The same of a value that is 0, which no factor changes: by Newton's steps from there, of the mean misfit."""
    try:
        for first in (1.0, 1e-3, 1e3):
            to, before = 0.0, float(np.mean(off(0.0)))
            ahead, now = first, float(np.mean(off(first)))
            for _ in range(NEWTON):
                if not math.isfinite(now) or now == before:
                    break
                to, ahead, before = ahead, ahead - now * (ahead - to) / (now - before), now
                now = float(np.mean(off(ahead)))
                if abs(now) < STEP:
                    return ahead
    except NEVER:
        return None
    return None


def _roundest(off: Callable[[float], Floats], solved: float) -> tuple[float, int] | None:
    """With the fewest digits that meet every truth, and how many these are."""
    for digits in range(1, MOST_DIGITS + 1):
        to = float(f"{solved:.{digits}g}")
        try:
            if np.all(np.abs(off(to)) <= 1.0):
                return to, digits
        except NEVER:
            continue
    return None
