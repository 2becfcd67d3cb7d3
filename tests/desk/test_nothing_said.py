"""Figures of nothing in lines that divide by them: a sentence, and nothing is changed."""

from __future__ import annotations

from pathlib import Path

import pytest

from lesart.core.step import Step
from lesart.desk.desk import Desk
from tests.desk.mast import mast

NO_TRANSFORMER = (
    "say its ratio and its burden, like current clamp 100 A 50 mA burden 33 ohm, or 30 A 1 V; then windowed RMS."
)
NO_INTERVAL = "there is no such interval; say one like every 10 s, or downsample to 1 Hz."
NO_LIGHT = "gives no resistance at 10 lx; say it there, like 50k at 10 lux."
NO_BITS = "a word has from 1 to 64 bits, the lowest of them is bit 0."


@pytest.fixture
def desk(tmp_path: Path) -> Desk:
    return mast(tmp_path)


@pytest.mark.parametrize(
    ("step", "line", "says"),
    [
        (
            Step.LAW,
            "current clamp 0 A 50 mA burden 33 ohm",
            f'"current clamp 0 A 50 mA burden 33 ohm": {NO_TRANSFORMER}',
        ),
        (
            Step.LAW,
            "current clamp 100 A 0 mA burden 33 ohm",
            f'"current clamp 100 A 0 mA burden 33 ohm": {NO_TRANSFORMER}',
        ),
        (Step.LAW, "ct 0:1 burden 62 ohm", f'"ct 0:1 burden 62 ohm": {NO_TRANSFORMER}'),
        (Step.LAW, "ct 0A/1V", f'"ct 0A/1V": {NO_TRANSFORMER}'),
        (Step.LAW, "ldr 50k at 0 lux gamma 0.7", f'"50k at 0 lux" {NO_LIGHT}'),
        (Step.LAW, "ldr 5k at 100 lux, gamma 999999", f'"5k at 100 lux" {NO_LIGHT}'),
        (Step.LAW, "top 0 bits of 10", f'"top 0 bits of 10": {NO_BITS}'),
        (Step.CALM, "downsample to 0 Hz", f'"downsample to 0 Hz": {NO_INTERVAL}'),
        (Step.CALM, "every 0 s", f'"every 0 s": {NO_INTERVAL}'),
    ],
)
def test_what_would_divide_by_nothing_has_a_sentence(step: Step, line: str, says: str, desk: Desk) -> None:
    desk.open_step(step)
    before = desk.state.history.text
    desk.add(line)
    assert (desk.state.message_is_fault, desk.state.message) == (True, says)
    assert desk.state.history.text == before
    desk.close()
