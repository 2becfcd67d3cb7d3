"""Whether raw values without a unit are a converter's counts or volts, by what they are: 2.46 is no count, and 501 is
no voltage of a cell from 3.0 V to 4.2 V."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from dataclasses import replace

import numpy as np

from lesart.core.block import Floats
from lesart.core.dataclass_later import dataclass
from lesart.core.errors import LesartError
from lesart.core.law import KINDS as LAWS
from lesart.core.notes import Key, Written
from lesart.core.quantity import format_quantity, parse_quantity
from lesart.core.units import parse_unit
from lesart.desk.entries.recipes.questions import VOLT, bare
from lesart.desk.entries.recipes.recipe import Sketch, Table

CONVERTER, SUPPLY = "converter", "supply"
BEYOND = 0.02
"""Share of its reference by which a voltage may be beyond it."""


@dataclass(frozen=True)
class AsRead:
    """A sketch from the raw values as they came, its assumed places, and what to say of it; empty as expected."""

    sketch: Sketch
    places: tuple[Key, ...]
    says: str = ""


def as_read(
    sketch: Sketch,
    places: Sequence[Key],
    raw: Floats,
    converter: Callable[[], Table],
    readings: Callable[[Sketch, Floats], Floats],
) -> AsRead:
    """The sketch without its converter where ``raw``, shape (n,), good ones, are volts; with ``converter`` before it
    where they are counts. ``readings`` runs a sketch."""
    if not len(raw) or not sketch.laws:
        return AsRead(sketch, tuple(places))
    if begins_with_converter(sketch) and _are_volts(raw, sketch.laws[0]):
        kept = [key for key in places if key[0] != "laws" or int(key[1]) > 0]
        moved = tuple(("laws", int(key[1]) - 1, *key[2:]) if key[0] == "laws" else key for key in kept)
        seen = format_quantity(float(np.median(raw)), VOLT, 3)
        return AsRead(
            replace(sketch, laws=sketch.laws[1:], raw_unit="V"),
            moved,
            f"; taken as volts, {seen} in the middle: counts have no decimals",
        )
    if _is_voltage(sketch) and not _fit(sketch, raw, readings):
        moved = tuple(("laws", int(key[1]) + 1, *key[2:]) if key[0] == "laws" else key for key in places)
        table = converter()
        also = tuple(("laws", 0, name) for name in table if name != "kind")
        return AsRead(replace(sketch, laws=(table, *sketch.laws), raw_unit="ct"), (*also, *moved))
    return AsRead(sketch, tuple(places))


def begins_with_converter(sketch: Sketch) -> bool:
    """True where its first law is that of a converter."""
    return bool(sketch.laws) and sketch.laws[0]["kind"] == CONVERTER


def with_supply(
    sketch: Sketch, places: Sequence[Key], reference: Written, *, is_said: bool
) -> tuple[Sketch, list[Key]]:
    """The sketch of volts, without a converter whose reference its laws would compare with: they get it as their
    supply, which is assumed unless ``is_said``."""
    laws = list(sketch.laws)
    compare = [
        index for index, law in enumerate(laws) if any(p.name == SUPPLY for p in LAWS[str(law["kind"])].parameters)
    ]
    for index in compare:
        laws[index] = {**laws[index], SUPPLY: bare(reference)}
    also = [] if is_said else [("laws", index, SUPPLY) for index in compare]
    return replace(sketch, laws=tuple(laws)), [*places, *also]


def _are_volts(raw: Floats, converter: Table) -> bool:
    """True for values with decimals that all lie within the reference of the converter: its counts have none, and the
    mean of several goes far beyond it."""
    reference_v = parse_quantity(bare(converter["reference"]), VOLT).to(VOLT)
    inside = float(raw.min()) >= -BEYOND * reference_v and float(raw.max()) <= (1 + BEYOND) * reference_v
    return inside and bool((raw != np.rint(raw)).any())


def _is_voltage(sketch: Sketch) -> bool:
    return parse_unit(sketch.raw_unit).same_dimension(VOLT) and sketch.span is not None


def _fit(sketch: Sketch, raw: Floats, readings: Callable[[Sketch, Floats], Floats]) -> bool:
    """True where most of them, taken as they are, read within the usual range or its own width beyond it."""
    assert sketch.span is not None
    try:
        read = readings(sketch, raw)
    except LesartError:
        return True
    low, high = (float(parse_quantity(end, parse_unit("%")).value) for end in sketch.span)
    reach = abs(high - low)
    return bool(np.mean((read >= min(low, high) - reach) & (read <= max(low, high) + reach)) >= 0.5)
