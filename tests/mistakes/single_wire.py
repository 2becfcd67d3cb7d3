"""Forty bits on one wire: told by a limit, on a display of two lines; told by the low time, on pixels."""

from __future__ import annotations

from collections.abc import Sequence

from lesart.core.notes import DOUBT, FAULT
from lesart.core.step import Step
from tests.mistakes.mistake import Job, Mistake, vcd
from tests.mistakes.wires import BOARD_3V3, BOARD_5V, face, fed, field, label, wire


def answers(
    frames: Sequence[Sequence[int]],
    *,
    every_s: float = 5.0,
    one_s: float = 70e-6,
    zero_s: float = 26e-6,
    low_s: float = 50e-6,
    start_s: float = 18e-3,
) -> str:
    """A trace of a sensor that is asked and answers with five bytes; one of no bytes is not answered."""
    line: list[tuple[float, int]] = [(0.0, 1)]
    for place, frame in enumerate(frames):
        t = 0.5 + place * every_s
        line += [(t, 0), (t + start_s, 1)]
        t += start_s + 30e-6
        if not frame:
            continue
        line += [(t, 0), (t + 80e-6, 1)]
        t += 160e-6
        for byte in frame:
            for bit in f"{byte:08b}":
                line += [(t, 0), (t + low_s, 1)]
                t += low_s + (one_s if bit == "1" else zero_s)
        line += [(t, 0), (t + 50e-6, 1)]
    return vcd({"d": line}, 1.0 + len(frames) * every_s)


def summed(*data: int) -> tuple[int, ...]:
    return (*data, sum(data) & 0xFF)


GOOD = [summed(45, place % 10, 21, 3 + place % 5) for place in range(20)]


def spoiled(every: int, frame: Sequence[int]) -> list[Sequence[int]]:
    return [frame if place % every == 1 else good for place, good in enumerate(GOOD)]


def job(name: str, decode: str, panel: str, trace: str, extra: str = "") -> Job:
    return Job(
        name,
        f"""
[sources.air]
capture = "air.vcd"
format = "vcd"
least_interval = "2 s"
[sources.air.decode]
kind = "bits by length"
line = "d"
check = "sum"
{decode}
[[sources.air.fields]]
name = "humidity"
bits = 16
tenths = true
[[sources.air.fields]]
name = "temperature"
first_bit = 16
bits = 16
tenths = true
[channels.warmth]
source = "air"
column = "temperature"
part = "air"
raw_unit = "°C"
unit = "°C"
lowest = "-20 °C"
highest = "60 °C"
[channels.warmth.fit]
unit_text = "°C"
stale_after = "15 s"
width = 7
[channels.damp]
source = "air"
column = "humidity"
part = "air"
raw_unit = "%"
unit = "%"
lowest = "20 %"
highest = "95 %"
[channels.damp.fit]
decimals = 0
unit_text = "%"
stale_after = "15 s"
width = 4
{panel}{extra}"""
        + wire({"board": BOARD_3V3, "air": 'kind = "single-wire sensor"'}, fed("air") + "air.data > board.p1"),
        files={"air.vcd": trace},
    )


LINES = '[panels.door]\nkind = "characters"\n' + face(
    "door", label("air"), field("warmth", column="8"), label("damp", row="1"), field("damp", row="1", column="8")
)
SHED = job("shed air", 'threshold = "50 µs"', LINES, answers(GOOD))


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

PIXELS = '[panels.lid]\nkind = "pixels"\n' + face(
    "lid", label("AIR"), field("warmth", row="12", font='"text 10"'), field("damp", row="30", font='"text 10"')
)
CAVE = job("cellar air", 'by = "low time"', PIXELS, answers(GOOD, one_s=35e-6, zero_s=13e-6, low_s=24e-6))
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
