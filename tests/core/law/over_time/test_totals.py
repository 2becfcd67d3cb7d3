"""What adds up, against plain loops in exact fractions, and by sums that anyone can do in the head."""

from __future__ import annotations

import re
from fractions import Fraction
from itertools import pairwise
from typing import Any

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from lesart.core import law
from lesart.core.block import Block, Mark, block_of, joined
from lesart.core.law.over_time.stage import OverTimeStage
from lesart.core.law.over_time.totals import amount_symbol
from lesart.core.law.stage import stage_of
from lesart.core.parameters import read_table
from lesart.core.units import parse_unit

HOUR, DAY = 3600.0, 86_400.0


def stage(kind: str, **written: Any) -> OverTimeStage:
    """As the project file writes it. Raises ValueError where its values do not fit together."""
    values, problems = read_table(law.KINDS[kind].parameters, written, "l")
    assert not problems, problems
    found = stage_of(kind, law.KINDS[kind].build(values))
    assert isinstance(found, OverTimeStage)
    return found


def at(t: list[float], x: list[float], mark: list[int] | None = None) -> Block:
    """Samples at any times."""
    return Block(np.array(t), np.array(x), np.array(mark or [0] * len(t), np.uint8))


def whole(one: OverTimeStage, block: Block) -> Block:
    """In one piece."""
    return one.run(one.initial(), block)[1]


def test_an_ampere_and_a_half_for_two_hours_is_three_ampere_hours() -> None:
    """Begun at 0.25 Ah, with one sample a minute."""
    one = stage("total over time", unit="A", begin="250 mAh")
    made = whole(one, Block(np.arange(121) * 60.0, np.full(121, 1.5), np.zeros(121, np.uint8)))
    assert made.x[0] == 250.0
    assert made.x[-1] == pytest.approx(3250.0, rel=1e-12)


def test_litres_of_a_flow_that_swells_and_stops() -> None:
    """0 to 12 L/min within a minute is 6 L, a minute at 12 L/min 12 L; then nothing more comes."""
    one = stage("total over time", unit="L/min", begin="0 L")
    made = whole(one, at([0, 60, 120, 120.001, 500], [0, 12, 12, 0, 0]))
    assert made.x.tolist() == pytest.approx([0, 6, 18, 18.0001, 18.0001])


def test_a_gap_is_bridged_or_left_out() -> None:
    """Of an hour at 2 A, half of it without samples."""
    t, x = [0.0, 900.0, 2700.0, 3600.0], [2.0] * 4
    assert whole(stage("total over time", unit="A", begin="0 Ah"), at(t, x)).x[-1] == pytest.approx(2.0)
    short = stage("total over time", unit="A", begin="0 Ah", longest_gap="1000 s")
    assert whole(short, at(t, x)).x.tolist() == pytest.approx([0.0, 0.5, 0.5, 1.0])


def test_a_bad_sample_stays_bad_and_the_total_goes_on() -> None:
    """From the good one before to the good one behind."""
    block = at([0, 1, 2, 3], [4, float("nan"), 99, 8], [0, Mark.MISSING, Mark.CHECKSUM, 0])
    made = whole(stage("total over time", unit="m/s", begin="0 m"), block)
    assert made.mark.tolist() == [0, Mark.MISSING, Mark.CHECKSUM, 0]
    assert made.x[[0, 3]].tolist() == [0.0, 18.0]
    summed = whole(stage("sum", begin="1 mm"), block)
    assert summed.x[[0, 3]].tolist() == [5.0, 13.0]


def test_a_day_of_rain_ends_at_midnight() -> None:
    """Begun at nine in the evening; a tip at midnight itself is of the day before."""
    one = stage("sum", begin="0 mm", every="24 h", first="3 h")
    t = [0.0, 2 * HOUR, 3 * HOUR, 3 * HOUR + 60, 20 * HOUR, 27 * HOUR, 28 * HOUR, 99 * HOUR]
    assert whole(one, at(t, [0.2] * 8)).x.tolist() == pytest.approx([0.2, 0.4, 0.6, 0.2, 0.4, 0.6, 0.2, 0.2])


def test_the_trapezoid_is_cut_where_a_period_ends() -> None:
    """0 to 4 W within 4 h, hours apart: of the hour from 2.5 h on the last half is 1.875 Wh, by hand."""
    one = stage("total over time", unit="W", begin="0 Wh", every="24 h", first="2.5 h")
    made = whole(one, at([0, HOUR, 2 * HOUR, 3 * HOUR, 4 * HOUR], [0, 1, 2, 3, 4]))
    half = (2.5 + 3) / 2 * 0.5
    assert made.x.tolist() == pytest.approx([0, 0.5, 2.0, half, half + 3.5])


def test_after_days_without_a_sample_only_the_present_one_counts() -> None:
    """A period that began and ended in the gap is none of it."""
    one = stage("total over time", unit="A", begin="7 Ah", every="24 h")
    made = whole(one, at([0, 10 * HOUR, 58 * HOUR], [1, 1, 1]))
    assert made.x.tolist() == pytest.approx([7, 17, 10])


@pytest.mark.parametrize(
    ("full", "counts", "values", "rises"),
    [
        ("65536", "up", [65530, 65535, 4, 10], [0, 5, 10, 16]),
        ("0", "up", [100, 130, 5, 9], [0, 30, 35, 39]),  # switched on anew
        ("65536", "up", [100, 130, 5, 9], [0, 30, 35, 39]),  # 65 411 more would be no wrap
        ("0", "both ways", [100, 130, 90, 80], [0, 30, -10, -20]),
        ("256", "both ways", [250, 4, 250, 200], [0, 10, 0, -50]),
        ("0", "up", [0.5, 0.75, 1.5, 1.5], [0, 0.25, 1.0, 1.0]),
        ("100", "up", [99.0, 99.5, 0.0, 0.25], [0, 0.5, 1.0, 1.25]),  # round by a part of a count
    ],
)
def test_what_a_counter_has_risen_by(full: str, counts: str, values: list[float], rises: list[float]) -> None:
    """Through wraps and restarts; what it showed at first is not counted."""
    one = stage("counter rise", begin="0 ct", full=full, counts=counts)
    assert whole(one, at([0, 1, 2, 3], values)).x.tolist() == rises
    begun = stage("counter rise", begin="1000 ct", full=full, counts=counts)
    assert whole(begun, at([0, 1, 2, 3], values)).x.tolist() == [1000 + each for each in rises]


def test_time_that_runs_back_adds_nothing() -> None:
    """It stands still until it is where it was."""
    made = whole(stage("total over time", unit="A", begin="0 Ah"), at([0, 3600, 1800, 3600, 7200], [1.0] * 5))
    assert made.x.tolist() == [0, 1, 1, 1, 2]


def plain(kind: str, t: list[Fraction], x: list[Fraction], every: Fraction, first: Fraction) -> list[Fraction]:
    """Sample by sample, period by period, in exact fractions: of amounts, or of a rate cut at every end of a period."""
    ends, total, made = first or every, Fraction(0), []
    for place, (now, value) in enumerate(zip(t, x, strict=True)):
        then, before = (t[place - 1], x[place - 1]) if place else (now, value)
        while every and now - t[0] > ends:
            # What is left of the period that ends here is nobody's any more.
            if kind == "total over time" and t[0] + ends > then:
                share = (t[0] + ends - then) / (now - then)
                then, before = t[0] + ends, before + (value - before) * share
            total, ends = Fraction(0), ends + every
        total += value if kind == "sum" else (now - then) * (before + value) / 2
        made.append(total)
    return made


@given(
    steps=st.lists(st.integers(0, 40), min_size=1, max_size=60),
    seed=st.integers(0, 999),
    every=st.sampled_from([0, 1, 7, 16, 100, 900]),
    share=st.integers(0, 16),
    kind=st.sampled_from(["total over time", "sum"]),
)
def test_against_a_plain_loop_in_fractions(steps: list[int], seed: int, every: int, share: int, kind: str) -> None:
    """Any times, any periods, many samples a period and many periods a sample."""
    x = np.random.default_rng(seed).integers(-50, 90, len(steps))
    t = np.cumsum(steps)
    first = every * share / 16
    begun = {"unit": "m/s", "begin": "0 m"} if kind == "total over time" else {"begin": "0 m"}
    one = stage(kind, **begun, every=f"{every} s", first=f"{first} s")
    made = whole(one, at(t.astype(float).tolist(), x.astype(float).tolist()))
    exact = plain(kind, [Fraction(int(n)) for n in t], [Fraction(int(n)) for n in x], Fraction(every), Fraction(first))
    assert made.x == pytest.approx([float(each) for each in exact], rel=1e-9, abs=1e-9)


@given(
    cuts=st.lists(st.integers(0, 500), max_size=8),
    kind=st.sampled_from(["total over time", "sum", "counter rise", "change over time"]),
    every=st.sampled_from(["0 s", "0.9 s", "7 s", "200 s"]),
    lost=st.lists(st.integers(0, 499), max_size=60),
    seed=st.integers(0, 9),
)
def test_cutting_changes_nothing(cuts: list[int], kind: str, every: str, lost: list[int], seed: int) -> None:
    """Bit for bit, with samples missing, a gap in time, and times that run back."""
    noise = np.random.default_rng(seed).normal(size=500) * 100
    mark = np.zeros(500, np.uint8)
    mark[lost] = Mark.MISSING
    t = np.arange(500) / 3.0
    t[300:] += 57.0
    t[100:105] -= 4.0
    block = Block(t, np.where(mark, np.nan, noise), mark)
    written: dict[str, dict[str, str]] = {
        "total over time": {"unit": "V", "begin": "0 V·s", "every": every, "longest_gap": "10 s"},
        "sum": {"begin": "0 V", "every": every},
        "counter rise": {"begin": "0 V", "every": every, "full": "150"},
        "change over time": {"unit": "V", "over": every},
    }
    one = stage(kind, **written[kind])
    state, parts = one.initial(), []
    for start, end in pairwise([0, *sorted(cuts), 500]):
        state, part = one.run(state, block[start:end])
        parts.append(part)
    cut, uncut = joined(parts), whole(one, block)
    assert cut.t.tobytes() == uncut.t.tobytes()
    assert cut.x.tobytes() == uncut.x.tobytes()
    assert cut.mark.tobytes() == uncut.mark.tobytes()


@pytest.mark.parametrize(
    ("over", "per", "unit", "t", "x", "rates"),
    [
        ("0 s", "1/s", "ct", [0, 1, 3], [5, 8, 18], [None, 3, 5]),
        ("10 s", "1/min", "L", [0, 5, 10, 15, 40], [0, 1, 2, 4, 9], [None, None, 12, 18, 12]),
        ("3 h", "1/h", "hPa", [0, HOUR, 3 * HOUR, 4 * HOUR], [1000, 1001, 1006, 1004], [None, None, 2, 1]),
        ("0 s", "1/min", "°C", [0, 30], [20.0, 20.5], [None, 1.0]),
    ],
)
def test_how_fast_a_value_changes(
    over: str, per: str, unit: str, t: list[float], x: list[float], rates: list[float | None]
) -> None:
    """Against the newest sample that is old enough; before there is one, none."""
    made = whole(stage("change over time", unit=unit, over=over, per=per), at(t, x))
    assert made.x.tolist() == pytest.approx([float("nan") if each is None else each for each in rates], nan_ok=True)
    assert [int(flag) for flag in made.mark] == [Mark.MISSING if each is None else 0 for each in rates]


def test_tenths_of_a_second_are_compared_with_the_one_a_second_ago() -> None:
    """Though a tenth is no binary fraction: ten steps of 0.1 s, every time."""
    one = stage("change over time", unit="ct", over="1 s")
    made = whole(one, Block(np.arange(300) * 0.1, np.arange(300.0) ** 2, np.zeros(300, np.uint8)))
    n = np.arange(10, 300)
    assert made.x[10:] == pytest.approx(n**2 - (n - 10.0) ** 2)


def test_units_of_a_change() -> None:
    """Of a temperature it is a difference, per the time that was asked for."""
    assert stage("change over time", unit="°C", per="1/h").unit_out.symbol == "°C/h"
    assert stage("change over time", unit="ct").unit_out.symbol == "ct/s"


@pytest.mark.parametrize(
    ("rate", "amount"),
    [
        ("A", "Ah"),
        ("mA", "mAh"),
        ("µA", "µAh"),
        ("W", "Wh"),
        ("kW", "kWh"),
        ("L/min", "L"),
        ("mL/s", "mL"),
        ("m^3/h", "m^3"),
        ("mm/h", "mm"),
        ("m/s", "m"),
        ("km/h", "km"),
        ("ct/s", "ct"),
        ("rpm", "turn"),
        ("turn/min", "turn"),
        ("kg/h", "kg"),
        ("bit/s", "bit"),
        ("lx", "lx·h"),
        ("L/min/m^2", "mm"),
        ("V/m", "V·h/m"),
    ],
)
def test_what_a_rate_adds_up_to_is_written_as_people_do(rate: str, amount: str) -> None:
    """And a new total of it begins in that."""
    assert amount_symbol(parse_unit(rate)) == amount
    started = law.KINDS["total over time"].start(parse_unit(rate), parse_unit("1"))
    assert stage("total over time", **started).unit_out.symbol == amount


@pytest.mark.parametrize(
    ("kind", "written", "said"),
    [
        (
            "total over time",
            {"unit": "mA", "begin": "0 mA"},
            "begin must be an amount: mA adds up to mAh, not to mA",
        ),
        (
            "total over time",
            {"unit": "°C", "begin": "0 °C"},
            "a temperature in °C has no zero to add up from; subtract a base from it first",
        ),
        ("sum", {"begin": "0 °C"}, "temperatures in °C do not add up; differences in Δ°C do"),
        ("sum", {"begin": "0 mm", "every": "1 h", "first": "2 h"}, "first must not be longer than every"),
        (
            "counter rise",
            {"begin": "0 ct", "first": "2 h"},
            'first says when a total begins again, which it never does; every = "24 h" lets it',
        ),
    ],
)
def test_what_cannot_add_up_is_refused(kind: str, written: dict[str, str], said: str) -> None:
    """With what would do."""
    with pytest.raises(ValueError, match=f"^{re.escape(said)}$"):
        stage(kind, **written)


def test_a_value_that_stands_alone() -> None:
    """By hand a rate lasts an hour, or a whole period; an amount comes once; what stands still does not change."""
    alone = block_of([3.0])
    assert stage("total over time", unit="A", begin="500 mAh").at_rest(alone).x[0] == 3500.0
    assert stage("total over time", unit="A", begin="500 mAh", every="24 h").at_rest(alone).x[0] == 72_000.0
    assert stage("sum", begin="4 mm").at_rest(alone).x[0] == 7.0
    assert stage("change over time", unit="V").at_rest(alone).x[0] == 0.0


def test_many_short_periods_are_summed_all_at_once() -> None:
    """A period of every other sample: the same as its amounts by hand."""
    x = np.arange(200_000.0)
    one = stage("sum", begin="0 ct", every="2 s")
    made = whole(one, block_of(x))
    # Periods end at 2, 4, …: the first holds 0, 1 and 2, each after it two.
    assert made.x[:5].tolist() == [0, 1, 3, 3, 7]
    assert made.x[4::2] == pytest.approx(x[4::2] + x[3:-1:2])
