"""What can be wrong with a field: too narrow, finer than is honest, restless."""

from __future__ import annotations

import itertools
import math
from collections.abc import Callable, Iterable
from dataclasses import replace

import numpy as np

from lesart.core.block import Block, Mark
from lesart.core.dataclass_later import dataclass
from lesart.core.fit.field import GROUPS, WIDEST, Field, Reading
from lesart.core.fit.fill import AS_BYTE, AS_NUMBERS, AS_TEXT, fill
from lesart.core.fit.rounding import rounded_steps
from lesart.core.fit.sweep import places
from lesart.core.fit.unit_said import inspect_unit_text
from lesart.core.notes import DOUBT, FAULT, REMARK, Key, Mend, Note
from lesart.core.quantity import counted, format_quantity, times_said, told_apart
from lesart.core.some_of import runs_of
from lesart.core.step import Step

KeyOf = Callable[[str], Key]
"""Project key of a field's rule, by its name."""
COARSE = 2.0
"""With steps of this many last digits, the last digit surely means nothing."""
FINER = "measure more finely, with more gain or more bits"
FINER_PULSES = "count over a longer gate, or time the pulses instead of counting them"
"""What makes each count, or each pulse in a gate, finer."""


@dataclass(frozen=True)
class OneCount:
    """One raw count, ``size`` in the channel's unit and 0 where nothing is counted, and the finest step resolved after
    the filters: between two counts where they average noise, else a whole count."""

    size: float = 0.0
    made_out: float = 0.0
    is_pulse: bool = False

    @property
    def is_averaged(self) -> bool:
        """True where more than whole counts is resolved."""
        return self.made_out < self.size

    @property
    def word(self) -> str:
        """The name of such a count."""
        return "pulse" if self.is_pulse else "raw count"

    def in_unit(self, scale: float) -> OneCount:
        """The same in another unit: the channel's unit is ``scale`` of it."""
        return replace(self, size=self.size * scale, made_out=self.made_out * scale)


def honest_decimals(step: float) -> int:
    """Decimals that a value with the finest honest step ``step`` (> 0) deserves: those at or above it."""
    if not step > 0 or not math.isfinite(step):
        return 9
    # A step of 0.1 deserves one decimal, 0.09 too, 0.11 none; the small margin keeps 0.1 itself on its side.
    return min(max(math.floor(-math.log10(step) + 1e-9), 0), 9)


def changes_per_minute(field: Field, block: Block) -> float:
    """How often the last digit shown differs from the one before, over the good samples. 0 for a short block.

    While filters settle, or a load comes on, a digit is not meant to stand: neither changes nor time count then.
    """
    changes, lasted_s = 0, 0.0
    for run in runs_of(block):
        usable = run.usable
        t, x, settled = run.t[usable], run.x[usable], run.mark[usable] & Mark.SETTLING == 0
        both = settled[1:] & settled[:-1]
        shown = field.shown_value(x)
        fits = np.abs(shown) * 10.0**field.decimals < 2.0**52
        steps = rounded_steps(np.where(fits, shown, 0.0), field.decimals, field.round)
        changes += int(np.count_nonzero(np.diff(steps)[both]))
        lasted_s += float(np.diff(t)[both].sum())
    return changes / (lasted_s / 60.0) if lasted_s > 0 else 0.0


def inspect_field(
    channel: str,
    panel: str | None,
    field: Field,
    key: KeyOf,
    *,
    lowest: float,
    highest: float,
    one: OneCount,
    per_minute: Callable[[Field], float],
    joined: str,
) -> list[Note]:
    """Notes on a field whose channel can read ``lowest`` … ``highest``, ``one`` raw count being so much of it;
    ``per_minute`` tells how often the last digit of a field changes.

    ``key`` says where each rule of the field stands in the project; mends are written there.
    """
    where = f"{channel} on {panel}" if panel else channel
    found = _overflows(where, channel, field, key, lowest, highest, joined)
    found += _sent_wrongly(where, channel, field, key)
    found += inspect_unit_text(
        where, channel, field, key("unit_text"), lambda other: fits(other, lowest, highest, joined)
    )
    found += _grouped(where, channel, field, key, highest, joined)
    found += _half_used(where, channel, field, key, lowest, highest, joined)
    if not field.is_number:
        return [replace(note, panel=panel) for note in found]
    found += _lost_minus(where, channel, field, key, lowest)
    found += _jumps(where, channel, field, key, lowest, highest, joined)
    found += inspect_fineness(channel, panel, field, key, one)
    found += _restless(where, channel, field, key, per_minute)
    return [replace(note, panel=panel) for note in found]


def _restless(where: str, channel: str, field: Field, key: KeyOf, per_minute: Callable[[Field], float]) -> list[Note]:
    """A note on a last digit that changes too often; the mend removes as many decimals as calm it, if any do."""
    rate, allowed = per_minute(field), field.restless_per_min
    if not rate > allowed:
        return []
    still = next(
        (fewer for fewer in range(field.decimals - 1, -1, -1) if per_minute(replace(field, decimals=fewer)) <= allowed),
        None,
    )
    often, most = told_apart(rate, float(allowed), 2)
    is_allowed = f"at most {most} {'is' if allowed == 1 else 'are'} allowed" if allowed else "none is allowed"
    remedy = "filter it more" if still is None else f"show {counted(still, 'decimal')}, or filter it more"
    return [
        Note(
            DOUBT,
            Step.FIT,
            channel,
            f"{where}: the last digit changes {times_said(often)} a minute; {is_allowed}.",
            figure=rate,
            unit="/min",
            limit=float(allowed),
            remedy=remedy,
            mend=() if still is None else (Mend(key("decimals"), still),),
            limit_at=key("restless"),
        )
    ]


def inspect_fineness(channel: str, panel: str | None, field: Field, key: KeyOf, one: OneCount) -> list[Note]:
    """A note where one raw count, or what filters resolve between two, is coarser than the last digit."""
    where = f"{channel} on {panel}" if panel else channel
    step = 10.0**-field.decimals
    shown = one.in_unit(float(field.unit_in.scale / field.unit_shown.scale))
    honest = honest_decimals(shown.made_out)
    if not field.is_number or not shown.made_out > step:
        return []
    if honest >= field.decimals:
        return _coarse(where, channel, panel, field, shown, step)
    last = f"the last digit shows {format_quantity(step, field.unit_shown)}"
    count = f"one {shown.word} is {format_quantity(shown.size, field.unit_shown, 2)}"
    said = f"{last}, {count}."
    if shown.is_averaged:
        apart = format_quantity(shown.made_out, field.unit_shown, 2)
        said = f"{last}; {count}, and after the filters {apart} can be told apart."
    return [
        Note(
            DOUBT,
            Step.FIT,
            channel,
            f"{where}: {said}",
            figure=step,
            unit=field.unit_shown.symbol,
            limit=shown.made_out,
            remedy=f"show {counted(honest, 'decimal')}",
            mend=(Mend(key("decimals"), honest),),
            panel=panel,
        )
    ]


def _coarse(where: str, channel: str, panel: str | None, field: Field, shown: OneCount, step: float) -> list[Note]:
    """A note where no decimal is left to remove: the last digits before the point mean nothing."""
    if shown.made_out < COARSE * step:
        return []
    steps = format_quantity(shown.made_out, field.unit_shown, 3)
    said = f"the reading goes in steps of {steps}"
    if shown.is_averaged:
        said = f"after the filters {steps} can be told apart"
    return [
        Note(
            DOUBT,
            Step.FIT,
            channel,
            f"{where}: {said}, and its last digit shows {format_quantity(step, field.unit_shown)}.",
            figure=step,
            unit=field.unit_shown.symbol,
            limit=shown.made_out,
            remedy=f"show it in a larger unit, or {FINER_PULSES if shown.is_pulse else FINER}",
            panel=panel,
        )
    ]


def inspect_sure(channel: str, panel: str | None, field: Field, key: KeyOf, off: float, by: str) -> list[Note]:
    """A note where the reading may be ``off``, in the channel's unit, by more than the last digit shows.

    Ten of its steps and more are a doubt. ``by`` names the largest share of it; empty where references say it.
    """
    unit, step = field.unit_shown.symbol, 10.0**-field.decimals
    width = off * float(field.unit_in.scale / field.unit_shown.scale)
    if not width > step or not field.is_number:
        return []
    honest = honest_decimals(width)
    where = f"{channel} on {panel}" if panel else channel
    why = f'mostly from "{by}"' if by else "as the references left it"
    remedy = "take references in 4 True" if by else "take better references, or more of them"
    off_by = f"± {format_quantity(width, field.unit_shown, 2)}"
    last = format_quantity(step, field.unit_shown)
    if honest < field.decimals:
        said = f"{where}: the last digit shows {last}, but the uncertainty is {off_by}, {why}."
        return [
            Note(
                DOUBT if width > 10 * step else REMARK,
                Step.FIT,
                channel,
                said,
                figure=width,
                unit=unit,
                limit=step,
                remedy=f"show {counted(honest, 'decimal')}, or {remedy}",
                mend=(Mend(key("decimals"), honest),),
                panel=panel,
                shown_by=Step.LAW,
            )
        ]
    if width < COARSE * step:
        return []
    said = f"{where}: uncertain by {off_by}, {why}; {last} is the step of its last digit."
    return [
        Note(
            DOUBT if width > 10 * step else REMARK,
            Step.FIT,
            channel,
            said,
            figure=width,
            unit=unit,
            limit=step,
            remedy=remedy,
            panel=panel,
            shown_by=Step.LAW,
        )
    ]


def _overflows(
    where: str, channel: str, field: Field, key: KeyOf, lowest: float, highest: float, joined: str
) -> list[Note]:
    """The outermost value of the channel's range that does not fit; looked for wherever texts may change."""
    for value in sorted(_looked_at(field, lowest, highest), key=abs, reverse=True):
        if fill(field, Reading(value), joined=joined).state in ("overflow", "underflow"):
            shown, unit = field.shown_value(value), field.unit_shown.symbol
            mend, remedy = _roomier(field, key, lowest, highest, joined)
            decimals = f" with {counted(field.decimals, 'decimal')}" if field.is_number else ""
            return [
                Note(
                    FAULT,
                    Step.FIT,
                    channel,
                    f"{where}: {format_quantity(shown, field.unit_shown)} is in the channel's range and does not fit "
                    f"{counted(field.width, 'cell')}{decimals}.",
                    figure=shown,
                    unit=unit,
                    remedy=remedy,
                    mend=mend,
                    limit_at=("channels", channel, "highest" if value > 0 else "lowest"),
                )
            ]
    return []


def _looked_at(field: Field, lowest: float, highest: float) -> list[float]:
    """Values to check: the ends, the places where texts may change, and points between them: one in each uniform piece,
    or next to one no wider than a last digit."""
    at = places(field, lowest, highest)
    return [*at, *(0.5 * (left + right) for left, right in itertools.pairwise(at))]


def _roomier(field: Field, key: KeyOf, lowest: float, highest: float, joined: str) -> tuple[tuple[Mend, ...], str]:
    """Remedies: fewer decimals if that is enough, since the panel limits cells; else more cells."""
    for decimals in range(field.decimals - 1, -1, -1) if field.is_number else ():
        if fits(replace(field, decimals=decimals), lowest, highest, joined):
            return (Mend(key("decimals"), decimals),), f"show {counted(decimals, 'decimal')}"
    width = width_that_shows(field, lowest, highest, joined, range(field.width + 1, WIDEST + 1))
    return (), f"give it {counted(width, 'cell')}" if width else "show it in a larger unit"


def fits(field: Field, lowest: float, highest: float, joined: str) -> bool:
    """True where a number is shown for every value of a range."""
    shown = (fill(field, Reading(value), joined=joined) for value in _looked_at(field, lowest, highest))
    return all(each.state == "value" for each in shown)


def width_that_shows(field: Field, lowest: float, highest: float, joined: str, widths: Iterable[int]) -> int:
    """The first of ``widths``, in cells, at which a number is shown for every value of a range; 0 for none."""
    return next((each for each in widths if fits(replace(field, width=each), lowest, highest, joined)), 0)


def _half_used(
    where: str, channel: str, field: Field, key: KeyOf, lowest: float, highest: float, joined: str
) -> list[Note]:
    """A remark where no value of the range fills more than half of the cells."""
    if field.pad == "zero" or field.sent != AS_TEXT:
        return []
    shown = [fill(field, Reading(value), joined=joined) for value in _looked_at(field, lowest, highest)]
    most = max(each.used for each in shown)
    if not all(each.state == "value" for each in shown) or 2 * most > field.width:
        return []
    return [
        Note(
            REMARK,
            Step.FIT,
            channel,
            f"{where}: no value in the channel's range takes more than {most} of its {counted(field.width, 'cell')}.",
            figure=float(most),
            unit="cells",
            limit=float(field.width),
            remedy=f"give it {counted(most, 'cell')}",
            mend=(Mend(key("width"), most),),
        )
    ]


def _grouped(where: str, channel: str, field: Field, key: KeyOf, highest: float, joined: str) -> list[Note]:
    """A note on thousands marked by a digit's decimal point: 1,234 is read as 1.234."""
    if not field.is_number or "." not in joined or GROUPS[field.group] not in (",", "."):
        return []
    return [
        Note(
            FAULT,
            Step.FIT,
            channel,
            f"{where}: the mark of thousands lights a digit's point, so 1{GROUPS[field.group]}234 is read as 1.234.",
            figure=float(field.shown_value(highest)),
            unit=field.unit_shown.symbol,
            remedy="write thousands without a mark",
            mend=(Mend(key("group"), "none"),),
        )
    ]


def _jumps(
    where: str, channel: str, field: Field, key: KeyOf, lowest: float, highest: float, joined: str
) -> list[Note]:
    """A remark where digits move to another cell as the number gets longer: only right-aligned ones stay."""
    if field.align == "right" or field.pad == "zero":
        return []
    used = {fill(field, Reading(value), joined=joined).used for value in _looked_at(field, lowest, highest)}
    if len(used) < 2:
        return []
    return [
        Note(
            REMARK,
            Step.FIT,
            channel,
            f"{where}: the number is {min(used)} to {max(used)} cells long, so its digits jump when it gets longer.",
            figure=float(max(used) - min(used)),
            unit="cells",
            remedy="align it right",
            mend=(Mend(key("align"), "right"),),
        )
    ]


def _sent_wrongly(where: str, channel: str, field: Field, key: KeyOf) -> list[Note]:
    """A note on numbers sent where the panel takes characters."""
    if field.sent == AS_TEXT or not field.is_number:
        return []
    what = {AS_NUMBERS: "digits are sent as the numbers 0 to 9", AS_BYTE: "the number is sent as one byte"}[field.sent]
    return [
        Note(
            FAULT,
            Step.FIT,
            channel,
            f"{where}: {what}, and the panel shows whatever has that code.",
            remedy="send the panel's codes of the digits",
            mend=(Mend(key("sent"), AS_TEXT),),
        )
    ]


def _lost_minus(where: str, channel: str, field: Field, key: KeyOf, lowest: float) -> list[Note]:
    if field.sign != "never" or field.shown_value(lowest) >= 0:
        return []
    unit = field.unit_shown.symbol
    return [
        Note(
            FAULT,
            Step.FIT,
            channel,
            f"{where}: {format_quantity(field.shown_value(lowest), field.unit_shown)} is in the channel's range; the "
            "field never shows a minus.",
            figure=field.shown_value(lowest),
            unit=unit,
            limit=0.0,
            remedy="show the minus",
            mend=(Mend(key("sign"), "minus only"),),
        )
    ]
