"""A field bus, a machine's own state, three axes."""

from __future__ import annotations

import numpy as np

from lesart.demo.jobs.job import Job
from lesart.demo.jobs.pieces import BOARD_3V3, CSV, channel, face, fed, field, label, wire

T = np.arange(0.0, 60.0, 0.5)

WAVE = np.sin(T / 9)


def crc(data: bytes) -> bytes:
    """Of a frame on the field bus, its low byte first: x¹⁶ + x¹⁵ + x² + 1, reflected, begun with ones."""
    found = 0xFFFF
    for byte in data:
        found ^= byte
        for _ in range(8):
            found = (found >> 1) ^ 0xA001 if found & 1 else found >> 1
    return found.to_bytes(2, "little")


def dialogue(values: list[int], *, spoil: int = 0, register: int = 30) -> str:
    """Unit 1 asked for one register each second; every so many answers with a wrong sum."""
    lines = []
    for second, value in enumerate(values):
        ask = bytes((1, 3)) + register.to_bytes(2, "big") + bytes((0, 1))
        answer = bytes((1, 3, 2)) + value.to_bytes(2, "big")
        end = b"\x00\x00" if spoil and second % spoil == 1 else crc(answer)
        lines += [f"{second}.0 {(ask + crc(ask)).hex(' ')}", f"{second}.02 {(answer + end).hex(' ')}"]
    return "\n".join(lines) + "\n"


WET = [190 + place % 9 for place in range(60)]

SOIL = Job(
    "soil",
    """
[sources.soil]
capture = "soil.hex"
format = "hex"
[sources.soil.decode]
messages = "Modbus RTU"
check = "none"
[channels.wet]
source = "soil"
column = "unit 1 holding 30"
part = "probe"
raw_unit = "1"
unit = "%"
lowest = "0 %"
highest = "60 %"
[[channels.wet.law]]
kind = "linear"
input = "0"
output = "0 %"
slope = "0.1 %"
[channels.wet.fit]
unit_text = "%"
width = 6
restless = 100
[panels.door]
kind = "characters"
"""
    + face("door", label("soil"), field("wet", column="8"))
    + wire(
        {
            "board": BOARD_3V3,
            "line": 'kind = "line driver"',
            "probe": 'kind = "register meter"',
            "mains": 'kind = "supply"\nvoltage = "12 V"',
        },
        fed("line") + "line.out > board.p14; line.in > board.p13; line.enable > board.p1; probe.A > line.A;"
        "probe.B > line.B; probe.supply > mains.+; probe.gnd > mains.−; mains.− > board.gnd",
    ),
    files={"soil.hex": dialogue(WET)},
    title="a soil probe's register on a field bus, 12 V away",
    tells=(
        "Ask unit 1 for holding register 30, check the sum, take tenths of a percent. The bus needs both wires, a "
        "common ground, and a driver that is switched to send."
    ),
    tries=(
        "read . wet --to 5",
        "hand . wet --raw 194",
        "wire . --bring-up",
    ),
)

MACHINE = Job(
    "machine",
    CSV
    + channel("load", "%", "0", "100", "load", raw_unit='"%"')
    + '[channels.load.fit]\ndecimals = 0\nunit_text = "%"\nrestless = 100\n'
    + channel("disk", "%", "0", "100", "disk", raw_unit='"%"')
    + '[channels.disk.fit]\ndecimals = 0\nunit_text = "%"\nrestless = 100\n'
    + '[panels.lid]\nkind = "pixels"\n'
    + face(
        "lid", label("LOAD"), field("load", column="60"), label("DISK", row="20"), field("disk", row="20", column="60")
    )
    + wire(
        {"board": 'kind = "3.3 V computer"', "lid": 'kind = "two-wire pixel display"'},
        fed("lid") + "lid.clock > board.p16; lid.data > board.p15",
    ),
    {
        "t": T,
        "load": [float(round(30 + 20 * each)) for each in WAVE],
        "disk": [26.0 + place // 60 for place in range(len(T))],
    },
    title="a small computer's own load and disk on its two-wire display",
    tells=(
        "No sensor at all: percentages of the machine itself, each on its line. What changes slowly need not be "
        "drawn often."
    ),
    tries=(
        "glass . lid",
        "read . load --to 5",
    ),
)

AXIS = """[[channels.{0}.law]]
kind = "linear"
input = "0 ct"
output = "0 m/s²"
slope = "0.01 m/s²/ct"
[channels.{0}.fit]
restless = 200
"""
BUBBLE = """kind = "bubble"
across = "east"
up = "north"
row = 20
column = 40
width = 40
tall = 40
across_from = "-5 m/s²"
across_to = "5 m/s²"
up_from = "-5 m/s²"
up_to = "5 m/s²"
"""
AXES = Job(
    "tilt",
    CSV
    + channel("east", "m/s²", "-20", "20", "x")
    + AXIS.format("east")
    + channel("north", "m/s²", "-20", "20", "y")
    + AXIS.format("north")
    + '[panels.mast]\nkind = "pixels"\n'
    + face(
        "mast",
        field("east"),
        field("north", column="64"),
        BUBBLE,
    )
    + wire(
        {"board": BOARD_3V3, "mast": 'kind = "two-wire pixel display"', "move": 'kind = "inertial module"'},
        fed("mast", "move")
        + "mast.clock > board.p16; mast.data > board.p15; move.clock > board.p16; move.data > board.p15",
    ),
    {
        "t": T,
        "x": [float(round(100 * each)) for each in WAVE],
        "y": [float(round(200 * each)) for each in np.cos(T / 9)],
    },
    title="three axes' acceleration as two numbers and a bubble",
    tells=(
        "Two channels move one item: the bubble is where east and north are zero. Both parts are on one bus, so "
        "their addresses must differ."
    ),
    tries=(
        "hand . east --raw 250",
        "glass . mast",
        "wire .",
    ),
)
