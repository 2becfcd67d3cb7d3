"""Alarms as people say them, held against the entries that they become."""

from __future__ import annotations

import tomllib
from typing import Any

import pytest

from lesart.core.step import Step
from lesart.desk.desk import Desk
from lesart.desk.entries.aloud.alarms import alarms_said, is_alarm


@pytest.fixture
def room(hut: Desk) -> Desk:
    """A temperature in °C, from −10 to 50."""
    hut.open_step(Step.CALM)
    return hut


def alarms_of(desk: Desk) -> list[dict[str, Any]]:
    found: list[dict[str, Any]] = tomllib.loads(desk.state.history.text)["channels"]["room"]["alarms"]
    return found


@pytest.mark.parametrize(
    ("line", "side", "limit"),
    [
        ("alarm above 30 °C", "above", "30 °C"),
        ("alarm over 30", "above", "30 °C"),
        ("alarm if above 30 C", "above", "30 °C"),
        ("alarm when it is under 5 °C", "below", "5 °C"),
        ("alarm > 30 °C", "above", "30 °C"),
        ("alarm less than 5 °C", "below", "5 °C"),
        ("beep when it is above 30 °C", "above", "30 °C"),
        ("warn me below 5 °C", "below", "5 °C"),
        ("a buzzer above 30", "above", "30 °C"),
        ("an alarm if it gets below −5 °C", "below", "-5 °C"),
        ("a high alarm at 30", "above", "30 °C"),
        ("low alarm 5 °C", "below", "5 °C"),
        ("alarm above 86 °F", "above", "86 °F"),
    ],
)
def test_an_alarm_is_what_was_said(line: str, side: str, limit: str, room: Desk) -> None:
    """With a hysteresis of a hundredth of the range, and at once."""
    room.add(line)
    assert not room.state.message_is_fault, room.state.message
    (entry,) = alarms_of(room)
    named = "high" if side == "above" else "low"
    span = room.state.chosen.highest - room.state.chosen.lowest
    assert entry.pop("hysteresis") == f"{span / 100:.1g} Δ°C"
    assert entry == {"name": named, "side": side, "limit": limit, "least": "0 s"}


@pytest.mark.parametrize(
    ("line", "wanted"),
    [
        ("alarm above 30 °C with 1 C hysteresis", {"hysteresis": "1 Δ°C"}),
        ("alarm above 30 °C with a hysteresis of 0.5", {"hysteresis": "0.5 Δ°C"}),
        ("alarm above 30, hysteresis 9 °F", {"hysteresis": "5 Δ°C"}),
        ("alarm above 30 °C for 5 s", {"least": "5 s"}),
        ("alarm above 30 °C for at least 2 minutes", {"least": "2 min"}),
        ("alarm above 30, delay 10 s", {"least": "10 s"}),
        ("alarm above 30 after 10 seconds", {"least": "10 s"}),
        ("alarm at 30 °C, off at 28", {"side": "above", "limit": "30 °C", "hysteresis": "2 Δ°C"}),
        ("alarm at 5 °C, off at 6.5 °C", {"side": "below", "limit": "5 °C", "hysteresis": "1.5 Δ°C"}),
        ("alarm above 30 °C until below 27 °C", {"limit": "30 °C", "hysteresis": "3 Δ°C"}),
        ("beep above 30 °C for 5 s, off at 28", {"limit": "30 °C", "hysteresis": "2 Δ°C", "least": "5 s"}),
        ("too hot above 30", {"name": "too hot", "side": "above", "limit": "30 °C"}),
        ("alarm below 5 called frost", {"name": "frost", "side": "below", "limit": "5 °C"}),
    ],
)
def test_what_is_said_of_it_is_taken(line: str, wanted: dict[str, str], room: Desk) -> None:
    room.add(line)
    assert not room.state.message_is_fault, room.state.message
    (entry,) = alarms_of(room)
    assert entry | wanted == entry


@pytest.mark.parametrize(
    "line",
    [
        "alarm outside 5 to 30 °C",
        "beep if it is outside 5 °C to 30 °C",
        "warn me out of 5-30 °C",
        "alarm not between 5 and 30",
        "alarm high 30 °C low 5 °C",
        "alert at low 5, high 30",
        "warn below 5 and above 30",
        "alarm below 5 °C or above 30 °C",
        "between 5 and 30 °C is ok",
        "5 to 30 °C is normal, else alarm",
    ],
)
def test_a_range_has_an_alarm_at_either_end(line: str, room: Desk) -> None:
    """Both in one step, which one undo takes back."""
    before = room.state.history.text
    room.add(line)
    assert not room.state.message_is_fault, room.state.message
    assert [(entry["side"], entry["limit"]) for entry in alarms_of(room)] == [("below", "5 °C"), ("above", "30 °C")]
    room.undo()
    assert room.state.history.text == before


@pytest.mark.parametrize(
    ("line", "says"),
    [
        ("alarm 30", '"30" is neither above nor below; write it like alarm above 10 °C.'),
        ("alarm at 30 °C", '"30 °C" is neither above nor below; write it like alarm above 10 °C.'),
        (
            "alarm between 5 and 30",
            '"alarm between 5 and 30" does not say whether it is on there or outside; write alarm outside 5 to 30 °C, '
            "or two alarms.",
        ),
        ("alarm above 30 °C, off at 31", "An alarm above 30 °C cannot go off at 31: that is where it is on."),
        (
            "warn above 25 and alarm above 30",
            '"warn above 25 and alarm above 30" is two alarms; type them one by one, like alarm above 10 °C.',
        ),
        (
            "alarm if the sensor is missing",
            '"alarm if the sensor is missing": an alarm needs a reading; where none comes, the field shows that.',
        ),
        (
            "alarm if it rises faster than 2 a minute",
            '"alarm if it rises faster than 2 a minute": an alarm compares a reading with a limit, and not with what '
            "it was.",
        ),
        ("alarm above 30 kg", "kg cannot be converted to °C"),
    ],
)
def test_what_nobody_can_mean_is_refused(line: str, says: str, room: Desk) -> None:
    before = room.state.history.text
    room.add(line)
    assert room.state.message_is_fault
    assert says in room.state.message
    assert room.state.history.text == before


def test_what_was_taken_is_said(room: Desk) -> None:
    """With the figures that were said, and no others."""
    room.add("beep above 30 °C for 5 s, off at 28")
    assert room.state.message == "added: alarm above 30 °C, hysteresis 2 Δ°C, after 5 s"
    room.add("alarm outside 5 to 31")
    assert room.state.message == "added: alarm below 5 °C and alarm above 31 °C"


def test_a_filter_is_none() -> None:
    for line in ("median 5", "hold 5 s", "tracking", "reject range 0 to 30"):
        assert not is_alarm(line)


def test_a_limit_alone_has_no_side() -> None:
    """But for one that goes off again on the other side of it."""
    (said,) = alarms_said("alarm at 3 kg, off at 4 kg", "kg")
    assert (said.side, said.limit, said.off) == ("below", "3 kg", "4 kg")
