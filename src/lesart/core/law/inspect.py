"""What can be wrong with laws: samples outside their range, a converter badly used, integers that lose too much."""

from __future__ import annotations

from collections.abc import Sequence

import numpy as np

from lesart.core.block import UNUSABLE, Block, Mark, block_of
from lesart.core.chain import Chain
from lesart.core.dataclass_later import dataclass
from lesart.core.law.compensation import Compensation
from lesart.core.law.over_time.inspect import inspect_over_time
from lesart.core.law.record import Fixed, LawEntry
from lesart.core.law.stage import LawStage
from lesart.core.notes import DOUBT, FAULT, REMARK, Key, Note
from lesart.core.parameters import parted
from lesart.core.quantity import Quantity, counted_of, format_quantity, grouped, plain_number
from lesart.core.ranked import distinct
from lesart.core.step import Step

WORST_LOST = 0.01
"""A share of lost samples above this is a doubt, not a remark."""
OUT_OF_REACH = 0.01
"""Of a converter's codes: a limit may lie this far beyond them, as much as offsets and rounding make."""
LEAST_USED = 1 / 8
"""A channel that uses less of its converter leaves three bits of it idle."""
ENOUGH_CODES = 4000
"""This many codes are fine enough, whatever share of the converter they are."""
MOST_SHIFT_STEPS = 1.0
"""Steps of the integer result that shifts may cost."""
AXES = ("tilt", "direction")
"""Laws that make an angle from several axes."""
VALUES = 4000
"""Distinct counts that are enough to find the worst case."""


@dataclass(frozen=True)
class Seen:
    """A channel as its laws are inspected: its name, their key, and its chain with other channels fixed."""

    name: str
    key: Key
    chain: Chain
    raw: Block
    quantity: Block


def inspect_laws(seen: Seen, laws: Sequence[LawEntry], lowest: float, highest: float) -> list[Note]:
    """Notes on the laws of a channel that can read ``lowest`` … ``highest``, in its unit."""
    return [
        *_lost(seen),
        *_range_used(seen, lowest, highest),
        *_out_of_reach(seen, lowest, highest),
        *_whole_numbers(seen),
        *_reference(seen, laws),
        *_alone(seen, laws),
        *inspect_over_time(seen.name, seen.key, seen.chain, seen.raw, seen.quantity),
    ]


def _lost(seen: Seen) -> list[Note]:
    """A note on samples that were good before the laws and are bad after them."""
    raw, behind = seen.raw, seen.quantity
    if len(raw) != len(behind) or not len(raw):
        return []
    new = behind.mark & ~raw.mark
    notes = []
    full = np.flatnonzero(new & np.uint8(Mark.SATURATED))
    outside = np.flatnonzero(new & np.uint8(Mark.RANGE))
    if len(full):
        end = format_quantity(float(raw.x[full[0]]), seen.chain.unit_raw, 9)
        share = counted_of(len(full), len(raw), "sample", percent=True)
        text = f"{share} {'is' if len(full) == 1 else 'are'} at an end of the converter, as {end}."
        notes.append(_lost_note(seen, text, len(full), "less gain, or a wider range, keeps it off its ends"))
    if len(outside):
        share = counted_of(len(outside), len(raw), "sample", percent=True)
        lie = "lies" if len(outside) == 1 else "lie"
        text = f"{share} {lie} outside {_where(seen, float(raw.x[outside[0]]))}."
        notes.append(_lost_note(seen, text, len(outside), "look at them in 2 Raw; another law may cover more"))
    return notes


def _lost_note(seen: Seen, text: str, count: int, remedy: str) -> Note:
    limit = WORST_LOST * len(seen.raw)
    return Note(
        DOUBT if count > limit else REMARK,
        Step.LAW,
        seen.name,
        f"{seen.name}: {text}",
        figure=float(count),
        unit="samples",
        limit=limit,
        remedy=remedy,
    )


def _where(seen: Seen, raw: float) -> str:
    """The law whose valid range a raw value leaves, and that range."""
    block = block_of([raw])
    for link in seen.chain.links:
        block = link.settled(block)
        if block.mark[0] & UNUSABLE and isinstance(link.stage, LawStage):
            low, high = (format_quantity(end, link.stage.unit_in, 4) for end in link.stage.law.valid_in)
            number = int(link.place[4:-1]) + 1 if link.place.startswith("law[") else 0
            return f"what law {number}, {link.stage.kind}, holds for: {low} to {high}"
    return "what the laws hold for"


def _range_used(seen: Seen, lowest: float, highest: float) -> list[Note]:
    """A note on the share of a converter's codes that the channel's range uses."""
    first = seen.chain.links[0].stage if seen.chain.links else None
    ends = first.law.saturated_at if isinstance(first, LawStage) else None
    if ends is None or not isinstance(first, LawStage):
        return []
    low, high = first.law.valid_in
    used = abs(seen.chain.raw_for(highest) - seen.chain.raw_for(lowest)) / (high - low)
    codes = used * (high - low)
    if not used < LEAST_USED or codes > ENOUGH_CODES:
        return []
    gain = 2 ** int(np.floor(np.log2(0.9 / used))) if used > 0 else 2
    said = f"{seen.name}: its whole range uses {plain_number(100 * used, 2)} % of the converter's codes, "
    said += f"{grouped(plain_number(round(codes)))} of them."
    return [
        Note(
            REMARK,
            Step.LAW,
            seen.name,
            said,
            figure=100 * used,
            unit="%",
            limit=100 * LEAST_USED,
            place=seen.key,
            remedy=f"{plain_number(gain)} times the gain, or a lower reference, would make a count finer",
        )
    ]


def _out_of_reach(seen: Seen, lowest: float, highest: float) -> list[Note]:
    """A note on readings within the channel's range whose codes its converter does not have."""
    first = seen.chain.links[0].stage if seen.chain.links else None
    if not isinstance(first, LawStage) or first.law.saturated_at is None:
        return []
    low, high = first.law.valid_in
    spare = OUT_OF_REACH * (high - low)
    notes: list[Note] = []
    for limit, end in (("highest", highest), ("lowest", lowest)):
        raw = seen.chain.raw_for(end)
        code = high if raw > high + spare else low if raw < low - spare else None
        reached = float(seen.chain.steady(code)[-1].x[0]) if code is not None else np.nan
        if code is not None and lowest <= reached <= highest:
            unit, counts = seen.chain.unit, seen.chain.unit_raw
            shown, beyond = format_quantity(end, unit, 4), format_quantity(round(raw), counts, 9)
            said = f"{seen.name}: {shown} would be {beyond}, and the converter "
            said += f"{'ends' if code == high else 'begins'} at {format_quantity(code, counts, 9)}: it reads "
            said += f"{'up' if limit == 'highest' else 'down'} to {format_quantity(reached, unit, 4)}."
            notes.append(_beyond(seen, limit, end, reached, said))
    return notes


def _beyond(seen: Seen, limit: str, end: float, reached: float, said: str) -> Note:
    return Note(
        DOUBT,
        Step.LAW,
        seen.name,
        said,
        figure=reached,
        unit=str(seen.chain.unit),
        limit=end,
        place=seen.key,
        remedy="bring the voltage into its range, by a divider or another reference, or draw the limit in",
        limit_at=("channels", seen.name, limit),
    )


def _whole_numbers(seen: Seen) -> list[Note]:
    """Notes on integer arithmetic: sums that overflow, and digits that shifts drop."""
    notes: list[Note] = []
    for link in seen.chain.links:
        stage = link.stage
        law = stage.law if isinstance(stage, LawStage) else None
        if not isinstance(law, Fixed) or not isinstance(law.law, Compensation) or link.place != "law[0]":
            continue
        own, beside = law.law, np.array([law.others[0]])
        counts = distinct(np.rint(seen.raw.x[seen.raw.usable]))
        counts = counts[(counts >= own.lowest) & (counts <= own.highest)][:: max(len(counts) // VALUES, 1)]
        if not len(counts):
            continue
        whole, fits = own.steps(counts, beside)
        if not fits.all():
            at = plain_number(float(counts[~fits][0]), 9)
            notes.append(
                Note(
                    FAULT,
                    Step.LAW,
                    seen.name,
                    f"{seen.name}: its whole numbers overflow {own.bits} bits at {at} ct.",
                    figure=float((~fits).sum()),
                    unit="ct",
                    limit=0.0,
                    place=(*seen.key, 0, "bits"),
                    remedy="use wider numbers, or shift earlier",
                )
            )
        steps = np.abs(whole[fits] - own.exact(counts, beside)[fits] / own.step)
        if len(steps) and steps.max() > MOST_SHIFT_STEPS:
            lost = format_quantity(float(steps.max()) * abs(own.step), own.unit_out.step, 2)
            notes.append(
                Note(
                    DOUBT,
                    Step.LAW,
                    seen.name,
                    f"{seen.name}: dropped bits of its whole numbers cost up to {lost}, "
                    f"{plain_number(float(steps.max()), 2)} steps.",
                    figure=float(steps.max()),
                    unit="steps",
                    limit=MOST_SHIFT_STEPS,
                    place=(*seen.key, 0, "shift"),
                    remedy="shift later, in wider numbers",
                )
            )
    return notes


def _alone(seen: Seen, laws: Sequence[LawEntry]) -> list[Note]:
    """A note on an angle between axes of which only one is read: it has two values, whatever the sensor does."""
    for index, entry in enumerate(laws):
        if entry.kind.name not in AXES:
            continue
        others = [entry.values[name] for name in ("second", "third") if name in entry.values]
        if all(isinstance(each, Quantity) and each.value == 0 for each in others):
            has, names = ("no other axis is", "channels") if len(others) > 1 else ("the axis at 0° is not", "channel")
            return [
                Note(
                    FAULT,
                    Step.LAW,
                    seen.name,
                    f"{seen.name}: {has} read, so its {entry.kind.name} is one of two values, "
                    "whatever the sensor does.",
                    remedy=f"name the {names} of the other {'axes' if len(others) > 1 else 'axis'}",
                    place=(*seen.key, index, "second"),
                )
            ]
    return []


def _reference(seen: Seen, laws: Sequence[LawEntry]) -> list[Note]:
    """A note on a reference voltage that is assumed to be exact."""
    for index, entry in enumerate(laws):
        written = str(entry.written.get("reference", ""))
        if entry.kind.name == "converter" and written and not parted(written)[1]:
            return [
                Note(
                    REMARK,
                    Step.LAW,
                    seen.name,
                    f"{seen.name}: no tolerance is stated for the reference of {written}, so the uncertainty of the "
                    "reading is unknown.",
                    remedy=f'write it with its tolerance, like "{written} ± 1 %"',
                    place=(*seen.key, index, "reference"),
                )
            ]
    return []
