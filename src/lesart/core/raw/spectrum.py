"""Levels of a waveform by bands of frequency, for bars on a panel."""

from __future__ import annotations

import numpy as np

from lesart.core.block import Floats
from lesart.core.dataclass_later import dataclass

FEWEST = 16
"""The fewest samples for a spectrum."""


@dataclass(frozen=True)
class Bands:
    """``count`` bands between two frequencies, in equal ratios, over the last ``span_s``."""

    span_s: float
    count: int
    lowest_hz: float
    highest_hz: float

    def edges_hz(self) -> Floats:
        """The ``count`` + 1 edges of the bands."""
        ratio = self.highest_hz / self.lowest_hz
        return self.lowest_hz * ratio ** (np.arange(self.count + 1) / self.count)


def levels_db(x: Floats, interval_s: float, bands: Bands) -> tuple[float, ...]:
    """Level of each band: 10·log₁₀ of the mean square in it, in the signal's unit; NaN where there is none.

    ``x`` of shape (n,), evenly spaced. The mean is subtracted and a Hann window applied; the power of a line spreads
    over two or three bins, and all of them are counted. A band between two bins takes the nearest one. Source:
    Parseval's theorem.
    """
    n = len(x)
    if n < FEWEST or not interval_s > 0:
        return (float("nan"),) * bands.count
    window = np.hanning(n)
    power = np.abs(np.fft.rfft((x - x.mean()) * window)) ** 2
    # One-sided, so doubled; the window's own power is divided out.
    power = 2.0 * power / (n * np.sum(window**2))
    frequency = np.arange(len(power)) / (n * interval_s)
    nyquist = 0.5 / interval_s
    found = []
    for low, high in zip(bands.edges_hz()[:-1], bands.edges_hz()[1:], strict=True):
        if low >= nyquist:
            found.append(float("nan"))
            continue
        inside = (frequency >= low) & (frequency < high)
        total = power[inside].sum() if inside.any() else power[np.argmin(np.abs(frequency - (low * high) ** 0.5))]
        found.append(float(10.0 * np.log10(total)) if total > 0 else float("-inf"))
    return tuple(found)
