"""The hand: a typed value instead of a capture, followed through every step to the glass."""

from __future__ import annotations

import math
import re
from dataclasses import replace

from lesart.core.block import Mark, mark_word
from lesart.core.dataclass_later import dataclass
from lesart.core.errors import LesartError, QuantityError, RequestError, UnitError
from lesart.core.fit.field import Field, Reading
from lesart.core.fit.fill import Shown, fill
from lesart.core.glass.faces.face import Composed, Face, FieldItem, compose
from lesart.core.glass.panels.panel import Panel
from lesart.core.quantity import format_quantity
from lesart.core.raw.spelled.unit_typed import in_symbols, quantity_typed
from lesart.core.step import COMPUTED, Step
from lesart.core.units import Unit
from lesart.desk.state import State
from lesart.project.model import Channel, Project


@dataclass(frozen=True)
class StepValue:
    """One link of the chain with the value after it, in ``unit``."""

    step: Step
    kind: str
    value: float
    unit: str
    mark: str | None
    mark_flags: int


@dataclass(frozen=True)
class HandResult:
    """A value at all steps; ``shown`` and ``composed`` are None where no panel shows the channel."""

    steps: tuple[StepValue, ...]
    reading: Reading
    shown: Shown | None
    panel: Panel | None
    composed: Composed | None


ENDS = (
    (re.compile(r"(?:the\s+)?(?:max(?:imum)?|highest|most|full|top)", re.IGNORECASE), 1.0),
    (re.compile(r"(?:the\s+)?(?:min(?:imum)?|lowest|least|empty|bottom)", re.IGNORECASE), 0.0),
    (re.compile(r"(?:the\s+)?(?:half|middle|mid|centre)", re.IGNORECASE), 0.5),
)
"""Readings in words, as shares of the channel's range."""
_SAID = re.compile(r"^(?:raw|reading|value|reads?|shows?)\s*[=:]?\s+", re.IGNORECASE)


def raw_from_text(channel: Channel, text: str) -> float:
    """A raw value from what was typed: ``461708``, ``461708 ct``, with the reading's unit ``43.2 kg``, or with that of
    what is between, as a meter shows it at the pin, ``2.5 V``; ``max`` and ``half`` of what the channel can read.

    Where raw and reading measure the same thing, the number is raw. Raises RequestError with what would be right.
    """
    between = [each.stage.unit_out for each in channel.chain.links]
    between = [
        each for each in between if not each.same_dimension(channel.unit_raw) and not each.same_dimension(channel.unit)
    ]
    more = f", or what is between, like 2 {between[0]}" if between else ""
    hint = f"type a raw value like 1000 {channel.unit_raw}, or a reading like 10 {channel.unit}{more}."
    text = _SAID.sub("", text.strip())
    for pattern, share in ENDS:
        if pattern.fullmatch(text):
            return raw_for_reading(channel, channel.lowest + share * (channel.highest - channel.lowest))
    try:
        quantity = quantity_typed(in_symbols(text, channel.unit), channel.unit_raw)
        if quantity.unit.same_dimension(channel.unit_raw):
            return quantity.to(channel.unit_raw)
        if quantity.unit.same_dimension(channel.unit):
            return raw_for_reading(channel, quantity.to(channel.unit))
        if (place := place_between(channel, quantity.unit)) is not None:
            value = quantity.to(channel.chain.links[place].stage.unit_out)
            return _raw(channel, channel.chain.raw_behind(place, value), str(quantity))
    except (QuantityError, UnitError) as error:
        raise RequestError(f"{channel.name}: {str(error).rstrip('.')}; {hint}") from error
    raise RequestError(f'{channel.name}: "{text}" is neither raw nor a reading; {hint}')


def raw_for_reading(channel: Channel, reading: float) -> float:
    """The raw value of a reading, a whole count for counts. Raises RequestError where none gives it."""
    return _raw(channel, channel.chain.raw_for(reading), format_quantity(reading, channel.unit))


def _raw(channel: Channel, raw: float, gives: str) -> float:
    if not math.isfinite(raw):
        raise RequestError(f"{channel.name}: no raw value gives {gives}.")
    return float(round(raw)) if channel.unit_raw.symbol == "ct" else raw


def given_between(channel: Channel, text: str) -> str:
    """The law whose result was typed, where it is neither raw nor a reading; else empty."""
    try:
        quantity = quantity_typed(in_symbols(_SAID.sub("", text.strip()), channel.unit), channel.unit_raw)
    except (QuantityError, UnitError):
        return ""
    place = place_between(channel, quantity.unit)
    return "" if place is None else f", where its {channel.chain.links[place].stage.kind} gives {quantity}"


def place_between(channel: Channel, unit: Unit) -> int | None:
    """The first law with such a unit, where neither raw values nor readings have it; None where none has."""
    if unit.same_dimension(channel.unit_raw) or unit.same_dimension(channel.unit):
        return None
    links = channel.chain.links
    return next((at for at, each in enumerate(links) if each.stage.unit_out.same_dimension(unit)), None)


def moved_by_digits(channel: Channel, field: Field, raw: float, digits: int) -> float:
    """The raw value whose reading stands so many steps of the field's last digit on; by a count at least.

    Raises RequestError where no raw value reads so.
    """
    steady = channel.chain.steady(raw)
    reading = float(steady[-1].x[0]) if steady else raw
    step = 10.0**-field.decimals * float(field.unit_shown.scale / field.unit_in.scale)
    found = raw_for_reading(channel, reading + digits * step) if math.isfinite(reading) else raw
    if found == raw and channel.unit_raw.symbol == "ct":
        return raw + math.copysign(1.0, digits)
    return found


def swept(state: State, digits: int) -> State:
    """The value in hand moved by steps of the last digit: holding a key sweeps a field."""
    try:
        raw = moved_by_digits(state.chosen, state.chosen.field, state.hand or 0.0, digits)
    except LesartError as error:
        return state.says(str(error), fault=True)
    return replace(state, hand=raw).says("")


def follow(project: Project, channel: Channel, raw: float, panel: str | None = None) -> HandResult:
    """A steady raw value at every step, and on the panel that shows it. Raises RequestError for an unknown panel."""
    if panel is not None and panel not in project.panels:
        raise RequestError(f'panel "{panel}" is not in the project, which has {", ".join(project.panels) or "none"}.')
    is_none = raw in channel.no_reading
    flags = int(Mark.MISSING) if is_none else 0
    steps = [StepValue(Step.RAW, "value", raw, channel.unit_raw.symbol, mark_word(flags), flags)]
    given = math.nan if is_none else raw
    reading = Reading(given, flags)
    for link, block in zip(channel.chain.links, channel.chain.steady(given), strict=True):
        value, flags = float(block.x[0]), int(block.mark[0])
        steps.append(StepValue(link.step, link.stage.kind, value, link.stage.unit_out.symbol, mark_word(flags), flags))
        reading = Reading(value, flags)
    reading = replace(reading, alarms=tuple(each.name for each in channel.alarms if each.is_beyond(reading.value)))
    name = panel or next(iter(project.panels_showing(channel.name)), None)
    if name is None:
        return HandResult(tuple(steps), reading, fill(channel.field, reading), None, None)
    faces = project.looking_at(channel).faces_on(name)
    on = project.panels[name]
    if not faces:
        return HandResult(tuple(steps), reading, fill(channel.field, reading), on, None)
    face = next((each for each in faces if each.fields_of(channel.name)), faces[0])
    composed = compose(face, on, {channel.name: reading})
    return HandResult(tuple(steps), reading, _own(face, channel, composed, reading, on), on, composed)


def _own(face: Face, channel: Channel, composed: Composed, reading: Reading, panel: Panel) -> Shown:
    """The channel's field on this face, or its own rules where the face does not show it."""
    for item, shown in zip(face.items, composed.shown, strict=True):
        if isinstance(item, FieldItem) and item.channel == channel.name and shown is not None:
            return shown
    return fill(channel.field, reading, joined=panel.joined)


def value_after(steps: tuple[StepValue, ...], step: Step) -> StepValue:
    """The last value of a step, or of the step before it where it has none of its own."""
    upto = COMPUTED[: COMPUTED.index(step) + 1]
    return [value for value in steps if value.step in upto][-1]
