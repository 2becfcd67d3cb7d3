"""Pixels: seen through, on four wires, on two."""

from __future__ import annotations

from lesart.core.notes import DOUBT, FAULT
from lesart.core.step import Step
from lesart.demo.jobs.pieces import BOARD_3V3, BOARD_5V
from tests.mistakes.mistake import REFUSED, Mistake

BLUE = 'light = "blue"'
PAPER = 'light = "paper"\nchange = "2 s"\nquick_change = "0.3 s"'
SEEN = 'seen_from = "0.15 m"'

WINDOW_MISTAKES = (
    Mistake(
        "light before something bright",
        Step.GLASS,
        DOUBT,
        "pane",
        None,
        edits=(("see_through = true", 'see_through = true\nbehind = "bright"'),),
    ),
    Mistake(
        "letters too small for three metres", Step.GLASS, FAULT, "pane", None, edits=((SEEN, 'seen_from = "3 m"'),)
    ),
    Mistake(
        "turned a quarter, laid out as before",
        Step.GLASS,
        FAULT,
        "pane",
        None,
        edits=(("mirror = true", 'mirror = true\nturned = "a quarter"'), ("row = 40", "row = 40\ncolumn = 60")),
    ),
    Mistake(
        "paper that is never renewed",
        Step.GLASS,
        DOUBT,
        "pane",
        None,
        edits=((BLUE, f"{PAPER}\nquick_ones = 0"),),
    ),
    Mistake(
        "blinking on paper",
        Step.GLASS,
        FAULT,
        "pane",
        0.25,
        edits=((BLUE, PAPER), ("row = 40", 'row = 40\nblink = "2 Hz"')),
    ),
    Mistake("a label over the number", Step.GLASS, FAULT, "pane", None, edits=(("row = 40", "row = 20"),)),
    Mistake("a label below the last row", Step.GLASS, FAULT, "pane", None, edits=(("row = 40", "row = 60"),)),
    Mistake("blinking too slowly", Step.GLASS, DOUBT, "pane", 0.2, edits=(("row = 40", 'row = 40\nblink = "0.2 Hz"'),)),
    Mistake(
        "drawn more often than the bus lets through",
        Step.PACE,
        FAULT,
        "draw pane",
        None,
        edits=((SEEN, SEEN + '\nredraw = "80 Hz"'),),
    ),
    Mistake(
        "a minus that is never shown",
        Step.FIT,
        FAULT,
        "sign",
        -20.0,
        edits=(("width = 7", 'width = 7\nsign = "never"'),),
    ),
    Mistake(
        "a number in fahrenheit with celsius behind it",
        Step.FIT,
        FAULT,
        "unit_text",
        edits=(('unit_text = "°C"', 'unit_text = "°C"\nunit = "°F"\ndecimals = 0'),),
    ),
    Mistake(
        "sheet and file of two heights",
        Step.GLASS,
        FAULT,
        "pane",
        None,
        edits=(("mirror = true", "mirror = true\nheight = 32"),),
    ),
)

SMALL_MISTAKES = (
    Mistake("5 V signals into 3.3 V", Step.WIRE, FAULT, "mast", 5.0, edits=((BOARD_3V3, BOARD_5V),)),
    Mistake(
        "reset left open", Step.WIRE, FAULT, "mast", 1.0, edits=(('  { pin = "mast.reset", to = "board.p1" },\n', ""),)
    ),
    Mistake(
        "data and clock exchanged",
        Step.WIRE,
        FAULT,
        "mast",
        edits=(
            ('pin = "mast.clock", to = "board.p10"', 'pin = "mast.clock", to = "board.p11"'),
            ('pin = "mast.data", to = "board.p11"', 'pin = "mast.data", to = "board.p10"'),
        ),
    ),
    Mistake(
        "data or command on the pin of the reset",
        Step.WIRE,
        FAULT,
        "mast",
        edits=(('pin = "mast.dc", to = "board.p2"', 'pin = "mast.dc", to = "board.p1"'),),
    ),
    Mistake("the picture over the edge", Step.GLASS, FAULT, "mast", None, edits=(("row = 26", "row = 40"),)),
    Mistake("the picture over the number", Step.GLASS, FAULT, "mast", None, edits=(("row = 26", "row = 14"),)),
    Mistake("a picture that is not there", Step.GLASS, FAULT, "file", edits=(('"leaf.pbm"', '"lef.pbm"'),)),
    Mistake(
        "laid out for 128 by 64",
        Step.GLASS,
        FAULT,
        "mast",
        None,
        edits=(("row = 26\ncolumn = 4", "row = 26\ncolumn = 100"),),
    ),
    Mistake("a bus of ten kilohertz", Step.PACE, FAULT, "", 201.6, edits=(('"2 MHz"', '"10 kHz"'),)),
    Mistake(
        "letters for a reader across the yard",
        Step.GLASS,
        FAULT,
        "mast",
        None,
        edits=(('[faces.mast]\npanel = "mast"', '[faces.mast]\npanel = "mast"\nseen_from = "5 m"'),),
    ),
    Mistake(
        "letters that this font has not",
        Step.GLASS,
        DOUBT,
        "mast",
        None,
        edits=(('channel = "warmth"', 'channel = "warmth"\nfont = "numerals 14"\ninvalid = "??"'),),
    ),
)

PIXELS_MISTAKES = (
    Mistake(
        "another clock on the panel than on the bus",
        Step.GLASS,
        FAULT,
        "clock",
        1e5,
        edits=(('[panels.lid]\nkind = "pixels"', '[panels.lid]\nkind = "pixels"\nclock = "100 kHz"'),),
    ),
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
        "an address that its straps cannot set",
        REFUSED,
        REFUSED,
        "parts.lid.address",
        edits=(('address = "0x3D"', 'address = "0x3E"'),),
    ),
    Mistake(
        "the address printed with eight bits",
        REFUSED,
        REFUSED,
        "parts.lid.address",
        edits=(('address = "0x3D"', 'address = "0x7A"'),),
    ),
    Mistake(
        "two of one address",
        Step.WIRE,
        FAULT,
        "other",
        None,
        edits=(
            ("[wire]", '[parts.other]\nkind = "two-wire pixel display"\naddress = "0x3D"\n[wire]'),
            (
                "joins = [\n",
                'joins = [\n  { pin = "other.clock", to = "board.p16" },\n  { pin = "other.data", '
                'to = "board.p15" },\n  { pin = "other.supply", to = "board.3V3" },\n  { pin = "other.gnd", '
                'to = "board.gnd" },\n',
            ),
        ),
    ),
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
    Mistake(
        "a panel of 32 rows laid out as one of 64",
        Step.GLASS,
        FAULT,
        "lid",
        None,
        edits=(('[panels.lid]\nkind = "pixels"', '[panels.lid]\nkind = "pixels"\nheight = 16'),),
    ),
    Mistake(
        "drawn fifty times a second on a slow bus",
        Step.PACE,
        FAULT,
        "draw lid",
        None,
        edits=(
            ('bus_clock = "400 kHz"', 'bus_clock = "100 kHz"'),
            ('[faces.lid]\npanel = "lid"', '[faces.lid]\npanel = "lid"\nredraw = "50 Hz"'),
        ),
    ),
    Mistake(
        "a glass told of half its rows",
        Step.GLASS,
        FAULT,
        "lid",
        None,
        edits=(('kind = "pixels"', 'kind = "pixels"\nrows_told = 32'),),
    ),
    Mistake(
        "the first two columns of the controller taken for those of the glass",
        Step.GLASS,
        FAULT,
        "lid",
        None,
        edits=(('kind = "pixels"', 'kind = "pixels"\ncolumns_off = 2'),),
    ),
    Mistake(
        "large numerals without a letter for its words",
        Step.GLASS,
        DOUBT,
        "lid",
        None,
        edits=(('font = "text 10"', 'font = "numerals 21"\ninvalid = "??"'),),
    ),
    Mistake(
        "the bus pulled up by nothing",
        Step.WIRE,
        FAULT,
        "board",
        None,
        edits=(
            ("[wire]", '[parts.bare]\nkind = "two-wire sensor"\n[wire]'),
            (
                '  { pin = "lid.clock", to = "board.p16" },\n  { pin = "lid.data", to = "board.p15" },\n',
                '  { pin = "bare.clock", to = "board.p16" },\n  { pin = "bare.data", to = "board.p15" },\n'
                '  { pin = "bare.supply", to = "board.3V3" },\n  { pin = "bare.gnd", to = "board.gnd" },\n',
            ),
        ),
    ),
    Mistake(
        "a field that leaves the glass",
        Step.GLASS,
        FAULT,
        "column",
        None,
        edits=(("row = 12", "row = 12\ncolumn = 90"),),
    ),
)
