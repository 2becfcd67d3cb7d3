"""Sums beyond single resistors: a display's contrast, battery life, filters before a converter and a contact."""

from __future__ import annotations

import math
from collections.abc import Mapping
from typing import Any

from lesart.core.parameters import Parameter
from lesart.core.quantity import plain_number
from lesart.core.wire.entry import written
from lesart.core.wire.preferred import E6, E12, around
from lesart.core.wire.sums.record import Figure, SumKind, SumResult, quantity


def _contrast(values: Mapping[str, Any]) -> SumResult:
    supply, drive, ohm = values["supply"], values["drive"], values["resistance"]
    at_pin = supply - drive
    figures = (Figure("at the contrast pin", at_pin, "V"),)
    if at_pin < 0:
        return SumResult(
            figures,
            warning=(
                f"The glass needs {drive:g} V and the supply gives {supply:g} V: the contrast pin would have to be "
                "below ground. Use a display for that supply, or give the pin a negative voltage."
            ),
        )
    turned = drive / supply
    return SumResult(
        (*figures, Figure("turned from the supply's end", turned, "1"), Figure("draws", supply / ohm, "A")),
        {"kind": "potentiometer", "resistance": written(ohm, "Ω"), "turned": f"{turned * 100:.0f} %"},
    )


CONTRAST = SumKind(
    "contrast",
    "where the contrast potentiometer of a character display stands",
    "voltage at the pin = supply − drive voltage of the glass; turned = drive ÷ supply",
    "divider of a potentiometer between supply and ground",
    (
        quantity("supply", "supply", "of the display", "5 V", "V"),
        quantity("drive", "drive voltage", "between supply and contrast pin, from the display's sheet", "4.3 V", "V"),
        quantity("resistance", "potentiometer", "from end to end", "10 kΩ", "Ω"),
    ),
    _contrast,
)


def _battery(values: Mapping[str, Any]) -> SumResult:
    share = values["awake_share"]
    mean = values["awake"] * share + values["asleep"] * (1 - share)
    usable = values["usable"] / 100
    lasts_h = values["capacity"] * usable / mean
    needed = mean * values["wanted"] / 3600 / usable
    figures = (
        Figure("mean current", mean, "A"),
        Figure("lasts", lasts_h * 3600, "s"),
        Figure("capacity for the time wanted", needed, "Ah"),
    )
    warning = ""
    if lasts_h * 3600 < values["wanted"]:
        short = values["wanted"] / 3600 - lasts_h
        warning = (
            f"It is empty {plain_number(short, 3)} h too early; sleep longer, or use {plain_number(needed, 3)} Ah."
        )
    part = {
        "kind": "battery",
        "voltage": written(values["voltage"], "V"),
        "usable": f"{values['usable']:g} %",
        "capacity": f"{values['capacity']:g} Ah",
    }
    return SumResult(figures, part, warning)


BATTERY = SumKind(
    "battery hours",
    "how long a battery lasts with sleep between readings",
    "mean = awake × share + asleep × (1 − share); hours = capacity × usable ÷ mean",
    "charge = current × time",
    (
        quantity("capacity", "capacity", "as printed on it", "2 Ah", "Ah"),
        quantity("usable", "usable", "share that cold and age leave", "80 %", "%", 1, 100, above=False),
        quantity("voltage", "voltage", "while it is used", "3.7 V", "V"),
        quantity("awake", "awake", "current while it works", "60 mA", "A"),
        quantity("asleep", "asleep", "current while it sleeps", "50 µA", "A", above=False),
        quantity("awake_share", "share awake", "of the time", "1/60", "1", highest=1),
        quantity("wanted", "wanted", "time until it is charged again", "30 d", "s"),
    ),
    _battery,
)


def _anti_alias(values: Mapping[str, Any]) -> SumResult:
    rate, band, ohm = values["rate"], values["band"], values["resistance"]
    if band * 2 >= rate:
        said = (
            f"A signal up to {plain_number(band)} Hz needs more than {plain_number(2 * band)} samples "
            "a second; no filter mends that."
        )
        return SumResult((), warning=said)
    # Twice the band keeps about nine tenths of it; a lower corner attenuates more of the aliases and of the signal.
    wanted_hz = 2 * band
    _, farad = around(1 / (2 * math.pi * ohm * wanted_hz), E12)
    corner = 1 / (2 * math.pi * ohm * farad)

    def passed(hertz: float) -> float:
        return 1 / math.sqrt(1 + (hertz / corner) ** 2)

    figures = (
        Figure("take", farad, "F"),
        Figure("corner", corner, "Hz"),
        Figure("left at the band's end", passed(band), "1"),
        Figure("left at half the rate", passed(rate / 2), "1"),
        Figure("left of what folds into the band", passed(rate - band), "1"),
        Figure("settles to 1 % in", 4.6052 * ohm * farad, "s"),
    )
    part = {"kind": "filter", "resistance": written(ohm, "Ω"), "capacitance": written(farad, "F")}
    return SumResult(figures, part)


ANTI_ALIAS = SumKind(
    "anti-alias filter",
    "resistor and capacitor before a converter, against what would fold into the signal",
    "corner = 1 ÷ (2π R C), set to twice the band; left = 1 ÷ √(1 + (f ÷ corner)²)",
    "first-order low-pass; sampling theorem; preferred values IEC 60063",
    (
        quantity("rate", "sample rate", "of the converter", "1 kHz", "Hz"),
        quantity("band", "signal up to", "highest frequency that counts", "10 Hz", "Hz"),
        quantity("resistance", "resistor", "in the line; the converter's source limit is the most", "10 kΩ", "Ω"),
    ),
    _anti_alias,
)


def _debounce(values: Mapping[str, Any]) -> SumResult:
    ohm, bounce, high = values["resistance"], values["bounce"], values["high"] / 100
    factor = math.log(1 / (1 - high))
    _, farad = around(bounce / (ohm * factor), E6)
    return SumResult(
        (
            Figure("take", farad, "F"),
            Figure("time constant", ohm * farad, "s"),
            Figure("read as open after", ohm * farad * factor, "s"),
        ),
        {"kind": "filter", "resistance": written(ohm, "Ω"), "capacitance": written(farad, "F")},
    )


DEBOUNCE = SumKind(
    "debounce",
    "resistor and capacitor at a contact, against its bouncing",
    "C = bounce time ÷ (R × ln(1 ÷ (1 − share read as high))), the next E6 value above",
    "charging of a capacitor through a resistor; preferred values IEC 60063",
    (
        quantity("bounce", "bounces for", "at most", "10 ms", "s"),
        quantity("resistance", "resistor", "that charges it", "10 kΩ", "Ω"),
        Parameter(
            "high", "read as high from", "quantity", "share of the supply", "70 %", unit="%", lowest=1, highest=99
        ),
    ),
    _debounce,
)
