"""A sensor in millivolts a kelvin, the pressure of the air, an alarm on smoke."""

from __future__ import annotations

import numpy as np

from lesart.core.notes import DOUBT, FAULT
from lesart.core.step import Step
from lesart.demo.jobs.heat_and_height import T, hot
from tests.mistakes.mistake import REFUSED, Mistake, column

GATE_MISTAKES = (
    Mistake("273.15 forgotten", Step.LAW, FAULT, "heat", 100.0, edits=(('output = "0 K"', 'output = "0 °C"'),)),
    Mistake("taken off twice", Step.LAW, FAULT, "heat", 100.0, edits=(('output = "0 K"', 'output = "-273.15 K"'),)),
    Mistake(
        "3.3 V taken for a reference of 5 V", Step.LAW, DOUBT, "reference", 3.3, edits=(("5 V ± 1 %", "3.3 V ± 1 %"),)
    ),
    Mistake(
        "decimals on one digit that no count resolves",
        Step.FIT,
        DOUBT,
        "decimals",
        0.1,
        edits=(("decimals = 0\nwidth = 2", "decimals = 1\nwidth = 4"),),
    ),
    Mistake(
        "a value of three digits in two cells",
        Step.FIT,
        FAULT,
        "heat",
        120.0,
        edits=(('highest = "99 °C"', 'highest = "120 °C"'),),
    ),
    Mistake("a minus in no cell", Step.FIT, FAULT, "heat", -20.0, edits=(('lowest = "0 °C"', 'lowest = "-20 °C"'),)),
    Mistake(
        "all at once on one digit",
        Step.GLASS,
        FAULT,
        "one",
        None,
        edits=(('moves = "digits in turn"', 'moves = "stands"'),),
    ),
    Mistake(
        "the sensor not fed", Step.WIRE, FAULT, "warm", edits=(('  { pin = "warm.supply", to = "board.5V" },\n', ""),)
    ),
    Mistake("no common ground", Step.WIRE, FAULT, "warm", edits=(('  { pin = "warm.gnd", to = "board.gnd" },\n', ""),)),
    Mistake(
        "volts shown as kelvin",
        REFUSED,
        REFUSED,
        "channels.heat",
        edits=(('[[channels.heat.law]]\nkind = "linear"\ninput = "0 V"\noutput = "0 K"\nslope = "10 mV/K"\n', ""),),
    ),
    Mistake(
        "a mean so long that the finger is gone",
        Step.CALM,
        DOUBT,
        "heat",
        15.75,
        edits=(("samples = 4", "samples = 64"), ('highest = "99 °C"', 'highest = "99 °C"\nmost_lag = "2 s"')),
    ),
)


def lifted(factor: float) -> object:
    return column("p", lambda p: [float(each * factor) for each in p])


BAROMETER_MISTAKES = (
    Mistake(
        "pascals taken as hectopascals",
        Step.LAW,
        FAULT,
        "air",
        100.0,
        edits=(('highest = "1100 hPa"\nraw_unit = "Pa"', 'highest = "1100 hPa"\nraw_unit = "hPa"'),),
    ),
    Mistake(
        "pascals shown, hectopascals written behind",
        Step.FIT,
        FAULT,
        "unit_text",
        edits=(('unit_text = "hPa"', 'unit_text = "hPa"\nunit = "Pa"'),),
    ),
    Mistake(
        "degrees written behind a pressure",
        Step.FIT,
        FAULT,
        "unit_text",
        edits=(('unit_text = "hPa"', 'unit_text = "°C"'),),
    ),
    Mistake("a label of another unit", Step.GLASS, FAULT, "lid", edits=(('text = "m"', 'text = "km"'),)),
    Mistake(
        "hectopascals fed to a height in pascals",
        Step.LAW,
        DOUBT,
        "height",
        120.0,
        edits=(('highest = "3000 m"\nraw_unit = "Pa"', 'highest = "3000 m"\nraw_unit = "hPa"'),),
    ),
    Mistake(
        "a header's unit believed",
        Step.LAW,
        DOUBT,
        "raw_unit",
        None,
        edits=(
            (
                'lowest = "300 hPa"\nhighest = "1100 hPa"\nraw_unit = "Pa"',
                'lowest = "90000 hPa"\nhighest = "99000 hPa"\nraw_unit = "hPa"',
            ),
            ('unit_text = "hPa"', 'unit_text = ""'),
        ),
    ),
    Mistake(
        "centimetres of height from a sea level nobody knows",
        Step.FIT,
        DOUBT,
        "height",
        None,
        edits=(("decimals = 0\nwidth = 6", "decimals = 2\nwidth = 9"), ("± 1 hPa", "± 10 hPa")),
    ),
    Mistake(
        "a sensor that gives zero now and then",
        Step.LAW,
        FAULT,
        "air",
        None,
        columns=column("p", lambda p: [0.0 if place % 12 == 5 else x for place, x in enumerate(p)]),
    ),
    Mistake(
        "a pressure called a length",
        REFUSED,
        REFUSED,
        "channels.air",
        edits=(('highest = "1100 hPa"\nraw_unit = "Pa"', 'highest = "1100 hPa"\nraw_unit = "m"'),),
    ),
    Mistake(
        "letters the font has not",
        Step.GLASS,
        DOUBT,
        "lid",
        None,
        edits=(('channel = "air"', 'channel = "air"\nfont = "numerals 14"\ninvalid = "??"'),),
    ),
    Mistake("drawn over the edge", Step.GLASS, FAULT, "lid", None, edits=(("row = 40", "row = 62"),)),
)

RESTLESS = np.random.default_rng(2).normal(0, 4, len(T))

OVEN_MISTAKES = (
    Mistake(
        "an alarm that chatters",
        Step.CALM,
        DOUBT,
        "hysteresis",
        None,
        edits=(('hysteresis = "2 °C"', 'hysteresis = "0 °C"'), ('limit = "30 °C"', 'limit = "24.4 °C"')),
        columns=column("raw", lambda raw: [float(round(100 + each)) for each in RESTLESS]),
    ),
    Mistake(
        "a last digit that never rests",
        Step.FIT,
        DOUBT,
        "restless",
        None,
        edits=(("restless = 60", "restless = 5"),),
        columns=column("raw", lambda raw: [float(round(100 + each)) for each in RESTLESS]),
    ),
    Mistake(
        "decimals a count cannot give", Step.FIT, DOUBT, "decimals", 0.1, edits=(("decimals = 0", "decimals = 1"),)
    ),
    Mistake("a buzzer straight on a pin", Step.WIRE, FAULT, "horn", 0.03, edits=((', through = "t"', ""),)),
    Mistake(
        "fahrenheit taken for celsius by the slope",
        Step.LAW,
        FAULT,
        "smoke",
        None,
        edits=(('slope = "20 mV/°C"', 'slope = "2 mV/°C"'),),
    ),
    Mistake(
        "a spike thrown in",
        Step.LAW,
        DOUBT,
        "smoke",
        None,
        columns=column("raw", lambda raw: hot(50)),
        edits=(('highest = "110 °C"', 'highest = "60 °C"'),),
    ),
    Mistake(
        "a sensor that stands still", Step.RAW, DOUBT, "smoke", 120.0, columns=column("raw", lambda raw: [100.0] * 120)
    ),
    Mistake(
        "minus where there is no cell",
        Step.FIT,
        FAULT,
        "smoke",
        -120.0,
        edits=(('lowest = "0 °C"', 'lowest = "-120 °C"'), ("width = 6", "width = 5")),
    ),
    Mistake("the reading behind the edge", Step.GLASS, FAULT, "column", None, edits=(("column = 9", "column = 12"),)),
    Mistake(
        "a reading written over a longer one as it comes",
        Step.GLASS,
        FAULT,
        "door",
        None,
        edits=(
            ('[faces.door]\npanel = "door"', '[faces.door]\npanel = "door"\nwrites = "over, as it comes"'),
            ("width = 6", 'width = 6\nalign = "left"'),
        ),
    ),
    Mistake(
        "the display cleared twenty times a second",
        Step.PACE,
        DOUBT,
        "door",
        None,
        edits=(
            (
                '[faces.door]\npanel = "door"',
                '[faces.door]\npanel = "door"\nwrites = "cleared first"\nredraw = "20 Hz"',
            ),
        ),
    ),
)
