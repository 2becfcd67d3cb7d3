"""How much noise a channel's filters leave of what came to them."""

from __future__ import annotations

import math

from lesart.core.calm.noise_left import noise_factor, noise_left
from lesart.core.chain import Chain
from lesart.core.some_of import some_of
from lesart.core.step import Step
from lesart.project.model import Channel, Project
from lesart.study.bench import Bench
from lesart.study.intervals import filters_interval_s


def noise_behind_filters(project: Project, channel: Channel, bench: Bench) -> float:
    """Standard deviation over the whole capture, in the channel's unit; that before them where there are none.

    Raises CaptureError where the capture cannot be read.
    """
    run = bench.run(project, channel)
    links = tuple(link for link in channel.chain.links if link.step is Step.CALM)
    before = bench.noise(run.blocks[Step.TRUE])
    if not links:
        return before

    def compute() -> float:
        factor = noise_factor(
            channel.filters,
            Chain(channel.unit, channel.unit, links),
            filters_interval_s(project, bench, channel),
            0.5 * (channel.lowest + channel.highest),
            # Not to the last digit: while a line talks it is another each time, and the factor hardly hangs on it.
            2.0 ** round(math.log2(before)) if before > 0 else 0.0,
        )
        return noise_left(before, some_of(run.calm), factor)

    return bench.once_for("noise left", channel, run.calm, compute)
