"""What is reckoned with a reading as people say it, held against the numbers that anyone reckons."""

from __future__ import annotations

from collections.abc import Callable
from pathlib import Path

import numpy as np
import pytest

from lesart.core.law import KINDS
from lesart.core.step import Step
from lesart.core.units import parse_unit
from lesart.desk.desk import Desk
from lesart.desk.entries.aloud.reckoned.arithmetic import reckoned
from lesart.desk.opening import open_desk
from lesart.project.new.make import make_project

VOLTS, AMPS, INSIDE, OUTSIDE, ADC = "voltage [V]", "current [A]", "inside [°C]", "outside [°C]", "adc"
V = np.array([12.0 + place % 5 / 10 for place in range(100)])
A = np.array([1.5 + place % 3 / 10 for place in range(100)])
IN = np.array([21.0 + place % 4 / 10 for place in range(100)])
CT = np.array([512.0 + place % 9 for place in range(100)])
OUT = np.array([-5.0 + place % 6 / 10 for place in range(100)])


@pytest.fixture
def hut(tmp_path: Path) -> Desk:
    """A battery and two thermometers."""
    rows = [f"{place},{V[place]},{A[place]:.1f},{IN[place]},{OUT[place]:.1f},{CT[place]:.0f}" for place in range(100)]
    (tmp_path / "log.csv").write_text("\n".join([f"time [s],{VOLTS},{AMPS},{INSIDE},{OUTSIDE},{ADC}", *rows]) + "\n")
    make_project(tmp_path / "log.csv", tmp_path / "hut")
    desk = open_desk(tmp_path / "hut")
    desk.open_step(Step.LAW)
    return desk


Of = Callable[[], np.ndarray]
SAID: list[tuple[str, str, str, Of]] = [
    (VOLTS, "multiply by 2", "V", lambda: 2 * V),
    (VOLTS, "times 11", "V", lambda: 11 * V),
    (VOLTS, "x2", "V", lambda: 2 * V),
    (VOLTS, "gain of 1.5", "V", lambda: 1.5 * V),
    (VOLTS, "divide it by 10", "V", lambda: V / 10),
    (VOLTS, "/ 3", "V", lambda: V / 3),
    (VOLTS, "double it", "V", lambda: 2 * V),
    (VOLTS, "half", "V", lambda: V / 2),
    (VOLTS, "invert", "V", lambda: -V),
    (VOLTS, "add 2", "V", lambda: V + 2),
    (VOLTS, "plus 300 mV", "V", lambda: V + 0.3),
    (VOLTS, "subtract 0.3 V", "V", lambda: V - 0.3),
    (VOLTS, "- 1", "V", lambda: V - 1),
    (VOLTS, "offset -0.5 V", "V", lambda: V - 0.5),
    (INSIDE, "add 2 °F", "°C", lambda: IN + 2 / 1.8),
    (INSIDE, "reduced by 1.5", "°C", lambda: IN - 1.5),
    (VOLTS, "2x + 3", "V", lambda: 2 * V + 3),
    (VOLTS, "y = 2x + 3", "V", lambda: 2 * V + 3),
    (VOLTS, "(x - 2) / 4.7", "V", lambda: (V - 2) / 4.7),
    (VOLTS, "30 - x", "V", lambda: 30 - V),
    (VOLTS, "formula x * 2", "V", lambda: 2 * V),
    (VOLTS, "voltage × 1.02", "V", lambda: 1.02 * V),
    (VOLTS, "x^2 + 1", "V", lambda: V**2 + 1),
    (VOLTS, "abs(x - 12.2)", "V", lambda: abs(V - 12.2)),
    (VOLTS, "absolute value", "V", lambda: V),
    (VOLTS, "x*x", "V^2", lambda: V * V),
    (VOLTS, "multiply by 100 mA/V", "A", lambda: 0.1 * V),
    (VOLTS, "divide by 4.7 kΩ", "A", lambda: V / 4700),
    (VOLTS, "times current", "W", lambda: V * A),
    (VOLTS, "multiplied by the current [A]", "W", lambda: V * A),
    (VOLTS, "power = voltage * current", "W", lambda: V * A),
    (VOLTS, "0.9 * voltage * current", "W", lambda: 0.9 * V * A),
    (VOLTS, "divided by current", "Ω", lambda: V / A),
    (VOLTS, "current / voltage", "A/V", lambda: A / V),
    (INSIDE, "minus outside", "Δ°C", lambda: IN - OUT),
    (INSIDE, "difference to outside", "Δ°C", lambda: IN - OUT),
    (INSIDE, "outside - inside", "Δ°C", lambda: OUT - IN),
    (INSIDE, "the mean of inside and outside", "°C", lambda: (IN + OUT) / 2),
    (OUTSIDE, "average of inside, outside", "°C", lambda: (IN + OUT) / 2),
    (INSIDE, "the lower of inside and outside", "°C", lambda: np.minimum(IN, OUT)),
    (OUTSIDE, "max of inside and it", "°C", lambda: np.maximum(IN, OUT)),
    (INSIDE, "difference between inside and outside", "Δ°C", lambda: IN - OUT),
    (VOLTS, "map 0..5 V to 0..100 %", "%", lambda: 20 * V),
    (VOLTS, "0-5V = 0-10 bar", "bar", lambda: 2 * V),
    (VOLTS, "0 to 5 is 0 to 10 bar", "bar", lambda: 2 * V),
    (VOLTS, "500 to 4500 mV is 0 to 10 bar", "bar", lambda: (V - 0.5) * 2.5),
    (VOLTS, "0.5 V = 0 bar, 4.5 V = 5 bar", "bar", lambda: (V - 0.5) * 1.25),
    (ADC, "(adc/1023)*5 V", "V", lambda: CT / 1023 * 5),
    (ADC, "5 V * x / 1023", "V", lambda: CT / 1023 * 5),
    (ADC, "voltage = adc * 5.0 / 1023", "V", lambda: CT / 1023 * 5),
    (ADC, "R = 10k * (1023/x - 1)", "Ω", lambda: 10_000 * (1023 / CT - 1)),
    (ADC, "kPa = (x - 0.5) * 50", "kPa", lambda: (CT - 0.5) * 50),
    (ADC, "rpm = x * 60 / 4", "rpm", lambda: CT * 15),
    (ADC, "percent of 1023", "%", lambda: CT / 10.23),
    (ADC, "map(x, 0, 1023, 0, 100)", "1", lambda: CT / 10.23),
    (ADC, "0 to 1023 is 0 to 5 V", "V", lambda: CT / 1023 * 5),
    (ADC, "x*0.1 °C", "°C", lambda: CT * 0.1),
    (ADC, "0 at 800, 100 at 400", "1", lambda: (800 - CT) / 4),
    (ADC, "soil 0 at 800 100 at 400", "1", lambda: (800 - CT) / 4),
    (ADC, "500 at 7 and 600 at 4", "1", lambda: 7 - (CT - 500) * 3 / 100),
    (ADC, "tare 500", "ct", lambda: CT - 500),
    (ADC, "subtract the offset of 500 divide by 21.4", "ct", lambda: (CT - 500) / 21.4),
    (ADC, "minus 500 times 2 plus 3", "ct", lambda: (CT - 500) * 2 + 3),
    (ADC, "times 4.88 mV", "mV", lambda: CT * 4.88),
    (ADC, "1/x", "1", lambda: 1 / CT),
    (ADC, "squared", "1", lambda: CT**2),
    (ADC, "x if x < 515 else x - 600", "ct", lambda: np.where(CT < 515, CT, CT - 600)),
    (ADC, "if x > 515 then 1 else 0", "ct", lambda: (CT > 515).astype(float)),
    (ADC, "x > 515", "ct", lambda: (CT > 515).astype(float)),
    (VOLTS, "x - 500 mV", "V", lambda: V - 0.5),
    (VOLTS, "mW = x * 20", "mW", lambda: V * 20),
    (INSIDE, "0 °C is 32 and 100 °C is 212", "1", lambda: 1.8 * IN + 32),
]


@pytest.mark.parametrize(("channel", "line", "unit", "wanted"), SAID, ids=[f"{each[1]}" for each in SAID])
def test_what_is_said_is_reckoned(hut: Desk, channel: str, line: str, unit: str, wanted: Of) -> None:
    """In its unit, for every sample, within the channel's range, so that nothing is called wrong."""
    hut.choose_channel(channel)
    hut.add(line)
    assert not hut.state.message_is_fault, hut.state.message
    chosen = hut.state.chosen
    assert str(chosen.unit) == unit
    calm = hut.bench.run(hut.state.project, chosen).calm
    assert calm.usable.all()
    assert calm.x == pytest.approx(wanted(), rel=1e-9, abs=1e-9)
    assert chosen.lowest <= calm.x.min() <= calm.x.max() <= chosen.highest
    assert not [note.text for note in hut.notes if note.channel == channel and note.step is Step.LAW]


SHOWN = "in which unit a reading is shown is a rule of its field; U goes through them, and + in 6 Fit takes in "
REFUSED = [
    (INSIDE, "to Fahrenheit", f"{SHOWN}°F."),
    (INSIDE, "convert to kelvin", f"{SHOWN}K."),
    (INSIDE, "x * 9/5 + 32", f"{SHOWN}°F."),
    (INSIDE, "x + 273.15", f"{SHOWN}K."),
    (VOLTS, "to mV", f"{SHOWN}mV."),
    (VOLTS, "minus 3 A", 'it must be a difference in V, like "0.1 V", not 3 A.'),
    (VOLTS, "divide by 0", "nothing can be divided by 0."),
    (VOLTS, "times 0", "times 0 is always 0."),
    (VOLTS, "4-20 mA to 0-10 bar", "the laws end in V, and this begins with mA."),
    (VOLTS, "5 to 5 V is 0 to 10 bar", "two points of a line differ on both sides."),
    (INSIDE, "plus outside", "two temperatures have no sum; add a difference, written like 5 ΔK."),
    (
        VOLTS,
        "ppm = 116.6 * (rs/r0)^-2.769",
        "no channel is called rs or r0; write x for the reading, and numbers for the others, or a channel.",
    ),
    (VOLTS, "plus current", "current [A] is in A, and the laws end in V."),
]


@pytest.mark.parametrize(("channel", "line", "why"), REFUSED)
def test_what_cannot_be_is_said_and_nothing_changes(hut: Desk, channel: str, line: str, why: str) -> None:
    """With what stands in the way."""
    hut.choose_channel(channel)
    before = hut.state.history.text
    hut.add(line)
    assert hut.state.message_is_fault
    assert hut.state.message == f'"{line}": {why}'
    assert hut.state.history.text == before


def test_what_is_something_else_is_left() -> None:
    """Names of laws, signals, values that are no reading, and words."""

    def never() -> np.ndarray:
        raise AssertionError("nobody has to look")

    lines = ["-127 is no reading", "a bridge of 5 kg", "a count of 0.1 °C", "0.2 mm per tip", "10 bit", "3.3 V", "hut"]
    for line in [*lines, "table < captures/points.csv", "linear °C, slope = 10 mV/°C", "current", *KINDS]:
        assert reckoned(line, parse_unit("V"), "u", {"u": parse_unit("V"), "current": parse_unit("A")}, never) is None


@pytest.mark.parametrize(
    ("line", "slope", "output"),
    [
        ("(x-500)/10", "0.1", "-50 ct"),
        ("x/3*3/10", "0.1", "0 ct"),
        ("(x+1)*0.7-0.7", "0.7", "0 ct"),
        ("-x/8", "-0.125", "0 ct"),
    ],
)
def test_a_line_is_written_without_what_rounding_left(line: str, slope: str, output: str) -> None:
    """A slope of 0.100000000000001 is nobody's."""
    ct = parse_unit("ct")
    found = reckoned(line, ct, "u", {"u": ct}, lambda: np.arange(10.0))
    assert found is not None
    assert (found.values["slope"], found.values["output"]) == (slope, output)
