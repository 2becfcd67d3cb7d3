"""A thermistor as half of a divider, and a chip that counts."""

from __future__ import annotations

from lesart.core.notes import DOUBT, FAULT, REMARK
from lesart.core.step import Step
from tests.mistakes.mistake import REFUSED, Mistake, column

LAW_2 = 'part = "fix"\n'

HUT_MISTAKES = (
    Mistake(
        "the law's supply is another than the rail",
        Step.LAW,
        FAULT,
        "supply",
        3.3,
        edits=((LAW_2, LAW_2 + 'supply = "3.3 V"\n'),),
    ),
    Mistake(
        "the sensor is said to be on the other side",
        Step.LAW,
        FAULT,
        "sensor",
        edits=((LAW_2, LAW_2 + 'sensor = "to supply"\n'),),
    ),
    Mistake(
        "twelve bits stated of a converter of ten",
        Step.LAW,
        FAULT,
        "bits",
        12,
        edits=(("bits = 10\n[[", "bits = 12\n[["),),
    ),
    Mistake(
        "a reference that is not the board's",
        Step.LAW,
        DOUBT,
        "reference",
        3.3,
        edits=(("bits = 10\n[[", 'bits = 10\nreference = "3.3 V"\n[['),),
    ),
    Mistake(
        "another resistance printed on the thermistor",
        Step.LAW,
        FAULT,
        "resistance",
        100e3,
        edits=(('kind = "thermistor by beta"', 'kind = "thermistor by beta"\nresistance = "100 kΩ"'),),
    ),
    Mistake(
        "decimals that no count can tell apart",
        Step.FIT,
        DOUBT,
        "decimals",
        0.01,
        edits=(("decimals = 0", "decimals = 2"),),
    ),
    Mistake(
        "the sensor fell off: the converter stands at its end",
        Step.LAW,
        DOUBT,
        "room",
        None,
        columns=column("raw", lambda raw: [*raw[:60], *[1023.0] * (len(raw) - 60)]),
    ),
    Mistake(
        "a spike averaged in",
        Step.LAW,
        DOUBT,
        "outside",
        None,
        columns=column("raw", lambda raw: [*raw[:60], 960.0, *raw[61:]]),
    ),
    Mistake(
        "celsius behind a number in fahrenheit",
        Step.FIT,
        FAULT,
        "unit_text",
        edits=(('unit_text = "°F"', 'unit_text = "°C"'),),
    ),
    Mistake(
        "the tap led to a pin that only knows high and low",
        Step.WIRE,
        FAULT,
        "ntc",
        edits=(('pin = "ntc.1", to = "board.a1"', 'pin = "ntc.1", to = "board.p3"'),),
    ),
    Mistake(
        "the fixed resistor forgotten",
        Step.LAW,
        DOUBT,
        "part",
        edits=(('  { pin = "board.a1", to = "board.5V", through = "fix" },\n', ""),),
    ),
    Mistake(
        "the field off the end of its row", Step.GLASS, FAULT, "column", None, edits=(("column = 8", "column = 12"),)
    ),
)


def in_steps(step: int) -> object:
    return column("raw", lambda raw: [float(round(each / step) * step) for each in raw])


CHIP_MISTAKES = (
    Mistake("twelve bits read as sixteen", Step.RAW, DOUBT, "bits", 16.0, columns=in_steps(16)),  # type: ignore[arg-type]
    Mistake(
        "decimals finer than twelve bits in sixteen",
        Step.FIT,
        DOUBT,
        "decimals",
        0.1,
        edits=(("decimals = 0", "decimals = 1"),),
        columns=in_steps(16),
    ),  # type: ignore[arg-type]
    Mistake("the width stated too small", Step.LAW, DOUBT, "chip", 120.0, edits=(("bits = 16", "bits = 12"),)),
    Mistake(
        "the slope's sign forgotten",
        Step.FIT,
        DOUBT,
        "chip",
        None,
        edits=(("-1.7 mV/°C", "1.7 mV/°C"), ("± 1 %", "± 9 %")),
    ),
    Mistake(
        "millivolts written as volts",
        Step.LAW,
        FAULT,
        "chip",
        100.0,
        edits=(('slope = "-1.7 mV/°C"', 'slope = "-1.7 V/°C"'), ('output = "25 °C"', 'output = "95 °C"')),
    ),
    Mistake("the reference assumed", Step.LAW, REMARK, "reference", edits=(("3.3 V ± 1 %", "3.3 V"),)),
    Mistake(
        "the value stands still", Step.RAW, DOUBT, "chip", 120.0, columns=column("raw", lambda raw: [13900.0] * 120)
    ),
    Mistake(
        "every bit set now and then",
        Step.RAW,
        DOUBT,
        "chip",
        12.0,
        columns=column("raw", lambda raw: [65_535.0 if place % 10 == 3 else x for place, x in enumerate(raw)]),
    ),
    Mistake(
        "no bit set now and then",
        Step.RAW,
        DOUBT,
        "chip",
        12.0,
        columns=column("raw", lambda raw: [0.0 if place % 10 == 3 else x for place, x in enumerate(raw)]),
    ),
    Mistake(
        "kilograms for degrees", REFUSED, REFUSED, "channels.chip", edits=(('output = "25 °C"', 'output = "25 kg"'),)
    ),
    Mistake("an item over the other", Step.GLASS, FAULT, "lid", None, edits=(("row = 30", "row = 4"),)),
)
