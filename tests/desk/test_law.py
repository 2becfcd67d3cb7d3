"""Law at the desk: its leaves, laws that move, tables taken over, units of a field, channels read beside."""

from __future__ import annotations

import math
import re
import tomllib
from collections.abc import Iterator
from pathlib import Path

import pytest

from lesart.core.block import block_of
from lesart.core.notes import DOUBT
from lesart.core.step import Step
from lesart.core.units import parse_unit
from lesart.desk.desk import Desk
from lesart.desk.hand import follow
from lesart.desk.opening import open_desk
from lesart.desk.picture import workspace_now
from lesart.project.check import check_project
from lesart.project.new.make import make_project
from tests.conftest import AIR, MASS


def words(desk: Desk) -> str:
    """The lines of the workspace."""
    lines = workspace_now(desk).lines
    return "\n".join("".join(span.text for span in line) for line in lines)


def laws(desk: Desk, channel: str) -> list[str]:
    """Kinds of a channel's laws, in order."""
    table = tomllib.loads(desk.state.history.text)["channels"][channel]
    return [entry["kind"] for entry in table.get("law", ())]


def test_each_law_shows_what_goes_in_and_comes_out(desk: Desk) -> None:
    """By hand: 461 708 counts are 1000 × 461708 ÷ 2²³ ÷ 128 mV/V, and 100 kg are 1 mV/V."""
    desk.open_step(Step.LAW)
    desk.take_hand("461708")
    signal = 1000 * 461708 / 2**23 / 128
    shown = words(desk)
    assert f"461 708 ct → {signal:.6g} mV/V" in shown
    assert f"{signal:.6g} mV/V → {signal * 100:.6g} kg" in shown
    desk.choose_channel("brood probe")
    desk.take_hand("1650 mV")
    assert "1.65 V → 10 000 Ω" in words(desk)
    assert "10 000 Ω → 25 °C" in words(desk)


@pytest.mark.parametrize(
    ("header", "slope", "said"), [("value", "0.25", "slope 0.25"), ("drop (mV)", "0.25 kg/mV", "slope 0.25 kg/mV")]
)
def test_the_slope_has_the_unit_of_both_sides(header: str, slope: str, said: str, tmp_path: Path) -> None:
    """And none where there are plain numbers on both: "0.25 per 1" stood there."""
    (tmp_path / "some.csv").write_text(f"t,{header}\n" + "".join(f"{row},{row / 8}\n" for row in range(40)))
    make_project(tmp_path / "some.csv", tmp_path / "some")
    desk = open_desk(tmp_path / "some")
    desk.open_step(Step.LAW)
    desk.add("linear kg" if "kg" in slope else "linear")
    assert not desk.state.message_is_fault, desk.state.message
    desk.edit(("channels", desk.state.channel, "law", 0, "slope"), slope)
    assert not desk.state.message_is_fault, desk.state.message
    (line,) = [line for line in words(desk).splitlines() if "at the cursor" in line]
    assert line.split("   ")[1].strip() == said
    desk.close()


def test_a_wanted_reading_is_solved_back_through_what_stands_beside(desk: Desk) -> None:
    """The tank stands in the air of the yard: 343.2 mm there and back need the sound of that temperature."""
    desk.open_step(Step.LAW)
    desk.choose_channel("syrup below")
    desk.put_cursor(300.0)
    desk.take_hand("300 mm")
    channel = desk.bench.standing(desk.state.project, desk.state.chosen, 300.0)
    air = desk.bench.readings_at(desk.state.project, ["yard air"], 300.0)["yard air"]
    sound = 331.3 * math.sqrt((air + 273.15) / 273.15)
    assert desk.state.hand == pytest.approx(2 * 0.3 / sound)
    assert follow(desk.state.project, channel, desk.state.hand or 0.0).reading.value == pytest.approx(300.0)
    assert f"yard air is {air:.4g}"[:16] in words(desk)


def test_what_fits_is_offered_and_added(desk: Desk) -> None:
    """Behind the battery's volts a shunt fits, and no thermistor."""
    desk.open_step(Step.LAW)
    desk.choose_channel("battery")
    desk.choose_leaf("what fits")
    shown = words(desk)
    fits, _, others = shown.partition("Not for this unit:")
    for name in ("linear", "shunt", "half of a divider", "windowed RMS", "formula"):
        assert f" {name} " in fits
    for name in ("thermistor", "dew point", "echo"):
        assert f" {name} " not in fits
        assert name in others
    assert workspace_now(desk).chart is None
    desk.add("dew point")
    assert desk.state.message_is_fault
    assert desk.state.message == (
        "dew point takes %, and battery ends in V; yard humidity is in %: choose it, and add the law there."
    )


def test_laws_move_where_their_units_let_them(desk: Desk) -> None:
    """Two lines change places with their lines in the file and their comments; a bridge does not go behind its cell."""
    desk.open_step(Step.LAW)
    desk.choose_channel("battery")
    desk.add("linear V")
    desk.edit(("channels", "battery", "law", 2, "output"), "1 V")
    before = desk.state.history.text
    reading = desk.state.chosen.chain.steady(2000.0)[-1].x[0]
    desk.select(("channels", "battery", "law", 2, "slope"))
    desk.move_entry(-1)
    assert laws(desk, "battery") == ["converter", "linear", "linear"]
    assert "moved up: linear" in desk.state.message
    assert desk.state.selected_at(Step.LAW) == ("channels", "battery", "law", 1, "slope")
    assert desk.state.chosen.chain.steady(2000.0)[-1].x[0] == pytest.approx((reading - 1) + 5.7)
    assert "# 47 kΩ over 10 kΩ, each to 1 %" in desk.state.history.text
    desk.undo()
    assert desk.state.history.text == before
    desk.choose_channel(MASS)
    desk.select(("channels", MASS, "law", 1, "zero"))
    desk.move_entry(-1)
    assert desk.state.message_is_fault
    assert "raw gives ct, but law 1 takes mV/V" in desk.state.message
    desk.move_entry(1)
    assert "It is the last already." in desk.state.message
    desk.open_step(Step.CALM)
    desk.select(("channels", MASS, "calm", 2, "samples"))
    desk.move_entry(-1)
    assert [entry["kind"] for entry in tomllib.loads(desk.state.history.text)["channels"][MASS]["calm"]] == [
        "reject range",
        "mean",
        "median",
        "hold",
    ]


def test_a_table_from_a_file(desk: Desk, yard: Path) -> None:
    """Pasted as it stands there, whatever parts its columns; a wrong line is named."""
    (yard / "captures" / "points.csv").write_text("mV;°C\n500;0\n750,5;25\n1000;50\n")
    desk.open_step(Step.LAW)
    desk.choose_channel(AIR)
    desk.select(("channels", AIR, "law", 0, "slope"))
    desk.take_away()
    desk.add("table °C < captures/points.csv")
    assert not desk.state.message_is_fault, desk.state.message
    entry = tomllib.loads(desk.state.history.text)["channels"][AIR]["law"][0]
    assert entry["points"] == "500 0; 750.5 25; 1000 50"
    assert (entry["from"], entry["to"]) == ("mV", "°C")
    assert float(desk.state.chosen.chain.steady(875.25)[-1].x[0]) == pytest.approx(37.5)
    for coding in ("utf-8-sig", "utf-16", "cp1252"):  # as spreadsheets write them
        (yard / "captures" / "points.csv").write_bytes("mV;°C\n500;0\n750,5;25\n1000;50\n".encode(coding))
        desk.undo()
        desk.add("table °C < captures/points.csv")
        assert not desk.state.message_is_fault, desk.state.message
        entry = tomllib.loads(desk.state.history.text)["channels"][AIR]["law"][0]
        assert entry["points"] == "500 0; 750.5 25; 1000 50"
    (yard / "captures" / "points.csv").write_text("500,0\n750,warm\n")
    desk.add("table °C < captures/points.csv")
    assert 'points.csv, line 2: "750,warm" is not a pair of numbers' in desk.state.message
    desk.add("table < nowhere.csv")
    assert '"nowhere.csv" is not in the project\'s folder' in desk.state.message
    desk.add("linear < captures/points.csv")
    assert "Only a table takes its points from elsewhere" in desk.state.message


def test_a_table_from_a_channel(desk: Desk) -> None:
    """The brood's millivolts against the degrees that its laws make of them are a falling curve; noise is none."""
    desk.open_step(Step.LAW)
    text = desk.state.history.text.replace('name = "linden yard"', 'name = "linden yard"\n', 1)
    bare = text + (
        '\n[channels.bare]\nsource = "scale"\ncolumn = "brood_mv"\nraw_unit = "mV"\nunit = "mV"\n'
        'lowest = "0 mV"\nhighest = "3300 mV"\n'
    )
    check_project(bare)
    (desk.folder / "lesart.toml").write_text(bare)
    assert desk.look_outside()
    desk.choose_channel("bare")
    desk.add("table < channel brood probe")
    assert not desk.state.message_is_fault, desk.state.message
    entry = tomllib.loads(desk.state.history.text)["channels"]["bare"]["law"][0]
    pairs = [tuple(map(float, pair.split())) for pair in entry["points"].split(";")]
    assert len(pairs) >= 4
    for millivolt, celsius in pairs:
        # The thermistor's own law, by hand.
        ohm = 10e3 * millivolt / (3300 - millivolt)
        assert celsius == pytest.approx(1 / (1 / 298.15 + math.log(ohm / 10e3) / 3950) - 273.15, abs=0.05)
    desk.undo()
    desk.add("table < channel hive 2 mass")
    assert "neither rises nor falls all the way" in desk.state.message
    desk.add("table < channel nobody")
    assert '"nobody" is not another channel' in desk.state.message


def test_a_field_in_other_units(desk: Desk) -> None:
    """°C, °F, K and round again; the text behind the number follows; nothing before the field changes, and no other
    field of the channel."""
    desk.choose_channel(AIR)
    seen = []
    for _ in range(4):
        desk.next_unit()
        items = tomllib.loads(desk.state.history.text)["faces"]["both"]["items"]
        item = next(item for item in items if item.get("channel") == AIR)
        seen.append((item["unit"], item["unit_text"]))
        assert "unit" not in tomllib.loads(desk.state.history.text)["channels"][AIR]["fit"]
    assert seen == [("°F", "°F"), ("K", "K"), ("°C", "°C"), ("°F", "°F")]
    assert desk.state.chosen.unit.symbol == "°C"
    assert "lid air on door is shown in °F" in desk.state.message
    desk.choose_channel("entrance")
    desk.next_unit()
    assert "no unit other than ct" in desk.state.message


def test_the_two_mistakes_of_the_yard_are_caught(desk: Desk) -> None:
    """Three decimals of a battery whose count is coarser, and a sound that is too loud for its converter."""
    found = [note for note in desk.notes if note.channel in ("battery", "lid sound")]
    battery = next(note for note in found if note.step == Step.FIT)
    assert battery.mark == DOUBT
    assert "0.001 V, one raw count is 0.0046 V" in battery.text
    sound = next(note for note in found if note.step == Step.LAW)
    assert re.search(r"\d+ of 64 000 samples \(0\.\d+ %\) are at an end of the converter", sound.text)
    desk.go_to_note(desk.notes.index(battery))
    desk.mend()
    assert tomllib.loads(desk.state.history.text)["channels"]["battery"]["fit"]["decimals"] == 2


def test_what_a_law_does_not_hold_for_is_shaded(desk: Desk) -> None:
    """A thermistor to 125 °C in a channel to 200 °C: the last part of the raw values is hatched, and only that."""
    desk.open_step(Step.LAW)
    desk.choose_channel("brood probe")
    chart = workspace_now(desk).chart
    assert chart is not None
    assert chart.bands == ()
    desk.edit(("channels", "brood probe", "highest"), "200 °C")
    chart = workspace_now(desk).chart
    assert chart is not None
    ((word, places),) = chart.bands
    assert word == "outside"
    hottest = 10e3 * math.exp(3950 * (1 / 398.15 - 1 / 298.15))
    edge = 3300 * hottest / (hottest + 10e3)
    assert chart.x_range[0] <= min(places) <= max(places) <= edge
    assert edge - max(places) < 0.05 * (chart.x_range[1] - chart.x_range[0])


def test_the_histogram_shows_where_the_capture_lies(desk: Desk) -> None:
    """The battery stood between 2690 and 2980 counts all morning; outside the bars are nothing."""
    desk.open_step(Step.LAW)
    desk.choose_channel("battery")
    chart = workspace_now(desk).chart
    assert chart is not None
    bars = next(each for each in chart.series if each.name == "how often")
    foot = min(bars.y)
    standing = [x for x, y in zip(bars.x, bars.y, strict=True) if y > foot]
    assert standing
    assert 2600 < min(standing) < max(standing) < 3050


def test_a_law_behind_one_that_reads_a_channel(desk: Desk) -> None:
    """Unit and limits follow through the speed of sound at the cursor: 20 to 900 mm, in round numbers of the new
    unit."""
    desk.open_step(Step.LAW)
    desk.choose_channel("syrup below")
    desk.add("linear kg")
    assert not desk.state.message_is_fault, desk.state.message
    channel = desk.state.chosen
    assert channel.unit.symbol == "kg"
    assert (channel.lowest, channel.highest) == (pytest.approx(0.0), pytest.approx(0.9))


def test_where_a_channel_that_is_read_has_no_capture(yard: Path) -> None:
    """Both say so; nothing falls over, by hand neither."""
    (yard / "captures" / "yard-air.vcd").unlink()
    desk = open_desk(yard)
    desk.choose_channel("syrup below")
    desk.open_step(Step.LAW)
    assert "yard-air.vcd" in words(desk)
    desk.take_hand("10 ms")
    assert workspace_now(desk).step is Step.LAW
    for leaf in ("how sure", "what fits"):
        desk.choose_leaf(leaf)
        assert workspace_now(desk).lines
    assert {name for note in desk.notes if "yard-air.vcd" in note.text for name in note.channels} >= {
        "yard air",
        "syrup below",
    }


@pytest.fixture
def volts(tmp_path: Path) -> Iterator[Desk]:
    """Counts of a wave about the middle of twelve bits, nothing said of them."""
    rows = [f"{k / 100},{round(2048 + 900 * math.sin(k / 5))}" for k in range(2000)]
    (tmp_path / "wave.csv").write_text("\n".join(("t_s,adc", *rows)) + "\n")
    make_project(tmp_path / "wave.csv", tmp_path / "wave")
    desk = open_desk(tmp_path / "wave")
    desk.open_step(Step.LAW)
    yield desk
    desk.close()


@pytest.mark.parametrize(
    ("typed", "values"),
    [
        ("converter 12, 3.3 V", {"bits": 12, "reference": "3.3 V"}),
        ("converter 3.3 V", {"reference": "3.3 V"}),
        ("converter 12, gain = 4", {"bits": 12, "gain": "4"}),
        ("gate rate 2 s, 6", {"gate": "2 s", "marks": "6"}),
        ("gate rate 1/min, marks = 6", {"marks": "6"}),
        ("windowed RMS 0.5 s", {"window": "0.5 s"}),
    ],
)
def test_values_behind_a_law_go_where_they_can_be(volts: Desk, typed: str, values: dict[str, object]) -> None:
    """In the order of its values, each to the first that it can be one of."""
    volts.add(typed)
    (entry,) = tomllib.loads(volts.state.history.text)["channels"]["adc"]["law"]
    assert {name: entry[name] for name in values} == values


def test_a_value_that_a_law_has_no_place_for_is_said(volts: Desk) -> None:
    before = volts.state.history.text
    volts.add("converter 12, 3.3 V, 2, 40 °C")
    assert volts.state.message.startswith('"40 °C" is too much for converter; it takes bits = …')
    assert volts.state.history.text == before


@pytest.mark.parametrize(("first", "second", "factor"), [("V", "mV", 1e3), ("V", "V", 1.0), ("Pa", "hPa", 1e-2)])
def test_a_line_within_one_dimension_changes_its_unit_alone(
    volts: Desk, first: str, second: str, factor: float
) -> None:
    """A volt is a thousand millivolts: the slope it starts with must not make a thousand volts of it."""
    volts.add(f"already in {first}")
    volts.add(f"linear {second}")
    channel = volts.state.chosen
    links = [link for link in channel.chain.links if link.step is Step.LAW]
    assert float(links[0].run(links[0].stage.initial(), block_of([2.0]))[1].x[0]) == pytest.approx(2.0 * factor)
    # Whatever it is shown in, it is what came.
    assert channel.unit.same_dimension(parse_unit(first))
    assert follow(volts.state.project, channel, 2.0).reading.value == pytest.approx(2.0)


def test_the_row_of_a_window_has_no_value_of_one_sample(volts: Desk) -> None:
    """The level of one value about its mean is nothing, which is no level of the signal."""
    volts.add("windowed RMS 1.57 s")
    shown = words(volts)
    assert "a window of ct → ct" in shown
    level = float(re.findall(r"the window before the cursor gives ([\d.]+) ct", shown)[0])
    assert level == pytest.approx(900 / math.sqrt(2), rel=0.03)


def test_the_other_axes_are_found_by_their_names(tmp_path: Path) -> None:
    """Two that differ from it by a letter are its axes, and the angle has the range that it can have."""
    rows = [f"{20 * k},{round(500 * math.sin(k / 90))},{40 + k % 3},{round(870 + k % 5)},3" for k in range(400)]
    (tmp_path / "stand.csv").write_text("\n".join(("ms,ax_mg,ay_mg,az_mg,it_mg_", *rows)) + "\n")
    make_project(tmp_path / "stand.csv", tmp_path / "stand")
    desk = open_desk(tmp_path / "stand")
    try:
        desk.choose_channel("ax_mg")
        desk.open_step(Step.LAW)
        desk.add("tilt")
        (entry,) = tomllib.loads(desk.state.history.text)["channels"]["ax_mg"]["law"]
        assert (entry["second"], entry["third"]) == ("ay_mg", "az_mg")
        channel = desk.state.chosen
        assert (channel.unit.symbol, channel.lowest, channel.highest) == ("°", -90.0, 90.0)
        x, y, z = 480.0, 41.0, 871.0
        desk.put_cursor(0.0)
        assert follow(desk.state.project, desk.bench.standing(desk.state.project, channel, 0.02), x).reading.value == (
            pytest.approx(math.degrees(math.atan2(x, math.hypot(y, z))))
        )
    finally:
        desk.close()
