"""A resistance in one half of a divider."""

from __future__ import annotations

from dataclasses import replace

from lesart.core.parameters import Parameter
from lesart.core.quantity import parse_quantity
from lesart.desk.entries.recipes.kinds.volts import HIGH, LOW, between, written_quantity
from lesart.desk.entries.recipes.questions import BITS, OHM, PLAIN, REFERENCE, bare, converter, of_law, of_part
from lesart.desk.entries.recipes.recipe import Ask, Recipe, Said, Sketch, Table

TOLERANCE = of_part("resistor", "tolerance", "1 %", "half", "tolerance")
SIDE = of_law("half of a divider", "sensor", "to ground", ("laws", 1, "sensor"))
"""Whether the sensor is the upper or lower half."""


def half(
    said: Said, *laws: Table, part: Table | None = None, span: tuple[str, str] | None = ("-20 °C", "60 °C")
) -> Sketch:
    """A converter that reads the tap, the sensor's resistance, and what its own laws make of that."""
    parts: dict[str, Table] = {"probe": part} if part else {}
    parts["half"] = {"kind": "resistor", "resistance": said["fixed"], "tolerance": said["tolerance"]}
    # Its supply is the converter's, or the rail.
    half: Table = {"kind": "half of a divider", "sensor": said["sensor"], "part": "@half"}
    return Sketch((converter(said), half, *laws), parts, "probe" if part else "", span=span)


def _thermistor(said: Said) -> Sketch:
    law: Table = {"kind": "thermistor by beta", "beta": said["beta"], "resistance": said["resistance"]}
    return half(said, law, part={"kind": "thermistor", "resistance": bare(said["resistance"])})


THERMISTOR_HALF = Recipe(
    "thermistor half",
    "a thermistor in series with a resistor, its tap on a converter",
    "a thermistor half on a 10-bit converter",
    (
        BITS,
        REFERENCE,
        of_law(
            "thermistor by beta", "resistance", "10 kΩ", ("laws", 2, "resistance"), ("parts", "probe", "resistance")
        ),
        of_part("resistor", "resistance", "10 kΩ", "half", "fixed"),
        TOLERANCE,
        of_law("thermistor by beta", "beta", "3950 K", ("laws", 2, "beta")),
        SIDE,
    ),
    _thermistor,
)


def _platinum(said: Said) -> Sketch:
    return half(said, {"kind": "platinum", "resistance": said["resistance"]})


PLATINUM_HALF = Recipe(
    "platinum half",
    "a platinum resistor in series with a resistor, its tap on a converter",
    "a platinum half on a 12-bit converter",
    (
        BITS,
        REFERENCE,
        of_law("platinum", "resistance", "1 kΩ", ("laws", 2, "resistance")),
        of_part("resistor", "resistance", "1 kΩ", "half", "fixed"),
        TOLERANCE,
        SIDE,
    ),
    _platinum,
)


def _photoresistor(said: Said) -> Sketch:
    """A photoresistor: its resistance falls as a power of the light, by γ decades per decade."""
    gamma = float(parse_quantity(bare(said["gamma"]), PLAIN).value)
    law: Table = {
        "kind": "power",
        "input": f"{parse_quantity(bare(said['resistance']), OHM).to(OHM):.12g} Ω",
        "output": "10 lx",
        "exponent": f"{-1.0 / gamma:.12g}",
    }
    return half(said, law, span=("1 lx", "10000 lx"))


DARK = Parameter("resistance", "resistance at 10 lx", "quantity", "of the photoresistor", "20 kΩ", unit="Ω")
GAMMA = Parameter(
    "gamma", "gamma", "quantity", "decades of resistance for a decade of light", "0.7", unit="1", lowest=0.1, highest=3
)
PHOTORESISTOR_HALF = Recipe(
    "photoresistor half",
    "a photoresistor in series with a resistor, its tap on a converter",
    "a photoresistor half on a 10-bit converter",
    (
        BITS,
        REFERENCE,
        Ask("resistance", DARK, (("laws", 2, "input"),)),
        of_part("resistor", "resistance", "10 kΩ", "half", "fixed"),
        TOLERANCE,
        Ask("gamma", GAMMA, (("laws", 2, "exponent"),)),
        of_law("half of a divider", "sensor", "to supply", ("laws", 1, "sensor")),
    ),
    _photoresistor,
)


def _sender(said: Said) -> Sketch:
    begin, end = (parse_quantity(bare(said[word]), OHM) for word in ("from", "to"))
    low, high = (parse_quantity(bare(said[word]), PLAIN) for word in ("low", "high"))
    ends = sorted((low, high), key=lambda each: each.to(low.unit))
    span = (written_quantity(ends[0]), written_quantity(ends[1]))
    return replace(half(said, between(begin, end, low, high), span=span), span_is=("low", "high"))


EMPTY = Parameter("from", "resistance at the low end", "quantity", "of the sender", "0 Ω", unit="Ω", lowest=0)
FULL = Parameter("to", "resistance at the high end", "quantity", "of the sender", "180 Ω", unit="Ω", lowest=0)
SENDER_HALF = Recipe(
    "sender half",
    "a resistance that goes from one value to another over its range, as of floats in tanks, in series with a resistor",
    "a sender half from 240 Ω to 33 Ω, 0 to 100 %",
    (
        BITS,
        REFERENCE,
        Ask("from", EMPTY, (("laws", 2, "input"),)),
        Ask("to", FULL, (("laws", 2, "slope"),)),
        Ask("low", LOW, (("laws", 2, "output"),)),
        Ask("high", HIGH, ()),
        of_part("resistor", "resistance", "100 Ω", "half", "fixed"),
        TOLERANCE,
        SIDE,
    ),
    _sender,
)
