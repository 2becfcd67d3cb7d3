"""So much of one thing for each of another, pulses by their periods, and tanks, as they are said at + in 3 Law."""

from __future__ import annotations

from collections.abc import Callable
from pathlib import Path

import numpy as np
import pytest

from lesart.core.step import Step
from lesart.core.units import parse_unit
from lesart.desk.opening import open_desk
from lesart.project.new.make import make_project
from tests.desk.test_law_words import read

METRE, MICRO, MILLI, BARE = "depth [m]", "echo_us", "mv", "loop"
# What laws that end in one of two units are told, in the order of the line; and what anyone reckons.
RATIOS: list[tuple[str, str, str, Callable[[float], float]]] = [
    (MICRO, "0.0343 cm/us / 2", "cm", lambda micro: micro * 0.0343 / 2),
    (MICRO, "343 m/s, there and back", "m", lambda micro: micro * 343e-6 / 2),
    (MICRO, "29.1 µs per cm round trip", "cm", lambda micro: micro / 29.1 / 2),
    (MICRO, "1000 imp/kWh", "W", lambda micro: 3.6e6 / 1000 / (micro * 1e-6)),
    (MICRO, "0.5 Wh per pulse", "W", lambda micro: 0.5 * 3600 / (micro * 1e-6)),
    (MICRO, "2 pulses per rev", "rpm", lambda micro: 60 / (2 * micro * 1e-6)),
    (MICRO, "450 pulses per litre", "L/min", lambda micro: 60 / (450 * micro * 1e-6)),
    (MICRO, "2.1 m per turn", "m/s", lambda micro: 2.1 / (micro * 1e-6)),
    (MILLI, "41 µV per degree", "°C", lambda milli: milli * 1000 / 41),
    (MILLI, "2 bar per V", "bar", lambda milli: milli * 0.002),
    (METRE, "11.3 litres per cm", "L", lambda metre: metre * 100 * 11.3),
    (METRE, "tank 1.2 m diameter", "L", lambda metre: 1000 * np.pi * 0.36 * metre),
    (METRE, "litres: round tank, 60 cm radius", "L", lambda metre: 1000 * np.pi * 0.36 * metre),
    (METRE, "tank 2 m x 50 cm", "L", lambda metre: 1000 * metre),
    (METRE, "tank 2x0.5 m", "L", lambda metre: 1000 * metre),
    (
        METRE,
        "lying cylinder 1.2 m diameter 2 m long",
        "L",
        # The segment of a circle by its angle, not by its chord as the formula has it.
        lambda metre: 2000 * 0.36 / 2 * (2 * np.arccos(1 - metre / 0.6) - np.sin(2 * np.arccos(1 - metre / 0.6))),
    ),
    (BARE, "4-20 mA = 0-3 m", "m", lambda bare: (bare - 4) / 16 * 3),
]


@pytest.mark.parametrize(("channel", "line", "unit", "wanted"), RATIOS, ids=[line for _, line, *_ in RATIOS])
def test_so_much_for_each(channel: str, line: str, unit: str, wanted: Callable[[float], float], tmp_path: Path) -> None:
    """One unit for each of another is taken from the end of the laws that it fits; so are pulses and tanks."""
    rows = [f"{k},{0.05 + 0.02 * k:.2f},{900 + 137 * k},{2 + 0.3 * k:.1f},{4.5 + 0.25 * k}" for k in range(50)]
    (tmp_path / "log.csv").write_text("\n".join([f"time [s],{METRE},{MICRO},{MILLI},{BARE}", *rows]) + "\n")
    make_project(tmp_path / "log.csv", tmp_path / "log")
    desk = open_desk(tmp_path / "log")
    desk.open_step(Step.LAW)
    desk.choose_channel(channel)
    raw = desk.bench.run(desk.state.project, desk.state.chosen).blocks[Step.RAW].x
    desk.add("times 1")  # so that there is a law before it
    desk.add(line)
    assert not desk.state.message_is_fault, desk.state.message
    assert desk.state.chosen.unit == parse_unit(unit)
    assert read(desk) == pytest.approx([wanted(float(value)) for value in raw], rel=1e-9)
    assert desk.state.chosen.lowest <= read(desk).min()
    assert read(desk).max() <= desk.state.chosen.highest
    desk.close()
