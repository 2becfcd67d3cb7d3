"""Pulses and echoes: a wheel counted in a gate on scanned digits; the level of a tank by an echo on two lines."""

from __future__ import annotations

import numpy as np

from lesart.core.notes import DOUBT, FAULT
from lesart.core.step import Step
from tests.mistakes.mistake import REFUSED, Job, Mistake, pulses, vcd
from tests.mistakes.wires import BOARD_5V, digits, face, fed, field, label, wire

WHEEL = Job(
    "wheel",
    """
[sources.wheel]
capture = "wheel.vcd"
format = "vcd"
[sources.wheel.decode]
kind = "gate count"
line = "w"
gate = "1 s"
[channels.turns]
source = "wheel"
column = "count"
part = "beam"
unit = "1/min"
lowest = "0 1/min"
highest = "300 1/min"
[[channels.turns.law]]
kind = "gate rate"
marks = "4"
[channels.turns.fit]
decimals = 0
width = 4
restless = 60
[panels.seg]
kind = "segments"
[panels.seg.scan]
on_time = "2.5 ms"
blanking = "0.1 ms"
wanted = "60 Hz"
"""
    + face("seg", field("turns", redraw="", width="4").replace("redraw = \n", ""))
    + wire(
        {
            "board": 'kind = "large 3.3 V board"',
            "beam": 'kind = "beam counter"',
            "seg": 'kind = "four digits"',
            "r": 'kind = "resistor"\nresistance = "270 Ω"',
            "t": 'kind = "transistor"',
        },
        fed("beam") + "beam.out > board.p4;" + digits("seg", first=9).replace("board.p20", "board.p20"),
    ),
    files={"wheel.vcd": vcd({"w": pulses(list(np.arange(0.05, 20.0, 0.125)), 0.01)}, 20.0)},
)
SLOW = {"wheel.vcd": vcd({"w": pulses(list(np.arange(0.05, 20.0, 0.5)), 0.01)}, 20.0)}
WHEEL_MISTAKES = (
    Mistake(
        "the law has another gate than the decoder",
        Step.LAW,
        FAULT,
        "gate",
        0.25,
        edits=(('marks = "4"', 'marks = "4"\ngate = "250 ms"'),),
    ),
    Mistake(
        "marks forgotten: 480 turns where there are 120",
        Step.LAW,
        FAULT,
        "turns",
        100.0,
        edits=(('marks = "4"', 'marks = "1"'),),
    ),
    Mistake(
        "one pulse is worth sixty turns and the last digit shows one",
        Step.FIT,
        DOUBT,
        "turns",
        1.0,
        edits=(('marks = "4"', 'marks = "1"'), ('highest = "300 1/min"', 'highest = "900 1/min"')),
    ),
    Mistake(
        "digits lit so long that they flicker",
        Step.PACE,
        FAULT,
        "seg",
        1000 / (4 * 8.1),
        edits=(('on_time = "2.5 ms"', 'on_time = "8 ms"'),),
    ),
    Mistake(
        "no dark time between two digits",
        Step.PACE,
        FAULT,
        "blanking",
        0.0,
        edits=(('blanking = "0.1 ms"', 'blanking = "0 ms"'),),
    ),
    Mistake("no resistors before the segments", Step.WIRE, FAULT, "seg", edits=((', through = "r"', ""),)),
    Mistake("digit lines straight on pins", Step.WIRE, FAULT, "seg", edits=((', through = "t"', ""),)),
    Mistake(
        "one pin for two jobs",
        Step.WIRE,
        FAULT,
        "seg",
        edits=(('pin = "seg.a", to = "board.p9"', 'pin = "seg.a", to = "board.p4"'),),
    ),
    Mistake(
        "pulses counted in the busy loop",
        Step.PACE,
        FAULT,
        "turns",
        edits=(
            (
                "[wire]\n",
                '[loop.tasks."count wheel"]\nruns = "in the loop"\n[loop.tasks.log]\nperiod = "1 s"\n'
                'shortest = "400 ms"\n[wire]\n',
            ),
        ),
    ),
    Mistake("three digits for four", Step.FIT, FAULT, "turns", 300.0, edits=(("width = 4\n", "width = 2\n"),)),
    Mistake(
        "a resistor shared in each digit's line",
        Step.WIRE,
        DOUBT,
        "seg",
        edits=((', through = "r"', ""), (', through = "t"', ', through = "r"')),
    ),
    Mistake(
        "the panel is said to be driven direct",
        Step.GLASS,
        FAULT,
        "drive",
        edits=(('[panels.seg]\nkind = "segments"', '[panels.seg]\nkind = "segments"\ndrive = "direct"'),),
    ),
)

ECHO_S = 2 * 0.20 / 343.2
ECHO = Job(
    "echo",
    """
[sources.echo]
capture = "echo.vcd"
format = "vcd"
[sources.echo.decode]
kind = "timer ticks"
line = "e"
of = "high"
clock = "16 MHz"
prescaler = 8
[channels.depth]
source = "echo"
column = "ticks"
part = "ranger"
unit = "cm"
lowest = "2 cm"
highest = "60 cm"
[[channels.depth.law]]
kind = "timer ticks"
[[channels.depth.law]]
kind = "echo"
air = "20 °C"
[channels.depth.fit]
unit_text = "cm"
width = 6
restless = 60
[panels.door]
kind = "characters"
"""
    + face("door", label("depth"), field("depth", column="8"))
    + wire(
        {"board": BOARD_5V, "ranger": 'kind = "echo ranger"'},
        fed("ranger", rail="board.5V") + "ranger.start > board.p1; ranger.echo > board.p4",
    ),
    files={"echo.vcd": vcd({"e": pulses(list(np.arange(0.1, 12.0, 0.1)), ECHO_S)}, 12.0)},
)
ECHO_MISTAKES = (
    Mistake(
        "the law has another prescaler than the timer",
        Step.LAW,
        FAULT,
        "prescaler",
        64,
        edits=(
            (
                'kind = "timer ticks"\n[[channels.depth.law]]',
                'kind = "timer ticks"\nprescaler = 64\n[[channels.depth.law]]',
            ),
        ),
    ),
    Mistake(
        "the law has another clock than the timer",
        Step.LAW,
        FAULT,
        "clock",
        8e6,
        edits=(
            (
                'kind = "timer ticks"\n[[channels.depth.law]]',
                'kind = "timer ticks"\nclock = "8 MHz"\n[[channels.depth.law]]',
            ),
        ),
    ),
    Mistake(
        "not halved, beyond what the tank is deep",
        Step.LAW,
        FAULT,
        "depth",
        100.0,
        edits=(('air = "20 °C"', 'air = "20 °C"\npath = "1"'), ('highest = "60 cm"', 'highest = "35 cm"')),
    ),
    Mistake(
        "an offset taken off that is larger than the depth",
        Step.LAW,
        FAULT,
        "depth",
        100.0,
        edits=(('air = "20 °C"', 'air = "20 °C"\noffset = "-300 mm"'),),
    ),
    Mistake(
        "a timer that wraps before the echo is back",
        Step.RAW,
        FAULT,
        "depth",
        119.0,
        edits=(("prescaler = 8", "prescaler = 8\nbits = 11"),),
    ),
    Mistake(
        "pulse width in seconds led into ticks",
        REFUSED,
        REFUSED,
        "channels.depth",
        edits=(('unit = "cm"', 'raw_unit = "s"\nunit = "cm"'),),
    ),
    Mistake(
        "centimetres called millimetres",
        Step.FIT,
        FAULT,
        "unit_text",
        edits=(('unit_text = "cm"', 'unit_text = "mm"'),),
    ),
    Mistake("a weak plug", Step.WIRE, FAULT, "board", None, edits=((BOARD_5V, BOARD_5V + '\nplug = "40 mA"'),)),
    Mistake(
        "the echo on a pin that cannot time it",
        Step.WIRE,
        FAULT,
        "ranger",
        edits=(('to = "board.p4"', 'to = "board.p12"'),),
    ),
    Mistake(
        "5 V echo into a 3.3 V board", Step.WIRE, FAULT, "ranger", 5.0, edits=((BOARD_5V, 'kind = "3.3 V board"'),)
    ),
    Mistake(
        "the field runs off the display", Step.GLASS, FAULT, "column", None, edits=(("column = 8", "column = 13"),)
    ),
)
