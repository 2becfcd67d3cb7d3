"""Formats other than rows of text: tables of libraries, spreadsheets, arrays, sound; and the list of all there are."""

from __future__ import annotations

import zipfile
from collections.abc import Callable
from datetime import UTC, timedelta
from pathlib import Path
from typing import Any

import numpy as np

from tests.corpus.habit import ROWS, Habit, Wanted, moments
from tests.corpus.json_habits import ENDS, EPOCH, ISO, JSON, LAST, TEN, K
from tests.corpus.logs import LOGS, SENTENCES
from tests.corpus.refusals import REFUSED, by


def parquet(make: Callable[[Any], Any]) -> Callable[[Path], Path]:
    def write(path: Path) -> None:
        import polars

        make(polars).write_parquet(path)

    return by("log.parquet", write)


TEMPS = [20 + k / 4 for k in K]
PARQUET: list[Habit] = [
    Habit(
        "Parquet, moments with a zone",
        parquet(lambda p: p.DataFrame({"ts": [m.replace(tzinfo=UTC) for m in moments(10)], "temp": TEMPS})),
        TEN,
    ),
    Habit(
        "Parquet, moments under any name", parquet(lambda p: p.DataFrame({"temp": TEMPS, "stand": moments(10)})), TEN
    ),
    Habit(
        "Parquet, durations",
        parquet(lambda p: p.DataFrame({"since": [timedelta(milliseconds=100 * k) for k in K], "temp": TEMPS})),
        Wanted(10, {"temp": "1"}, ENDS),
    ),
    Habit(
        "Parquet, sensors below each other",
        parquet(
            lambda p: p.DataFrame(
                {
                    "at": [*moments(10), *moments(10)],
                    "who": ["yard"] * ROWS + ["lid"] * ROWS,
                    "value": [*TEMPS, *(each + 10 for each in TEMPS)],
                    "unit": ["°C"] * ROWS + ["kg"] * ROWS,
                }
            )
        ),
        Wanted(0.1, {"yard": "°C", "lid": "kg"}, {"yard": (20.0, LAST), "lid": (30.0, LAST + 10)}, 2 * ROWS),
    ),
    Habit("Parquet, moments as text", parquet(lambda p: p.DataFrame({"when": ISO, "temp": TEMPS})), TEN),
    Habit(
        "Parquet, epoch in ms",
        parquet(lambda p: p.DataFrame({"timestamp": [1000 * EPOCH + 10_000 * k for k in K], "temp": TEMPS})),
        TEN,
    ),
    Habit(
        "Parquet, dates",
        parquet(lambda p: p.DataFrame({"day": [m.date() for m in moments(86_400)], "temp": TEMPS})),
        Wanted(1 / 86_400, {"temp": "1"}, ENDS),
    ),
    Habit(
        "Parquet, truth",
        parquet(lambda p: p.DataFrame({"ts": moments(10), "door": [k % 2 == 0 for k in K]})),
        Wanted(0.1, {"door": "ct"}, {"door": (1, 0)}),
    ),
    Habit("Parquet, no time", parquet(lambda p: p.DataFrame({"temp": TEMPS})), Wanted(0, {"temp": "1"}, ENDS)),
]


def xlsx(*rows: list[Any], sheet: str = "Sheet1", more: str = "", hidden: str = "") -> Callable[[Path], Path]:
    def write(path: Path) -> None:
        import openpyxl

        book = openpyxl.Workbook()
        page = book.active
        page.title = sheet
        for row in rows:
            page.append(row)
        if more:
            book.create_sheet(more).append(["nothing", "but", "words"])
        if hidden:
            other = book.create_sheet(hidden, 0)
            other.sheet_state = "hidden"
            for row in rows:
                other.append([cell if isinstance(cell, str) else 99 for cell in row])
        book.save(path)

    return by("log.xlsx", write)


def ods(*rows: list[str]) -> Callable[[Path], Path]:
    """By hand, as the open standard has it: numbers as values, moments as dates."""

    def cell(value: Any) -> str:
        if isinstance(value, float | int):
            return f'<table:table-cell office:value-type="float" office:value="{value}"/>'
        if value[:2] == "20":
            return f'<table:table-cell office:value-type="date" office:date-value="{value}"/>'
        return f'<table:table-cell office:value-type="string"><text:p>{value}</text:p></table:table-cell>'

    def write(path: Path) -> None:
        spaces = " ".join(
            f'xmlns:{name}="urn:oasis:names:tc:opendocument:xmlns:{name}:1.0"' for name in ("office", "table", "text")
        )
        told = "".join(f"<table:table-row>{''.join(map(cell, row))}</table:table-row>" for row in rows)
        with zipfile.ZipFile(path, "w") as packed:
            packed.writestr("mimetype", "application/vnd.oasis.opendocument.spreadsheet")
            packed.writestr(
                "content.xml",
                f'<?xml version="1.0"?><office:document-content {spaces} office:version="1.2"><office:body>'
                f'<office:spreadsheet><table:table table:name="S">{told}</table:table></office:spreadsheet>'
                "</office:body></office:document-content>",
            )
            manifest = "urn:oasis:names:tc:opendocument:xmlns:manifest:1.0"
            packed.writestr(
                "META-INF/manifest.xml",
                f'<?xml version="1.0"?><m:manifest xmlns:m="{manifest}"><m:file-entry m:full-path="/" '
                'm:media-type="application/vnd.oasis.opendocument.spreadsheet"/></m:manifest>',
            )

    return by("log.ods", write)


SHEETS: list[Habit] = [
    Habit(
        "spreadsheet with moments",
        xlsx(["Zeit", "temp", "hum"], *([m, 20 + k / 4, 50 + k] for k, m in enumerate(moments(10)))),
        Wanted(0.1, {"temp": "1", "hum": "ct"}, ENDS),
    ),
    Habit(
        "spreadsheet with sensors below each other",
        xlsx(
            ["Zeit", "Sensor", "Wert"],
            *([m, name, 20 + k / 4 + up] for k, m in enumerate(moments(10)) for name, up in (("yard", 0), ("lid", 10))),
        ),
        Wanted(0.1, {"yard": "1", "lid": "1"}, {"yard": (20.0, LAST), "lid": (30.0, LAST + 10)}, 2 * ROWS),
    ),
    Habit(
        "spreadsheet with a title and units",
        xlsx(
            ["Yard, May"], [], ["Time", "temp", "p"], ["s", "°C", "hPa"], *([k / 10, 20 + k / 4, 1000 + k] for k in K)
        ),
        Wanted(10, {"temp": "°C", "p": "hPa"}, ENDS),
    ),
    Habit(
        "spreadsheet with dates and clocks",
        xlsx(["Datum", "Uhrzeit", "temp"], *([m.date(), m.time(), 20 + k / 4] for k, m in enumerate(moments(10)))),
        TEN,
    ),
    Habit(
        "spreadsheet with texts for times",
        xlsx(["Datum", "temp"], *([f"{m:%d.%m.%Y %H:%M:%S}", 20 + k / 4] for k, m in enumerate(moments(10)))),
        TEN,
    ),
    Habit(
        "spreadsheet of two sheets",
        xlsx(["t", "temp"], *([k / 10, 20 + k / 4] for k in K), sheet="data", more="notes"),
        Wanted(10, {"temp": "1"}, ENDS),
    ),
    Habit(
        "spreadsheet that says how moments are written",
        xlsx(["Datum", "temp"], ["TT.MM.JJJJ", "°C"], *([m, 20 + k / 4] for k, m in enumerate(moments(10)))),
        Wanted(0.1, {"temp": "°C"}, ENDS),
    ),
    Habit(
        "spreadsheet that says how moments are written, in another tongue",
        xlsx(["date", "temp"], ["dd.mm.yyyy hh:mm:ss", "°C"], *([m, 20 + k / 4] for k, m in enumerate(moments(10)))),
        Wanted(0.1, {"temp": "°C"}, ENDS),
    ),
    Habit(
        "spreadsheet of texts with decimal commas",
        xlsx(["Zeit", "temp"], *([m, f"{20 + k / 4:.2f}".replace(".", ",")] for k, m in enumerate(moments(10)))),
        TEN,
    ),
    Habit(
        "spreadsheet with means below",
        xlsx(
            ["Zeit", "temp"], *([m, 20 + k / 4] for k, m in enumerate(moments(10))), [], ["mean", 24.9], ["max", 99.0]
        ),
        TEN,
        said="2 rows after the last time have none, like a mean or a sum; they are left out",
    ),
    Habit(
        "spreadsheet with another sheet hidden",
        xlsx(["Zeit", "temp"], *([m, 20 + k / 4] for k, m in enumerate(moments(10))), hidden="old"),
        TEN,
    ),
    Habit(
        "spreadsheet with its rows numbered",
        xlsx(["No.", "Zeit", "temp"], *([k + 1, m, 20 + k / 4] for k, m in enumerate(moments(10)))),
        TEN,
    ),
    Habit(
        "spreadsheet with a rate above",
        xlsx(["Sample rate [Hz]", 20], [], ["temp", "hum"], *([20 + k / 4, 50 + k] for k in K)),
        Wanted(20, {"temp": "1", "hum": "ct"}, ENDS),
        said='the rate is taken from the lines above, "Sample rate [Hz] 20"',
    ),
    Habit(
        "spreadsheet with a row for each channel",
        xlsx(
            ["", *(f"{m:%H:%M}" for m in moments(60))],
            ["temp", *(20 + k / 4 for k in K)],
            ["hum", *(50.5 + k for k in K)],
        ),
        Wanted(0, {f"{m:%H:%M}": "1" for m in moments(60)}, rows=2),
        said="where each row is a channel, turn the table round first",
    ),
    Habit(
        "spreadsheet with merged names above",
        xlsx(
            ["", "hut", None, "yard"],
            ["Zeit", "temp", "hum", "temp"],
            *([m, 20 + k / 4, k, k + 0.5] for k, m in enumerate(moments(10))),
        ),
        Wanted(0.1, {"hut temp": "1", "hut hum": "ct", "yard temp": "1"}, {"hut temp": (20.0, 29.75)}),
    ),
    Habit(
        "spreadsheet of a meter that changes its range",
        xlsx(["Zeit", "Value", "Unit"], *([m, 20 + k / 4, "mV" if k < 9 else "V"] for k, m in enumerate(moments(10)))),
        Wanted(0.1, {"Value": "mV"}),
        said='"Unit" gives different units in different rows, and the numbers are read as they are',
    ),
    Habit("spreadsheet with no time", xlsx(["temp"], *([20 + k / 4] for k in K)), Wanted(0, {"temp": "1"}, ENDS)),
    Habit(
        "open spreadsheet",
        ods(["time", "temp"], *([f"{m:%Y-%m-%dT%H:%M:%S}", 20 + k / 4] for k, m in enumerate(moments(10)))),
        TEN,
    ),
]
ARRAYS: list[Habit] = [
    Habit(
        "array of rows",
        by("log.npy", lambda path: np.save(path, np.column_stack((np.arange(ROWS) / 10, TEMPS)))),
        Wanted(10, {"column 2": "1"}),
    ),
    Habit(
        "array of one column", by("log.npy", lambda path: np.save(path, np.array(TEMPS))), Wanted(0, {"column 1": "1"})
    ),
    Habit(
        "array of records",
        by(
            "log.npy",
            lambda path: np.save(path, np.array([(k / 10, 20 + k / 4) for k in K], [("t", "f8"), ("temp_c", "f4")])),
        ),
        Wanted(10, {"temp_c": "°C"}),
    ),
    Habit(
        "arrays by name",
        by("log.npz", lambda path: np.savez(path, time=np.arange(ROWS) / 10, temp=np.array(TEMPS), note=np.arange(3))),
        Wanted(10, {"temp": "1"}, ENDS),
    ),
    Habit(
        "arrays with a rate",
        by("log.npz", lambda path: np.savez_compressed(path, fs=2000, lid=np.arange(ROWS, dtype=np.int16))),
        Wanted(2000, {"lid": "ct"}),
    ),
    Habit(
        "array of moments",
        by(
            "log.npz",
            lambda path: np.savez(
                path, when=np.array([m.isoformat() for m in moments(10)], "datetime64[ms]"), temp=np.array(TEMPS)
            ),
        ),
        TEN,
    ),
]


def sound(subtype: str, file: str, form: str) -> Callable[[Path], Path]:
    def write(path: Path) -> None:
        import soundfile

        wave = np.round(8000 * np.sin(2 * np.pi * np.arange(800) / 40)).astype(np.int16)
        soundfile.write(path, wave, 8000, subtype=subtype, format=form)

    return by(file, write)


TONE = Wanted(8000, {"1": "1"}, rows=800)
SOUND: list[Habit] = [
    Habit("WAV of 16 bits", sound("PCM_16", "lid.wav", "WAV"), TONE),
    Habit("WAV of 24 bits", sound("PCM_24", "lid.wav", "WAV"), TONE),
    Habit("WAV of floats", sound("FLOAT", "lid.wav", "WAV"), TONE),
    Habit("WAV by µ-law", sound("ULAW", "lid.wav", "WAV"), TONE),
    Habit("WAV by A-law", sound("ALAW", "lid.wav", "WAV"), TONE),
    Habit("WAV by ADPCM", sound("MS_ADPCM", "lid.wav", "WAV"), Wanted(8000, {"1": "1"}, rows=1000)),
    Habit("AIFF", sound("PCM_16", "lid.aiff", "AIFF"), TONE),
    Habit("AIFF of floats", sound("FLOAT", "lid.aif", "AIFF"), TONE),
]


FORMATS: list[Habit] = [*JSON, *PARQUET, *SHEETS, *ARRAYS, *SOUND, *LOGS, *SENTENCES, *REFUSED]
