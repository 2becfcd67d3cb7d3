"""CSV: how a file is written is found out; a bad row is counted, marked and named by its line."""

from __future__ import annotations

import random
from collections.abc import Callable
from pathlib import Path

import numpy as np
import pytest
from hypothesis import HealthCheck, given, settings
from hypothesis import strategies as st

from lesart.core.block import Mark
from lesart.core.errors import CaptureError
from lesart.core.raw.source import Source
from lesart.core.raw.spelled.unit_said import unit_in_name
from lesart.project.captures.rows.csv_read import read_csv
from lesart.project.captures.rows.csv_shape import find_shape
from lesart.project.new.make import make_project

Make = Callable[..., Source]

SHAPES = [
    ("t,mass\n0,1.5\n1,2.5\n2,3.5\n", ",", ".", 1, "t", "s", ("mass",)),
    ("t;mass\n0,0;1,5\n0,1;2,5\n0,2;3,5\n", ";", ",", 1, "t", "s", ("mass",)),
    ("time [ms]\tmass [kg]\n0\t1.5\n100\t2.5\n", "tab", ".", 1, "time [ms]", "ms", ("mass [kg]",)),
    ("0 1.5\n0.1 2.5\n0.2 3.5\n", "space", ".", 0, "column 1", "s", ("column 2",)),
    ('t,mass,level\n0,"1,5",3\n1,"2,5",4\n2,"3,5",5\n', ",", ",", 1, "t", "s", ("mass", "level")),
    ('t,mass,level\n0,"1,500",3.5\n1,"2,500",4.5\n', ",", ".", 1, "t", "s", ("mass", "level")),
    ("t,ch,24h\n0,3,1.5\n1,4,2.5\n2,3,3.5\n", ",", ".", 1, "t", "s", ("ch", "24h")),
    ("0|1.5\n1|2.5\n2|3.5\n", "|", ".", 0, "", "s", ("column 1", "column 2")),
    ("0|1.5\n2|2.5\n4|3.5\n", "|", ".", 0, "column 1", "s", ("column 2",)),
    ("5\n7\n6\n", ",", ".", 0, "", "s", ("column 1",)),
    ("mass\n1,5\n2,5\n3,5\n", ";", ",", 1, "", "s", ("mass",)),
    ("# logger 3\n# started\n\nt_ms,bridge_ct\n0,-5\n100,7\n", ",", ".", 4, "t_ms", "ms", ("bridge_ct",)),
    ("when,temp_c\n2031-05-14T08:00:00,20.5\n2031-05-14T08:00:10,20.6\n", ",", ".", 1, "when", "ISO 8601", ("temp_c",)),
    ("timestamp,x\n1900000000,1\n1900000001,2\n", ",", ".", 1, "timestamp", "s", ("x",)),
    ("timestamp,x\n1900000000123,1\n1900000001123,2\n", ",", ".", 1, "timestamp", "ms", ("x",)),
    ('"t","a","a"\r\n"0","1","2"\r\n"1","3","4"\r\n', ",", ".", 1, "t", "s", ("a", "a 3")),
    ("\ufefft,x\n0,1\n1,2\n", ",", ".", 1, "t", "s", ("x",)),
    ("millis,x\n12,4\n24,4\n36,5\n", ",", ".", 1, "millis", "ms", ("x",)),
    ("t,x\n0,1\n1,n/a\n2,\n3,4\n", ",", ".", 1, "t", "s", ("x",)),
    ("a,b\n5,1\n3,2\n4,3\n", ",", ".", 1, "", "s", ("a", "b")),
]


@pytest.mark.parametrize(("text", "delimiter", "decimal", "header", "time", "unit", "values"), SHAPES)
def test_shape_is_found(
    tmp_path: Path, text: str, delimiter: str, decimal: str, header: int, time: str, unit: str, values: tuple[str, ...]
) -> None:
    """Delimiter, decimal sign, header, time column with its unit, and names, without a question."""
    path = tmp_path / "c.csv"
    path.write_bytes(text.encode())
    shape = find_shape(path)
    assert (shape.delimiter, shape.decimal, shape.header) == (delimiter, decimal, header)
    assert (shape.time, shape.time_unit, shape.value_names) == (time, unit, values)


@pytest.mark.parametrize(
    ("name", "unit"),
    [
        ("mass [kg]", "kg"),
        ("mass (g)", "g"),
        ("air / °C", "°C"),
        ("temp_c", "°C"),
        ("p_hPa", "hPa"),
        ("lid_mv", "mV"),
        ("bridge_ct", "ct"),
        ("mass", None),
        ("x_final", None),
        ("a [zz]", None),
        *(
            ("temp C", "°C"),
            ("water temp F", "°F"),
            ("tempC", "°C"),
            ("outTempF", "°F"),
            ("mass g", "g"),
            ("accel g", "gn"),
        ),
        *(
            ("level m", "m"),
            ("U V", "V"),
            ("power W", "W"),
            ("tank L", "L"),
            ("humidity pct", "%"),
            ("flow lpm", "L/min"),
        ),
        *(("gyro dps", "°/s"), ("heading deg", "°"), ("temp deg", None), ("field uT", "µT"), ("wind kph", "km/h")),
        *(
            ("phase A", None),
            ("channel C", None),
            ("phase a", None),
            ("sensor m", None),
            ("temp c", None),
            ("name K", None),
        ),
        *(("vitamin C", None), ("line V", None), ("point g", None)),
    ],
)
def test_units_in_names(name: str, unit: str | None) -> None:
    """A unit is taken from a name only where it clearly is one."""
    found = unit_in_name(name)
    assert (found.symbol if found else None) == unit


@pytest.mark.parametrize(
    ("names", "units"),
    [
        (("probe A", "probe B", "probe C"), (None, None, None)),
        (("current_a", "current_b"), (None, None)),
        (("temp 1", "temp C"), (None, None)),
        (("probe C", "probe mV"), ("°C", "mV")),
        (("temp C", "temp F"), ("°C", "°F")),
        (("temp C", "mass g"), ("°C", "g")),
    ],
)
def test_the_third_of_three_is_in_no_unit(
    names: tuple[str, ...], units: tuple[str | None, ...], tmp_path: Path
) -> None:
    """What is counted by letters is no unit; two units of one quantity stand beside each other as well."""
    path = tmp_path / "c.csv"
    rows = "".join(
        ",".join([f"{second}", *(f"{20 + 10 * place + second % 3}" for place in range(len(names)))]) + "\n"
        for second in range(9)
    )
    path.write_text(f"t,{','.join(names)}\n{rows}")
    shape = find_shape(path)
    assert shape.value_names == names
    assert tuple(unit.symbol if (unit := shape.units.get(name)) else None for name in names) == units


def test_a_column_of_words_makes_no_row_bad(tmp_path: Path, csv_source: Make) -> None:
    """Text beside the numbers, or a delimiter at the end of each row, is not a fault of the rows; two bad cells are
    one."""
    path = tmp_path / "c.csv"
    path.write_text("t,who,a,b,\n0,x,1,2,\n1,y,,-,\n2,z,3,4,\n")
    capture = read_csv(path, csv_source())
    assert capture.bad_count == 1
    assert [row.why for row in capture.bad] == ["a is empty", 'b is "-", not a number']


@pytest.mark.parametrize("cell", ["~19.8", "<0.5", "19.8 ± 0.1", "4k7", "0b0121", "1.9DD", "3/4", "-- 5", "2 of 3"])
def test_a_column_that_is_left_out_is_told(cell: str, tmp_path: Path) -> None:
    """It begins like a number; words, moments and what says nothing are left out without a word."""
    path = tmp_path / "some.csv"
    rows = [f"{place},{cell},idle,2031-05-14T08:00:0{place},n/a,v{place},{place}.5" for place in range(9)]
    path.write_text("\n".join(["t,level,state,when,gap,name,mass", *rows]) + "\n")
    assert find_shape(path).doubts == (f'"level" is left out: "{cell}" is not a number',)


@pytest.mark.parametrize(
    ("rows", "weight", "is_doubtful"),
    [
        (("0,0;12,345", "0,5;12,445", "1,0;13,345"), 12.345, False),
        (("0;12,345;21,5", "1;12,445;21,5", "2;13,345;21,75"), 12.345, False),
        (("0;12,345", "1;12,445", "2;13,345"), 12.345, True),
        (("0,0;980", "0,5;1,024", "1,0;999"), 980.0, False),
        (("0;980", "1;1,024", "2;999", "3;1,001"), 980.0, False),
    ],
)
def test_a_sign_is_one_thing_in_all_of_a_file(
    rows: tuple[str, ...], weight: float, is_doubtful: bool, tmp_path: Path, csv_source: Make
) -> None:
    """Where the time or another column has it before one digit or two, it parts no thousands anywhere."""
    path = tmp_path / "c.csv"
    path.write_text("\n".join(("t;weight;temp"[: 8 + 5 * (rows[0].count(";") - 1)], *rows)) + "\n")
    shape = find_shape(path)
    assert bool(shape.doubts) is is_doubtful, shape.doubts
    source = csv_source(delimiter=";", decimal=shape.decimal, thousands=shape.thousands, header=1, time="t")
    found = read_csv(path, source).columns["weight"].x
    assert found[0] == weight
    assert found[1] == (1024.0 if shape.thousands != "none" else float(rows[1].split(";")[1].replace(",", ".")))


def test_bad_rows_are_named(tmp_path: Path, csv_source: Make) -> None:
    """Torn, long, empty and wordy rows keep their place and their time, are marked, and are named by line and
    reason."""
    path = tmp_path / "c.csv"
    path.write_text("t,a,b\n0,1,2\n1,x\x1b[31m,3\n2,5\n3,,4\n4,1,2,3\n\n# a comment\nfive,6,7\n6,inf,8\n7,9,9\n")
    capture = read_csv(path, csv_source())
    assert [(row.line, row.why) for row in capture.bad] == [
        (3, 'a is "x\\x1b[31m", not a number'),
        (4, "2 cells where 3 belong"),
        (5, "a is empty"),
        (6, "4 cells where 3 belong"),
        (9, 't is "five", not a number'),
    ]
    assert capture.bad_count == 5
    assert [row.line for row in capture.bad_in("b")] == [row.line for row in capture.bad_in("2")] == [4, 6, 9]
    np.testing.assert_array_equal(capture.t, [0, 1, 2, 3, 4, 4, 6, 7])
    a, b = capture.columns["a"], capture.columns["b"]
    assert a.usable.tolist() == [True, False, False, False, False, True, False, True]
    assert b.usable.tolist() == [True, True, False, True, False, True, True, True]
    assert a.mark[6] == Mark.RANGE
    assert a.mark[1] == Mark.MISSING


@pytest.mark.parametrize(
    ("text", "changes", "t"),
    [
        ("t,x\n100,1\n200,2\n350,3\n", {"time_unit": "ms"}, [0.0, 0.1, 0.25]),
        ("t,x\n7,1\n9,2\n", {"time_unit": "µs"}, [0.0, 2e-6]),
        ("t,x\n2031-05-14T08:00:00+02:00,1\n2031-05-14T06:00:30Z,2\n", {"time_unit": "ISO 8601"}, [0.0, 30.0]),
        ("t,x\n2031-03-30T01:59:50,1\n2031-03-30T03:00:00,2\n", {"time_unit": "ISO 8601"}, [0.0, 3610.0]),
        ("x\n1\n2\n3\n", {"time": "", "rate_hz": 4.0}, [0.0, 0.25, 0.5]),
        ("t,x\n5,1\n4,2\n6,3\n", {}, [0.0, 0.0, 1.0]),
        ("t;x\n0,5;1\n1,25;2\n", {"delimiter": ";", "decimal": ","}, [0.0, 0.75]),
        ("x,t\n1,3\n2,5\n", {"time": "2"}, [0.0, 2.0]),
    ],
)
def test_time_axis(tmp_path: Path, csv_source: Make, text: str, changes: dict[str, object], t: list[float]) -> None:
    """Seconds from the first row in every unit; the axis never runs back, and a zone counts only where it is
    written."""
    path = tmp_path / "c.csv"
    path.write_text(text)
    capture = read_csv(path, csv_source(**changes))
    np.testing.assert_allclose(capture.t, t, atol=1e-12)
    assert capture.steps_back == (1 if text.startswith("t,x\n5") else 0)


@settings(suppress_health_check=[HealthCheck.function_scoped_fixture])
@given(
    rows=st.lists(st.tuples(st.floats(-1e9, 1e9), st.one_of(st.none(), st.floats(-1e9, 1e9))), min_size=1, max_size=50),
    delimiter=st.sampled_from([",", ";", "tab", "|"]),
    comma=st.booleans(),
)
def test_fast_and_slow_ways_agree(
    tmp_path: Path, csv_source: Make, rows: list[tuple[float, float | None]], delimiter: str, comma: bool
) -> None:
    """Numbers come back bit for bit, whether their batch was read in one go or cell by cell."""
    decimal = "," if comma and delimiter != "," else "."
    sign = "\t" if delimiter == "tab" else delimiter
    path = tmp_path / "c.csv"
    lines = [f"{a!r}{sign}{'' if b is None else repr(b)}".replace(".", decimal) for a, b in rows]
    path.write_text("a" + sign + "b\n" + "\n".join(lines) + "\n")
    capture = read_csv(path, csv_source(time="", delimiter=delimiter, decimal=decimal))
    assert capture.columns["a"].x.tolist() == [a for a, _ in rows]
    for found, (_, wanted) in zip(capture.columns["b"].x.tolist(), rows, strict=True):
        assert found == wanted or (wanted is None and np.isnan(found))


BAD_FILES = [
    (None, "cannot be read"),
    (b"", "empty"),
    (b"  \n\n", "empty"),
    (b"\x00\x01\x02\x03" * 50, "binary"),
    (b"\x89PNG\r\n\x1a\n\x00\x00", "it is a picture; pictures go on a face"),
    (b"hello\nworld\nnothing here\n", "no rows of numbers"),
    (b"t\n0\n1\n2\n", None),
    (b'{"a": ["b", null]}\n', "no column holds numbers; its columns are a"),
]


@pytest.mark.parametrize(("content", "says"), BAD_FILES)
def test_files_that_are_no_captures(tmp_path: Path, content: bytes | None, says: str | None) -> None:
    """Missing, empty, binary and wordy files each give one sentence with the file and the reason, and leave no
    folder."""
    path, folder = tmp_path / "c.csv", tmp_path / "made"
    if content is not None:
        path.write_bytes(content)
    if says is None:
        assert make_project(path, folder).channels == ("t",)
        return
    with pytest.raises(CaptureError) as caught:
        make_project(path, folder)
    assert says in str(caught.value)
    assert str(path) in str(caught.value)
    assert not folder.exists()


def test_any_bytes_at_all(tmp_path: Path) -> None:
    """Random bytes, truncated and shuffled captures: a capture or a sentence, never anything else."""
    rng = random.Random(11)
    good = b"t,mass\n" + b"".join(b"%d,%d.5\n" % (k, k * 7 % 13) for k in range(60))
    for number in range(60):
        if number % 3 == 0:
            content = rng.randbytes(rng.randint(1, 400))
        elif number % 3 == 1:
            content = good[: rng.randint(1, len(good))]
        else:
            damaged = bytearray(good)
            for _ in range(rng.randint(1, 30)):
                damaged[rng.randrange(len(damaged))] = rng.randrange(1, 256)
            content = bytes(damaged)
        path, folder = tmp_path / f"{number}.csv", tmp_path / f"made{number}"
        path.write_bytes(content)
        try:
            made = make_project(path, folder)
        except CaptureError as error:
            assert str(path) in str(error)
        else:
            assert made.rows > 0


def test_two_whole_numbers_may_be_one_with_a_decimal_comma(tmp_path: Path) -> None:
    """Said where nothing names two columns; not where the first counts up, nor of numbers without end."""
    path = tmp_path / "bare.csv"
    for rows, doubts in (
        (["23,5", "23,7", "24,1"], 1),
        (["0,5", "1,7", "2,1"], 0),
        (["23,5", "23,17", "24,1"], 0),
        (["23,5", "24,-1", "23,1"], 0),
        (["9" * 5000 + ",5", "23,7", "24,1"], 0),
    ):
        path.write_text("\n".join(rows) + "\n")
        found = [each for each in find_shape(path).doubts if "may be one number" in each]
        assert len(found) == doubts, rows[0][:20]
        assert not found or "23.5" in found[0]
