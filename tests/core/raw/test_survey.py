"""Who answers on a bus: nobody, everybody, somebody else and a garbled answer are told apart."""

from __future__ import annotations

import pytest
from hypothesis import given
from hypothesis import strategies as st

from lesart.core.raw.decode.two_wire import asked_in
from lesart.core.raw.survey import Asked, Bus, Survey, judge
from tests.core.raw.traces import TwoWire, random_edges


def survey(
    bus: Bus, answered: set[int], expected: dict[int, str] | None = None, most: int = 20, garbled: int = 0
) -> Survey:
    asked = tuple(
        Asked(address, 1, int(address in answered), int(address == garbled)) for address in range(1, most + 1)
    )
    return Survey(bus, asked, expected or {})


@pytest.mark.parametrize(
    ("bus", "answered", "expected", "marks", "words"),
    [
        ("Modbus", set(), {7: "mast"}, "†", "Nobody answered, of 20 units asked"),
        ("two-wire bus", set(), {7: "air"}, "†", "Nobody answered, of 20 addresses asked: data and clock changed over"),
        ("Modbus", set(range(1, 21)), {}, "†", "the line hears itself"),
        ("two-wire bus", set(range(1, 21)), {7: "air"}, "†", "All 20 addresses answered: the data line is held low"),
        ("two-wire bus", {9}, {7: "air"}, "†", "air is expected at 0x07, where nobody answered; 0x09 answered"),
        ("Modbus", {3}, {7: "mast", 3: "gate"}, "†", "mast is expected at 7, where nobody answered, while others did"),
        ("Modbus", {3, 7}, {7: "mast"}, "·", "3 answered too, and nobody is known to be there"),
        ("Modbus", {7}, {7: "mast"}, "·", "mast at 7 answered, of 20 asked"),
        ("Modbus", {3}, {}, "·", "3 answered, of 20 asked"),
    ],
)  # fmt: skip
def test_what_it_means(bus: Bus, answered: set[int], expected: dict[int, str], marks: str, words: str) -> None:
    verdicts = judge(survey(bus, answered, expected))
    assert "".join(verdict.mark for verdict in verdicts) == marks
    assert words in verdicts[0].text
    assert bool(verdicts[0].remedy) == (marks == "†")


def test_two_devices_at_one_address_garble_their_answers() -> None:
    first, second = (
        judge(survey("Modbus", {7}, {7: "mast"}, garbled=5))[0],
        judge(survey("Modbus", set(), garbled=5))[0],
    )
    assert "two devices at one address" in first.text
    assert first == second


def test_a_few_that_all_answer_are_not_everybody() -> None:
    """A trace of two devices that both are there is a healthy bus."""
    assert judge(Survey("two-wire bus", (Asked(0x27, 5, 5), Asked(0x76, 3, 3)), {}))[0].mark == "·"


def test_nobody_was_asked() -> None:
    assert judge(Survey("two-wire bus", (), {}))[0].text == "Nobody was asked."


def test_addresses_in_a_trace_of_someone_who_asks_them_all() -> None:
    bus = TwoWire()
    for address in range(0x08, 0x78):
        bus.start().byte(address << 1, acknowledged=address in (0x27, 0x76)).stop()
    bus.start().byte(0x27 << 1 | 1).byte(5, acknowledged=False).stop()
    lines = bus.lines
    asked = {each.address: each for each in asked_in(lines["clock"], lines["data"])}
    assert sorted(asked) == list(range(0x08, 0x78))
    assert [each.address for each in asked.values() if each.answered] == [0x27, 0x76]
    assert (asked[0x27].asked, asked[0x27].answered) == (2, 2)


@given(st.integers(0, 10**6), st.integers(0, 60))
def test_any_trace_gives_a_judgement(seed: int, count: int) -> None:
    clock, data = random_edges(seed, count), random_edges(seed + 1, count)
    assert judge(Survey("two-wire bus", asked_in(clock, data), {0x27: "door"}))
