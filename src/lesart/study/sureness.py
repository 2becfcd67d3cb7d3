"""How fine and how sure a channel is at a time: its budget, its noise, and the residual of references."""

from __future__ import annotations

import math

import numpy as np

from lesart.core.block import Block
from lesart.core.calm.noise_left import noise_factor, noise_left
from lesart.core.chain import Chain
from lesart.core.dataclass_later import dataclass
from lesart.core.errors import LesartError
from lesart.core.fit.inspect import OneCount
from lesart.core.law.budget import Budget, budget_of
from lesart.core.law.over_time.stage import adds_up
from lesart.core.law.resolution import honest_step, rounding_left
from lesart.core.one_count import one_count
from lesart.core.some_of import MOST, some_of
from lesart.core.step import Step
from lesart.core.true.trust import left_by
from lesart.project.facts.tolerances import Tolerances, counts_pulses, tolerances_of
from lesart.project.model import Channel, Project
from lesart.study.bench import Bench
from lesart.study.intervals import filters_interval_s

REACH = 0.1
"""References count up to this share of their span beyond them; a note says where they end."""


@dataclass(frozen=True, eq=False)
class Sureness:
    """All in the channel's unit.

    ``noise`` is that before the filters, ``rest`` what they leave of it; ``left_of_count`` is the share of one count
    that is left of its rounding after filters that average.

    ``left`` is what the references leave unexplained, where a correction is adopted; within ``covered`` it stands in
    place of the tolerances, which it has taken out. ``tolerances`` is what the budget was made from.
    """

    raw: float
    budget: Budget
    one_count: float
    left_of_count: float
    noise: float
    rest: float
    left: float | None
    covered: tuple[float, float] | None
    tolerances: Tolerances
    is_pulse: bool

    @property
    def finest(self) -> float:
        """The finest step that a last digit may show."""
        return honest_step(self.one_count, self.rest, left_of_count=self.left_of_count)

    @property
    def one(self) -> OneCount:
        """One raw count, and the step resolved after the filters."""
        return OneCount(self.one_count, min(self.one_count, self.finest), self.is_pulse)

    @property
    def is_corrected(self) -> bool:
        """True where references cover this reading, or nearly so."""
        if self.left is None or self.covered is None:
            return False
        low, high = self.covered
        reach = REACH * (high - low)
        return low - reach <= self.budget.reading <= high + reach

    @property
    def off(self) -> float | None:
        """How far it may be off but for noise: by references where they reach, by tolerances elsewhere.

        None where nothing is known of it: where all that is said of tolerances cancels, nothing is.
        """
        if self.is_corrected:
            return self.left
        tolerances = self.budget.of("tolerance")
        return None if all(share.cancels for share in tolerances.shares) else tolerances.likely


def sureness_at(project: Project, channel: Channel, bench: Bench, raw: float, at_s: float) -> Sureness:
    """The sureness for a raw value at a time of the capture. Raises CaptureError where a capture cannot be read."""
    standing = bench.standing(project, channel, at_s)
    sure = {name: _sure_of(project, project.channels[name], bench, at_s) for name in channel.chain.reads}
    tolerances = tolerances_of(project, channel, standing, sure)
    one_count = one_count_of(bench, standing, bench.raw(project, channel), raw)
    run = bench.run(project, channel)
    noise = 0.0 if adds_up(channel.chain) else bench.noise(bench.on_a_line(channel, run.blocks[Step.LAW]))
    rest = noise_behind_filters(project, channel, bench)
    is_pulse = counts_pulses(project, channel)
    budget = budget_of(
        lambda shares: tolerances.evaluate(raw, shares),
        tolerances.doubts,
        one_count,
        noise,
        is_pulse=is_pulse,
    )
    left = left_by(channel.correction, channel.references)
    return Sureness(
        raw=raw,
        budget=budget,
        one_count=one_count,
        left_of_count=_left_of_count(channel, noise, one_count),
        noise=noise,
        rest=rest,
        left=left,
        covered=(-math.inf, math.inf) if channel.correction.is_all_around else channel.correction.covered,
        tolerances=tolerances,
        is_pulse=is_pulse,
    )


def one_count_of(bench: Bench, standing: Channel, column: Block, raw: float) -> float:
    """Change of the reading per raw count at ``raw``, in the channel's unit; 0 where the raw value is not a count, and
    for a total, to which a count is one contribution of many. ``column`` is its raw column: codes that never occur are
    not steps."""
    if standing.unit_raw.symbol != "ct" or adds_up(standing.chain):
        return 0.0
    change = one_count(standing.chain, raw, bench.code_step(column))
    return change if math.isfinite(change) else 0.0


def _left_of_count(channel: Channel, noise: float, one_count: float) -> float:
    """The share of a count left: all of it where no filter averages, or the raw value is not a count.

    By the noise of the reading, since that of wrapping raw counts would seem large.
    """
    if not one_count or not any(entry.kind.averages for entry in channel.filters):
        return 1.0
    return rounding_left(noise / one_count)


def sureness_in_the_middle(project: Project, channel: Channel, bench: Bench) -> Sureness | None:
    """The sureness at the median of the good samples of the capture, cached; None without one."""
    raw = bench.run(project, channel).blocks[Step.RAW]

    def compute() -> Sureness | None:
        good = np.flatnonzero(raw.usable)
        if not len(good):
            return None
        # The median value, and not that in the middle of the time, where there may be a peak.
        some = good[:: max(len(good) // MOST, 1)]
        middle = int(some[np.argpartition(raw.x[some], len(some) // 2)[len(some) // 2]])
        return sureness_at(project, channel, bench, float(raw.x[middle]), float(raw.t[middle]))

    return bench.once_for("sureness", channel, raw, compute)


def _sure_of(project: Project, channel: Channel, bench: Bench, at_s: float) -> float:
    """How far another channel may be off; 0 where unknown."""
    try:
        run = bench.run(project, channel)
        index = max(int(np.searchsorted(run.blocks[Step.RAW].t, at_s, side="right")) - 1, 0)
        raw = float(run.blocks[Step.RAW].x[index]) if len(run.blocks[Step.RAW]) else math.nan
        if not math.isfinite(raw):
            return 0.0
        off = sureness_at(project, channel, bench, raw, at_s).off
    except LesartError:
        return 0.0
    return off if off is not None and math.isfinite(off) else 0.0


def noise_behind_filters(project: Project, channel: Channel, bench: Bench) -> float:
    """Standard deviation over the whole capture, in the channel's unit; that before them where there are none.

    A total goes on from where it was, and has none. Raises CaptureError where the capture cannot be read.
    """
    run = bench.run(project, channel)
    if adds_up(channel.chain):
        return 0.0
    links = tuple(link for link in channel.chain.links if link.step is Step.CALM)
    came, calm = bench.on_a_line(channel, run.blocks[Step.TRUE]), bench.on_a_line(channel, run.calm)
    noise = bench.noise_of(came)
    before = noise.sigma
    if not links:
        return before

    interval_s, middle = filters_interval_s(project, bench, channel), 0.5 * (channel.lowest + channel.highest)

    # Rounded: on a live line it changes each time, and the factor hardly depends on it.
    about = 2.0 ** round(math.log2(before)) if before > 0 else 0.0
    chain = Chain(channel.unit, channel.unit, links)

    def compute() -> float:
        factor = bench.once_known(
            ("noise factor", links, channel.unit, interval_s, middle, about),
            lambda: noise_factor(channel.filters, chain, interval_s, middle, about),
        )
        return noise_left(noise, some_of(calm), factor)

    # Cached by its inputs, or each edit of a field would compute it again.
    what = ("noise left", links, channel.unit, interval_s, middle)
    return bench.once_of(what, came, calm, compute=compute)
