"""Plain numbers on characters, digits that run, text in the middle."""

from __future__ import annotations

from lesart.core.notes import DOUBT, FAULT, REMARK
from lesart.core.step import Step
from lesart.demo.jobs.pieces import BOARD_3V3
from tests.mistakes.mistake import REFUSED, Mistake, column

NUMBER_MISTAKES = (
    Mistake(
        "the number sent as one byte",
        Step.FIT,
        FAULT,
        "sent",
        edits=(("width = 4", 'width = 4\nsent = "as one byte"'),),
    ),
    Mistake(
        "digits sent as the numbers 0 to 9",
        Step.FIT,
        FAULT,
        "sent",
        edits=(("width = 4", 'width = 4\nsent = "digits as numbers"'),),
    ),
    Mistake("four digits in two cells", Step.FIT, FAULT, "bees", 999.0, edits=(("width = 4", "width = 2"),)),
    Mistake(
        "a shorter number leaves a tail",
        Step.GLASS,
        FAULT,
        "door",
        None,
        edits=(
            ('[faces.door]\npanel = "door"', '[faces.door]\npanel = "door"\nwrites = "over, as it comes"'),
            ("width = 4", 'width = 4\nalign = "left"'),
        ),
    ),
    Mistake(
        "a count above what was meant", Step.LAW, FAULT, "bees", None, edits=(('highest = "999"', 'highest = "500"'),)
    ),
    Mistake(
        "a row that the display has not",
        Step.GLASS,
        FAULT,
        "column",
        None,
        edits=(('kind = "characters"', 'kind = "characters"\nrows = 1'),),
    ),
    Mistake("a column behind the last", Step.GLASS, FAULT, "column", None, edits=(("column = 8", "column = 14"),)),
    Mistake("text over the number", Step.GLASS, FAULT, "door", None, edits=(("column = 8", "column = 2"),)),
    Mistake(
        "a letter that the set has not", Step.GLASS, DOUBT, "door", None, edits=(('text = "gate"', 'text = "gate Ж"'),)
    ),
    Mistake(
        "cleared and written twenty times a second",
        Step.PACE,
        DOUBT,
        "door",
        None,
        edits=(
            (
                '[faces.door]\npanel = "door"',
                '[faces.door]\npanel = "door"\nwrites = "cleared first"\nredraw = "20 Hz"',
            ),
        ),
    ),
    Mistake(
        "cells that jump to and fro",
        Step.FIT,
        REMARK,
        "align",
        None,
        edits=(("width = 4", 'width = 4\nalign = "left"'),),
    ),
)

RUNNING_MISTAKES = (
    Mistake(
        "sixteen bits into four digits",
        Step.FIT,
        FAULT,
        "plum",
        65535.0,
        edits=(('highest = "9999"', 'highest = "65535"'),),
    ),
    Mistake(
        "readings beyond four digits",
        Step.LAW,
        FAULT,
        "plum",
        100.0,
        edits=(('highest = "9999"', 'highest = "99"'), ("width = 4", "width = 2")),
    ),
    Mistake(
        "a minus that is never shown",
        Step.FIT,
        FAULT,
        "plum",
        -99.0,
        edits=(('lowest = "0"', 'lowest = "-99"'), ("width = 4", 'width = 4\nsign = "never"')),
    ),
    Mistake(
        "lit in turn too slowly",
        Step.PACE,
        FAULT,
        "seg",
        1000 / (4 * 6.1),
        edits=(('on_time = "2 ms"', 'on_time = "6 ms"'),),
    ),
    Mistake(
        "without a dark time", Step.PACE, FAULT, "blanking", 0.0, edits=(('blanking = "0.1 ms"', 'blanking = "0 ms"'),)
    ),
    Mistake(
        "one resistor for a whole digit",
        Step.PACE,
        DOUBT,
        "seg",
        3.5,
        edits=(('line_resistor = "0 Ω"', 'line_resistor = "220 Ω"'),),
    ),
    Mistake(
        "segments that burn",
        Step.PACE,
        FAULT,
        "segment_limit",
        None,
        edits=(('line_resistor = "0 Ω"', 'resistor = "47 Ω"'),),
    ),
    Mistake(
        "an order of bits with a segment twice",
        REFUSED,
        REFUSED,
        "panels.seg",
        edits=(('common = "anode"', 'common = "anode"\norder = "a a c d e f g ."'),),
    ),
    Mistake("five cells on four digits", Step.GLASS, FAULT, "column", None, edits=(("width = 4", "width = 5"),)),
    Mistake(
        "a letter without a shape", Step.GLASS, DOUBT, "seg", None, edits=(("width = 4", 'width = 4\ninvalid = "W"'),)
    ),
    Mistake(
        "a point for thousands",
        Step.FIT,
        FAULT,
        "group",
        None,
        edits=(('pad = "zero"', 'group = "comma"'), ("width = 4", "width = 4")),
    ),
)

CENTRED_MISTAKES = (
    Mistake(
        "blinking so slowly that it is taken for a loose wire",
        Step.GLASS,
        DOUBT,
        "door",
        0.25,
        edits=(('text = "HIVE 2"', 'text = "HIVE 2"\nblink = "0.25 Hz"'),),
    ),
    Mistake(
        "an address that its straps cannot set", REFUSED, REFUSED, "parts.door.address", edits=(('"0x27"', '"0x47"'),)
    ),
    Mistake("an address of eight bits", REFUSED, REFUSED, "parts.door.address", edits=(('"0x27"', '"0x4E"'),)),
    Mistake(
        "pulled up to more than the board stands",
        Step.WIRE,
        FAULT,
        "door",
        5.0,
        edits=(('kind = "5 V board"', BOARD_3V3),),
    ),
    Mistake(
        "3.3 V for a display of 5 V",
        Step.WIRE,
        FAULT,
        "door",
        3.3,
        edits=(('pin = "door.supply", to = "board.5V"', 'pin = "door.supply", to = "board.3V3"'),),
    ),
    Mistake("pounds behind kilograms", Step.FIT, FAULT, "unit_text", edits=(('unit_text = "kg"', 'unit_text = "g"'),)),
    Mistake(
        "grams read as kilograms",
        Step.LAW,
        FAULT,
        "mass",
        100.0,
        columns=column("m", lambda m: [1000 * each for each in m]),
    ),
    Mistake(
        "the text runs into the number", Step.GLASS, FAULT, "door", None, edits=(("column = 5\n", "column = 2\n"),)
    ),
    Mistake(
        "a bus clock that the bus has not",
        Step.GLASS,
        FAULT,
        "clock",
        4e5,
        edits=(('[panels.door]\nkind = "characters"', '[panels.door]\nkind = "characters"\nclock = "400 kHz"'),),
    ),
    Mistake(
        "too long for its row",
        Step.GLASS,
        FAULT,
        "column",
        None,
        edits=(('text = "HIVE 2"', 'text = "HIVE 2 IN THE YARD"'),),
    ),
    Mistake(
        "data left open", Step.WIRE, FAULT, "door", 1.0, edits=(('  { pin = "door.data", to = "board.p15" },\n', ""),)
    ),
)
