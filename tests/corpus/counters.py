"""Times of loggers that count: counters that begin anew, restarts, rows that share a stamp; and what is none of it."""

from __future__ import annotations

import json

from tests.corpus.habit import Habit, Wanted, text_file

COUNT = 120
LAST = 20 + 0.25 * (COUNT - 1)
TEMP = "temp"


def counted(
    name: str, time: str, stamps: list[str], rate_hz: float, said: str = "", lasts_s: float = 0.0, temps: str = ""
) -> Habit:
    """A column of temperatures that rise by a quarter behind these stamps."""
    values = temps.split() or [f"{20 + 0.25 * place}" for place in range(len(stamps))]
    lines = [f"{stamp},{value}" for stamp, value in zip(stamps, values, strict=True)]
    ends = {TEMP: (float(values[0]), float(values[-1]))}
    wanted = Wanted(rate_hz, {TEMP: "1"}, ends, len(stamps), lasts_s)
    return Habit(name, text_file("log.csv", f"{time},{TEMP}", *lines), wanted, said=said)


def full(bits: int, step: int, begin: int) -> list[str]:
    """A counter that goes by a step from where so much is left of it."""
    return [str((2**bits - begin + step * place) % 2**bits) for place in range(COUNT)]


FULL = "which begins again at 0 when it is full"
ANEW = "the time begins again"
SHARED = "rows share each time"

COUNTERS: list[Habit] = [
    counted("millis over 32 bits", "millis", full(32, 100, 3333), 10, FULL, 11.9),
    counted("micros over 32 bits", "micros", full(32, 500, 7777), 2000, FULL, 0.0595),
    counted("ticks of a 16-bit timer, over it again and again", "us", full(16, 9000, 30_000), 1e6 / 9000, FULL, 1.071),
    counted("ms of 24 bits", "time_ms", full(24, 40, 200), 25, FULL, 4.76),
    counted(
        "a logger that was switched on again",
        "uptime_s",
        [f"{place / 4}" for place in (*range(70), *range(2, 52))],
        4,
        f"at row 71 {ANEW}",
        (COUNT - 1) / 4,
    ),
    counted(
        "a logger that was switched on again twice",
        "ms",
        [str(1500 + 20 * place) for place in (*range(50), *range(30), *range(40))],
        50,
        f"at rows 51 and 81 {ANEW}",
        (COUNT - 1) / 50,
    ),
    counted(
        "ten rows a second under whole seconds",
        "time",
        [f"2031-05-14 08:{(7 + place // 10) // 60:02}:{(7 + place // 10) % 60:02}" for place in range(3, COUNT + 3)],
        10,
        f"10 {SHARED}",
        (COUNT - 1) / 10,
    ),
    counted(
        "seven or eight rows a second under seconds since 1970",
        "ts",
        [str(1_936_000_000 + int(place / 7.5)) for place in range(COUNT)],
        7.5,
        f"7.5 {SHARED}",
    ),
    Habit(
        "four rows a minute in objects",
        text_file(
            "log.jsonl",
            *(json.dumps({"when": f"2031-05-14T08:{k // 4:02}", TEMP: 20 + 0.25 * k}) for k in range(COUNT)),
        ),
        Wanted(4 / 60, {TEMP: "1"}, {TEMP: (20, LAST)}, COUNT, 15 * (COUNT - 1)),
        said=f"4 {SHARED}",
    ),
    counted(
        "each row twice",
        "t",
        [f"{place // 2 / 8}" for place in range(COUNT)],
        8,
        "60 of 120 rows repeat the row above",
        temps=" ".join(f"{20 + 0.25 * (place // 2)}" for place in range(COUNT)),
    ),
    counted(
        "what comes when something happens",
        "s",
        [str(second) for second in (0, 0, 0, 4, 4, 9, 20, 20, 20, 20, 31, 40, 44, 44, 50, 61, 70, 70, 80, 90) * 1],
        1 / 9,
    ),
    Habit(
        "milliseconds in brackets before a line",
        text_file(
            "log.txt",
            "begun",
            *(f"[{1000 + 250 * k:>8}] T={20 + 0.25 * k} C, H={40 + k}%" for k in range(COUNT)),
        ),
        Wanted(4, {"T": "°C", "H": "%"}, {"T": (20, LAST)}, COUNT),
    ),
    counted("milliseconds of which nothing says it", "t", [str(1000 * k) for k in range(COUNT)], 1, "for milliseconds"),
    counted(
        "milliseconds that are not even",
        "time",
        [str(100 * k + (k % 5 == 0)) for k in range(COUNT)],
        10,
        "milliseconds",
    ),
    counted("minutes in seconds", "t", [str(60 * k) for k in range(COUNT)], 1 / 60, "taken for seconds"),
    counted("seconds one by one", "t", [str(k) for k in range(COUNT)], 1),
    Habit(
        "milliseconds under no name",
        text_file("log.txt", *(f"{100 * k},{20 + 0.25 * k}" for k in range(COUNT))),
        Wanted(10, {"column 2": "1"}, {"column 2": (20, LAST)}, COUNT),
        said='"column 1" goes by 100, taken for milliseconds',
    ),
    Habit(
        "topics that take turns, without a time",
        text_file(
            "log.txt",
            *(f"shed/temp {20 + 0.25 * k}\nshed/hum {40 + k}" for k in range(COUNT // 2)),
        ),
        Wanted(
            0,
            {"shed/temp": "1", "shed/hum": "ct"},
            {"shed/temp": (20, 20 + 0.25 * 59), "shed/hum": (40, 99)},
            COUNT,
        ),
        said='"column 1" names the sensor of each row',
    ),
    Habit(
        "units that are names",
        text_file(
            "log.csv", "s,Volt,Lux,Celsius,Counts", *(f"{k},{k / 4},{10 * k},{20.5},{k % 7}" for k in range(COUNT))
        ),
        Wanted(1, {"Volt": "V", "Lux": "lx", "Celsius": "°C", "Counts": "ct"}, {}, COUNT),
    ),
    Habit(
        "lines that are numbered in brackets",
        text_file("log.txt", *(f"[{k}] T={20 + 0.25 * k} C" for k in range(COUNT))),
        Wanted(0, {"T": "°C"}, {"T": (20, LAST)}, COUNT),
    ),
]
