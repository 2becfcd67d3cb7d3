"""What can be wrong with a field: too narrow, finer than is honest, restless."""

from __future__ import annotations

import math
from dataclasses import replace

import numpy as np

from lesart.core.block import Block
from lesart.core.fit.field import Field, Reading, fill, number_cells
from lesart.core.fit.rounding import rounded_steps
from lesart.core.notes import DOUBT, FAULT, REMARK, Key, Mend, Note
from lesart.core.quantity import plain_number


def honest_decimals(step: float) -> int:
    """How many decimals a value is worth whose finest honest step is ``step`` (> 0): those at or above it."""
    if not step > 0 or not math.isfinite(step):
        return 9
    # A step of 0.1 is worth one decimal, 0.09 too, 0.11 none; the small margin keeps 0.1 itself on its side.
    return min(max(math.floor(-math.log10(step) + 1e-9), 0), 9)


def changes_per_minute(field: Field, block: Block) -> float:
    """How often the last digit shown differs from the one before, over the good samples. 0 for a short block."""
    usable = block.usable
    t, x = block.t[usable], block.x[usable]
    if len(t) < 2 or t[-1] <= t[0]:
        return 0.0
    shown = field.shown_value(x)
    fits = np.abs(shown) * 10.0**field.decimals < 2.0**52
    steps = rounded_steps(np.where(fits, shown, 0.0), field.decimals, field.round)
    return float(np.count_nonzero(np.diff(steps)) / ((t[-1] - t[0]) / 60.0))


def inspect_field(
    channel: str, panel: str | None, field: Field, key: Key, *, lowest: float, highest: float, one_count: float,
    per_minute: float, joined_point: bool,
) -> list[Note]:  # fmt: skip
    """Notes on a field whose channel can read ``lowest`` … ``highest``, ``one_count`` raw count being so much of
    it and the last digit changing ``per_minute`` times.

    ``key`` is where the field's rules stand in the project; mends are written there.
    """
    where = f"{channel} on {panel}" if panel else channel
    found = _overflows(where, channel, field, key, lowest, highest, joined_point)
    found += _lost_minus(where, channel, field, key, lowest)
    found += inspect_fineness(channel, panel, field, key, one_count)
    if per_minute > field.restless_per_min:
        fewer = (Mend((*key, "decimals"), field.decimals - 1),) if field.decimals else ()
        remedy = f"show {field.decimals - 1} decimals, or calm it more" if field.decimals else "calm it more"
        found.append(
            Note(DOUBT, "fit", channel,
                 f"{where}: the last digit changes {plain_number(per_minute, 2)} times a minute; "
                 f"{field.restless_per_min} were allowed.",
                 figure=per_minute, unit="/min", limit=float(field.restless_per_min), remedy=remedy, mend=fewer)
        )  # fmt: skip
    return [replace(note, panel=panel) for note in found]


def inspect_fineness(channel: str, panel: str | None, field: Field, key: Key, one_count: float) -> list[Note]:
    """A note where one raw count, ``one_count`` in the channel's unit, is coarser than the last digit."""
    where = f"{channel} on {panel}" if panel else channel
    unit, step = field.unit_shown.symbol, 10.0**-field.decimals
    count = abs(one_count) * float(field.unit_in.scale / field.unit_shown.scale)
    honest = honest_decimals(count)
    if not (count > step and honest < field.decimals):
        return []
    return [
        Note(DOUBT, "fit", channel,
             f"{where}: the last digit shows {plain_number(step)} {unit}, one raw count is "
             f"{plain_number(count, 2)} {unit}.",
             figure=step, unit=unit, limit=count, remedy=f"show {honest} decimals",
             mend=(Mend((*key, "decimals"), honest),), panel=panel)
    ]  # fmt: skip


def inspect_sure(channel: str, panel: str | None, field: Field, key: Key, off: float, by: str) -> list[Note]:
    """A note where the reading may be ``off``, in the channel's unit, by more than the last digit shows.

    Ten of its steps and more are a doubt. ``by`` names the largest share of it; empty where references say it.
    """
    unit, step = field.unit_shown.symbol, 10.0**-field.decimals
    width = off * float(field.unit_in.scale / field.unit_shown.scale)
    if not width > step:
        return []
    honest = honest_decimals(width)
    where = f"{channel} on {panel}" if panel else channel
    why = f"most of it by {by}" if by else "as the references left it"
    remedy = "take references in 4 True" if by else "take better references, or more of them"
    fewer: tuple[Mend, ...] = ()
    if honest < field.decimals:
        remedy, fewer = f"show {honest} decimals, or {remedy}", (Mend((*key, "decimals"), honest),)
    said = f"{where}: the last digit shows {plain_number(step)} {unit}, the reading is sure to ± "
    said += f"{plain_number(width, 2)} {unit}, {why}."
    return [
        Note(DOUBT if width > 10 * step else REMARK, "fit", channel, said, figure=width, unit=unit, limit=step,
             remedy=remedy, mend=fewer, panel=panel)
    ]  # fmt: skip


def _overflows(
    where: str, channel: str, field: Field, key: Key, lowest: float, highest: float, joined_point: bool
) -> list[Note]:
    """Text only grows with the magnitude, so the two ends of the range tell all."""
    for end in sorted((lowest, highest), key=abs, reverse=True):
        if fill(field, Reading(end), joined_point=joined_point).state == "overflow":
            shown, unit = field.shown_value(end), field.unit_shown.symbol
            mend, remedy = _roomier(field, key, lowest, highest, joined_point)
            return [
                Note(FAULT, "fit", channel,
                     f"{where}: {plain_number(shown)} {unit} is in the channel's range and does not fit "
                     f"{field.width} cells with {field.decimals} decimals.",
                     figure=shown, unit=unit, remedy=remedy, mend=mend)
            ]  # fmt: skip
    return []


def _roomier(field: Field, key: Key, lowest: float, highest: float, joined_point: bool) -> tuple[tuple[Mend, ...], str]:
    """Fewer decimals if that is enough, since cells are given by the panel; else more cells."""
    for decimals in range(field.decimals - 1, -1, -1):
        if _fits(replace(field, decimals=decimals), lowest, highest, joined_point):
            return (Mend((*key, "decimals"), decimals),), f"show {decimals} decimals"
    for width in range(field.width + 1, 41):
        if _fits(replace(field, width=width), lowest, highest, joined_point):
            return (), f"give it {width} cells"
    return (), "show it in a larger unit"


def _fits(field: Field, lowest: float, highest: float, joined_point: bool) -> bool:
    ends = (field.shown_value(lowest), field.shown_value(highest))
    return all(number_cells(field, end, joined_point=joined_point) is not None for end in ends)


def _lost_minus(where: str, channel: str, field: Field, key: Key, lowest: float) -> list[Note]:
    if field.sign != "never" or field.shown_value(lowest) >= 0:
        return []
    unit = field.unit_shown.symbol
    return [
        Note(FAULT, "fit", channel,
             f"{where}: {plain_number(field.shown_value(lowest))} {unit} is in the channel's range; the field never "
             "shows a minus.",
             figure=field.shown_value(lowest), unit=unit, limit=0.0, remedy="show the minus",
             mend=(Mend((*key, "sign"), "minus only"),))
    ]  # fmt: skip
