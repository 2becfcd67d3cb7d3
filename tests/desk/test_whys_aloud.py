"""What is said at ``y``: what it should read, how far it is off, and what is seen of the loop."""

from __future__ import annotations

import pytest

from lesart.core.step import Step
from lesart.desk.deeds.why import ask_why
from lesart.desk.desk import Desk
from lesart.desk.entries.aloud.whys import symptom_plainly
from lesart.study.why.of_time import SYMPTOMS


def now_c(desk: Desk) -> float:
    """What the channel reads at the cursor, before its filters."""
    run = desk.bench.run(desk.state.project, desk.state.chosen)
    return float(run.reading_at(Step.TRUE, desk.shown.cursor_s).value)


@pytest.mark.parametrize(
    ("typed", "wanted"),
    [
        ("21.5", 21.5),
        ("it should be 21.5 °C", 21.5),
        ("should read 21.5 C", 21.5),
        ("it must be 70.7 °F", (70.7 - 32) / 1.8),
        ("it reads 25 but should be 21.5", 21.5),
        ("it reads 25, it should be 21.5", 21.5),
        ("25 should be 21.5", 21.5),
        ("reads 25 °C instead of 21.5 °C", 21.5),
        ("really 21.5 °C", 21.5),
        ("the true value is 21.5", 21.5),
        ("it should be 21.5 ± 0.2 °C", 21.5),
    ],
)
def test_what_it_should_read(typed: str, wanted: float, hut: Desk) -> None:
    """One truth, which is the value that should stand there."""
    hut.open_step(Step.TRUE)
    ask_why(hut, typed)
    assert not hut.state.message_is_fault, hut.state.message
    (truth,) = hut.state.why.truths
    assert truth.reading == pytest.approx(wanted, abs=1e-6)
    ask_why(hut, "")


@pytest.mark.parametrize(
    ("typed", "off"),
    [
        ("3 °C too high", 3.0),
        ("it is 3 degrees too warm", 3.0),
        ("1.5 too low", -1.5),
        ("it reads 9 °F too much", 5.0),
        ("about 0.5 K under", -0.5),
    ],
)
def test_how_far_it_is_off(typed: str, off: float, hut: Desk) -> None:
    """Of what it reads at the cursor; as sure as its last place."""
    hut.open_step(Step.TRUE)
    reading = now_c(hut)
    ask_why(hut, typed)
    assert not hut.state.message_is_fault, hut.state.message
    (truth,) = hut.state.why.truths
    assert truth.reading == pytest.approx(reading - off, abs=1e-3)
    ask_why(hut, "")


@pytest.mark.parametrize(
    ("typed", "times"),
    [
        ("twice as much", 2.0),
        ("it is double", 2.0),
        ("10 times too high", 10.0),
        ("half", 0.5),
        ("it reads only half of what it should be", 0.5),
        ("3 times too low", 1 / 3),
        ("wrong sign", -1.0),
        ("it is upside down", -1.0),
    ],
)
def test_how_many_times_too_much(typed: str, times: float, hut: Desk) -> None:
    """A word for a factor is rough."""
    hut.open_step(Step.TRUE)
    reading = now_c(hut)
    ask_why(hut, typed)
    assert not hut.state.message_is_fault, hut.state.message
    (truth,) = hut.state.why.truths
    assert truth.reading == pytest.approx(reading / times, rel=1e-5)
    assert truth.tolerance >= abs(0.1 * reading / times)
    ask_why(hut, "")


def test_what_was_taken_is_said(hut: Desk) -> None:
    hut.open_step(Step.TRUE)
    true = f"{now_c(hut) - 3:.6g}"
    ask_why(hut, "3 °C too high")
    assert hut.state.message == (
        f"1 truth about room, {true} °C ± 1; one more would narrow it down; y with nothing typed starts over."
    )
    ask_why(hut, "")
    ask_why(hut, "off by 2 °C")
    assert hut.state.message == '"off by 2 °C" does not say which way; write 2 °C too high, or 2 °C too low.'
    assert hut.state.message_is_fault


@pytest.mark.parametrize(
    ("typed", "symptom"),
    [
        ("it flickers", "flickers"),
        ("the digits blink", "flickers"),
        ("lag", "lags"),
        ("it is slow", "lags"),
        ("comes late", "lags"),
        ("misses pulses", "missed"),
        ("it loses counts", "missed"),
        ("it hangs", "freezes"),
        ("freeze", "freezes"),
        ("stuck for a second", "freezes"),
    ],
)
def test_what_is_seen_of_the_loop(typed: str, symptom: str, hut: Desk) -> None:
    hut.open_step(Step.PACE)
    ask_why(hut, typed)
    assert (hut.state.why.symptom, hut.state.message_is_fault) == (symptom, False)
    ask_why(hut, "")


def test_a_symptom_is_its_own_name() -> None:
    assert [symptom_plainly(each) for each in SYMPTOMS] == list(SYMPTOMS)
    assert symptom_plainly("it smells") == "it smells"


@pytest.mark.parametrize(
    ("typed", "share"), [("10 % too high", 0.1), ("25 % too low", -0.25), ("it is 50 % too hot", 0.5)]
)
def test_a_share_is_of_what_it_should_read(typed: str, share: float, hut: Desk) -> None:
    """Ten per cent of a temperature were a tenth of a degree."""
    hut.open_step(Step.TRUE)
    reading = now_c(hut)
    ask_why(hut, typed)
    assert not hut.state.message_is_fault, hut.state.message
    (truth,) = hut.state.why.truths
    assert truth.reading * (1 + share) == pytest.approx(reading, rel=1e-5)
    assert truth.tolerance >= 0.01 * reading
    ask_why(hut, "")


@pytest.mark.parametrize(
    ("typed", "says"),
    [
        ("too high", "say by how much, like 3 °C too high, or what it should read, like 21.5 °C"),
        ("it is wrong", "say by how much, like 3 °C too high, or what it should read, like 21.5 °C"),
        ("it reads nothing", "y in 1 Wire asks why a part says nothing, and 2 Raw shows what came"),
        ("stuck", "for a value that does not move see the notes of 2 Raw; for a frozen display press y in 8 Pace"),
        ("noisy", "+ in 5 Calm asks for the cheapest filters by the noise they leave, like noise 0.1 Δ°C"),
        ("drifts", "drift is shown in 4 True, between calibrations and by references of other days"),
        ("lags", "y in 8 Pace asks about what you see of the loop, like lags"),
        ("wrong unit", "type what it should read with its unit; a mistaken unit is one of the causes that are tried"),
        ("factor 10", "say which way, like 10 times too high"),
    ],
)
def test_what_is_seen_and_is_no_value_is_told_who_answers_it(typed: str, says: str, hut: Desk) -> None:
    hut.open_step(Step.LAW)
    ask_why(hut, typed)
    assert hut.state.message == f'"{typed}": {says}.'
    assert hut.state.message_is_fault
    assert not hut.state.why.truths
