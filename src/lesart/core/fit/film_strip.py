"""The film strip: a field at every ugly value its channel can take, found exactly, not by sampling."""

from __future__ import annotations

import itertools
import math

from lesart.core.block import Mark
from lesart.core.dataclass_later import dataclass
from lesart.core.fit.border import End, border, said
from lesart.core.fit.field import Field, Reading
from lesart.core.fit.fill import Shown, fill
from lesart.core.fit.sweep import Piece, first_overflow, sweep

MOST_CHANGES = 8
"""Most pairs of stills around a change; nobody looks at a longer strip."""


@dataclass(frozen=True)
class Still:
    """One picture of the strip: ``value`` in the channel's unit, and as text; None where there is no number."""

    title: str
    value: float | None
    shown: Shown
    said: End | None = None


def film_strip(field: Field, lowest: float, highest: float, typical: float, *, joined: str) -> tuple[Still, ...]:
    """Stills for a channel that can read ``lowest`` … ``highest`` (its own unit), in order of value."""

    def still(title: str, value: float, end: End | None = None) -> Still:
        return Still(title, value, fill(field, Reading(value), joined=joined), end or said(field, value))

    stills = [still("smallest reading", lowest)]
    if lowest < 0 < highest:
        stills.append(still("zero", 0.0))
    for before, after, what in changes(sweep(field, lowest, highest, joined=joined))[:MOST_CHANGES]:
        ends = border(field, before, after) if before < after else border(field, after, before)[::-1]
        stills += [still(f"before {what}", before, ends[0]), still(f"{what} from here", after, ends[1])]
    stills += [still("typical", typical), still("largest reading", highest)]
    stills.sort(key=lambda entry: entry.value if entry.value is not None else 0.0)
    too_wide = first_overflow(field, joined=joined)
    if too_wide is not None and too_wide > highest:
        fits = math.nextafter(too_wide, 0.0)
        stills.append(still("too wide from here", too_wide, border(field, fits, too_wide)[1]))
    silent = fill(field, Reading(typical, age_s=math.inf), joined=joined)
    stills.append(Still(f"silent for {field.stale_after_s:g} s", None, silent))
    if field.settling:
        stills.append(Still("filters settling", None, fill(field, Reading(typical, Mark.SETTLING), joined=joined)))
    wrong = fill(field, Reading(math.nan, Mark.CHECKSUM), joined=joined)
    stills.append(Still("sample marked bad", None, wrong))
    return tuple(stills)


def changes(pieces: tuple[Piece, ...]) -> tuple[tuple[float, float, str], ...]:
    """Neighbouring floats between which the text changes, the one nearer to zero first, with what comes beyond it."""
    found = []
    for left, right in itertools.pairwise(pieces):
        outward = right.first > 0
        near, far = (left, right) if outward else (right, left)
        before, after = (left.last, right.first) if outward else (right.first, left.last)
        what = _what(near, far)
        if what:
            found.append((before, after, what))
    return tuple(found)


def _what(near: Piece, far: Piece) -> str:
    if far.shape[0] != near.shape[0]:
        return f"the {far.shape[0]} text" if far.shape[0] != "value" else "a number"
    if far.shape[0] != "value":
        return ""
    if far.shape[1] > near.shape[1]:
        return "a longer text"
    if far.shape[1] < near.shape[1]:
        return "a shorter text"
    return "" if far.shape[2] != near.shape[2] else "another text"
