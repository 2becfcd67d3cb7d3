"""How often samples come at each place of a channel, and how late it is: the one home of these figures.

Windows of a law and filters that thin out change how often samples come, so every link has an interval of its own.
"""

from __future__ import annotations

from lesart.core.calm.record import TotalCost, total_cost
from lesart.core.dataclass_later import dataclass
from lesart.core.errors import LesartError
from lesart.core.law.stage import WindowStage
from lesart.core.step import Step
from lesart.project.model import Channel, Project
from lesart.study.bench import Bench
from lesart.study.tokens import token_of

UNKNOWN_S = 1.0
"""From reading to reading where no capture says it."""


@dataclass(frozen=True)
class Lateness:
    """``raw_s`` from raw sample to raw sample; ``cost`` of the filters, each at its own interval; ``windows_s`` how
    late the windows of its laws are, whose value stands for their middle and comes at their end."""

    raw_s: float
    before_filters_s: float
    cost: TotalCost
    windows_s: float

    @property
    def lag_s(self) -> float:
        """How far the reading lies behind what it measures: windows and filters."""
        return self.windows_s + self.cost.lag_s

    @property
    def waits_s(self) -> float:
        """How much longer than from raw sample to raw sample it is from reading to reading."""
        return max(self.cost.interval_s - self.raw_s, 0.0)

    @property
    def readings_a_sample(self) -> float:
        """Values that come to the filters for each raw sample."""
        return min(self.raw_s / self.before_filters_s, 1.0) if self.before_filters_s > 0 else 1.0


def raw_interval_s(project: Project, bench: Bench, channel: Channel) -> float:
    """From raw sample to raw sample, as the capture has it; a second where it cannot be read."""
    try:
        return bench.timing(bench.raw(project, channel)).interval_s or UNKNOWN_S
    except LesartError:
        return UNKNOWN_S


def filters_interval_s(project: Project, bench: Bench, channel: Channel) -> float:
    """From sample to sample before the first filter: as they came, or as the windows of its laws say."""
    try:
        came = bench.timing(bench.run(project, channel).blocks[Step.TRUE]).interval_s
    except LesartError:
        came = 0.0
    windows = _windows(channel)
    return came or (windows[-1].law.hop_s if windows else raw_interval_s(project, bench, channel))


def filters_lag_s(project: Project, bench: Bench, channel: Channel) -> float:
    """How late the channel's filters are, one after another."""
    return total_cost(channel.filters, filters_interval_s(project, bench, channel)).lag_s


def lateness(project: Project, bench: Bench, channel: Channel) -> Lateness:
    """Of a channel, from its capture."""
    if bench.views:
        # Captures of lines that are listened to grow meanwhile.
        return _lateness(project, bench, channel)
    return bench.once_known(("lateness", token_of(channel)), lambda: _lateness(project, bench, channel))


def _lateness(project: Project, bench: Bench, channel: Channel) -> Lateness:
    before = filters_interval_s(project, bench, channel)
    return Lateness(
        raw_s=raw_interval_s(project, bench, channel),
        before_filters_s=before,
        cost=total_cost(channel.filters, before),
        windows_s=sum(stage.law.window_s / 2 for stage in _windows(channel)),
    )


def _windows(channel: Channel) -> list[WindowStage]:
    return [link.stage for link in channel.chain.links if isinstance(link.stage, WindowStage)]
