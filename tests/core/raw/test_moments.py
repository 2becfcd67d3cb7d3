"""Moments as people and programs write them, against the calendar of the language."""

from __future__ import annotations

from collections.abc import Callable
from datetime import UTC, datetime, timedelta

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from lesart.core.raw.moments.column import find_time
from lesart.core.raw.moments.read import seconds_of
from lesart.core.raw.moments.written import (
    CLOCK,
    DAY_FIRST,
    HOURS_MINUTES,
    ISO,
    LASTS,
    MINUTES,
    MONTH_FIRST,
    YEAR_FIRST,
)
from lesart.core.units import parse_unit

MOMENTS = st.datetimes(datetime(1970, 1, 1), datetime(2099, 12, 31, 23, 59, 59))
Way = Callable[[datetime], str]
DATED: dict[str, tuple[str, Way]] = {
    "as the standard has it": (ISO, lambda at: at.isoformat(timespec="seconds")),
    "with thousandths": (ISO, lambda at: at.isoformat(sep=" ", timespec="milliseconds")),
    "with millionths": (ISO, lambda at: at.isoformat(timespec="microseconds")),
    "compact": (ISO, lambda at: at.strftime("%Y%m%dT%H%M%S")),
    "an hour east": (ISO, lambda at: (at + timedelta(hours=1)).isoformat(timespec="seconds") + "+01:00"),
    "some hours west": (ISO, lambda at: (at - timedelta(hours=3, minutes=30)).isoformat(timespec="seconds") + "-0330"),
    "year first, by strokes": (YEAR_FIRST, lambda at: at.strftime("%Y/%m/%d %H:%M:%S")),
    "day first, by points": (DAY_FIRST, lambda at: at.strftime("%d.%m.%Y %H:%M:%S")),
    "day first, without noughts": (DAY_FIRST, lambda at: f"{at.day}/{at.month}/{at.year} {at:%H:%M:%S}"),
    "a month in letters": (DAY_FIRST, lambda at: f"{at.day:02} {_month(at)} {at.year}, {at:%H:%M:%S}"),
    "month first": (MONTH_FIRST, lambda at: at.strftime("%m/%d/%Y %H:%M:%S")),
    "by halves of the day": (MONTH_FIRST, lambda at: f"{at:%m/%d/%Y} {(at.hour + 11) % 12 + 1}:{at:%M:%S} {_half(at)}"),
    "the clock first": (DAY_FIRST, lambda at: at.strftime("%H:%M:%S %d.%m.%Y")),
    "a day of the week before": (MONTH_FIRST, lambda at: f"Mon {_month(at)} {at.day} {at.year} {at:%H:%M:%S}"),
}


def _month(at: datetime) -> str:
    return ["Jan", "Feb", "Mar", "Apr", "May", "Jun", "Jul", "Aug", "Sep", "Oct", "Nov", "Dec"][at.month - 1]


def _half(at: datetime) -> str:
    return "PM" if at.hour >= 12 else "AM"


def since_1970(at: datetime) -> float:
    """Of a moment taken as it stands."""
    return at.replace(tzinfo=UTC).timestamp()


@pytest.mark.parametrize("way", DATED)
@given(moments=st.lists(MOMENTS, min_size=1, max_size=20))
def test_a_moment_with_a_date(way: str, moments: list[datetime]) -> None:
    """To what is written of a second."""
    form, write = DATED[way]
    step = {"with thousandths": 1000, "with millionths": 1}.get(way, 1_000_000)
    wanted = [since_1970(at.replace(microsecond=at.microsecond // step * step)) for at in moments]
    np.testing.assert_allclose(seconds_of([write(at) for at in moments], form), wanted, rtol=0, atol=2e-6)


@pytest.mark.parametrize(
    ("text", "form", "wanted"),
    [
        ("2026-05", ISO, since_1970(datetime(2026, 5, 1))),
        ("2024-02-29", ISO, since_1970(datetime(2024, 2, 29))),
        ("2026-05-14T24:00:00", ISO, since_1970(datetime(2026, 5, 15))),
        ("14.05.26", DAY_FIRST, since_1970(datetime(2026, 5, 14))),
        ("01.01.69", DAY_FIRST, since_1970(datetime(1969, 1, 1))),
        ("01.01.68", DAY_FIRST, since_1970(datetime(2068, 1, 1))),
        ("May 14 08:00:30", MONTH_FIRST, since_1970(datetime(2000, 5, 14, 8, 0, 30))),
        ("12:00:00 AM", CLOCK, 0.0),
        ("12:30:00 PM", CLOCK, 45_000.0),
        ("23:59:60", CLOCK, 86_400.0),
        ("8:15", CLOCK, 29_700.0),
        ("0:05.25", MINUTES, 5.25),
        ("75:00", MINUTES, 4500.0),
        ("815", HOURS_MINUTES, 29_700.0),
        ("2359", HOURS_MINUTES, 86_340.0),
        ("1h 2m 3s", LASTS, 3723.0),
        ("PT1M30S", LASTS, 90.0),
        ("1 week", LASTS, 604_800.0),
        ("2.5 days", LASTS, 216_000.0),
        ("100 ms", LASTS, 0.1),
    ],
)
def test_a_moment_written_in_another_way(text: str, form: str, wanted: float) -> None:
    assert seconds_of([text], form).tolist() == [pytest.approx(wanted, abs=1e-9)]


@pytest.mark.parametrize(
    ("text", "form"),
    [
        ("2026-13-01", ISO),
        ("2026-00-01", ISO),
        ("2026-05-32", ISO),
        ("2026-05-00", ISO),
        ("2026-05-14T25:00:00", ISO),
        ("2026-05-14T08:60:00", ISO),
        ("2026-05-14T08:00:61", ISO),
        ("31.04.2026", DAY_FIRST),
        ("30.02.2026", DAY_FIRST),
        ("14 Mai! 2026", DAY_FIRST),
        ("13:00:00 PM", CLOCK),
        ("0:00:00 AM", CLOCK),
        ("12:60", CLOCK),
        ("noon", CLOCK),
        ("1260", HOURS_MINUTES),
        ("soon", LASTS),
        ("", ISO),
    ],
)
def test_what_is_no_moment_is_none(text: str, form: str) -> None:
    assert np.isnan(seconds_of([text, text], form)).all()


@pytest.mark.parametrize(
    ("winter", "summer", "hours"),
    [
        ("WET", "WEST", 0),
        ("GMT", "BST", 0),
        ("CET", "CEST", 1),
        ("MEZ", "MESZ", 1),
        ("EET", "EEST", 2),
        ("EST", "EDT", -5),
        ("CST", "CDT", -6),
        ("MST", "MDT", -7),
        ("PST", "PDT", -8),
    ],
)
def test_the_letters_of_a_zone(winter: str, summer: str, hours: int) -> None:
    """So many hours before universal time; in summer one more."""
    noon = since_1970(datetime(2026, 5, 14, 12))
    for letters, before in ((winter, hours), (summer, hours + 1), ("UTC", 0), ("Z", 0)):
        for written in (letters, letters.lower(), *((f"({letters})",) if letters != "Z" else ())):
            assert seconds_of([f"2026-05-14 12:00:00 {written}"], ISO).tolist() == [noon - 3600 * before], written


@pytest.mark.parametrize("order", [("date", "stamp"), ("stamp", "date")])
def test_of_two_dated_columns_the_one_that_goes_on_is_the_time(order: tuple[str, str]) -> None:
    """The other has one moment in every row, as of when a file was made."""
    still, going = order
    rows = [f"2026-05-14 08:00:0{second}" for second in range(6)]
    found = find_time({still: [rows[0]] * 6, going: rows})
    assert (found.column, found.doubt) == (going, "")


@pytest.mark.parametrize(("unit", "taken"), [("s", True), ("ms", True), ("V", False)])
def test_a_first_column_in_seconds_is_the_time_whatever_it_is_called(unit: str, taken: bool) -> None:
    columns = {"x": ["0", "10", "20", "40"], "y": ["3", "1", "2", "5"]}
    found = find_time(columns, units={"x": parse_unit(unit)})
    assert (found.column, found.unit) == (("x", unit) if taken else ("", "s"))
