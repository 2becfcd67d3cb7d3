"""What stands above a table, between two, and beside one: rows of names, units and statistics, rates, other tables."""

from __future__ import annotations

from tests.corpus.habit import ROWS, Habit, moments
from tests.corpus.shapes import ENDS, HUM, ISO, LAST, TEMP, TENTHS, rows, table

NAMES = "TIMESTAMP,RECORD,air,rh,batt"
OF_LOGGER = table([], ISO, [str(k) for k in range(ROWS)], TEMP, HUM, [f"{12.6 - k / 100:.2f}" for k in range(ROWS)])
UNITS = {"air": "°C", "rh": "%", "batt": "V"}
NUMBERS = [f"{500 + k % 13}" for k in range(ROWS)]


def only_numbers(name: str, head: list[str], rate_hz: float, *, names: str = "adc") -> Habit:
    """One column, and what stands above it."""
    said = "the rate is taken from the lines above" if rate_hz else ""
    return rows(name, [*head, names, *NUMBERS], {names: "ct"}, rate_hz, ends={names: (500.0, 500.0)}, said=said)


HEADS: list[Habit] = [
    rows(
        "a first row with nothing in it",
        ["when,rain", f"{ISO[0]},", *table([], ISO[1:], HUM[1:])],
        {"rain": "ct"},
        0.1,
        ends={"rain": (51.0, 50.0 + ROWS - 1)},
    ),
    rows(
        "names, units and statistics",
        ["kind,hut,7,program", NAMES, "TS,RN,Deg C,%,Volts", ",,Avg,Smp,Min", *OF_LOGGER],
        UNITS,
        0.1,
        ends={"air": (20.0, LAST)},
    ),
    rows(
        "names and statistics",
        ["when,temp,hum", ",Avg,Max", *table([], ISO, TEMP, HUM)],
        {"temp": "1", "hum": "ct"},
        0.1,
        ends=ENDS,
    ),
    rows(
        "statistics for names",
        ["when,min,max", *table([], ISO, TEMP, HUM)],
        {"min": "1", "max": "ct"},
        0.1,
        ends={"min": (20.0, LAST)},
    ),
    rows(
        "a title above two columns",
        ["Greenhouse", "t,temp", *table([], TENTHS, TEMP)],
        {"temp": "1"},
        ends=ENDS,
    ),
    rows(
        "a title above two columns of whole numbers",
        ["Greenhouse", "second,rain", *table([], [str(k) for k in range(ROWS)], HUM)],
        {"rain": "ct"},
        1,
        ends={"rain": (50.0, 50.0 + ROWS - 1)},
    ),
    rows(
        "a title above decimal commas",
        ["Greenhouse", *[f"{k},5" for k in range(ROWS)]],
        {"Greenhouse": "1"},
        0,
        ends={"Greenhouse": (0.5, ROWS - 0.5)},
    ),
    rows(
        "units in a comment above the names",
        ["# units: s, degC, %", *table(["second,temp,hum"], [str(k) for k in range(ROWS)], TEMP, HUM)],
        {"temp": "°C", "hum": "%"},
        1,
        ends=ENDS,
    ),
    rows(
        "units in a comment, parted by blanks",
        ["# logger 3", "# units: ms V", *table(["time supply"], [str(100 * k) for k in range(ROWS)], TEMP, sep=" ")],
        {"supply": "V"},
        10,
        ends={"supply": (20.0, LAST)},
    ),
    rows(
        "columns named in a comment",
        ["# device: probe", "# columns: ax ay az", *table([], TEMP, HUM, TEMP, sep=" ")],
        {"ax": "1", "ay": "ct", "az": "1"},
        0,
        ends={"ax": (20.0, LAST)},
    ),
    only_numbers("a rate in a comment", ["# rate: 50 Hz"], 50),
    only_numbers("a sample rate without a unit", ["Sample Rate: 250"], 250),
    only_numbers("a sampling frequency in kilohertz", ["# sampling frequency = 1.2 kHz"], 1200),
    only_numbers("samples per second", ["Sample rate,500 sps"], 500),
    only_numbers("a unit in brackets before", ["# sample rate [Hz]: 20"], 20),
    only_numbers("a sample period", ["# sample period 20 ms"], 50),
    only_numbers("a sampling interval in seconds", ["Sampling interval (s);0,5"], 2),
    only_numbers("an interval of minutes", ["# logging interval: 5 min"], 1 / 300),
    only_numbers("a step without a unit", ["# dt = 0.01"], 100),
    only_numbers("an instrument's increment", ["Time Increment,1.0E-04"], 1e4),
    only_numbers("rates of something else", ["# baud rate: 9600", "# heart rate 72", "# mains frequency: 50 Hz"], 0),
    only_numbers("a rate of bits", ["# data rate: 9600 baud", "# recording time: 60 s", "# log time 08:00"], 0),
    only_numbers("an interval in words", ["# sampling interval: 10 minutes"], 1 / 600),
    only_numbers("an interval of something else", ["# service interval 90 days", "# period covered: 2 weeks"], 0),
    rows(
        "a step in a cell of the head",
        ["X,CH1,Start,Increment,", "Sequence,Volt,-1.0e-02,1.0e-04,", *[f"{k},{x},," for k, x in enumerate(TEMP)]],
        {"X": "ct", "CH1": "1"},
        1e4,
        said="the rate is taken from the lines above",
    ),
    rows(
        "a rate above, and a time beside",
        ["# sample rate: 50 Hz", *table(["t,temp"], TENTHS, TEMP)],
        {"temp": "1"},
        ends=ENDS,
    ),
    rows(
        "another table below",
        [*table(["time,temp"], ISO, TEMP), "", "time,hum", *table([], ISO, HUM)],
        {"temp": "1"},
        0.1,
        ends=ENDS,
        said="line 43 begins another table",
    ),
    rows(
        "two tables with titles",
        ["[temp]", *table(["time,degC"], ISO, TEMP), "", "[hum]", *table(["time,%"], ISO, HUM)],
        {"degC": "°C"},
        0.1,
        ends={"degC": (20.0, LAST)},
        said="its 40 lines are left out",
    ),
    rows(
        "the same head again",
        [*table(["time,temp"], ISO[:20], TEMP[:20]), *table(["time,temp"], ISO[20:], TEMP[20:])],
        {"temp": "1"},
        0.1,
        ends=ENDS,
    ),
    rows(
        "a row for each channel",
        ["sensor," + ",".join(f"{m:%H:%M}" for m in moments(60)), "temp," + ",".join(TEMP), "hum," + ",".join(HUM)],
        {f"{m:%H:%M}": "1" for m in moments(60)},
        0,
        rows=2,
        said="where each row is a channel, turn the table round first",
    ),
    rows(
        "minutes and seconds, or hours and minutes",
        table(["elapsed,temp"], [f"{k // 60}:{k % 60:02d}" for k in range(ROWS)], TEMP),
        {"temp": "1"},
        1 / 60,
        ends=ENDS,
        said="as minutes and seconds all would go 60 times as fast",
    ),
    rows(
        "hours and minutes of a morning",
        table(["time,temp"], [f"{8 + k // 60}:{k % 60:02d}" for k in range(ROWS)], TEMP),
        {"temp": "1"},
        1 / 60,
        ends=ENDS,
    ),
    rows(
        "less than can be measured at first",
        ["t,conc", *(f"{k / 10},{'<0.5' if k < 5 else k}" for k in range(ROWS))],
        {"conc": "1"},
        ends={"conc": (5.0, ROWS - 1.0)},
    ),
    rows(
        "an error at first and later",
        ["t,conc", *(f"{k / 10},{'ERR3' if k in (0, 1, 20) else k}" for k in range(ROWS))],
        {"conc": "1"},
        ends={"conc": (2.0, ROWS - 1.0)},
    ),
    rows(
        "cells kept as texts",
        table(["time,temp"], [f'="{t}"' for t in ISO], [f'="{x}"' for x in TEMP]),
        {"temp": "1"},
        0.1,
        ends=ENDS,
    ),
    rows(
        "decibels behind the numbers",
        table(["t,rssi"], TENTHS, [f"-{60 + k} dBm" for k in range(ROWS)]),
        {"rssi": "dBm"},
        ends={"rssi": (-60.0, -99.0)},
    ),
    rows(
        "fractions of inches",
        table(["t,temp,gap"], TENTHS, TEMP, [f"{k % 4} 1/4" for k in range(ROWS)]),
        {"temp": "1"},
        ends=ENDS,
        said='"gap" is left out: "0 1/4" is not a number',
    ),
    rows(
        "tuples of an interpreter",
        [f"({k}, {x}, {'None' if k == 3 else h})" for k, (x, h) in enumerate(zip(TEMP, HUM, strict=True))],
        {"column 1": "ct", "column 2": "1", "column 3": "ct"},
        0,
        ends={"column 2": (20.0, LAST), "column 3": (50.0, 50.0 + ROWS - 1)},
        file="log.txt",
    ),
    rows(
        "records of several lines",
        [
            line
            for t, x, h in zip(TENTHS, TEMP, HUM, strict=True)
            for line in (f"Time: {t} s", f"Temp: {x} °C", f"Hum: {h} %", "")
        ],
        {"Temp": "°C", "Hum": "%"},
        ends={"Temp": (20.0, LAST), "Hum": (50.0, 50.0 + ROWS - 1)},
        file="log.txt",
    ),
    rows(
        "records in which a line may be missing",
        [
            line
            for k, (t, x) in enumerate(zip(TENTHS, TEMP, strict=True))
            for line in (f"- t: {t}", *([f"  temp: {x}"] if k % 7 != 3 else []), f"  hum: {50 + k}")
        ],
        {"temp": "1", "hum": "ct"},
        ends={"temp": (20.0, LAST), "hum": (50.0, 50.0 + ROWS - 1)},
        file="log.txt",
    ),
    rows(
        "a unit in a column of its own",
        [
            "No.,Time,DC/AC,Value,Unit",
            *(f"{k + 1},{t},DC,{x},V" for k, (t, x) in enumerate(zip(ISO, TEMP, strict=True))),
        ],
        {"Value": "V"},
        0.1,
        ends={"Value": (20.0, LAST)},
    ),
    rows(
        "a meter that changes its range long after the head",
        [
            "Time,Value,Unit",
            *(f"{k},{0.5 if k < 900 else 250},{'V' if k < 900 else 'mV'}" for k in range(1000)),
        ],
        {"Value": "V"},
        1,
        ends={"Value": (0.5, 0.25)},
        rows=1000,
    ),
    rows(
        "a meter that changes its range",
        [
            "Time,Value,Unit",
            *(
                f"{t},{900 + 10 * k if k < 10 else (900 + 10 * k) / 1000},{'mV' if k < 10 else 'V'}"
                for k, t in enumerate(ISO)
            ),
        ],
        {"Value": "mV"},
        0.1,
        ends={"Value": (900.0, 900.0 + 10 * (ROWS - 1))},
    ),
    rows(
        "which sensor it is in brackets behind the unit",
        [
            '"Plot Title: hut"',
            '"#","Date Time, GMT+02:00","Temp, °C (LGR S/N: 12, SEN S/N: 34)"',
            *table([], HUM, ISO, TEMP),
        ],
        {"#": "ct", "Temp, °C (LGR S/N: 12, SEN S/N: 34)": "°C"},
        0.1,
    ),
    rows(
        "a second field that comes round",
        table(
            ["created_at,entry_id,field1,field2"],
            ISO,
            [str(k + 1) for k in range(ROWS)],
            TEMP,
            [str(50 + k % 7) for k in range(ROWS)],
        ),
        {"field1": "1", "field2": "ct"},
        0.1,
        ends={"field1": (20.0, LAST)},
    ),
    rows(
        "names in quotes behind level and place",
        [
            line
            for t, x, h in zip(ISO, TEMP, HUM, strict=True)
            for line in (
                f"[{t[11:]}][D][sensor:093]: 'Hut Temperature': Sending state {x} °C with 2 decimals of accuracy",
                f"[{t[11:]}][D][sensor:093]: 'Hut Humidity': Sending state {h} % with 0 decimals of accuracy",
            )
        ],
        {"Hut Temperature": "°C", "Hut Humidity": "%"},
        0.1,
        ends={"Hut Temperature": (20.0, LAST), "Hut Humidity": (50.0, 50.0 + ROWS - 1)},
        file="node.log",
    ),
    rows(
        "names that come again, and of what they are above",
        [",hut,,yard,", "time,temp,hum,temp,hum", *table([], ISO, TEMP, HUM, HUM, TEMP)],
        {"hut temp": "1", "hut hum": "ct", "yard temp": "ct", "yard hum": "1"},
        0.1,
        ends={"hut temp": (20.0, LAST), "yard hum": (20.0, LAST)},
    ),
    rows(
        "names in two rows, a unit behind",
        [
            "\t\tTemp\tHi\tOut\tWind",
            "Date\tTime\tOut\tTemp\tHum\tTemp",
            "-" * 40,
            *table([], [t[:10] for t in ISO], [t[11:] for t in ISO], TEMP, HUM, HUM, TEMP, sep="\t"),
        ],
        {"Temp Out": "1", "Hi Temp": "ct", "Out Hum": "ct", "Wind Temp": "1"},
        0.1,
        file="log.txt",
    ),
    rows(
        "names that come again under a title",
        ["Greenhouse,,", "time,temp,temp", *table([], ISO, TEMP, HUM)],
        {"temp": "1", "temp 3": "ct"},
        0.1,
        ends=ENDS,
    ),
]
