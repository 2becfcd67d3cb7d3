"""Scanned digits: refresh, duty and flicker, worked by hand."""

from __future__ import annotations

import pytest
from hypothesis import given
from hypothesis import strategies as st

from lesart.core.glass.drive import Scan
from lesart.core.notes import DOUBT, FAULT
from lesart.core.pace.scan import inspect_scan, judge_scan

KEY = ("panels", "stand", "scan")


@pytest.mark.parametrize(
    ("on_ms", "blank_ms", "digits", "period", "refresh", "duty", "steady", "mend"),
    [
        (6.0, 0.1, 4, 24.4, 40.98, 0.2459, False, 4.9),
        (4.9, 0.1, 4, 20.0, 50.0, 0.245, True, None),
        (2.0, 0.0, 4, 8.0, 125.0, 0.25, True, None),
        (10.0, 0.0, 1, 10.0, 100.0, 1.0, True, None),
        (1.0, 30.0, 4, 124.0, 8.06, 0.00806, False, None),  # the blanking alone is too long
        (0.5, 1.98, 10, 24.8, 40.32, 0.02016, False, 0.02),
    ],
)
def test_by_hand(
    on_ms: float,
    blank_ms: float,
    digits: int,
    period: float,
    refresh: float,
    duty: float,
    steady: bool,
    mend: float | None,
) -> None:
    """Period, refresh and duty from on-time, blanking and digit count."""
    verdict = judge_scan(Scan(on_ms, blank_ms, 50.0), digits)
    assert verdict.period_ms == pytest.approx(period)
    assert verdict.refresh_hz == pytest.approx(refresh, rel=1e-3)
    assert verdict.duty == pytest.approx(duty, rel=1e-3)
    assert verdict.steady is steady
    assert verdict.mend_on_time_ms == (None if mend is None else pytest.approx(mend))


@given(st.floats(0.01, 50), st.floats(0, 5), st.integers(1, 16), st.floats(30, 120))
def test_the_mend_mends(on_ms: float, blank_ms: float, digits: int, wanted: float) -> None:
    """What is proposed meets the wanted refresh; what is not proposed cannot."""
    scan = Scan(on_ms, blank_ms, wanted)
    verdict = judge_scan(scan, digits)
    if verdict.mend_on_time_ms is not None:
        assert judge_scan(Scan(verdict.mend_on_time_ms, blank_ms, wanted), digits).refresh_hz >= wanted * (1 - 1e-12)
    elif not verdict.steady:
        assert digits * blank_ms * wanted >= 1000 * (1 - 1e-9)


def test_notes() -> None:
    """Flicker is a fault with the edit that mends it; near the limit a doubt; well above it nothing."""
    (fault,) = inspect_scan("stand", Scan(6.0, 0.1, 50.0), 4, KEY)
    assert fault.mark == FAULT
    assert (fault.unit, fault.limit) == ("Hz", 50.0)
    assert [(mend.key, mend.value) for mend in fault.mend] == [((*KEY, "on_time"), "4.9 ms")]
    (doubt,) = inspect_scan("stand", Scan(4.5, 0.1, 50.0), 4, KEY)
    assert doubt.mark == DOUBT
    assert not inspect_scan("stand", Scan(2.0, 0.1, 50.0), 4, KEY)
    (hopeless,) = inspect_scan("stand", Scan(1.0, 30.0, 50.0), 4, KEY)
    assert hopeless.mend == ()
    assert hopeless.remedy
