"""Which whole numbers a firmware has instead of a channel's raw values: registers, counts, or steps of a decimal."""

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
from lesart.core.raw.frames import FieldSpec
from lesart.core.step import Step
from lesart.project.model import Channel, Project
from lesart.study.bench import Bench

MOST_DECIMALS, LOOKED_AT = 6, 4000
WHOLE = 1e-6
MOST = 2**52
"""Beyond it floats no longer tell whole numbers apart, and no processor of a maker's has a word for them."""
MORE = 4.0
"""Times what a capture has of it: it is not stated how much of what is added may come at once."""
ROOM = Fraction(1, 20)
"""Of a range that follows from the channel's own: so much more at either end, that what lies beyond is told."""
FINE = 8
"""Steps a last place, where only the law says how fine a raw value has to be."""


@dataclass(frozen=True)
class RawNumbers:
    """Whole numbers from ``low`` to ``high``; each stands for a raw value by ``scale``. ``says`` where that is from."""

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
    """What one of them stands for, whatever their range."""
    spec = _field_of(project, channel)
    if spec is not None:
        return _of_field(spec).scale
    return Scale(Fraction(1) if _converter_range(channel) is not None else _step_of(project, bench, channel))


def _field_of(project: Project, channel: Channel) -> FieldSpec | None:
    """That of its source's frames, where it is a whole number."""
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
    """Of a first law that takes counts between two ends."""
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
    """The decimals in which the capture comes; where that has too many, as fine as the law needs it."""
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
    """The raw values of the channel's range, with room beyond; those of the capture where none follow."""
    ends = [channel.chain.raw_for(channel.lowest), channel.chain.raw_for(channel.highest)]
    if channel.chain.is_lasting(Step.LAW) or not all(math.isfinite(each) for each in ends):
        # What a total comes to says nothing of what is added.
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
    """Where a running counter that comes in is at 0 again; 0 where none does."""
    first = channel.chain.links[0] if channel.chain.links else None
    if first is None or not isinstance(first.stage, OverTimeStage) or not isinstance(first.stage.law, Rise):
        return 0.0
    return first.stage.law.full / first.scale
