"""How fine a reading is: how many bits of a converter mean something, and what averaging gains."""

from __future__ import annotations

import math
from itertools import pairwise

import numpy as np

from lesart.core.block import Block
from lesart.core.dataclass_later import dataclass
from lesart.core.ranked import grouped_median

QUIET_COUNTS = 0.3
"""Noise below this share of a count leaves a converter silent between two codes: averaging then gains nothing."""
FEWEST_MEANS = 8
"""The fewest means to take a spread from."""
TERMS = 60
"""Terms of the Fourier series; with any noise at all those after the first few vanish."""


def effective_bits(span_counts: float, noise_counts: float) -> float:
    """Bits of an ideal converter whose rounding alone would be as noisy: log₂(span ÷ (noise × √12)).

    Never more than the span has. Source: definition of the effective number of bits, with LSB ÷ √12 for rounding.
    """
    if not span_counts > 0:
        return float("nan")
    noise = max(noise_counts, 1.0 / math.sqrt(12.0))
    return math.log2(span_counts / (noise * math.sqrt(12.0)))


@dataclass(frozen=True)
class Averaged:
    """The mean of ``samples`` samples, which varies by ``spread`` from one mean to the next, in the block's unit."""

    samples: int
    spread: float


def averaging(block: Block) -> tuple[Averaged, ...]:
    """What averaging 1, 2, 4 … good samples leaves of the spread, as long as there are eight means.

    Spread is that between neighbouring means ÷ √2, so that a slow drift counts only where the means are as long as it
    is; by their median and not by their squares, so that a weight put on now and then does not count at all.
    Source: the two-sample (Allan) variance, IEEE 1139.
    """
    means = block.x[block.usable]
    found = []
    samples = 1
    while len(means) >= FEWEST_MEANS:
        steps = np.abs(np.diff(means))
        # A mostly constant signal has no median step.
        step = 1.4826 * grouped_median(steps) or float(np.sqrt(np.mean(steps * steps)))
        found.append(Averaged(samples, step / math.sqrt(2.0)))
        half = len(means) // 2
        means = 0.5 * (means[: 2 * half : 2] + means[1 : 2 * half : 2])
        samples *= 2
    return tuple(found)


def worth(found: tuple[Averaged, ...]) -> Averaged | None:
    """The longest average that still gains: up to there each doubling takes off at least a tenth."""
    best = found[0] if found else None
    for before, after in pairwise(found):
        if after.spread > 0.9 * before.spread:
            break
        best = after
    return best


def rounding_left(noise_counts: float) -> float:
    """What is left of one count, as a share of it, in a mean of samples that noise moves over several counts.

    ``noise_counts`` is the standard deviation of the counts as they are measured. Rounding has a part in it: a quarter
    of a count squared where a signal rests between two codes, which little noise throws to and fro; so much is taken
    off, though it is a twelfth on average. A mean of rounded samples is off by up to half a count where there is no
    noise, and by less the more there is: at 0.5 counts as they are measured nothing is gained, at 0.6 a fourteenth
    of a count is left, at 0.7 less than a hundredth. Source: the sawtooth of the rounding error as its Fourier series,
    Σ (−1)ⁿ⁺¹ ÷ (π·n) · sin(2π·n·x), each term times exp(−2π²·n²·σ²) under Gaussian noise.
    """
    variance = noise_counts * noise_counts - 0.25
    if not variance > 0:
        return 1.0
    order = np.arange(1, TERMS + 1)[:, None]
    between = np.linspace(0.0, 0.5, 201)
    sines = (-1.0) ** (order + 1) / (math.pi * order) * np.sin(2.0 * math.pi * order * between)
    off = np.abs((sines * np.exp(-2.0 * (math.pi * order) ** 2 * variance)).sum(axis=0))
    return min(2.0 * float(off.max()), 1.0)


def honest_step(one_count: float, noise: float, *, left_of_count: float = 1.0) -> float:
    """The finest step that a last digit may show: what filters leave of a raw count, or twice the noise they leave."""
    return max(abs(one_count) * left_of_count, 2.0 * noise)
