"""Thermocouples against their tables, and their reference functions piece by piece."""

from __future__ import annotations

import itertools

import numpy as np
import pytest

from lesart.core.law.thermocouple import emf_mv, emf_slope, range_c
from lesart.core.law.thermocouple_tables import INVERTED_FROM, PIECES
from tests.core.law.built import LAWS, build

EMF = [
    # Tables of IEC 60584-1, printed to a thousandth of a millivolt, the cold junction at 0 °C.
    ("K", -270, -6.458),
    ("K", -200, -5.891),
    ("K", 100, 4.096),
    ("K", 500, 20.644),
    ("K", 1000, 41.276),
    ("K", 1372, 54.886),
    ("J", -210, -8.095),
    ("J", 100, 5.269),
    ("J", 760, 42.919),
    ("J", 1000, 57.953),
    ("J", 1200, 69.553),
    ("E", -270, -9.835),
    ("E", -100, -5.237),
    ("E", 100, 6.319),
    ("E", 500, 37.005),
    ("E", 1000, 76.373),
    ("T", -270, -6.258),
    ("T", -200, -5.603),
    ("T", 100, 4.279),
    ("T", 400, 20.872),
    ("N", -270, -4.345),
    ("N", -200, -3.990),
    ("N", 100, 2.774),
    ("N", 1000, 36.256),
    ("N", 1300, 47.513),
    ("R", -50, -0.226),
    ("R", 100, 0.647),
    ("R", 1000, 10.506),
    ("R", 1500, 17.451),
    ("R", 1768, 21.101),
    ("S", -50, -0.236),
    ("S", 100, 0.646),
    ("S", 1000, 9.587),
    ("S", 1500, 15.582),
    ("S", 1768, 18.693),
    ("B", 100, 0.033),
    ("B", 600, 1.792),
    ("B", 1000, 4.834),
    ("B", 1820, 13.820),
]


@pytest.mark.parametrize(("kind", "celsius", "mv"), EMF)
def test_thermocouples_against_their_tables(kind: str, celsius: float, mv: float) -> None:
    """Within half of the last printed digit and the rounding that made it."""
    assert float(emf_mv(kind, np.array([float(celsius)]))[0]) == pytest.approx(mv, abs=5.5e-4)
    if celsius > INVERTED_FROM.get(kind, -273):
        one = build("thermocouple", type=kind, cold="0 °C")
        slope = float(emf_slope(kind, np.array([float(celsius)]))[0])
        # A rounded voltage is as many degrees off as the slope makes of it: at −270 °C a microvolt is a degree.
        back = one.forward(np.clip(np.array([mv]), *one.valid_in))
        assert float(back[0]) == pytest.approx(celsius, abs=max(5.5e-4 / slope * 1.2, 0.05))


@pytest.mark.parametrize(
    ("kind", "borders"),
    # IEC 60584-1, annex A.
    [
        ("R", [-50, 1064.18, 1664.5, 1768.1]),
        ("S", [-50, 1064.18, 1664.5, 1768.1]),
        ("B", [0, 630.615, 1820]),
        ("J", [-210, 760, 1200]),
        ("T", [-270, 0, 400]),
        ("E", [-270, 0, 1000]),
        ("K", [-270, 0, 1372]),
        ("N", [-270, 0, 1300]),
    ],
)
def test_reference_functions_change_where_the_standard_says(kind: str, borders: list[float]) -> None:
    """They meet so smoothly there that no value tells a border a degree away."""
    assert [(low, high) for low, high, _ in PIECES[kind]] == list(itertools.pairwise(borders))


@pytest.mark.parametrize("kind", PIECES)
def test_pieces_of_a_reference_function_meet(kind: str) -> None:
    """A wrong digit in a coefficient would tear them apart where one ends and the next begins.

    Values meet; slopes nearly: the standard itself leaves a bend of 0.9 % in type N at 0 °C.
    """
    for (_, end, _), _ in itertools.pairwise(PIECES[kind]):
        below, above = np.array([end - 1e-9]), np.array([end + 1e-9])
        assert float(emf_mv(kind, above)[0]) == pytest.approx(float(emf_mv(kind, below)[0]), abs=1e-6)
        assert float(emf_slope(kind, above)[0]) == pytest.approx(float(emf_slope(kind, below)[0]), rel=1e-2)


@pytest.mark.parametrize("kind", PIECES)
def test_a_thermocouple_is_read_right_over_its_whole_range(kind: str) -> None:
    """To a millionth of a degree, with a cold junction that is not cold, at ten thousand temperatures."""
    one = LAWS[f"type {kind}"]
    celsius = np.linspace(*range_c(kind), 10_001)
    assert np.abs(one.forward(one.inverse(celsius)) - celsius).max() < 1e-6
