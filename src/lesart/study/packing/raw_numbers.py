"""The integers that firmware has for a channel's raw values: registers, counts, or decimal steps."""

from __future__ import annotations

import math
from fractions import Fraction

import numpy as np

from lesart.core.dataclass_later import dataclass
from lesart.core.errors import LesartError
from lesart.core.law.over_time.stage import OverTimeStage
from lesart.core.law.over_time.totals import Rise
from lesart.core.law.stage import LawStage
from lesart.core.pack.machine import PackError, Scale
from lesart.core.quantity import format_quantity
from lesart.core.raw.messages.frames import FieldSpec
from lesart.core.step import Step
from lesart.project.model import Channel, Project
from lesart.study.bench import Bench

MOST_DECIMALS, LOOKED_AT = 6, 4000
WHOLE = 1e-6
MOST = 2**52
"""Above this floats no longer resolve integers, and small processors have no such words."""
MORE = 4.0
"""Times the capture's greatest input of a total, since none is stated."""
ROOM = Fraction(1, 20)
"""Margin at either end of a derived range, so that values beyond are still reported."""
FINE = 8
"""Steps per last place, where only the law determines the resolution of raw values."""


@dataclass(frozen=True)
class RawNumbers:
    """Integers from ``low`` to ``high``, which are raw values by ``scale``. ``says`` where that is from."""

    scale: Scale
    low: int
    high: int
    says: str


def raw_numbers(project: Project, bench: Bench, channel: Channel) -> RawNumbers:
    """As a frame's field says it, or its converter, or else its capture and its range.

    Raises PackError where its range takes more of them than a float tells apart.
    """
    spec, converter = _field_of(project, channel), _converter_range(channel)
    if spec is not None:
        return _of_field(spec)
    if converter is not None:
        return RawNumbers(Scale(Fraction(1)), *converter, "the converter's own codes")
    step = _step_of(project, bench, channel)
    low, high = _range_of(project, bench, channel, step)
    if max(-low, high) > MOST:
        farthest = channel.highest if high > -low else channel.lowest
        raw = format_quantity(float(max(low, high, key=abs) * step), channel.unit_raw, 3)
        raise PackError(
            f"{channel.name}: a reading of {format_quantity(farthest, channel.unit)} takes a raw value near {raw}, "
            "which no whole number holds; check its laws, or narrow the channel's range."
        )
    return RawNumbers(Scale(step), low, high, "from the channel's range")


def raw_scale(project: Project, bench: Bench, channel: Channel) -> Scale:
    """The scale of raw numbers, whatever their range."""
    spec = _field_of(project, channel)
    if spec is not None:
        return _of_field(spec).scale
    return Scale(Fraction(1) if _converter_range(channel) is not None else _step_of(project, bench, channel))


def _field_of(project: Project, channel: Channel) -> FieldSpec | None:
    """The field in its source's frames, where that is an integer."""
    fields = project.sources[channel.source].fields
    return next((each for each in fields if each.name == channel.column and not each.floating), None)


def _of_field(spec: FieldSpec) -> RawNumbers:
    step = Fraction(str(spec.scale)) * (Fraction(1, 10) if spec.tenths else 1)
    scale = Scale(step, Fraction(str(spec.offset)))
    if spec.tenths:
        top = 10 * ((1 << spec.bits // 2) - 1) + 9
        return RawNumbers(scale, 0 if spec.sign == "none" else -top, top, f"tenths of {spec.bits} bits of a frame")
    top = (1 << spec.bits) - 1
    low, high = (0, top) if spec.sign == "none" else (-(1 << spec.bits - 1), (1 << spec.bits - 1) - 1)
    return RawNumbers(scale, low, high, f"{spec.bits} bits of a frame")


def _converter_range(channel: Channel) -> tuple[int, int] | None:
    """The range of a first law that accepts counts between two ends."""
    first = channel.chain.links[0] if channel.chain.links else None
    if channel.unit_raw.symbol != "ct" or first is None or not isinstance(first.stage, LawStage):
        return None
    low, high = first.stage.law.valid_in
    if not (math.isfinite(low) and math.isfinite(high)) or high - low > 2.0**32:
        return None
    return math.ceil(low), math.floor(high)


def _values(project: Project, bench: Bench, channel: Channel) -> np.ndarray[tuple[int], np.dtype[np.float64]]:
    try:
        block = bench.raw(project, channel)
    except LesartError:
        return np.empty(0)
    return np.asarray(block.x[block.usable])


def _step_of(project: Project, bench: Bench, channel: Channel) -> Fraction:
    """The step of the capture's decimals; with too many, as fine as the law needs."""
    if channel.unit_raw.symbol == "ct":
        return Fraction(1)
    values = _values(project, bench, channel)[:LOOKED_AT]
    for decimals in range(MOST_DECIMALS + 1) if len(values) else ():
        scaled = values * 10.0**decimals
        if np.abs(scaled - np.rint(scaled)).max() < WHOLE * max(1.0, float(np.abs(scaled).max()) * 1e-6):
            return Fraction(1, 10**decimals)
    middle = channel.chain.raw_for((channel.lowest + channel.highest) / 2)
    slope = abs(channel.chain.slope(middle)) if math.isfinite(middle) else math.nan
    fine = 10.0**-channel.field.decimals / FINE / slope if slope and math.isfinite(slope) else 1e-3
    return Fraction(10) ** math.floor(math.log10(fine))


def _range_of(project: Project, bench: Bench, channel: Channel, step: Fraction) -> tuple[int, int]:
    """The raw values of the channel's range, with a margin; those of the capture where none follow."""
    ends = [channel.chain.raw_for(channel.lowest), channel.chain.raw_for(channel.highest)]
    if channel.chain.is_lasting(Step.LAW) or not all(math.isfinite(each) for each in ends):
        # The value of a total says nothing about its input.
        values = _values(project, bench, channel)
        ends = [float(values.min()), float(values.max())] if len(values) else [0.0, 65_535.0 * float(step)]
    full = _full_of(channel)
    if full:
        ends = [0.0, full]
    elif channel.chain.is_lasting(Step.LAW):
        ends = [MORE * min(*ends, 0.0), MORE * max(*ends, 0.0)]
    low, high = sorted(Fraction(each) / step for each in ends)
    room = (high - low) * ROOM + 1
    return math.floor(low - room), math.ceil(high + room)


def _full_of(channel: Channel) -> float:
    """Where an incoming running counter wraps; 0 for none."""
    first = channel.chain.links[0] if channel.chain.links else None
    if first is None or not isinstance(first.stage, OverTimeStage) or not isinstance(first.stage.law, Rise):
        return 0.0
    return first.stage.law.full / first.scale
