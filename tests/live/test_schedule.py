"""When a source is asked: in its turn, and after a delay not sooner than in the next one."""

from __future__ import annotations

import pytest

from lesart.live.schedule import Due


@pytest.mark.parametrize(
    ("late_s", "then_s"), [(0.0, 0.25), (0.125, 0.125), (0.25, 0.25), (0.375, 0.125), (10.125, 0.125)]
)
def test_what_was_missed_stays_missed(late_s: float, then_s: float, monkeypatch: pytest.MonkeyPatch) -> None:
    """Every quarter of a second; whoever comes late waits for the next turn, however many went by."""
    now = [100.0]

    def sleep(seconds: float) -> None:
        now[0] += seconds

    monkeypatch.setattr("lesart.live.schedule.time.sleep", sleep)
    due = Due(0.25, lambda: now[0])
    due.begin()
    now[0] += late_s
    assert due.wait() == 100.0 + late_s
    answers = [due.wait() for _ in range(6)]
    assert next(at for at in answers if at is not None) == pytest.approx(100.0 + late_s + then_s)
