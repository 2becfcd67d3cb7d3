"""Rows printed many at once: the same letters as one by one."""

from __future__ import annotations

import csv
import io
import json
from decimal import Context, Decimal

import numpy as np
import pytest

from lesart.cli.printed import rows
from lesart.cli.printed.rows import csv_line, print_csv, print_objects

NUMBERS = (0.0, -0.0, 1.5, 1e-4, 9.99e-5, 1e-7, -12.25, 1e15, 1e16, 1.7e300, np.nan, np.inf, 20.3, 1 / 3)
TEXTS = ("plain", 'with "quotes"', "a, b", None, "µ 5 %", "line\nend", "\x1b[31m")


def table(count: int) -> dict[str, rows.Column]:
    """Numbers of every size, whole numbers, and texts from anywhere."""
    places = [place % len(NUMBERS) for place in range(count)]
    return {
        "t": np.arange(count) / 10.0,
        "value": np.array([NUMBERS[place] for place in places]),
        "count %": np.arange(count),
        "why": [TEXTS[place % len(TEXTS)] for place in range(count)],
    }


@pytest.mark.parametrize("many", [1, 10**9], ids=["quickly", "plainly"])
@pytest.mark.parametrize("count", [0, 1, 3, 100])
def test_as_the_standard_library_writes_them(
    many: int, count: int, monkeypatch: pytest.MonkeyPatch, capsys: pytest.CaptureFixture[str]
) -> None:
    """CSV and JSON, in parts that end in the middle; what is not finite is nothing."""
    monkeypatch.setattr(rows, "AT_ONCE", 7)
    monkeypatch.setattr(rows, "MANY", many)
    columns = table(count)
    listed = {
        name: [
            None if isinstance(each, float) and not np.isfinite(each) else each for each in np.asarray(column).tolist()
        ]
        if isinstance(column, np.ndarray)
        else list(column)
        for name, column in columns.items()
    }
    print_csv(columns)
    wanted = io.StringIO()
    shown = [["" if each is None else each for each in row] for row in zip(*listed.values(), strict=True)]
    for row in shown:
        wanted.write(csv_line([each if isinstance(each, str) else repr(each) for each in row]) + "\n")
    assert capsys.readouterr().out == wanted.getvalue()
    print_objects(columns)
    out = capsys.readouterr().out
    objects = [dict(zip(listed, row, strict=True)) for row in zip(*listed.values(), strict=True)]
    assert out == "".join(json.dumps(each, ensure_ascii=False) + "\n" for each in objects)


@pytest.mark.parametrize("scale", [1e-300, 1e-9, 1e-5, 1e-4, 1.0, 1e4, 1e14, 1e16, 1e18, 1e300])
def test_numbers_read_back_are_the_same(scale: float, capsys: pytest.CaptureFixture[str]) -> None:
    """To the last bit, and in the letters that Python has for them; but for numbers whose fifteen digits end in zeros,
    which are those."""
    x = np.random.default_rng(9).standard_normal(rows.MANY + 5) * scale
    print_csv({"x": x})
    lines = capsys.readouterr().out.splitlines()
    wanted = [repr(each) for each in x.tolist()]
    other = [(line, want) for line, want in zip(lines, wanted, strict=True) if line != want]
    assert len(other) < len(lines) / 500
    for line, want in other:
        assert len(line) <= len(want) - 5
        assert Decimal(line) == Context(prec=15).create_decimal(Decimal(want)).normalize()


@pytest.mark.parametrize(
    ("value", "written"),
    [
        (9.999999999999999e-05, "0.0001"),
        (0.0010000000000000009, "0.001"),
        (0.1 + 0.2, "0.3"),
        (0.010117500000000001, "0.0101175"),
        (1 / 3, "0.3333333333333333"),
        (1e22, "1e+22"),
        (123456.78900000002, "123456.789"),
    ],
)
def test_noise_of_floats_is_left_out(value: float, written: str, capsys: pytest.CaptureFixture[str]) -> None:
    print_csv({"x": np.array([value])})
    assert capsys.readouterr().out == f"{written}\n"
    print_objects({"x": np.array([value])})
    assert capsys.readouterr().out == f'{{"x": {written}}}\n'


def test_noise_is_left_out_of_many_as_of_few(
    monkeypatch: pytest.MonkeyPatch, capsys: pytest.CaptureFixture[str]
) -> None:
    """Steps of a tenth and of a millionth summed, beside numbers that have all their digits."""
    x = np.concatenate([np.cumsum(np.full(400, 0.1)), np.cumsum(np.full(400, 1e-6)), np.sqrt(np.arange(2, 99))])
    print_csv({"x": x})
    few = capsys.readouterr().out
    monkeypatch.setattr(rows, "MANY", 1)
    print_csv({"x": x})
    assert capsys.readouterr().out == few
    assert few.splitlines()[9:12] == ["1.0", "1.1", "1.2"]


def test_a_cell_is_quoted_as_csv_wants_it_and_steers_no_terminal() -> None:
    """Control characters are shown."""
    line = csv_line(["a,b", 'say "so"', "\x1b[31m"])
    assert next(csv.reader([line])) == ["a,b", 'say "so"', "\\x1b[31m"]
