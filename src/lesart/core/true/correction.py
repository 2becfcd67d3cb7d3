"""A correction: the fit through references, quantity to quantity."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np

from lesart.core.block import Block
from lesart.core.true.reference import Reference
from lesart.core.units import Unit

FITS = ("none", "offset", "line")


@dataclass(frozen=True)
class Correction:
    """corrected = gain × indicated + offset, known between the least and the greatest reference.

    ``covered`` is the range of indicated values the references reach; None without references.
    """

    kind: str
    gain: float
    offset: float
    covered: tuple[float, float] | None
    unit_in: Unit
    memory_samples: int = 0

    @property
    def unit_out(self) -> Unit:
        """A correction stays in the reading's unit."""
        return self.unit_in

    def initial(self) -> None:
        """It keeps nothing."""

    def run(self, state: None, block: Block) -> tuple[None, Block]:
        """Corrected values, marks as they were."""
        return None, block.with_values(block.x * self.gain + self.offset)

    def corrected(self, indicated: float) -> float:
        """One value."""
        return indicated * self.gain + self.offset

    def slope(self, x: float) -> float:
        """The same everywhere."""
        return self.gain

    def inverse(self, y: float) -> float:
        """The indication that is corrected to ``y``."""
        return (y - self.offset) / self.gain


@dataclass(frozen=True)
class Residual:
    """Error of one reference before and after the correction: indicated − true and corrected − true."""

    reference: Reference
    before: float
    after: float


def fit_correction(kind: str, references: Sequence[Reference], unit: Unit) -> Correction:
    """Least squares of true on indicated. Kinds: ``none``; ``offset``, the mean error; ``line``, gain and offset.

    A line through fewer than two different indications falls back to an offset, and an offset without references to
    none: two unknowns cannot be had from one point. Raises ValueError with a clause when the line would not rise.
    """
    used = [reference for reference in references if reference.used]
    if kind == "none" or not used:
        return Correction("none", 1.0, 0.0, None, unit)
    indicated = np.array([reference.indicated for reference in used])
    true = np.array([reference.true for reference in used])
    covered = (float(indicated.min()), float(indicated.max()))
    if kind == "offset" or covered[0] == covered[1]:
        return Correction("offset", 1.0, float(np.mean(true - indicated)), covered, unit)
    # Centred, so that references far from zero lose no digits.
    centre_in, centre_true = float(indicated.mean()), float(true.mean())
    across, along = indicated - centre_in, true - centre_true
    gain = float(across @ along / (across @ across))
    if not gain > 0:
        raise ValueError(
            f"a line through these references has a gain of {gain:.4g}, so the reading could not be turned back; "
            "check which value is true and which indicated"
        )
    return Correction("line", gain, centre_true - gain * centre_in, covered, unit)


def residuals(correction: Correction, references: Sequence[Reference]) -> tuple[Residual, ...]:
    """One for each reference, used or not, in order."""
    return tuple(
        Residual(
            reference,
            reference.indicated - reference.true,
            correction.corrected(reference.indicated) - reference.true,
        )
        for reference in references
    )


def worst(found: Sequence[Residual]) -> float | None:
    """The largest |error| that is left after the correction, among the references used; None without any."""
    left = [abs(residual.after) for residual in found if residual.reference.used]
    return max(left) if left else None
