"""Shared by the leaves of True: signed errors, and the curve of a fit."""

from __future__ import annotations

from lesart.core.true.correction import Correction
from lesart.study.views import Series, Tone


def signed(amount: float, decimals: int) -> str:
    """A signed number: ``+0.210`` or ``−0.021``; zero has no sign."""
    rounded = f"{abs(amount):.{decimals}f}"
    if float(rounded) == 0:
        return rounded
    return ("+" if amount > 0 else "−") + rounded


def fit_series(
    correction: Correction, low: float, high: float, name: str = "fit", tone: Tone = "verdigris"
) -> list[Series]:
    """The error that a correction removes, over the indication; dotted where extrapolated."""
    if correction.covered is None:
        return []

    def error(indicated: float) -> float:
        return indicated - correction.fitted(indicated)

    first, last = (low, high) if correction.is_all_around else correction.covered
    across = [first + (last - first) * step / 80 for step in range(81)] if last > first else [first]
    known = Series(name, across, [error(point) for point in across], tone)
    guesses = []
    for start, end in ((low, first), (last, high)):
        if end > start:
            points = [start + (end - start) * step / 40 for step in range(41)]
            guesses.append(
                Series(
                    "a guess",
                    points,
                    [error(point) for point in points],
                    "rubric" if tone == "verdigris" else tone,
                    "dots",
                )
            )
    return [known, *guesses]
