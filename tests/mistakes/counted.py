"""Pulses and echoes: a wheel counted in a gate on scanned digits; the level of a tank by an echo on two lines."""

from __future__ import annotations

import numpy as np

from lesart.core.notes import DOUBT, FAULT
from lesart.core.step import Step
from lesart.demo.jobs.job import pulses, vcd
from lesart.demo.jobs.pieces import BOARD_5V
from tests.mistakes.mistake import REFUSED, Mistake

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
