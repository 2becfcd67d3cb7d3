"""A panel with a picture beside its values, fed by a cell through a step-up."""

from __future__ import annotations

import numpy as np

from lesart.core.notes import DOUBT, FAULT
from lesart.core.step import Step
from tests.mistakes.mistake import Job, Mistake
from tests.mistakes.wires import BOARD_3V3, CSV, channel, face, fed, field, label, wire

T = np.arange(0.0, 300.0, 5.0)
MOON = "P1\n48 50\n" + ("1 0 " * 24 + "\n") * 50

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
)
MOONLIGHT_MISTAKES = (
    Mistake(
        "the cell straight on an input that wants 5 V",
        Step.WIRE,
        FAULT,
        "board",
        None,
        edits=(('pin = "up.out", to = "board.in"', 'pin = "cell.+", to = "board.in"'),),
    ),
    Mistake(
        "the step-up feeds nothing",
        Step.WIRE,
        DOUBT,
        "up",
        None,
        edits=(('  { pin = "up.out", to = "board.in" },\n', ""),),
    ),
    Mistake(
        "another capacity in the sum than printed",
        Step.WIRE,
        FAULT,
        "capacity",
        2.0,
        edits=(('kind = "battery hours"', 'kind = "battery hours"\ncapacity = "2 Ah"'),),
    ),
    Mistake(
        "another capacity in Pace than printed",
        Step.PACE,
        FAULT,
        "capacity",
        2200.0,
        edits=(("[sums.cell]", '[loop]\ncapacity = "2200 mAh"\n[sums.cell]'),),
    ),
    Mistake(
        "all of the charge counted on",
        Step.PACE,
        FAULT,
        "usable",
        100.0,
        edits=(("[sums.cell]", '[loop]\nusable = "100 %"\n[sums.cell]'),),
    ),
    Mistake(
        "awake too long for the time that is wanted",
        Step.WIRE,
        DOUBT,
        "cell",
        None,
        edits=(('awake_share = "1/1000"', 'awake_share = "1/2"'),),
    ),
    Mistake(
        "read sooner than the sensor allows",
        Step.PACE,
        FAULT,
        "read log",
        5.0,
        edits=(('least_interval = "4 s"', 'least_interval = "6 s"'),),
    ),
    Mistake(
        "the picture over the number",
        Step.GLASS,
        FAULT,
        "lid",
        None,
        edits=(("row = 16\ncolumn = 60", "row = 16\ncolumn = 20"),),
    ),
    Mistake("the picture cut at the foot", Step.GLASS, FAULT, "lid", None, edits=(("row = 7", "row = 20"),)),
    Mistake(
        "select left open", Step.WIRE, FAULT, "lid", 1.0, edits=(('  { pin = "lid.select", to = "board.p3" },\n', ""),)
    ),
    Mistake(
        "the wires of two roles on one pin",
        Step.WIRE,
        FAULT,
        "lid",
        edits=(('pin = "lid.dc", to = "board.p2"', 'pin = "lid.dc", to = "board.p1"'),),
    ),
    Mistake(
        "stale between two readings",
        Step.PACE,
        DOUBT,
        "night",
        None,
        edits=(('stale_after = "20 s"', 'stale_after = "4 s"'),),
    ),
)
