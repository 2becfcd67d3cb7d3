"""Ways in which programs lay out rows, heads, units and numbers."""

from __future__ import annotations

import gzip
from pathlib import Path

from tests.corpus.habit import ROWS, Habit, Wanted, moments, text_file

TENTHS = [f"{k / 10:.1f}" for k in range(ROWS)]
TEMP = [f"{20 + k / 4:.2f}" for k in range(ROWS)]
HUM = [f"{50 + k}" for k in range(ROWS)]
LAST = 20 + (ROWS - 1) / 4
ISO = [f"{moment:%Y-%m-%d %H:%M:%S}" for moment in moments(10)]


def comma(text: str) -> str:
    return text.replace(".", ",")


def table(head: list[str], *columns: list[str], sep: str = ",") -> list[str]:
    """A head and rows of those columns."""
    return [*head, *(sep.join(cells) for cells in zip(*columns, strict=True))]


def rows(name: str, lines: list[str], units: dict[str, str], rate_hz: float = 10, **more: object) -> Habit:
    """A habit of a text file."""
    said, refused = str(more.pop("said", "")), str(more.pop("refused", ""))
    file, coding, end = str(more.pop("file", "log.csv")), str(more.pop("coding", "utf-8")), str(more.pop("end", "\n"))
    wanted = Wanted(rate_hz, units, **more)  # type: ignore[arg-type]
    return Habit(name, text_file(file, *lines, coding=coding, end=end), wanted, refused, said)


def packed(folder: Path) -> Path:
    path = folder / "log.csv.gz"
    path.write_bytes(gzip.compress("\n".join(table(["t,temp"], TENTHS, TEMP)).encode()))
    return path


def named(name: str, unit: str | None, column: str | None = None) -> Habit:
    """One column beside the time, by its name: what unit is it in?"""
    lines = table([f"t_s\t{name}"], TENTHS, TEMP, sep="\t")
    return Habit(f"name {name}", text_file("log.tsv", *lines), Wanted(10, {column or name: unit or "1"}))


def long_rows(names: list[str], *, by_sensor: bool = False) -> list[list[str]]:
    """Moment, sensor, value for each of some sensors at each moment; or one sensor's rows behind the other's."""
    told = [[t, name, f"{20 + 10 * place + k / 4:.2f}"] for k, t in enumerate(ISO) for place, name in enumerate(names)]
    return sorted(told, key=lambda row: names.index(row[1])) if by_sensor else told


def in_lines(head: str, told: list[list[str]], sep: str = ",") -> list[str]:
    return [head, *(sep.join(row) for row in told)]


ENDS = {"temp": (20.0, LAST)}
SHAPES: list[Habit] = [
    Habit(
        "bits without 0b",
        text_file("log.csv", "t,port", *(f"{k / 10:.1f},{200 + k:08b}" for k in range(ROWS))),
        Wanted(10, {"port": "ct"}, {"port": (200, 239)}),
        said='"port" is taken for bits: 11001000 is 200',
    ),
    Habit(
        "nibbles without 0b",
        text_file("log.csv", "t,port,temp", *(f"{k / 10:.1f},{k % 16:04b},{20 + k / 4}" for k in range(ROWS))),
        Wanted(10, {"port": "ct", "temp": "1"}, {"port": (0, 7), "temp": (20.0, 29.75)}),
        said='"port" is taken for bits: 0000 is 0',
    ),
    Habit(
        "hexadecimal without 0x",
        text_file("log.csv", "t,reg", *(f"{k / 10:.1f},{800 + 20 * k:04X}" for k in range(ROWS))),
        Wanted(10, {"reg": "ct"}, {"reg": (800, 1580)}),
        said='"reg" is taken for hexadecimal: 0320 is 800',
    ),
    Habit(
        "exponents of older programs",
        text_file("log.txt", *(f" {k / 10:.4E} {20 + k / 4:.6E}".replace("E", "D") for k in range(ROWS))),
        Wanted(10, {"column 2": "1"}, {"column 2": (20.0, 29.75)}),
    ),
    Habit(
        "means below the table",
        text_file(
            "log.csv", "time,temp", *(f"{t},{x}" for t, x in zip(ISO, TEMP, strict=True)), "", "mean,24.9", "max,99"
        ),
        Wanted(0.1, {"temp": "1"}, ENDS),
        said="2 rows after the last time have none, like a mean or a sum; they are left out",
    ),
    Habit(
        "a sentence below the table",
        text_file("log.csv", "time,temp", *(f"{t},{x}" for t, x in zip(ISO, TEMP, strict=True)), "Total rows: 40"),
        Wanted(0.1, {"temp": "1"}, ENDS),
        said="1 row after the last time has none, like a mean or a sum; it is left out",
    ),
    rows("plain", table(["t,temp"], TENTHS, TEMP), {"temp": "1"}, ends=ENDS),
    rows(
        "a comma within quotes in a name",
        table(['t,"Temp, °C","Hum, %"'], TENTHS, TEMP, HUM),
        {"Temp, °C": "°C", "Hum, %": "%"},
    ),
    rows(
        "a note with a comma in quotes",
        table(["t,note,temp"], TENTHS, [f'"ok, row {k}"' for k in range(ROWS)], TEMP),
        {"temp": "1"},
        ends=ENDS,
    ),
    rows(
        "all in quotes",
        table(['"t","temp"'], [f'"{t}"' for t in TENTHS], [f'"{x}"' for x in TEMP]),
        {"temp": "1"},
        ends=ENDS,
    ),
    rows(
        "thousands in quotes",
        table(["t,load_g"], TENTHS, [f'"{1200 + k:,}.5"' for k in range(ROWS)]),
        {"load_g": "g"},
        ends={"load_g": (1200.5, 1200.5 + ROWS - 1)},
    ),
    rows(
        "thousands with points, decimal comma",
        table(["t;load_g"], [comma(t) for t in TENTHS], [f"1.{200 + k},5" for k in range(ROWS)], sep=";"),
        {"load_g": "g"},
        ends={"load_g": (1200.5, 1200.5 + ROWS - 1)},
    ),
    rows(
        "thousands with points and whole numbers",
        table(["n;load_g"], HUM, [f"{980 + k}" if k < 20 else f"1.{k - 20:03}" for k in range(ROWS)], sep=";"),
        {"n": "ct", "load_g": "g"},
        0,
        ends={"load_g": (980, 980 + ROWS - 1)},
    ),
    rows(
        "thousands with apostrophes",
        table(["t;load_g"], TENTHS, [f"1'{200 + k}.5" for k in range(ROWS)], sep=";"),
        {"load_g": "g"},
        ends={"load_g": (1200.5, 1200.5 + ROWS - 1)},
    ),
    rows(
        "thousands with blanks",
        table(["t;load_g"], [comma(t) for t in TENTHS], [f"1 {200 + k},5" for k in range(ROWS)], sep=";"),
        {"load_g": "g"},
        ends={"load_g": (1200.5, 1200.5 + ROWS - 1)},
    ),
    rows(
        "decimal commas with three places",
        table(["t;mass"], [f"{k}" for k in range(ROWS)], [f"12,{100 + k}" for k in range(ROWS)], sep=";"),
        {"mass": "1"},
        1,
        ends={"mass": (12.1, 12.1 + (ROWS - 1) / 1000)},
        said="may be thousands",
    ),
    rows(
        "one decimal comma a row, or two columns",
        [f"2{k % 4},{(7 * k) % 10}" for k in range(ROWS)],
        {"column 1": "ct", "column 2": "ct"},
        0,
        said="if that may be one number, 20.0,",
    ),
    rows(
        "decimal comma and tab",
        table(["t\ttemp"], [comma(t) for t in TENTHS], [comma(x) for x in TEMP], sep="\t"),
        {"temp": "1"},
        ends=ENDS,
    ),
    rows(
        "spreadsheet's first line",
        ["sep=;", *table(["t;temp"], [comma(t) for t in TENTHS], [comma(x) for x in TEMP], sep=";")],
        {"temp": "1"},
        ends=ENDS,
    ),
    rows("delimiter at the end", table(["t,temp,"], TENTHS, [f"{x}," for x in TEMP]), {"temp": "1"}, ends=ENDS),
    rows(
        "names in a comment",
        table(["# t_s temp_C hum_pct"], TENTHS, TEMP, HUM, sep=" "),
        {"temp_C": "°C", "hum_pct": "%"},
    ),
    rows(
        "names in a comment, commas",
        table(["# t_s, temp_C, hum_pct"], TENTHS, TEMP, HUM),
        {"temp_C": "°C", "hum_pct": "%"},
    ),
    rows("names in a comment, blank rows", table(["# t_s, temp_C"], TENTHS, TEMP, sep=" "), {"temp_C": "°C"}),
    rows(
        "a matrix program's comment",
        ["# Created by a program", "# name: x", *table(["% t temp"], TENTHS, TEMP, sep="  ")],
        {"temp": "1"},
        ends=ENDS,
    ),
    rows(
        "slashes before comments",
        ["// logger 3", "// t;temp", *table([], TENTHS, TEMP, sep=";")],
        {"temp": "1"},
        ends=ENDS,
    ),
    rows("semicolons before comments", ["; logger 3", *table(["; t,temp"], TENTHS, TEMP)], {"temp": "1"}, ends=ENDS),
    rows(
        "comments among the rows",
        table(["t,temp"], TENTHS, [f"{x}\n# still here" if k == 9 else x for k, x in enumerate(TEMP)]),
        {"temp": "1"},
        ends=ENDS,
    ),
    rows(
        "units under the names",
        table(["time,temp,hum,press", "s,degC,%RH,hPa"], TENTHS, TEMP, HUM, [f"{1000 + k}.5" for k in range(ROWS)]),
        {"temp": "°C", "hum": "%", "press": "hPa"},
    ),
    rows(
        "units in brackets under the names",
        table(["Time\tForce\tWay", "[ms]\t[N]\t[mm]"], [f"{20 * k}" for k in range(ROWS)], TEMP, HUM, sep="\t"),
        {"Force": "N", "Way": "mm"},
        50,
    ),
    rows(
        "an instrument's head of five lines",
        [
            "Record Length,40",
            "Sample Interval,0.1",
            "Trigger Point,12",
            "Channel,CH1,CH2",
            *table(["TIME,CH1,CH2"], TENTHS, TEMP, HUM),
        ],
        {"CH1": "1", "CH2": "ct"},
        ends={"CH1": (20, LAST)},
    ),
    rows(
        "an instrument's head with units",
        [
            "Model,generic",
            "Start,2031-05-14 08:00:00",
            "",
            *table(["x-axis,1,2", "second,Volt,Volt"], TENTHS, TEMP, HUM),
        ],
        {"1": "V", "2": "V"},
    ),
    rows(
        "a statistics program's row names",
        table(["temp hum"], [f'"{k + 1}"' for k in range(ROWS)], TEMP, HUM, sep=" "),
        {"temp": "1", "hum": "ct"},
        0,
        ends=ENDS,
    ),
    rows(
        "a table library's row numbers",
        table([",time,temp"], [str(k) for k in range(ROWS)], TENTHS, TEMP),
        {"temp": "1"},
        ends=ENDS,
    ),
    rows(
        "row numbers under a name",
        table(["index,t,temp"], [str(k) for k in range(ROWS)], TENTHS, TEMP),
        {"temp": "1"},
        ends=ENDS,
    ),
    rows(
        "cells with units",
        table(["t,temp,p"], TENTHS, [f"{x} °C" for x in TEMP], [f"{1000 + k} hPa" for k in range(ROWS)]),
        {"temp": "°C", "p": "hPa"},
        ends=ENDS,
    ),
    rows(
        "cells with units of two sizes",
        table(
            ["t;r"],
            TENTHS,
            [f"{900 + 5 * k} Ω" if k < 20 else f"{1 + (k - 20) / 200:.3f} kΩ" for k in range(ROWS)],
            sep=";",
        ),
        {"r": "Ω"},
        ends={"r": (900, 1095)},
    ),
    rows(
        "true and false",
        table(["t,temp,door"], TENTHS, TEMP, ["true" if k % 3 else "false" for k in range(ROWS)]),
        {"temp": "1", "door": "1"},
        ends={"door": (0, 0)},
    ),
    rows(
        "on and off",
        table(["t,pump"], TENTHS, ["ON" if k % 2 else "OFF" for k in range(ROWS)]),
        {"pump": "1"},
        ends={"pump": (0, 1)},
    ),
    rows(
        "hexadecimal",
        table(["t,adc"], TENTHS, [f"0x{1000 + k:04X}" for k in range(ROWS)]),
        {"adc": "ct"},
        ends={"adc": (1000, 1000 + ROWS - 1)},
    ),
    rows(
        "words for no value",
        table(["t,temp"], TENTHS, ["n/a" if k in (5, 6) else "ERR" if k == 9 else x for k, x in enumerate(TEMP)]),
        {"temp": "1"},
        ends=ENDS,
    ),
    rows(
        "not-a-numbers",
        table(["t,temp"], TENTHS, ["NaN" if k in (5, 6) else x for k, x in enumerate(TEMP)]),
        {"temp": "1"},
        ends=ENDS,
    ),
    rows(
        "a real minus sign",
        table(["t;temp"], TENTHS, [f"−{x}" for x in TEMP], sep=";"),
        {"temp": "1"},
        ends={"temp": (-20, -LAST)},
    ),
    rows("plus signs", table(["t,temp"], TENTHS, [f"+{x}" for x in TEMP]), {"temp": "1"}, ends=ENDS),
    rows(
        "names with blanks around", table(["  t , temp (C) , hum "], TENTHS, TEMP, HUM), {"temp (C)": "°C", "hum": "ct"}
    ),
    rows(
        "columns set by blanks",
        [f"{'t':>8}{'temp':>10}", *(f"{t:>8}{x:>10}" for t, x in zip(TENTHS, TEMP, strict=True))],
        {"temp": "1"},
        ends=ENDS,
        file="log.txt",
    ),
    rows(
        "bars with frames",
        ["| t | temp |", "|---|---|", *(f"| {t} | {x} |" for t, x in zip(TENTHS, TEMP, strict=True))],
        {"temp": "1"},
        ends=ENDS,
        file="log.md",
    ),
    rows(
        "UTF-16 of an office program",
        table(["t\ttemp"], TENTHS, TEMP, sep="\t"),
        {"temp": "1"},
        ends=ENDS,
        coding="utf-16",
        file="log.txt",
    ),
    rows("UTF-16 without a mark", table(["t,Temp (°C)"], TENTHS, TEMP), {"Temp (°C)": "°C"}, coding="utf-16-le"),
    rows("UTF-8 with a mark", table(["t,Temp (°C)"], TENTHS, TEMP), {"Temp (°C)": "°C"}, coding="utf-8-sig"),
    rows("Windows letters", table(["t,Temp [°C]"], TENTHS, TEMP), {"Temp [°C]": "°C"}, coding="cp1252", end="\r\n"),
    rows("carriage returns alone", table(["t,temp"], TENTHS, TEMP), {"temp": "1"}, ends=ENDS, end="\r"),
    Habit("packed", packed, Wanted(10, {"temp": "1"}, ENDS)),
    rows("a last line cut off", [*table(["t,temp"], TENTHS, TEMP), "4.0"], {"temp": "1"}, rows=ROWS + 1, ends=ENDS),
    rows(
        "moments and words beside",
        table(["when,station,temp"], ISO, ["north"] * ROWS, TEMP),
        {"temp": "1"},
        0.1,
        ends=ENDS,
    ),
    rows("a company of three", [f"ABC,{m},{x}" for m, x in zip(ISO, TEMP, strict=True)], {"column 3": "1"}, 0.1),
    named("Temp (C)", "°C"),
    named("Temp (F)", "°F"),
    named("temp_F", "°F"),
    named("Temp [C]", "°C"),
    named("Temperatur in °C", "°C"),
    named("Light (lux)", "lx"),
    named("EC (uS/cm)", "µS/cm"),
    named("gyro [dps]", "°/s"),
    named("Pressure hPa", "hPa"),
    named("I in mA", "mA"),
    named("CO2 ppm", "ppm"),
    named("dist_cm", "cm"),
    named("p/hPa", "hPa"),
    named("wind m/s", "m/s"),
    named("flow l/min", "l/min"),
    named("temp_min", None),
    named("phase_a", None),
    named("sensor_a", None),
    named("phase_c", None),
    named("gas_k", None),
    named("accel_g", "gn"),
    named("acc_z_g", "gn"),
    named("weight_g", "g"),
    named("current_a", "A"),
    named("Humidity (%RH)", "%"),
    named("Sensor A", None),
    named("x_final", None),
    named("level [%]", "%"),
    named("U / mV", "mV"),
    named("wind_kmh", "km/h"),
    named("Speed [km/h]", "km/h"),
    rows(
        "sensors below each other, with units",
        in_lines(
            "time,entity_id,state,unit_of_measurement",
            [[*row, {"yard": "°C", "hive": "kg"}[row[1]]] for row in long_rows(["yard", "hive"])],
        ),
        {"yard": "°C", "hive": "kg"},
        0.1,
        rows=2 * ROWS,
        ends={"yard": (20.0, LAST), "hive": (30.0, LAST + 10)},
        said='"entity_id" names the sensor of each row; 2 columns were made',
    ),
    rows(
        "one sensor's rows behind the other's",
        in_lines("date;probe;value", long_rows(["north", "south", "lid"], by_sensor=True), ";"),
        {"north": "1", "south": "1", "lid": "1"},
        0.1,
        rows=3 * ROWS,
        ends={"north": (20.0, LAST), "lid": (40.0, LAST + 20)},
        lasts_s=390,
    ),
    rows(
        "sensors by number, two values each",
        in_lines("ts,node,temp,hum (%)", [[*row, str(50 + int(row[1]))] for row in long_rows(["7", "12"])]),
        {"node 7 temp": "1", "node 7 hum (%)": "%", "node 12 temp": "1", "node 12 hum (%)": "%"},
        0.1,
        rows=2 * ROWS,
        ends={"node 7 temp": (20.0, LAST), "node 12 hum (%)": (62, 62)},
    ),
    rows(
        "sensors taking turns",
        in_lines("t,channel,value", [[t, "ab"[k % 2], TEMP[k]] for k, t in enumerate(TENTHS)]),
        {"a": "1", "b": "1"},
        5,
        ends={"a": (20.0, 20 + (ROWS - 2) / 4), "b": (20.25, LAST)},
    ),
    rows(
        "a state beside the numbers",
        in_lines("t,mode,temp", [[t, "idle" if k < 15 else "run", TEMP[k]] for k, t in enumerate(TENTHS)]),
        {"temp": "1"},
        ends=ENDS,
    ),
    rows(
        "a verdict beside each number",
        in_lines("t,temp,check", [[t, TEMP[k], ("fine", "cold", "fine", "warm")[k % 4]] for k, t in enumerate(TENTHS)]),
        {"temp": "1"},
        ends=ENDS,
    ),
    rows(
        "columns that take turns",
        ["t,temp,hum (%)", *(row for k in range(ROWS) for row in (f"{10 * k},{TEMP[k]},", f"{10 * k + 5},,{50 + k}"))],
        {"temp": "1", "hum (%)": "%"},
        0.1,
        ends={**ENDS, "hum (%)": (50, 50 + ROWS - 1)},
        said="written in turn",
    ),
    rows(
        "a sensor that fails now and then, and the code of its fault",
        [
            "t,temp,fault",
            *(f"{10 * k},,{4 + k % 3}" if k in (3, 4, 9, 17, 18, 30) else f"{10 * k},{TEMP[k]}," for k in range(ROWS)),
        ],
        {"temp": "1", "fault": "ct"},
        0.1,
        ends=ENDS,
    ),
]
