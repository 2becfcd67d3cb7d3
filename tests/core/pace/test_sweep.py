"""Figures swept: where each meets its limit, against its closed form."""

from __future__ import annotations

import pytest
from hypothesis import given
from hypothesis import strategies as st

from lesart.core.glass.panels.scan import Scan
from lesart.core.glass.panels.transfer import FOUR_WIRE, TWO_WIRE, Bus
from lesart.core.pace.pulses import Counting
from lesart.core.pace.sweep import geometric, sweep_clock, sweep_digits, sweep_gate, sweep_on_time


@given(st.floats(0.5, 5.0), st.floats(0.0, 0.3), st.integers(2, 8), st.floats(40.0, 80.0))
def test_on_time(on_ms: float, blanking_ms: float, digits: int, wanted_hz: float) -> None:
    """Met at 1000 ÷ (digits × wanted) − blanking, where that is within the range."""
    found = sweep_on_time(Scan(on_ms, blanking_ms, wanted_hz), digits)
    exact = 1000.0 / (digits * wanted_hz) - blanking_ms
    if found.x[0] < exact < found.x[-1]:
        assert found.crossing == pytest.approx(exact)
    elif exact < 0.999 * found.x[0] or exact > 1.001 * found.x[-1]:
        assert found.crossing is None


@pytest.mark.parametrize(("slot_ms", "most"), [(2.0, 10), (2.5, 8), (6.1, 3), (19.0, 1)])
def test_digits(slot_ms: float, most: int) -> None:
    """The most whole digits that still meet 50 Hz: 20 ms ÷ slot."""
    assert sweep_digits(Scan(slot_ms - 0.1, 0.1, 50.0), 4).crossing == most


@pytest.mark.parametrize(
    ("bus", "clocks"),
    [
        (Bus(TWO_WIRE, 4e5), 1024 * 9 + 20),
        (Bus(FOUR_WIRE, 4e5), 1024 * 8),
        (Bus(TWO_WIRE, 4e5, 16, 1), 1024 * 9 + 64 * 11),
    ],
)
def test_bus_clock(bus: Bus, clocks: int) -> None:
    """20 pictures a second at 60 %: clocks × 20 ÷ 0.6, and what goes around the bytes counts."""
    found = sweep_clock(bus, 1024, 20.0, 0.6)
    assert found.crossing == pytest.approx(clocks * 20 / 0.6 / 1000)
    assert found.now == 400.0
    assert (found.x[0], found.x[-1]) == (pytest.approx(100.0), pytest.approx(1000.0))


def test_gate() -> None:
    """A pulse of 15 a minute at 1 s, 60 ÷ (4 marks × 1 s), is one of 5 at 3 s; of 0.1 s it is 150."""
    counting = Counting(1.0, 4.0)
    found = sweep_gate(counting, counting.step_per_min, "1/min", 5.0)
    assert found.crossing == pytest.approx(3.0)
    assert found.y[0] == pytest.approx(150.0)
    assert sweep_gate(counting, 15.0, "1/min", None).crossing is None


def test_geometric() -> None:
    assert geometric(1.0, 100.0, 3) == (1.0, pytest.approx(10.0), pytest.approx(100.0))
