"""Earlier readings of channels, for items that show them: trends in steps, spectra by bands."""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import dataclass, field, replace

import numpy as np

from lesart.core.block import Block
from lesart.core.fit.field import Reading
from lesart.core.glass.faces.face import Face
from lesart.core.glass.faces.shapes import Spectrum, Trend
from lesart.core.raw.spectrum import Bands, levels_db
from lesart.core.step import Step
from lesart.study.run import Run


@dataclass
class Wanted:
    """Requests of items for a channel's past: spans and steps of trends, and bands of spectra."""

    trends: set[tuple[float, int]] = field(default_factory=set)
    spectra: set[Bands] = field(default_factory=set)


def wanted_of(faces: Iterable[Face]) -> dict[str, Wanted]:
    """Requests by channel, without channels that have none."""
    found: dict[str, Wanted] = {}
    for face in faces:
        for item in face.items:
            if isinstance(item, Trend):
                found.setdefault(item.channel, Wanted()).trends.add((item.span_s, item.width))
            elif isinstance(item, Spectrum):
                found.setdefault(item.channel, Wanted()).spectra.add(item.bands)
    return found


def with_past(reading: Reading, run: Run, at_s: float, wanted: Wanted) -> Reading:
    """The reading with its past."""
    past = tuple((span_s, steps, past_of(run.calm, at_s, span_s, steps)) for span_s, steps in sorted(wanted.trends))
    spectra = tuple((bands, spectrum_at(run.blocks[Step.RAW], at_s, bands)) for bands in wanted.spectra)
    return replace(reading, past=past, spectra=spectra)


def spectrum_at(block: Block, at_s: float, bands: Bands) -> tuple[float, ...]:
    """Levels of the raw waveform over the last span; none where samples of it are bad."""
    first, behind = np.searchsorted(block.t, (at_s - bands.span_s, at_s), side="right")
    t, x = block.t[first:behind], block.x[first:behind]
    if len(t) < 2 or not block.usable[first:behind].all():
        return (float("nan"),) * bands.count
    return levels_db(x, float(t[-1] - t[0]) / (len(t) - 1), bands)


def past_of(block: Block, at_s: float, span_s: float, steps: int) -> tuple[float, ...]:
    """The last sample of each step, the last step ending at ``at_s``; NaN for an empty step, or a bad sample."""
    edges = at_s - span_s + span_s * np.arange(steps + 1) / steps
    places = np.searchsorted(block.t, edges, side="right")
    last = places[1:] - 1
    came = places[1:] > places[:-1]
    if not len(block):
        return (float("nan"),) * steps
    usable = block.usable[np.maximum(last, 0)]
    return tuple(np.where(came & usable, block.x[np.maximum(last, 0)], np.nan).tolist())
