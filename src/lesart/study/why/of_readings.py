"""Suspects after all laws: a reading in another unit than assumed, a missing offset, a lost part."""

from __future__ import annotations

import math
from collections.abc import Iterator, Sequence
from dataclasses import replace

import numpy as np

from lesart.core.law.slips import FAMILIES
from lesart.core.quantity import format_quantity, plain_number
from lesart.core.units import conversion, parse_unit
from lesart.project.model import Channel
from lesart.study.why.suspect import OFTEN, RARE, SELDOM, Suspect
from lesart.study.why.thread_model import Change, ThreadModel
from lesart.study.why.truth import Truth

FACTORS = (
    (10.0, "ten times too small"),
    (0.1, "ten times too large"),
    (100.0, "a hundred times too small"),
    (0.01, "a hundred times too large"),
    (1000.0, "a thousand times too small"),
    (0.001, "a thousand times too large"),
    (2.0, "half of what it should be"),
    (0.5, "twice what it should be"),
    (60.0, "sixty times too small: minutes for seconds"),
    (1 / 60.0, "sixty times too large: seconds for minutes"),
    (3600.0, "3600 times too small: hours for seconds"),
    (1 / 3600.0, "3600 times too large: seconds for hours"),
    (3.6, "3.6 times too small: m/s for km/h"),
    (1 / 3.6, "3.6 times too large: km/h for m/s"),
    (180 / np.pi, "in radians, and was taken for degrees"),
    (np.pi / 180, "in degrees, and was taken for radians"),
)
ICE_K = 273.15


def reading_suspects(channel: Channel) -> Iterator[Suspect]:
    """Suspects in words, for the firmware or a law to correct."""
    unit = channel.unit
    if unit.is_temperature:
        kelvin = "the offset between kelvin and °C is missing: 273.15"
        yield _slip(kelvin, OFTEN, lambda x: x - ICE_K)
        yield _slip("the offset between kelvin and °C was taken off twice: 273.15", OFTEN, lambda x: x + ICE_K)
    family = next((each for each in FAMILIES if unit.symbol in each), ())
    for symbol in family:
        if symbol == unit.symbol:
            continue
        scale, offset = conversion(parse_unit(symbol), unit)
        says = f"the reading is in {symbol}, and was taken for {unit.symbol}"
        yield _slip(says, OFTEN, lambda x, scale=scale, offset=offset: x * scale + offset)  # type: ignore[misc]
    for factor, says in FACTORS:
        yield _slip(f"the reading is {says}", RARE, lambda x, factor=factor: x * factor)  # type: ignore[misc]
    yield _slip("the reading has the wrong sign", RARE, lambda x: -x)
    top = {"%": 100.0, "°": 360.0}.get(unit.symbol)
    if top is not None:
        says = f"the reading counts from the other end: it is {format_quantity(top, unit)} minus what was read"
        yield _slip(says, RARE, lambda x: top - x)


def _slip(says: str, weight: float, change: Change) -> Suspect:
    def changed(model: ThreadModel) -> ThreadModel:
        return replace(model, reading_change=change)

    return Suspect("reading", "the reading", "", "", weight, changed, says=says)


def common_suspects(channel: Channel, truths: Sequence[Truth], now: Sequence[float]) -> Iterator[Suspect]:
    """One offset or one factor for all true values: the zero or the slope, where nothing more specific explains it."""
    wanted = np.array([each.reading for each in truths])
    shown = np.asarray(now, np.float64)
    # With one true value either explains anything.
    if len(truths) < 2 or not np.isfinite(shown).all():
        return
    off = float(np.mean(wanted - shown))
    said = format_quantity(float(f"{off:.4g}"), channel.unit)
    yield _slip(f"every reading is off by the same {said.lstrip('-')}: its zero", SELDOM, lambda x: x + off)
    if np.all(shown != 0.0):
        factor = float(np.exp(np.mean(np.log(np.abs(wanted / shown))))) if np.all(wanted / shown > 0) else 0.0
        if factor:
            yield _slip(
                f"every reading is {plain_number(1 / factor, 4)} times what it should be: its slope",
                SELDOM - 0.5,
                lambda x: x * factor,
            )


def lost_part(truths: Sequence[Truth], now: Sequence[float]) -> str:
    """A sentence on integer division that drops the fraction: it cannot be undone, only seen."""
    if len(truths) < 2 or not all(math.isfinite(each) and each == round(each) for each in now):
        return ""
    cut = all(0 <= each.reading - shown < 1 for each, shown in zip(truths, now, strict=True))
    lost = any(each.reading - shown > each.tolerance for each, shown in zip(truths, now, strict=True))
    return "what comes after the point was cut off: a division of whole numbers drops it" if cut and lost else ""
