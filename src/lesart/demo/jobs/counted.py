"""Pulses and echoes: a wheel counted in a gate on scanned digits; the level of a tank by an echo on two lines."""

from __future__ import annotations

import numpy as np

from lesart.demo.jobs.job import Job, pulses, vcd
from lesart.demo.jobs.pieces import BOARD_5V, digits, face, fed, field, label, wire

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
    title="a wheel's turns, counted in a gate, on four scanned digits",
    tells=(
        "A beam is cut four times a turn; pulses are counted for one second. Four marks and one second make 15 "
        "turns per minute of a single count, so the last digit stands still or jumps: the note in Fit says so. "
        "Count longer, or time the gap between pulses, and it is steady."
    ),
    tries=(
        "hand . turns --raw 8",
        'decode wheel.vcd --as "gate count" --line w',
        "pace . --for 2s",
    ),
)

SOUND_M_S = 343.2
"""In dry air at 20 °C."""


def echoes() -> list[tuple[float, int]]:
    """The way there and back while syrup is drawn, ten times a second: from 20 cm on, by 0.8 mm a second."""
    line: list[tuple[float, int]] = [(0.0, 0)]
    for t in np.arange(0.1, 12.0, 0.1):
        depth_m = 0.20 + 0.0008 * float(t)
        line += [(float(t), 1), (float(t) + 2 * depth_m / SOUND_M_S, 0)]
    return line


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
    files={"echo.vcd": vcd({"e": echoes()}, 12.0)},
    title="the level of a tank by an echo, on two lines of characters",
    tells=(
        "The width of a pulse is there and back, so the law halves it; the speed of sound depends on the air's "
        "temperature, which is stated once. A timer of 16 MHz divided by 8 makes ticks of half a microsecond."
    ),
    tries=(
        "hand . depth --raw 2332",
        "hand . depth --raw 2332 --sure",
        "fit . depth",
    ),
)
