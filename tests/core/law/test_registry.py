"""What holds for every law there is, and so for the next one: its printed example comes out, its inverse and its slope
belong to it, and a new one begins with values that work."""

from __future__ import annotations

import math
import re
from typing import Any

import numpy as np
import pytest

from lesart.core import law
from lesart.core.law.record import LawKind
from lesart.core.law.stage import stage_of
from lesart.core.parameters import ChannelName, read_table
from lesart.core.quantity import parse_quantity
from lesart.core.units import Unit, parse_unit
from lesart.core.wire.catalogue import KINDS as PARTS
from lesart.core.wire.part import Part
from tests.core.law.built import DIVIDER, FIXED

SHUNT = Part("shunt", PARTS["resistor"], {"resistance": 0.1})
AS_PRINTED: dict[str, dict[str, Any]] = {
    "converter": {"reference": "3.3 V", "bits": 12},
    "bridge converter": {"reference": "5 V", "excitation": "5 V", "gain": "128", "bits": 24},
    "load cell": {"capacity": "200 kg", "sensitivity": "2 mV/V"},
    "linear": {"input": "500 mV", "output": "0 °C", "slope": "10 mV/°C"},
    "table": {"points": "0 0; 512 20"},
    "polynomial": {"coefficients": "1 0.5 0.25"},
    "power": {"input": "2 V", "output": "10 lx", "exponent": "2"},
    "root": {"input": "20 kPa", "output": "8 L/min"},
    "logarithm": {"input": "1 mV", "output": "20 dB", "per_decade": "20 dB"},
    "divider": {"part": DIVIDER},
    "half of a divider": {"part": FIXED, "supply": "3.3 V"},
    "ratiometric": {"supply": "5 V"},
    "shunt": {"part": SHUNT},
    "current loop": {"low": "0 bar", "high": "10 bar"},
    "thermistor": {"a": "0.001129148", "b": "0.000234125", "c": "0.0000000876741"},
    "thermistor by beta": {"beta": "3950 K"},
    "thermistor by points": {"points": "32.65 kΩ @ 0 °C; 10 kΩ @ 25 °C; 3.603 kΩ @ 50 °C"},
    "platinum": {},
    "thermocouple": {"type": "K", "cold": "0 °C"},
    "timer ticks": {"clock": "8 MHz", "prescaler": 64},
    "echo": {"air": "20 °C"},
    "gate rate": {"marks": "2", "gate": "1 s"},
    "interval rate": {"marks": "2"},
    "altitude": {},
    "sea-level pressure": {"height": "1000 m"},
    "dew point": {"air": "25 °C"},
    "absolute humidity": {"air": "20 °C"},
    "vapour pressure deficit": {"air": "25 °C"},
    "wind chill": {"wind": "20 km/h"},
    "apparent temperature": {"humidity": "50 %", "wind": "0 m/s"},
    "vector length": {"unit": "m/s²", "second": "4 m/s²"},
    "tilt": {"unit": "m/s²", "second": "0 m/s²", "third": "0 m/s²", "of": "from plumb"},
    "direction": {"unit": "1", "second": "1"},
    "windowed RMS": {},
    "windowed peak": {},
    "windowed level": {"reference": "1 V"},
    "strongest frequency": {},
    "total over time": {"begin": "0 Ah"},
    "sum": {"begin": "4.6 mm"},
    "counter rise": {"begin": "30 ct"},
    "change over time": {"unit": "L", "per": "1/min"},
    "trimmed compensation": {"coefficients": "-4000; 6553", "shift": 10, "step": "0.01 °C"},
    "whole-number steps": {"steps": "(x * t1 >> 10) - 4000", "constants": "t1 = 6553", "step": "0.01 °C"},
    "formula": {"formula": "x / r", "names": "r = 10 Ω", "from": "V", "to": "A"},
}
"""For each law what its printed example says. A law that is not here has none that anybody ran."""

DIGITS = re.compile(r"[−-]?\d{1,3}(?:[  ]\d{3})+(?:\.\d+)?|[−-]?\d+(?:\.\d+)?")


def of_kind(kind: str, other: dict[str, Any] | None = None) -> Any:
    """The law of a printed example, or of other values."""
    given = AS_PRINTED[kind] if other is None else other
    written = {name: value.name if isinstance(value, Part) else value for name, value in given.items()}
    values, problems = read_table(law.KINDS[kind].parameters, written, "l")
    assert not problems, problems
    values.update({name: value for name, value in given.items() if isinstance(value, Part)})
    stage: Any = stage_of(kind, law.KINDS[kind].build(values))
    return stage.law


def printed(side: str, unit: Unit) -> tuple[float, float]:
    """The first quantity of one side of the arrow, in a unit, and half of its last printed digit."""
    found = DIGITS.search(side)
    assert found is not None, side
    digits = re.sub(r"[  ]", "", found[0]).replace("−", "-")
    symbol = re.split(r"[,;]| (?:behind|after|of|across|at|in|beside|there|through)\b", side[found.end() :])[0].strip()
    decimals = len(digits.partition(".")[2])
    written = parse_unit(symbol) if symbol else unit
    half = 0.5 * 10.0**-decimals * float(written.scale / unit.scale)
    return parse_quantity(f"{digits} {symbol}", unit).to(unit), half


WINDOWED = [kind for kind in AS_PRINTED if hasattr(of_kind(kind), "of_window")]
GOING_ON = [kind for kind in AS_PRINTED if hasattr(of_kind(kind), "advance")]
OF_ONE_SAMPLE = [kind for kind in AS_PRINTED if kind not in (*WINDOWED, *GOING_ON)]


def test_every_law_has_an_example_that_is_run() -> None:
    assert set(AS_PRINTED) == set(law.KINDS)


@pytest.mark.parametrize("kind", OF_ONE_SAMPLE)
def test_the_printed_example_comes_out(kind: str) -> None:
    """Both numbers are read from the text that a person reads; the units are those of the law."""
    one, (before, after) = of_kind(kind), law.KINDS[kind].example.split("→")
    assert isinstance(one.unit_in, Unit)
    value, half = printed(after, one.unit_out)
    assert float(one.forward(np.array([printed(before, one.unit_in)[0]]))[0]) == pytest.approx(value, abs=half * 1.001)


@pytest.mark.parametrize("kind", WINDOWED)
def test_the_printed_example_of_a_window_comes_out(kind: str) -> None:
    """They speak of a sine: its size, or how often it goes up and down."""
    one, (before, after) = of_kind(kind), law.KINDS[kind].example.split("→")
    value, half = printed(after, one.unit_out)
    is_heard = kind == "strongest frequency"
    told = printed(before, one.unit_out if is_heard else one.unit_in)[0]
    sine = np.sin(2 * np.pi * (told if is_heard else 100.0) * np.arange(0, 1, 1e-4))
    assert one.of_window(sine if is_heard else told * sine, 1e-4) == pytest.approx(value, abs=half * 1.001)


@pytest.mark.parametrize("kind", GOING_ON)
def test_the_printed_example_of_a_law_over_time_comes_out(kind: str) -> None:
    """What they say of one value is what it comes to alone; of a change it is two samples of their own."""
    one, (before, after) = of_kind(kind), law.KINDS[kind].example.split("→")
    value, half = printed(after, one.unit_out)
    told = printed(before, one.unit_in)[0]
    if kind == "change over time":
        assert "within 10 s" in before
        assert one.advance(None, np.array([0.0, 10.0]), np.array([5.0, 5.0 + told]))[1][1] == pytest.approx(value)
        return
    assert one.at_rest(np.array([told]))[0] == pytest.approx(value, abs=half * 1.001)
    if kind == "total over time":
        assert "for an hour" in before
        steady = np.full(61, told)
        assert one.advance(None, np.arange(61) * 60.0, steady)[1][-1] == pytest.approx(value, abs=half * 1.001)


@pytest.mark.parametrize("kind", GOING_ON)
def test_slope_and_inverse_of_a_law_over_time_belong_to_it(kind: str) -> None:
    """To what a value comes alone; a change is that of none."""
    one: Any = of_kind(kind)
    stage = stage_of(kind, one)
    low, high = one.at_rest(np.array([2.0, 7.0]))
    back = stage.inverse(float(high))
    if one.adds_up:
        assert stage.slope(3.0) == pytest.approx((high - low) / 5.0)
        assert back == pytest.approx(7.0)
        return
    # What stands still does not change; by how much one more within the while moves it is told all the same.
    assert high == low == 0.0
    assert math.isnan(back)
    t = np.array([0.0, one.over_s])
    more, less = (float(one.advance(None, t, np.array([0.0, x]))[1][1]) for x in (4.0, 3.0))
    assert stage.slope(3.0) == pytest.approx(more - less)


IN_WHOLE_NUMBERS = dict.fromkeys(("trimmed compensation", "whole-number steps"), (1.0, 200.0, 0.02))
"""Laws that round as a part's maker does: how far an inverse may be off, over how many counts a slope can be seen, and
how well."""
ASIDE: dict[str, tuple[dict[str, Any], float]] = {
    "tilt": ({"unit": "m/s²", "second": "3 m/s²", "third": "4 m/s²", "of": "from plumb"}, 5.0),
}
"""Laws whose printed example stands where the slope has no end: others values, and about which input."""


@pytest.mark.parametrize("kind", OF_ONE_SAMPLE)
def test_inverse_and_slope_belong_to_it(kind: str) -> None:
    """What went in comes back, and the slope is what neighbours differ by: about its example, over a fifth of it."""
    if kind in ASIDE:
        written, x = ASIDE[kind]
        one = of_kind(kind, written)
    else:
        one = of_kind(kind)
        x = printed(law.KINDS[kind].example.split("→")[0], one.unit_in)[0]
    off, step, share = IN_WHOLE_NUMBERS.get(kind, (1e-11 * abs(x), 1e-6 * abs(x), 1e-6))
    around = x * np.linspace(0.9, 1.02, 25)
    assert one.inverse(one.forward(around)) == pytest.approx(around, abs=off)
    measured = (one.forward(around + step) - one.forward(around - step)) / (2 * step)
    assert one.slope(around) == pytest.approx(measured, rel=share)


@pytest.mark.parametrize("kind", WINDOWED)
def test_at_rest_and_inverse_of_a_window_belong_to_it(kind: str) -> None:
    """A value that stands still gives what it says; where it can be told from that, the inverse tells it."""
    one, rest = of_kind(kind), np.array([0.5, 1.0, 2.0])
    settled = one.at_rest(rest)
    assert [one.of_window(np.full(1000, value), 1e-4) for value in rest] == pytest.approx(settled, nan_ok=True)
    back = np.array([one.inverse(float(value)) for value in settled])
    told = np.isfinite(back)
    assert back[told] == pytest.approx(rest[told])


SOURCES = ("ct", "V", "mV/V", "Ω", "mA", "s", "°C", "Pa", "%", "m/s²", "1", "kPa", "Hz")


@pytest.mark.parametrize("kind", law.KINDS)
def test_a_new_one_begins_with_values_that_work(kind: str) -> None:
    """What ``+`` in Law writes is whole, whatever unit comes in and whatever it shall lead to."""
    record = law.KINDS[kind]
    for unit_in in map(parse_unit, SOURCES):
        for unit_out in map(parse_unit, ("kg", "°C", "V", "Pa", "m", "1")):
            written = record.start(unit_in, unit_out)
            values, problems = read_table(record.parameters, written, "l")
            missing = [problem for problem in problems if not problem.place.endswith(".part")]
            assert not missing, (kind, unit_in.symbol, unit_out.symbol, missing)
            parts = [each for each in record.parameters if each.kind == "part"]
            if not parts:
                built = record.build(values)
                assert built is not None
                assert not any(isinstance(value, ChannelName) for value in values.values())


def test_two_points_of_a_thermistor_say_their_beta() -> None:
    """ln(10 kΩ ÷ 3.588 kΩ) ÷ (1 ÷ 298.15 K − 1 ÷ 323.15 K)."""
    kind = law.KINDS["thermistor by points"]
    beta = math.log(10 / 3.588) / (1 / 298.15 - 1 / 323.15)
    assert kind.derived({"points": "10 kΩ @ 25 °C; 3.588 kΩ @ 50 °C"}) == f"β {beta:.1f} K"


@pytest.mark.parametrize("kind", law.KINDS.values(), ids=list(law.KINDS))
def test_records_are_complete(kind: LawKind) -> None:
    """Help, listing and docs are made from the record: formula, source, example and a help text for each parameter."""
    assert kind.title
    assert kind.source
    assert "→" in kind.example
    assert "=" in kind.formula
    assert all(parameter.help for parameter in kind.parameters)
    names = [parameter.name for parameter in kind.parameters]
    assert len(set(names)) == len(names)
