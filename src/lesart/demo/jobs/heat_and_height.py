"""A sensor in millivolts a kelvin, the pressure of the air, an alarm on smoke."""

from __future__ import annotations

from collections.abc import Sequence

import numpy as np

from lesart.demo.jobs.job import Job
from lesart.demo.jobs.pieces import BOARD_5V, CSV, channel, face, fed, field, label, wire

T = np.arange(0.0, 60.0, 0.5)

WAVE = np.sin(T / 9)


def counts(values: object) -> list[float]:
    return [float(round(each)) for each in np.asarray(values, np.float64)]


GATE = Job(
    "gate lamp",
    CSV
    + channel("heat", "°C", "0", "99", "raw", part='"warm"')
    + """[[channels.heat.law]]
kind = "converter"
bits = 10
reference = "5 V ± 1 %"
[[channels.heat.law]]
kind = "linear"
input = "0 V"
output = "0 K"
slope = "10 mV/K"
[[channels.heat.calm]]
kind = "mean"
samples = 4
[channels.heat.fit]
decimals = 0
width = 2
restless = 60
[panels.one]
kind = "segments"
digits = 1
drive = "direct"
"""
    + face(
        "one", field("heat", moves='"digits in turn"', step_time='"0.6 s"', gap_time='"0.2 s"', pause_time='"1.5 s"')
    )
    + wire({"board": BOARD_5V, "warm": 'kind = "analog sensor"'}, fed("warm", rail="board.5V") + "warm.out > board.a1"),
    {"t": T, "raw": counts((296 + 3 * WAVE) * 0.010 / 5 * 1024)},
    title="ten millivolts a kelvin on one digit that shows its digits in turn",
    tells=(
        "273.15 is subtracted by units, not by hand: the law gives kelvin, the channel is in °C. A single digit "
        "shows a number of two, one after the other, with a pause."
    ),
    tries=(
        "hand . heat --raw 606",
        "glass . one --at 1",
        "pace . --for 3s",
    ),
)

BAROMETER = Job(
    "barometer",
    CSV
    + channel("air", "hPa", "300", "1100", "p", raw_unit='"Pa"')
    + '[channels.air.fit]\ndecimals = 0\nunit_text = "hPa"\nwidth = 8\nrestless = 60\n'
    + channel("height", "m", "-100", "3000", "p", raw_unit='"Pa"')
    + """[[channels.height.law]]
kind = "altitude"
sea_level = "1013 hPa ± 1 hPa"
[[channels.height.calm]]
kind = "mean"
samples = 4
[channels.height.fit]
decimals = 0
width = 6
restless = 60
[panels.lid]
kind = "pixels"
"""
    + face("lid", field("air"), field("height", row="20"), label("m", row="40")),
    {"t": T, "p": [float(round(98_000 + 40 * each)) for each in WAVE]},
    title="pressure in hectopascals, and the height that belongs to it",
    tells=(
        "The sensor gives pascals; the channel is in hectopascals, and the unit after the number is checked "
        "against it. Height follows from pressure and a guess at that of sea level: 1 hPa there is 8 m here."
    ),
    tries=(
        "hand . air --raw 98000",
        "hand . height --raw 98000 --sure",
        "glass . lid",
    ),
)


def hot(*at: int) -> Sequence[float]:
    return [float(round(100 + 2 * each)) if place not in at else 400.0 for place, each in enumerate(WAVE)]


OVEN = Job(
    "smoke shed",
    CSV
    + channel("smoke", "°C", "0", "110", "raw", part='"warm"')
    + """[[channels.smoke.law]]
kind = "converter"
bits = 10
reference = "5 V ± 1 %"
[[channels.smoke.law]]
kind = "linear"
input = "0 V"
output = "0 °C"
slope = "20 mV/°C"
[[channels.smoke.alarms]]
name = "hot"
side = "above"
limit = "30 °C"
hysteresis = "2 °C"
[channels.smoke.fit]
decimals = 0
unit_text = "°C"
width = 6
restless = 60
[panels.door]
kind = "characters"
"""
    + face("door", label("smoke"), field("smoke", column="9"))
    + wire(
        {"board": BOARD_5V, "warm": 'kind = "analog sensor"', "horn": 'kind = "buzzer"', "t": 'kind = "transistor"'},
        fed("warm", rail="board.5V") + "warm.out > board.a1; horn.+ > board.p5 through t; horn.− > board.gnd",
    ),
    {"t": T, "raw": hot()},
    title="an alarm above 30 °C in a smoke shed, with a buzzer",
    tells=(
        "An alarm has a limit and a hysteresis, or it chatters. The buzzer takes more than a pin may give, so a "
        "transistor drives it."
    ),
    tries=(
        "hand . smoke --raw 123",
        "check .",
        "wire .",
    ),
)
