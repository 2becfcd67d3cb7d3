"""Units as people type them: read as the symbol that was meant, and never as another quantity's."""

from __future__ import annotations

import random
import tomllib
from typing import Any

import pytest

from lesart.core.errors import LesartError
from lesart.core.notes import Key
from lesart.core.quantity import parse_quantity
from lesart.core.raw.spelled.unit_typed import in_symbols, whole_said
from lesart.core.step import Step
from lesart.core.units import parse_unit
from lesart.desk.desk import Desk
from lesart.project.toml_values import value_at

MEANT = [
    ("220 ohms", "Ω", 220.0),
    ("4.7 kohm", "Ω", 4700.0),
    ("10 kilohms", "Ω", 10_000.0),
    ("2 megohms", "Ω", 2e6),
    ("10 kilo ohm", "Ω", 10_000.0),
    ("10k ohm", "Ω", 10_000.0),
    ("10K", "Ω", 10_000.0),
    ("4K7", "Ω", 4700.0),
    ("4k7", "Ω", 4700.0),
    ("-20 C", "°C", -20.0),
    ("- 20 C", "°C", -20.0),
    ("−20 degrees", "°C", -20.0),
    ("68 F", "°C", 20.0),
    ("68 deg F", "°C", 20.0),
    ("20 celsius", "°C", 20.0),
    ("20 º C", "°C", 20.0),
    ("300 K", "K", 300.0),
    ("20 degrees", "°F", 20.0),
    ("90 degrees", "°", 90.0),
    ("10 seconds", "s", 10.0),
    ("1 minute", "s", 60.0),
    ("2 mins", "s", 120.0),
    ("1 hour", "s", 3600.0),
    ("500 milliseconds", "s", 0.5),
    ("20 microseconds", "s", 20e-6),
    ("8 megahertz", "Hz", 8e6),
    ("8 mhz", "Hz", 8e6),
    ("400 khz", "Hz", 400e3),
    ("2 amp hours", "mAh", 2000.0),
    ("2000 mah", "mAh", 2000.0),
    ("500 milliamp hours", "mAh", 500.0),
    ("3.3 volts", "V", 3.3),
    ("5 volt", "V", 5.0),
    ("20 milliamps", "mA", 20.0),
    ("100 nf", "F", 1e-7),
    ("2 kilograms", "kg", 2.0),
    ("5 percent", "%", 5.0),
    ("1013 hectopascal", "Pa", 101_300.0),
    ("1,5 volts", "V", 1.5),
    ("1e3 ohms", "Ω", 1000.0),
]


@pytest.mark.parametrize(("typed", "unit", "value"), MEANT, ids=[f"{typed} as {unit}" for typed, unit, _ in MEANT])
def test_a_unit_in_words_is_its_symbol(typed: str, unit: str, value: float) -> None:
    wanted = parse_unit(unit)
    assert parse_quantity(in_symbols(typed, wanted), wanted).to(wanted) == pytest.approx(value, rel=1e-12)


@pytest.mark.parametrize(
    ("typed", "unit"),
    [("5 volts", "Ω"), ("20 C", "V"), ("10K", "V"), ("7 bananas", "kg"), ("ten", "kg"), ("", "kg"), ("± 5 ohms", "Ω")],
)
def test_what_is_of_another_kind_stays_as_it_was(typed: str, unit: str) -> None:
    """So that the sentence names what was typed."""
    assert in_symbols(typed, parse_unit(unit)) == typed


def test_a_symbol_that_is_read_stays_whatever_it_looks_like() -> None:
    """Every unit behind every prefix, in its own kind: not a letter of it changes."""
    chance = random.Random(3)
    for symbol in (
        "V",
        "mV",
        "MV",
        "mΩ",
        "MΩ",
        "°C",
        "K",
        "mK",
        "Hz",
        "mHz",
        "MHz",
        "F",
        "mF",
        "s",
        "ms",
        "h",
        "m",
        "g",
        "Pa",
    ):
        for _ in range(20):
            typed = f"{chance.choice([1, 2.5, 1e-3, 400])}{chance.choice(['', ' '])}{symbol}"
            assert in_symbols(typed, parse_unit(symbol)) == typed


@pytest.mark.parametrize(
    ("typed", "number"),
    [("12 bits", 12), ("12bit", 12), ("8.0", 8), ("8 cells", 8), ("-3 counts", -3), ("0x2F", 47), ("16", 16)],
)
def test_a_whole_number_may_say_what_it_counts(typed: str, number: int) -> None:
    assert whole_said(typed) == number


@pytest.mark.parametrize("typed", ["8.5", "eight", "12 bats", "", "1 2", "8.05"])
def test_what_is_no_whole_number_is_none(typed: str) -> None:
    assert whole_said(typed) is None


@pytest.fixture
def desk(hut: Desk) -> Desk:
    hut.open_step(Step.LAW)
    return hut


@pytest.mark.parametrize(
    ("key", "typed", "written", "said"),
    [
        (("parts", "fix", "resistance"), "220 ohms", "220 Ω", "fix resistance = 220 Ω"),
        (("channels", "room", "lowest"), "-20 C", "-20 °C", "room lowest = -20 °C"),
        (("channels", "room", "fit", "stale_after"), "10 seconds", "10 s", "room stale after = 10 s"),
        (("channels", "room", "fit", "width"), "8 cells", 8, "room width = 8"),
        (("channels", "room", "law", 0, "bits"), "12 bits", 12, "room bits = 12"),
        (("loop", "clock"), "8 mhz", "8 MHz", "clock = 8 MHz"),
        (("loop", "capacity"), "2 amp hours", "2 Ah", "battery = 2 Ah"),
    ],
)
def test_a_value_is_edited_in_words(key: Key, typed: str, written: object, said: str, desk: Desk) -> None:
    desk.edit(key, typed)
    assert desk.state.message == said
    tables: dict[str, Any] = tomllib.loads(desk.state.history.text)
    assert value_at(tables, key) == written


def test_a_tolerance_where_none_is_taken_is_named(desk: Desk) -> None:
    """A resistor has one of its own."""
    desk.edit(("parts", "fix", "resistance"), "4k7 ± 1 %")
    assert desk.state.message == 'resistance = "4k7 ± 1 %"; it takes no tolerance here, only 4k7.'


def test_whatever_is_typed_ends_in_a_text() -> None:
    """Words and signs by chance, in every kind of unit."""
    chance = random.Random(26)
    pieces = [
        "10",
        "4k7",
        "-",
        "−",
        "±",
        "ohms",
        "K",
        "C",
        "deg",
        "°",
        "º",
        "seconds",
        "amp",
        "hours",
        " ",
        ".",
        ",",
        "e5",
        "µ",
        "²",
    ]
    for _ in range(3000):
        typed = "".join(chance.choice(pieces) for _ in range(chance.randint(1, 6)))
        wanted = parse_unit(chance.choice(["Ω", "°C", "s", "mAh", "1", "%", "kg"]))
        found = in_symbols(typed, wanted)
        try:
            assert found == typed.strip() or found == typed or parse_quantity(found, wanted).unit.same_dimension(wanted)
        except LesartError:
            assert found.replace("k", "K") == typed.replace("k", "K")
