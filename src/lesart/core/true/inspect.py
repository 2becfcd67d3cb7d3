"""What can be wrong with a correction."""

from __future__ import annotations

import numpy as np

from lesart.core.block import Block
from lesart.core.notes import DOUBT, FAULT, REMARK, Note
from lesart.core.quantity import plain_number
from lesart.core.true.correction import Correction

FAULT_SHARE = 0.25
"""Extrapolating by more than this part of the covered span is a fault: a line fitted there says little about it."""


def inspect_correction(channel: str, correction: Correction, indicated: Block) -> list[Note]:
    """Notes on a correction that is used for these indicated values (the block before the correction)."""
    unit = str(correction.unit_in)
    if correction.covered is None:
        return [
            Note(REMARK, "true", channel, f"{channel}: no references, so nobody can say whether the value is right.",
                 remedy="record one: + in True, at the cursor")
        ]  # fmt: skip
    notes = []
    if correction.kind == "offset":
        notes.append(
            Note(REMARK, "true", channel, f"{channel}: the references fix an offset only; the slope is taken on trust.",
                 remedy="record one at another value")
        )  # fmt: skip
    good = indicated.x[indicated.usable]
    if not len(good):
        return notes
    # Robust ends: a few absurd samples are the filters' matter, not the correction's.
    low, high = (float(edge) for edge in np.quantile(good, [0.001, 0.999]))
    notes += _extrapolated(channel, correction, low, high, unit)
    return notes


def _extrapolated(channel: str, correction: Correction, low: float, high: float, unit: str) -> list[Note]:
    assert correction.covered is not None
    first, last = correction.covered
    beyond = {"above": high - last, "below": first - low}
    side = max(beyond, key=lambda name: beyond[name])
    if beyond[side] <= 0:
        return []
    reach, stop = (high, last) if side == "above" else (low, first)
    reach, stop = correction.corrected(reach), correction.corrected(stop)
    span = last - first
    mark = FAULT if span == 0 or beyond[side] > FAULT_SHARE * span else DOUBT
    digits = 4
    return [
        Note(
            mark, "true", channel,
            f"{channel}: readings reach {plain_number(reach, digits)} {unit}, references stop at "
            f"{plain_number(stop, digits)} {unit}. The correction is extrapolated by "
            f"{plain_number(abs(reach - stop), 2)} {unit}.",
            figure=reach, unit=unit, limit=stop,
            remedy=f"take a reference near {plain_number(reach, 2)} {unit}",
        )
    ]  # fmt: skip
