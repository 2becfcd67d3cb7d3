"""What a field can show beside plain numbers: each rule by examples, and swept ranges against a walk through them."""

from __future__ import annotations

import itertools
import math

import pytest
from hypothesis import given
from hypothesis import strategies as st

from lesart.core.block import Mark
from lesart.core.fit.cells import split_cells
from lesart.core.fit.digits import bcd, division_operations, divisions, shift_operations, shifts, word_bits
from lesart.core.fit.field import Field, Reading
from lesart.core.fit.fill import fill
from lesart.core.fit.film_strip import changes
from lesart.core.fit.sweep import shape_of, sweep
from tests.core.fit.fields import field_of, fields

KG = ("kg", "kg")
RULES = [
    (KG, {"width": 7, "align": "centre"}, 43.01, "", " 43.0  "),  # of an odd rest the right side has more
    (KG, {"width": 7, "point": "comma"}, 43.01, "", "   43,0"),
    (KG, {"width": 4, "point": "comma"}, 43.01, ".", " 43.0"),  # a digit's point is all that a comma can light
    (KG, {"width": 9, "group": "blank"}, 12345.6, "", " 12 345.6"),
    (KG, {"width": 9, "group": "apostrophe", "decimals": 0}, 1234567, "", "1'234'567"),
    (KG, {"width": 8, "group": "comma"}, 999.96, "", " 1,000.0"),
    (KG, {"width": 4, "decimals": 3, "decimals_are": "as many as fit"}, 9.99951, "", "10.0"),
    (KG, {"width": 4, "decimals": 3, "decimals_are": "as many as fit"}, 1.23456, "", "1.23"),
    (KG, {"width": 4, "decimals": 3, "decimals_are": "as many as fit"}, 1.23456, ".", "1.235"),
    (KG, {"width": 4, "decimals": 3, "decimals_are": "as many as fit"}, -123.4, "", "-123"),
    (KG, {"width": 4, "decimals": 3, "decimals_are": "as many as fit"}, -1234.0, "", "----"),
    (("V", "V"), {"width": 7, "unit_text": " V", "prefix": "by range"}, 0.0123, "", "12.3 mV"),
    (("V", "V"), {"width": 7, "unit_text": " V", "prefix": "by range"}, 999.96, "", " 1.0 kV"),
    (("V", "V"), {"width": 7, "unit_text": " V", "prefix": "by range"}, 999.94, "", "999.9 V"),
    (("V", "V"), {"width": 7, "unit_text": " V", "prefix": "by range"}, 0.0, "", "  0.0 V"),
    (("V", "V"), {"width": 7, "unit_text": " V", "prefix": "by range"}, -2.5e6, "", "-2.5 MV"),
    (("V", "V"), {"width": 7, "unit_text": "V", "prefix": "by range"}, 1e-14, "", "   0.0V"),
    (("Hz", "Hz"), {"width": 8, "unit_text": "Hz ", "prefix": "by range", "unit_place": "before"}, 1e3, "", " kHz 1.0"),
    (KG, {"width": 8, "shows": "word", "words": "low < 5; ok < 43 kg; full"}, 4.999, "", "     low"),
    (KG, {"width": 8, "shows": "word", "words": "low < 5; ok < 43 kg; full"}, 5.0, "", "      ok"),
    (("kg", "g"), {"width": 8, "shows": "word", "words": "low < 5 kg; full"}, 5.0, "", "    full"),
    (("s", "s"), {"width": 8, "shows": "elapsed"}, 3725.4, "", " 1:02:05"),
    (("s", "s"), {"width": 8, "shows": "elapsed", "time": "m:ss"}, 3599.5, "", "   60:00"),
    (("s", "s"), {"width": 8, "shows": "elapsed", "time": "m:ss", "round": "down"}, 3599.9, "", "   59:59"),
    (("min", "min"), {"width": 8, "shows": "elapsed", "time": "h:mm"}, -61.0, "", "   -1:01"),
    (("h", "h"), {"width": 4, "shows": "clock", "time": "hh:mm"}, 25.5, ".:", "01:30"),
    (("s", "s"), {"width": 5, "shows": "clock", "time": "hh:mm"}, 86399.0, "", "00:00"),
    (("s", "s"), {"width": 5, "shows": "clock", "time": "hh:mm", "round": "down"}, 86399.0, "", "23:59"),
    (("s", "s"), {"width": 8, "shows": "elapsed", "time": "d hh:mm"}, 90061.0, "", " 1 01:01"),
    (KG, {"width": 4, "underflow": "Lo", "overflow": "Hi"}, -1e6, "", "  Lo"),
    (KG, {"width": 4, "underflow": "Lo", "overflow": "Hi"}, 1e6, "", "  Hi"),
]


@pytest.mark.parametrize(("units", "rules", "value", "joined", "text"), RULES)
def test_shown(units: tuple[str, str], rules: dict[str, object], value: float, joined: str, text: str) -> None:
    """Each rule by an example."""
    assert fill(field_of(*units, **rules), Reading(value), joined=joined).text == text


def test_alarms_by_name() -> None:
    """Those that are on stand there; when none is, a word of one's own."""
    field = field_of(width=8, shows="alarm", calm_word="fine")
    assert fill(field, Reading(1.0)).text == "    fine"
    assert fill(field, Reading(1.0, alarms=("high",))).text == "    high"
    assert fill(field, Reading(1.0, alarms=("high", "swarm"))).state == "overflow"


def test_while_a_filter_settles() -> None:
    """A text of its own where it is given; else the number as it is."""
    reading = Reading(5.0, Mark.SETTLING)
    assert fill(field_of(width=6, settling="wait"), reading).text == "  wait"
    assert fill(field_of(width=6), reading).text == "   5.0"


def test_numbers_sent_where_letters_are_expected() -> None:
    """Digits carry their value as code; one byte wraps at 256, as it does on the wire."""
    field = field_of(width=4, sent="digits as numbers")
    assert [cell.code for cell in fill(field, Reading(42.5)).cells] == [4, 2, None, 5]
    byte = field_of(width=4, sent="as one byte", align="left", decimals=0)
    assert [cell.code for cell in fill(byte, Reading(65.4)).cells] == [65, None, None, None]
    assert fill(byte, Reading(300.0)).cells[0].code == 44


WRONG = [
    (KG, {"shows": "word"}, "words must say which"),
    (KG, {"shows": "word", "words": "low < 5; ok"}, None),
    (KG, {"words": "low < 5; ok < 4; full"}, 'limit of "ok" must be above that of "low"'),
    (KG, {"words": "low; full"}, '"low" has no limit'),
    (KG, {"words": "low < 5; full < 9"}, "the last word has no limit"),
    (KG, {"words": "low < 5 s; full"}, "s"),
    (KG, {"shows": "word", "words": "low < 5; overfull", "width": 4}, '"overfull" must fit 4 cells'),
    (KG, {"shows": "clock"}, "only seconds, minutes or hours are shown as a time"),
    (KG, {"point": "comma", "group": "comma"}, "must differ"),
    (KG, {"prefix": "by range"}, "has none yet, like g; shown in is kg"),
    (("°C", "°C"), {"prefix": "by range"}, "has none yet; shown in is °C"),
    (KG, {"underflow": "under", "width": 4}, "must fit 4 cells"),
]


@pytest.mark.parametrize(("units", "rules", "says"), WRONG)
def test_rules_that_contradict(units: tuple[str, str], rules: dict[str, object], says: str | None) -> None:
    """Refused with what would be right."""
    if says is None:
        field_of(*units, **rules)
        return
    with pytest.raises(ValueError, match=says):
        field_of(*units, **rules)


def test_marks_that_share_a_cell() -> None:
    """A colon shares as a point does, where the panel has colons; two marks in a row need a blank."""
    assert [str(cell) for cell in split_cells("12:34", joined=".:")] == ["1", "2:", "3", "4"]
    assert [str(cell) for cell in split_cells("12:34", joined=".")] == ["1", "2", ":", "3", "4"]
    assert [str(cell) for cell in split_cells("1.:2", joined=".:")] == ["1.", " :", "2"]
    assert [str(cell) for cell in split_cells("e\u0301e", joined="")] == ["é", "e"]


@given(
    field=fields(), ends=st.tuples(st.floats(-3000, 3000), st.floats(-3000, 3000)), joined=st.sampled_from(["", "."])
)
def test_a_range_is_swept_exactly(field: Field, ends: tuple[float, float], joined: str) -> None:
    """Pieces follow each other without a gap, look alike within, and differ across every border."""
    lowest, highest = min(ends), max(ends)
    pieces = sweep(field, lowest, highest, joined=joined)
    assert (pieces[0].first, pieces[-1].last) == (lowest, highest)
    for left, right in itertools.pairwise(pieces):
        assert math.nextafter(left.last, math.inf) == right.first
        assert left.shape != right.shape
    for piece in pieces:
        for share in (0.0, 0.01, 0.3, 0.5, 0.77, 0.999, 1.0):
            value = min(max(piece.first + (piece.last - piece.first) * share, piece.first), piece.last)
            assert shape_of(fill(field, Reading(value), joined=joined)) == piece.shape


@pytest.mark.parametrize(
    ("units", "rules"),
    [
        (KG, {"width": 8}),
        (KG, {"width": 4, "decimals": 2, "decimals_are": "as many as fit"}),
        (KG, {"width": 8, "group": "comma", "decimals": 0}),
        (KG, {"width": 4, "sign": "always"}),
        (("g", "g"), {"width": 7, "prefix": "by range", "unit_text": "g"}),
        (("s", "s"), {"width": 8, "shows": "elapsed", "time": "m:ss"}),
        (KG, {"width": 5, "shows": "word", "words": "low < -5; ok < 43; full"}),
    ],
)
def test_changes_by_a_walk(units: tuple[str, str], rules: dict[str, object]) -> None:
    """Every change of the text's look, against a walk through all hundredths about the powers of ten."""
    field = field_of(*units, **rules)
    pieces = sweep(field, -130.0, 1300.0, joined="")
    walked = []
    for first, last in ((-10_300, -9_700), (-1_300, 10_400), (99_700, 100_300)):
        shapes = [shape_of(fill(field, Reading(hundredth / 100))) for hundredth in range(first, last + 1)]
        walked += [
            (first + place + 1) / 100
            for place, (before, after) in enumerate(itertools.pairwise(shapes))
            if before != after
        ]
    # The walk goes in hundredths: a border lies at most one before the step that shows it. What lies between two steps
    # only the sweep sees.
    borders = [piece.first for piece in pieces[1:]]
    for step in walked:
        assert any(step - 0.01 <= border <= step + 1e-9 for border in borders), step
    assert len(borders) >= len(walked)
    assert len(changes(pieces)) <= len(borders)


@given(number=st.integers(0, 65_535))
def test_digits_by_division_and_by_shifts(number: int) -> None:
    """Both ways end at the digits that the number has."""
    digits = f"{number:05d}"
    steps = divisions(number, 5)
    assert "".join(str(step.quotient) for step in steps) + str(steps[-1].remainder) == digits
    assert all(step.number == step.quotient * step.by + step.remainder for step in steps)
    found = shifts(number, 5, 16)
    assert "".join(map(str, found[-1].shifted)) == digits
    assert [shift.bit for shift in found] == [int(bit) for bit in f"{number:016b}"]


def test_shift_and_add_by_hand() -> None:
    """243 in eight bits, the textbook's example: three is added where five and more stand."""
    found = shifts(243, 3, 8)
    assert [shift.shifted for shift in found] == [
        (0, 0, 1),
        (0, 0, 3),
        (0, 0, 7),
        (0, 1, 5),
        (0, 3, 0),
        (0, 6, 0),
        (1, 2, 1),
        (2, 4, 3),
    ]
    assert found[3].added == (0, 0, 10)
    assert bcd(430, 4) == "0000 0100 0011 0000"


def test_what_digits_cost() -> None:
    """Four digits of a 16-bit number: without a divider shifts are cheaper, with one divisions are."""
    assert (word_bits(255), word_bits(256), word_bits(70_000)) == (8, 16, 32)
    slow, fast = (division_operations(4, 16, has_divider=each) for each in (False, True))
    assert fast < shift_operations(4, 16) < slow
