"""Tolerances in a channel: every number of its laws and of their parts that is written with ±."""

from __future__ import annotations

from collections.abc import Callable, Iterator, Mapping, Sequence
from dataclasses import replace
from fractions import Fraction
from typing import Any

from lesart.core.block import block_of
from lesart.core.chain import Link, Stage
from lesart.core.dataclass_later import dataclass
from lesart.core.law.budget import Doubt
from lesart.core.law.record import Beside, Fixed, LawEntry, LawKind
from lesart.core.law.stage import LawStage, stage_of
from lesart.core.law.timed import GATE
from lesart.core.notes import Key
from lesart.core.parameters import ChannelName, Parameter
from lesart.core.quantity import Quantity, format_quantity
from lesart.core.raw.decode.pulses import GATE as GATE_COUNT
from lesart.core.step import Step
from lesart.core.wire.entry import written
from lesart.core.wire.part import Part
from lesart.project.facts.same import is_as_large, is_same
from lesart.project.model import Channel, Project


@dataclass
class _Law:
    """One law with its present values, and the readings of the channels that it reads."""

    kind: LawKind
    values: dict[str, Any]
    beside: list[float]

    def copy(self) -> _Law:
        return _Law(self.kind, dict(self.values), list(self.beside))

    def stage(self) -> Stage:
        """The law as a stage with shifted values. Raises ValueError where they do not fit together, or leave the bounds
        of their parameters: 2 pulses ± 2 may be none."""
        if not all(each.holds(self.values[each.name]) for each in self.kind.parameters):
            raise ValueError("a shifted number is out of bounds")
        built = self.kind.build(self.values)
        if isinstance(built, Beside):
            return LawStage(self.kind.name, built.fixed(tuple(self.beside)))
        return stage_of(self.kind.name, built)


Shift = Callable[[_Law, float], None]
"""Moves one value of a law by a share of its half width."""


@dataclass(frozen=True)
class _Place:
    """One doubt, and how it shifts each law that uses it.

    ``name`` is that of the fact: values that several laws take from one home shift together.
    """

    doubt: Doubt
    shifts: tuple[tuple[int, Shift], ...]
    name: str = ""
    share: float = 0.0
    """Half width of a number, by parameter."""


@dataclass(frozen=True, eq=False)
class Tolerances:
    """Doubts of a channel, and its laws' result as they shift. ``channel`` has other channels fixed."""

    channel: Channel
    laws: tuple[_Law, ...]
    places: tuple[_Place, ...]

    @property
    def doubts(self) -> tuple[Doubt, ...]:
        """Doubts in the order of the shares of ``evaluate``."""
        return tuple(place.doubt for place in self.places)

    def evaluate(self, raw: float, shares: Sequence[float]) -> float:
        """The quantity for a raw value, before correction, in the channel's unit; NaN where a law does not hold."""
        shifted: dict[int, _Law] = {}
        for place, share in zip(self.places, shares, strict=True):
            for index, shift in place.shifts if share else ():
                shift(shifted.setdefault(index, self.laws[index].copy()), share)
        block = block_of([raw])
        for index, link in enumerate(link for link in self.channel.chain.links if link.step == Step.LAW):
            block = _linked(link, shifted.get(index)).settled(block)
        return float(block.x[0])


def _linked(link: Link, shifted: _Law | None) -> Link:
    if shifted is None:
        return link
    try:
        return replace(link, stage=shifted.stage())
    except (ValueError, ZeroDivisionError):
        # The shifted numbers do not fit together any more, or one that is divided by is 0: there is no reading.
        return replace(link, scale=float("nan"))


def tolerances_of(project: Project, channel: Channel, standing: Channel, sure: Mapping[str, float]) -> Tolerances:
    """The tolerances of a channel, and the same with other channels fixed.

    ``sure``: how far the channels that it reads may be off, in their units.
    """
    place: Key = channel.key("law")
    laws: list[_Law] = []
    places: list[_Place] = []
    exact: list[tuple[LawEntry, Parameter, Key]] = []
    for index, entry in enumerate(channel.laws):
        values = dict(entry.values)
        for parameter in entry.kind.parameters:
            if parameter.kind == "part":
                places += _of_part(values[parameter.name], index, parameter.name)
            elif parameter.toleranced and parameter.name in entry.written:
                width, key = parameter.tolerance(entry.written[parameter.name]), (*place, index, parameter.name)
                if width:
                    places.append(_of_number(project, entry, parameter, key, width))
                else:
                    exact.append((entry, parameter, key))
        link, still = (
            next(each for each in chain.links if each.place == f"law[{index}]")
            for chain in (channel.chain, standing.chain)
        )
        laws.append(_Law(entry.kind, values, _beside(entry.kind.build(values), still.stage)))
        places += _of_channels(project, link, index, sure)
    places += _moved_along(project, exact, places)
    return Tolerances(standing, tuple(laws), tuple(_together(places)))


def _of_number(project: Project, entry: LawEntry, parameter: Parameter, key: Key, width: float) -> _Place:
    """The doubt of a law's number: that of the fact it comes from, or is equal to; else its own."""
    written, home = entry.written[parameter.name], project.homes.get(key)
    shift = (int(key[-2]), _number_shift(parameter.name, width))
    is_home = home is not None and is_same(parameter, written, home)
    name = home.name if home is not None and is_home else ".".join(str(part) for part in key)
    value = abs(_plain(entry.values[parameter.name]))
    return _Place(Doubt(parameter.title, str(written), key), (shift,), name, width / value if value else 0.0)


def _plain(value: Any) -> float:
    return float(value.value if isinstance(value, Quantity) else value)


def _moved_along(
    project: Project, exact: Sequence[tuple[LawEntry, Parameter, Key]], places: Sequence[_Place]
) -> Iterator[_Place]:
    """Numbers without a tolerance that are the same fact as one with a tolerance: a divider is fed by the rail that is
    the converter's reference, whose tolerance is written only there."""
    shares = {place.name: place.share for place in places if place.share}
    for entry, parameter, key in exact:
        written, home = entry.written[parameter.name], project.homes.get(key)
        if home is not None and home.name in shares and is_as_large(parameter, written, home):
            width = shares[home.name] * abs(_plain(entry.values[parameter.name]))
            shift = (int(key[-2]), _number_shift(parameter.name, width))
            yield _Place(Doubt(parameter.title, str(written), key), (shift,), home.name)


def _together(places: Sequence[_Place]) -> list[_Place]:
    """The doubts of one fact as one, with all its uses."""
    found: dict[str, _Place] = {}
    for number, place in enumerate(places):
        name = place.name or str(number)
        first = found.get(name)
        if first is None:
            found[name] = place
            continue
        titles = f"{first.doubt.name} and {place.doubt.name}"
        found[name] = replace(
            first, doubt=replace(first.doubt, name=titles, together=True), shifts=(*first.shifts, *place.shifts)
        )
    return list(found.values())


def _beside(built: object, stage: Stage) -> list[float]:
    """Readings in place of the channels that a law reads, in its units."""
    fixed = stage.law if isinstance(stage, LawStage) else None
    if not isinstance(built, Beside) or not isinstance(fixed, Fixed):
        return []
    both = zip(built.arguments, fixed.others, strict=True)
    return [value for argument, value in both if isinstance(argument.given, ChannelName)]


def _number_shift(name: str, width: float) -> Shift:
    def shift(law_: _Law, share: float) -> None:
        value = law_.values[name]
        if isinstance(value, Quantity):
            law_.values[name] = replace(value, value=value.value + Fraction(width * share))
        else:
            law_.values[name] = value + width * share

    return shift


def _of_part(part: Part, index: int, name: str) -> list[_Place]:
    """The resistances of a part of the hook-up, each independently off by its printed tolerance."""
    tolerance = part.value("tolerance")
    places = []
    for parameter in part.kind.parameters:
        if parameter.unit == "Ω" and tolerance:
            shift = _part_shift(name, parameter.name, part.value(parameter.name) * tolerance / 100.0)
            says = f"{written(part.value(parameter.name), parameter.unit)} ± {tolerance:g} %"
            own = "" if parameter.name == "resistance" else f" {parameter.title}"
            doubt = Doubt(f"{part.name}{own}", says, ("parts", part.name, "tolerance"))
            places.append(_Place(doubt, ((index, shift),)))
    return places


def _part_shift(name: str, own: str, width: float) -> Shift:
    def shift(law_: _Law, share: float) -> None:
        part: Part = law_.values[name]
        law_.values[name] = replace(part, values={**part.values, own: part.value(own) + width * share})

    return shift


def _of_channels(project: Project, link: Link, index: int, sure: Mapping[str, float]) -> list[_Place]:
    """The channels that a law reads, each with its own uncertainty."""
    places = []
    for order, other in enumerate(link.others):
        width = sure.get(other.channel, 0.0)
        if width > 0:
            says = f"± {format_quantity(width, project.channels[other.channel].unit.step, 2)}"
            shift = _beside_shift(order, width * other.scale)
            places.append(_Place(Doubt(other.channel, says), ((index, shift),)))
    return places


def _beside_shift(order: int, width: float) -> Shift:
    def shift(law_: _Law, share: float) -> None:
        law_.beside[order] += width * share

    return shift


def counts_pulses(project: Project, channel: Channel) -> bool:
    """True where its raw value is a count of events in a gate, which may be a whole one off."""
    decoding = project.sources[channel.source].decoding if channel.source in project.sources else None
    by_law = any(link.stage.kind == GATE.name for link in channel.chain.links)
    return by_law or (decoding is not None and decoding.kind.name == GATE_COUNT.name)
