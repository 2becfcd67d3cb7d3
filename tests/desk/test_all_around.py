"""A wind vane at the desk, mounted with a turn and resting over the seam of its circle: references, tare, pack."""

from __future__ import annotations

from pathlib import Path

import numpy as np
import pytest

from lesart.core.step import Step
from lesart.desk.desk import Desk
from lesart.desk.hand import follow
from lesart.desk.opening import open_desk
from lesart.desk.picture import workspace_now
from lesart.study.packing.compiled import compiled_and_run
from lesart.study.packing.made import packed
from tests.benches import bench_of

TURNED = 22.0
"""So many degrees too little it reads."""
VANE = """
[sources.s]
capture = "bench.csv"
time = "t"
header = 1
[channels.vane]
source = "s"
column = "vane"
raw_unit = "ct"
unit = "°"
lowest = "0°"
highest = "360°"
outside = "marked"
[[channels.vane.law]]
kind = "linear"
input = "0 ct"
output = "0°"
slope = "0.1 °/ct"
[[channels.vane.calm]]
kind = "circular mean"
samples = 4
lowest = "0°"
highest = "360°"
[channels.vane.fit]
decimals = 0
width = 4
[panels.glass]
kind = "characters"
columns = 16
rows = 2
[faces.first]
panel = "glass"
[[faces.first.items]]
kind = "field"
channel = "vane"
"""
NORTH_S, SOUTH_S = 10.0, 30.0
"""Until then it stands in the one and then in the other direction."""


@pytest.fixture
def vane(tmp_path: Path) -> Desk:
    """In the wind from 22° it indicates 0°, a degree more and a degree less in turn; from 202° then 180°."""
    t = np.arange(0.0, SOUTH_S, 0.1)
    direction = np.where(t < NORTH_S, 22.0, 202.0) - TURNED + np.where(np.arange(len(t)) % 2, 1.0, -1.0)
    bench_of(tmp_path, VANE, {"t": t, "vane": np.rint(10 * (direction % 360.0)) % 3600})
    return open_desk(tmp_path)


def words(desk: Desk) -> str:
    """The lines of the workspace."""
    return "\n".join("".join(span.text for span in line) for line in workspace_now(desk).lines)


def shown_for(desk: Desk, raw: float) -> float:
    """What the field shows for a raw value."""
    shown = follow(desk.state.project, desk.state.chosen, raw).shown
    assert shown is not None
    return float(shown.text.strip(" °"))


def test_references_on_both_sides_of_the_seam_make_one_turn(vane: Desk) -> None:
    vane.open_step(Step.TRUE)
    vane.put_cursor(NORTH_S - 0.5)
    vane.add("21.5°")
    assert "the mean of 50 samples" in vane.state.message
    vane.put_cursor(SOUTH_S - 0.5)
    vane.add("202.5°")
    first, second = vane.state.chosen.references
    assert min(first.indicated, 360.0 - first.indicated) == pytest.approx(0.0, abs=1e-6)
    assert second.indicated == pytest.approx(180.0)
    assert first.spread == pytest.approx(1.0, abs=0.1)  # of what went over the seam 180° would be
    assert vane.state.chosen.correction.kind == "offset"
    assert vane.state.chosen.correction.offset == pytest.approx(TURNED)
    assert "known all around" in words(vane)
    assert [each.text for each in vane.notes if each.step in (Step.LAW, Step.TRUE) and each.mark != "·"] == []
    assert shown_for(vane, 3500) == 12.0
    assert shown_for(vane, 3390) == 1.0
    assert shown_for(vane, 0) == 22.0


def test_pairs_begin_with_a_turn_too(vane: Desk) -> None:
    vane.open_step(Step.TRUE)
    vane.add("0 = 338; 90 = 68; 350 = 328")
    assert vane.state.chosen.correction.kind == "offset"
    assert vane.state.chosen.correction.offset == pytest.approx(TURNED)


def test_a_tare_makes_north_of_where_it_stands(vane: Desk) -> None:
    vane.open_step(Step.TRUE)
    vane.put_cursor(SOUTH_S - 0.5)
    vane.tare()
    assert shown_for(vane, 1800) == 0.0
    assert shown_for(vane, 1700) == 350.0
    vane.put_cursor(NORTH_S - 0.5)
    vane.tare()
    assert shown_for(vane, 0) == 0.0
    assert shown_for(vane, 3500) == 350.0


def test_the_way_back_leads_to_a_count_that_can_come(vane: Desk) -> None:
    vane.open_step(Step.TRUE)
    vane.add("22 = 0")
    chain = vane.state.chosen.chain
    for reading, raw in ((22.0, 0), (12.0, 3500), (0.0, 3380), (21.9, 3599), (359.0, 3370)):
        assert chain.raw_for(reading) == pytest.approx(raw)


def test_firmware_comes_round_as_the_desk_does(vane: Desk) -> None:
    """What lies outside of the range is marked, and no direction does."""
    vane.open_step(Step.TRUE)
    vane.add("22 = 0")
    pack = packed(vane.state.project, vane.bench, vane.state.project.pack)
    assert not pack.left_out
    (channel,) = pack.channels
    assert channel.followed.otherwise == 0
    assert channel.followed.worst <= 0.3
    built = compiled_and_run(pack.files)
    assert built is not None
    assert (built.ok, built.says.split(";")[0]) == (True, "equal")
