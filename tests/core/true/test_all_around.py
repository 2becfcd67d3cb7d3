"""References of what comes round: a vane that was mounted with a turn, and stands over north when it reads 340°."""

from __future__ import annotations

import math
from collections.abc import Sequence

import numpy as np
import pytest
from hypothesis import assume, given
from hypothesis import strategies as st

from lesart.core.block import block_of
from lesart.core.calm.circular import OntoCircle
from lesart.core.notes import DOUBT
from lesart.core.true.correction import FITS, fit_correction, residuals
from lesart.core.true.inspect import inspect_correction, inspect_references
from lesart.core.true.reference import Reference
from lesart.core.true.trust import far_off, hysteresis, left_by
from lesart.core.units import parse_unit

DEGREE = parse_unit("°")
KEY = ("channels", "vane", "true")


def references(*pairs: tuple[float, float], turn: float = 360.0) -> list[Reference]:
    """Of pairs of true and indicated."""
    return [Reference(true, indicated, turn=turn) for true, indicated in pairs]


@pytest.mark.parametrize(
    ("true", "indicated", "aim"),
    [(0, 340, 360), (350, 10, -10), (180, 163, 180), (0, 0, 0), (10, 725, 730), (359, -700, -721)],
)
def test_a_fit_goes_to_the_nearest_turn_of_what_is_true(true: float, indicated: float, aim: float) -> None:
    assert Reference(true, indicated, turn=360.0).aim == aim
    assert Reference(true, indicated).aim == true


def test_references_on_both_sides_of_the_seam_agree() -> None:
    """20° and 17° further on; by plain numbers it would be −340° and 17°, and their mean a vane that looks south."""
    found = references((0, 340), (180, 163))
    correction = fit_correction("offset", found, DEGREE)
    assert correction.offset == pytest.approx(18.5)
    assert [each.before for each in residuals(correction, found)] == pytest.approx([-20, -17])
    assert [each.after for each in residuals(correction, found)] == pytest.approx([-1.5, 1.5])
    assert left_by(correction, found) == pytest.approx(2 * 3.0)  # each missed by 3° where it was not asked about


@given(
    st.floats(-180, 180),
    st.lists(st.tuples(st.floats(0, 359.9), st.integers(-2, 2)), min_size=1, max_size=6),
    st.sampled_from(["offset", "line"]),
)
def test_turns_that_someone_adds_to_what_is_true_change_nothing(
    off: float, places: list[tuple[float, int]], kind: str
) -> None:
    given_once = references(*(((at + off) % 360, at) for at, _ in places))
    given_over = references(*(((at + off) % 360 + 360 * turns, at) for at, turns in places))
    if abs(abs(off) - 180) < 1e-6:  # as far one way as the other
        return
    assume(kind == "offset" or not 0 < np.ptp([at for at, _ in places]) < 1e-3)
    once, over = (fit_correction(kind, each, DEGREE) for each in (given_once, given_over))
    assert once.fitted(100.0) == pytest.approx(over.fitted(100.0), abs=1e-6)
    assert once.fitted(100.0) == pytest.approx(100.0 + off, abs=1e-3 if kind == "line" else 1e-6)


def test_one_that_is_far_off_is_found_over_the_seam_too() -> None:
    good = [
        ((at + 30.0 + wrong) % 360, at) for at, wrong in ((10, 0.3), (100, -0.2), (200, 0.1), (350, -0.3), (280, 0))
    ]
    assert far_off(references(*good), DEGREE) is None
    missed = far_off(references(*good, (100, 150)), DEGREE)
    assert missed is not None
    assert missed.reference.indicated == 150


def test_up_and_down_are_compared_the_shorter_way() -> None:
    ways = [("up", 20, 0.0), ("up", 200, 0.0), ("down", 20, 2.0), ("down", 200, 2.0)]
    found = [Reference(at, (at - 40 + late) % 360, way=way, turn=360.0) for way, at, late in ways]
    assert hysteresis(found) == pytest.approx((-2.0, 20.0))


def notes_on(kind: str, pairs: Sequence[tuple[float, float]], turn: float) -> list[str]:
    """What is said of a fit through these, over readings all around."""
    found = references(*pairs, turn=turn)
    correction = fit_correction(kind, found, DEGREE)
    readings = block_of(np.linspace(0.0, 359.0, 360))
    return [
        each.text
        for each in (
            *inspect_correction("vane", correction, readings),
            *inspect_references("vane", correction, found, 0.0, KEY),
        )
        if each.mark != "·"
    ]


@pytest.mark.parametrize("kind", [each for each in FITS if each != "none"])
def test_a_fit_that_comes_back_to_another_place_is_told(kind: str) -> None:
    """Through 20° and 197° it is 19.55 … further by 3 in 177, and all around by 6.1°."""
    pairs = [(0, 340), (180, 163), (90, 72)]
    found = references(*pairs)
    correction = fit_correction(kind, found, DEGREE)
    notes = [each for each in inspect_references("vane", correction, found, 0.0, KEY) if "wraps round" in each.text]
    jump = abs(correction.fitted(433.0) - correction.fitted(73.0) - 360.0)
    assert len(notes) == (jump > 0.36)
    if kind == "offset":
        assert not notes
    for note in notes:
        assert note.mark == DOUBT
        assert note.figure == pytest.approx(jump, abs=0.5)
        assert [(each.key, each.value) for each in note.mend] == [((*KEY, "kind"), "offset")]


def test_the_jump_of_a_line_is_its_slope_all_around() -> None:
    (said,) = notes_on("line", [(0, 340), (180, 163)], 360.0)[-1:]
    assert said == "vane: it wraps round, and this fit, line, does not: the reading jumps by 6.1° where it does."


def test_nothing_lies_beyond_references_all_around() -> None:
    one = [(0.0, 340.0)]
    assert notes_on("offset", one, 360.0) == []
    assert any("extrapolated" in each for each in notes_on("offset", one, 0.0))
    assert fit_correction("offset", references(*one), DEGREE).is_all_around
    assert not fit_correction("line", references((0, 340), (180, 163)), DEGREE).is_all_around


@given(st.floats(-1e4, 1e4), st.sampled_from([(0.0, 0.0), (0.0, 18.5), (-180.0, -200.25), (90.0, 90.0)]))
def test_the_way_back_from_a_circle_leads_to_what_could_have_come(x: float, ends: tuple[float, float]) -> None:
    lowest, begins = ends
    stage = OntoCircle(DEGREE, lowest, 360.0, begins)
    (there,) = stage.run(None, block_of([x]))[1].x.tolist()
    assert lowest <= there < lowest + 360.0
    assert math.cos(math.radians(there - x)) == pytest.approx(1.0, abs=1e-12)
    back = stage.inverse(there)
    assert begins <= back < begins + 360.0
    assert stage.run(None, block_of([back]))[1].x[0] == pytest.approx(there, abs=1e-9)
    assert stage.slope(x) == 1.0


@pytest.mark.parametrize("kind", [each for each in FITS if each != "none"])
def test_no_two_notes_ask_for_each_other_s_fit(kind: str) -> None:
    """Of a vane whose travel is read a tenth short a line fits best, and does not close: an offset is what is left."""
    found = references(*((at, at * 0.9 + 3.0) for at in (0.0, 60.0, 120.0, 180.0, 240.0, 300.0)))
    asked = {kind}
    while True:
        correction = fit_correction(kind, found, DEGREE)
        mends = [mend for note in inspect_references("vane", correction, found, 0.0, KEY) for mend in note.mend]
        wanted = {str(mend.value) for mend in mends if mend.key == (*KEY, "kind")}
        if not wanted:
            break
        (kind,) = wanted
        assert kind not in asked
        asked.add(kind)
    assert kind == "offset"
