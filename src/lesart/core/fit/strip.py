"""The film strip: a field at every ugly value its channel can take, found exactly, not by sampling."""

from __future__ import annotations

import math
from dataclasses import dataclass

from lesart.core.block import Mark
from lesart.core.fit.field import Field, Reading, Shown, fill, number_cells
from lesart.core.fit.rounding import LARGEST
from lesart.core.units import convert


@dataclass(frozen=True)
class Still:
    """One picture of the strip: ``value`` in the channel's unit, None where there is no number."""

    title: str
    value: float | None
    shown: Shown


def film_strip(field: Field, lowest: float, highest: float, typical: float, *, joined_point: bool) -> tuple[Still, ...]:
    """Stills for a channel that can read ``lowest`` … ``highest`` (its own unit), in order of the values."""

    def still(title: str, value: float) -> Still:
        return Still(title, value, fill(field, Reading(value), joined_point=joined_point))

    stills = [still("smallest reading", lowest)]
    if lowest < 0 < highest:
        stills.append(still("zero", 0.0))
    for before, after in length_changes(field, lowest, highest, joined_point=joined_point):
        stills += [still("before a longer text", before), still("after it", after)]
    stills += [still("typical", typical), still("largest reading", highest)]
    stills.sort(key=lambda entry: entry.value if entry.value is not None else 0.0)
    too_wide = first_overflow(field, joined_point=joined_point)
    if too_wide is not None:
        stills.append(still("too wide from here", too_wide))
    silent = fill(field, Reading(typical, age_s=math.inf), joined_point=joined_point)
    wrong = fill(field, Reading(math.nan, Mark.CHECKSUM), joined_point=joined_point)
    stills.append(Still(f"silent for {field.stale_after_s:g} s", None, silent))
    stills.append(Still("sample marked bad", None, wrong))
    return tuple(stills)


def length_changes(
    field: Field, lowest: float, highest: float, *, joined_point: bool
) -> tuple[tuple[float, float], ...]:
    """Pairs of neighbouring floats in the channel's range, the first with the shorter text. Padding does not count.

    Text grows only where the rounded magnitude reaches a power of ten, so each boundary is bisected between two such.
    """
    pairs = []
    for sign in (1.0, -1.0):
        for power in range(1, field.width + 2):
            low, high = sign * 10.0 ** (power - 1), sign * 10.0**power
            pair = _boundary(field, low, high, joined_point=joined_point)
            if pair is not None:
                own = tuple(convert(value, field.unit_shown, field.unit_in) for value in pair)
                if all(lowest <= value <= highest for value in own):
                    pairs.append((own[0], own[1]))
    return tuple(pairs)


def first_overflow(field: Field, *, joined_point: bool) -> float | None:
    """The least value above zero that does not fit, in the channel's unit; None when even zero does not fit."""
    if number_cells(field, 0.0, joined_point=joined_point) is None:
        return None
    for power in range(field.width + 2):
        low, high = (0.0 if power == 0 else 10.0 ** (power - 1)), 10.0**power
        if number_cells(field, high, joined_point=joined_point) is None:
            pair = _boundary(field, low, high, joined_point=joined_point)
            value = pair[1] if pair is not None else high
            return convert(value, field.unit_shown, field.unit_in)
    return None


def _length(field: Field, value: float, joined_point: bool) -> float:
    cells = number_cells(field, value, joined_point=joined_point)
    if cells is None or field.pad == "zero":
        return math.inf if cells is None else len(cells)
    return len(cells)


def _boundary(field: Field, near: float, far: float, *, joined_point: bool) -> tuple[float, float] | None:
    """Neighbouring floats between which the length changes, ``near`` the one closer to zero."""
    if abs(far) >= LARGEST or _length(field, near, joined_point) == _length(field, far, joined_point):
        return None
    start = _length(field, near, joined_point)
    while math.nextafter(near, far) != far:
        middle = near + (far - near) / 2
        if _length(field, middle, joined_point) == start:
            near = middle
        else:
            far = middle
    return near, far
