"""The chain of a thermistor on a converter of sixteen bits, each filter alone, and each law alone."""

from __future__ import annotations

import math
from collections.abc import Callable, Iterator
from functools import partial

import numpy as np
from tools.bench.floor import Floor
from tools.bench.sides import Row, row

from lesart.core import calm, law
from lesart.core.block import Block
from lesart.core.chain import Chain, Stage, compile_chain
from lesart.core.fit.rounding import rounded_steps
from lesart.core.law.divider import LowerHalf
from lesart.core.law.over_time.stage import OverTimeStage
from lesart.core.law.resistive import Thermistor
from lesart.core.law.stage import LawStage, stage_of
from lesart.core.parameters import read_table
from lesart.core.step import Step
from lesart.core.through import through
from lesart.core.true.correction import Correction
from lesart.core.units import Unit, parse_unit

CELSIUS, COUNT, KG = parse_unit("°C"), parse_unit("ct"), parse_unit("kg")
THERMISTOR = Thermistor(0.001129148, 0.000234125, 0.0000000876741, -40, 125)
HALF = LowerHalf(3.3, 1e4)
LINE = Correction("line", 1.01, -0.2, None, CELSIUS)


def filter_of(kind: str, unit: Unit, **written: object) -> Stage:
    """A filter as a project would write it."""
    values, problems = read_table(calm.KINDS[kind].parameters, written, "f")
    assert not problems, problems
    return calm.KINDS[kind].build(values, unit)


def thermistor_chain() -> Chain:
    """Converter, half of a divider, thermistor, line, mean 16, median 5, exponential."""
    converter, _ = read_table(law.KINDS["converter"].parameters, {"bits": 16, "reference": "3.3 V"}, "l")
    laws = (
        LawStage("converter", law.KINDS["converter"].build(converter)),
        LawStage("half of a divider", HALF),
        LawStage("thermistor", THERMISTOR),
    )
    filters = (
        filter_of("mean", CELSIUS, samples=16),
        filter_of("median", CELSIUS, samples=5),
        filter_of("exponential", CELSIUS, weight="0.1"),
    )
    stages = [*((Step.LAW, "law", each) for each in laws), (Step.TRUE, "true", LINE)]
    return compile_chain(COUNT, [*stages, *((Step.CALM, "calm", each) for each in filters)], CELSIUS)


def counts(samples: int) -> Block:
    """A day and night of codes with noise, ten a second."""
    rng = np.random.default_rng(16)
    slow = 30_000 + 3000 * np.sin(np.arange(samples) * (math.tau / 864_000))
    x = np.clip(np.round(slow + rng.normal(0, 40, samples)), 1, 65_534)
    return Block(np.arange(samples) / 10.0, x, np.zeros(samples, np.uint8))


def readings(samples: int) -> Block:
    """Kilograms that wander, with noise, a hundred a second."""
    rng = np.random.default_rng(1)
    x = 0.01 * np.cumsum(rng.normal(size=samples)) + rng.normal(size=samples)
    return Block(np.arange(samples) / 100.0, x, np.zeros(samples, np.uint8))


def _celsius(x: np.ndarray) -> np.ndarray:
    volts = x * (3.3 / 65536)
    ln = np.log(1e4 * volts / (3.3 - volts))
    return (1 / (0.001129148 + ln * (0.000234125 + 0.0000000876741 * ln * ln)) - 273.15) * 1.01 - 0.2


def _peers(x: np.ndarray) -> dict[str, Callable[[], object]]:
    """What a person would write, by the library used."""
    found: dict[str, Callable[[], object]] = {}
    try:
        from scipy.ndimage import median_filter
        from scipy.signal import lfilter

        def whole_arrays() -> object:
            mean = lfilter(np.full(16, 1 / 16), [1.0], _celsius(x))
            return np.round(lfilter([0.1], [1, -0.9], median_filter(mean, 5, origin=2)), 1)

        found["numpy and scipy"] = whole_arrays
    except ImportError:
        pass
    try:
        import pandas

        def frames() -> object:
            mean = pandas.Series(_celsius(x)).rolling(16).mean()
            return mean.rolling(5).median().ewm(alpha=0.1, adjust=False).mean().round(1)

        found["pandas"] = frames
    except ImportError:
        pass
    import polars

    def lazy() -> object:
        mean = polars.Series(_celsius(x)).rolling_mean(16)
        return mean.rolling_median(5).ewm_mean(alpha=0.1, adjust=False).round(1)

    found["polars"] = lazy
    return found


def chain_rows(floor: Floor, sizes: tuple[int, ...], rounds: int) -> Iterator[Row]:
    """The whole chain, at several sizes, with the exponent of growth."""
    made = thermistor_chain()
    times: dict[int, float] = {}
    for samples in sizes:
        block = counts(samples)

        def ours(block: Block = block) -> object:
            return rounded_steps(through(made, block).x, 1, "half away")

        found = row(
            f"chain of {samples:,} samples".replace(",", " "),
            ours,
            floor.of("chain", block),
            _peers(block.x),
            target=2.0 if samples >= 10_000_000 else 0.0,
            rounds=rounds,
        )
        times[samples] = found.ours_s
        yield found
    if len(times) > 1:
        least, most = min(times), max(times)
        power = math.log(times[most] / times[least]) / math.log(most / least)
        yield Row("chain: exponent of growth", math.nan, remark=f"{power:.2f}, 1.05 allowed")


FILTERS: dict[str, tuple[str, dict[str, object]]] = {
    "reject_range": ("reject range", {"lowest": "-300 kg", "highest": "300 kg"}),
    "reject_rate": ("reject rate", {"most": "600 kg/s", "after": 5}),
    "median": ("median", {"samples": 5}),
    "median101": ("median", {"samples": 101}),
    "mean": ("mean", {"samples": 16}),
    "exponential": ("exponential", {"weight": "0.1"}),
    "time_constant": ("time constant", {"time": "0.2 s", "interval": "0.01 s"}),
    "low_pass": ("low-pass", {"order": 2, "cutoff": "5 Hz", "rate": "100 Hz"}),
    "tracking": ("tracking", {"level": "0.2", "slope": "0.02"}),
    "deadband": ("deadband", {"width": "5 kg"}),
    "hold": ("hold", {"timeout": "1 s"}),
    "settling_gate": ("settling gate", {"samples": 10, "width": "3 kg"}),
    "decimate": ("decimate", {"n": 10}),
    "reject_mark": ("reject mark", {"marks": "settling"}),
    "lowest": ("lowest so far", {"every": "0 s"}),
    "highest": ("highest so far", {"every": "0 s"}),
    "trimmed_mean": ("trimmed mean", {"samples": 10, "dropped": 2}),
    "circular_mean": ("circular mean", {"samples": 8, "lowest": "-500 kg", "highest": "500 kg"}),
}


def filter_rows(floor: Floor, samples: int, rounds: int) -> Iterator[Row]:
    """Each filter alone beside its loop."""
    block = readings(samples)
    for loop, (kind, written) in FILTERS.items():
        made = compile_chain(KG, [(Step.CALM, "calm", filter_of(kind, KG, **written))], KG)

        def ours(made: Chain = made) -> object:
            return through(made, block)

        told = next(iter(written.values()))
        yield row(f"{kind} {told}", ours, floor.of(loop, block), target=3.0, rounds=rounds)


def law_rows(samples: int, rounds: int) -> Iterator[Row]:
    """Each law that takes a number alone or goes on from sample to sample, beside its formula over the whole array."""
    times = np.arange(samples) / 10.0
    for kind, made in alone():
        if isinstance(made, OverTimeStage):
            x = np.linspace(0.0, 100.0, samples)
            formula: Callable[[], object] = partial(made.law.advance, None, times, x)
        else:
            low, high = np.clip(made.law.valid_in, -1e4, 1e4)
            x = np.linspace(low + 0.01 * (high - low), high - 0.01 * (high - low), samples)
            formula = partial(_quietly, made.law.forward, x)
        block = Block(times, x, np.zeros(samples, np.uint8))
        chain = compile_chain(made.unit_in, [(Step.LAW, "law", made)], made.unit_out)
        ours = partial(through, chain, block)
        yield row(f"law: {kind}", ours, ("its formula over one array", formula), rounds=rounds)


def alone() -> Iterator[tuple[str, LawStage | OverTimeStage]]:
    """Laws as they begin, in no units, without those that want more to be said, other channels or windows."""
    for kind in law.KINDS.values():
        values, problems = read_table(kind.parameters, kind.start(parse_unit("1"), parse_unit("1")), "l")
        if problems:
            continue
        try:
            made = stage_of(kind.name, kind.build(values))
        except (ValueError, KeyError):
            continue
        if isinstance(made, LawStage | OverTimeStage):
            yield kind.name, made


def _quietly(formula: Callable[[np.ndarray], object], x: np.ndarray) -> object:
    with np.errstate(all="ignore"):
        return formula(x)
