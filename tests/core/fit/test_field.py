"""Fields: always exactly their width; a number is whole or it is not there."""

from __future__ import annotations

import itertools
import math
from dataclasses import replace
from fractions import Fraction

import numpy as np
import pytest
from hypothesis import assume, given
from hypothesis import strategies as st

from lesart.core.block import Mark, block_of
from lesart.core.fit.border import End
from lesart.core.fit.cells import split_cells
from lesart.core.fit.field import Field, Reading
from lesart.core.fit.fill import fill
from lesart.core.fit.film_strip import film_strip
from lesart.core.fit.inspect import OneCount, changes_per_minute, honest_decimals, inspect_field, inspect_fineness
from lesart.core.fit.sweep import first_overflow
from lesart.core.notes import DOUBT, FAULT, REMARK
from lesart.core.units import parse_unit
from tests.core.fit.fields import field_of, fields

SHOWN = [
    ({"width": 6}, 43.01, False, "  43.0"),
    ({"width": 6, "align": "left"}, 43.01, False, "43.0  "),
    ({"width": 6, "pad": "zero"}, 43.01, False, "0043.0"),
    ({"width": 6, "pad": "zero"}, -43.01, False, "-043.0"),
    ({"width": 4}, 43.01, True, " 43.0"),  # the point shares its digit: five characters in four cells
    ({"width": 4}, 120.0, True, "120.0"),
    ({"width": 4}, 999.94, True, "999.9"),
    ({"width": 4}, 999.95, True, "----"),
    ({"width": 4}, -99.9, True, "-99.9"),
    ({"width": 4}, -100.0, True, "----"),
    ({"width": 4}, 100.0, False, "----"),
    ({"width": 6, "sign": "always"}, 1.0, False, "  +1.0"),
    ({"width": 6, "sign": "always"}, -1.0, False, "  -1.0"),
    ({"width": 6, "sign": "never"}, -1.0, False, "   1.0"),
    ({"width": 6}, -0.04, False, "   0.0"),
    ({"width": 8, "unit_text": "kg"}, 43.01, False, "  43.0kg"),
    ({"width": 6, "decimals": 0}, 2.5, False, "     3"),
    ({"width": 6, "decimals": 0, "round": "half even"}, 2.5, False, "     2"),
    ({"width": 6, "decimals": 0, "round": "down"}, 2.9, False, "     2"),
    ({"width": 3, "overflow": "OF"}, 1e9, False, " OF"),
    ({"width": 3, "overflow": "^"}, math.inf, False, "^^^"),
    ({"width": 3, "invalid": "Err"}, math.nan, False, "Err"),
    ({"width": 1, "decimals": 0}, 9.4, False, "9"),
]


@pytest.mark.parametrize(("rules", "value", "joined", "text"), SHOWN)
def test_shown(rules: dict[str, object], value: float, joined: bool, text: str) -> None:
    """Each rule by an example."""
    assert fill(field_of(**rules), Reading(value), joined="." if joined else "").text == text


@given(
    field=fields(),
    value=st.floats(allow_nan=True, allow_infinity=True),
    joined=st.booleans(),
    mark=st.integers(0, 127),
    age=st.floats(0, 20),
)
def test_always_exactly_the_width(field: Field, value: float, joined: bool, mark: int, age: float) -> None:
    """Any reading whatever fills exactly the cells there are."""
    shown = fill(field, Reading(value, mark, age), joined="." if joined else "")
    assert len(shown.cells) == field.width
    assert all(len(cell.letter) == 1 for cell in shown.cells)
    assert joined or not any(cell.point for cell in shown.cells)


@given(field=fields(), value=st.one_of(st.floats(-1e7, 1e7), st.floats(-2, 2)), joined=st.booleans())
def test_reads_back(field: Field, value: float, joined: bool) -> None:
    """What stands there is within one step of the value (half, unless cut), or it is the overflow text."""
    # There both light the same point and nobody could read it back: a note says so.
    assume(not joined or field.group not in ("comma", "point"))
    shown = fill(field, Reading(value), joined="." if joined else "")
    if shown.state == "overflow":
        assert set(shown.text) <= {"-", " "}
        return
    number, step = read_back(field, shown.text, joined)
    wanted = abs(Fraction(value)) if field.sign == "never" else Fraction(value)
    by_mode = {"down": step, "floor": step, "cut by code": step * Fraction(1001, 1000)}
    assert abs(number - wanted) <= by_mode.get(field.round, step / 2)


def read_back(field: Field, text: str, joined: bool) -> tuple[Fraction, Fraction]:
    """The number that a text says, and its last place: a reader of its own, told only the rules."""
    text = text.replace(" ", "")
    scale = Fraction(1)
    unit = field.unit_text.strip()
    for prefix, power in (("k", 3), ("M", 6), ("G", 9), ("m", -3), ("µ", -6), ("n", -9), ("p", -12)):
        if field.prefix == "by range" and prefix + unit in text:
            text, scale = text.replace(prefix, ""), Fraction(10) ** power
    text = text.replace(unit, "") if unit else text
    mark = "," if field.point == "comma" and not joined else "."
    thousands = {"comma": ",", "point": ".", "apostrophe": "'"}.get(field.group, "")
    if thousands:
        text = text.replace(thousands, "")
    part = text.replace(mark, ".").partition(".")[2]
    return Fraction(text.replace(mark, ".")) * scale, scale / 10 ** len(part)


@pytest.mark.parametrize(
    ("reading", "state", "text"),
    [
        (Reading(5.0, Mark.CHECKSUM), "invalid", "======"),
        (Reading(5.0, Mark.MISSING | Mark.HELD), "invalid", "======"),
        (Reading(5.0, Mark.HELD), "value", "   5.0"),
        (Reading(5.0, Mark.SETTLING), "value", "   5.0"),
        (Reading(5.0, 0, 5.0), "value", "   5.0"),
        (Reading(5.0, 0, 5.01), "stale", "______"),
        (Reading(math.nan, Mark.MISSING, math.inf), "stale", "______"),
    ],
)
def test_bad_and_old_readings(reading: Reading, state: str, text: str) -> None:
    """A bad sample never shows a number; a stale reading can be told from a fresh one."""
    shown = fill(field_of(width=6, stale_after="5 s"), reading)
    assert (shown.state, shown.text) == (state, text)


def test_shown_in_another_unit() -> None:
    """A display unit is a matter of the field: °C shown in °F, kilograms in grams."""
    assert fill(field_of("°C", "°F", width=6), Reading(20.0)).text == "  68.0"
    assert fill(field_of("kg", "g", width=6, decimals=0), Reading(1.2345)).text == "  1235"


def test_points_share_their_cell() -> None:
    """A second point in a row, or one at the start, takes a blank of its own."""
    assert [str(cell) for cell in split_cells("1.2..3", joined=".")] == ["1.", "2.", " .", "3"]
    assert [str(cell) for cell in split_cells(".5", joined=".")] == [" .", "5"]


def test_a_text_must_fit() -> None:
    """An overflow text wider than its field would be cut, so the project is refused."""
    with pytest.raises(ValueError, match="must fit 2 cells"):
        field_of(width=2, overflow="OVER")


@given(field=fields(), joined=st.booleans())
def test_overflow_is_found_exactly(field: Field, joined: bool) -> None:
    """The first value that does not fit: the float below it does."""
    edge = first_overflow(field, joined="." if joined else "")
    if edge is None:
        assert fill(field, Reading(0.0), joined="." if joined else "").state == "overflow"
        return
    assert fill(field, Reading(edge), joined="." if joined else "").state == "overflow"
    assert fill(field, Reading(math.nextafter(edge, 0.0)), joined="." if joined else "").state == "value"


def test_film_strip_shows_every_ugly_value() -> None:
    """Ends, zero, length changes, typical, too wide, silent and bad are all there, in order of the values."""
    stills = film_strip(field_of(width=4), -2.0, 120.0, 42.0, joined=".")
    by_title = {still.title: still.shown.text for still in stills}
    assert by_title["smallest reading"] == "-2.0".rjust(5)
    assert by_title["zero"] == "  0.0"
    assert by_title["largest reading"] == "120.0"
    assert by_title["too wide from here"] == "----"
    assert by_title["silent for 5 s"] == "____"
    assert by_title["sample marked bad"] == "===="
    values = [still.value for still in stills if still.value is not None]
    assert values == sorted(values)
    assert all(len(still.shown.cells) == 4 for still in stills)


@pytest.mark.parametrize("decimals", [0, 1, 2, 3])
def test_a_change_is_said_by_a_number_that_shows_so_when_it_is_typed(decimals: int) -> None:
    """One of both sides is that number; the other, just below or above it, is the float next to it."""
    field = field_of(width=8, decimals=decimals)
    stills = film_strip(field, -20.0, 120.0, 3.0, joined=".")
    pairs = [(each, other) for each, other in itertools.pairwise(stills) if _is_border(each.value, other.value)]
    assert len(pairs) == 4  # −10 and −0, 10 and 100
    for pair in pairs:
        few = float(f"{pair[0].value:.6g}")
        typed = next(each for each in pair if each.value == few)
        sign = ">" if typed is pair[0] else "<"
        assert {each.said for each in pair} == {End(few), End(few, sign)}
        assert fill(field, Reading(few), joined=".").text == typed.shown.text


@pytest.mark.parametrize(("width", "decimals"), [(4, 1), (8, 3), (6, 2), (5, 0)])
def test_what_is_too_wide_is_said_by_a_number_that_is(width: int, decimals: int) -> None:
    """Or by the one above which all are, where that one fits when it is typed."""
    field = field_of(width=width, decimals=decimals)
    end = next(each.said for each in film_strip(field, 0.0, 1.0, 0.5, joined="") if each.title == "too wide from here")
    assert end is not None
    state = fill(field, Reading(end.value), joined="").state
    assert (end.sign, state) in (("", "overflow"), (">", "value"))
    assert fill(field, Reading(math.nextafter(end.value, math.inf)), joined="").state == "overflow"


def _is_border(low: float | None, high: float | None) -> bool:
    return low is not None and high is not None and math.nextafter(low, math.inf) == high


def test_pulses_are_made_finer_otherwise_than_counts() -> None:
    """No converter's bits or gain make a pulse less."""

    def said(one_count: float, decimals: int, *, is_pulse: bool) -> tuple[str, str | None]:
        field = field_of(width=6, decimals=decimals)
        (note,) = inspect_fineness("wheel", None, field, lambda rule: (rule,), OneCount(one_count, one_count, is_pulse))
        return note.text, note.remedy

    text, remedy = said(15.0, 0, is_pulse=True)
    assert text == "wheel: the reading goes in steps of 15 kg, and its last digit shows 1 kg."
    assert (
        remedy == "show it in a larger unit, or count over a longer gate, or time the pulses instead of counting them"
    )
    assert "gain" in (said(15.0, 0, is_pulse=False)[1] or "")
    assert said(1.5, 1, is_pulse=True)[0] == "wheel: the last digit shows 0.1 kg, one pulse is 1.5 kg."
    assert said(1.5, 1, is_pulse=False)[0] == "wheel: the last digit shows 0.1 kg, one raw count is 1.5 kg."


@pytest.mark.parametrize(
    ("step", "decimals"), [(1.0, 0), (0.1, 1), (0.11, 0), (0.09, 1), (0.0004, 3), (25.0, 0), (0.0, 9), (1e-12, 9)]
)
def test_honest_decimals(step: float, decimals: int) -> None:
    """A decimal is honest when one of it is at least the finest step that means something."""
    assert honest_decimals(step) == decimals


def test_between_two_counts_where_filters_average() -> None:
    """What is made out there is the limit, and what is not averaged keeps to whole counts."""

    def said(decimals: int, made_out: float) -> list[tuple[str, float | None, list[object]]]:
        one = OneCount(0.02, made_out)
        found = inspect_fineness("mass", None, field_of(width=8, decimals=decimals), lambda rule: (rule,), one)
        return [(note.text, note.limit, [mend.value for mend in note.mend]) for note in found]

    assert said(2, 0.01) == said(3, 0.0009) == []
    assert said(2, 0.02) == [("mass: the last digit shows 0.01 kg, one raw count is 0.02 kg.", 0.02, [1])]
    finer = "mass: the last digit shows 0.001 kg; one raw count is 0.02 kg, and after the filters 0.004 kg can be told apart."
    assert said(3, 0.004) == [(finer, 0.004, [2])]
    (coarse,) = inspect_fineness("mass", None, field_of(width=8, decimals=0), lambda rule: (rule,), OneCount(25, 3))
    assert coarse.text == "mass: after the filters 3 kg can be told apart, and its last digit shows 1 kg."


def test_a_digit_need_not_stand_while_filters_settle() -> None:
    """Twelve samples at 1 Hz, of which the first four and three more settle: of three pairs of settled neighbours two
    differ, so it is 40 a minute."""
    block = block_of([0, 3, 5, 6, 7, 8, 7, 2, 4, 6, 7, 7.0], rate_hz=1.0)
    mark = block.mark.copy()
    mark[[0, 1, 2, 3, 7, 8, 9]] = Mark.SETTLING
    assert changes_per_minute(field_of(width=6, decimals=0), replace(block, mark=mark)) == pytest.approx(2 / 3 * 60)
    mark[:] = Mark.SETTLING
    assert changes_per_minute(field_of(width=6, decimals=0), replace(block, mark=mark)) == 0.0


def test_restlessness_is_counted_in_what_is_shown() -> None:
    """Four changes of the shown digit in two seconds are 120 a minute; changes below it are none."""
    field = field_of(width=6, decimals=1)
    block = block_of([1.0, 1.04, 1.06, 1.0, 1.2, 1.21, 1.0], rate_hz=3.0)
    assert changes_per_minute(field, block) == pytest.approx(4 / 2 * 60)
    assert changes_per_minute(field, block_of([1.0])) == 0.0
    assert changes_per_minute(field, block_of([np.nan, 1.0, np.nan])) == 0.0


UNITS_OF = {"elapsed": ("s", "s")}
NOTES = [
    ({"width": 4}, -2.0, 120.0, 0.0, 0.0, []),
    ({"width": 4}, -2.0, 1200.0, 0.0, 0.0, [(FAULT, "1200 kg", "decimals", 0)]),
    ({"width": 4, "decimals": 3}, -200.0, 10.0, 0.0, 0.0, [(FAULT, "−200 kg", "decimals", 0)]),
    ({"width": 4, "decimals": 0}, 0.0, 123456.0, 0.0, 0.0, [(FAULT, "123 456 kg", None, None)]),
    ({"width": 8, "decimals": 3}, 0.0, 10.0, 0.02, 0.0, [(DOUBT, "one raw count is 0.02 kg", "decimals", 1)]),
    ({"width": 8, "decimals": 1}, 0.0, 1000.0, 0.02, 41.0, [(DOUBT, "41 times a minute", "decimals", 0)]),
    ({"width": 8, "decimals": 3}, 0.0, 1000.0, 0.0, 2050.0, [(DOUBT, "2050 times a minute", "decimals", 0)]),
    ({"width": 8, "decimals": 3}, 0.0, 1000.0, 0.0, 2000.0, [(DOUBT, "2000 times a minute", "decimals", 1)]),
    ({"width": 8, "decimals": 3}, 0.0, 1000.0, 0.0, 20.0, []),
    ({"width": 8, "decimals": 1}, 0.0, 1000.0, 0.0, 201.0, [(DOUBT, "201 times a minute", None, None)]),
    ({"width": 3, "decimals": 0}, 0.0, 300.0, 60.0, 0.0, [(DOUBT, "goes in steps of 60 kg, and its last", None, None)]),
    ({"width": 3, "decimals": 0}, 0.0, 300.0, 1.9, 0.0, []),
    ({"width": 3, "decimals": 1}, 0.0, 9.0, 2.0, 0.0, [(DOUBT, "one raw count is 2 kg", "decimals", 0)]),
    ({"width": 8, "sign": "never"}, -3.0, 1000.0, 0.0, 0.0, [(FAULT, "−3 kg", "sign", "minus only")]),
    ({"width": 8, "sign": "never"}, 0.0, 1000.0, 0.0, 0.0, []),
    ({"width": 8, "decimals": 0}, 0.0, 10000.0, 0.0, 21.0, [(DOUBT, "21 times a minute", None, None)]),
    (
        {"width": 8, "decimals": 0, "restless": 1},
        0.0,
        10000.0,
        0.0,
        1.04,
        [(DOUBT, "changes 1.04 times a minute; at most 1 is allowed", None, None)],
    ),
    (
        {"width": 8, "decimals": 0, "restless": 0},
        0.0,
        10000.0,
        0.0,
        1.0,
        [(DOUBT, "changes once a minute; none is allowed", None, None)],
    ),
    ({"width": 8, "decimals": 0}, 0.0, 99.0, 0.0, 0.0, [(REMARK, "more than 2 of its 8 cells", "width", 2)]),
    (
        {"width": 4, "decimals": 0, "sent": "digits as numbers"},
        0.0,
        999.0,
        0.0,
        0.0,
        [(FAULT, "as the numbers 0 to 9", "sent", "as text")],
    ),
    ({"width": 4, "decimals": 3, "decimals_are": "as many as fit"}, -99.0, 999.0, 0.0, 0.0, []),
    ({"width": 6, "align": "left"}, 0.0, 999.0, 0.0, 0.0, [(REMARK, "2 to 4 cells long", "align", "right")]),
    ({"width": 6, "group": "comma"}, 0.0, 9999.0, 0.0, 0.0, [(FAULT, "1,234 is read as 1.234", "group", "none")]),
    ({"width": 6, "group": "apostrophe"}, 0.0, 9999.0, 0.0, 0.0, []),
    ({"width": 6, "align": "left"}, 100.0, 999.0, 0.0, 0.0, []),
    ({"width": 6, "shows": "elapsed", "time": "m:ss"}, 0.0, 59999.0, 0.0, 0.0, []),
]


@pytest.mark.parametrize(("rules", "lowest", "highest", "count", "per_minute", "expected"), NOTES)
def test_notes(
    rules: dict[str, object],
    lowest: float,
    highest: float,
    count: float,
    per_minute: float,
    expected: list[tuple[object, ...]],
) -> None:
    """Exactly the notes that are true, each with its number and the edit that mends it."""
    field = field_of(*UNITS_OF.get(str(rules.get("shows")), ("kg", "kg")), **rules)

    def rate(each: Field) -> float:
        """A tenth with each decimal less."""
        return per_minute * 10.0 ** (each.decimals - field.decimals)

    notes = inspect_field(
        "mass",
        "stand",
        field,
        lambda rule: ("channels", "mass", "fit", rule),
        lowest=lowest,
        highest=highest,
        one=OneCount(count, count),
        per_minute=rate,
        joined=".",
    )
    assert len(notes) == len(expected)
    for note, (mark, says, key, value) in zip(notes, expected, strict=True):
        assert note.mark == mark
        assert str(says) in note.text
        assert (note.step, note.panel, note.channel) == ("fit", "stand", "mass")
        assert [(mend.key[-1], mend.value) for mend in note.mend] == ([] if key is None else [(key, value)])


def test_a_count_is_compared_in_the_field_s_unit() -> None:
    """One count of 0.02 kg is 20 g: tenths of a gram are finer than it."""
    field = field_of("kg", "g", width=8, decimals=1)
    (note,) = inspect_field(
        "mass",
        None,
        field,
        lambda rule: ("f", rule),
        lowest=0,
        highest=1,
        one=OneCount(0.02, 0.02),
        per_minute=lambda _: 0.0,
        joined="",
    )
    assert note.limit == pytest.approx(20.0)
    assert note.unit == parse_unit("g").symbol
