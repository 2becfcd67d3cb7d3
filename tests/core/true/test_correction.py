"""Corrections: fits worked by hand and against an oracle, residuals, and what is said about their limits."""

from __future__ import annotations

from fractions import Fraction

import numpy as np
import pytest
from hypothesis import assume, given
from hypothesis import strategies as st

from lesart.core.block import block_of
from lesart.core.notes import DOUBT, FAULT, REMARK
from lesart.core.true.correction import fit_correction, residuals, worst
from lesart.core.true.inspect import inspect_correction
from lesart.core.true.reference import Reference
from lesart.core.units import parse_unit

KG = parse_unit("kg")
PAIRS = [(0.0, 0.2), (10.0, 10.3), (20.0, 20.4), (40.0, 40.6)]


def references(pairs: list[tuple[float, float]]) -> list[Reference]:
    """From pairs of true and indicated."""
    return [Reference(true, indicated) for true, indicated in pairs]


def exact_line(pairs: list[tuple[float, float]]) -> tuple[float, float]:
    """Least squares in exact fractions: the slow oracle."""
    x = [Fraction(indicated) for _, indicated in pairs]
    y = [Fraction(true) for true, _ in pairs]
    n = len(pairs)
    gain = (n * sum(a * b for a, b in zip(x, y, strict=True)) - sum(x) * sum(y)) / (
        n * sum(a * a for a in x) - sum(x) ** 2
    )
    return float(gain), float((sum(y) - gain * sum(x)) / n)


def test_line_by_hand() -> None:
    """Two references fix a line through both: indicated 1 and 3 for true 0 and 4 is gain 2, offset −2."""
    correction = fit_correction("line", references([(0.0, 1.0), (4.0, 3.0)]), KG)
    assert (correction.gain, correction.offset, correction.covered) == (2.0, -2.0, (1.0, 3.0))


def test_line_against_the_oracle() -> None:
    """Four references, exact fractions and an independent library's least squares agree."""
    correction = fit_correction("line", references(PAIRS), KG)
    gain, offset = exact_line(PAIRS)
    assert (correction.gain, correction.offset) == (pytest.approx(gain, rel=1e-12), pytest.approx(offset, rel=1e-9))
    peer = np.polynomial.Polynomial.fit([b for _, b in PAIRS], [a for a, _ in PAIRS], 1).convert().coef
    assert (offset, gain) == (pytest.approx(peer[0]), pytest.approx(peer[1]))


@given(st.lists(st.tuples(st.floats(-100, 100), st.floats(-100, 100)), min_size=2, max_size=8), st.floats(-1e6, 1e6))
def test_line_far_from_zero(pairs: list[tuple[float, float]], shift: float) -> None:
    """Wherever the references lie, no digits are lost and the residuals add up to nothing."""
    moved = [(true + shift, indicated + shift) for true, indicated in pairs]
    spread = np.ptp([indicated for _, indicated in moved])
    assume(spread > 1e-3)
    try:
        correction = fit_correction("line", references(moved), KG)
    except ValueError as error:
        assert "gain" in str(error)
        assert exact_line(moved)[0] < 1e-9
        return
    assert correction.gain == pytest.approx(exact_line(moved)[0], rel=1e-6, abs=1e-6)
    left = [residual.after for residual in residuals(correction, references(moved))]
    assert abs(sum(left)) < 1e-6 * max(1.0, abs(shift))
    x = np.array([3.0 + shift])
    assert correction.inverse(correction.corrected(float(x[0]))) == pytest.approx(float(x[0]), rel=1e-9, abs=1e-6)


@pytest.mark.parametrize(
    ("kind", "pairs", "became", "gain", "offset"),
    [
        ("none", PAIRS, "none", 1.0, 0.0),
        ("line", [], "none", 1.0, 0.0),
        ("offset", PAIRS, "offset", 1.0, -0.375),
        ("line", [(10.0, 10.3)], "offset", 1.0, -0.3),
        ("line", [(10.0, 10.3), (10.0, 10.3)], "offset", 1.0, -0.3),
    ],
)
def test_never_more_unknowns_than_points(
    kind: str, pairs: list[tuple[float, float]], became: str, gain: float, offset: float
) -> None:
    """One point cannot fix both slope and offset, so it fixes the offset only."""
    correction = fit_correction(kind, references(pairs), KG)
    assert (correction.kind, correction.gain) == (became, gain)
    assert correction.offset == pytest.approx(offset)


def test_left_out_is_not_deleted() -> None:
    """A reference that is not used has residuals, but no say in the fit and none in the worst."""
    some = [*references(PAIRS), Reference(30.0, 99.0, used=False)]
    assert fit_correction("line", some, KG) == fit_correction("line", references(PAIRS), KG)
    found = residuals(fit_correction("line", some, KG), some)
    assert found[4].before == 69.0
    assert worst(found) is not None
    assert worst(found) < 0.2


def test_a_line_that_would_fall_is_refused() -> None:
    """True and indicated swapped in one pair would turn the reading round; the sentence says to look."""
    with pytest.raises(ValueError, match="true and which indicated"):
        fit_correction("line", references([(0.0, 5.0), (5.0, 0.0)]), KG)


@pytest.mark.parametrize(
    ("readings", "mark", "says"),
    [
        ([5.0, 30.0], None, ""),
        # An empty scale reads noise about its reference.
        ([-0.1, 30.0], None, ""),
        ([-0.6, 30.0], DOUBT, "stop at 0 kg"),
        ([5.0, 45.0], DOUBT, "reach 44"),
        ([5.0, 61.0], FAULT, "by 20 kg"),
        ([-30.0, 5.0], FAULT, "stop at"),
    ],
)
def test_extrapolation_is_noted(readings: list[float], mark: str | None, says: str) -> None:
    """Outside the references the correction is a guess: a doubt near them, a fault far off, with both numbers."""
    correction = fit_correction("line", references(PAIRS), KG)
    notes = inspect_correction("mass", correction, block_of(readings * 40))
    if mark is None:
        assert not notes
        return
    (note,) = notes
    assert (note.mark, note.step, note.channel, note.unit) == (mark, "true", "mass", "kg")
    assert says in note.text
    assert note.figure is not None
    assert note.limit is not None
    assert note.remedy


def test_a_few_absurd_samples_are_not_extrapolation() -> None:
    """What the filters will reject says nothing about the correction."""
    correction = fit_correction("line", references(PAIRS), KG)
    assert not inspect_correction("mass", correction, block_of([20.0] * 5000 + [9e9] * 3))


def test_without_references_nobody_knows() -> None:
    """A remark, not silence."""
    (note,) = inspect_correction("mass", fit_correction("none", [], KG), block_of([1.0]))
    assert note.mark == REMARK


@pytest.mark.parametrize(("values", "said"), [
    ((2.0, 18.0), None),
    ((-6.0, 18.0), "mass: readings reach −6 kg, references stop at 0 kg. The correction is extrapolated by 6 kg."),
    ((2.0, 29.0), "mass: readings reach 29 kg, references stop at 20 kg. The correction is extrapolated by 9 kg."),
    ((-6.0, 29.0), "mass: readings reach 29 kg, references stop at 20 kg. The correction is extrapolated by 9 kg."),
])  # fmt: skip
def test_readings_beyond_the_references_on_either_side(values: tuple[float, float], said: str | None) -> None:
    """The side that reaches further is spoken of; a scale that reads what is on it is as good as it stands."""
    correction = fit_correction("line", references([(0.0, 0.0), (10.0, 10.0), (20.0, 20.0)]), KG)
    found = [
        note.text
        for note in inspect_correction("mass", correction, block_of([each for each in values for _ in range(9)]))
    ]
    assert found == ([said] if said else [])


@given(st.decimals(-50, 50, places=3), st.decimals(1, 100, places=2), st.floats(-5, 5), st.floats(1e-3, 10))
def test_the_ends_of_two_references_are_those_that_were_typed(low, span, indicated: float, rise: float) -> None:  # type: ignore[no-untyped-def]
    """A line goes through both of them: what floats leave of an empty scale is no figure."""
    ends = float(low), float(low + span)
    pairs = [(ends[0], indicated), (ends[1], indicated + rise)]
    correction = fit_correction("line", references(pairs), KG)
    assert correction.known == pytest.approx(ends, abs=2e-9 * float(span))
    if low == 0:
        assert str(correction.known[0]) == "0.0"


@pytest.mark.parametrize("zero", [0.002379529, 0.1, 1 / 3, 7e-5, -0.3])
def test_references_stop_at_nothing_and_not_at_what_floats_leave(zero: float) -> None:
    correction = fit_correction("line", references([(0.0, zero), (10.0, zero + 0.20023897)]), KG)
    indicated = block_of(np.linspace(zero - 0.01, zero + 0.2, 500).tolist())
    (note,) = inspect_correction("mass", correction, indicated)
    assert "references stop at 0 kg. " in note.text
    assert note.limit == 0.0
