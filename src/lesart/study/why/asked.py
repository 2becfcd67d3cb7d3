"""True values as typed: a reading with its tolerance."""

from __future__ import annotations

import math
import re
from dataclasses import replace

from lesart.core.errors import LesartError, QuantityError, RequestError, UnitError
from lesart.core.parameters import TOLERANCE
from lesart.core.quantity import Quantity, format_quantity, parse_quantity
from lesart.core.raw.spelled.unit_typed import quantity_typed
from lesart.core.units import Unit
from lesart.project.model import Channel, Project
from lesart.study.bench import Bench
from lesart.study.sureness import sureness_at
from lesart.study.why.number import not_of_totals, truth_at
from lesart.study.why.truth import Truth

RELATIVE = "%"
SIGMAS = 2.0


def asked_truth(
    project: Project, bench: Bench, channel: Channel, text: str, *, at_s: float | None = None, raw: float | None = None
) -> Truth:
    """A truth at a moment of the capture, or of a raw value; at its end where neither is said.

    Raises RequestError with what would be right, CaptureError where the capture cannot be read and ``raw`` is not said.
    """
    not_of_totals(channel)
    reading, off = reading_of(channel, text)
    if raw is not None:
        sure = _sureness(project, bench, channel, reading, 0.0)
        return Truth(raw, reading, math.hypot(off, sure), text)
    moment = math.inf if at_s is None else at_s
    found = truth_at(project, bench, channel, moment, reading, off, text)
    sure = _sureness(project, bench, channel, reading, 0.0 if math.isinf(moment) else moment)
    return replace(found, tolerance=math.hypot(off, sure))


def reading_of(channel: Channel, text: str) -> tuple[float, float]:
    """``21.5 °C``, ``21.5`` or ``21.5 °C ± 0.3``: the reading in the channel's unit, and its tolerance; by default one
    last place as written. Raises RequestError."""
    number, *off = TOLERANCE.split(text.strip(), maxsplit=1)
    shown = format_quantity(21.5, channel.unit)
    would = f"write what it should read, like {shown} or {shown} ± 0.5"
    try:
        quantity = quantity_typed(number, channel.unit)
        reading = quantity.to(channel.unit)
        if not off:
            return float(reading), last_place(number, quantity, channel.unit)
        return float(reading), _width(off[0], quantity, channel)
    except (QuantityError, UnitError, ValueError) as error:
        raise RequestError(f'"{text}": {str(error).rstrip(".")}; {would}.') from error


def last_place(number: str, quantity: Quantity, unit: Unit) -> float:
    """One step of a written number's last digit, in ``unit``."""
    digits = re.search(r"\d+(?:[.,](\d+))?", number)
    places = len(digits[1]) if digits is not None and digits[1] else 0
    return float(10.0**-places * float(quantity.unit.scale / unit.scale))


def _width(off: str, quantity: Quantity, channel: Channel) -> float:
    if off.strip().endswith(RELATIVE) and channel.unit.symbol != RELATIVE:
        return abs(float(quantity.to(channel.unit))) * float(off.strip().rstrip(RELATIVE).replace(",", ".")) / 100
    width = parse_quantity(off, quantity.unit.step)
    return abs(float(width.value) * float(width.unit.scale / channel.unit.scale))


def _sureness(project: Project, bench: Bench, channel: Channel, reading: float, at_s: float) -> float:
    """How far the channel itself may be off by its tolerances; 0 where unknown."""
    try:
        raw = bench.standing(project, channel, at_s).chain.raw_for(reading)
        if not math.isfinite(raw):
            return 0.0
        standard = sureness_at(project, channel, bench, raw, at_s).budget.standard
    except (LesartError, ValueError, ArithmeticError):
        return 0.0
    return SIGMAS * standard if math.isfinite(standard) else 0.0
