"""Digits whose wires are crossed: only one order of segments makes figures of all that was lit."""

from __future__ import annotations

import random
from collections.abc import Sequence

import pytest

from lesart.core.glass.bus.known_digits import wired
from lesart.core.glass.bus.known_display import KnownDisplay
from lesart.core.glass.bus.known_displays import known_displays
from lesart.core.glass.bus.transmissions import Transmission
from lesart.core.pace.edge_writer import four_wire, scanned
from lesart.core.raw.edges import Edges
from lesart.core.raw.talks.recognise import recognise

SEGMENTS = "abcdefg."
FIGURES = {
    "0": "abcdef", "1": "bc", "2": "abdeg", "3": "abcdg", "4": "bcfg", "5": "acdfg", "6": "acdefg", "7": "abc",
    "8": "abcdefg", "9": "abcdfg", "-": "g", " ": "",
}  # fmt: skip
"""Written down here once more: the segments as everybody names them, clockwise from the top, the middle one last."""


def _crossed(dice: random.Random, count: int = 8) -> str:
    order = list(SEGMENTS[:count])
    dice.shuffle(order)
    return "".join(order)


def _bits(text: str, order: str) -> list[int]:
    """Of each digit of a text, bit 0 first in an order; a point belongs to the digit before it."""
    found: list[str] = []
    for letter in text:
        if letter == ".":
            found[-1] += "."
        else:
            found.append(FIGURES[letter])
    return [sum(1 << order.index(each) for each in lit) for lit in found]


def _turns(
    texts: Sequence[str], order: str, on_level: int, lit_level: int
) -> tuple[dict[str, Edges], tuple[list[Edges], list[Edges]]]:
    """Four digits lit in turn for 2 ms each, a text for half a second, on lines that are hooked on as they come."""
    slots, t = [], 0.01
    for text in texts:
        for _ in range(60):
            for place, lit in enumerate(_bits(text, order)):
                slots.append((t, t + 1.98e-3, place, lit))
                t += 2e-3
    made = scanned(slots, 4, len(order), t, on_level=on_level, lit_level=lit_level)
    digits, segments = made
    return {f"x{place}": line for place, line in enumerate((*segments, *digits))}, made


def _display(lines: dict[str, Edges]) -> KnownDisplay:
    (found,) = [display for talk in recognise(lines) for display in known_displays(talk, lines)]
    return found


NUMBERS = ("12.34", "12.40", " 98.5", "-0.76")


@pytest.mark.parametrize("on_level", [0, 1])
@pytest.mark.parametrize("lit_level", [0, 1])
@pytest.mark.parametrize("seed", range(4))
def test_twelve_lines_without_names_show_what_they_show(seed: int, on_level: int, lit_level: int) -> None:
    """Segments are lit in some of the digits only, so they come and go in turn as digits do; and in any order."""
    order = _crossed(random.Random(seed))
    lines, _ = _turns(NUMBERS, order, on_level, lit_level)
    found = _display(lines)
    assert found.trace["digits"] == "x8 x9 x10 x11"
    assert found.trace["segments"] == " ".join(f"x{order.index(each)}" for each in SEGMENTS)
    assert found.trace.get("digit_on", "high") == ("high" if on_level else "low")
    assert found.trace.get("segment_on", "high") == ("high" if lit_level else "low")
    assert found.why == (f"100 % of what is lit in turn are figures in the order {' '.join(order)}, and in no other")


def test_a_point_that_is_never_lit_is_no_line_of_the_digits() -> None:
    order = "gfedcba"
    lines, _ = _turns(("1234", " 567", "8901"), order, 0, 1)
    assert _display(lines).trace["segments"] == " ".join(f"x{order.index(each)}" for each in SEGMENTS[:7])


def test_orders_that_make_as_many_figures_are_counted() -> None:
    """Of 21.35, 21.36 and 21.37 each segment but d and g is told from the others by where it is lit: d and g go
    together in 2, 3, 5 and 6. Another order with these two the other way round makes the same figures."""
    masks = [each for text in ("21.35", "21.36", "21.37") for each in _bits(text, "fdebcg.a")]
    found = wired(masks)
    assert (found.share, found.equals, found.order) == (1.0, 2, "fdebcg.a")
    assert found.said == " in the order f d e b c g . a, and in 1 other"


def test_few_figures_are_left_in_the_usual_order() -> None:
    """Of four something some order always makes figures; words are no reason to look for one."""
    masks = _bits("1234", "gbfa.ecd")
    assert wired(masks).order == SEGMENTS
    assert wired(masks).share < 0.9


@pytest.mark.parametrize("lit_level", [0, 1])
def test_registers_that_are_wired_otherwise(lit_level: int) -> None:
    """Two bytes at a time, the digit's bit in one; the panel gets the order of its bits."""
    order = _crossed(random.Random(7 + lit_level))
    told = []
    for place, text in enumerate(NUMBERS * 3):
        for digit, lit in enumerate(_bits(text, order)):
            sent = bytes((lit if lit_level else lit ^ 0xFF, 1 << digit))
            told.append((0.01 + 0.1 * place + 0.02 * digit, Transmission(sent, False)))
    lines = {role: line for role, line in four_wire(told, 1e6, 2.0).items() if role != "command"}
    found = _display(lines)
    assert found.panel["order"] == " ".join(order)
    assert found.panel["common"] == ("cathode" if lit_level else "anode")
    assert found.why == (
        "of two bytes each one chooses a digit, and 100 % of the others light a figure in the order "
        f"{' '.join(order)}, and in no other"
    )


CHIP = "gfedcba."
"""The order of bits of drivers that are told a digit's number."""


@pytest.mark.parametrize("worked_out", [False, True])
@pytest.mark.parametrize("leftmost", ["1", "last"])
def test_digits_by_number_are_found_and_which_end_is_first(worked_out: bool, leftmost: str) -> None:
    """Four digits on a driver for eight; a number of two leaves those at the left dark."""
    told = [bytes(each) for each in ((0x0F, 0), (0x0C, 1), (0x0B, 3), (0x0A, 8), (9, 0xFF * worked_out))]
    for text in ("1234", "1240", "  85", "  76"):
        for place, letter in enumerate(text):
            number = 1 + place if leftmost == "1" else 4 - place
            lit = (15 if letter == " " else int(letter)) if worked_out else _bits(letter, CHIP)[0]
            told.append(bytes((number, lit)))
    sent = [(0.01 + 0.01 * place, Transmission(each, True)) for place, each in enumerate(told)]
    found = _display({role: line for role, line in four_wire(sent, 1e6, 1.0).items() if role != "command"})
    assert found.panel == {
        "kind": "segments", "digits": 4, "drive": "numbered driver",
        "chain": "left to right" if leftmost == "1" else "right to left",
    }  # fmt: skip
    assert found.why == "of two bytes the first is the number of a digit, and 100 % of the others light a figure"


@pytest.mark.parametrize("frames", [
    [bytes((0xE8, 0, 0, 0, 0))] * 20,
    [bytes((1, 0x80 | place % 2 << 4, 0)) for place in range(40)],
    [bytes((2 + place % 2, place % 10)) for place in range(40)],
    [bytes((0, (512 + 7 * place) >> 8, (512 + 7 * place) & 0xFF)) for place in range(40)],
])  # fmt: skip
def test_questions_and_answers_on_four_wires_are_no_digits(frames: list[bytes]) -> None:
    """Zeros are dark digits, or all of them eights, and light no figure that says anything."""
    told = [(0.01 + 0.02 * place, Transmission(each, False)) for place, each in enumerate(frames)]
    lines = {role: line for role, line in four_wire(told, 1e6, 2.0).items() if role != "command"}
    assert [display for talk in recognise(lines) for display in known_displays(talk, lines)] == []


def test_a_letter_behind_a_number_is_a_digit_too() -> None:
    """C is no figure, and every time the last of four."""
    told = []
    for place in range(20):
        lit = [*_bits(f"{195 + place}"[:2], SEGMENTS), *_bits(f"{place % 10}", SEGMENTS), 0x39]
        told.append((0.01 + 0.02 * place, Transmission(bytes(lit), False)))
    lines = {role: line for role, line in four_wire(told, 1e6, 2.0).items() if role != "command"}
    found = _display(lines)
    assert (found.panel["drive"], found.panel["digits"]) == ("shift registers", 4)
    assert found.why == "100 % of the transmissions have 4 bytes, and 75 % of those light a figure"
