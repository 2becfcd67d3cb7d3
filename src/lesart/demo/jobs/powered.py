"""A panel with a picture beside its values, fed by a cell through a step-up."""

from __future__ import annotations

import numpy as np

from lesart.demo.jobs.job import Job
from lesart.demo.jobs.pieces import BOARD_3V3, CSV, channel, face, fed, field, label, wire

T = np.arange(0.0, 300.0, 5.0)


def is_moon(row: int, column: int) -> bool:
    """A crescent of 48×50: in one disc, and not in another."""
    return (column - 23) ** 2 + (row - 24) ** 2 < 23**2 and (column - 32) ** 2 + (row - 20) ** 2 > 20**2


MOON = "P1\n48 50\n" + "".join(
    " ".join("0" if is_moon(row, column) else "1" for column in range(48)) + "\n" for row in range(50)
)

MOONLIGHT = Job(
    "moonlight",
    CSV.replace("header = 1", 'header = 1\nleast_interval = "4 s"')
    + channel("night", "°C", "-20", "40", "x", raw_unit='"°C"', part='"air"')
    + """[channels.night.fit]
decimals = 0
unit_text = "°C"
stale_after = "20 s"
width = 6
restless = 60
[panels.lid]
kind = "pixels"
bus = "four-wire"
clock = "8 MHz"
[pictures.moon]
file = "moon.pbm"
[sums.cell]
kind = "battery hours"
asleep = "0.1 mA"
awake_share = "1/1000"
wanted = "2 d"
"""
    + face(
        "lid",
        'kind = "picture"\npicture = "moon"\nrow = 7\n',
        label("NIGHT", column="60"),
        field("night", row="16", column="60"),
    )
    + wire(
        {
            "board": BOARD_3V3,
            "cell": 'kind = "battery"\nvoltage = "3.7 V"\ncapacity = "1 Ah"\ncurrent = "2 A"',
            "up": 'kind = "step-up"\nvoltage = "5 V"\nefficiency = "85 %"',
            "air": 'kind = "two-wire module"',
            "lid": 'kind = "four-wire pixel display"',
        },
        "cell.+ > up.in; cell.− > up.gnd; up.out > board.in; up.gnd > board.gnd;"
        + fed("air", "lid")
        + "air.clock > board.p16; air.data > board.p15; lid.clock > board.p10; lid.data > board.p11;"
        "lid.reset > board.p1; lid.dc > board.p2; lid.select > board.p3",
    ),
    {"t": T, "x": [float(round(12 + 3 * each)) for each in np.sin(T / 40)]},
    {"moon.pbm": MOON},
    title="a night thermometer with a picture, from one cell through a step-up",
    tells=(
        "It sleeps nearly all the time and must last two days. The battery is stated once, and the hours follow from "
        "what each part takes, the step-up's losses and how long it is awake."
    ),
    tries=(
        "check .",
        "glass . lid",
        "pace . --for 10s",
    ),
)
