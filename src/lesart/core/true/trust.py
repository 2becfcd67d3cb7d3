"""How far a fit can be trusted: its leave-one-out error, a far-off point, hysteresis."""

from __future__ import annotations

import math
from collections.abc import Sequence

import numpy as np

from lesart.core.dataclass_later import dataclass
from lesart.core.ranked import distinct
from lesart.core.true.correction import FITS, Correction, Residual, fit_correction, residuals, weights_of
from lesart.core.true.reference import Reference
from lesart.core.units import Unit

NUMBERS = {"none": 0, "offset": 1, "gain": 1, "line": 2}
"""Unknowns of each fit; a polynomial has one more than its degree, curves through points have as many as points."""
CLOSING = ("none", "offset")
"""Fits that close on a circle."""
NOT_WORSE = 1.15
"""A simpler fit is proposed where its leave-one-out error is at most this many times the least one."""
FAR = 5.0
"""A reference this many times as far off as the others usually are is pointed out."""
FEWEST_FAR = 4


@dataclass(frozen=True)
class Judged:
    """A fit with its errors over the references used, all in the reading's unit; NaN where it has too few points.

    ``left_out`` is the root mean square of the errors at each reference by the fit through all others. ``why`` says why
    there is no such fit; ``is_proposed`` marks the simplest that is not worse than others.
    """

    kind: str
    correction: Correction | None
    worst: float
    rms: float
    left_out: float
    why: str = ""
    is_proposed: bool = False


def judge(references: Sequence[Reference], unit: Unit, degree: int = 2) -> tuple[Judged, ...]:
    """Every kind of fit, in the order of ``FITS``."""
    used = [reference for reference in references if reference.used]
    found = [_judged(kind, used, unit, degree) for kind in FITS]
    # A fit on a circle has to close, even if another has smaller errors.
    eligible = [each for each in found if each.kind in CLOSING or not any(reference.turn for reference in used)]
    known = [each.left_out for each in eligible if math.isfinite(each.left_out)]
    if not known:
        return tuple(found)
    simplest = next(each for each in eligible if each.left_out <= NOT_WORSE * min(known))
    return tuple(
        Judged(
            kind=each.kind,
            correction=each.correction,
            worst=each.worst,
            rms=each.rms,
            left_out=each.left_out,
            why=each.why,
            is_proposed=each is simplest,
        )
        for each in found
    )


def _judged(kind: str, used: list[Reference], unit: Unit, degree: int) -> Judged:
    nothing = float("nan")
    try:
        correction = fit_correction(kind, used, unit, degree)
    except ValueError as error:
        return Judged(kind, None, nothing, nothing, nothing, str(error))
    if correction.kind != kind or not used:
        return Judged(
            kind,
            None,
            nothing,
            nothing,
            nothing,
            "one reference is too few" if len(used) == 1 else f"{len(used)} references are too few",
        )
    after = np.array([residual.after for residual in residuals(correction, used)])
    rms = float(np.sqrt(np.mean(after * after)))
    return Judged(kind, correction, float(np.abs(after).max()), rms, left_out_error(kind, used, unit, degree))


def left_out_error(kind: str, used: Sequence[Reference], unit: Unit, degree: int = 2) -> float:
    """Root mean square of the error at each reference by the fit through the others; NaN where one has too few.

    They weigh as in the fit: one that is known to 100 g misses nothing that one known to 1 g would show.
    """
    squares = []
    for place, reference in enumerate(used):
        others = [*used[:place], *used[place + 1 :]]
        try:
            correction = fit_correction(kind, others, unit, degree)
        except ValueError:
            return float("nan")
        if correction.kind != kind:
            return float("nan")
        squares.append((correction.fitted(reference.indicated) - reference.aim) ** 2)
    return math.sqrt(np.average(squares, weights=weights_of(used))) if squares else float("nan")


def left_by(correction: Correction, references: Sequence[Reference]) -> float | None:
    """What a fit leaves: the worst residual, or twice the error at references that it was not asked about; and with it
    how far the known values themselves may be off. Those that are known less well weigh less, as they do in the fit.

    None without a fit, and where it has no more points than it has to have: such a fit leaves nothing and says nothing.
    """
    used = [reference for reference in references if reference.used]
    left_out = left_out_error(correction.kind, used, correction.unit_in, correction.degree)
    if correction.kind == "none" or not math.isfinite(left_out):
        return None
    weights = weights_of(used)
    worst = float(np.max(np.sqrt(weights) * [abs(each.after) for each in residuals(correction, used)]))
    # A plain mean and not a quadratic one: known values checked with one scale are off together.
    known = float(np.average([each.tolerance for each in used], weights=weights))
    return math.hypot(max(2.0 * left_out, worst), known)


def far_off(references: Sequence[Reference], unit: Unit) -> Residual | None:
    """The one reference that a line through the others misses by far more than it misses the others; None without one.

    What the tolerances of known values allow is not far.

    Pointed out, never taken away: it may be the only one that is right.
    """
    used = [reference for reference in references if reference.used]
    if len(used) < FEWEST_FAR:
        return None
    found = []
    for place, reference in enumerate(used):
        others = [*used[:place], *used[place + 1 :]]
        try:
            line = fit_correction("line", others, unit)
        except ValueError:
            continue
        missed = abs(line.fitted(reference.indicated) - reference.aim)
        if missed <= reference.tolerance + max(each.tolerance for each in others):
            continue
        usual = max(
            math.sqrt(sum(each.after**2 for each in residuals(line, others)) / max(len(others) - 2, 1)),
            reference.spread,
        )
        found.append((missed / usual if usual > 0 else 0.0, missed, reference, line))
    if not found:
        return None
    ratio, _, reference, line = max(found, key=lambda each: each[0])
    if ratio < FAR:
        return None
    (residual,) = residuals(line, [reference])
    return residual


def hysteresis(references: Sequence[Reference]) -> tuple[float, float] | None:
    """Largest difference of the errors on the way up and down, and the true value where it is; None without both.

    Between the references of a way its error goes straight; only where both ways reach is compared.
    """
    ways = {}
    for way in ("up", "down"):
        points = sorted((each.true, each.indicated - each.aim) for each in references if each.used and each.way == way)
        if len(points) < 2:
            return None
        ways[way] = (np.array([true for true, _ in points]), np.array([error for _, error in points]))
    low = max(float(true[0]) for true, _ in ways.values())
    high = min(float(true[-1]) for true, _ in ways.values())
    if not low < high:
        return None
    places = distinct(np.clip(np.concatenate([true for true, _ in ways.values()]), low, high))
    up, down = (np.interp(places, *ways[way]) for way in ("up", "down"))
    most = int(np.argmax(np.abs(up - down)))
    return float(up[most] - down[most]), float(places[most])
