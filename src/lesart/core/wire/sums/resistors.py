"""Sums for resistors: of a lamp, a divider, the fixed half with a sensor, a shunt, pull-ups."""

from __future__ import annotations

import math
from collections.abc import Mapping
from typing import Any

from lesart.core.wire.bus import least_pull_up_ohm, most_pull_up_ohm, rise_limit_s, rise_s
from lesart.core.wire.entry import written
from lesart.core.wire.preferred import around, decade_of, nearest
from lesart.core.wire.proposal.dividing import analog_divider
from lesart.core.wire.sums.record import Figure, SumKind, SumResult, quantity

RATINGS_W = (0.125, 0.25, 0.5, 1.0, 2.0, 5.0, 10.0, 25.0, 50.0, 100.0)
"""Power ratings that resistors are sold with."""
ROOM = 1.5
"""A resistor's rating is at least this many times its heat."""


def rating_w(watts: float) -> float:
    """The least usual power rating with room to spare; at least a quarter watt, because that is what lies in the
    drawer."""
    return next((each for each in RATINGS_W if each >= max(watts * ROOM, 0.25)), RATINGS_W[-1])


def resistor(ohm: float, watts: float) -> dict[str, str]:
    """A resistor as an entry of the project file."""
    return {"kind": "resistor", "resistance": written(ohm, "Ω"), "power": written(rating_w(watts), "W")}


def _lamp(values: Mapping[str, Any]) -> SumResult:
    left = values["supply"] - values["drop"] - values["forward"]
    if left <= 0:
        said = "The supply gives less than the lamp and its switch drop; it stays dark. Use a higher supply."
        return SumResult((Figure("left for the resistor", left, "V"),), warning=said)
    exact = left / values["current"]
    _, ohm = around(exact)
    amps, duty = left / ohm, values["duty"]
    watts = amps * amps * ohm * duty
    return SumResult(
        (
            Figure("left for the resistor", left, "V"),
            Figure("exactly", exact, "Ω"),
            Figure("take", ohm, "Ω"),
            Figure("current while lit", amps, "A"),
            Figure("on the mean", amps * duty, "A"),
            Figure("heat in the resistor", watts, "W"),
        ),
        resistor(ohm, watts),
    )


LAMP_RESISTOR = SumKind(
    "lamp resistor",
    "series resistor of a lamp or a segment, lit all the time or a share of it",
    "R = (supply − drop of the switch − forward voltage) ÷ current, the next E24 value above",
    "Ohm's law; preferred values IEC 60063",
    (
        quantity("supply", "supply", "that feeds it", "5 V", "V"),
        quantity("forward", "forward voltage", "what the lamp drops", "2 V", "V"),
        quantity("current", "current", "wanted while it is lit", "10 mA", "A"),
        quantity("drop", "drop of the switch", "lost in the pin or transistor", "0 V", "V", above=False),
        quantity("duty", "duty", "share of the time that it is lit", "1", "1", highest=1),
    ),
    _lamp,
)


def _divider(values: Mapping[str, Any]) -> SumResult:
    highest, most = values["highest"], values["most"]
    if highest <= most:
        return SumResult(
            (Figure("at the pin", highest, "V"),),
            warning=("The voltage is not above what the pin may get; no divider is needed."),
        )
    pair = analog_divider(highest, most, 0.0, values["accepts"])
    if pair is None:
        return SumResult((), warning="No pair of resistors is low enough for that converter; allow it a higher source.")
    upper, lower = pair
    out = highest * lower / (upper + lower)
    return SumResult(
        (
            Figure("upper", upper, "Ω"),
            Figure("lower", lower, "Ω"),
            Figure("at the pin, at most", out, "V"),
            Figure("used of what the pin may get", out / most, "1"),
            Figure("source resistance", upper * lower / (upper + lower), "Ω"),
            Figure("draws at most", highest / (upper + lower), "A"),
        ),
        {"kind": "divider", "upper": written(upper, "Ω"), "lower": written(lower, "Ω")},
    )


DIVIDER = SumKind(
    "divider",
    "two resistors that bring a voltage down to what a pin may take",
    "out = in × lower ÷ (upper + lower), the E24 pair nearest below; source = upper ∥ lower",
    "Ohm's law; preferred values IEC 60063",
    (
        quantity("highest", "highest voltage", "that can come", "15 V", "V"),
        quantity("most", "pin at most", "what the pin may get, with room for a supply that is low", "3 V", "V"),
        quantity("accepts", "source at most", "what the converter reads rightly", "10 kΩ", "Ω"),
    ),
    _divider,
)


def _fixed_half(values: Mapping[str, Any]) -> SumResult:
    low, high, supply = values["lowest"], values["highest"], values["supply"]
    if low >= high:
        return SumResult((), warning="The sensor's least resistance must be below its greatest.")
    exact = math.sqrt(low * high)
    ohm = nearest(exact)
    ends = [supply * each / (each + ohm) for each in (low, high)]
    amps = supply / (ohm + low)
    return SumResult(
        (
            Figure("exactly", exact, "Ω"),
            Figure("take", ohm, "Ω"),
            Figure("at the least resistance", ends[0], "V"),
            Figure("at the greatest", ends[1], "V"),
            Figure("used of the supply", (ends[1] - ends[0]) / supply, "1"),
            Figure(
                "heat in the sensor, at most",
                supply * supply / (4 * max(ohm, low)) if low <= ohm <= high else amps * amps * low,
                "W",
            ),
        ),
        resistor(ohm, amps * amps * ohm),
    )


FIXED_HALF = SumKind(
    "fixed half",
    "the fixed resistor in series with a resistive sensor, for the widest swing",
    "R = √(least × greatest resistance): there the two ends of the range lie furthest apart",
    "derivative of the divider's difference between both ends, set to zero; preferred values IEC 60063",
    (
        quantity("lowest", "least resistance", "of the sensor, over its range", "3.3 kΩ", "Ω"),
        quantity("highest", "greatest resistance", "of the sensor, over its range", "33 kΩ", "Ω"),
        quantity("supply", "supply", "of the divider", "3.3 V", "V"),
    ),
    _fixed_half,
)


def _shunt(values: Mapping[str, Any]) -> SumResult:
    exact = values["drop"] / values["current"]
    ohm, _ = around(exact)
    watts = values["current"] ** 2 * ohm
    return SumResult(
        (
            Figure("exactly", exact, "Ω"),
            Figure("take", ohm, "Ω"),
            Figure("drops at that current", ohm * values["current"], "V"),
            Figure("heat in it", watts, "W"),
        ),
        resistor(ohm, watts),
    )


SHUNT = SumKind(
    "shunt",
    "a small resistor that shows a current as a voltage",
    "R = drop ÷ current, the next E24 value below; heat = current² × R",
    "Ohm's law; preferred values IEC 60063",
    (
        quantity("current", "greatest current", "to be measured", "2 A", "A"),
        quantity("drop", "drop at most", "that the load can spare and the converter can read", "100 mV", "V"),
    ),
    _shunt,
)


def _pull_ups(values: Mapping[str, Any]) -> SumResult:
    least = least_pull_up_ohm(values["supply"])
    most = most_pull_up_ohm(values["capacitance"], values["clock"])
    figures = [Figure("at least", least, "Ω"), Figure("at most", most, "Ω")]
    choice = decade_of(least, most) if least <= most else []
    if not choice:
        return SumResult(
            tuple(figures),
            warning=(
                "No resistor is both strong and weak enough: the bus has too much capacitance for that clock. "
                "Shorten its wires or slow it down."
            ),
        )
    # The geometric mean: as far from too strong as from too slow.
    ohm = min(choice, key=lambda each: abs(math.log(each / math.sqrt(least * most))))
    takes = rise_s(ohm, values["capacitance"])
    figures += [
        Figure("take", ohm, "Ω"),
        Figure("rise time", takes, "s"),
        Figure("allowed", rise_limit_s(values["clock"]), "s"),
    ]
    return SumResult(tuple(figures), resistor(ohm, values["supply"] ** 2 / ohm))


PULL_UPS = SumKind(
    "pull-ups",
    "range of the pull-ups of a two-wire bus",
    "(supply − 0.4 V) ÷ 3 mA ≤ R ≤ rise time allowed ÷ (0.8473 × C)",
    "bus standard: sink current, low level and rise times by clock",
    (
        quantity("supply", "supply", "that the lines are pulled up to", "3.3 V", "V", 0.4),
        quantity("capacitance", "capacitance", "of a line: about 10 pF a pin and 100 pF a metre", "60 pF", "F"),
        quantity("clock", "bus clock", "of the bus", "100 kHz", "Hz", highest=1e6),
    ),
    _pull_ups,
)
