"""Forty bits on one wire: told by a limit, on a display of two lines; told by the low time, on pixels."""

from __future__ import annotations

from collections.abc import Sequence

from lesart.core.notes import DOUBT, FAULT
from lesart.core.step import Step
from lesart.demo.jobs.pieces import BOARD_3V3, BOARD_5V
from lesart.demo.jobs.single_wire import GOOD, answers
from tests.mistakes.mistake import Mistake


def spoiled(every: int, frame: Sequence[int]) -> list[Sequence[int]]:
    return [frame if place % every == 1 else good for place, good in enumerate(GOOD)]


def bits_of(first: str) -> tuple[tuple[str, str], ...]:
    return (("first_bit = 16", first),)


SHED_MISTAKES = (
    Mistake(
        "bits told too near the edge",
        Step.RAW,
        DOUBT,
        "warmth",
        None,
        files={"air.vcd": answers(GOOD, one_s=54e-6, zero_s=47e-6)},
    ),
    Mistake(
        "a line that stays low: forty zeros pass their sum",
        Step.RAW,
        DOUBT,
        "warmth",
        5.0,
        files={"air.vcd": answers(spoiled(4, (0, 0, 0, 0, 0)))},
    ),
    Mistake(
        "sums that fail", Step.RAW, DOUBT, "warmth", 5.0, files={"air.vcd": answers(spoiled(4, (45, 3, 21, 4, 9)))}
    ),
    Mistake("nobody answers", Step.RAW, FAULT, "warmth", files={"air.vcd": answers([() for _ in GOOD])}),
    Mistake(
        "read again too soon",
        Step.PACE,
        FAULT,
        "read air",
        None,
        files={"air.vcd": answers(GOOD * 2, every_s=0.8)},
    ),
    Mistake(
        "humidity read where temperature stands",
        Step.RAW,
        FAULT,
        "warmth",
        None,
        edits=(("first_bit = 16", "first_bit = 24"),),
    ),
    Mistake(
        "a start that is looked for and never made",
        Step.RAW,
        FAULT,
        "warmth",
        edits=(('threshold = "50 µs"', 'threshold = "50 µs"\nstart = "30 ms"'),),
    ),
    Mistake(
        "the unit behind the number is another",
        Step.FIT,
        FAULT,
        "unit_text",
        edits=(('unit_text = "°C"', 'unit_text = "°F"'),),
    ),
    Mistake(
        "digits sent as the numbers 0 to 9",
        Step.FIT,
        FAULT,
        "sent",
        edits=(("width = 7", 'width = 7\nsent = "digits as numbers"'),),
    ),
    Mistake(
        "supply and ground swapped",
        Step.WIRE,
        FAULT,
        "air",
        edits=(
            ('pin = "air.supply", to = "board.3V3"', 'pin = "air.supply", to = "board.gnd"'),
            ('pin = "air.gnd", to = "board.gnd"', 'pin = "air.gnd", to = "board.3V3"'),
        ),
    ),
    Mistake(
        "data left open", Step.WIRE, FAULT, "air", 1.0, edits=(('  { pin = "air.data", to = "board.p1" },\n', ""),)
    ),
    Mistake("a field too narrow for a minus", Step.FIT, FAULT, "warmth", -20.0, edits=(("width = 7", "width = 6"),)),
)

CAVE_MISTAKES = (
    Mistake(
        "a fixed limit for a sensor that is faster",
        Step.RAW,
        DOUBT,
        "warmth",
        20.0,
        edits=(('by = "low time"', 'threshold = "50 µs"'),),
    ),
    Mistake(
        "two readings in three not answered",
        Step.RAW,
        DOUBT,
        "warmth",
        None,
        files={
            "air.vcd": answers(
                [frame if place % 3 == 0 else () for place, frame in enumerate(GOOD)],
                one_s=35e-6,
                zero_s=13e-6,
                low_s=24e-6,
            )
        },
    ),
    Mistake("an item below the edge of the panel", Step.GLASS, FAULT, "lid", None, edits=(("row = 30", "row = 58"),)),
    Mistake("an item over another", Step.GLASS, FAULT, "lid", None, edits=(("row = 30", "row = 14"),)),
    Mistake(
        "the panel is 32 rows high",
        Step.GLASS,
        FAULT,
        "lid",
        None,
        edits=(('kind = "pixels"', 'kind = "pixels"\nheight = 32'),),
    ),
    Mistake(
        "a font that has no letters",
        Step.GLASS,
        DOUBT,
        "lid",
        None,
        edits=(('font = "text 10"', 'font = "numerals 14"\ninvalid = "??"'),),
    ),
    Mistake(
        "letters too small for where people stand",
        Step.GLASS,
        FAULT,
        "lid",
        None,
        edits=(('[faces.lid]\npanel = "lid"', '[faces.lid]\npanel = "lid"\nseen_from = "4 m"'),),
    ),
    Mistake(
        "the whole picture drawn a hundred times a second",
        Step.PACE,
        FAULT,
        "draw lid",
        None,
        edits=(('[faces.lid]\npanel = "lid"', '[faces.lid]\npanel = "lid"\nredraw = "100 Hz"'),),
    ),
    Mistake(
        "the reading stale between two readings",
        Step.PACE,
        DOUBT,
        "warmth",
        None,
        edits=(('stale_after = "15 s"', 'stale_after = "3 s"'),),
    ),
    Mistake("a range nobody meant", Step.LAW, FAULT, "damp", 100.0, edits=(('highest = "95 %"', 'highest = "40 %"'),)),
    Mistake(
        "5 V from a board into a part of 3.3 V",
        Step.WIRE,
        FAULT,
        "tide",
        edits=(
            (BOARD_3V3, BOARD_5V),
            ("[wire]", '[parts.tide]\nkind = "two-wire module"\n[wire]'),
            ("joins = [\n", 'joins = [\n  { pin = "tide.supply", to = "board.5V" },\n'),
        ),
    ),
)
