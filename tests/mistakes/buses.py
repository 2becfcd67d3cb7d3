"""A field bus, a machine's own state, three axes."""

from __future__ import annotations

import numpy as np

from lesart.core.notes import DOUBT, FAULT, REMARK
from lesart.core.step import Step
from tests.mistakes.mistake import REFUSED, Job, Mistake, column
from tests.mistakes.wires import BOARD_3V3, CSV, channel, face, fed, field, label, wire

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
)
SOIL_MISTAKES = (
    Mistake("sums that fail", Step.RAW, DOUBT, "wet", 15.0, files={"soil.hex": dialogue(WET, spoil=4)}),
    Mistake("a register that never came", Step.RAW, FAULT, "wet", files={"soil.hex": dialogue(WET, register=31)}),
    Mistake(
        "tenths taken for whole ones", Step.LAW, FAULT, "wet", 100.0, edits=(('slope = "0.1 %"', 'slope = "1 %"'),)
    ),
    Mistake(
        "both lines exchanged",
        Step.WIRE,
        FAULT,
        "probe",
        edits=(
            ('pin = "probe.A", to = "line.A"', 'pin = "probe.A", to = "line.B"'),
            ('pin = "probe.B", to = "line.B"', 'pin = "probe.B", to = "line.A"'),
        ),
    ),
    Mistake(
        "the driver's direction left open",
        Step.WIRE,
        FAULT,
        "line",
        1.0,
        edits=(('  { pin = "line.enable", to = "board.p1" },\n', ""),),
    ),
    Mistake(
        "an adapter that feeds nothing",
        Step.WIRE,
        DOUBT,
        "mains",
        None,
        edits=(('  { pin = "probe.supply", to = "mains.+" },\n', '  { pin = "probe.supply", to = "board.5V" },\n'),),
    ),
    Mistake(
        "3.3 V for a probe that wants 5 V",
        Step.WIRE,
        FAULT,
        "probe",
        None,
        edits=(('to = "mains.+"', 'to = "board.3V3"'),),
    ),
    Mistake("grams behind a share", Step.FIT, FAULT, "unit_text", edits=(('unit_text = "%"', 'unit_text = "kg"'),)),
    Mistake("no common zero", Step.WIRE, FAULT, "probe", edits=(('  { pin = "mains.−", to = "board.gnd" },\n', ""),)),
    Mistake(
        "a failed reading of all ones",
        Step.LAW,
        FAULT,
        "wet",
        None,
        files={"soil.hex": dialogue([65_535 if place % 5 == 2 else wet for place, wet in enumerate(WET)])},
    ),
    Mistake("two cells for 100 %", Step.FIT, FAULT, "wet", 60.0, edits=(("width = 6", "width = 3"),)),
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
)
MACHINE_MISTAKES = (
    Mistake(
        "a share of one taken for per cent of a hundred",
        Step.LAW,
        FAULT,
        "load",
        100.0,
        edits=(
            (
                'highest = "100 %"\nraw_unit = "%"\n[channels.load.fit]',
                'highest = "100 %"\nraw_unit = "1"\n[channels.load.fit]',
            ),
        ),
    ),
    Mistake(
        "a panel of 32 rows laid out as one of 64",
        Step.GLASS,
        FAULT,
        "lid",
        None,
        edits=(('kind = "pixels"', 'kind = "pixels"\nheight = 24'), ("row = 20", "row = 30")),
    ),
    Mistake("labels over each other", Step.GLASS, FAULT, "lid", None, edits=(("row = 20", "row = 4"),)),
    Mistake(
        "supply and ground swapped",
        Step.WIRE,
        FAULT,
        "lid",
        edits=(
            ('pin = "lid.supply", to = "board.3V3"', 'pin = "lid.supply", to = "board.gnd"'),
            ('pin = "lid.gnd", to = "board.gnd"', 'pin = "lid.gnd", to = "board.3V3"'),
        ),
    ),
    Mistake("a column that the log has not", Step.RAW, FAULT, "load", edits=(('column = "load"', 'column = "lode"'),)),
    Mistake(
        "clock and data exchanged",
        Step.WIRE,
        FAULT,
        "lid",
        edits=(
            ('pin = "lid.clock", to = "board.p16"', 'pin = "lid.clock", to = "board.p15"'),
            ('pin = "lid.data", to = "board.p15"', 'pin = "lid.data", to = "board.p16"'),
        ),
    ),
    Mistake(
        "the clock of the logger set back",
        Step.RAW,
        DOUBT,
        "load",
        39.0,
        columns=column("t", lambda t: [*t[:60], *[each - 20 for each in t[60:]]]),
    ),
    Mistake(
        "rows that did not come",
        Step.RAW,
        REMARK,
        "load",
        None,
        columns=column("t", lambda t: [each if place < 60 else each + 12 for place, each in enumerate(t)]),
    ),
    Mistake("a field off the glass", Step.GLASS, FAULT, "lid", None, edits=(("column = 60", "column = 110"),)),
    Mistake(
        "drawn sixty times a second",
        Step.PACE,
        FAULT,
        "draw lid",
        None,
        edits=(('[faces.lid]\npanel = "lid"', '[faces.lid]\npanel = "lid"\nredraw = "60 Hz"'),),
    ),
    Mistake(
        "a degree sign behind a share",
        Step.FIT,
        FAULT,
        "unit_text",
        edits=(('unit_text = "%"\nrestless = 100\n[panels', 'unit_text = "°C"\nrestless = 100\n[panels'),),
    ),
)

AXES = Job(
    "tilt",
    CSV
    + channel("east", "m/s²", "-20", "20", "x")
    + '[[channels.east.law]]\nkind = "linear"\ninput = "0 ct"\noutput = "0 m/s²"\nslope = "0.01 m/s²/ct"\n[channels.east.fit]\nrestless = 200\n'
    + channel("north", "m/s²", "-20", "20", "y")
    + '[[channels.north.law]]\nkind = "linear"\ninput = "0 ct"\noutput = "0 m/s²"\nslope = "0.01 m/s²/ct"\n[channels.north.fit]\nrestless = 200\n'
    + '[panels.mast]\nkind = "pixels"\n'
    + face(
        "mast",
        field("east"),
        field("north", column="64"),
        'kind = "bubble"\nacross = "east"\nup = "north"\nrow = 20\ncolumn = 40\nwidth = 40\ntall = 40\nacross_from = "-5 m/s²"\nacross_to = "5 m/s²"\nup_from = "-5 m/s²"\nup_to = "5 m/s²"\n',
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
)
AXES_MISTAKES = (
    Mistake(
        "sixteen bits unsigned where they are signed",
        Step.LAW,
        FAULT,
        "east",
        None,
        columns=column("x", lambda x: [each + 65536 if each < 0 else each for each in x]),
    ),
    Mistake(
        "a scale ten times too large",
        Step.LAW,
        FAULT,
        "north",
        None,
        edits=(
            ("0.01 m/s²/ct", "0.1 m/s²/ct"),
            ('highest = "20 m/s²"', 'highest = "12 m/s²"'),
            ('lowest = "-20 m/s²"', 'lowest = "-12 m/s²"'),
        ),
    ),
    Mistake(
        "the ball beneath the numbers",
        Step.GLASS,
        FAULT,
        "mast",
        None,
        edits=(("row = 20\ncolumn = 40", "row = 4\ncolumn = 40"),),
    ),
    Mistake(
        "the ball over the edge",
        Step.GLASS,
        FAULT,
        "mast",
        None,
        edits=(("row = 20\ncolumn = 40", "row = 40\ncolumn = 40"),),
    ),
    Mistake(
        "an axis that is not there",
        REFUSED,
        REFUSED,
        "faces.mast.items",
        edits=(('across = "east"', 'across = "eest"'),),
    ),
    Mistake(
        "two of one address",
        Step.WIRE,
        FAULT,
        "twin",
        None,
        edits=(
            ("[wire]", '[parts.twin]\nkind = "inertial module"\n[wire]'),
            (
                "joins = [\n",
                'joins = [\n  { pin = "twin.clock", to = "board.p16" },\n  { pin = "twin.data", to = "board.p15" },\n  { pin = "twin.supply", to = "board.3V3" },\n  { pin = "twin.gnd", to = "board.gnd" },\n',
            ),
        ),
    ),
    Mistake(
        "counts that come in steps of four",
        Step.RAW,
        DOUBT,
        "east",
        4.0,
        columns=column("x", lambda x: [float(4 * round(each / 4)) for each in x]),
    ),
    Mistake(
        "metres a second for metres a second squared",
        REFUSED,
        REFUSED,
        "channels.east",
        edits=(
            (
                'output = "0 m/s²"\nslope = "0.01 m/s²/ct"\n[channels.east',
                'output = "0 m/s"\nslope = "0.01 m/s/ct"\n[channels.east',
            ),
        ),
    ),
    Mistake(
        "an axis that stands still", Step.RAW, DOUBT, "north", 120.0, columns=column("y", lambda y: [512.0] * len(y))
    ),
    Mistake(
        "a deeper average than the ball can bear",
        Step.CALM,
        DOUBT,
        "east",
        7.75,
        edits=(
            ("[channels.east.fit]", '[[channels.east.calm]]\nkind = "mean"\nsamples = 32\n[channels.east.fit]'),
            ('column = "x"\nunit = "m/s²"', 'column = "x"\nmost_lag = "1 s"\nunit = "m/s²"'),
        ),
    ),
)
