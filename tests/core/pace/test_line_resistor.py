"""A resistor in a digit's line is shared by the segments that are lit: closed forms by Ohm's law."""

from __future__ import annotations

import pytest

from lesart.core.glass.panels.scan import Scan
from lesart.core.notes import DOUBT
from lesart.core.pace.scan import DIMMER, scan_verdicts, segment_a
from lesart.core.pace.verdict import Verdict

SHARED = Scan(2.0, 0.1, 50.0, supply_v=5.0, forward_v=1.9, line_resistor_ohm=155.0)
"""3.1 V over 155 Ω: 20 mA for all that are lit together."""
OWN = Scan(2.0, 0.1, 50.0, supply_v=5.0, forward_v=1.9, resistor_ohm=310.0)
BOTH = Scan(2.0, 0.1, 50.0, supply_v=5.0, forward_v=1.9, resistor_ohm=310.0, line_resistor_ohm=31.0)


def verdicts(scan: Scan) -> dict[str, Verdict]:
    return {each.name: each for each in scan_verdicts("seg", scan, 4, 20.0, ())}


@pytest.mark.parametrize(
    ("scan", "lit", "milliamps"),
    [(SHARED, 1, 20.0), (SHARED, 2, 10.0), (SHARED, 8, 2.5), (OWN, 1, 10.0), (OWN, 8, 10.0), (BOTH, 2, 3100 / 372)],
)
def test_current_of_a_segment(scan: Scan, lit: int, milliamps: float) -> None:
    """(supply − forward) ÷ (own + lit × shared)."""
    assert 1000 * segment_a(scan, lit) == pytest.approx(milliamps)


def test_a_line_carries_no_more_than_its_resistor_lets_through() -> None:
    """However many are lit; of own resistors it is their sum."""
    assert verdicts(SHARED)["peak current, a digit's line"].figure == pytest.approx(20.0)
    assert verdicts(OWN)["peak current, a digit's line"].figure == pytest.approx(80.0)


def test_an_eight_is_dimmer_than_a_one() -> None:
    """Seven share what two share: 3.5 times; with resistors of their own none is."""
    found = verdicts(SHARED)[DIMMER]
    assert found.figure == pytest.approx(3.5)
    assert found.note is not None
    assert (found.note.mark, found.note.figure) == (DOUBT, pytest.approx(3.5))
    assert DIMMER not in verdicts(OWN)
    assert verdicts(BOTH)[DIMMER].figure == pytest.approx((310 + 7 * 31) / (310 + 2 * 31))
    assert verdicts(BOTH)[DIMMER].note is None
