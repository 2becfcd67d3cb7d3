"""A thermistor as half of a divider, and a chip that counts."""

from __future__ import annotations

import numpy as np

from lesart.demo.jobs.job import Job
from lesart.demo.jobs.pieces import BOARD_5V, CSV, channel, face, field, label, wire

T = np.arange(0.0, 60.0, 0.5)

WAVE = np.sin(T / 9)


def counts(values: object) -> list[float]:
    return [float(round(each)) for each in np.asarray(values, np.float64)]


def ntc_counts(celsius: object, *, top: int = 1024) -> list[float]:
    """10 kΩ at 25 °C with β 3950 K to ground, 10 kΩ to the reference."""
    ohm = 10_000 * np.exp(3950 * (1 / (np.asarray(celsius, np.float64) + 273.15) - 1 / 298.15))
    return counts(top * ohm / (ohm + 10_000))


HUT = Job(
    "hut",
    CSV
    + channel("room", "°C", "-10", "50", "raw", part='"ntc"')
    + """[[channels.room.law]]
kind = "converter"
bits = 10
[[channels.room.law]]
kind = "half of a divider"
part = "fix"
[[channels.room.law]]
kind = "thermistor by beta"
[[channels.room.calm]]
kind = "mean"
samples = 4
[channels.room.fit]
unit_text = "°C"
width = 7
decimals = 0
restless = 60
[panels.door]
kind = "characters"
"""
    + face(
        "door", label("hut"), field("room", row="1"), field("room", row="1", column="8", unit='"°F"', unit_text='"°F"')
    )
    + wire(
        {
            "board": BOARD_5V + "\nconverter_bits = 10",
            "ntc": 'kind = "thermistor"',
            "fix": 'kind = "resistor"\nresistance = "10 kΩ"\ntolerance = "1 %"',
        },
        "ntc.1 > board.a1; ntc.2 > board.gnd; board.a1 > board.5V through fix",
    ),
    {"t": T, "raw": ntc_counts(22 + 3 * WAVE)},
    title="a thermistor half on a 10-bit converter, in °C and °F",
    tells=(
        "Count to volts to ohms to kelvin. Supply and reference are the board's rail, so they cancel; the fixed "
        "half and the thermistor's own values are taken from the parts that are wired. One channel has two "
        "fields, each in its own unit."
    ),
    tries=(
        "hand . room --raw 512",
        "hand . room --raw 512 --sure",
        "fit . room",
        "hand . room --raw 512 --firmware",
    ),
)

CHIP = Job(
    "chip",
    CSV
    + channel("chip", "°C", "-20", "85", "raw")
    + """[[channels.chip.law]]
kind = "converter"
bits = 16
reference = "3.3 V ± 1 %"
[[channels.chip.law]]
kind = "linear"
input = "700 mV"
output = "25 °C"
slope = "-1.7 mV/°C"
[channels.chip.fit]
decimals = 0
unit_text = "°C"
width = 7
restless = 60
[panels.lid]
kind = "pixels"
"""
    + face("lid", field("chip", font='"text 10"'), label("chip", row="30")),
    {"t": T, "raw": counts((0.7 - 0.0017 * (WAVE * 8)) / 3.3 * 65536)},
    title="a chip's own temperature from 1.7 mV a kelvin, in 16 bits",
    tells=(
        "The slope is small beside the reference: the whole range is one code in twenty, and 1 % of reference is "
        "4 °C. One known temperature in True takes most of that away."
    ),
    tries=(
        "hand . chip --raw 13902 --sure",
        "check .",
    ),
)
