"""Sample intervals at each link of a channel, and its lag: the one home of these figures.

Laws with windows and filters that thin out change the interval, so every link has its own.
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
"""Seconds between readings where no capture has them."""


@dataclass(frozen=True)
class Lateness:
    """``raw_s`` between raw samples; ``cost`` of the filters, each at its own interval; ``windows_s`` is the lag of its
    laws' windows, whose value is for their middle and comes at their end."""

    raw_s: float
    before_filters_s: float
    cost: TotalCost
    windows_s: float

    @property
    def lag_s(self) -> float:
        """Lag of the reading by windows and filters, in seconds."""
        return self.windows_s + self.cost.lag_s

    @property
    def waits_s(self) -> float:
        """Extra seconds between readings compared with raw samples."""
        return max(self.cost.interval_s - self.raw_s, 0.0)

    @property
    def readings_a_sample(self) -> float:
        """Values that reach the filters per raw sample."""
        return min(self.raw_s / self.before_filters_s, 1.0) if self.before_filters_s > 0 else 1.0


def raw_interval_s(project: Project, bench: Bench, channel: Channel) -> float:
    """Seconds between raw samples in the capture; one second where it cannot be read."""
    try:
        return bench.timing(bench.raw(project, channel)).interval_s or UNKNOWN_S
    except LesartError:
        return UNKNOWN_S


def filters_interval_s(project: Project, bench: Bench, channel: Channel) -> float:
    """Seconds between samples before the first filter: as they came, or by the windows of its laws."""
    try:
        came = bench.timing(bench.run(project, channel).blocks[Step.TRUE]).interval_s
    except LesartError:
        came = 0.0
    windows = _windows(channel)
    return came or (windows[-1].law.hop_s if windows else raw_interval_s(project, bench, channel))


def filters_lag_s(project: Project, bench: Bench, channel: Channel) -> float:
    """Lag of all the channel's filters, in seconds."""
    return total_cost(channel.filters, filters_interval_s(project, bench, channel)).lag_s


def lateness(project: Project, bench: Bench, channel: Channel) -> Lateness:
    """The lateness of a channel, from its capture."""
    if bench.views:
        # Captures of live lines grow meanwhile.
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
