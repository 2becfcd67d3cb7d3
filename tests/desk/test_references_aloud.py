"""References as people say them: which value is the true one is taken from the words alone."""

from __future__ import annotations

import random
from pathlib import Path

import pytest

from lesart.core.step import Step
from lesart.desk.desk import Desk
from lesart.desk.entries.aloud.references import references_plainly
from lesart.desk.opening import open_desk
from lesart.project.new.make import make_project

PAIRS: list[tuple[str, list[tuple[float, float]]]] = [
    ("0 °C reads 0.8 °C", [(0, 0.8)]),
    ("at 0 °C it reads 0.8 °C", [(0, 0.8)]),
    ("0 °C reads 0.8 °C, 100 °C reads 99.1 °C", [(0, 0.8), (100, 99.1)]),
    ("0.8 should be 0; 99.1 should be 100", [(0, 0.8), (100, 99.1)]),
    ("reads 0.8 at 0 °C, 99.1 at 100 °C", [(0, 0.8), (100, 99.1)]),
    ("it showed 0.8 at 0 and 99.1 at 100", [(0, 0.8), (100, 99.1)]),
    ("reads 21 instead of 20", [(20, 21)]),
    ("0.8 is really 0", [(0, 0.8)]),
    ("it reads 0,8 at 0", [(0, 0.8)]),
    ("0 = 0.8, 100 = 99.1", [(0, 0.8), (100, 99.1)]),
    ("0,5 = 0,8, 100 = 99,1", [(0.5, 0.8), (100, 99.1)]),
    ("20 °C ± 0.5 °C reads 21 °C", [(20, 21)]),
    ("68 deg F reads 21 C", [(20, 21)]),
    ("a 20 °C bath shows 21", [(20, 21)]),
    ("two baths: 0 °C reads 0.8, 100 °C reads 99.1", [(0, 0.8), (100, 99.1)]),
    ("ice water 0 reads 0.8, boiling 100 reads 99.1", [(0, 0.8), (100, 99.1)]),
    ("true 50 shown 48.7", [(50, 48.7)]),
    ("two point 0:0.8 100:99.1", [(0, 0.8), (100, 99.1)]),
    ("3 points: 0=0.8, 50=50.1, 100=99.1", [(0, 0.8), (50, 50.1), (100, 99.1)]),
    ("0=0.8 50=50.1", [(0, 0.8), (50, 50.1)]),
    ("in ice it reads 0.4", [(0, 0.4)]),
    ("in ice water it shows 0.4 °C", [(0, 0.4)]),
    ("should be 21 but shows 21.6", [(21, 21.6)]),
    ("with 21 °C it reads 21.6", [(21, 21.6)]),
    ("shows 21.6 but is 21", [(21, 21.6)]),
    ("sensor 21.6, true 21", [(21, 21.6)]),
    ("true 21, sensor 21.6", [(21, 21.6)]),
    ("measured 21.6 °C, actual 21 °C", [(21, 21.6)]),
    ("indicated 21.6 reference 21", [(21, 21.6)]),
    ("room is 21, sensor says 21.6", [(21, 21.6)]),
    ("sensor says 21.6, thermometer 21", [(21, 21.6)]),
    ("body temperature 37 reads 36.2", [(37, 36.2)]),
    ("true: 20, 30; read: 20.6, 30.9", [(20, 20.6), (30, 30.9)]),
    ("reads 0.4 in ice water", [(0, 0.4)]),
    ("0.4 °C in an ice bath", [(0, 0.4)]),
]
AT_THE_CURSOR = [
    "21",
    "it is 21 °C",
    "should be 21",
    "this should read 21 C",
    "now it is 21",
    "it's 21 °C now",
    "calibrate with 21 now",
    "true value 21 °C",
    "in ice water 21 °C",
    "my reference thermometer says 21",
    "the other sensor reads 21 °C",
    "calibrate at 21 °C",
    "calibrated with 21",
    "ambient reference 21 °C",
    "reference thermometer 21",
    "set to 21",
    "make it 21",
    "~21 °C",
    "about 21",
    "dmm 21",
    "between 20 and 22",
    "20 to 22 °C",
]


@pytest.fixture
def desk(hut: Desk) -> Desk:
    hut.open_step(Step.TRUE)
    return hut


@pytest.mark.parametrize(("line", "pairs"), PAIRS, ids=[line for line, _ in PAIRS])
def test_a_pair_is_what_was_said(line: str, pairs: list[tuple[float, float]], desk: Desk) -> None:
    desk.add(line)
    assert not desk.state.message_is_fault, desk.state.message
    found = desk.state.chosen.references
    assert [(each.true, each.indicated) for each in found] == [(pytest.approx(a), pytest.approx(b)) for a, b in pairs]


@pytest.mark.parametrize("line", AT_THE_CURSOR)
def test_what_it_should_be_is_a_reference_at_the_cursor(line: str, desk: Desk) -> None:
    desk.add(line)
    assert not desk.state.message_is_fault, desk.state.message
    (found,) = desk.state.chosen.references
    assert found.true == 21
    assert found.indicated == pytest.approx(24.5, abs=0.2)  # the mean of what the capture reads there


@pytest.mark.parametrize(
    ("line", "true"),
    [("69.8 in °F", 21), ("69.8 in F", 21), ("294.15 in K", 21), ("21 in °C", 21), ("21 °C in the lab", 21)],
)
def test_a_unit_behind_in_is_one(line: str, true: float, desk: Desk) -> None:
    """And not where the value came from: 70 in °F was 70 °C."""
    desk.add(line)
    assert not desk.state.message_is_fault, desk.state.message
    (found,) = desk.state.chosen.references
    assert found.true == pytest.approx(true)


def test_between_two_values_is_known_to_half_their_distance(desk: Desk) -> None:
    desk.add("between 20.5 and 22 °C")
    assert not desk.state.message_is_fault, desk.state.message
    (found,) = desk.state.chosen.references
    assert (found.true, found.tolerance) == (pytest.approx(21.25), pytest.approx(0.75))


def test_a_value_has_one_unit(desk: Desk) -> None:
    desk.add("20 °C in mm")
    assert desk.state.message_is_fault
    assert not desk.state.chosen.references


@pytest.mark.parametrize(
    "line", ["ice water", "in iced water", "zero", "melting ice", "nothing on it", "the empty scale is 0"]
)
def test_what_is_known_without_a_number(line: str, desk: Desk) -> None:
    desk.add(line)
    assert not desk.state.message_is_fault, desk.state.message
    assert [each.true for each in desk.state.chosen.references] == [0]


@pytest.mark.parametrize(
    "line", ["a weight of 1 kg", "known weight 1 kg", "a calibration mass of 1 kg", "the test load 1 kg"]
)
def test_a_known_weight(line: str) -> None:
    assert references_plainly(line) == "1 kg"


@pytest.mark.parametrize(
    "line", ["the scale says 1.05", "my sensor reads 21.3", "the thermometer shows 21", "boiling water"]
)
def test_which_instrument_is_meant_is_not_guessed(line: str, desk: Desk) -> None:
    """Nor how hot boiling water is: that hangs on the air's pressure."""
    before = desk.state.history.text
    desk.add(line)
    assert desk.state.message_is_fault
    assert desk.state.history.text == before


@pytest.mark.parametrize(
    "line",
    [
        *("sensor 21 display 22", "true 21 actual 22", "true 20, 30; read 20.6", "0 => 0.8"),
        "20.6 is 20, 30.9 is 30",
        *("20 and 30", "0 to 100 °C"),
        "0 -> 0.8",
        "0.8 is 0",
        "0 °C at 0.8 °C; 100 °C at 99.1 °C",
        "0 0.8",
        "0 or 100",
        "21 °C 22 °C",
    ],
)
def test_words_that_do_not_say_which_is_true_are_refused(line: str, desk: Desk) -> None:
    desk.add(line)
    assert desk.state.message.startswith(f'"{line}" does not say which value is the true one; write ')
    assert not desk.state.chosen.references


@pytest.mark.parametrize(
    ("line", "by"),
    [
        ("offset 0.5", "0.5"),
        ("+2", "2"),
        ("+0.5 °C", "0.5 °C"),
        ("subtract 1.5 °C", "1.5 °C"),
        ("add 0.5", "0.5"),
        ("-0.8 °C offset", "0.8 °C"),
    ],
)
def test_an_offset_comes_of_a_reference(line: str, by: str, desk: Desk) -> None:
    """Of an offset nobody knows whether it is the sensor's or what is to be added; both ways are named, and taken."""
    desk.add(line)
    said = f"{by} too high, or {by} too low, is one from what is read."
    assert desk.state.message == f'"{line}" is a correction, which comes from references; {said}'
    assert not desk.state.chosen.references
    desk.add(f"{by} too high")
    assert len(desk.state.chosen.references) == 1


@pytest.mark.parametrize("line", ["gain 1.02", "*1.02", "multiply by 1.1", "scale factor 1.02"])
def test_a_gain_comes_of_two_references(line: str, desk: Desk) -> None:
    """What is proposed is in the channel's unit, and is taken as it stands."""
    desk.add(line)
    pairs = "10 °C = 10.24 °C; 20 °C = 20.33 °C"
    assert desk.state.message == (
        f'"{line}" is a correction, which comes from references; write {pairs}, the true value first, or < '
        "captures/weighed.csv."
    )
    assert not desk.state.chosen.references
    desk.add(pairs)
    assert desk.state.message == ("added: 10 °C where 10.24 °C was indicated and 20 °C where 20.33 °C was indicated")


def test_many_pairs_are_told_by_the_first(desk: Desk) -> None:
    desk.add("; ".join(f"{true} = {true + 0.5}" for true in range(6)))
    first = ", ".join(f"{true} °C where {true + 0.5} °C was indicated" for true in range(3))
    assert desk.state.message == f"added: {first} and 3 references more"
    assert len(desk.state.chosen.references) == 6


@pytest.mark.parametrize(
    ("line", "true"),
    [("0 °C in ice water", 0.0), ("20.5 °C (lab)", 20.5), ("actual 20.5", 20.5), ("the correct value is 21", 21.0)],
)
def test_where_a_true_value_comes_from_may_be_said(line: str, true: float, desk: Desk) -> None:
    desk.add(line)
    assert not desk.state.message_is_fault, desk.state.message
    (reference,) = desk.state.chosen.references
    assert reference.aim == true


@pytest.mark.parametrize(
    ("line", "says"),
    [
        ("± 0.5 °C", "type how well a reference is known after it, like 20 °C ± 0.1 °C"),
        ("accuracy 0.5", "type how well a reference is known after it, like 20 °C ± 0.1 °C"),
        (
            "quadratic",
            "which line or curve goes through the references is kind, a value of the correction; tab goes to it",
        ),
        ("valid for a year", "for how long references hold: valid, a value of the correction; tab goes to it"),
        ("calibrated on 2031-05-01", "each reference has its day as a value, date; tab goes to it"),
        ("last calibrated on 2031-05-01", "each reference has its day as a value, date; tab goes to it"),
        (
            "temperature drift 0.1 °C/°C",
            "a correction by another reading is a law: + in 3 Law takes trimmed compensation",
        ),
        (
            "was 12.3 °C at 10:24",
            "a reference is taken at the cursor, of the last 5 s before it: < > and , . move it there; then type what "
            "was true, like 20 °C",
        ),
        (
            "slope 1.02 offset -0.3",
            "slope and offset are a law: + in 3 Law takes slope 1.02 offset -0.3; a correction comes from references, "
            "like 20 °C reads 20.4 °C",
        ),
        ("no correction", "delete removes the selected one, used = no leaves it out, and ctrl+z undoes it"),
        ("drift 0.1 per month", "drift is shown between calibrations; l turns to them"),
        ("thermometer says 20.5", "which of them is right? my reference meter says 20 °C, or 20 °C reads 20.4 °C"),
        ("shows 21", "what is read is known already; type what is true, like 20 °C, or 20 °C reads 20.4 °C"),
        ("scale says 21, true 22", "which of them is right? my reference meter says 20 °C, or 20 °C reads 20.4 °C"),
        ("undo", "delete removes the selected one, used = no leaves it out, and ctrl+z undoes it"),
    ],
)
def test_what_is_no_reference_is_told_with_what_does_it(line: str, says: str, desk: Desk) -> None:
    desk.add(line)
    assert desk.state.message == f'"{line}": {says}.'
    assert not desk.state.chosen.references


@pytest.mark.parametrize("line", ["20 °C ± 0.1 °C", "my reference meter says 20 °C", "20 °C reads 20.4 °C"])
def test_what_is_proposed_is_a_reference(line: str, desk: Desk) -> None:
    desk.add(line)
    assert not desk.state.message_is_fault, desk.state.message
    assert len(desk.state.chosen.references) == 1


@pytest.mark.parametrize(
    ("line", "off"),
    [
        ("2 °C too high", -2.0),
        ("it's 2 °C too hot", -2.0),
        ("is 2 °C low", 2.0),
        ("half a degree too high", -0.5),
        ("a degree too low", 1.0),
        ("it is about 0.3 high", -0.3),
        ("reads 1.5 too low", 1.5),
        ("it is 0.5 °C too cold", 0.5),
        ("shows 36 °F too hot", -20.0),
    ],
)
def test_by_how_much_it_is_off_is_a_reference(line: str, off: float, desk: Desk) -> None:
    """From what is read, corrected as it is: the mean of the last seconds."""
    desk.add(line)
    assert not desk.state.message_is_fault, desk.state.message
    (reference,) = desk.state.chosen.references
    assert reference.aim == pytest.approx(reference.indicated + off, abs=1e-3)


@pytest.mark.parametrize("line", ["tare", "Tare it", "zero it", "set to zero", "zero here", "re-zero now"])
def test_a_tare_is_a_key(line: str, desk: Desk) -> None:
    """It is no reference: nobody knows that there is nothing on it."""
    desk.add(line)
    assert (
        desk.state.message
        == f'"{line}": z makes what is read at the cursor zero; a reference is a value that you know.'
    )
    assert not desk.state.chosen.references


@pytest.mark.parametrize("line", ["21 °C ± 0.2 °C", "1/16", "2e-3 °C", "21.5 C"])
def test_one_value_is_one(line: str, desk: Desk) -> None:
    desk.add(line)
    assert not desk.state.message_is_fault, desk.state.message
    assert len(desk.state.chosen.references) == 1


def test_pairs_by_chance_are_never_turned_round() -> None:
    """Every way to say a pair, with any numbers: the true one first, as 4 True takes it."""
    chance = random.Random(26)
    ways = ("{true} reads {seen}", "at {true} it shows {seen}", "{seen} should be {true}", "reads {seen} at {true}")
    ways += ("{seen} is really {true}", "it measured {seen} instead of {true}", "with {true} the sensor gives {seen}")
    for _ in range(500):
        true, seen = (
            f"{chance.uniform(-50, 500):.{chance.randint(0, 3)}f}{chance.choice(['', ' g', ' °C'])}" for _ in "ab"
        )
        assert references_plainly(chance.choice(ways).format(true=true, seen=seen)) == f"{true} = {seen}"


def test_a_weight_on_counts_asks_what_they_mean(tmp_path: Path) -> None:
    """Nothing says yet that they are a weight; what is proposed makes one of them, and then it is a reference."""
    rows = "\n".join(f"{k},{500_000 + k % 3}" for k in range(60))
    (tmp_path / "log.csv").write_text(f"t,counts\n{rows}\n")
    counts = open_desk(make_project(tmp_path / "log.csv", tmp_path / "log").folder)
    counts.open_step(Step.TRUE)
    counts.add("500 g")
    assert counts.state.message == (
        '"500 g": how counts become g is not stated yet; say what gives it, like load cell 5 kg, or 0.1 g per count; + in 3 '
        "Law takes it."
    )
    counts.open_step(Step.LAW)
    counts.add("0.1 g per count")
    counts.open_step(Step.TRUE)
    counts.add("50 kg")
    assert not counts.state.message_is_fault, counts.state.message
    counts.close()


@pytest.mark.parametrize("line", ["500 g = 800", "0 at 400, 500 g at 800", "800 is 500 g", "500 g reads 800"])
def test_points_of_what_is_no_weight_yet_are_a_law(line: str, tmp_path: Path) -> None:
    """Grams cannot correct counts; 3 Law makes grams of them."""
    (tmp_path / "bench.csv").write_text("time [s],adc\n" + "".join(f"{k},{500 + k % 7}\n" for k in range(50)))
    make_project(tmp_path / "bench.csv", tmp_path / "bench")
    desk = open_desk(tmp_path / "bench")
    desk.open_step(Step.TRUE)
    desk.add(line)
    assert desk.state.message == (
        f'"{line}": adc is not in g yet; + in 3 Law takes two points of a line, like 120 = 0 g, 870 = 500 g.'
    )
    desk.open_step(Step.LAW)
    desk.add("120 = 0 g, 870 = 500 g")
    assert str(desk.state.chosen.unit) == "g"
    desk.close()
