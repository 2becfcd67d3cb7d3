"""A panel with a picture beside its values, fed by a cell through a step-up."""

from __future__ import annotations

from lesart.core.notes import DOUBT, FAULT
from lesart.core.step import Step
from tests.mistakes.mistake import Mistake

MOONLIGHT_MISTAKES = (
    Mistake(
        "the cell straight on an input that wants 5 V",
        Step.WIRE,
        FAULT,
        "board",
        None,
        edits=(('pin = "up.out", to = "board.in"', 'pin = "cell.+", to = "board.in"'),),
    ),
    Mistake(
        "the step-up feeds nothing",
        Step.WIRE,
        DOUBT,
        "up",
        None,
        edits=(('  { pin = "up.out", to = "board.in" },\n', ""),),
    ),
    Mistake(
        "another capacity in the sum than printed",
        Step.WIRE,
        FAULT,
        "capacity",
        2.0,
        edits=(('kind = "battery hours"', 'kind = "battery hours"\ncapacity = "2 Ah"'),),
    ),
    Mistake(
        "another capacity in Pace than printed",
        Step.PACE,
        FAULT,
        "capacity",
        2200.0,
        edits=(("[sums.cell]", '[loop]\ncapacity = "2200 mAh"\n[sums.cell]'),),
    ),
    Mistake(
        "all of the charge counted on",
        Step.PACE,
        FAULT,
        "usable",
        100.0,
        edits=(("[sums.cell]", '[loop]\nusable = "100 %"\n[sums.cell]'),),
    ),
    Mistake(
        "awake too long for the time that is wanted",
        Step.WIRE,
        DOUBT,
        "cell",
        None,
        edits=(('awake_share = "1/1000"', 'awake_share = "1/2"'),),
    ),
    Mistake(
        "read sooner than the sensor allows",
        Step.PACE,
        FAULT,
        "read log",
        5.0,
        edits=(('least_interval = "4 s"', 'least_interval = "6 s"'),),
    ),
    Mistake(
        "the picture over the number",
        Step.GLASS,
        FAULT,
        "lid",
        None,
        edits=(("row = 16\ncolumn = 60", "row = 16\ncolumn = 20"),),
    ),
    Mistake("the picture cut at the foot", Step.GLASS, FAULT, "lid", None, edits=(("row = 7", "row = 20"),)),
    Mistake(
        "select left open", Step.WIRE, FAULT, "lid", 1.0, edits=(('  { pin = "lid.select", to = "board.p3" },\n', ""),)
    ),
    Mistake(
        "the wires of two roles on one pin",
        Step.WIRE,
        FAULT,
        "lid",
        edits=(('pin = "lid.dc", to = "board.p2"', 'pin = "lid.dc", to = "board.p1"'),),
    ),
    Mistake(
        "stale between two readings",
        Step.PACE,
        DOUBT,
        "night",
        None,
        edits=(('stale_after = "20 s"', 'stale_after = "4 s"'),),
    ),
)
