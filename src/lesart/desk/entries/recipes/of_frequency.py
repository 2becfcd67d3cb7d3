"""A recipe of counted pulses where the raw values are their frequency already: no gate, but a line from hertz."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import replace

from lesart.core.notes import Key
from lesart.core.quantity import parse_quantity
from lesart.core.units import Unit, parse_unit
from lesart.desk.entries.recipes.recipe import Sketch, Table

HERTZ, PLAIN = parse_unit("Hz"), parse_unit("1")
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
    behind = sketch.laws[1:]
    if behind and (joined := _in_one(line, behind[0])) is not None:
        line, behind = joined, behind[1:]
    slope: Key = ("laws", 0, "slope")
    of_first = [slope for key in places if key == ("laws", 0, "marks")]
    kept = [*of_first, *(key for key in places if key[:2] != ("laws", 0))]
    return replace(sketch, laws=(line, *behind), raw_unit=raw.symbol), kept


def _from_hertz(first: Table) -> Table | None:
    if first["kind"] == "gate rate":
        marks = float(parse_quantity(str(first["marks"]), PLAIN).value)
        return _line(str(first["per"]), f"{1 / marks:.9g}")
    if first["kind"] != "linear" or str(first["input"]) != "0 ct" or not str(first["slope"]).endswith("/ct"):
        return None
    slope = str(first["slope"]).removesuffix("/ct")
    amount = parse_quantity(slope, PLAIN).unit
    rate = next((rate for each, rate in RATES if each.same_dimension(amount)), f"{amount}/s")
    return _line("mm/h" if amount.symbol in OF_RAIN else rate, slope)


def _in_one(line: Table, law: Table) -> Table | None:
    """Both lines as one, where the other begins at nothing of what this one gives: so many litres a pulse."""
    unit = str(line["output"]).removeprefix("0 ")
    if law["kind"] != "linear" or law["input"] != f"0 {unit}":
        return None
    per_turn = parse_quantity(str(law["slope"]), PLAIN)
    slope = float(per_turn.value) * float(parse_quantity(str(line["slope"]), PLAIN).value)
    return {**law, "input": "0 Hz", "slope": f"{slope:.9g} {per_turn.unit}".removesuffix(" 1")}


def _line(unit: str, slope: str) -> Table:
    return {"kind": "linear", "input": "0 Hz", "output": f"0 {unit}", "slope": slope}
