"""References as people say them: which value is the true one is taken from the words alone."""

from __future__ import annotations

import random

import pytest

from lesart.core.step import Step
from lesart.desk.desk import Desk
from lesart.desk.entries.aloud.references import references_plainly

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
]
AT_THE_CURSOR = [
    "21",
    "it is 21 °C",
    "should be 21",
    "this should read 21 C",
    "true value 21 °C",
    "in ice water 21 °C",
    "my reference thermometer says 21",
    "the other sensor reads 21 °C",
    "calibrate at 21 °C",
    "calibrated with 21",
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


@pytest.mark.parametrize("line", ["ice water", "in iced water", "zero", "melting ice", "nothing on it"])
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
    "line", ["0 -> 0.8", "0.8 is 0", "0 °C at 0.8 °C; 100 °C at 99.1 °C", "0 0.8", "between 0 and 100", "21 °C 22 °C"]
)
def test_words_that_do_not_say_which_is_true_are_refused(line: str, desk: Desk) -> None:
    desk.add(line)
    assert desk.state.message.startswith(f'"{line}" does not say which value is the true one; write ')
    assert not desk.state.chosen.references


@pytest.mark.parametrize("line", ["offset 0.5", "subtract 1.5 °C", "add 0.5", "gain 1.02", "multiply by 1.1"])
def test_a_correction_comes_of_references(line: str, desk: Desk) -> None:
    desk.add(line)
    assert desk.state.message.startswith(f'"{line}" is a correction, which comes of references; write ')
    assert not desk.state.chosen.references


@pytest.mark.parametrize(
    ("line", "off"),
    [
        ("2 °C too high", -2.0),
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


@pytest.mark.parametrize("line", ["tare", "Tare it", "zero it", "set to zero"])
def test_a_tare_is_a_key(line: str, desk: Desk) -> None:
    """It is no reference: nobody knows that there is nothing on it."""
    desk.add(line)
    assert desk.state.message == f'"{line}": z takes what is read at the cursor for nothing; a reference is known.'
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
