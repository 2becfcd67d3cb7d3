"""Forty bits on one wire: decided by a limit, on a display of two lines; decided by the low time, on pixels."""

from __future__ import annotations

from collections.abc import Sequence

from lesart.demo.jobs.job import Job, vcd
from lesart.demo.jobs.pieces import BOARD_3V3, face, fed, field, label, wire


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


def _job(name: str, decode: str, panel: str, trace: str, *, title: str, tells: str, tries: tuple[str, ...]) -> Job:
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
{panel}"""
        + wire({"board": BOARD_3V3, "air": 'kind = "single-wire sensor"'}, fed("air") + "air.data > board.p1"),
        files={"air.vcd": trace},
        title=title,
        tells=tells,
        tries=tries,
    )


LINES = '[panels.door]\nkind = "characters"\n' + face(
    "door", label("air"), field("warmth", column="8"), label("damp", row="1"), field("damp", row="1", column="8")
)

SHED = _job(
    "shed air",
    'threshold = "50 µs"',
    LINES,
    answers(GOOD),
    title="forty bits on one wire, decided by a limit, on two lines of characters",
    tells=(
        "The sensor answers with five bytes; a long high is a one. 50 µs lies between the two lengths, and the "
        "leaf of bits shows how far each is from it. Humidity and temperature are fields of one frame, in tenths, "
        "followed by a checksum."
    ),
    tries=(
        'decode air.vcd --as "bits by length" --line d --set "threshold=50 µs" --set check=sum',
        "read . warmth --to 20",
        "glass . door",
    ),
)

PIXELS = '[panels.lid]\nkind = "pixels"\n' + face(
    "lid", label("AIR"), field("warmth", row="12", font='"text 10"'), field("damp", row="30", font='"text 10"')
)

CAVE = _job(
    "cellar air",
    'by = "low time"',
    PIXELS,
    answers(GOOD, one_s=35e-6, zero_s=13e-6, low_s=24e-6),
    title="forty bits of a faster sensor, decided by the low before them, on pixels",
    tells=(
        "Lengths differ from part to part. Where a one is high for longer than the low before it, and a zero for "
        "less, the low is the measure and no limit has to be known."
    ),
    tries=(
        "read . damp --to 20",
        "hand . warmth --raw -4.5",
        "glass . lid",
    ),
)
