"""Positions of a vane or a switch with resistors: the nearest level counts, whatever way the positions go."""

from __future__ import annotations

from pathlib import Path

import numpy as np
import pytest

from lesart.core.fit.field import Reading
from lesart.core.fit.fill import fill
from lesart.core.pack.machine import Machine
from lesart.core.pack.settings import PackSettings
from lesart.core.step import Step
from lesart.desk.desk import Desk
from lesart.desk.hand import follow
from lesart.desk.opening import open_desk
from lesart.study.packing.compiled import compiled_and_run
from lesart.study.packing.made import packed
from tests.desk.test_recipes import opened

LEVELS = {785: 0.0, 405: 45.0, 92: 90.0, 184: 135.0, 286: 180.0, 629: 225.0, 944: 270.0, 886: 315.0}
VANE = "wind vane " + ", ".join(f"{level} = {angle:g}°" for level, angle in LEVELS.items())


def reads(desk: Desk, raw: float) -> float:
    return follow(desk.state.project, desk.state.chosen, raw).reading.value


@pytest.fixture
def counts(tmp_path: Path) -> Desk:
    desk = opened(tmp_path, 500)
    desk.open_step(Step.LAW)
    return desk


def test_the_nearest_level_is_the_position(counts: Desk) -> None:
    """Every count there is, against the plain search; half-way between two either may be meant."""
    counts.add(VANE)
    assert counts.state.message == "added: 8 positions; the levels nearest to each other are 886 and 944 ct"
    for raw in range(46, 973):
        distance = {level: abs(raw - level) for level in LEVELS}
        nearest = {LEVELS[level] for level, off in distance.items() if off == min(distance.values())}
        assert reads(counts, raw) in nearest, raw
    channel = counts.state.chosen
    assert (str(channel.unit), channel.lowest, channel.highest) == ("°", 0.0, 360.0)
    assert np.isnan(reads(counts, 44))  # half a step below 92, whose neighbour is at 184, no switch is closed
    assert np.isnan(reads(counts, 975))


@pytest.mark.parametrize(
    ("line", "raw", "reading", "unit"),
    [
        ("positions 785 0, 405 45, 92 90 °", 300, 45.0, "°"),
        ("wind vane: 0° = 785, 45° = 405, 90° = 92", 100, 90.0, "°"),
        ("rotary switch 0 ct = 1, 300 ct = 2, 600 ct = 3", 440, 2.0, "1"),
        ("keypad 0 = 1, 300 = 2, 600 = 3", 460, 3.0, "1"),
        ("positions 3.84 V = 0°, 1.98 V = 22.5°, 0.45 V = 90°", 512, 22.5, "°"),
    ],
)
def test_positions_are_told_in_several_ways(line: str, raw: float, reading: float, unit: str, counts: Desk) -> None:
    counts.add(line)
    assert not counts.state.message_is_fault, counts.state.message
    channel = counts.state.chosen
    assert (reads(counts, raw), str(channel.unit)) == (reading, unit)
    assert unit != "°" or (channel.lowest, channel.highest) == (0.0, 360.0)


POINTS = ["N", "NNE", "NE", "ENE", "E", "ESE", "SE", "SSE", "S", "SSW", "SW", "WSW", "W", "WNW", "NW", "NNW"]


@pytest.mark.parametrize(
    ("line", "every"),
    [
        ("compass", 2),
        ("compass direction", 2),
        ("N NE E SE S SW W NW", 2),
        ("cardinal directions", 2),
        ("16 point compass", 1),
        ("as 16 compass points", 1),
        ("four compass points", 4),
        ("n, e, s, w", 4),
    ],
)
def test_a_direction_is_shown_by_the_points_of_a_compass(line: str, every: int, counts: Desk) -> None:
    """Each word at its own direction and nearly half-way to the next, on either side."""
    counts.add(VANE)
    counts.open_step(Step.FIT)
    counts.add(line)
    assert not counts.state.message_is_fault, counts.state.message
    field, names = counts.state.chosen.field, POINTS[::every]
    step = 360 / len(names)
    for place, name in enumerate(names):
        for off in (-0.499, 0.0, 0.499):
            shown = fill(field, Reading((place + off) * step % 360))
            assert "".join(cell.letter for cell in shown.cells).strip() == name, (place, off)


def test_a_compass_is_right_in_another_unit_too(counts: Desk) -> None:
    """North-east ends at 67.5°, whatever the field shows."""
    counts.add(VANE)
    counts.open_step(Step.FIT)
    counts.add("compass")
    counts.add("in rad")
    assert not counts.state.message_is_fault, counts.state.message
    field = counts.state.chosen.field
    assert field.unit_shown.symbol == "rad"
    shown = ("".join(cell.letter for cell in fill(field, Reading(at)).cells).strip() for at in (45.0, 67.0, 68.0))
    assert list(shown) == ["NE", "NE", "E"]


def test_a_compass_is_for_directions(counts: Desk) -> None:
    counts.open_step(Step.FIT)
    counts.add("compass")
    assert counts.state.message == '"compass": points of a compass show a direction in °, and this is in ct.'
    counts.add("N E S")
    assert counts.state.message == '"N E S": a compass has 4, 8 or 16 points, in turn from N over E.'


HOW = "type each position and its level, like positions 785 = 0°, 405 = 45°, 92 = 90°."
RISES = f"its level does not rise with the direction: {HOW}"


@pytest.mark.parametrize(
    ("line", "says"),
    [
        ("wind vane with resistors", RISES),
        ("wind direction 8 resistors", RISES),
        ("wind vane 16 positions 10k", RISES),
        ("positions 785 = 0°, 785 = 45°, 92 = 90°", "two positions have the level 785; no law tells them apart."),
        (
            "785 = 0°, 405 = 45°, 460 = 90°",
            "its points turn at 405, so no reading has one input; where they are positions of a vane or a switch, "
            "begin with positions.",
        ),
    ],
)
def test_what_says_no_positions_is_told_how(line: str, says: str, counts: Desk) -> None:
    before = counts.state.history.text
    counts.add(line)
    assert (counts.state.message_is_fault, counts.state.message) == (True, f'"{line}": {says}')
    assert counts.state.history.text == before


def test_firmware_finds_the_same_positions(tmp_path: Path) -> None:
    """Over all counts, compiled and compared."""
    desk = opened(tmp_path, 500)
    desk.open_step(Step.LAW)
    desk.add(VANE)
    desk.save()
    desk.close()
    again = open_desk(tmp_path / "probe")
    pack = packed(again.state.project, again.bench, PackSettings(machine=Machine(32)))
    assert pack.left_out == {}
    done = compiled_and_run(pack.files)
    assert done is None or done.ok, done
    again.close()
