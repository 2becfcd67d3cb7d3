"""Lines that programs of makers print: words between the numbers, names that hold for several, lists after a name."""

from __future__ import annotations

from tests.corpus.habit import ROWS, Habit, Wanted, text_file

TEMP = [20 + 0.25 * (k % 7) + 0.5 * (k // 9) for k in range(ROWS)]
HUM = [60 - 0.5 * (k % 5) - k // 11 for k in range(ROWS)]
AT_TEMP, AT_HUM = (TEMP[0], TEMP[-1]), (HUM[0], HUM[-1])
UP = (0.0, ROWS - 1.0)


def spoken(
    name: str,
    form: str,
    units: dict[str, str],
    ends: dict[str, tuple[float, float]] | None = None,
    rate_hz: float = 0,
    said: str = "",
    above: tuple[str, ...] = (),
) -> Habit:
    """Lines of this form: ``k`` counts them, ``ms`` are 500 of each, ``t`` and ``h`` a temperature and a humidity."""
    lines = [
        form.format(k=k, down=900 - k, s=f"{k % 60:02}", ms=500 * k, t=f"{t:.2f}", h=f"{h:.1f}", x=f"{-0.02 * k:.2f}")
        for k, (t, h) in enumerate(zip(TEMP, HUM, strict=True))
    ]
    return Habit(name, text_file("talk.txt", *above, *lines), Wanted(rate_hz, units, ends or {}), said=said)


BOTH = {"temp": "1", "hum": "1"}
SPOKEN: list[Habit] = [
    spoken("a word before each number", "temp {t} hum {h}", BOTH, {"temp": AT_TEMP, "hum": AT_HUM}),
    spoken(
        "words and units around each number",
        "Temperature {t} C Humidity {h} %",
        {"Temperature": "°C", "Humidity": "%"},
        {"Temperature": AT_TEMP, "Humidity": AT_HUM},
    ),
    spoken("the same with a comma", "temp {t} C, hum {h} %", {"temp": "°C", "hum": "%"}, {"hum": AT_HUM}),
    spoken("a sentence that names its number", "Distance is {k} cm", {"Distance": "cm"}, {"Distance": UP}),
    spoken("a sentence that does not", "It is {t} degrees", {"column 1": "1"}, {"column 1": AT_TEMP}),
    spoken("one word, number and unit", "Battery {down} mV", {"Battery": "mV"}, {"Battery": (900, 901 - ROWS)}),
    spoken("names in brackets", "[CH0] {k} [CH1] {down}", {"CH0": "ct", "CH1": "ct"}, {"CH0": UP}),
    spoken("units that could be names", "V {t} A {h}", {"V": "V", "A": "A"}, {"A": AT_HUM}),
    spoken("several after one name", "acc {x} {t} 0.98", {"acc.1": "1", "acc.2": "1", "acc.3": "1"}),
    spoken(
        "a list after a name",
        "acc: [{x}, {t}, 0.98]",
        {"acc.1": "1", "acc.2": "1", "acc.3": "1"},
        {"acc.1": (0, -0.02 * (ROWS - 1)), "acc.2": AT_TEMP},
    ),
    spoken("a list in round brackets", "acc=({x},{t},0.98)", {"acc.1": "1", "acc.2": "1", "acc.3": "1"}),
    spoken(
        "a list after milliseconds",
        "{ms}: [{h}, {t}, 0.98]",
        {"column 1": "1", "column 2": "1", "column 3": "1"},
        {"column 1": AT_HUM},
        rate_hz=2,
    ),
    spoken("milliseconds with their unit before", "{ms}ms: {t} C", {"column 1": "°C"}, {"column 1": AT_TEMP}, 2),
    spoken("milliseconds with their unit in brackets", "[{ms}ms] temp {t} hum {h}", BOTH, {"temp": AT_TEMP}, 2),
    spoken("seconds with their unit in brackets", "({k} s) temp {t} hum {h}", BOTH, {"hum": AT_HUM}, 1),
    spoken(
        "names that hold for several",
        "Acc X: {x} Y: {t} Gyro X: {k} Y: {down}",
        {"Acc X": "1", "Acc Y": "1", "Gyro X": "ct", "Gyro Y": "ct"},
        {"Acc Y": AT_TEMP, "Gyro X": UP},
    ),
    spoken(
        "sensors beside each other with the same names",
        "S1 T={t} H={h} | S2 T={h} H={t}",
        {"S1 T": "1", "S1 H": "1", "S2 T": "1", "S2 H": "1"},
        {"S2 T": AT_HUM},
    ),
    spoken("a sign before each name", ">temp:{t}", {"temp": "1"}, {"temp": AT_TEMP}),
    spoken(
        "a level, milliseconds, a tag and words",
        "I ({ms}) main: temp {t} hum {h}",
        BOTH,
        {"temp": AT_TEMP},
        rate_hz=2,
    ),
    spoken(
        "who says it and how badly, before dashes",
        "2031-05-14 08:00:{s},250 - hut - INFO - temp: {t}, hum: {h}",
        BOTH,
        {"temp": AT_TEMP},
        rate_hz=1,
    ),
    spoken(
        "one topic",
        "2031-05-14T08:00:{s}+0100 garden/temp {t}",
        {"garden/temp": "1"},
        {"garden/temp": AT_TEMP},
        rate_hz=1,
    ),
    spoken("degrees of a temperature", "temp: {t} deg", {"temp": "1"}, {"temp": AT_TEMP}),
    spoken("degrees of an angle", "tilt: {t} deg", {"tilt": "°"}, {"tilt": AT_TEMP}),
    spoken("a comment with the unit of one column", "{down}", {"v": "mV"}, {}, above=("# unit: mV", "v")),
    spoken(
        "a head of a comment sign that numbers rows", "{k},{t}", {"temp": "1"}, {"temp": AT_TEMP}, above=("#,temp",)
    ),
    Habit(
        "inputs that take turns, with milliseconds",
        text_file("talk.txt", *(f"{1000 * k + 5 * n} A{n} {500 + n - k}" for k in range(ROWS) for n in (0, 1))),
        Wanted(1, {"A0": "ct", "A1": "ct"}, {"A0": (500, 501 - ROWS), "A1": (501, 502 - ROWS)}, 2 * ROWS),
        said='"column 2" names the sensor of each row',
    ),
    Habit(
        "a switch that turns each row names no sensor",
        text_file("log.csv", "s,pump,temp", *(f"{k},{'on' if k % 2 else 'off'},{t}" for k, t in enumerate(TEMP))),
        Wanted(1, {"pump": "1", "temp": "1"}, {"pump": (0, 1), "temp": AT_TEMP}),
    ),
]
