"""The sums of the bench against cases worked by hand, and what they promise for any values."""

from __future__ import annotations

import math
from typing import Any

import pytest
from hypothesis import given
from hypothesis import strategies as st

from lesart.core.wire.bus import rise_limit_s, rise_s
from lesart.core.wire.preferred import E6, E12, E24, around, decade_of, nearest
from lesart.core.wire.sums import SUMS, SumResult
from lesart.core.wire.sums.fine import SERIES


def solved(kind: str, **written: str) -> SumResult:
    """A sum with parameters as the project file writes them."""
    record = SUMS[kind]
    assert set(written) <= {parameter.name for parameter in record.parameters}
    return record.solve({each.name: each.read(written.get(each.name, each.default)) for each in record.parameters})


def test_a_sensor_that_warms_itself_says_what_would_do() -> None:
    """3.3² × 10 k ÷ 20 k² = 0.272 mW, in 2 mW/K 0.136 K; 0.12 K at 0.12 ÷ 0.136 of the time, or at √ of that of 3.3 V."""
    warm = solved("self-heating", heats="0.12 K")
    figures = {each.label: each.value for each in warm.figures}
    watts = 3.3**2 * 10e3 / 20e3**2
    assert figures["reads too warm by"] == pytest.approx(watts / 2e-3)
    assert figures["duty that would do"] == pytest.approx(0.12 / (watts / 2e-3))
    assert figures["supply that would do"] == pytest.approx(3.3 * math.sqrt(0.12 / (watts / 2e-3)))
    assert warm.warning == (
        "It reads 0.14 K too warm, and 0.12 K is allowed: feed it for 88 % of the time, or from 3.1 V."
    )
    assert solved("self-heating", heats="0.2 K").warning == ""


BY_HAND: list[tuple[str, dict[str, str], dict[str, float], dict[str, Any]]] = [
    # (5 − 2) V ÷ 10 mA = 300 Ω; 0.01² × 300 = 30 mW
    (
        "lamp resistor",
        {},
        {
            "left for the resistor": 3,
            "exactly": 300,
            "take": 300,
            "current while lit": 0.01,
            "heat in the resistor": 0.03,
        },
        {"kind": "resistor", "resistance": "300 Ω", "power": "250 mW"},
    ),
    # (3.3 − 2.1) V ÷ 5 mA = 240 Ω, lit a quarter of the time: 0.005² × 240 ÷ 4 = 1.5 mW
    (
        "lamp resistor",
        {"supply": "3.3 V", "forward": "2.1 V", "current": "5 mA", "duty": "1/4"},
        {"take": 240, "on the mean": 0.00125, "heat in the resistor": 0.0015},
        {"resistance": "240 Ω"},
    ),
    # (12 − 3.2) ÷ 0.35 = 25.14 → 27 Ω; 8.8 ÷ 27 = 0.3259 A; 2.868 W, half as much again is 4.3 → 5 W
    (
        "lamp resistor",
        {"supply": "12 V", "forward": "3.2 V", "current": "350 mA"},
        {"exactly": 25.142857, "take": 27, "current while lit": 0.3259259, "heat in the resistor": 2.8681481},
        {"resistance": "27 Ω", "power": "5 W"},
    ),
    # 1 : 5 exactly with 30 kΩ and 7.5 kΩ; 30 ∥ 7.5 = 6 kΩ; 15 V ÷ 37.5 kΩ = 0.4 mA
    (
        "divider",
        {},
        {"upper": 30e3, "lower": 7.5e3, "at the pin, at most": 3, "source resistance": 6e3, "draws at most": 0.4e-3},
        {"kind": "divider", "upper": "30 kΩ", "lower": "7.5 kΩ"},
    ),
    # √(3.3 × 33) = 10.436 kΩ → 10 kΩ; 3.3 V × 3.3 ÷ 13.3 and × 33 ÷ 43
    (
        "fixed half",
        {},
        {"exactly": 10435.516, "take": 10e3, "at the least resistance": 0.8187970, "at the greatest": 2.5325581},
        {"kind": "resistor", "resistance": "10 kΩ"},
    ),
    # About one temperature the best half is the sensor itself: 4·T² ÷ (β·4096) kelvin a count. 0.27 mW ÷ 20 mW/K.
    (
        "thermistor half",
        {"coldest": "24.99 °C", "hottest": "25.01 °C", "dissipation": "20 mW/K"},
        {
            "take": 10e3,
            "a count, at worst": 4 * 298.15**2 / (3950 * 4096),
            "heats itself by at most": 0.0136125,
            # 10 kΩ × e^(±3950 × 0.01 ÷ 298.15²) = 10 004.44 and 9995.56 Ω
            "codes, coldest": 2048.4550,
            "codes, hottest": 2047.5450,
        },
        {"kind": "resistor", "resistance": "10 kΩ"},
    ),
    # 3.3² × 10k ÷ 20k² = 0.27225 mW; ÷ 4 mW/K = 0.068 K; 3.3 × √(0.1 ÷ 0.0680625) = 4 V
    (
        "self-heating",
        {"dissipation": "4 mW/K"},
        {
            "heat in the sensor": 0.27225e-3,
            "reads too warm by": 0.0680625,
            "duty that would do": 1,
            "supply that would do": 4.0,
        },
        {},
    ),
    # 60 mV with room is 63.2: 1.2 V ÷ 16 = 75 mV takes it, 2.5 ÷ 32 is more, 3.3 ÷ 64 too little; 75 mV ÷ 4096
    (
        "gain and reference",
        {},
        {
            "gain": 16,
            "reference": 1.2,
            "one count": 18.310547e-6,
            "counts used": 3276.8,
            "used of all codes": 0.8,
            "bits in use": 11.678072,
        },
        {},
    ),
    # Below zero too: twice 75 mV over 4096 codes, 80 mV of 150 mV.
    (
        "gain and reference",
        {"lowest": "-20 mV"},
        {
            "gain": 16,
            "reference": 1.2,
            "one count": 36.621094e-6,
            "counts used": 2184.5333,
            "used of all codes": 0.53333333,
            "bits in use": 11.093109,
        },
        {},
    ),
    # 0.1 V ÷ 2 A = 50 mΩ → 47 mΩ, 94 mV, 4 × 0.047 = 0.188 W → 0.282 with room → 0.5 W
    (
        "shunt",
        {},
        {"exactly": 0.05, "take": 0.047, "drops at that current": 0.094, "heat in it": 0.188},
        {"resistance": "0.047 Ω", "power": "500 mW"},
    ),
    # 2.9 V ÷ 3 mA = 967 Ω; 1000 ns ÷ (0.8473 × 60 pF) = 19.67 kΩ; √ of their product 4.36 k → 4.3 kΩ
    (
        "pull-ups",
        {},
        {"at least": 966.6667, "at most": 19670.4, "take": 4300, "rise time": 218.6e-9, "allowed": 1e-6},
        {"resistance": "4.3 kΩ"},
    ),
    # 5 − 4.3 = 0.7 V; 4.3 ÷ 5 = 86 %; 5 V ÷ 10 kΩ
    (
        "contrast",
        {},
        {"at the contrast pin": 0.7, "turned from the supply's end": 0.86, "draws": 0.5e-3},
        {"kind": "potentiometer", "turned": "86 %"},
    ),
    # 60 ÷ 60 + 0.05 × 59 ÷ 60 = 1.04917 mA; 1.6 Ah ÷ that = 1525 h; 30 d need 0.9443 Ah
    (
        "battery hours",
        {},
        {"mean current": 1.0491667e-3, "lasts": 1525.02 * 3600, "capacity for the time wanted": 0.94425},
        {"kind": "battery", "capacity": "2 Ah", "usable": "80 %", "voltage": "3.7 V"},
    ),
    # 1 ÷ (2π × 10 kΩ × 20 Hz) = 0.796 µF → 0.82 µF, 19.41 Hz; 1 ÷ √(1 + (10 ÷ 19.41)²) = 0.889
    (
        "anti-alias filter",
        {},
        {"take": 0.82e-6, "corner": 19.4091, "left at the band's end": 0.888940, "left at half the rate": 0.0387897},
        {"kind": "filter", "resistance": "10 kΩ", "capacitance": "820 nF"},
    ),
    # 10 ms ÷ (10 kΩ × ln(1 ÷ 0.3)) = 0.8306 µF → 1 µF, open after 12.04 ms
    ("debounce", {}, {"take": 1e-6, "time constant": 0.01, "read as open after": 12.0397e-3}, {"capacitance": "1 µF"}),
]


@pytest.mark.parametrize(("kind", "written", "figures", "part"), BY_HAND, ids=lambda each: str(each)[:40])
def test_a_sum_agrees_with_the_case_worked_by_hand(
    kind: str, written: dict[str, str], figures: dict[str, float], part: dict[str, Any]
) -> None:
    result = solved(kind, **written)
    assert result.warning == ""
    for label, wanted in figures.items():
        assert result.figure(label) == pytest.approx(wanted, rel=1e-4), label
    assert part.items() <= result.part.items()


def test_every_sum_has_a_case_worked_by_hand() -> None:
    assert {case[0] for case in BY_HAND} == set(SUMS)


WARNED = [
    ("lamp resistor", {"supply": "1.8 V"}, "it stays dark"),
    ("divider", {"highest": "2 V"}, "no divider is needed"),
    ("divider", {"accepts": "1 Ω"}, "No pair of resistors is low enough"),
    ("fixed half", {"lowest": "50 kΩ"}, "must be below its greatest"),
    # Beside 8.2 kΩ the most is where the sensor has as much: 3.3² ÷ (4 × 8.2 kΩ) = 0.332 mW, over 2 mW/K.
    ("thermistor half", {}, "heats itself by up to 0.17 K, and 0.1 K is allowed. Feed it for 60 %"),
    ("thermistor half", {"coldest": "60 °C"}, "must be below the hottest"),
    ("self-heating", {}, "reads 0.14 K too warm, and 0.1 K is allowed: feed it for 73 % of the time, or from 2.83 V"),
    ("gain and reference", {"highest": "4 V"}, "No gain and reference take 4 V"),
    ("gain and reference", {"gains": "1, two"}, "The list cannot be read"),
    ("pull-ups", {"capacitance": "2 nF"}, "too much capacitance"),
    ("contrast", {"supply": "3.3 V"}, "below ground"),
    ("battery hours", {"wanted": "90 d"}, "It is empty 635 h too early"),
    ("anti-alias filter", {"rate": "20 Hz"}, "needs more than 20 samples a second"),
]


@pytest.mark.parametrize(("kind", "written", "words"), WARNED)
def test_what_cannot_be_is_said_with_what_would_help(kind: str, written: dict[str, str], words: str) -> None:
    assert words in solved(kind, **written).warning


@given(st.floats(-40, 40), st.floats(1, 100), st.floats(2000, 5000), st.sampled_from(["E12", "E24", "E96"]))
def test_no_other_half_is_finer_at_its_coarsest(low: float, width: float, beta: float, series: str) -> None:
    """Every value of the series tried on the divider itself: how far the code moves for a hundredth of a kelvin."""
    result = solved(
        "thermistor half", coldest=f"{low:.6f} °C", hottest=f"{low + width:.6f} °C", beta=f"{beta:.6f} K", series=series
    )

    def coarsest(ohm: float) -> float:
        worst = 0.0
        for place in range(61):
            codes = []
            for off in (-0.005, 0.005):
                kelvin = low + width * place / 60 + 273.15 + off
                sensor = 1e4 * math.exp(beta * (1 / kelvin - 1 / 298.15))
                codes.append(4096 * sensor / (sensor + ohm))
            worst = max(worst, 0.01 / (codes[0] - codes[1]))
        return worst

    taken = coarsest(result.figure("take"))
    assert result.figure("a count, at worst") == pytest.approx(taken, rel=1e-4)
    assert all(coarsest(ohm) >= taken * (1 - 1e-6) for ohm in decade_of(100, 1e6, SERIES[series]))


@given(st.floats(0.01, 100), st.floats(1.0001, 300), st.floats(100, 1e5))
def test_a_divider_never_gives_more_than_the_pin_may_get(most: float, times: float, accepts: float) -> None:
    result = solved("divider", highest=f"{most * times:.9f} V", most=f"{most:.9f} V", accepts=f"{accepts:.6f} Ω")
    if result.part:
        upper, lower = result.figure("upper"), result.figure("lower")
        assert most * times * lower / (upper + lower) <= most * (1 + 1e-6)
        assert upper * lower / (upper + lower) <= accepts * (1 + 1e-6)


@given(st.floats(1.8, 5.5), st.floats(10e-12, 400e-12), st.sampled_from([1e4, 1e5, 4e5, 1e6]))
def test_pull_ups_are_strong_and_weak_enough(supply: float, farad: float, clock: float) -> None:
    result = solved("pull-ups", supply=f"{supply:.6f} V", capacitance=f"{farad * 1e12:.6f} pF", clock=f"{clock} Hz")
    if result.part:
        ohm = result.figure("take")
        assert (supply - 0.4) / ohm <= 0.003 * (1 + 1e-6)
        assert rise_s(ohm, farad) <= rise_limit_s(clock) * (1 + 1e-6)


@given(st.floats(0.5, 20), st.floats(1e-4, 2))
def test_a_lamp_never_gets_more_than_was_wanted(left: float, amps: float) -> None:
    result = solved("lamp resistor", supply=f"{2 + left:.9f} V", forward="2 V", current=f"{amps:.9f} A")
    assert result.figure("current while lit") <= amps * (1 + 1e-6)
    assert result.figure("current while lit") >= amps * 1.3 / 1.5 * (1 - 1e-6)  # the widest step of E24


@given(st.floats(1e-3, 1e8), st.sampled_from([E6, E12, E24]))
def test_a_preferred_value_is_the_nearest_there_is(value: float, series: tuple[float, ...]) -> None:
    below, above = around(value, series)
    assert below <= value * (1 + 1e-6)
    assert above >= value * (1 - 1e-6)
    every = [step * 10.0**power for power in range(-5, 10) for step in series]
    best = min(every, key=lambda each: abs(math.log(each / value)))
    assert abs(math.log(nearest(value, series) / value)) == pytest.approx(abs(math.log(best / value)), abs=1e-9)


def test_the_series_are_those_of_the_standard() -> None:
    """IEC 60063: E12 and E6 are every second and every fourth of E24."""
    assert E24[::2] == E12
    assert E24[::4] == E6
    assert len(decade_of(1000, 9999)) == 24


@pytest.mark.parametrize(
    ("clock", "limit"), [(100e3, 1000e-9), (400e3, 300e-9), (1e6, 120e-9), (50e3, 1000e-9), (3.4e6, 120e-9)]
)
def test_rise_times_are_those_of_the_bus_standard(clock: float, limit: float) -> None:
    assert rise_limit_s(clock) == limit
    assert rise_s(1000, 1e-9) == pytest.approx(847.3e-9, rel=1e-4)
