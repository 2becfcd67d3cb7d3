"""A correction: the fit through references, from quantity to quantity."""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import replace
from typing import Protocol

import numpy as np

from lesart.core.block import Block, Floats
from lesart.core.dataclass_later import dataclass
from lesart.core.law.curve import Table
from lesart.core.quantity import plain_number
from lesart.core.ranked import distinct, median
from lesart.core.true.extrapolated import Bent
from lesart.core.true.reference import Reference
from lesart.core.units import Unit

FIT_RULES = {
    "none": "the reading as the laws give it",
    "offset": "true = indicated + b, b the weighted mean error; used where the references cannot give two unknowns",
    "gain": "true = a · indicated, a = Σw·x·y ÷ Σw·x²; zero stays where it is",
    "line": "true = a · indicated + b, weighted least squares about the weighted means",
    "polynomial": "of degree 2 to 4 in the indication scaled to −1 … 1 over the references; it has to rise throughout",
    "piecewise line": "straight from reference to reference, several at one place as their weighted mean",
    "monotone cubic": "through the same points without overshooting: slopes by the weighted harmonic mean of the "
    "neighbouring ones",
}
"""Every fit and its formula; x is indicated, y true, w the weight."""
FITS = tuple(FIT_RULES)
"""Kinds of fit, from the simplest to the most flexible."""
DEGREES = 2, 4
LOST_IN = 1e-12
"""Of the magnitude of true values: references that differ by less are equal but for rounding."""
STEPS = 65
"""Points at which a polynomial is checked to be monotone."""


class Curve(Protocol):
    """A fit that is not a straight line: from quantity to quantity, rising, float64 arrays of one shape."""

    def forward(self, x: Floats) -> Floats: ...
    def inverse(self, y: Floats) -> Floats: ...
    def slope(self, x: Floats) -> Floats: ...


@dataclass(frozen=True)
class Correction:
    """corrected = gain × indicated + offset, or by ``curve``, known between the least and greatest reference.

    ``covered`` is the range of indicated values between the references; None without references. ``points`` is the
    number used. ``tare`` is subtracted after the fit: references are independent of it. ``turn`` is a full turn of a
    circular reading, in its unit; 0 elsewhere.
    """

    kind: str
    gain: float
    offset: float
    covered: tuple[float, float] | None
    unit_in: Unit
    curve: Curve | None = None
    points: int = 0
    tare: float = 0.0
    turn: float = 0.0
    memory_samples: int = 0
    pointwise: None = None

    @property
    def unit_out(self) -> Unit:
        """A correction stays in the reading's unit."""
        return self.unit_in

    @property
    def is_all_around(self) -> bool:
        """True on a circle where the correction is a rotation: there is nothing beyond the references."""
        return bool(self.turn) and self.kind == "offset"

    @property
    def degree(self) -> int:
        """Degree of a polynomial; the default one for other fits."""
        return len(self.curve.coefficients) - 1 if isinstance(self.curve, Bent) else DEGREES[0]

    def initial(self) -> None:
        """It keeps nothing."""

    def run(self, state: None, block: Block) -> tuple[None, Block]:
        """Corrected values, marks unchanged."""
        if self.curve is not None:
            return None, block.with_values(self.curve.forward(block.x) - self.tare)
        return None, block.with_values(block.x * self.gain + (self.offset - self.tare))

    def corrected(self, indicated: float) -> float:
        """One value corrected, the tare subtracted."""
        return self.fitted(indicated) - self.tare

    def fitted(self, indicated: float) -> float:
        """One value corrected by the fit alone."""
        if self.curve is not None:
            return float(self.curve.forward(np.array([indicated]))[0])
        return indicated * self.gain + self.offset

    @property
    def known(self) -> tuple[float, float]:
        """The least and the greatest value that the references vouch for, in the reading's unit.

        To a billionth of what they span: below that stands only what floats leave, such as −4e-16 kg for an empty
        scale. Raises ValueError without references.
        """
        if self.covered is None:
            raise ValueError("no reference says from where to where this correction is known")
        low, high = (self.fitted(edge) for edge in self.covered)
        span = abs(high - low) or max(abs(low), abs(high)) or 1.0
        if not math.isfinite(span):
            return low, high
        places = 9 - math.floor(math.log10(span))
        return round(low, places) + 0.0, round(high, places) + 0.0

    def slope(self, x: float) -> float:
        """Corrected per indicated value."""
        return self.gain if self.curve is None else float(self.curve.slope(np.array([x]))[0])

    def inverse(self, y: float) -> float:
        """The indication that is corrected to ``y``."""
        y = y + self.tare
        if self.curve is not None:
            return float(self.curve.inverse(np.array([y]))[0])
        return (y - self.offset) / self.gain


@dataclass(frozen=True)
class Residual:
    """Error of one reference before and after the correction: indicated − true and corrected − true."""

    reference: Reference
    before: float
    after: float


def fit_correction(kind: str, references: Sequence[Reference], unit: Unit, degree: int = 2) -> Correction:
    """Least squares of true on indicated, each weighted by 1 ÷ (tolerance² ÷ 3 + spread² ÷ count).

    That is the inverse variance of the known value, even between its ends, and of the mean beside it. A reference
    without a tolerance, or without a spread, has the middle one of the others; where none has either all count alike.

    What comes round is fitted to the nearest turn of its true values, see ``Reference.aim``.

    Kinds: ``none``; ``offset``, the mean error; ``gain``, a line through zero; ``line``; ``polynomial`` of ``degree``;
    ``piecewise line`` and ``monotone cubic`` through all points, with points at the same indication averaged. A fit
    with fewer distinct indications than unknowns falls back to the next simpler one, and an offset without references
    to none: one point cannot give two unknowns. Raises ValueError with a clause where it would not rise.
    """
    used = [reference for reference in references if reference.used]
    if kind == "none" or not used:
        return Correction("none", 1.0, 0.0, None, unit)
    return replace(_fitted(kind, used, unit, degree), turn=used[0].turn)


def _fitted(kind: str, used: Sequence[Reference], unit: Unit, degree: int) -> Correction:
    points = _points(used)
    places = len(distinct(points.indicated))
    if kind == "gain":
        return _gain(points, unit)
    if kind == "polynomial" and places > degree:
        return _polynomial(points, unit, degree)
    if kind == "monotone cubic" and places > 2:
        return _through(points, unit, is_cubic=True)
    if kind in ("piecewise line", "monotone cubic") and places > 1:
        return _through(points, unit, is_cubic=False)
    if kind == "offset" or places == 1:
        offset = float(np.average(points.true - points.indicated, weights=points.weight))
        return Correction("offset", 1.0, offset, points.covered, unit, points=len(used))
    return _line(points, unit)


@dataclass(frozen=True, eq=False)
class _Points:
    """The references used, each array of shape (n,)."""

    indicated: Floats
    true: Floats
    weight: Floats

    @property
    def covered(self) -> tuple[float, float]:
        return float(self.indicated.min()), float(self.indicated.max())


def _points(used: Sequence[Reference]) -> _Points:
    return _Points(
        np.array([reference.indicated for reference in used]),
        np.array([reference.aim for reference in used]),
        weights_of(used),
    )


def weights_of(references: Sequence[Reference]) -> Floats:
    """Weight of each reference by ``fit_correction``'s rule, 1 for the best known; float64 of shape (n,)."""
    known = _or_middle([each.tolerance**2 / 3.0 for each in references])
    variance = known + _or_middle([each.spread**2 / each.count for each in references])
    return variance.min() / variance if variance.all() else np.ones(len(variance))


def _or_middle(variances: Sequence[float]) -> Floats:
    """The values with those not stated, which are 0, replaced by the median of the others."""
    known = np.array(variances)
    said = known > 0
    return np.where(said, known, median(known[said])) if said.any() else known


def _gain(points: _Points, unit: Unit) -> Correction:
    size = float(points.weight @ points.indicated**2)
    if not size > 0:
        raise ValueError("a gain needs a reference away from zero; all of these indicate nothing")
    gain = float(points.weight @ (points.indicated * points.true)) / size
    return Correction("gain", _rising(gain), 0.0, points.covered, unit, points=len(points.true))


def _line(points: _Points, unit: Unit) -> Correction:
    # Centred, so that references far from zero lose no digits.
    centre_in = float(np.average(points.indicated, weights=points.weight))
    centre_true = float(np.average(points.true, weights=points.weight))
    across, along = points.indicated - centre_in, points.true - centre_true
    gain = float((points.weight * across) @ along / ((points.weight * across) @ across))
    # A rise of less than the last digit of the values cannot be inverted either.
    is_flat = gain * float(np.ptp(points.indicated)) <= LOST_IN * abs(centre_true)
    gain = _rising(0.0 if gain > 0 and is_flat else gain)
    return Correction("line", gain, centre_true - gain * centre_in, points.covered, unit, points=len(points.true))


def _rising(gain: float) -> float:
    if not gain > 0:
        raise ValueError(
            f"a line through these references has a gain of {plain_number(gain, 4)}, so the reading "
            "could not be turned back; "
            "check which value is true and which indicated"
        )
    return gain


def _polynomial(points: _Points, unit: Unit, degree: int) -> Correction:
    low, high = points.covered
    centre, scale = 0.5 * (low + high), 0.5 * (high - low)
    powers = np.vander((points.indicated - centre) / scale, degree + 1, increasing=True)
    root = np.sqrt(points.weight)
    coefficients = np.linalg.lstsq(powers * root[:, None], points.true * root, rcond=None)[0]
    bent = Bent(tuple(coefficients.tolist()), centre, scale, low, high)
    steep = bent.slope(np.linspace(low, high, STEPS))
    if not (steep > 0).all():
        at = float(np.linspace(low, high, STEPS)[int(np.argmin(steep))])
        raise ValueError(
            f"a polynomial of degree {degree} through these references turns back near "
            f"{plain_number(at, 4)}, so the reading could "
            "not be turned back; use a line, or more references"
        )
    return _of_curve("polynomial", bent, points, unit)


def _through(points: _Points, unit: Unit, *, is_cubic: bool) -> Correction:
    places, which = np.unique(points.indicated, return_inverse=True)
    weight = np.bincount(which, points.weight)
    true = np.bincount(which, points.weight * points.true) / weight
    falls = np.flatnonzero(np.diff(true) <= 0)
    if len(falls):
        at = float(places[falls[0]])
        raise ValueError(
            f"the true values of these references do not rise after {plain_number(at, 4)}, so no curve "
            "through them can be turned "
            "back; check that reference, or use a line"
        )
    table = Table(tuple(places.tolist()), tuple(true.tolist()), is_cubic, "extend", unit, unit)
    return _of_curve("monotone cubic" if is_cubic else "piecewise line", table, points, unit)


def _of_curve(kind: str, curve: Curve, points: _Points, unit: Unit) -> Correction:
    """The correction by a curve, with the straight line between its ends as gain and offset, for callers that need
    single figures."""
    low, high = points.covered
    ends = curve.forward(np.array([low, high]))
    gain = float(ends[1] - ends[0]) / (high - low)
    return Correction(
        kind=kind,
        gain=gain,
        offset=float(ends[0]) - gain * low,
        covered=(low, high),
        unit_in=unit,
        curve=curve,
        points=len(points.true),
    )


def residuals(correction: Correction, references: Sequence[Reference]) -> tuple[Residual, ...]:
    """One for each reference, used or not, in order."""
    return tuple(
        Residual(
            reference,
            reference.indicated - reference.aim,
            correction.fitted(reference.indicated) - reference.aim,
        )
        for reference in references
    )


def worst(found: Sequence[Residual]) -> float | None:
    """The largest |error| left after the correction, among the references used; None without any."""
    left = [abs(residual.after) for residual in found if residual.reference.used]
    return max(left) if left else None
