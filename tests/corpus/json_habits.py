"""JSON as servers, libraries and small programs write it, whole and cut off."""

from __future__ import annotations

import json
from collections.abc import Callable
from typing import Any

from tests.corpus.habit import ROWS, Habit, Wanted, moments, text_file

K = range(ROWS)
ISO = [f"{moment:%Y-%m-%dT%H:%M:%SZ}" for moment in moments(10)]
LAST = 20 + (ROWS - 1) / 4
ENDS = {"temp": (20.0, LAST)}
TEN = Wanted(0.1, {"temp": "1"}, ENDS)


def lines(name: str, key: str, value: Callable[[int], Any], wanted: Wanted = TEN) -> Habit:
    """An object a line, its time under some name."""
    return Habit(name, text_file("log.jsonl", *(json.dumps({key: value(k), "temp": 20 + k / 4}) for k in K)), wanted)


def document(name: str, what: Any, wanted: Wanted = TEN, file: str = "log.json", indent: int | None = None) -> Habit:
    return Habit(name, text_file(file, json.dumps(what, indent=indent)), wanted)


EPOCH = 1_936_339_207
OBJECTS = [{"ts": ISO[k], "temp": 20 + k / 4} for k in K]
TEMPS = [20 + k / 4 for k in K]
BOTH = {"temp": ENDS["temp"], "hum": (50.0, LAST + 30)}
TWO = Wanted(0.1, {"temp": "1", "hum": "1"}, BOTH)


def pairs(late_s: int, up: float = 20) -> list[list[float]]:
    """Milliseconds since 1970, and a value."""
    return [[1000 * (EPOCH + 10 * k + late_s), up + k / 4] for k in K]


def points(up: float) -> list[dict[str, Any]]:
    return [{"t": ISO[k], "v": up + k / 4} for k in K]


def in_turn() -> list[str]:
    """A line of one, a line of the other."""
    return [
        json.dumps({"t": 10 * k + late, name: up + k / 4})
        for k in K
        for late, name, up in ((0, "temp", 20), (5, "hum", 50))
    ]


WAVE = [512 + (37 * k) % 211 for k in K]
WAVE_ENDS = {"wave": (512, 512 + (37 * (ROWS - 1)) % 211)}


def source(name: str, file: str, *written: str, **ends: tuple[float, float]) -> Habit:
    """Arrays of a program; ``wave`` is one of them."""
    units = {"wave": "ct", **{each: "°C" if each.endswith("C") else "ct" for each in ends}}
    return Habit(f"a source, {name}", text_file(file, *written), Wanted(0, units, {**WAVE_ENDS, **ends}))


SOURCES: list[Habit] = [
    source("an array of C", "wave.h", "int16_t wave[] = {", *(f"  {each}," for each in WAVE), "};"),
    source(
        "in hexadecimal, with its size and comments",
        "wave.c",
        "/* of the lid = { 1, 2 } */",
        f"#define COUNT {ROWS}",
        f"static const uint16_t wave[COUNT] PROGMEM = {{ // {ROWS} of them",
        ", ".join(hex(each) if place % 2 else f"{each}U" for place, each in enumerate(WAVE)) + " };",
    ),
    source(
        "two arrays of C",
        "both.c",
        f"int wave[{ROWS}]={{{','.join(map(str, WAVE))}}};",
        f"float t_C[{ROWS}] = {{{', '.join(f'{each}f' for each in TEMPS)}}};",
        t_C=(20.0, LAST),
    ),
    source("a list of an interpreter", "wave.py", "import gate", f"wave = [{', '.join(map(str, WAVE))}]"),
    source("an array of an interpreter", "wave.py", f"wave = num.array([{', '.join(map(str, WAVE))}])"),
    source(
        "an array that is cut off",
        "wave.h",
        f"int wave[] = {{{', '.join(map(str, WAVE))}",
    ),
    Habit(
        "a source, an array of rows",
        text_file("xyz.c", "int xyz[][3] = {", *(f"{{{each}, {-each}, {k}}}," for k, each in enumerate(WAVE)), "};"),
        Wanted(
            0,
            {"column 1": "ct", "column 2": "ct", "column 3": "ct"},
            {"column 1": WAVE_ENDS["wave"], "column 3": (0, ROWS - 1)},
        ),
    ),
]
JSON: list[Habit] = [
    *SOURCES,
    *(
        lines(f"JSON lines, time called {key}", key, lambda k: ISO[k])
        for key in ("ts", "date", "datetime", "_time", "utc", "created_at", "date_time", "Zeit", "stand")
    ),
    lines("JSON lines, epoch", "epoch", lambda k: EPOCH + 10 * k),
    lines("JSON lines, ms in brackets", "Time (ms)", lambda k: 10_000 * k),
    lines("JSON lines, no time", "who", lambda k: "north", Wanted(0, {"temp": "1"}, ENDS)),
    Habit(
        "JSON lines, sensors below each other",
        text_file(
            "log.jsonl",
            *(
                json.dumps({"at": ISO[k], "sensor": name, "value": 20 + k / 4 + up})
                for name, up in (("yard", 0), ("lid", 10))
                for k in K
            ),
        ),
        Wanted(0.1, {"yard": "1", "lid": "1"}, {"yard": (20.0, LAST), "lid": (30.0, LAST + 10)}, 2 * ROWS),
    ),
    Habit(
        "JSON lines, objects in objects",
        text_file(
            "log.jsonl",
            *(json.dumps({"at": ISO[k], "lid": {"temp_c": 20 + k / 4, "acc": [k, 1, 2]}, "ok": True}) for k in K),
        ),
        Wanted(0.1, {"lid.temp_c": "°C", "lid.acc.1": "ct", "lid.acc.2": "ct", "lid.acc.3": "ct", "ok": "ct"}),
    ),
    Habit(
        "JSON lines, numbers in quotes",
        text_file("log.jsonl", *(json.dumps({"ts": str(EPOCH + 10 * k), "temp": f"{20 + k / 4} °C"}) for k in K)),
        Wanted(0.1, {"temp": "°C"}, ENDS),
    ),
    document("JSON, a list of objects", OBJECTS),
    document("JSON, a list of objects, indented", OBJECTS, indent=2),
    document("JSON, a list under a name", {"device": "yard", "data": OBJECTS}),
    document("JSON, a list two names deep", {"result": {"series": OBJECTS}, "status": 200}),
    document(
        "JSON, units in an object beside",
        {"place": 48.1, "hourly_units": {"ts": "iso8601", "temp": "°C"}, "hourly": {"ts": ISO, "temp": TEMPS}},
        Wanted(0.1, {"temp": "°C"}, ENDS),
    ),
    document("JSON, columns by name", {"ts": ISO, "temp": [20 + k / 4 for k in K]}),
    document("JSON, rows with names first", [["ts", "temp"], *([ISO[k], 20 + k / 4] for k in K)]),
    document("JSON, rows of numbers", [[k / 10, 20 + k / 4] for k in K], Wanted(10, {"column 2": "1"})),
    document(
        "JSON, a table library's columns by place",
        {"temp": {str(1000 * (EPOCH + 10 * k)): 20 + k / 4 for k in K}},
    ),
    document(
        "JSON, a table library's three lists",
        {"columns": ["temp"], "index": [1000 * (EPOCH + 10 * k) for k in K], "data": [[20 + k / 4] for k in K]},
    ),
    document("JSON, objects by epoch", {str(1000 * (EPOCH + 10 * k)): {"temp": 20 + k / 4} for k in K}),
    document("JSON, objects by moment", {ISO[k]: {"temp": 20 + k / 4} for k in K}),
    document("JSON in a file of another ending", OBJECTS, file="export.txt"),
    document("JSON, moments by name", {ISO[k]: 20 + k / 4 for k in K}, Wanted(0.1, {"value": "1"})),
    document("JSON, nothing but numbers", [20 + k / 4 for k in K], Wanted(0, {"value": "1"})),
    document(
        "JSON, rows beside objects that name them",
        {
            "fields": [{"name": "ts", "type": "time"}, {"name": "temp", "type": "f"}],
            "rows": [[ISO[k], 20 + k / 4] for k in K],
        },
    ),
    document(
        "JSON, names and rows under other words",
        {"header": ["ts", "temp"], "values": [[ISO[k], 20 + k / 4] for k in K]},
    ),
    document("JSON, pairs by name", {"temp": pairs(0), "hum": pairs(0, 50)}, TWO),
    document(
        "JSON, pairs by name, the moment last",
        {"temp": [each[::-1] for each in pairs(0)], "hum": [each[::-1] for each in pairs(0, 50)]},
        TWO,
    ),
    document(
        "JSON, points of objects with a name",
        [{"name": name, "points": points(up)} for name, up in (("temp", 20), ("hum", 50))],
        TWO,
    ),
    document(
        "JSON, one series with its unit",
        {"name": "temp", "unit": "°C", "points": points(20)},
        Wanted(0.1, {"temp °C": "°C"}, {"temp °C": ENDS["temp"]}),
    ),
    document(
        "JSON, lists of objects with a name",
        [{"id": "time", "values": [10 * k for k in K]}, {"id": "temp", "values": TEMPS}],
    ),
    document(
        "JSON, a value beside its unit",
        [{"ts": ISO[k], "temp": {"value": 20 + k / 4, "unit": "°C"}} for k in K],
        Wanted(0.1, {"temp.value": "°C"}, {"temp.value": ENDS["temp"]}),
    ),
    Habit(
        "JSON, pairs by name in turn",
        text_file("log.json", json.dumps({"temp": pairs(0), "hum": pairs(5, 50)})),
        Wanted(0.1, {"temp": "1", "hum": "1"}, BOTH),
        said="written in turn",
    ),
    Habit(
        "JSON lines, columns in turn",
        text_file("log.jsonl", *in_turn()),
        Wanted(0.1, {"temp": "1", "hum": "1"}, BOTH),
        said="written in turn",
    ),
    document(
        "JSON, pairs by name beside what else there is to say",
        {"device": "lid", "temp": pairs(0), "hum": pairs(0, 50), "ok": True, "notes": ["a", "b"]},
        TWO,
    ),
    document(
        "JSON, two lists of objects with values of their own",
        {
            "air": [{"t": ISO[k], "temp": 20 + k / 4, "hum": 50} for k in K],
            "soil": [{"t": ISO[k], "wet": k} for k in K],
            "setup": [{"date": ISO[0], "level": 1}],
        },
        Wanted(0.1, {"air.temp": "1", "air.hum": "ct", "soil.wet": "ct"}, {"air.temp": ENDS["temp"]}),
    ),
    document(
        "JSON, rows of numbers under a name",
        {"device": "lid", "data": [[1000 * (EPOCH + 10 * k), 20 + k / 4] for k in K]},
        Wanted(0.1, {"column 2": "1"}, {"column 2": ENDS["temp"]}),
    ),
    document(
        "JSON, columns by name, one of them with axes",
        {"t": [10 * k for k in K], "acc": [[20 + k / 4, 0.5, 9.5] for k in K]},
        Wanted(0.1, {"acc.1": "1", "acc.2": "1", "acc.3": "1"}, {"acc.1": ENDS["temp"], "acc.3": (9.5, 9.5)}),
    ),
    document("JSON, a list of texts beside the rows", {"log": ["on", "off"], "limits": [1, 2, 3], "data": OBJECTS}),
    Habit("JSON, one object behind the other", text_file("log.json", "".join(map(json.dumps, OBJECTS))), TEN),
    Habit(
        "JSON, indented objects one after the other",
        text_file("log.json", *(json.dumps(each, indent=2) for each in OBJECTS)),
        TEN,
    ),
    Habit("JSON, lines that end in a comma", text_file("log.txt", *(json.dumps(each) + "," for each in OBJECTS)), TEN),
    Habit(
        "JSON, a list that was never closed",
        text_file("log.json", "[" + ",\n".join(map(json.dumps, OBJECTS)) + ","),
        TEN,
    ),
    Habit(
        "JSON, cut off within an object",
        text_file("log.json", json.dumps({"who": "lid", "data": [*OBJECTS, {"ts": ISO[0]}]})[:-12]),
        TEN,
    ),
    Habit(
        "JSON, cut off within a column",
        text_file("log.json", json.dumps({"t": [10 * k for k in K], "temp": [*TEMPS[:30], 27.75]})[:-3]),
        Wanted(0.1, {"temp": "1"}, {"temp": (20.0, TEMPS[29])}),
    ),
    Habit(
        "dictionaries as an interpreter prints them",
        text_file("log.txt", *(str({"ts": ISO[k], "temp": 20 + k / 4, "door": None, "ok": True}) for k in K)),
        Wanted(0.1, {"temp": "1", "ok": "ct"}, ENDS),
    ),
    Habit(
        "lists as an interpreter prints them",
        text_file("log.txt", *(str([k / 10, 20 + k / 4, None if k % 5 == 2 else k]) for k in K)),
        Wanted(10, {"column 2": "1", "column 3": "ct"}, {"column 2": ENDS["temp"]}),
    ),
]
