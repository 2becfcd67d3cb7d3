"""Every kind of sentence that is known by name: its fields in their places, and none of the others."""

from __future__ import annotations

import pytest

from lesart.core.raw.lines.sentences import KINDS, sentence_in

NORTH_EAST = {"latitude": 48 + 7.038 / 60, "longitude": 11 + 31.0 / 60}
SOUTH_WEST = {"latitude": -(33 + 51.5 / 60), "longitude": -(70 + 30.75 / 60)}
SENTENCES: dict[str, tuple[str, dict[str, float]]] = {
    "GGA": (
        "101112.00,4807.038,N,01131.000,E,1,08,0.9,545.4,M,46.9,M,,",
        {**NORTH_EAST, "fix": 1, "satellites": 8, "spread": 0.9, "height": 545.4},
    ),
    "RMC": (
        "101112,A,3351.500,S,07030.750,W,022.4,084.5,140531,003.1,W",
        {**SOUTH_WEST, "speed over ground": 22.4, "course": 84.5},
    ),
    "GLL": ("3351.500,S,07030.750,W,101112,A", SOUTH_WEST),
    "VTG": ("054.7,T,034.4,M,005.5,N,010.2,K", {"course": 54.7, "speed over ground": 5.5}),
    "GNS": (
        "101112.00,4807.038,N,01131.000,E,AA,13,0.7,545.4,46.9,,",
        {**NORTH_EAST, "satellites": 13, "spread": 0.7, "height": 545.4},
    ),
    "HDT": ("274.5,T", {"heading": 274.5}),
    "HDM": ("268.2,M", {"magnetic heading": 268.2}),
    "DBT": ("017.6,f,005.4,M,002.9,F", {"depth": 5.4}),
    "DPT": ("005.4,0.5", {"depth": 5.4}),
    "MTW": ("18.5,C", {"water temperature": 18.5}),
    "MWV": ("214.8,R,12.3,M,A", {"wind angle": 214.8, "wind speed": 12.3}),
    "VHW": ("245.1,T,248.3,M,006.2,N,011.5,K", {"heading": 245.1, "speed through water": 6.2}),
}
"""By the standard's order of fields."""


@pytest.mark.parametrize("kind", sorted(KINDS))
def test_fields_are_where_the_standard_has_them(kind: str) -> None:
    fields, wanted = SENTENCES[kind]
    found = sentence_in(f"$GN{kind},{fields}")
    assert found is not None
    assert found.values == pytest.approx(wanted)
    assert set(found.units) == set(wanted)
    assert not found.wrong


def test_the_clock_and_the_day_are_as_written() -> None:
    found = sentence_in(f"$GNRMC,{SENTENCES['RMC'][0]}")
    assert found is not None
    assert (found.clock, found.date) == ("101112", "140531")
