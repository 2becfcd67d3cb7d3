"""What holds for every filter there is, and so for the next one: no list by hand decides which are tried."""

from __future__ import annotations

from typing import Any

import numpy as np
import pytest

from lesart.core import calm
from lesart.core.block import Mark, block_of
from lesart.core.calm.record import Cost, FilterEntry, FilterKind, TotalCost, total_cost
from lesart.core.chain import Chain
from lesart.core.parameters import read_table
from tests.core.calm.test_costs import PLAIN
from tests.core.chains import KG, chain_of, run_in_pieces, run_whole, same_bits

RATE_HZ = 10.0
LOOKS_AT_AMPLITUDE = {
    "deadband": "it holds by how far a reading goes, not for how long",
    "highest so far": "it keeps an end for ever",
    "lowest so far": "it keeps an end for ever",
}
"""Kinds whose delay and noise hang on the signal, and why. What they state is for what they let through."""
LOOKS_AT_MARKS = {"reject mark", "hold"}


OF_THE_CHANNEL = {kind: {"lowest": "-100 kg", "highest": "100 kg"} for kind in ("reject range", "circular mean")}
"""What a channel's own range gives."""


def written_of(kind: str) -> dict[str, Any]:
    """As the project file has them."""
    return {**OF_THE_CHANNEL.get(kind, {}), **calm.KINDS[kind].start(KG, 1 / RATE_HZ)}


def as_added(kind: str) -> dict[str, Any]:
    """The values of a new one, as ``+`` in Calm writes them for a channel in kilograms."""
    record, written = calm.KINDS[kind], written_of(kind)
    values, problems = read_table(record.parameters, written, "f")
    assert not problems, f"a new {kind} is not whole: {problems}"
    return values


def made(kind: str) -> tuple[Chain, Cost]:
    values, record = as_added(kind), calm.KINDS[kind]
    return chain_of(record.build(values, KG)), record.cost(values, 1 / RATE_HZ)


@pytest.mark.parametrize("kind", calm.KINDS)
def test_it_knows_no_future(kind: str) -> None:
    """Cut anywhere the bits are the same; what comes later changes nothing that came before."""
    chance = np.random.default_rng(3)
    for _ in range(20):
        values = np.where(chance.random(60) < 0.1, np.nan, chance.uniform(-200, 200, 60))
        chain, block, after = made(kind)[0], block_of(values, RATE_HZ), int(chance.integers(60))
        whole = run_whole(chain, block)
        assert same_bits(whole, run_in_pieces(chain, block, chance.integers(0, 60, 3).tolist()))
        changed = run_whole(chain, block_of([*values[:after], *(7.0 - values[after:])], RATE_HZ))
        known = int((whole.t < block.t[after]).sum())
        assert same_bits(whole[:known], changed[:known])


@pytest.mark.parametrize("kind", calm.KINDS)
def test_it_states_its_delay(kind: str) -> None:
    """A ramp comes out as late as is stated."""
    chain, cost = made(kind)
    ramp = block_of(np.arange(3000.0) * 1e-3, RATE_HZ)
    out = run_whole(chain, ramp)
    assert (out.mark[-500:] & np.uint8(Mark.RANGE) == 0).all()
    if kind in LOOKS_AT_AMPLITUDE:
        assert cost.delay_samples == 0
        return
    late = (out.t[-500:] * RATE_HZ * 1e-3 - out.x[-500:]) / 1e-3
    np.testing.assert_allclose(late, cost.delay_samples, atol=1e-6)


@pytest.mark.parametrize("kind", calm.KINDS)
def test_it_states_its_noise(kind: str) -> None:
    """White noise, small beside what a filter's limits are, comes out by the stated factor."""
    chain, cost = made(kind)
    noise = block_of(1e-2 * np.random.default_rng(5).standard_normal(60_000), RATE_HZ)
    if kind in LOOKS_AT_AMPLITUDE:
        assert cost.noise_factor == 1
        return
    assert float(run_whole(chain, noise).x[500:].std()) * 100 == pytest.approx(cost.noise_factor, rel=0.05)


@pytest.mark.parametrize("kind", calm.KINDS)
def test_a_reading_that_stands_still_comes_out_as_it_is(kind: str) -> None:
    """Whatever it costs, it invents no value and loses none for good."""
    out = run_whole(made(kind)[0], block_of(np.full(2000, 4.25), RATE_HZ))
    assert out.x[-100:] == pytest.approx(4.25, abs=1e-12)
    assert not out.mark[-100:].any()


def test_memory_and_operations_of_every_filter_are_counted() -> None:
    """Each has its plain one to count by; those that look at marks alone are counted by a person."""
    assert {kind for kind, *_ in PLAIN} | LOOKS_AT_MARKS == set(calm.KINDS)


@pytest.mark.parametrize("kind", calm.KINDS)
def test_it_says_its_values(kind: str) -> None:
    """A variant's line names the filter and each number it has been given behind its name."""
    record, values = calm.KINDS[kind], as_added(kind)
    said = record.says(values)
    assert said
    assert set(record.takes) <= {parameter.name for parameter in record.parameters}


@pytest.mark.parametrize("kind", calm.KINDS.values(), ids=lambda kind: kind.name)
def test_what_averages_says_so(kind: FilterKind) -> None:
    """Fed with whole counts, a filter that averages gives values between them, and no other does."""
    counts = np.random.default_rng(5).integers(0, 4, 400).astype(float)
    stage = kind.build(as_added(kind.name), KG)
    _, made = stage.run(stage.initial(), block_of(counts, 10.0))
    between = made.x[made.usable & (made.x != np.round(made.x))]
    assert kind.averages is (len(between) > len(made) / 2)


@pytest.mark.parametrize("kind", calm.KINDS.values(), ids=lambda kind: kind.name)
def test_the_rate_a_filter_is_told(kind: FilterKind) -> None:
    """Every parameter in Hz or s that the record names is read as a rate; filters without one are told none."""
    values = as_added(kind.name)
    told = FilterEntry(kind, values, {}).told_hz
    named = next((each for each in kind.parameters if each.name == kind.rate), None)
    assert (named is None) is (kind.rate == "")
    if named is None:
        assert told == 0.0
    else:
        assert named.unit in ("Hz", "s")
        assert told == pytest.approx(values[kind.rate] if named.unit == "Hz" else 1 / values[kind.rate])


def test_costs_of_filters_behind_each_other() -> None:
    """Delays, memory and operations add."""
    both = [
        FilterEntry(calm.KINDS[name], read_table(calm.KINDS[name].parameters, {}, "")[0], {})
        for name in ("mean", "exponential")
    ]
    costs, total = [each.cost(0.1) for each in both], total_cost(both, 0.1)
    assert total.lag_s == pytest.approx(0.1 * sum(cost.delay_samples for cost in costs))
    assert (total.memory_bytes, total.operations) == (
        sum(cost.memory_bytes for cost in costs),
        sum(cost.operations for cost in costs),
    )
    assert total_cost([], 0.1) == TotalCost(0.0, 0, 0.0, 0.1)


@pytest.mark.parametrize("kind", calm.KINDS)
def test_what_thins_samples_out_says_so(kind: str) -> None:
    """As many come out as its interval says."""
    entry = FilterEntry(calm.KINDS[kind], as_added(kind), {})
    out = run_whole(made(kind)[0], block_of(np.zeros(1000), RATE_HZ))
    assert len(out) == pytest.approx(1000 * 0.1 / entry.interval_behind_s(0.1), abs=1)


def test_every_filter_says_what_it_computes() -> None:
    """In a sentence that names what it keeps or that it keeps nothing, and all that it can be told."""
    for kind in calm.KINDS.values():
        assert kind.computes.endswith("."), kind.name
        assert " y" in f" {kind.computes}" or "passes" in kind.computes, kind.name


@pytest.mark.parametrize("interval_s", [0.002, 0.4, 1.0, 2.5, 60.0])
@pytest.mark.parametrize("kind", [kind for kind, record in calm.KINDS.items() if record.rate])
def test_a_new_one_is_told_the_rate_of_its_samples(kind: str, interval_s: float) -> None:
    """However slow they come; without a rate nothing is told."""
    record = calm.KINDS[kind]
    values, problems = read_table(record.parameters, record.start(KG, interval_s), "f")
    assert not problems
    assert FilterEntry(record, values, {}).told_hz == pytest.approx(1 / interval_s, rel=1e-5)
    assert record.start(KG, 0.0) == {}


@pytest.mark.parametrize("kind", calm.KINDS)
def test_it_costs_something_finite_where_no_rate_is_known(kind: str) -> None:
    """Of one sample, or of samples at one moment."""
    cost = calm.KINDS[kind].cost(as_added(kind), 0.0)
    assert np.isfinite([cost.delay_samples, cost.noise_factor, cost.memory_bytes, cost.operations]).all()
    assert cost.delay_samples >= 0
