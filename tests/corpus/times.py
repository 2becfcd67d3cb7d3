"""Ways in which programs write a time."""

from __future__ import annotations

from collections.abc import Callable
from datetime import datetime, timedelta

from tests.corpus.habit import ROWS, START, Habit, Wanted, moments, text_file

TEMP, HUM = "temp_c", "hum_pct"
UNITS = {TEMP: "°C", HUM: "%"}
ENDS = {TEMP: (20.0, 20.0 + 0.25 * (ROWS - 1)), HUM: (50.0, 50.0 + ROWS - 1)}
EPOCH = 1_936_339_207  # START as if it were in universal time


def rows(times: list[str], header: str = "time", sep: str = ",") -> list[str]:
    """A header and a row each time."""
    head = f"{header}{sep}{TEMP}{sep}{HUM}"
    return [head, *(f"{t}{sep}{20 + 0.25 * place}{sep}{50 + place}" for place, t in enumerate(times))]


def timed(
    name: str,
    form: Callable[[datetime], str],
    step_s: float = 10.0,
    header: str = "time",
    sep: str = ",",
    start: datetime = START,
    said: str = "",
) -> Habit:
    """A file whose times are written so."""
    lines = rows([form(moment) for moment in moments(step_s, start=start)], header, sep)
    wanted = Wanted(1 / step_s, UNITS, ENDS, lasts_s=step_s * (ROWS - 1))
    return Habit(name, text_file("log.csv", *lines), wanted, said=said)


def numbered(name: str, form: Callable[[int], str], rate_hz: float, header: str = "time", said: str = "") -> Habit:
    """A file whose times are numbers, by the place of the row."""
    lines = rows([form(place) for place in range(ROWS)], header)
    return Habit(name, text_file("log.csv", *lines), Wanted(rate_hz, UNITS, ENDS), said=said)


def f(pattern: str) -> Callable[[datetime], str]:
    """A pattern of the standard library."""
    return lambda moment: moment.strftime(pattern)


def milliseconds(pattern: str) -> Callable[[datetime], str]:
    """The same, the last three digits of microseconds left out."""
    return lambda moment: moment.strftime(pattern)[:-3]


def am_pm(moment: datetime) -> str:
    """Month first, hours of twelve, no leading zeros."""
    hour = moment.hour % 12 or 12
    half = "AM" if moment.hour < 12 else "PM"
    return f"{moment.month}/{moment.day}/{moment.year} {hour}:{moment:%M:%S} {half}"


def excel_days(place: int) -> str:
    days = (START - datetime(1899, 12, 30)) / timedelta(days=1) + place * 10 / 86_400
    return f"{days:.7f}"


def two_columns() -> list[str]:
    return [f"{moment:%d.%m.%Y},{moment:%H:%M:%S}" for moment in moments(10)]


def local_autumn() -> list[str]:
    """Every ten minutes through the night in which summer time ends."""
    true = moments(600, start=datetime(2031, 10, 26, 1, 0))
    return [
        f"{moment if place < 12 else moment - timedelta(hours=1):%Y-%m-%d %H:%M:%S}"
        for place, moment in enumerate(true)
    ]


def local_spring() -> list[str]:
    """Every ten minutes through the night in which summer time begins."""
    true = moments(600, start=datetime(2031, 3, 30, 0, 30))
    return [
        f"{moment if place < 9 else moment + timedelta(hours=1):%Y-%m-%d %H:%M:%S}" for place, moment in enumerate(true)
    ]


def hhmm() -> list[str]:
    return [f"{moment.hour}{moment.minute:02}" for moment in moments(600)]


TEN = Wanted(0.1, UNITS, ENDS, lasts_s=10.0 * (ROWS - 1))
TIMES: list[Habit] = [
    timed("iso", f("%Y-%m-%dT%H:%M:%S")),
    timed("iso with Z", f("%Y-%m-%dT%H:%M:%SZ")),
    timed("iso with zone", f("%Y-%m-%dT%H:%M:%S+02:00")),
    timed("iso with a blank and milliseconds", milliseconds("%Y-%m-%d %H:%M:%S.%f"), 0.5),
    timed("iso with nine digits", f("%Y-%m-%dT%H:%M:%S.%f000Z"), 0.25),
    timed("iso with a comma", lambda m: '"' + milliseconds("%Y-%m-%d %H:%M:%S,%f")(m) + '"', 0.5),
    timed("iso without seconds", f("%Y-%m-%d %H:%M"), 60),
    timed("iso compact", f("%Y%m%dT%H%M%SZ")),
    timed("date alone", f("%Y-%m-%d"), 86_400, "day"),
    timed("UTC behind", f("%Y-%m-%d %H:%M:%S UTC"), header="created_at"),
    timed("zone without colon", f("%Y-%m-%d %H:%M:%S +0000")),
    timed("zone in words", f("%Y-%m-%d %H:%M:%S CET")),
    timed("year first with slashes", f("%Y/%m/%d %H:%M:%S"), header="Date"),
    timed("day first with points", f("%d.%m.%Y %H:%M:%S"), header="Datum"),
    timed("day first with points, minutes", f("%d.%m.%Y %H:%M"), 60, header="Zeit", sep=";"),
    timed("day first, two digits of year", f("%d.%m.%y %H:%M:%S"), header="Zeitpunkt", sep="\t"),
    timed("month first, AM and PM", am_pm, 1800, header="Timestamp"),
    timed("day first with slashes", f("%d/%m/%Y %H:%M:%S"), start=datetime(2031, 5, 14, 8)),
    timed("month first by its days", f("%m/%d/%Y %H:%M"), 86_400 / 2, start=datetime(2031, 4, 28)),
    timed("month first by even steps", f("%m/%d/%Y"), 86_400, start=datetime(2031, 1, 1), header="date"),
    timed("day first by even steps", f("%d/%m/%Y"), 86_400, start=datetime(2031, 1, 1), header="date"),
    timed("month in letters", f("%d %b %Y %H:%M:%S"), header="date"),
    timed("month in letters with dashes", f("%d-%b-%y %H:%M:%S"), header="date"),
    timed("month first in letters", lambda m: f'"{m:%b %d, %Y %H:%M:%S}"', header="date"),
    timed("as mail writes it", lambda m: f'"{m:%a, %d %b %Y %H:%M:%S} +0000"', header="date"),
    timed("as C writes it", f("%a %b %d %H:%M:%S %Y"), header="date"),
    timed("as system logs write it", f("%b %d %H:%M:%S"), header="when"),
    timed("clock before date", f("%H:%M:%S %d.%m.%Y"), header="when"),
    timed("clock", f("%H:%M:%S")),
    timed("clock over midnight", f("%H:%M:%S"), 60, start=datetime(2031, 5, 14, 23, 40)),
    timed("clock with milliseconds", milliseconds("%H:%M:%S.%f"), 0.1, header="Zeit"),
    timed("clock without seconds", f("%H:%M"), 300, header="t"),
    timed("clock of twelve hours", f("%I:%M:%S %p"), 1800, header="Time"),
    timed("minutes and seconds", lambda m: f"{m.minute}:{m:%S.%f}"[:-4], 0.5, start=datetime(2031, 1, 1, 0, 59, 50)),
    timed("another name", f("%Y-%m-%d %H:%M:%S"), header="stand"),
    Habit("date and clock in two columns", text_file("log.csv", *rows(two_columns(), "Date,Time")), TEN),
    Habit(
        "date and clock parted by blanks",
        text_file("log.txt", *(f"{m:%Y-%m-%d %H:%M:%S} {20 + 0.25 * k} {50 + k}" for k, m in enumerate(moments(10)))),
        Wanted(0.1, {"column 3": "1", "column 4": "ct"}, {"column 3": ENDS[TEMP]}),
    ),
    Habit(
        "local time in autumn",
        text_file("log.csv", *rows(local_autumn())),
        Wanted(1 / 600, UNITS, ENDS, lasts_s=600 * (ROWS - 1)),
        said="the clock was set back by an hour",
    ),
    Habit(
        "local time in spring",
        text_file("log.csv", *rows(local_spring())),
        Wanted(1 / 600, UNITS, ENDS, lasts_s=600 * (ROWS - 1)),
        said="the clock was set on by an hour",
    ),
    Habit("hours and minutes in one number", text_file("log.csv", *rows(hhmm())), Wanted(1 / 600, UNITS, ENDS)),
    numbered("epoch in s", lambda k: str(EPOCH + 10 * k), 0.1, "ts"),
    numbered("epoch in s with a fraction", lambda k: f"{EPOCH + k / 4:.2f}", 4, "epoch"),
    numbered("epoch in ms", lambda k: str(1000 * EPOCH + 250 * k), 4, "timestamp"),
    numbered("epoch in µs", lambda k: str(1_000_000 * EPOCH + 500 * k), 2000, "_time"),
    numbered("epoch in ns", lambda k: str(1_000_000_000 * EPOCH + 1_000_000 * k), 1000, "utc"),
    numbered("spreadsheet days", excel_days, 0.1, "date"),
    numbered("days", lambda k: f"{k * 0.25}", 1 / 21_600, "days"),
    numbered("hours", lambda k: f"{k * 0.5}", 1 / 1800, "Time (h)"),
    numbered("minutes", lambda k: f"{k}", 1 / 60, "t_min"),
    numbered("millis", lambda k: f"{1234 + 20 * k}", 50, "millis"),
    numbered("micros", lambda k: f"{77 + 500 * k}", 2000, "micros()"),
    numbered("ms in brackets", lambda k: f"{20 * k}", 50, "Time (ms)"),
    numbered("ns in brackets", lambda k: f"{2000 * k}", 500_000, "time [ns]"),
    numbered("seconds with an exponent", lambda k: f"{k * 1e-4:.3e}", 1e4, "Time (s)"),
    numbered("no zero before the point", lambda k: f"{k / 8:.3f}".lstrip("0") or "0", 8, "seconds"),
    timed(
        "duration of days and clock",
        lambda m: f"{(m - START).days + 2} days {(datetime(2000, 1, 1) + (m - START)):%H:%M:%S}",
        600,
    ),
    timed(
        "duration with hours above 24",
        lambda m: f"{30 + (m - START).seconds // 3600}:{(datetime(2000, 1, 1) + (m - START)):%M:%S}",
        60,
        header="elapsed",
    ),
    timed(
        "duration in words", lambda m: f"{(m - START).seconds // 60}m {(m - START).seconds % 60}s", 10, header="elapsed"
    ),
    timed(
        "duration in ISO 8601",
        lambda m: f"PT{(m - START).seconds // 60}M{(m - START).seconds % 60}S",
        10,
        header="elapsed",
    ),
    Habit(
        "no time at all",
        text_file("log.csv", f"{TEMP},{HUM}", *(f"{20 + k % 3},{50 - k % 5}" for k in range(ROWS))),
        Wanted(0, UNITS),
    ),
    Habit(
        "years",
        text_file("log.csv", *rows([str(1990 + k) for k in range(ROWS)])),
        Wanted(0, {"time": "ct", **UNITS}, ENDS),
        said='"time" counts years',
    ),
    Habit(
        "a time in no known form",
        text_file("log.csv", *rows([f"2031w20d{k % 7}" for k in range(ROWS)], "Datum")),
        Wanted(0, UNITS, ENDS),
        said='"Datum" looks like a time',
    ),
    Habit(
        "day or month, nobody knows",
        text_file("log.csv", *rows(["03/04/2031 10:00", "03/05/2031 10:00"])),
        Wanted(1 / 2_592_000, UNITS, {TEMP: (20, 20.25)}, 2),
        said='"03/04/2031 10:00" is read with the day first',
    ),
    Habit(
        "months",
        text_file("log.csv", *rows([f"{2028 + k // 12}-{k % 12 + 1:02}" for k in range(ROWS)], "Month")),
        Wanted(1 / (31 * 86_400), UNITS, ENDS),
    ),
    Habit(
        "a date in parts",
        text_file("log.csv", *rows([f"2031,5,{14 + k // 24},{k % 24}" for k in range(ROWS)], "year,month,day,hour")),
        Wanted(0, {"year": "ct", "month": "ct", "day": "ct", "hour": "ct", **UNITS}, ENDS),
        said='"year", "month" and "day" are in separate columns',
    ),
    Habit(
        "a first column that rises evenly under another name",
        text_file("log.csv", *rows([f"{k * 1e-6:.6e}" for k in range(ROWS)], "Trace Name")),
        Wanted(1e6, UNITS, ENDS),
        said='"Trace Name" rises evenly and is taken for the time',
    ),
    Habit(
        "rows that are numbered and no more",
        text_file("log.csv", *(f"{k},{20 + k / 4}" for k in range(ROWS))),
        Wanted(0, {"column 1": "ct", "column 2": "1"}),
    ),
    Habit(
        "a speed is no time",
        text_file("log.csv", "speed m/s,temp", *(f"{k / 4},{20 + k % 3}" for k in range(ROWS))),
        Wanted(0, {"speed m/s": "m/s", "temp": "ct"}),
    ),
    Habit(
        "a lowest temperature is no time",
        text_file("log.csv", "temp_min,temp_max", *(f"{k / 4},{20 + k}" for k in range(ROWS))),
        Wanted(0, {"temp_min": "1", "temp_max": "ct"}),
    ),
    *(
        Habit(
            f"{unit} since 1970 in the last column, without names",
            text_file("log.csv", *(f"{20 + 0.25 * k},{50 + k},{(EPOCH + 10 * k) * each}" for k in range(ROWS))),
            Wanted(0.1, {"column 1": "1", "column 2": "ct"}, {"column 1": ENDS[TEMP]}),
        )
        for unit, each in (("seconds", 1), ("milliseconds", 1000), ("microseconds", 1_000_000))
    ),
    Habit(
        "seconds since 1970 in the last column, under a name that says nothing",
        text_file("log.csv", f"{TEMP},q", *(f"{20 + 0.25 * k},{EPOCH + 10 * k}" for k in range(ROWS))),
        Wanted(0.1, {TEMP: "°C"}, {TEMP: ENDS[TEMP]}),
        said='"q" counts like seconds since 1970, and is taken for the time',
    ),
    Habit(
        "a meter that stands at billions",
        text_file("log.csv", f"{TEMP},energy_wh", *(f"{20 + 0.25 * k},{1_700_000_000 + k}" for k in range(ROWS))),
        Wanted(0, {TEMP: "°C", "energy_wh": "Wh"}, {TEMP: ENDS[TEMP]}),
    ),
    timed("a day and a clock in digits", f("%Y%m%d,%H%M%S"), header="date,time"),
    timed("a day and hours and minutes in digits", f("%Y%m%d,%H%M"), 60, header="date,time"),
    timed("a clock in digits", f("%H%M%S"), 30),
    timed("days in digits", f("%Y%m%d"), 86_400, header="date"),
    timed("a colon between day and clock", f("%d/%b/%Y:%H:%M:%S")),
    numbered("hours and minutes with letters", lambda k: f"{8 + k // 60}h{k % 60:02d}m", 1 / 60),
    Habit(
        "day and clock in digits of two figures",
        text_file("log.csv", *rows([f"{m:%y%m%d},{m:%H%M%S}" for m in moments(60)], "date,time")),
        Wanted(1 / 60, {"date": "ct", **UNITS}, ENDS),
    ),
    Habit(
        "a year and the day in it",
        text_file("log.csv", *rows([f"2031,{134 + k // 24},{k % 24}" for k in range(ROWS)], "year,doy,hour")),
        Wanted(0, {"year": "ct", "doy": "ct", "hour": "ct", **UNITS}, ENDS),
        said='"year" and "doy" are in separate columns',
    ),
    Habit(
        "a column without a name that rises",
        text_file("log.csv", *(f"{20 + 0.25 * k},{50 + k % 3}" for k in range(ROWS))),
        Wanted(4, {"column 2": "ct"}),
        said='"column 1" rises throughout and is taken for the time, in seconds; nothing names it',
    ),
    *(
        Habit(
            f"a day and a time of day with am and pm, {name}",
            text_file(
                "log.csv",
                "Date,Time,temp",
                *(
                    f"{m.month}/{m.day}/{m.year},{m:%I:%M:%S %p},{20 + k / 4}"
                    for k, m in enumerate(moments(step_s, start=datetime(2031, 5, 1, 8)))
                ),
            ),
            Wanted(1 / step_s, {"temp": "1"}, {"temp": (20.0, 29.75)}, lasts_s=step_s * (ROWS - 1)),
        )
        for name, step_s in (("within a day", 10), ("over three days", 7200), ("over a month", 72_000))
    ),
    *(
        Habit(
            f"a moment with {name}",
            text_file("log.csv", "when;temp", *(f"{form(m)};{20 + k / 4}" for k, m in enumerate(moments(10)))),
            Wanted(0.1, {"temp": "1"}, {"temp": (20.0, 29.75)}, lasts_s=10.0 * (ROWS - 1)),
        )
        for name, form in (
            ("points in its clock, behind letters of a month", lambda m: f"{m:%d-%b-%y %H.%M.%S}"),
            ("points in its clock, behind a date with points", lambda m: f"{m:%d.%m.%Y %H.%M.%S}"),
            ("a month in Austrian", lambda m: f"{m.day}. Jänner {m:%Y %H:%M:%S}"),
            ("a month in French, cut short", lambda m: f"{m.day} janv. {m:%Y %H:%M:%S}"),
            ("a month in Italian", lambda m: f"{m.day} giugno {m:%Y, %H:%M:%S}"),
            ("a month in Dutch", lambda m: f"{m.day} maart {m:%Y %H:%M:%S}"),
            ("a month in Portuguese", lambda m: f"{m.day} fev. {m:%Y %H:%M:%S}"),
            ("signs of the East between its parts", lambda m: f"{m.year}年{m.month}月{m.day}日 {m:%H:%M:%S}"),
            ("signs of the East throughout", lambda m: f"{m:%Y}年{m:%m}月{m:%d}日{m:%H}時{m:%M}分{m:%S}秒"),
        )
    ),
    *(
        Habit(
            f"what has gone by, {name}",
            text_file("log.txt", *(f"{form(10 * k)} {20 + k / 4} {50 + k % 3}" for k in range(ROWS))),
            Wanted(0.1, {"column 2": "1", "column 3": "ct"}, {"column 2": (20.0, 29.75)}),
        )
        for name, form in (
            ("as T+ minutes and seconds", lambda s: f"T+{s // 60:02}:{s % 60:02}"),
            ("as T+ hours, minutes, seconds", lambda s: f"T+{s // 3600:02}:{s // 60 % 60:02}:{s % 60:02}"),
            ("with a plus and its unit", lambda s: f"+{s}.003s"),
        )
    ),
    Habit(
        "whole minutes, of a few minutes",
        text_file("log.csv", "time,temp", *(f"{m:%H:%M},{20 + k / 4}" for k, m in enumerate(moments(6)))),
        Wanted(1 / 6, {"temp": "1"}, {"temp": (20.0, 29.75)}),
        said="10 rows share each time",
    ),
    Habit(
        "numbers in bits",
        text_file("log.txt", *(f"0b{200 + k:010b} {20 + k / 4}" for k in range(ROWS))),
        Wanted(0, {"column 1": "ct", "column 2": "1"}, {"column 1": (200, 239), "column 2": (20.0, 29.75)}),
    ),
    *(
        Habit(
            f"a log with {name}",
            text_file(
                "node.log", *(f"{m.strftime(form)} temp={20 + k / 4} hum={50 + k}" for k, m in enumerate(moments(10)))
            ),
            Wanted(0.1, {"temp": "1", "hum": "ct"}, {"temp": (20.0, 29.75), "hum": (50.0, 89.0)}),
        )
        for name, form in (
            ("a weekday, and the year behind the clock", "%a %b %d %H:%M:%S %Y"),
            ("a zone before the year", "%a %b %d %H:%M:%S CET %Y"),
            ("the moments of mails", "%a, %d %b %Y %H:%M:%S +0000"),
            ("a month in letters between slashes", "%d/%b/%Y:%H:%M:%S"),
        )
    ),
]
