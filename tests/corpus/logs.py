"""Lines of text that are no rows: logs with their moments, events, and sentences of receivers."""

from __future__ import annotations

from collections.abc import Callable
from typing import Any

from tests.corpus.habit import ROWS, Habit, Wanted, moments, text_file
from tests.corpus.json_habits import EPOCH, LAST, K


def stamped(
    name: str,
    form: Callable[[int], str],
    units: dict[str, str],
    rate_hz: float = 0.1,
    file: str = "log.log",
    **more: Any,
) -> Habit:
    return Habit(name, text_file(file, *(form(k) for k in K)), Wanted(rate_hz, units, **more))


AT = moments(10)
TH = {"T": "1", "H": "ct"}
EVENTS: list[Habit] = [
    stamped("events, moments alone", lambda k: f"{AT[k]:%Y-%m-%d %H:%M:%S}", {"event": "ct"}, ends={"event": (1, 1)}),
    stamped(
        "events, moments and a word", lambda k: f"{AT[k]:%Y-%m-%dT%H:%M:%S},tip", {"tip": "ct"}, ends={"tip": (1, 1)}
    ),
    stamped("events behind a dash", lambda k: f"{AT[k]:%d.%m.%Y %H:%M:%S} - tip", {"tip": "ct"}, ends={"tip": (1, 1)}),
    stamped(
        "events of a door",
        lambda k: f"[{AT[k]:%H:%M:%S}] door {'closed' if k % 2 else 'open'}",
        {"door open": "ct", "door closed": "ct"},
        ends={"door open": (1, 0), "door closed": (0, 1)},
    ),
    stamped("events by the second", lambda k: f"{EPOCH + 10 * k}: click", {"click": "ct"}, ends={"click": (1, 1)}),
    stamped(
        "events below a head",
        lambda k: f"{AT[k]:%Y-%m-%d %H:%M:%S};bee in" if k else "when;what",
        {"bee in": "ct"},
        rows=ROWS - 1,
    ),
    stamped(
        "events of many kinds",
        lambda k: f"{AT[k]:%H:%M:%S} tag {chr(97 + k % 13)}{chr(97 + k % 7)} seen",
        {"event": "ct"},
        ends={"event": (1, 1)},
    ),
]
LOGS: list[Habit] = [
    *EVENTS,
    stamped(
        "log with an arrow", lambda k: f"{AT[k]:%H:%M:%S}.000 -> T={20 + k / 4} H={50 + k}", TH, ends={"T": (20, LAST)}
    ),
    *(
        stamped(f"lines in words, {name}", line, {"column 1": "1", "column 2": "1"}, 0, ends={"column 1": (20, 21)})
        for name, line in {
            "between marks": lambda k: f"<{20 + k % 7 / 4},{50 + k}.5>",
            "between braces": lambda k: f"{{{20 + k % 7 / 4}, {50 + k}.5}}",
            "between a dollar and a star": lambda k: f"${20 + k % 7 / 4},{50 + k}.5*",
            "between brackets": lambda k: f"[{20 + k % 7 / 4}; {50 + k}.5]",
            "as calls": lambda k: f"T({20 + k % 7 / 4}) H({50 + k}.5)",
            "as a sentence": lambda k: f"It is {20 + k % 7 / 4} degrees here, and {50 + k}.5 percent.",
        }.items()
    ),
    stamped("log without times", lambda k: f"T={20 + k / 4} H={50 + k}", TH, 0, ends={"T": (20, LAST)}),
    stamped(
        "log with the moment last, in billionths",
        lambda k: f"air,place=lid temp={20 + k / 4},hum={50.5 + k} {EPOCH + 10 * k}000000000",
        {"temp": "1", "hum": "1"},
        ends={"temp": (20, LAST)},
    ),
    stamped(
        "log of dictionaries",
        lambda k: f"{AT[k]:%H:%M:%S} {{'temp': {20 + k / 4}, 'door': None}}",
        {"temp": "1"},
        ends={"temp": (20, LAST)},
    ),
    stamped(
        "log with levels",
        lambda k: f"[{AT[k]:%Y-%m-%d %H:%M:%S}] INFO temp: {20 + k / 4} °C, hum: {50 + k} %",
        {"temp": "°C", "hum": "%"},
        ends={"temp": (20, LAST)},
    ),
    stamped(
        "log in colours",
        lambda k: f"\x1b[0;32mI ({5000 + 500 * k}) app: temp={20 + k / 4} hum={50 + k}\x1b[0m",
        {"temp": "1", "hum": "ct"},
        2,
        ends={"temp": (20, LAST)},
    ),
    stamped(
        "log of a serial monitor",
        lambda k: f"{AT[k]:%H:%M:%S}.250 > {20 + k / 4},{50 + k}",
        {"column 1": "1", "column 2": "ct"},
        ends={"column 1": (20, LAST)},
    ),
    stamped(
        "log of a system",
        lambda k: f"{AT[k]:%b %d %H:%M:%S} yard logger[12]: mass={40 + k / 10}kg",
        {"mass": "kg"},
        ends={"mass": (40, 40 + (ROWS - 1) / 10)},
    ),
    *(
        stamped(
            f"log of a system, {name}",
            lambda k, tag=tag: f"{AT[k]:%b %e %H:%M:%S} {tag}: temperature: {20 + k / 4} C, humidity: {50 + k} %",
            {"temperature": "°C", "humidity": "%"},
            ends={"temperature": (20, LAST), "humidity": (50, 50 + ROWS - 1)},
        )
        for name, tag in (("with a number of a process", "yard sensors[412]"), ("with a name", "yard sensors"))
    ),
    *(
        stamped(
            f"log with {name} before its names",
            lambda k, form=form: f"{form(k)}temp:{20 + k / 4},hum:{50 + k}",
            {"temp": "1", "hum": "ct"},
            rate,
            ends={"temp": (20, LAST), "hum": (50, 50 + ROWS - 1)},
        )
        for name, form, rate in (
            ("milliseconds", lambda k: f"{1200 + 500 * k},", 2),
            ("milliseconds and their unit", lambda k: f"{1200 + 500 * k} ms: ", 2),
            ("seconds with a point", lambda k: f"{k / 8:.3f} ", 8),
            ("the number of the line", lambda k: f"{k + 1} ", 0),
        )
    ),
    stamped(
        "log with words between",
        lambda k: f"{AT[k]:%Y-%m-%dT%H:%M:%SZ} T={20 + k / 4}" if k % 4 else f"{AT[k]:%Y-%m-%dT%H:%M:%SZ} still here",
        {"T": "1"},
        rows=ROWS - 10,
    ),
    stamped(
        "log of objects",
        lambda k: f'{AT[k]:%H:%M:%S} {{"temp": {20 + k / 4}, "door": false}}',
        {"temp": "1", "door": "ct"},
        ends={"temp": (20, LAST)},
    ),
    stamped(
        "log in a .txt", lambda k: f"{AT[k]:%d.%m.%Y %H:%M:%S}: mass: {40 + k / 10} kg", {"mass": "kg"}, file="log.txt"
    ),
    stamped(
        "log, epoch before each line",
        lambda k: f"{EPOCH + 10 * k}.5: temp={20 + k / 4}",
        {"temp": "1"},
        ends={"temp": (20, LAST)},
    ),
]


def sentence(body: str) -> str:
    total = 0
    for letter in body.encode():
        total ^= letter
    return f"${body}*{total:02X}"


def position(k: int) -> list[str]:
    clock = f"{8 + k // 3600:02}{k // 60 % 60:02}{k % 60:02}.00"
    return [
        sentence(f"GPRMC,{clock},A,4807.{k:03},N,01131.{k:03},W,{k / 10:.1f},84.4,140531,,"),
        sentence(f"GPGGA,{clock},4807.{k:03},N,01131.{k:03},W,1,08,0.9,{500 + k / 10:.1f},M,46.9,M,,"),
    ]


SENTENCES: list[Habit] = [
    Habit(
        "answers of a modem, each with its OK",
        text_file("modem.txt", *(line for k in K for line in (f"+TEMP: {20 + k / 4}", "OK")), end="\r\n"),
        Wanted(0, {"TEMP": "1"}, {"TEMP": (20, LAST)}),
    ),
    Habit(
        "sentences of a position",
        text_file("ride.nmea", *(line for k in K for line in position(k)), end="\r\n"),
        Wanted(
            1,
            {
                "latitude": "°",
                "longitude": "°",
                "speed over ground": "kn",
                "course": "°",
                "fix": "1",
                "satellites": "1",
                "spread": "1",
                "height": "m",
            },
            {
                "latitude": (48 + 7 / 60, 48 + 7.039 / 60),
                "longitude": (-(11 + 31 / 60), -(11 + 31.039 / 60)),
                "height": (500, 503.9),
            },
        ),
    ),
    Habit(
        "sentences with a wrong sum",
        text_file("ride.txt", *("$GPGGA,bad*00" if k == 5 else sentence(f"WIMTW,{10 + k / 10:.1f},C") for k in K)),
        Wanted(0, {"water temperature": "°C"}, {"water temperature": (10, 13.9)}, ROWS - 1),
    ),
    Habit(
        "sentences of a kind of one's own",
        text_file("yard.txt", *(sentence(f"PYARD,{k},{20 + k / 4},north") for k in K)),
        Wanted(0, {"ARD 1": "ct", "ARD 2": "1"}, {"ARD 2": (20, LAST)}),
    ),
]
