"""A proposal: the cheapest filters that bring the noise down far enough and are not too late, tried on the capture."""

from __future__ import annotations

from collections.abc import Callable, Iterator, Sequence
from typing import Any

from lesart.core.block import Block
from lesart.core.calm.effect import noise_about_trend, spikes
from lesart.core.dataclass_later import dataclass

Entry = dict[str, Any]
SMOOTHING = ("median", "mean", "exponential", "time constant", "low-pass", "tracking")
"""Filters that a proposal takes the place of; what rejects, holds or gates stays."""
MEDIANS = (0, 3, 5, 9)
MEANS = (2, 4, 8, 16, 32, 64, 128, 256)
WEIGHTS = (0.5, 0.25, 0.125, 0.0625, 0.03125, 0.015625)


@dataclass(frozen=True)
class Tried:
    """Entries of the project file, and what they come to: ``noise`` in the reading's unit as measured, the lag and the
    operations a sample as stated.
    """

    entries: tuple[Entry, ...]
    noise: float
    lag_s: float
    operations: float


@dataclass(frozen=True)
class Proposal:
    """The cheapest that meets both; where none does, the quietest that is not too late, and ``found`` is False."""

    tried: Tried
    found: bool


def candidates() -> Iterator[tuple[Entry, ...]]:
    """Nothing; a median, a mean or an exponential; a median with one of both behind it."""
    for median in MEDIANS:
        first: tuple[Entry, ...] = ({"kind": "median", "samples": median},) if median else ()
        yield first
        for samples in MEANS:
            yield (*first, {"kind": "mean", "samples": samples})
        for weight in WEIGHTS:
            yield (*first, {"kind": "exponential", "weight": f"{weight:g}"})


def propose(
    before: Block, through: Callable[[Sequence[Entry]], tuple[Block, float, float]], noise: float, lag_s: float
) -> Proposal:
    """For a wanted ``noise`` in the block's unit and an allowed lag.

    ``through`` gives the block behind some entries, their lag in seconds and their operations; it is asked for the
    cheaper ones first, and no more once one meets both. Where spikes stand in ``before`` a median is part of it: a mean
    would smear them.
    """
    needs_median = spikes(before) > 0
    tried = []
    for entries in candidates():
        if needs_median and not any(entry["kind"] == "median" for entry in entries):
            continue
        tried.append(entries)
    best: Tried | None = None
    for entries in sorted(tried, key=_price):
        after, lag, operations = through(entries)
        if lag > lag_s:
            continue
        each = Tried(entries, noise_about_trend(after), lag, operations)
        if each.noise <= noise:
            return Proposal(each, True)
        if best is None or each.noise < best.noise:
            best = each
    if best is None:
        after, lag, operations = through(())
        best = Tried((), noise_about_trend(after), lag, operations)
    return Proposal(best, False)


def _price(entries: tuple[Entry, ...]) -> tuple[float, float]:
    """Operations, then memory: a mean adds and takes away whatever its length, a median sorts all of its own."""
    operations, memory = 0.0, 0.0
    for entry in entries:
        samples = entry.get("samples", 1)
        operations += {"median": 2.0 * samples, "mean": 3.0}.get(entry["kind"], 3.0)
        memory += 4.0 * samples
    return operations, memory
