"""What can be wrong with filters: too late, set to another rate than the samples have, or with nothing to do."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import replace

import numpy as np

from lesart.core.block import Block
from lesart.core.calm.alarm import SOON_S, Alarm, alarm_facts
from lesart.core.calm.effect import without_spikes
from lesart.core.calm.extremes import HIGHEST, LOWEST
from lesart.core.calm.hum import MOSTLY, hum_in
from lesart.core.calm.record import FilterEntry, intervals_s
from lesart.core.dataclass_later import dataclass
from lesart.core.errors import UnitError
from lesart.core.law.over_time.periods import lasting
from lesart.core.law.resolution import QUIET_COUNTS
from lesart.core.notes import DOUBT, REMARK, Key, Mend, Note
from lesart.core.parameters import read_table
from lesart.core.quantity import beside_unit, clock, counted, format_quantity, grouped, plain_number, times_said
from lesart.core.step import Step
from lesart.core.units import Unit, parse_unit

WORST_DROPPED = 0.01
"""A share of samples lost to filters above this is a doubt."""
SAME_RATE = 0.05
"""A filter set to a rate this far from that of the samples has another cut-off than it says."""
MAINS_S = 0.02
"""A period of 50 Hz mains; that of 60 Hz is a sixth shorter, and 0.1 s is a whole number of both."""
FEWEST_SOON = 3
"""This many changes in quick succession are chatter, not separate events."""
WIDE_OF_NOISE = 6.0
"""A hysteresis of this many times the noise is seldom crossed by it."""
DOUBLED = 6
"""How often it is doubled at most; any wider, and the alarm would mean something else."""
LEAST_TIMES_S = (1.0, 2.0, 5.0, 10.0, 20.0, 60.0)
FAST_ENOUGH_HZ = 200.0
"""From this sample rate on the mains is not aliased, and a mean can span a whole number of its periods."""


PLAIN_AVERAGES = ("mean", "trimmed mean", "median", "exponential", "time constant", "low-pass", "tracking")
"""Averages that know nothing of wrapping."""
NEARLY_ROUND = 0.95
"""Of a turn: a vane with a gap, or one that reads 0° to 359°."""
DEGREE = parse_unit("°")


@dataclass(frozen=True)
class Filtered:
    """A channel as its filters are inspected.

    ``interval_s`` is that of the samples before the first; ``lag_s`` is their stated lag, ``most_lag_s`` the allowed
    one, 0 for any.

    ``noise_counts`` is the noise of the raw counts, 0 where the raw value is no count; ``lowest`` and ``highest`` are
    what the channel can read.
    """

    name: str
    key: Key
    before: Block
    after: Block
    interval_s: float
    lag_s: float
    most_lag_s: float
    noise_counts: float
    is_counts: bool
    unit: Unit
    lowest: float
    highest: float

    def written(self, reading: float) -> str:
        """Its entry in the project file."""
        return beside_unit(f"{reading:.12g}", self.unit.symbol)


def inspect_filters(filtered: Filtered, filters: Sequence[FilterEntry]) -> list[Note]:
    """Notes on a channel's filters."""
    if not filters:
        return []
    return [
        *_late(filtered),
        *_dropped(filtered),
        *_rates(filtered, filters),
        *_quiet(filtered, filters),
        *_mains(filtered, filters),
        *_over_the_seam(filtered, filters),
        *_kept_spike(filtered, filters),
    ]


def _late(filtered: Filtered) -> list[Note]:
    if not filtered.most_lag_s or filtered.lag_s <= filtered.most_lag_s:
        return []
    said = f"{filtered.name}: its filters lag by {plain_number(filtered.lag_s, 3)} s; "
    said += f"{plain_number(filtered.most_lag_s, 3)} s is allowed."
    return [
        Note(
            DOUBT,
            Step.CALM,
            filtered.name,
            said,
            figure=filtered.lag_s,
            unit="s",
            limit=filtered.most_lag_s,
            remedy="use shorter filters, or sample faster",
            place=(*filtered.key, 0),
            limit_at=("channels", filtered.name, "most_lag"),
        )
    ]


def _dropped(filtered: Filtered) -> list[Note]:
    """Good samples that filters dropped; bridged ones are not lost."""
    if len(filtered.before) != len(filtered.after) or not len(filtered.before):
        return []
    lost = int((filtered.before.usable & ~filtered.after.usable).sum())
    share = lost / len(filtered.before)
    if share <= WORST_DROPPED:
        return []
    said = f"{filtered.name}: filters drop {grouped(str(lost))} good samples, {plain_number(100 * share, 2)} %."
    return [
        Note(
            DOUBT,
            Step.CALM,
            filtered.name,
            said,
            figure=100 * share,
            unit="%",
            limit=100 * WORST_DROPPED,
            remedy="widen their limits, or look at the signal before them",
            place=(*filtered.key, 0),
        )
    ]


def _rates(filtered: Filtered, filters: Sequence[FilterEntry]) -> list[Note]:
    notes = []
    for index, (entry, own_s) in enumerate(zip(filters, intervals_s(filters, filtered.interval_s), strict=False)):
        rate, own = entry.told_hz, 1.0 / own_s if own_s > 0 else 0.0
        if not rate or not own or abs(rate / own - 1.0) <= SAME_RATE:
            continue
        name = entry.kind.rate
        unit = next(parameter.unit for parameter in entry.kind.parameters if parameter.name == name)
        right = f"{own_s:.6g} s" if unit == "s" else f"{own:.6g} Hz"
        said = (
            f"{filtered.name}: filter {index + 1}, {entry.kind.name}, is told {plain_number(rate, 4)} Hz; samples come "
        )
        text = f"{said}at {plain_number(own, 4)} Hz."
        remedy, mend = f"write {name} = {right}", (Mend((*filtered.key, index, name), right),)
        why = _why_not(entry, name, right, filtered.unit)
        notes.append(
            Note(
                DOUBT,
                Step.CALM,
                filtered.name,
                text,
                figure=rate,
                unit="Hz",
                limit=own,
                remedy=f"{remedy}, and mind that {why}" if why else remedy,
                mend=() if why else mend,
                place=(*filtered.key, index, name),
            )
        )
    return notes


def _why_not(entry: FilterEntry, name: str, right: str, unit: Unit) -> str:
    """Why a filter with one value changed is not allowed; empty where it is."""
    values, problems = read_table(entry.kind.parameters, {**entry.written, name: right}, "", also=("kind",))
    if problems:
        return problems[0].wanted
    try:
        entry.kind.build(values, unit)
    except (ValueError, UnitError) as error:
        return str(error).rstrip(".")
    return ""


def _quiet(filtered: Filtered, filters: Sequence[FilterEntry]) -> list[Note]:
    """A note on averaging a signal that is quieter than its counts."""
    means = [index for index, entry in enumerate(filters) if entry.kind.averages]
    if not filtered.is_counts or not means or filtered.noise_counts >= QUIET_COUNTS:
        return []
    said = f"{filtered.name}: its noise is {plain_number(filtered.noise_counts, 2)} counts; averaging finds nothing "
    return [
        Note(
            REMARK,
            Step.CALM,
            filtered.name,
            f"{said}between two counts.",
            figure=filtered.noise_counts,
            unit="ct",
            limit=QUIET_COUNTS,
            remedy="a finer converter or more gain would, or remove the filter",
            place=(*filtered.key, means[0]),
        )
    ]


def _mains(filtered: Filtered, filters: Sequence[FilterEntry]) -> list[Note]:
    """A note on a mean that is nearly, but not quite, a whole number of mains periods: it lets hum through."""
    notes = []
    for index, (entry, own_s) in enumerate(zip(filters, intervals_s(filters, filtered.interval_s), strict=False)):
        if not own_s or 1.0 / own_s < FAST_ENOUGH_HZ:
            continue
        samples = int(entry.values.get(entry.kind.evenly_over, 0))
        periods = samples * own_s / MAINS_S
        whole = max(round(periods), 1)
        better = round(whole * MAINS_S / own_s)
        if samples < 2 or better == samples or periods < 0.5:
            continue
        length = plain_number(1000 * samples * own_s, 3)
        said = f"{filtered.name}: a {entry.kind.name} of {samples} is {length} ms, not a "
        notes.append(
            Note(
                REMARK,
                Step.CALM,
                filtered.name,
                f"{said}whole number of periods of 50 Hz, so some hum is left.",
                figure=periods,
                limit=float(whole),
                remedy=f"take {counted(better, 'sample')}",
                mend=(Mend((*filtered.key, index, entry.kind.evenly_over), better),),
            )
        )
    return notes


def _over_the_seam(filtered: Filtered, filters: Sequence[FilterEntry]) -> list[Note]:
    """A note on a circular reading after a filter that takes 359° and 1° for the two ends of a scale."""
    turn = _turn_of(filtered)
    wrong = [index for index, entry in enumerate(filters) if entry.kind.name in PLAIN_AVERAGES]
    if not turn or not wrong:
        return []
    good = filtered.before.x[filtered.before.usable]
    over = int(np.count_nonzero(np.abs(np.diff(good)) > 0.5 * turn))
    if not over:
        return []
    index, kind = wrong[0], filters[wrong[0]].kind.name
    key, ends = (*filtered.key, index), (filtered.lowest, filtered.lowest + turn)
    near = (ends[1] - turn / 36.0, ends[0] + turn / 36.0, ends[0] + 0.5 * turn)
    says = [beside_unit(plain_number(each, 3), filtered.unit.symbol) for each in (*near, *ends)]
    written = {"kind": "circular mean", **dict(zip(("lowest", "highest"), map(filtered.written, ends), strict=True))}
    has_samples = "samples" in filters[index].values
    others = dict.fromkeys(each for each in filters[index].written if each not in ("kind", "samples"))
    return [
        Note(
            DOUBT,
            Step.CALM,
            filtered.name,
            f"{filtered.name}: it comes round {times_said(grouped(str(over)))}, and of {says[0]} and {says[1]} "
            f"{'an' if kind == 'exponential' else 'a'} {kind} makes {says[2]}.",
            figure=float(over),
            limit=0.0,
            remedy=f"use a circular mean from {says[3]} to {says[4]}",
            place=key,
            mend=tuple(Mend((*key, name), value) for name, value in (others | written).items()) if has_samples else (),
        )
    ]


def _turn_of(filtered: Filtered) -> float:
    """A full turn in the reading's unit, where it is an angle that goes all round; else 0."""
    if not filtered.unit.same_dimension(DEGREE):
        return 0.0
    turn = float(360 * DEGREE.scale / filtered.unit.scale)
    return turn if NEARLY_ROUND * turn <= filtered.highest - filtered.lowest <= (1.0 + 1e-9) * turn else 0.0


def inspect_hum(channel: str, after: Block, rate_hz: float, shown: float) -> list[Note]:
    """A note where mains hum makes most of the noise that is left.

    ``rate_hz`` is that of the samples, ``shown`` the last digit in the block's unit: a doubt where hum moves it.
    """
    hum = hum_in(after)
    if hum is None:
        return []
    seen = f"{plain_number(hum.seen_hz, 3)} Hz"
    is_itself = rate_hz > 2.0 * hum.mains_hz
    how = (
        "as the mains gives"
        if is_itself
        else (f"as the mains of {hum.mains_hz:g} Hz looks when it is read at {plain_number(rate_hz, 4)} Hz")
    )
    return [
        Note(
            DOUBT if 2.0 * hum.height > shown else REMARK,
            Step.CALM,
            channel,
            f"{channel}: {plain_number(round(100 * hum.share), 2)} % of its noise is one wave of {seen}, {how}.",
            figure=100 * hum.share,
            unit="%",
            limit=100 * MOSTLY,
            remedy=f"a mean of {hum.samples} leaves {plain_number(100 * hum.left, 2)} % of it; "
            "short, twisted wires keep it out",
        )
    ]


def inspect_alarm(channel: str, key: Key, alarm: Alarm, block: Block, noise: float, unit: Unit) -> list[Note]:
    """A note on an alarm that chatters over a block. ``key`` is where it stands; ``noise`` is that of the block."""
    facts = alarm_facts(alarm, block)
    if facts.soon < FEWEST_SOON:
        return []
    remedy, mend = _still(key, alarm, block, noise, unit)
    return [
        Note(
            DOUBT,
            Step.CALM,
            channel,
            f"{channel}: alarm {alarm.name} chatters: of {len(facts.changes_s)} changes {facts.soon} come within "
            f"{SOON_S:g} s of the one before.",
            figure=float(facts.soon),
            limit=float(FEWEST_SOON),
            remedy=remedy,
            mend=mend,
        )
    ]


def _still(key: Key, alarm: Alarm, block: Block, noise: float, unit: Unit) -> tuple[str, tuple[Mend, ...]]:
    """The least hysteresis, doubled as often as sensible, with which it is still over the block; else a least time."""
    least = max(WIDE_OF_NOISE * noise, 2.0 * alarm.hysteresis, 1e-9 * abs(alarm.limit))
    for doubled in range(DOUBLED):
        wide = float(f"{least * 2**doubled:.2g}")
        if alarm_facts(replace(alarm, hysteresis=wide), block).soon < FEWEST_SOON:
            written = f"{plain_number(wide, 2).replace('−', '-')} {unit.step}".removesuffix(" 1")
            return f"a hysteresis of {written}, or a least time", (Mend((*key, "hysteresis"), written),)
    for least_s in LEAST_TIMES_S:
        if least_s > alarm.least_s and alarm_facts(replace(alarm, least_s=least_s), block).soon < FEWEST_SOON:
            return f"a least time of {least_s:g} s", (Mend((*key, "least"), f"{least_s:g} s"),)
    return "filter it more, or set another limit", ()


KEEPS_WHAT_COMES = ("hold", *(kind.name for kind in (HIGHEST, LOWEST)))
"""Filters that leave a spike as high as it was."""


def _kept_spike(filtered: Filtered, filters: Sequence[FilterEntry]) -> list[Note]:
    """A note on an extreme that is a single glitch: nothing after it ever shows."""
    notes = []
    for index, entry in enumerate(filters):
        if entry.kind.name not in KEEPS_WHAT_COMES:
            break
        if entry.kind not in (HIGHEST, LOWEST):
            continue
        side, usable = 1.0 if entry.kind is HIGHEST else -1.0, filtered.before.usable
        x = side * filtered.before.x[usable]
        calm = without_spikes(x)
        at = int(np.argmax(x)) if len(x) else 0
        if not len(x) or x[at] == calm[at]:
            continue
        value = format_quantity(float(side * x[at]), filtered.unit, 4)
        off = format_quantity(float(x[at] - calm[at]), filtered.unit.step, 4)
        when = clock(float(filtered.before.t[usable][at]))
        how_long = f"for {lasting(entry.values['every'])} at most" if entry.values["every"] else "for good"
        notes.append(
            Note(
                DOUBT,
                Step.CALM,
                filtered.name,
                f"{filtered.name}: the {entry.kind.name}, {value} at {when}, is a spike, {off} away from its "
                f"neighbours, and is kept {how_long}.",
                figure=float(x[at] - calm[at]),
                unit=filtered.unit.step.symbol,
                remedy="median 5 before it removes spikes",
                place=(*filtered.key, index),
            )
        )
    return notes
