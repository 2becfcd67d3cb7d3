"""What cannot be is refused by a whole sentence: what it is, and what would be right, to the letter."""

from __future__ import annotations

from collections.abc import Callable

import pytest

from lesart.core import calm, law
from lesart.core.errors import LesartError
from lesart.core.glass.panels.segment_wiring import read_order
from lesart.core.parameters import read_table
from lesart.core.quantity import parse_quantity
from lesart.core.units import parse_unit

KG = parse_unit("kg")


def of_law(kind: str, **written: object) -> str:
    """Why a law is refused with these values, the rest as a new one has it."""
    record = law.KINDS[kind]
    values, problems = read_table(record.parameters, {**record.start(KG, KG), **written}, "")
    if problems:
        return f"{problems[0].place.lstrip('.')} = {problems[0].value}: {problems[0].wanted}"
    return _refused(lambda: record.build(values))


def of_filter(kind: str, **written: object) -> str:
    record = calm.KINDS[kind]
    values, problems = read_table(record.parameters, {**record.start(KG, 0.1), **written}, "")
    assert not problems
    return _refused(lambda: record.build(values, KG))


def _refused(make: Callable[[], object]) -> str:
    with pytest.raises((LesartError, ValueError)) as caught:
        make()
    return str(caught.value)


LAWS = [
    ("linear", {"slope": "0 kg/kg"}, "slope must not be 0 kg/kg"),
    (
        "logarithm",
        {"input": "0 V", "output": "1 m", "per_decade": "1 m"},
        "point, input must not be 0 V: zero has no logarithm",
    ),
    (
        "logarithm",
        {"input": "1 V", "output": "1 m", "per_decade": "0 m"},
        "per decade must not be 0: then every input gives the same output",
    ),
    ("thermistor by points", {"points": "10 kΩ @ 25 °C"}, "points must be two or three measured pairs, not 1"),
    (
        "thermistor by points",
        {"points": "10 kΩ @ 25 °C; 12 kΩ @ 60 °C"},
        "points: from 25 to 60 °C the resistance must fall, and here goes from 10000 to 12000 Ω",
    ),
    (
        "thermistor by points",
        {"points": "10 kΩ @ 25 °C; 3 kΩ"},
        'points: "3 kΩ" has no @; a pair is written like "10 kΩ @ 25 °C"',
    ),
    ("trimmed compensation", {"coefficients": "0; 1", "step": "0 Pa"}, "step must not be 0"),
    (
        "trimmed compensation",
        {"coefficients": "0; 1", "step": "1 Pa", "beside": "3 kg"},
        "beside must be a count or a channel of counts, not 3 kg",
    ),
    (
        "trimmed compensation",
        {"coefficients": "0; 1", "step": "1 Pa", "lowest": 5, "highest": 5},
        "lowest must be below highest",
    ),
    (
        "trimmed compensation",
        {"coefficients": "0; 1.5", "step": "1 Pa"},
        'coefficients "1.5" is not a row of whole numbers',
    ),
    (
        "trimmed compensation",
        {"coefficients": "0; 32768", "coefficient_bits": 16, "step": "1 Pa"},
        "coefficient 32768 does not fit 16 bits, which hold -32768 to 32767",
    ),
    (
        "trimmed compensation",
        {"coefficients": "0; -32769", "coefficient_bits": 16, "step": "1 Pa"},
        "coefficient -32769 does not fit 16 bits, which hold -32768 to 32767",
    ),
    *(
        (
            "trimmed compensation",
            {"coefficients": rows, "step": "1 Pa"},
            'coefficients must be 2 to 8 rows of 1 to 6 whole numbers, "-520; 91 -3; 4"',
        )
        for rows in ("1", "; ".join("1" * 9), "0; 1 2 3 4 5 6 7")
    ),
    (
        "whole-number steps",
        {"steps": "x", "step": "1 Pa", "beside": "3 kg"},
        "beside must be a count or a channel of counts, not 3 kg",
    ),
    ("formula", {"formula": "x", "names": "x = 3"}, 'names: "x" is taken; choose another name'),
    ("formula", {"formula": "x", "names": "sin = 3"}, 'names: "sin" is taken; choose another name'),
    (
        "formula",
        {"formula": "x * t", "names": "t = yard air"},
        'names: say in which unit channel "yard air" is taken: "t = yard air in °C"',
    ),
    (
        "formula",
        {"formula": "x", "names": "5 = k"},
        'names: "5 = k" is not written like "k = 4.7 kΩ" or "t = yard air in °C"',
    ),
]


@pytest.mark.parametrize(("kind", "written", "said"), LAWS)
def test_a_law_that_cannot_be(kind: str, written: dict[str, object], said: str) -> None:
    found = of_law(kind, **written)
    assert found.partition(" at ")[0] == said or found == said or found.startswith(f"{said}:")


@pytest.mark.parametrize(
    ("kind", "written", "said"),
    [
        ("median", {"samples": 4}, "a median needs an odd number of samples, not 4"),
        (
            "low-pass",
            {"cutoff": "5 Hz", "rate": "10 Hz"},
            "cut-off must be below half the rate, 5 Hz, not 5 Hz",
        ),
        (
            "low-pass",
            {"cutoff": "0.1 mHz", "rate": "10 kHz"},
            "cut-off must be 0.01 Hz or more at this rate, not 0.0001 Hz; decimate first",
        ),
    ],
)
def test_a_filter_that_cannot_be(kind: str, written: dict[str, object], said: str) -> None:
    assert of_filter(kind, **written) == said


@pytest.mark.parametrize(
    ("text", "said"),
    [
        ("kg" * 21, '"kgkgkgkgkgkgkgkgkgkg…" is too long for a unit; try one like mV/V.'),
        ("m^10", '"m^10" has a power beyond 9, which no quantity needs.'),
        ("m/s^10", '"m/s^10" has a power beyond 9, which no quantity needs.'),
        ("Gm^9", '"Gm^9" is beyond anything measured; try one like V, mV/V, kg or °C.'),
        ("m·?", '"?" is not a unit Lesart knows; try one like V, mV/V, kg, °C, ct or %.'),
    ],
)
def test_a_unit_that_cannot_be(text: str, said: str) -> None:
    assert _refused(lambda: parse_unit(text)) == said


@pytest.mark.parametrize("text", ["m^9", "m^-9", "1/s^9"])
def test_the_largest_power(text: str) -> None:
    assert abs(max(parse_unit(text).dimension, key=abs)) == 9


@pytest.mark.parametrize(
    ("text", "said"),
    [
        ("", 'nothing is not a number; write one like "2.5 kg".'),
        ("x" * 61, 'xxxxxxxxxxxxxxxxxxxx… is not a number; write one like "2.5 kg".'),
        ("5", '"5" has no unit; write it like "2.5 kg".'),
    ],
)
def test_a_quantity_that_cannot_be(text: str, said: str) -> None:
    assert _refused(lambda: parse_quantity(text, KG, unit_needed=True)) == said


@pytest.mark.parametrize(
    ("order", "said"),
    [
        ("a b c d e f", "segment g has no bit; name all of a b c d e f g"),
        ("a b c d e f g a", 'segment "a" appears twice in the order of bits'),
        ("a b c d e f h", '"h" is not a segment; it has a b c d e f g . :, and - for a bit that lights none'),
    ],
)
def test_an_order_of_segments_that_cannot_be(order: str, said: str) -> None:
    assert _refused(lambda: read_order(order, "7")) == said
