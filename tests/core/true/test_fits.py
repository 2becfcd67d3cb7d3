"""Every kind of fit against an oracle, weights, leave-one-out by brute force, far points, up against down, notes."""

from __future__ import annotations

import math
from dataclasses import replace
from datetime import date

import numpy as np
import pytest
import scipy
from hypothesis import assume, given
from hypothesis import strategies as st

from lesart.core.block import block_of
from lesart.core.notes import DOUBT, REMARK
from lesart.core.true.correction import FITS, Correction, fit_correction, residuals
from lesart.core.true.inspect import inspect_age, inspect_references
from lesart.core.true.reference import Reference, spread_and_drift
from lesart.core.true.trust import far_off, hysteresis, judge, left_by, left_out_error
from lesart.core.units import parse_unit

KG = parse_unit("kg")
KEY = ("channels", "c", "true")
POINTS = [(0.0, 0.2), (10.0, 10.5), (20.0, 20.6), (30.0, 30.9), (40.0, 41.4)]


def references(
    pairs: list[tuple[float, float]], spreads: list[float] | None = None, counts: list[int] | None = None
) -> list[Reference]:
    """From pairs of true and indicated."""
    return [
        Reference(true, indicated, counts[place] if counts else 50, spread=spreads[place] if spreads else 0.0)
        for place, (true, indicated) in enumerate(pairs)
    ]


def test_a_gain_goes_through_nothing() -> None:
    """2 for 1 and 4 for 2 is a half; least squares for others, by hand: Σxy ÷ Σx²."""
    assert fit_correction("gain", references([(1.0, 2.0), (2.0, 4.0)]), KG).gain == pytest.approx(0.5)
    found = fit_correction("gain", references([(1.0, 2.0), (2.0, 3.0)]), KG)
    assert (found.gain, found.offset) == (pytest.approx((2 * 1 + 3 * 2) / (4 + 9)), 0.0)
    with pytest.raises(ValueError, match="away from zero"):
        fit_correction("gain", references([(1.0, 0.0)]), KG)


@pytest.mark.parametrize("degree", [2, 3, 4])
def test_a_polynomial_against_another_library(degree: int) -> None:
    """The same least squares, with and without weights."""
    x, y = np.array([b for _, b in POINTS]), np.array([a for a, _ in POINTS])
    for spreads in (None, [0.01, 0.02, 0.05, 0.02, 0.01]):
        found = fit_correction("polynomial", references(POINTS, spreads), KG, degree)
        weight = None if spreads is None else 1 / np.array(spreads)
        peer = np.polynomial.Polynomial.fit(x, y, degree, w=weight)
        for at in np.linspace(x.min(), x.max(), 23).tolist():
            assert found.corrected(at) == pytest.approx(float(peer(at)), abs=1e-9)
        # Beyond its points it goes on as straight as it ends.
        end, steep = float(peer(x.max())), float(peer.deriv()(x.max()))
        assert found.corrected(x.max() + 7) == pytest.approx(end + 7 * steep)
        for value in (-3.0, 5.0, 39.0, 60.0):
            assert found.inverse(found.corrected(value)) == pytest.approx(value, abs=1e-9)


def test_a_line_is_weighted_by_how_well_each_mean_is_known() -> None:
    """Against an optimiser that is told the standard deviations of the means: of n samples the spread ÷ √n."""
    spreads, counts = [0.01, 0.5, 0.02, 0.5, 0.01], [8, 1000, 50, 200, 12]
    found = fit_correction("line", references(POINTS, spreads, counts), KG)
    x, y = np.array([b for _, b in POINTS]), np.array([a for a, _ in POINTS])
    sigma = np.array(spreads) / np.sqrt(counts)
    (gain, offset), _ = scipy.optimize.curve_fit(lambda t, a, b: a * t + b, x, y, sigma=sigma)
    assert (found.gain, found.offset) == (pytest.approx(gain, rel=1e-6), pytest.approx(offset, abs=1e-5))
    slope, intercept = np.polyfit(x, y, 1, w=1 / sigma)
    assert (found.gain, found.offset) == (pytest.approx(slope, rel=1e-9), pytest.approx(intercept, abs=1e-9))


def test_a_reference_without_a_spread_counts_as_the_middle_one() -> None:
    """Of the others; it switches nobody's weight off. Where none has a spread all count alike."""
    spreads, counts = [0.01, 0.5, 0.02, 0.5, 0.0], [8, 1000, 50, 200, 3]
    variances = [spread**2 / count for spread, count in zip(spreads, counts, strict=True) if spread]
    middle = sorted(variances)[1] / 2 + sorted(variances)[2] / 2
    x, y = np.array([b for _, b in POINTS]), np.array([a for a, _ in POINTS])
    slope, intercept = np.polyfit(x, y, 1, w=1 / np.sqrt([*variances, middle]))
    found = fit_correction("line", references(POINTS, spreads, counts), KG)
    assert (found.gain, found.offset) == (pytest.approx(slope, rel=1e-9), pytest.approx(intercept, abs=1e-9))
    plain = np.polyfit(x, y, 1)
    unweighted = fit_correction("line", references(POINTS, None, counts), KG)
    assert (unweighted.gain, unweighted.offset) == (pytest.approx(plain[0]), pytest.approx(plain[1]))


def test_a_line_is_weighted_by_how_well_the_values_themselves_are_known() -> None:
    """Against an optimiser that is told both: a known value is even between its ends, so its deviation is ÷ √3."""
    spreads, counts, tolerances = [0.01, 0.5, 0.02, 0.5, 0.01], [8, 1000, 50, 200, 12], [0.001, 0.002, 0.1, 0.0, 0.005]
    some = [
        replace(each, tolerance=tolerance)
        for each, tolerance in zip(references(POINTS, spreads, counts), tolerances, strict=True)
    ]
    found = fit_correction("line", some, KG)
    x, y = np.array([b for _, b in POINTS]), np.array([a for a, _ in POINTS])
    # Nobody said how well the fourth is known: as the middle one of the others, between 2 g and 5 g by their squares.
    known = np.where(np.array(tolerances) > 0, tolerances, math.sqrt((0.002**2 + 0.005**2) / 2))
    sigma = np.sqrt(known**2 / 3 + np.array(spreads) ** 2 / np.array(counts))
    (gain, offset), _ = scipy.optimize.curve_fit(lambda t, a, b: a * t + b, x, y, sigma=sigma)
    assert (found.gain, found.offset) == (pytest.approx(gain, rel=1e-6), pytest.approx(offset, abs=1e-5))


@pytest.mark.parametrize(
    ("tolerances", "spreads", "closest"),
    [
        # Two values known to a gram beside two known to 100 g: the line is as good as the good ones let it be.
        ((0.001, 0.001, 0.1, 0.001, 0.1), (0.003,) * 5, 0.0015),
        # Two taken in still air beside three in wind: what is known to 5 g is no better for having been quiet.
        ((0.005,) * 5, (0.03, 0.0003, 0.0003, 0.03, 0.03), 0.004),
    ],
)
def test_against_a_truth_that_is_known(
    tolerances: tuple[float, ...], spreads: tuple[float, ...], closest: float
) -> None:
    """500 scales of random gain and zero, each calibrated: how far readings are off, and how often by more than
    said."""
    random = np.random.default_rng(26)
    off, told = [], []
    places = np.linspace(0.0, 10.0, 11)
    for _ in range(500):
        gain, zero = 1 + random.normal() * 0.02, random.normal() * 0.3
        some = []
        for nominal, tolerance, spread in zip((0.0, 2.5, 5.0, 7.5, 10.0), tolerances, spreads, strict=True):
            shown = gain * (nominal + random.uniform(-tolerance, tolerance)) + zero + random.normal(0, spread, 20)
            some.append(Reference(nominal, shown.mean(), 20, tolerance=tolerance, spread=shown.std(ddof=1)))
        line = fit_correction("line", some, KG)
        off.append((gain * places + zero) * line.gain + line.offset - places)
        told.append(left_by(line, some) or 0.0)
    missed = np.abs(np.array(off))
    assert float(np.sqrt(np.mean(missed**2))) < closest
    assert float(np.mean(missed <= np.array(told)[:, None])) > 0.95
    # And it says no more than is so: within a few times what they are off by.
    assert float(np.median(told)) < 6 * closest


def test_curves_go_through_every_point() -> None:
    """A piecewise line is an interpolation; the cubic agrees with another library's between the ends' pieces."""
    x, y = np.array([b for _, b in POINTS]), np.array([a for a, _ in POINTS])
    line = fit_correction("piecewise line", references(POINTS), KG)
    cubic = fit_correction("monotone cubic", references(POINTS), KG)
    peer = scipy.interpolate.PchipInterpolator(x, y)
    for at in np.linspace(x[0], x[-1], 41).tolist():
        assert line.corrected(at) == pytest.approx(float(np.interp(at, x, y)))
        if x[1] <= at <= x[-2]:
            assert cubic.corrected(at) == pytest.approx(float(peer(at)), abs=1e-12)
    for true, indicated in POINTS:
        assert cubic.corrected(indicated) == pytest.approx(true)
    assert line.corrected(x[-1] + 3) == pytest.approx(y[-1] + 3 * (y[-1] - y[-2]) / (x[-1] - x[-2]))
    double = fit_correction("piecewise line", references([*POINTS, (10.4, 10.5)]), KG)
    assert double.corrected(10.5) == pytest.approx(10.2)  # two at one place count as their mean


@pytest.mark.parametrize(
    ("kind", "pairs", "says"),
    [
        ("piecewise line", [(0.0, 0.0), (5.0, 1.0), (4.0, 2.0)], "do not rise after 1"),
        ("polynomial", [(0.0, 0.0), (5.0, 5.0), (1.0, 10.0)], "turns back"),
        ("gain", [(1.0, -2.0)], "gain of −0.5"),
    ],
)
def test_what_could_not_be_turned_back(kind: str, pairs: list[tuple[float, float]], says: str) -> None:
    """Each is refused with what to do."""
    with pytest.raises(ValueError, match=says):
        fit_correction(kind, references(pairs), KG)


@pytest.mark.parametrize(
    ("kind", "count", "became"),
    [
        ("polynomial", 2, "line"),
        ("monotone cubic", 2, "piecewise line"),
        ("piecewise line", 1, "offset"),
        ("polynomial", 1, "offset"),
    ],
)
def test_too_few_points_for_a_fit(kind: str, count: int, became: str) -> None:
    """It falls back to the next simpler one that they carry."""
    assert fit_correction(kind, references(POINTS[:count]), KG).kind == became


PAIRS = st.lists(
    st.tuples(st.floats(0, 100), st.floats(-0.5, 0.5)), min_size=4, max_size=7, unique_by=lambda p: round(p[0])
)


@given(pairs=PAIRS)
def test_leave_one_out_by_brute_force(pairs: list[tuple[float, float]]) -> None:
    """The line through all but one, by another library, at the one; for each in turn."""
    assume(np.ptp([true for true, _ in pairs]) > 5)
    used = references([(true, true * 1.01 + error) for true, error in pairs])
    squares = []
    for place, left in enumerate(used):
        others = [each for index, each in enumerate(used) if index != place]
        x = [each.indicated for each in others]
        assume(np.ptp(x) > 2)
        line = np.polynomial.Polynomial.fit(x, [each.true for each in others], 1)
        assume(line.convert().coef[1] > 0.01)
        squares.append((float(line(left.indicated)) - left.true) ** 2)
    assert left_out_error("line", used, KG) == pytest.approx(math.sqrt(np.mean(squares)), rel=1e-6, abs=1e-9)


@pytest.mark.parametrize(
    ("pairs", "proposed"),
    [
        ([(v, v + 0.3 + e) for v, e in ((0, 0.01), (10, -0.01), (20, 0.008), (30, -0.006), (40, 0.004))], "offset"),
        ([(v, v * 1.02 + e) for v, e in ((5, 0.01), (10, -0.01), (20, 0.008), (30, -0.006), (40, 0.004))], "gain"),
        ([(v, v * 1.02 + 0.3 + e) for v, e in ((0, 0.01), (10, -0.01), (20, 0.008), (30, -0.006))], "line"),
        ([(v, v + 0.002 * v * v) for v in (0.0, 10.0, 20.0, 30.0, 40.0, 50.0)], "polynomial"),
    ],
)
def test_the_simplest_that_is_not_worse(pairs: list[tuple[float, float]], proposed: str) -> None:
    """What the points were made by, with a little error on them, is what is proposed."""
    found = judge(references(pairs), KG)
    assert [each.kind for each in found] == list(FITS)
    assert [each.kind for each in found if each.is_proposed] == [proposed]


def test_errors_of_a_fit() -> None:
    """Worst and RMS are those of the residuals; too few points are said."""
    found = {each.kind: each for each in judge(references(POINTS), KG)}
    after = [each.after for each in residuals(fit_correction("line", references(POINTS), KG), references(POINTS))]
    assert found["line"].worst == pytest.approx(max(map(abs, after)))
    assert found["line"].rms == pytest.approx(math.sqrt(np.mean(np.square(after))))
    assert found["none"].rms == pytest.approx(math.sqrt(np.mean([(b - a) ** 2 for a, b in POINTS])))
    few = {each.kind: each for each in judge(references(POINTS[:1]), KG)}
    assert few["line"].why == "one reference is too few"
    assert math.isnan(few["line"].left_out)


def test_a_far_point_is_found_and_only_that() -> None:
    """A kilogram read for another; a little scatter is none."""
    pairs = [(float(v), v * 1.01 + e) for v, e in ((0, 0.01), (10, -0.01), (20, 0.008), (30, -0.006), (40, 0.004))]
    assert far_off(references(pairs), KG) is None
    pairs[2] = (20.0, 21.2)
    found = far_off(references(pairs), KG)
    assert found is not None
    assert found.reference.true == 20.0
    assert abs(found.after) == pytest.approx(1.0, abs=0.05)
    # Four tell which of them it is; three do not.
    four = far_off(references(pairs[:4]), KG)
    assert four is not None
    assert four.reference.true == 20.0
    assert far_off(references(pairs[:3]), KG) is None


def test_what_the_known_values_allow_is_not_far() -> None:
    """Four marks of a ruler, each good to a millimetre: 0.2 mm is nothing, and 4 mm is."""
    marks = [(0.20, 0.2201), (0.15, 0.1701), (0.10, 0.1200), (0.05, 0.0703)]
    ruler = [replace(each, tolerance=0.001) for each in references(marks)]
    metre = parse_unit("m")
    assert far_off(references(marks), metre) is not None
    assert far_off(ruler, metre) is None
    slipped = [*ruler[:3], replace(ruler[3], indicated=0.0743)]
    found = far_off(slipped, metre)
    assert found is not None
    assert found.reference.true == 0.05


def test_an_offset_at_one_value_takes_the_slope_on_trust() -> None:
    """At several it does not: there it shows in what is left."""
    for values, is_said in (((20.0, 20.0), True), ((20.0, 15.0), False), ((20.0, 15.0, 10.0, 5.0), False)):
        found = references([(value, value + 0.3) for value in values])
        notes = inspect_references("c", fit_correction("offset", found, KG), found, 0.0, KEY)
        assert any("on trust" in note.text for note in notes) is is_said


def test_up_against_down() -> None:
    """Errors of 0.1 at 10 going up and 0.4 coming down: 0.3 apart, there."""
    up = [Reference(true, true + error, way="up") for true, error in ((0.0, 0.0), (10.0, 0.1), (20.0, 0.2))]
    down = [Reference(true, true + error, way="down") for true, error in ((20.0, 0.2), (10.0, 0.4), (0.0, 0.0))]
    assert hysteresis([*up, *down]) == (pytest.approx(-0.3), 10.0)
    assert hysteresis(up) is None
    # The place is where the ways are furthest apart, not where the errors are largest: here at 0, and at 20 they agree.
    lower = [Reference(true, true + error, way="up") for true, error in ((0.0, 0.0), (10.0, 0.1), (20.0, 0.5))]
    upper = [Reference(true, true + error, way="down") for true, error in ((20.0, 0.5), (10.0, 0.3), (0.0, 0.25))]
    assert hysteresis([*lower, *upper]) == (pytest.approx(-0.25), 0.0)


def test_spread_and_drift() -> None:
    """Scatter about a slope of 0.2 a second for ten seconds: it moved by 2, and the scatter is not the slope's."""
    random = np.random.default_rng(5)
    rising = block_of(0.2 * np.arange(101) / 10 + random.normal(0, 0.05, 101), 10.0)
    spread, drift = spread_and_drift(rising)
    assert spread == pytest.approx(0.05, rel=0.2)
    assert drift == pytest.approx(2.0, abs=0.06)
    assert not Reference(1.0, 1.0, 101, spread=spread, drift=drift).has_settled
    still = spread_and_drift(block_of(random.normal(3, 0.05, 101), 10.0))
    assert Reference(1.0, 1.0, 101, spread=still[0], drift=still[1]).has_settled
    assert spread_and_drift(block_of([1.0, 2.0])) == (0.0, 0.0)


def test_a_tare_is_taken_off_behind_the_fit() -> None:
    """Readings and their inverse know of it; residuals of references do not."""
    plain = fit_correction("line", references([(0.0, 1.0), (4.0, 3.0)]), KG)
    tared = Correction(plain.kind, plain.gain, plain.offset, plain.covered, KG, tare=0.5)
    assert tared.corrected(3.0) == pytest.approx(3.5)
    assert tared.inverse(3.5) == pytest.approx(3.0)
    assert float(tared.run(None, block_of([3.0]))[1].x[0]) == pytest.approx(3.5)
    assert [each.after for each in residuals(tared, references([(4.0, 3.0)]))] == [pytest.approx(0.0)]


def said(kind: str, some: list[Reference], limit: float = 0.0) -> list[tuple[str, str, float | None]]:
    """Mark, text and figure of each note."""
    notes = inspect_references("c", fit_correction(kind, some, KG), some, limit, KEY)
    return [(note.mark, note.text, note.figure) for note in notes]


def test_notes_on_references() -> None:
    """Each says one thing with its figure, and good references none."""
    good = references([(float(v), v * 1.01 + e) for v, e in ((0, 0.01), (10, -0.01), (20, 0.008), (30, -0.006))])
    assert said("line", good) == []
    ((mark, text, _),) = said("line", references(POINTS[:2]))
    assert (mark, "two references fix a line exactly" in text) == (REMARK, True)
    moving = [*good, Reference(40.0, 40.4, 50, spread=0.02, drift=0.3)]
    ((mark, text, figure),) = said("line", moving)
    assert (mark, figure) == (DOUBT, pytest.approx(0.3))
    assert "the reference of 40 kg had not settled: it moved by 0.3 kg" in text
    ((mark, text, figure),) = said("offset", references([(0.0, 0.0), (10.0, 10.4), (20.0, 20.8)]), limit=0.3)[:1]
    assert (mark, figure) == (DOUBT, pytest.approx(0.4))
    assert "the fit leaves 0.4 kg; 0.3 kg may be left" in text
    known = [Reference(v, v + e, 50, tolerance=0.005) for v, e in ((0.0, 0.0), (10.0, 0.02), (20.0, 0.0), (30.0, 0.02))]
    assert any("0.005 kg it is known to" in text for _, text, _ in said("line", known))


def test_a_fit_that_yields_too_much_is_told() -> None:
    """Six points of a line with scatter: a polynomial of the fourth degree errs where it was not asked."""
    random = np.random.default_rng(11)
    some = references([(v, v * 1.01 + float(random.normal(0, 0.05))) for v in (0.0, 8.0, 16.0, 24.0, 32.0, 40.0)])
    notes = inspect_references("c", fit_correction("polynomial", some, KG, 4), some, 0.0, KEY)
    (note,) = [note for note in notes if "left out is missed" in note.text]
    assert note.mend[0].key == (*KEY, "kind")
    assert note.mend[0].value in ("gain", "line")
    assert note.figure is not None
    assert note.limit is not None
    assert note.figure > 2 * note.limit


def test_references_grow_old() -> None:
    """The newest one counts; without a limit or a day nobody can say."""
    today = date(2026, 5, 14).toordinal()
    old = [Reference(1.0, 1.0, day=date(2026, 1, 1).toordinal()), Reference(2.0, 2.0, day=date(2026, 3, 5).toordinal())]
    (note,) = inspect_age("c", old, 60.0, today, KEY)
    assert (note.mark, note.figure, note.limit) == (DOUBT, 70.0, 60.0)
    assert "its newest reference is 70 days old; they are valid for 60" in note.text
    assert inspect_age("c", old, 70.0, today, KEY) == []
    assert inspect_age("c", old, 0.0, today, KEY) == []
    assert inspect_age("c", [Reference(1.0, 1.0)], 60.0, today, KEY) == []
