"""Solved suspects: each number of a law as it would have to be, whatever is usual."""

from __future__ import annotations

import math
from collections.abc import Callable, Iterator
from dataclasses import replace
from fractions import Fraction

import numpy as np

from lesart.core.block import Floats
from lesart.core.dataclass_later import dataclass
from lesart.core.law.record import LawEntry
from lesart.core.notes import Key
from lesart.core.parameters import Parameter
from lesart.core.quantity import Quantity, format_quantity
from lesart.core.units import Unit, parse_unit
from lesart.core.wire.part import Part
from lesart.project.model import Channel
from lesart.study.why.of_parameters import as_written, rebuilt, said_of, titled
from lesart.study.why.suspect import RARE, SELDOM, Suspect
from lesart.study.why.thread_model import NEVER, ThreadModel

STEP = 1e-4
"""Step in the logarithm of a value to solve for."""
MOST_DIGITS, FEW_DIGITS = 5, 2
"""Most digits of a solved value; with one true value only a round one is accepted, since any could be made to fit."""
NEWTON = 12
Misfit = Callable[[ThreadModel], Floats]
Setting = Callable[[ThreadModel, float], ThreadModel]
OHM = parse_unit("Ω")


@dataclass(frozen=True, eq=False)
class _Number:
    """A number to solve for: its ``slot`` in the model and ``key`` in the project, its name and text, and the model
    with another value in its place."""

    slot: str
    title: str
    key: Key
    written: str
    unit: Unit
    now: float
    setting: Setting


def solved_suspects(channel: Channel, misfit: Misfit, model: ThreadModel, truths: int) -> Iterator[Suspect]:
    """The roundest value of each number of the laws and their parts that meets all ``truths``; ``misfit`` gives the
    misfits, in tolerances."""
    for place, entry in enumerate(channel.laws):
        for parameter in entry.kind.parameters:
            for number in _numbers_of(channel, entry, place, parameter):
                found = _solved_for(number, misfit, model, truths)
                if found is not None:
                    yield found


def _numbers_of(channel: Channel, entry: LawEntry, place: int, parameter: Parameter) -> Iterator[_Number]:
    value = entry.values.get(parameter.name)
    if isinstance(value, Part):
        yield from _numbers_of_part(entry, place, parameter.name, value)
        return
    number = float(value.value) if isinstance(value, Quantity) else value
    if parameter.kind not in ("quantity", "any quantity") or not isinstance(number, float):
        return

    def setting(model: ThreadModel, to: float) -> ThreadModel:
        other = replace(value, value=Fraction(to)) if isinstance(value, Quantity) else to
        return rebuilt(entry, place, {parameter.name: other}, model)

    yield _Number(
        slot=f"law {place} {parameter.name}",
        title=titled(entry, parameter.title),
        key=(*channel.key("law"), place, parameter.name),
        written=str(entry.written.get(parameter.name, parameter.default)),
        unit=value.unit if isinstance(value, Quantity) else parse_unit(parameter.unit),
        now=number,
        setting=setting,
    )


def _numbers_of_part(entry: LawEntry, place: int, name: str, part: Part) -> Iterator[_Number]:
    for parameter in part.kind.parameters:
        if parameter.unit != "Ω" or parameter.name not in part.values:
            continue

        def setting(model: ThreadModel, to: float, key: str = parameter.name) -> ThreadModel:
            other = replace(part, values={**part.values, key: to})
            return rebuilt(entry, place, {name: other}, model)

        value = float(part.values[parameter.name])
        yield _Number(
            slot=f"part {part.name} {parameter.name}",
            title=f"{parameter.title} of {part.name}",
            key=("parts", part.name, parameter.name),
            written=format_quantity(value, OHM, MOST_DIGITS),
            unit=OHM,
            now=value,
            setting=setting,
        )


def _solved_for(number: _Number, misfit: Misfit, model: ThreadModel, truths: int) -> Suspect | None:
    def off(to: float) -> Floats:
        return misfit(number.setting(model, to))

    solved = _by_factor(off, number.now) if number.now else _from_nothing(off)
    rounded = None if solved is None else _roundest(off, solved)
    if rounded is None or (truths < 2 and rounded[1] > FEW_DIGITS):
        return None
    to, digits = rounded
    would = as_written(to, number.unit, number.written, MOST_DIGITS)
    weight = SELDOM if digits > FEW_DIGITS else RARE - 0.5 * digits
    return Suspect(
        number.slot,
        number.title,
        said_of(number.written),
        would,
        weight,
        lambda model: number.setting(model, to),
        number.key,
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
    """The factor with the least sum of squares, up to twenty either way, by bisection about the best of a grid."""
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
    """The same for a value of 0, which no factor changes: by Newton steps on the mean misfit."""
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
    """The value with the fewest digits that meets every true value, and their number."""
    for digits in range(1, MOST_DIGITS + 1):
        to = float(f"{solved:.{digits}g}")
        try:
            if np.all(np.abs(off(to)) <= 1.0):
                return to, digits
        except NEVER:
            continue
    return None
