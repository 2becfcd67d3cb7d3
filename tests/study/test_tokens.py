"""Numbers of objects: the same for one, never another's, whatever becomes of it."""

from __future__ import annotations

import gc
import random

import numpy as np
import pytest

from lesart.core.block import block_of
from lesart.core.raw.timing import timing_of
from lesart.study.bench import Bench
from lesart.study.tokens import Token, token_of


def test_one_object_has_one_number() -> None:
    """However often it is asked for; a copy has another."""
    array = np.zeros(3)
    assert token_of(array) == token_of(array)
    assert token_of(array) != token_of(array.copy())
    assert type(token_of(array)) is Token


def test_no_number_is_given_twice() -> None:
    """Ten thousand arrays, most of them gone before the next: their places are used again, their numbers are not."""
    chance, kept, seen, places = random.Random(3), [], set(), set()
    for _ in range(10_000):
        array = np.zeros(2)
        number = token_of(array)
        assert number not in seen
        seen.add(number)
        places.add(id(array))
        if chance.random() < 0.01:
            kept.append((array, number))
    assert len(places) < 5_000, "no place was used again, so nothing was tried"
    gc.collect()
    assert all(token_of(array) == number for array, number in kept)


@pytest.mark.parametrize("thing", [3, "text", (1, 2), {"a": 1}])
def test_what_has_no_number(thing: object) -> None:
    """Values are their own name."""
    with pytest.raises(TypeError):
        token_of(thing)


def test_a_result_is_never_that_of_an_object_that_is_gone(tmp_path: object) -> None:
    """Blocks that live one after another in the same place each get their own timing."""
    from pathlib import Path

    bench = Bench(Path(str(tmp_path)))
    for samples in range(2, 300):
        block = block_of(np.zeros(samples), 10.0)
        assert bench.timing(block) == timing_of(block.t)
        assert bench.timing(block).samples == samples
        del block
