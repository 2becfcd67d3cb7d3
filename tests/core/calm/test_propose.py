"""Proposals: the cheapest that does, by trying them all, and the sentence where none does."""

from __future__ import annotations

from collections.abc import Sequence

import numpy as np
import pytest

from lesart.core import calm
from lesart.core.block import Block, block_of
from lesart.core.calm.noise_left import noise_factor
from lesart.core.calm.propose import Behind, Entry, Proposal, candidates, propose
from lesart.core.calm.record import FilterEntry, total_cost
from lesart.core.parameters import read_table
from tests.core.chains import chain_of, filter_of, run_whole

WHITE = block_of(np.random.default_rng(8).normal(20, 1.0, 8000), 10.0)


def through(block: Block, entries: Sequence[Entry]) -> tuple[Behind, float]:
    """The block behind some filters with what is stated of them at 10 Hz; how many operations they take."""
    filters = []
    for entry in entries:
        kind = calm.KINDS[entry["kind"]]
        filters.append(FilterEntry(kind, read_table(kind.parameters, entry, "f", also=("kind",))[0], entry))
    chain = chain_of(*(filter_of(**entry) for entry in entries))
    after = run_whole(chain, block) if entries else block
    cost = total_cost(filters, 0.1)
    return Behind(after, noise_factor(filters, chain, 0.1, 20.0, 1.0), cost.lag_s), cost.operations


def ask(block: Block, noise: float, lag_s: float) -> Proposal:
    """For so little noise, so late at most."""
    return propose(block, lambda entries: through(block, entries)[0], noise, lag_s)


def test_on_a_circle_only_its_own_mean_is_tried() -> None:
    """With its ends, and no median even where spikes stand."""
    circle = {"lowest": "-180 kg", "highest": "180 kg"}
    spiked = WHITE.x.copy()
    spiked[::400] += 90.0
    found = propose(block_of(spiked, 10.0), lambda entries: through(WHITE, entries)[0], 0.3, 60.0, circle)
    assert found.found
    assert found.tried.entries == ({"kind": "circular mean", "samples": 16, **circle},)


def test_what_is_quiet_enough_needs_no_filter() -> None:
    """Nothing costs nothing."""
    assert ask(WHITE, 1.2, 0.0).tried.entries == ()


@pytest.mark.parametrize(("noise", "lag_s"), [(0.5, 10.0), (0.2, 10.0), (0.3, 0.8), (0.1, 60.0)])
def test_it_meets_both_and_nothing_cheaper_does(noise: float, lag_s: float) -> None:
    """Measured here on samples about nothing but 20, so that there is no trend to mistake: their plain deviation."""
    found = ask(WHITE, noise, lag_s)
    assert found.found
    behind, operations = through(WHITE, found.tried.entries)
    assert float(behind.block.x[600:].std()) == pytest.approx(found.tried.noise, rel=0.1)
    assert (found.tried.noise <= noise, behind.lag_s <= lag_s) == (True, True)
    for entries in candidates():
        other, cost = through(WHITE, entries)
        if cost < operations - 1e-9:
            assert other.lag_s > lag_s or float(other.block.x[600:].std()) > 0.95 * noise, entries


def test_where_none_does_the_quietest_in_time_is_told() -> None:
    """Half a second is five samples: no mean of 256."""
    found = ask(WHITE, 0.01, 0.5)
    assert not found.found
    assert found.tried.lag_s <= 0.5
    assert 0.2 < found.tried.noise < 0.6


def test_spikes_ask_for_a_median() -> None:
    """A mean would smear them over its length."""
    x = WHITE.x.copy()
    x[::400] += 60
    found = ask(block_of(x, 10.0), 0.4, 10.0)
    assert found.tried.entries[0]["kind"] == "median"
