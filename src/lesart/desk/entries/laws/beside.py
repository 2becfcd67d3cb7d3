"""Which channels a law that is added takes its other inputs from: the other axes, the air's temperature, the wind."""

from __future__ import annotations

from collections.abc import Sequence

from lesart.core.law.air.inspect import FELT
from lesart.core.law.record import LawKind
from lesart.core.parameters import Parameter
from lesart.core.units import parse_unit
from lesart.project.model import Channel

AXES = ("second", "third")
"""Values of laws that name other axes."""
OF_THE_AIR = ("air", "humidity", "wind")
"""Values that one channel of such a unit reads, where there is one only; others are so called."""
SHORTEST = 3
"""Letters of a value's name that a channel's has in it: ``hum`` of ``rel hum``."""


def beside(kind: LawKind, channel: Channel, channels: Sequence[Channel]) -> dict[str, str]:
    """Names of channels by the value that they give; nothing for what none or several might be."""
    axes = dict(
        zip([each.name for each in kind.parameters if each.name in AXES], _axes(channel, channels), strict=False)
    )
    by_name = {each.name: each for each in channels}
    given = {
        each.name: _giving(each, [other for other in channels if not _reads(other, channel.name, by_name)])
        for each in kind.parameters
        if each.channel and each.unit and each.name not in AXES
    }
    return {**axes, **{name: found for name, found in given.items() if found}}


def _axes(channel: Channel, channels: Sequence[Channel]) -> list[str]:
    """Channels that read the other axes of what one reads: of one source and unit, and of names that differ from its
    own by one letter, as accel x and accel y."""
    return [
        each.name
        for each in channels
        if each.source == channel.source
        and each.unit == channel.unit
        and len(each.name) == len(channel.name)
        and sum(one != other for one, other in zip(each.name, channel.name, strict=True)) == 1
    ]


def _giving(parameter: Parameter, channels: Sequence[Channel]) -> str:
    unit = parse_unit(parameter.unit)
    # A share is of anything: what is not in per cent is no humidity. How warm air feels is not how warm it is.
    is_such = [
        each.name
        for each in channels
        if each.unit.same_dimension(unit)
        and (unit.symbol != "%" or each.unit.symbol == "%")
        and not any(law.kind.name in FELT for law in each.laws)
    ]
    called = [each for each in is_such if parameter.name[:SHORTEST] in each.lower()]
    alone = is_such if parameter.name in OF_THE_AIR else []
    return next((found[0] for found in (called, alone) if len(found) == 1), "")


def _reads(channel: Channel, name: str, by_name: dict[str, Channel]) -> bool:
    """Is it the channel of that name, or made of it through however many others?"""
    seen, left = set[str](), [channel.name]
    while left:
        each = left.pop()
        if each == name:
            return True
        if each in by_name and each not in seen:
            seen.add(each)
            left += by_name[each].chain.reads
    return False
