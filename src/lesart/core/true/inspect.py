"""What can be wrong with a correction."""

from __future__ import annotations

import math
from collections.abc import Sequence

from lesart.core.block import Block
from lesart.core.notes import DOUBT, FAULT, REMARK, Key, Mend, Note
from lesart.core.quantity import beside_unit, plain_number
from lesart.core.ranked import quantiles
from lesart.core.step import Step
from lesart.core.true.correction import Correction, residuals
from lesart.core.true.reference import Reference
from lesart.core.true.trust import far_off, judge

MUCH_WORSE = 2.0
"""This many times the leave-one-out error of another fit is not chance."""
HARMLESS_SHARE = 0.01
"""Of the covered span: this far beyond it no fit goes astray, and the noise of an empty scale stays within it."""
CLOSED_SHARE = 0.001
"""Of a full turn: nobody sees a jump of a third of a degree."""
FAULT_SHARE = 0.25
"""Extrapolating by more than this share of the covered span is a fault: the fitted line says little about it."""


def inspect_correction(channel: str, correction: Correction, indicated: Block) -> list[Note]:
    """Notes on a correction as used for these indicated values, the block before the correction."""
    unit = str(correction.unit_in)
    if correction.covered is None:
        return [
            Note(
                REMARK,
                Step.TRUE,
                channel,
                f"{channel}: no references, so the value is unverified.",
                remedy="record one: + in True, at the cursor",
            )
        ]
    good = indicated.x[indicated.usable]
    if not len(good) or correction.is_all_around:
        return []
    # Robust ends: a few absurd samples are for the filters to deal with, not for the correction.
    low, high = quantiles(good, (0.001, 0.999))
    return _extrapolated(channel, correction, low, high, unit)


def _extrapolated(channel: str, correction: Correction, low: float, high: float, unit: str) -> list[Note]:
    assert correction.covered is not None
    first, last = correction.covered
    beyond = {"above": high - last, "below": first - low}
    side = max(beyond, key=lambda name: beyond[name])
    span = last - first
    if beyond[side] <= HARMLESS_SHARE * span:
        return []
    reach, stop = correction.fitted(high if side == "above" else low), correction.known[side == "above"]
    mark = FAULT if span == 0 or beyond[side] > FAULT_SHARE * span else DOUBT
    digits = 4
    return [
        Note(
            mark,
            Step.TRUE,
            channel,
            f"{channel}: readings reach {beside_unit(plain_number(reach, digits), unit)}, references stop at "
            f"{beside_unit(plain_number(stop, digits), unit)}. The correction is extrapolated by "
            f"{beside_unit(plain_number(abs(reach - stop), 2), unit)}.",
            figure=reach,
            unit=unit,
            limit=stop,
            remedy=f"take a reference near {beside_unit(plain_number(reach, 2), unit)}",
        )
    ]


def inspect_references(
    channel: str, correction: Correction, references: Sequence[Reference], limit: float, key: Key
) -> list[Note]:
    """Notes on the references themselves and on how well the fit goes through them.

    ``limit`` is what may be left after the fit, in the reading's unit; 0 leaves it to the known values' tolerances.
    ``key`` is where they stand in the project.
    """
    used = [reference for reference in references if reference.used]
    if correction.covered is None or not used:
        return []
    notes = [
        *_unsettled(channel, references, correction, key),
        *_left(channel, references, correction, limit, key),
        *_far(channel, references, correction, key),
        *_too_yielding(channel, references, correction, key),
        *_not_closed(channel, correction, key),
    ]
    if correction.kind == "offset" and max(each.true for each in used) == min(each.true for each in used):
        # With several values an insufficient offset shows in its residuals.
        notes.append(
            Note(
                REMARK,
                Step.TRUE,
                channel,
                f"{channel}: the references fix an offset only; the slope is taken on trust.",
                remedy="record one at another value",
            )
        )
    if correction.kind == "line" and len(used) == 2:
        notes.append(
            Note(
                REMARK,
                Step.TRUE,
                channel,
                f"{channel}: two references fix a line exactly, so the fit cannot be judged.",
                figure=2.0,
                limit=3.0,
                remedy="record a third one between or beyond them",
                place=key,
            )
        )
    return notes


def inspect_age(channel: str, references: Sequence[Reference], valid_d: float, today: int, key: Key) -> list[Note]:
    """A note where the newest reference used is older than ``valid_d`` days; 0 of them is for good.

    ``today`` is counted as the references' days are.
    """
    days = [today - each.day for each in references if each.used and each.day is not None]
    if not valid_d or not days or min(days) <= valid_d:
        return []
    return [
        Note(
            DOUBT,
            Step.TRUE,
            channel,
            f"{channel}: its newest reference is {min(days)} days old; they are valid for {valid_d:g}.",
            figure=float(min(days)),
            unit="d",
            limit=valid_d,
            remedy="record references again",
            place=key,
            limit_at=(*key, "valid"),
        )
    ]


def _shown(amount: float, correction: Correction, digits: int = 3) -> str:
    return beside_unit(plain_number(amount, digits), correction.unit_in.symbol)


def _unsettled(channel: str, references: Sequence[Reference], correction: Correction, key: Key) -> list[Note]:
    """A note on references whose samples had not settled."""
    return [
        Note(
            DOUBT,
            Step.TRUE,
            channel,
            f"{channel}: the reference of {_shown(each.true, correction, 5)} had not settled: it moved by "
            f"{_shown(each.drift, correction)} while it was taken, and scattered by "
            f"{_shown(each.spread, correction, 2)}.",
            figure=abs(each.drift),
            unit=str(correction.unit_in),
            limit=each.spread,
            remedy="wait and record it again",
            place=(*key, "references", index, "drift"),
        )
        for index, each in enumerate(references)
        if each.used and not each.has_settled
    ]


def _left(channel: str, references: Sequence[Reference], correction: Correction, limit: float, key: Key) -> list[Note]:
    """A note on the reference that the fit misses most, where that is more than allowed."""
    missed = []
    for index, each in enumerate(residuals(correction, references)):
        by_chance = 2.0 * each.reference.spread / math.sqrt(each.reference.count)
        allowed = limit or (each.reference.tolerance + by_chance if each.reference.tolerance else math.inf)
        if each.reference.used and abs(each.after) > allowed:
            missed.append((abs(each.after), allowed, index, each))
    if not missed:
        return []
    most, allowed, index, each = max(missed, key=lambda entry: entry[0])
    said = "may be left" if limit else "it is known to, its scatter included"
    return [
        Note(
            DOUBT,
            Step.TRUE,
            channel,
            f"{channel}: at {_shown(each.reference.true, correction, 5)} the fit leaves {_shown(most, correction)}; "
            f"{_shown(allowed, correction, 2)} {said}.",
            figure=most,
            unit=str(correction.unit_in),
            limit=allowed,
            remedy="check that reference, or use a fit that bends",
            place=(*key, "references", index, "true"),
            limit_at=(*key, "residual"),
        )
    ]


def _far(channel: str, references: Sequence[Reference], correction: Correction, key: Key) -> list[Note]:
    """A note on one far-off point, which is pointed out, not removed."""
    far = far_off(references, correction.unit_in)
    if far is None:
        return []
    index = next(place for place, each in enumerate(references) if each is far.reference)
    return [
        Note(
            DOUBT,
            Step.TRUE,
            channel,
            f"{channel}: the reference of {_shown(far.reference.true, correction, 5)} lies "
            f"{_shown(abs(far.after), correction)} from a line through the others.",
            figure=abs(far.after),
            unit=str(correction.unit_in),
            remedy="record it again, or leave it out",
            mend=(Mend((*key, "references", index, "used"), False),),
            place=(*key, "references", index, "used"),
        )
    ]


def _not_closed(channel: str, correction: Correction, key: Key) -> list[Note]:
    """A note on a fit on a circle with another slope than 1: after a turn it does not come back to its start."""
    turn = correction.turn
    if not turn or correction.covered is None:
        return []
    start = correction.covered[0]
    jump = abs(correction.fitted(start + turn) - correction.fitted(start) - turn)
    if jump <= CLOSED_SHARE * turn:
        return []
    return [
        Note(
            DOUBT,
            Step.TRUE,
            channel,
            f"{channel}: it wraps round, and this fit, {correction.kind}, does not: the reading jumps by "
            f"{_shown(jump, correction)} where it does.",
            figure=jump,
            unit=str(correction.unit_in),
            limit=CLOSED_SHARE * turn,
            remedy="fit offset",
            mend=(Mend((*key, "kind"), "offset"),),
        )
    ]


def _too_yielding(channel: str, references: Sequence[Reference], correction: Correction, key: Key) -> list[Note]:
    """A note on a fit whose leave-one-out error is larger than a simpler one's."""
    judged = judge(references, correction.unit_in, correction.degree)
    chosen = next(each for each in judged if each.kind == correction.kind)
    proposed = next((each for each in judged if each.is_proposed), None)
    if proposed is None or not chosen.left_out > MUCH_WORSE * proposed.left_out or proposed.kind == "none":
        return []
    return [
        Note(
            DOUBT,
            Step.TRUE,
            channel,
            f"{channel}: a reference left out is missed by {_shown(chosen.left_out, correction)} by this fit, "
            f"{chosen.kind}, and by {_shown(proposed.left_out, correction)} by {proposed.kind}.",
            figure=chosen.left_out,
            unit=str(correction.unit_in),
            limit=proposed.left_out,
            remedy=f"fit {proposed.kind}",
            mend=(Mend((*key, "kind"), proposed.kind),),
        )
    ]
