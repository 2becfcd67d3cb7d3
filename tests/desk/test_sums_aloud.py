"""Sums of the bench as people ask for them, held against the values that they become and what comes out of them."""

from __future__ import annotations

import tomllib
from typing import Any

import pytest

from lesart.core.quantity import parse_quantity
from lesart.core.step import Step
from lesart.core.units import parse_unit
from lesart.core.wire.sums import SUMS
from lesart.desk.desk import Desk
from lesart.desk.entries.aloud.sums import CALLED, ROLES


@pytest.fixture
def bench(hut: Desk) -> Desk:
    """On the leaf of sums in 1 Wire."""
    hut.open_step(Step.WIRE)
    while hut.state.leaf_of(Step.WIRE) != "sums":
        hut.turn_leaf(1)
    return hut


ASKED = [
    (
        "a resistor for a 2 V LED at 5 V, 20 mA",
        "lamp resistor",
        {"forward": "2 V", "supply": "5 V", "current": "20 mA"},
    ),
    ("led resistor 3.3 V 10 mA", "lamp resistor", {"supply": "3.3 V", "current": "10 mA"}),
    ("a resistor for a red LED on 3.3 V", "lamp resistor", {"supply": "3.3 V"}),
    (
        "a resistor for a 3.2 V white LED from 12 V at 15 mA",
        "lamp resistor",
        {"forward": "3.2 V", "supply": "12 V", "current": "15 mA"},
    ),
    (
        "current limiting resistor for an LED, forward 1.8 V, 5 V supply, 5 mA",
        "lamp resistor",
        {"forward": "1.8 V", "supply": "5 V", "current": "5 mA"},
    ),
    ("12 V to 3.3 V", "divider", {"highest": "12 V", "most": "3.3 V"}),
    ("a voltage divider for 24 V to 3.3 V, 10k", "divider", {"highest": "24 V", "most": "3.3 V", "accepts": "10 kΩ"}),
    (
        "a fixed resistor for 3.3k to 33k at 3.3 V",
        "fixed half",
        {"lowest": "3.3 kΩ", "highest": "33 kΩ", "supply": "3.3 V"},
    ),
    ("half for 1 kΩ to 10 kΩ", "fixed half", {"lowest": "1 kΩ", "highest": "10 kΩ"}),
    (
        "a resistor for a 10k NTC between 0 and 50 °C",
        "thermistor half",
        {"resistance": "10 kΩ", "coldest": "0 °C", "hottest": "50 °C"},
    ),
    (
        "thermistor half 10k beta 3435 12 bits 5 V",
        "thermistor half",
        {"resistance": "10 kΩ", "beta": "3435 K", "bits": 12, "supply": "5 V"},
    ),
    (
        "a resistor for an NTC 100k, -10 to 60 C",
        "thermistor half",
        {"resistance": "100 kΩ", "coldest": "-10 °C", "hottest": "60 °C"},
    ),
    (
        "self-heating of a 10k thermistor with 4k7 at 5 V",
        "self-heating",
        {"sensor": "10 kΩ", "fixed": "4.7 kΩ", "supply": "5 V"},
    ),
    ("gain for 0 to 60 mV, 12 bits", "gain and reference", {"lowest": "0 mV", "highest": "60 mV", "bits": 12}),
    ("a shunt for 2 A, 100 mV", "shunt", {"current": "2 A", "drop": "100 mV"}),
    ("I2C pull-ups 3.3 V 100 pF 400 kHz", "pull-ups", {"supply": "3.3 V", "capacitance": "100 pF", "clock": "400 kHz"}),
    ("pull-ups for I2C at 400 kHz", "pull-ups", {"clock": "400 kHz"}),
    ("a contrast resistor at 5 V", "contrast", {"supply": "5 V"}),
    (
        "how long does a 2000 mAh battery last, awake 60 mA for 1 s every 10 s, asleep 50 µA?",
        "battery hours",
        {"capacity": "2000 mAh", "awake": "60 mA", "awake_share": "0.1", "asleep": "50 µA"},
    ),
    # What draws one current is never asleep.
    (
        "battery life of 2000 mAh at 15 mA",
        "battery hours",
        {"capacity": "2000 mAh", "awake": "15 mA", "awake_share": "1"},
    ),
    (
        "battery 2500 mAh, 80 mA awake, 20 µA asleep, for 3 s every minute, for 90 days",
        "battery hours",
        {"capacity": "2500 mAh", "awake": "80 mA", "asleep": "20 µA", "awake_share": "0.05", "wanted": "90 d"},
    ),
    ("an anti-alias filter for 1 kHz, 10 Hz", "anti-alias filter", {"rate": "1 kHz", "band": "10 Hz"}),
    (
        "an RC filter, 10 Hz, sampled at 500 Hz, 10k",
        "anti-alias filter",
        {"rate": "500 Hz", "band": "10 Hz", "resistance": "10 kΩ"},
    ),
    ("debounce a button 20 ms with 4k7", "debounce", {"bounce": "20 ms", "resistance": "4.7 kΩ"}),
]


def same(parameter: Any, one: object, other: object) -> bool:
    """Equal numbers in equal units, however they are written."""
    if parameter.kind != "quantity":
        return one == other
    unit = parse_unit(parameter.unit)
    found, wanted = (float(parse_quantity(str(each), unit).to(unit)) for each in (one, other))
    return found == pytest.approx(wanted)


@pytest.mark.parametrize(("typed", "kind", "values"), ASKED)
def test_a_sum_is_what_was_asked(typed: str, kind: str, values: dict[str, Any], bench: Desk) -> None:
    """With the values that were said and no others, and the project computes it."""
    bench.add(typed)
    assert not bench.state.message_is_fault, bench.state.message
    found = tomllib.loads(bench.state.history.text)["sums"][kind]
    assert found.pop("kind") == kind
    assert set(found) == set(values)
    parameters = {each.name: each for each in SUMS[kind].parameters}
    assert all(same(parameters[name], found[name], value) for name, value in values.items()), found
    assert bench.state.project.sums[kind].result().figures


def test_every_sum_is_asked_for_aloud() -> None:
    assert {kind for _, kind, _ in ASKED} == {kind for _, kind in CALLED} == set(SUMS)
    for kind, roles in ROLES.items():
        known = {each.name for each in SUMS[kind].parameters}
        assert {name for _, names in roles for name in names} <= known


@pytest.mark.parametrize(
    ("typed", "says"),
    [
        (
            "a 10k resistor",
            '"a 10k resistor" is not a sum; say it, like a resistor for a 2 V LED at 5 V, 20 mA, or write',
        ),
        (
            "led resistor purple 5 V",
            '"purple" says nothing of lamp resistor; it takes supply (V), forward voltage (V),',
        ),
        ("debounce 10 ms 5 kg", '"5 kg" says nothing of debounce; it takes'),
    ],
)
def test_what_is_none_is_refused(typed: str, says: str, bench: Desk) -> None:
    before = bench.state.history.text
    bench.add(typed)
    assert bench.state.message_is_fault
    assert bench.state.message.startswith(says)
    assert bench.state.history.text == before


def test_it_may_have_a_name(bench: Desk) -> None:
    bench.add("a resistor for a 2 V LED at 5 V, 20 mA called gate lamp")
    assert bench.state.message == "added: gate lamp, lamp resistor, supply 5 V, forward voltage 2 V, current 20 mA"
    bench.add("12 V to 3 V")
    bench.add("15 V to 3 V")
    assert list(bench.state.project.sums) == ["gate lamp", "divider", "divider 2"]
