"""Who answers on a bus: nobody, everybody, somebody else and a garbled answer are told apart."""

from __future__ import annotations

from dataclasses import replace

import pytest
from hypothesis import given
from hypothesis import strategies as st

from lesart.core.raw.decode.two_wire import asked_in
from lesart.core.raw.edges import HIGH, LOW, Edges, edges_of
from lesart.core.raw.messages.survey import Asked, Bus, Survey, judge
from lesart.core.raw.silence import survey_in
from lesart.core.wire.part import parse_address
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
        ("Modbus", set(), {7: "mast"}, "†", "No device answered, of 20 units asked"),
        ("two-wire bus", set(), {7: "air"}, "†", "No device answered, of 20 addresses asked: data and clock swapped"),
        ("Modbus", set(range(1, 21)), {}, "†", "the line hears itself"),
        ("two-wire bus", set(range(1, 21)), {7: "air"}, "†", "All 20 addresses answered: the data line is held low"),
        ("two-wire bus", {9}, {7: "air"}, "†", "air is expected at 0x07, where no device answered; 0x09 answered"),
        (
            "Modbus",
            {3},
            {7: "mast", 3: "gate"},
            "†",
            "mast is expected at 7, where no device answered, while others did",
        ),
        ("Modbus", {3, 7}, {7: "mast"}, "·", "3 answered too, and no part is known there"),
        ("Modbus", {7}, {7: "mast"}, "·", "mast at 7 answered, of 20 asked"),
        ("Modbus", {3}, {}, "·", "3 answered, of 20 asked"),
    ],
)
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
    assert judge(Survey("two-wire bus", (), {}))[0].text == "No device was addressed."


def still(level: int, seconds: float = 0.1) -> Edges:
    return edges_of([], [], level, 0.0, seconds)


def asking(*addresses: int) -> dict[str, Edges]:
    bus = TwoWire()
    for address in addresses:
        bus.start().byte(address << 1).stop()
    return bus.lines


@pytest.mark.parametrize(
    ("clock", "data", "mark", "text"),
    [
        (asking(0x3C)["clock"], still(LOW), "†", "the data line is held low all along"),
        (still(LOW), asking(0x3C)["data"], "†", "the clock line is held low all along"),
        (still(LOW), still(LOW), "†", "both lines are low all along"),
        (still(HIGH), still(HIGH), "·", "both lines rest high"),
        (asking(0x3C)["clock"], still(HIGH), "†", "the data line never changes"),
        (asking(0x3C)["data"], asking(0x3C)["clock"], "†", "clock and data swapped, 1 address was asked"),
        (asking(0x3C, 0x3D)["data"], asking(0x3C, 0x3D)["clock"], "†", "2 addresses were asked"),
    ],
)
def test_why_nobody_was_asked(clock: Edges, data: Edges, mark: str, text: str) -> None:
    """A line that is held, two that are changed over, and a bus at rest are told apart."""
    (verdict,) = judge(survey_in(clock, data))
    assert verdict.mark == mark
    assert verdict.text.startswith("No device was addressed")
    assert text in verdict.text
    assert bool(verdict.remedy) == (mark == "†")


@pytest.mark.parametrize("address", range(0x08, 0x78))
def test_an_address_printed_with_eight_bits_is_told(address: int) -> None:
    """As many modules have it on their back; beyond 0x77 it is not an address at all."""
    found = replace(survey_in(*asking(address).values()), expected={address << 1: "door"})
    (verdict,) = judge(found)
    assert verdict.mark == "‡"
    assert verdict.remedy == f"write 0x{address:02X}"
    alone = replace(survey_in(*asking(0x08).values()), expected={0x78: "door"})
    assert judge(alone)[0].remedy == "write 0x3C if it is printed with eight bits"
    assert judge(replace(alone, expected={0xF0: "door"}))[0].remedy == "write one up to 0x77"
    if address << 1 > 0x77:
        with pytest.raises(ValueError, match=f"0x{address << 1:02X} is 0x{address:02X}$"):
            parse_address(f"0x{address << 1:02X}")
    else:
        assert parse_address(hex(address << 1)) == address << 1


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
    assert judge(replace(survey_in(clock, data), expected={0x27: "door"}))
