"""Signals of the yard: the scale under hive 2 and the probe in its lid, on one invented May morning."""

from __future__ import annotations

import numpy as np

from lesart.core.block import Floats
from lesart.core.dataclass_later import dataclass

SEED = 20_260_514
RATE_HZ = 10.0
DURATION_S = 7200.0

GAIN_ERROR = 1.0062
OFFSET_KG = 0.214
"""The scale's own error: indicated = true × gain + offset. The references were taken on it too."""
GAIN_BEFORE, OFFSET_BEFORE_KG = 1.0048, 0.121
COUNTS_PER_KG = 2.0 / 200.0 / (1000.0 * 5.0 / (128.0 * 5.0)) * (1 << 23)
"""Inverse of the demo's own laws: 2 mV/V at 200 kg, 24 bits, gain 128, reference and excitation 5 V."""
PROBE_25_OHM, PROBE_BETA_K, HALF_OHM, SUPPLY_MV = 10_000.0, 3950.0, 10_000.0, 3300.0
TRUE_MASSES_KG = (0.0, 10.0, 20.0, 40.0)


@dataclass(frozen=True)
class Morning:
    """``bridge_ct`` whole counts, ``lid_mv`` and ``brood_mv`` millivolts at ``t_s``; NaN counts were never sent."""

    t_s: Floats
    bridge_ct: Floats
    lid_mv: Floats
    brood_mv: Floats


def _slow(random: np.random.Generator, length: int, span: int) -> Floats:
    """Noise of unit size that changes over about ``span`` samples."""
    knots = random.standard_normal(length // span + 3)
    steps: Floats = np.interp(np.arange(length) / span, np.arange(len(knots)), knots)
    return steps


def true_mass(random: np.random.Generator, t: Floats) -> Floats:
    """Slow gain, landings in twos and threes, and a frame lifted out at 38 min and put back at 44 min."""
    mass = 42.1 + 0.55 * (t / t[-1]) ** 1.6
    landings = np.zeros(len(t))
    for start in random.uniform(0, t[-1], 60):
        landings += 0.012 * random.integers(1, 5) * ((t >= start) & (t < start + random.uniform(20, 90)))
    frame = -2.63 * (np.clip((t - 2280) / 4, 0, 1) - np.clip((t - 2640) / 5, 0, 1))
    knocks = np.zeros(len(t))
    for moment, size in ((2280, 1.9), (2285, -1.4), (2640, 2.2), (2646, -1.1)):
        knocks += size * np.exp(-np.abs(t - moment) / 0.8)
    total: Floats = mass + landings + frame + knocks
    return total


def morning() -> Morning:
    """Two hours at 10 Hz, the same every time."""
    random = np.random.default_rng(SEED)
    t = np.arange(int(DURATION_S * RATE_HZ)) / RATE_HZ
    gusts = np.clip(_slow(random, len(t), 400), 0, None)
    wind = (0.03 + 0.14 * gusts) * _slow(random, len(t), 6) + 0.045 * random.standard_normal(len(t))
    indicated = (true_mass(random, t) + wind) * GAIN_ERROR + OFFSET_KG
    counts = np.rint(indicated * COUNTS_PER_KG)
    _spoil(random, counts)
    lid_c = 34.6 + 0.5 * np.sin(2 * np.pi * t / 5200) + 0.1 * _slow(random, len(t), 900)
    lid_c -= 2.4 * np.exp(-(((t - 2500) / 170) ** 2))  # the lid stood open while the frame was out
    lid_mv = 500.0 + 10.0 * lid_c + 1.6 * random.standard_normal(len(t))
    return Morning(t, counts, np.round(lid_mv, 1), np.round(_brood_mv(random, t), 1))


def _brood_mv(random: np.random.Generator, t: Floats) -> Floats:
    """The probe between the frames, a thermistor beside 10 kΩ on 3.3 V: bees keep brood within half a degree."""
    brood_c = 34.8 + 0.25 * np.sin(2 * np.pi * t / 3100) + 0.05 * _slow(random, len(t), 600)
    brood_c -= 0.9 * np.exp(-(((t - 2560) / 260) ** 2))  # a frame was out
    ohm = PROBE_25_OHM * np.exp(PROBE_BETA_K * (1 / (brood_c + 273.15) - 1 / 298.15))
    millivolts: Floats = SUPPLY_MV * ohm / (ohm + HALF_OHM) + 1.1 * random.standard_normal(len(t))
    return millivolts


def _spoil(random: np.random.Generator, counts: Floats) -> None:
    """Spoil samples in place: some missing, some at the converter's end, some garbage of a disturbed line."""
    places = random.choice(np.arange(200, len(counts) - 200), 30, replace=False)
    counts[places[:14]] = np.nan
    counts[places[14:20]] = (1 << 23) - 1
    counts[places[20:23]] = -(1 << 23)
    counts[places[23:]] = random.integers(-4_000_000, 4_000_000, 7)


def weighings() -> tuple[tuple[float, float], ...]:
    """``(true, indicated)`` in kg of the reference weighings before the hive was put on: 160 samples in still air."""
    return _weighed(GAIN_ERROR, OFFSET_KG, SEED + 1)


def weighings_before_winter() -> tuple[tuple[float, float], ...]:
    """The same seven months before, when the scale stood on dry ground."""
    return _weighed(GAIN_BEFORE, OFFSET_BEFORE_KG, SEED + 2)


def _weighed(gain: float, offset_kg: float, seed: int) -> tuple[tuple[float, float], ...]:
    random = np.random.default_rng(seed)
    return tuple(
        (true, round(float(true * gain + offset_kg + 0.012 * random.standard_normal()), 3)) for true in TRUE_MASSES_KG
    )
