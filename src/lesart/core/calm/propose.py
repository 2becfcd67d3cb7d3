"""A proposal: the cheapest filters that bring the noise down far enough and are not too late, tried on the capture."""

from __future__ import annotations

from collections.abc import Callable, Iterator, Sequence
from typing import Any

from lesart.core.block import Block
from lesart.core.calm.noise import Noise, noise_of
from lesart.core.calm.noise_left import noise_left
from lesart.core.calm.spiked import spikes
from lesart.core.dataclass_later import dataclass

Entry = dict[str, Any]
SMOOTHING = ("median", "mean", "exponential", "time constant", "low-pass", "tracking", "circular mean")
"""Filters that a proposal replaces; those that reject, hold or gate stay."""
MEDIANS = (0, 3, 5, 9)
MEANS = (2, 4, 8, 16, 32, 64, 128, 256)
WEIGHTS = (0.5, 0.25, 0.125, 0.0625, 0.03125, 0.015625)


@dataclass(frozen=True, eq=False)
class Behind:
    """A block after some filters, and what they state: ``noise_factor`` for white noise, the lag in seconds."""

    block: Block
    noise_factor: float
    lag_s: float


@dataclass(frozen=True)
class Tried:
    """Entries of the project file and their result: ``noise`` in the reading's unit as measured, the lag as stated."""

    entries: tuple[Entry, ...]
    noise: float
    lag_s: float


@dataclass(frozen=True)
class Proposal:
    """The cheapest proposal that meets both; where none does, the quietest that is not too late, and ``found`` is
    False."""

    tried: Tried
    found: bool


def candidates(circle: Entry | None = None) -> Iterator[tuple[Entry, ...]]:
    """Filters to try: none; a median, a mean or an exponential; a median with one of the other two after it.

    On a ``circle``, given by its ends, none and circular means.
    """
    if circle is not None:
        yield ()
        for samples in MEANS:
            yield ({"kind": "circular mean", "samples": samples, **circle},)
        return
    for median in MEDIANS:
        first: tuple[Entry, ...] = ({"kind": "median", "samples": median},) if median else ()
        yield first
        for samples in MEANS:
            yield (*first, {"kind": "mean", "samples": samples})
        for weight in WEIGHTS:
            yield (*first, {"kind": "exponential", "weight": f"{weight:g}"})


def propose(
    before: Block,
    through: Callable[[Sequence[Entry]], Behind],
    noise: float,
    lag_s: float,
    circle: Entry | None = None,
) -> Proposal:
    """For a wanted ``noise`` in the block's unit and an allowed lag.

    ``through`` gives what is after some entries; it is asked for the cheaper ones first, and no more once one meets
    both. Where spikes stand in ``before`` a median is part of it: a mean would smear them; but none goes round a
    ``circle``.
    """
    came = noise_of(before)
    needs_median = circle is None and spikes(before, came.sigma) > 0
    wanted = [
        entries
        for entries in candidates(circle)
        if not needs_median or any(entry["kind"] == "median" for entry in entries)
    ]
    best: Tried | None = None
    for entries in sorted(wanted, key=_price):
        each = _tried(entries, through(entries), came)
        if each.lag_s > lag_s:
            continue
        if each.noise <= noise:
            return Proposal(each, True)
        if best is None or each.noise < best.noise:
            best = each
    return Proposal(best or _tried((), through(()), came), False)


def _tried(entries: tuple[Entry, ...], behind: Behind, came: Noise) -> Tried:
    return Tried(entries, noise_left(came, behind.block, behind.noise_factor), behind.lag_s)


def _price(entries: tuple[Entry, ...]) -> tuple[float, float]:
    """Operations, then memory: a mean adds and subtracts whatever its length, a median sorts its whole window."""
    operations, memory = 0.0, 0.0
    for entry in entries:
        samples = entry.get("samples", 1)
        operations += {"median": 2.0 * samples, "mean": 3.0}.get(entry["kind"], 3.0)
        memory += 4.0 * samples
    return operations, memory
