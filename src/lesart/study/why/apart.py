"""Telling explanations apart: those that no reading could, and the one reading that would."""

from __future__ import annotations

from collections.abc import Sequence

import numpy as np

from lesart.core.block import Floats
from lesart.core.dataclass_later import dataclass
from lesart.study.why.search import Explanation

FEW = 3
"""Fewest points at which two curves both have a reading, to be compared."""
PLACES = 41
"""Points of a range at which a distinguishing reading is considered."""


@dataclass(frozen=True, eq=False)
class Answer:
    """``explanation``, and ``same``: others that always read the same."""

    explanation: Explanation
    same: tuple[Explanation, ...]


@dataclass(frozen=True)
class Apart:
    """At the true value ``true`` the present display reads ``reads``, by answer, the first one's first."""

    true: float
    reads: tuple[float, ...]


def grouped_answers(found: Sequence[Explanation], tolerance: float, within: tuple[float, float]) -> list[Answer]:
    """Answers, likeliest first; explanations that nowhere differ by more than a tolerance, over readings ``within`` a
    range, are grouped."""
    groups: list[list[Explanation]] = []
    for each in found:
        if any(suspect.is_solved for suspect in each.suspects) and any(
            _is_of_same(each, other) for group in groups for other in group
        ):
            continue
        home = next((group for group in groups if _is_same(group[0], each, tolerance, within)), None)
        if home is None:
            groups.append([each])
        elif not any(_is_of_same(each, other) for other in home):
            home.append(each)
    return [Answer(group[0], tuple(group[1:])) for group in groups]


def _is_of_same(one: Explanation, other: Explanation) -> bool:
    """True where they are about the same statements: the likelier of the two values is enough."""
    keys = [each.key for each in one.suspects]
    return None not in keys and keys == [each.key for each in other.suspects]


def _is_same(one: Explanation, other: Explanation, tolerance: float, within: tuple[float, float]) -> bool:
    if np.any(np.abs(one.reads - other.reads) > tolerance):
        return False
    a, b = one.curve, other.curve
    looked = ((a >= within[0]) & (a <= within[1])) | ((b >= within[0]) & (b <= within[1]))
    if looked.sum() < FEW:
        return False
    with np.errstate(invalid="ignore"):
        return bool(np.all(np.abs(a[looked] - b[looked]) <= tolerance))


def apart(now: Floats, answers: Sequence[Answer], lowest: float, highest: float, tolerance: float) -> Apart | None:
    """The true reading, from ``lowest`` to ``highest``, at which the display would differ most between answers.

    ``now`` is what the project reads over the same raw values as the answers' curves, as it stands.
    """
    if len(answers) < 2:
        return None
    curves = [each.explanation.curve for each in answers]
    best: Apart | None = None
    most = tolerance
    for true in np.linspace(lowest, highest, PLACES).tolist():
        shown = [_shown(now, curve, true) for curve in curves]
        if not np.isfinite(shown).all():
            continue
        least = min(abs(one - other) for place, one in enumerate(shown) for other in shown[place + 1 :])
        if least > most:
            best, most = Apart(true, tuple(shown)), least
    return best


def _shown(now: Floats, curve: Floats, true: float) -> float:
    """The present reading at a true value, if a curve is right: its raw value there, read as now."""
    good = np.isfinite(now) & np.isfinite(curve)
    if good.sum() < FEW:
        return float("nan")
    y, shown = curve[good], now[good]
    order = np.argsort(y, kind="stable")
    y, shown = y[order], shown[order]
    if not y[0] <= true <= y[-1]:
        return float("nan")
    return float(np.interp(true, y, shown))
