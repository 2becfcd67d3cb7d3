"""Laws of the air beside the channels that read its warmth, its moisture and its wind."""

from __future__ import annotations

import math
import tomllib
from pathlib import Path
from typing import Any

import numpy as np
import pytest

from lesart.core.law.air.felt import Apparent, WindChill
from lesart.core.step import Step
from lesart.desk.desk import Desk
from lesart.desk.opening import open_desk
from lesart.project.new.make import make_project

AIR, MOIST, WIND = "air [°C]", "rel hum [%]", "gusts [m/s]"


def weather(folder: Path, columns: dict[str, list[float]]) -> Desk:
    """A mast that reads so much, a row a minute; each value stands for a minute."""
    rows = [f"time [min],{','.join(columns)}"]
    rows += [f"{place},{','.join(map(str, row))}" for place, row in enumerate(zip(*columns.values(), strict=True))]
    (folder / "mast.csv").write_text("\n".join(rows) + "\n")
    make_project(folder / "mast.csv", folder / "mast")
    desk = open_desk(folder / "mast")
    desk.open_step(Step.LAW)
    return desk


@pytest.fixture
def mast(tmp_path: Path) -> Desk:
    return weather(
        tmp_path, {AIR: [-10.0, 0.0, 20.0, 25.0], MOIST: [80.0, 70.0, 50.0, 60.0], WIND: [5.5556, 8.3333, 2.0, 0.0]}
    )


def law(desk: Desk) -> dict[str, Any]:
    (entry,) = tomllib.loads(desk.state.history.text)["channels"][desk.state.chosen.name]["law"]
    return dict(entry)


# By charts and tables of weather services and of physics, where they have the place; else by the formula, by hand.
READ = [
    (AIR, "wind chill", {"wind": WIND}, "°C", [-17.9, -6.5, 20.0, 25.0]),
    (MOIST, "dew point", {"air": AIR}, "°C", [-12.8, -4.8, 9.3, 16.7]),
    (MOIST, "absolute humidity", {"air": AIR}, "g/m^3", [1.89, 3.39, 8.63, 13.8]),
    (MOIST, "vapour pressure deficit", {"air": AIR}, "hPa", [0.57, 1.83, 11.7, 12.65]),
    (AIR, "apparent temperature", {"humidity": MOIST, "wind": WIND}, "°C", [-17.1, -8.4, 18.4, 27.3]),
]


@pytest.mark.parametrize(("channel", "line", "reads", "unit", "wanted"), READ)
def test_it_takes_the_only_channels_that_may_be_meant(
    channel: str, line: str, reads: dict[str, str], unit: str, wanted: list[float], mast: Desk
) -> None:
    """The message says which, and what is read fits between the limits and into the field."""
    mast.choose_channel(channel)
    mast.add(line)
    assert not mast.state.message_is_fault, mast.state.message
    assert {name: law(mast)[name] for name in reads} == reads
    assert mast.state.message.endswith("".join(f", {name} as {other} reads it" for name, other in reads.items()))
    chosen = mast.state.chosen
    assert chosen.unit.symbol == unit
    read = mast.bench.run(mast.state.project, chosen).blocks[Step.LAW].x
    assert read == pytest.approx(wanted, abs=0.6e-1 if unit != "°C" else 0.1, rel=0.006)
    assert chosen.lowest <= read.min()
    assert read.max() <= chosen.highest
    assert not [note.text for note in mast.notes if note.mark == "†"]


def test_of_two_that_may_be_meant_neither_is_taken(tmp_path: Path) -> None:
    """A number stands there that a person sees; a name that says what it is decides."""
    two = weather(tmp_path, {MOIST: [50.0, 60.0], "hut [°C]": [20.0, 21.0], "yard [°C]": [9.0, 8.0]})
    two.choose_channel(MOIST)
    two.add("dew point")
    assert law(two) == {"kind": "dew point", "air": "20 °C"}
    (tmp_path / "named").mkdir()
    named = weather(tmp_path / "named", {MOIST: [50.0, 60.0], "hut [°C]": [20.0, 21.0], "yard air [°C]": [9.0, 8.0]})
    named.choose_channel(MOIST)
    named.add("dew point")
    assert law(named) == {"kind": "dew point", "air": "yard air [°C]"}


def test_what_is_made_of_a_channel_is_not_read_by_it(mast: Desk) -> None:
    """The dew point is a temperature too, and is read of the air's own: it would be a circle."""
    mast.choose_channel(MOIST)
    mast.add("dew point")
    mast.choose_channel(AIR)
    mast.add("apparent temperature")
    assert not mast.state.message_is_fault, mast.state.message
    entry = law(mast)
    assert (entry["wind"], entry["humidity"]) == (WIND, "50 %")


def test_wind_chill_has_no_step_between_calm_and_wind() -> None:
    """At 5 km/h its two formulas meet, to a tenth of a degree; and it never is warmer than the air."""

    chill = WindChill()
    for air in (-40.0, -20.0, 0.0, 9.0):
        below, above = (float(chill.forward(np.array([air]), np.array([wind]))[0]) for wind in (4.999999, 5.0))
        assert below == pytest.approx(above, abs=0.15), air
    air, wind = np.meshgrid(np.linspace(-60, 60, 121), np.linspace(0, 200, 101))
    felt = chill.forward(air, wind)
    assert (felt <= air).all()
    assert (np.diff(felt, axis=1) > 0).all()  # warmer air never feels colder
    assert chill.inverse(felt, wind) == pytest.approx(air, abs=1e-9)


def test_apparent_temperature_is_taken_back_anywhere() -> None:
    """From freezing calm to storms in the tropics."""

    apparent = Apparent()
    air, moist, wind = np.meshgrid(np.linspace(-60, 60, 25), np.linspace(0, 100, 11), np.linspace(0, 60, 7))
    felt = apparent.forward(air, moist, wind)
    assert apparent.inverse(felt, moist, wind) == pytest.approx(air, abs=1e-9)
    # e at 30 °C: 6.105 hPa × exp(17.27 × 30 ÷ 267.7), by hand.
    assert float(apparent.forward(np.array([30.0]), np.array([50.0]), np.array([0.0]))[0]) == pytest.approx(
        30 + 0.33 * 0.5 * 6.105 * math.exp(518.1 / 267.7) - 4
    )


def test_moisture_of_air_that_is_said_as_it_feels_is_a_fault(mast: Desk) -> None:
    """Dew points of wind chill would be wrong without a word; with a channel of its own they are right again."""
    mast.choose_channel(MOIST)
    mast.add("dew point")
    before = mast.bench.run(mast.state.project, mast.state.chosen).blocks[Step.LAW].x.tolist()
    mast.choose_channel(AIR)
    mast.add("wind chill")
    (fault,) = [note for note in mast.notes if note.mark == "†" and "takes the air" in note.text]
    assert fault.text == f"{MOIST}: its dew point takes the air to be as warm as {AIR} reads, which is its wind chill."
    assert fault.place == ("channels", MOIST, "law", 0, "air")
    mast.undo()
    mast.open_step(Step.RAW)
    mast.add(str(fault.remedy).rpartition(", as ")[2])
    assert mast.state.chosen.name == "felt", mast.state.message
    mast.open_step(Step.LAW)
    mast.add("wind chill")
    assert not mast.state.message_is_fault, mast.state.message
    assert law(mast) == {"kind": "wind chill", "wind": WIND}
    mast.choose_channel(MOIST)
    assert mast.bench.run(mast.state.project, mast.state.chosen).blocks[Step.LAW].x.tolist() == before
    assert not [note.text for note in mast.notes if note.mark == "†"]
