"""A field bus, a machine's own state, three axes."""

from __future__ import annotations

from lesart.core.notes import DOUBT, FAULT, REMARK
from lesart.core.step import Step
from lesart.demo.jobs.buses import WET, dialogue
from tests.mistakes.mistake import REFUSED, Mistake, column

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
