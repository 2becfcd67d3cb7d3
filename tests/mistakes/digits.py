"""Digits: by a driver on two lines, and by twelve pins."""

from __future__ import annotations

from lesart.core.notes import DOUBT, FAULT
from lesart.core.step import Step
from tests.mistakes.mistake import REFUSED, Mistake

DRIVER_MISTAKES = (
    Mistake(
        "a minus where all four cells are taken",
        Step.FIT,
        FAULT,
        "warmth",
        -20.0,
        edits=(('lowest = "0 °C"', 'lowest = "-20 °C"'),),
    ),
    Mistake(
        "the old number's tail stays",
        Step.GLASS,
        FAULT,
        "stand",
        None,
        edits=(
            ('[faces.stand]\npanel = "stand"', '[faces.stand]\npanel = "stand"\nwrites = "over, as it comes"'),
            ("width = 4", 'width = 4\nalign = "left"'),
        ),
    ),
    Mistake(
        "a letter that seven segments have not",
        Step.GLASS,
        DOUBT,
        "stand",
        None,
        edits=(
            ('unit_text = "°C"', 'unit_text = "W"'),
            ('raw_unit = "°C"\n', 'raw_unit = "W"\n'),
            ('unit = "°C"\nlowest', 'unit = "W"\nlowest'),
            ('lowest = "0 °C"', 'lowest = "0 W"'),
            ('highest = "50 °C"', 'highest = "50 W"'),
        ),
    ),
    Mistake(
        "a brightness it has not",
        REFUSED,
        REFUSED,
        "panels.stand.brightness",
        edits=(('drive = "two-line driver"', 'drive = "two-line driver"\nbrightness = 9'),),
    ),
    Mistake(
        "kelvin before a C", Step.FIT, FAULT, "unit_text", edits=(('unit_text = "°C"', 'unit_text = "°C"\nunit = "K"'),)
    ),
    Mistake(
        "a range in fahrenheit, readings in celsius",
        Step.LAW,
        FAULT,
        "warmth",
        100.0,
        edits=(('lowest = "0 °C"', 'lowest = "60 °C"'), ('highest = "50 °C"', 'highest = "99 °C"')),
    ),
    Mistake(
        "digits as the numbers 0 to 9",
        Step.FIT,
        FAULT,
        "sent",
        edits=(("width = 4", 'width = 4\nsent = "digits as numbers"'),),
    ),
    Mistake("five cells on four digits", Step.GLASS, FAULT, "column", None, edits=(("width = 4", "width = 5"),)),
    Mistake(
        "a point for thousands",
        Step.FIT,
        FAULT,
        "group",
        None,
        edits=(
            ("width = 4", 'width = 6\ngroup = "point"\npoint = "comma"'),
            ('highest = "50 °C"', 'highest = "1500 °C"'),
            ('drive = "two-line driver"', 'drive = "two-line driver"\ndigits = 6'),
        ),
    ),
    Mistake(
        "stale between two readings",
        Step.PACE,
        DOUBT,
        "warmth",
        None,
        edits=(("width = 4", 'width = 4\nstale_after = "0.5 s"'),),
    ),
    Mistake(
        "blinking so fast that it flickers",
        Step.GLASS,
        DOUBT,
        "stand",
        6.0,
        edits=(('kind = "field"', 'kind = "field"\nblink = "6 Hz"'),),
    ),
)

YARD_MISTAKES = (
    Mistake(
        "digits held for 5 ms each",
        Step.PACE,
        FAULT,
        "seg",
        1000 / (4 * 5.1),
        edits=(('on_time = "2.5 ms"', 'on_time = "5 ms"'),),
    ),
    Mistake(
        "digits held for 5 s each", Step.PACE, FAULT, "seg", None, edits=(('on_time = "2.5 ms"', 'on_time = "5 s"'),)
    ),
    Mistake(
        "ghosts for want of a dark time",
        Step.PACE,
        FAULT,
        "blanking",
        0.0,
        edits=(('blanking = "0.1 ms"', 'blanking = "0 ms"'),),
    ),
    Mistake(
        "one pin for two segments",
        Step.WIRE,
        FAULT,
        "seg",
        edits=(('pin = "seg.b", to = "board.p2"', 'pin = "seg.b", to = "board.p1"'),),
    ),
    Mistake(
        "one resistor in each digit's line",
        Step.WIRE,
        DOUBT,
        "seg",
        None,
        edits=((', through = "r"', ""), (', through = "t"', ', through = "r"')),
    ),
    Mistake("no resistor at all", Step.WIRE, FAULT, "seg", edits=((', through = "r"', ""),)),
    Mistake("resistors so small that segments burn", Step.WIRE, FAULT, "seg", None, edits=(('"270 Ω"', '"27 Ω"'),)),
    Mistake(
        "a panel of three digits where there are four",
        Step.GLASS,
        FAULT,
        "digits",
        3,
        edits=(
            ('kind = "segments"\n[', 'kind = "segments"\ndigits = 3\n['),
            ("width = 4", "width = 3"),
            ('highest = "9999"', 'highest = "999"'),
        ),
    ),
    Mistake(
        "another resistor in Pace than in the hook-up",
        Step.PACE,
        FAULT,
        "resistor",
        1000,
        edits=(('on_time = "2.5 ms"', 'on_time = "2.5 ms"\nresistor = "1 kΩ"'),),
    ),
    Mistake(
        "five digits of a number in four",
        Step.FIT,
        FAULT,
        "sum",
        65535.0,
        edits=(('highest = "9999"', 'highest = "65535"'),),
    ),
    Mistake(
        "readings beyond what was said", Step.LAW, FAULT, "sum", None, edits=(('highest = "9999"', 'highest = "999"'),)
    ),
    Mistake(
        "digit lines straight on pins that carry little",
        Step.WIRE,
        FAULT,
        "seg",
        None,
        edits=((', through = "t"', ""), ('"270 Ω"', '"150 Ω"')),
    ),
)
