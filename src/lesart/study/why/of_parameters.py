"""Suspects among the values of laws and of their parts, from the records of their parameters alone."""

from __future__ import annotations

from collections.abc import Iterator, Mapping
from dataclasses import replace
from typing import Any

from lesart.core.dataclass_later import dataclass
from lesart.core.errors import UnitError
from lesart.core.law import KINDS
from lesart.core.law.record import LawEntry
from lesart.core.law.slips import FAMILIES
from lesart.core.law.stage import stage_of
from lesart.core.notes import Key, Written
from lesart.core.parameters import ChannelName, Parameter, parted
from lesart.core.quantity import Quantity, format_quantity, plain_number
from lesart.core.true.correction import FITS, fit_correction
from lesart.core.units import Unit, convert, parse_unit
from lesart.core.wire.part import Part
from lesart.project.model import Channel
from lesart.study.why.suspect import OFTEN, RARE, SELDOM, USUAL, Suspect
from lesart.study.why.thread_model import NEVER, ThreadModel, with_law

POWERS = (10.0, 0.1, 100.0, 0.01, 1000.0, 0.001)
DOUBLES = (2.0, 0.5)
DIGITS = 9


@dataclass(frozen=True)
class Other:
    """Another value that a parameter may have: as written and as read."""

    written: Written
    value: Any
    weight: float


def others_of(parameter: Parameter, value: Any, written: object) -> Iterator[Other]:
    """Other values than the present one, the usual ones first. ``written`` is the present text."""
    seen = [value]
    for candidate, weight in _candidates(parameter, value, str(written)):
        try:
            found = parameter.read(candidate)
        except ValueError:
            continue
        if any(_same(found, each) for each in seen):
            continue
        seen.append(found)
        yield Other(candidate, found, weight)


def _same(a: Any, b: Any) -> bool:
    if isinstance(a, float) and isinstance(b, float):
        return abs(a - b) <= 1e-9 * max(abs(a), abs(b))
    if isinstance(a, Quantity) and isinstance(b, Quantity):
        return a.unit == b.unit and _same(float(a.value), float(b.value))
    return bool(a == b)


def _candidates(parameter: Parameter, value: Any, written: str) -> Iterator[tuple[Written, float]]:
    for usual in parameter.usual:
        yield usual, USUAL
    if parameter.kind == "choice":
        yield from ((each, USUAL) for each in parameter.choices)
    elif parameter.kind == "flag":
        yield not value, USUAL
    elif parameter.kind == "unit" and isinstance(value, Unit):
        yield from ((each, OFTEN) for each in _family(value.symbol))
    elif parameter.kind == "integer" and isinstance(value, int):
        yield from ((each, RARE) for each in (value - 1, value + 1, value * 2, value // 2))
    elif parameter.kind == "quantity" and isinstance(value, float):
        yield from _numbers(value, parse_unit(parameter.unit), written)
    elif parameter.kind == "any quantity" and isinstance(value, Quantity):
        yield from _quantities(value)


def _family(symbol: str) -> tuple[str, ...]:
    family = next((each for each in FAMILIES if symbol in each), ())
    return tuple(each for each in family if each != symbol)


def as_written(value: float, unit: Unit, written: str, digits: int) -> str:
    """A value written in the unit of the previous one: 40 µs, and not 0.00004 s."""
    symbol = parted(written)[0].strip().rpartition(" ")[2]
    try:
        own = parse_unit(symbol)
        if own.same_dimension(unit) and symbol:
            return format_quantity(float(convert(value, unit, own)), own, digits)
    except UnitError:
        pass
    return format_quantity(value, unit, digits)


def _numbers(value: float, unit: Unit, written: str) -> Iterator[tuple[Written, float]]:
    for factors, weight in ((POWERS, RARE), (DOUBLES, RARE)):
        for factor in factors:
            yield as_written(value * factor, unit, written, DIGITS), weight
    yield as_written(-value, unit, written, DIGITS), RARE
    yield as_written(0.0, unit, written, DIGITS), RARE
    # The same number, in a unit that it is often confused with.
    number, _, symbol = parted(written)[0].strip().rpartition(" ")
    for other in _family(symbol) if number else ():
        yield f"{number} {other}", OFTEN


def _quantities(value: Quantity) -> Iterator[tuple[Written, float]]:
    number, symbol = float(value.value), value.unit.symbol
    for other in _family(symbol):
        yield f"{plain_number(number, DIGITS)} {other}", OFTEN
    for factor in (-1.0, 0.0, *POWERS, *DOUBLES):
        yield f"{plain_number(number * factor, DIGITS)} {symbol}".removesuffix(" 1"), RARE


def law_suspects(channel: Channel) -> Iterator[Suspect]:
    """Suspects: each parameter of each law, each value of their parts, a missing law, one of a similar kind."""
    for place, entry in enumerate(channel.laws):
        key: Key = (*channel.key("law"), place)
        for parameter in entry.kind.parameters:
            value = entry.values.get(parameter.name)
            if parameter.kind == "part" and isinstance(value, Part):
                yield from _of_part(entry, place, parameter.name, value)
            elif value is not None and not isinstance(value, ChannelName):
                yield from _of_value(entry, place, parameter, value, (*key, parameter.name))
        yield from _of_kind(entry, place, key)
        yield Suspect(
            f"law {place} itself",
            f"law {place + 1}",
            entry.kind.name,
            "none",
            SELDOM,
            lambda model, place=place: replace(model, laws=(*model.laws[:place], *model.laws[place + 1 :])),  # type: ignore[misc]
            says=f"law {place + 1}, {entry.kind.name}, is one too many; without it the reading is explained",
        )


def titled(entry: LawEntry, title: str) -> str:
    """A parameter with the name of its law."""
    return f"{title} of {entry.kind.name}"


def rebuilt(entry: LawEntry, place: int, values: Mapping[str, Any], model: ThreadModel) -> ThreadModel:
    """The model with other values of a law."""
    return with_law(model, place, stage_of(entry.kind.name, entry.kind.build({**entry.values, **values})))


def _of_value(entry: LawEntry, place: int, parameter: Parameter, value: Any, key: Key) -> Iterator[Suspect]:
    written = entry.written.get(parameter.name, parameter.default)
    for other in others_of(parameter, value, written):
        yield Suspect(
            f"law {place} {parameter.name}",
            titled(entry, parameter.title),
            said_of(written),
            said_of(other.written),
            other.weight,
            lambda model, found=other.value: rebuilt(entry, place, {parameter.name: found}, model),  # type: ignore[misc]
            key,
            other.written,
        )


def said_of(written: object) -> str:
    """The value as in the project, without its tolerance."""
    return {True: "yes", False: "no"}[written] if isinstance(written, bool) else parted(str(written))[0].strip()


def _of_part(entry: LawEntry, place: int, name: str, part: Part) -> Iterator[Suspect]:
    """Suspects of a part's resistors, and of two of them swapped."""
    numbers = [each for each in part.kind.parameters if each.unit == "Ω" and each.name in part.values]

    def changed(values: Mapping[str, Any]) -> Part:
        return replace(part, values={**part.values, **values})

    for parameter in numbers:
        value = part.values[parameter.name]
        has = format_quantity(float(value), parse_unit("Ω"), DIGITS)
        for other in others_of(parameter, value, has):
            yield Suspect(
                f"part {part.name} {parameter.name}",
                f"{parameter.title} of {part.name}",
                has,
                str(other.written),
                other.weight,
                lambda model, key=parameter.name, found=other.value: rebuilt(  # type: ignore[misc]
                    entry, place, {name: changed({key: found})}, model
                ),
                ("parts", part.name, parameter.name),
                other.written,
            )
    if len(numbers) == 2:
        one, two = (each.name for each in numbers)
        swapped = {one: part.values[two], two: part.values[one]}
        written = {each: format_quantity(float(swapped[each]), parse_unit("Ω"), DIGITS) for each in (one, two)}
        yield Suspect(
            f"part {part.name}",
            part.name,
            "",
            "",
            USUAL,
            lambda model: rebuilt(entry, place, {name: changed(swapped)}, model),
            ("parts", part.name, one),
            written[one],
            f"{one} and {two} of {part.name} are swapped",
            ((("parts", part.name, two), written[two]),),
        )


def _of_kind(entry: LawEntry, place: int, key: Key) -> Iterator[Suspect]:
    """Suspects of laws with the same parameters, so that one may have been taken for the other."""
    told = {each.name for each in entry.kind.parameters}
    for other in KINDS.values():
        if other.name == entry.kind.name or {each.name for each in other.parameters} != told:
            continue

        def change(model: ThreadModel, other: Any = other) -> ThreadModel:
            return with_law(model, place, stage_of(other.name, other.build(dict(entry.values))))

        yield Suspect(
            f"law {place} kind",
            f"law {place + 1}",
            entry.kind.name,
            other.name,
            RARE,
            change,
            (*key, "kind"),
            other.name,
        )


def unit_suspects(channel: Channel) -> Iterator[Suspect]:
    """Suspects of raw numbers in another unit than assumed, and of readings in another than stated."""
    for symbol in _family(channel.unit_raw.symbol):
        yield Suspect(
            "raw unit",
            "the raw unit",
            channel.unit_raw.symbol,
            symbol,
            OFTEN,
            lambda model, symbol=symbol: replace(model, unit_raw=parse_unit(symbol)),  # type: ignore[misc]
            channel.key("raw_unit"),
            symbol,
        )
    yield from _of_fit(channel)


def _of_fit(channel: Channel) -> Iterator[Suspect]:
    """Suspects of another fit through the references, none at all, or a forgotten tare."""
    for kind in FITS[1:] if channel.references else ():
        if kind == channel.correction.kind:
            continue
        try:
            fitted = replace(fit_correction(kind, channel.references, channel.unit), tare=channel.correction.tare)
        except NEVER:
            continue
        yield Suspect(
            "true",
            "the fit of True",
            channel.correction.kind,
            kind,
            RARE,
            lambda model, fitted=fitted: replace(model, correction=fitted),  # type: ignore[misc]
            (*channel.key("true"), "kind"),
            kind,
        )
    if channel.correction.kind != "none" or channel.correction.tare:
        plain = fit_correction("none", (), channel.unit)
        more = (((*channel.key("true"), "tare"), "0"),) if channel.correction.tare else ()
        yield Suspect(
            "true",
            "the fit of True",
            channel.correction.kind,
            "none",
            RARE,
            lambda model: replace(model, correction=plain),
            (*channel.key("true"), "kind"),
            "none",
            more=more,
        )
        if channel.correction.tare:
            untared = replace(channel.correction, tare=0.0)
            yield Suspect(
                "true",
                "the tare",
                format_quantity(channel.correction.tare, channel.unit),
                "0",
                OFTEN,
                lambda model: replace(model, correction=untared),
                (*channel.key("true"), "tare"),
                "0",
            )
