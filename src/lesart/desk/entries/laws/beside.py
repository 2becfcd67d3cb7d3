"""Channels for the other inputs of an added law: the other axes, the air's temperature, the wind."""

from __future__ import annotations

from collections.abc import Sequence

from lesart.core.law.air.inspect import FELT
from lesart.core.law.record import LawKind
from lesart.core.parameters import Parameter
from lesart.core.units import parse_unit
from lesart.project.model import Channel

AXES = ("second", "third")
"""Parameters of laws for other axes."""
OF_THE_AIR = ("air", "humidity", "wind")
"""Parameters for which a single channel of the right unit is taken, else one by its name."""
SHORTEST = 3
"""Fewest characters of a parameter's name in a channel's: ``hum`` in ``rel hum``."""


def beside(kind: LawKind, channel: Channel, channels: Sequence[Channel]) -> dict[str, str]:
    """Names of channels by parameter; without parameters for which there is none, or several."""
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
    """Channels with the other axes: of the same source and unit, with names that differ from its own by one letter, as
    accel x and accel y."""
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
    # A share may be of anything: humidity has to be in per cent. How warm air feels is not how warm it is.
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
    """True for the channel of that name, and for those derived from it, directly or not."""
    seen, left = set[str](), [channel.name]
    while left:
        each = left.pop()
        if each == name:
            return True
        if each in by_name and each not in seen:
            seen.add(each)
            left += by_name[each].chain.reads
    return False
