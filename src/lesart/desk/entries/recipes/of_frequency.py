"""A recipe of counted pulses where the raw values are their frequency already: no gate, but a line from hertz."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import replace

from lesart.core.notes import Key
from lesart.core.quantity import parse_quantity
from lesart.core.units import Unit, parse_unit
from lesart.desk.entries.recipes.recipe import Sketch, Table

HERTZ, COUNT = parse_unit("Hz"), parse_unit("ct")
RATES = tuple((parse_unit(amount), rate) for amount, rate in (("Wh", "W"), ("L", "L/min")))
"""What an amount a pulse is a second, in the unit that people say it in."""
OF_RAIN = ("mm", "in")
"""A depth a tip falls in an hour; another length is driven in a second."""


def begun_with_hertz(sketch: Sketch, places: Sequence[Key], raw: Unit) -> tuple[Sketch, list[Key]]:
    """The sketch with a first law that takes hertz instead of counts, and the places of assumed values that are left.

    Unchanged where raw values are no frequency, or the recipe does not begin with pulses.
    """
    line = _from_hertz(sketch.laws[0]) if sketch.laws and raw.same_dimension(HERTZ) else None
    if line is None:
        return sketch, [*places]
    slope: Key = ("laws", 0, "slope")
    of_first = [slope for key in places if key == ("laws", 0, "marks")]
    kept = [*of_first, *(key for key in places if key[:2] != ("laws", 0))]
    return replace(sketch, laws=(line, *sketch.laws[1:]), raw_unit=raw.symbol), kept


def _from_hertz(first: Table) -> Table | None:
    if first["kind"] == "gate rate":
        marks = float(parse_quantity(str(first["marks"]), parse_unit("1")).value)
        return _line(str(first["per"]), f"{1 / marks:.12g}")
    if first["kind"] != "linear" or str(first["input"]) != "0 ct" or not str(first["slope"]).endswith("/ct"):
        return None
    slope = str(first["slope"]).removesuffix("/ct")
    amount = parse_quantity(slope, parse_unit("1")).unit
    rate = next((rate for each, rate in RATES if each.same_dimension(amount)), f"{amount}/s")
    return _line("mm/h" if amount.symbol in OF_RAIN else rate, slope)


def _line(unit: str, slope: str) -> Table:
    return {"kind": "linear", "input": "0 Hz", "output": f"0 {unit}", "slope": slope}
