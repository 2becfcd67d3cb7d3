"""What filters state of memory and operations, against plain ones that count: each as firmware would write it.

The plain ones are oracles as well: what they give is what the filter gives.
"""

from __future__ import annotations

import math
from collections.abc import Callable, Iterator
from dataclasses import dataclass
from typing import Any

import numpy as np
import pytest
import scipy

from lesart.core import calm
from lesart.core.block import block_of
from lesart.core.parameters import read_table
from tests.core.chains import chain_of, filter_of, run_whole

RATE_HZ = 10.0
SAMPLES = 600


@dataclass
class Count:
    """Operations done so far."""

    done: int = 0

    def __call__(self, result: Any) -> Any:
        """One more."""
        self.done += 1
        return result


Step = Callable[[float, float], float | None]
"""From time and value to value; None: rejected, or not passed on."""


def mean(c: Count, n: int) -> tuple[Step, int]:
    ring, total, at = [0.0] * n, 0.0, 0

    def step(t: float, x: float) -> float:
        nonlocal total, at
        total = c(c(total + x) - ring[at])
        ring[at], at = x, (at + 1) % n
        return float(c(total / n))

    return step, n + 2


def circular_mean(c: Count, n: int, lowest: float, highest: float) -> tuple[Step, int]:
    """On a circle that is never left: from the newest back, looking at every step whether it went over the seam."""
    ring, at, half = [0.0] * n, 0, (highest - lowest) / 2

    def step(t: float, x: float) -> float:
        nonlocal at
        assert not c(x < lowest)
        assert not c(x >= highest)
        ring[at] = total = before = x
        for back in range(1, n):
            item = ring[at - back]
            way = c(before - item)
            assert not c(way > half)
            assert not c(way < -half)
            total, before = c(total + item), item
        at = (at + 1) % n
        mean = c(total / n)
        assert not c(mean < lowest)
        assert not c(mean >= highest)
        return float(mean)

    return step, n + 1


def median(c: Count, n: int) -> tuple[Step, int]:
    ring, order, at = [0.0] * n, [0.0] * n, 0

    def step(t: float, x: float) -> float:
        nonlocal at
        place = 0
        while c(order[place] != ring[at]):
            place += 1
        while place + 1 < n and c(order[place + 1] < x):
            order[place] = order[place + 1]
            place += 1
        while place and c(order[place - 1] > x):
            order[place] = order[place - 1]
            place -= 1
        order[place] = ring[at] = x
        at = (at + 1) % n
        return order[n // 2]

    return step, 2 * n


def trimmed_mean(c: Count, n: int, dropped: int) -> tuple[Step, int]:
    """In order as for a median; the middle ones added up."""
    ring, order, at = [0.0] * n, [0.0] * n, 0
    in_order, kept = median(c, n)

    def step(t: float, x: float) -> float:
        nonlocal at
        in_order(t, x)
        ring[at], at = x, (at + 1) % n
        order[:] = sorted(ring)
        total = order[dropped]
        for place in range(dropped + 1, n - dropped):
            total = c(total + order[place])
        return float(c(total / (n - 2 * dropped)))

    return step, kept


def exponential(c: Count, weight: float) -> tuple[Step, int]:
    y: float | None = None

    def step(t: float, x: float) -> float:
        nonlocal y
        y = x if y is None else c(y + c(weight * c(x - y)))
        return float(y)

    return step, 1


def time_constant(c: Count, tau: float) -> tuple[Step, int]:
    kept: tuple[float, float] | None = None

    def step(t: float, x: float) -> float:
        nonlocal kept
        if kept is None:
            kept = t, x
            return x
        before, y = kept
        weight = c(1.0 - c(math.exp(c(c(before - t) / tau))))
        kept = t, c(y + c(weight * c(x - y)))
        return kept[1]

    return step, 2


def low_pass(c: Count, order: int, cutoff_hz: float) -> tuple[Step, int]:
    sections = scipy.signal.butter(order, cutoff_hz, fs=RATE_HZ, output="sos")
    state: list[list[float]] | None = None

    def step(t: float, x: float) -> float:
        nonlocal state
        if state is None:
            state = (scipy.signal.sosfilt_zi(sections) * x).tolist()
        for (b0, b1, b2, _, a1, a2), kept in zip(sections.tolist(), state, strict=True):
            y = c(c(b0 * x) + kept[0])
            kept[0] = c(c(c(b1 * x) - c(a1 * y)) + kept[1])
            kept[1] = c(c(b2 * x) - c(a2 * y))
            x = y
        return x

    return step, 2 * len(sections)


def tracking(c: Count, a: float, b: float) -> tuple[Step, int]:
    kept: tuple[float, float, float] | None = None

    def step(t: float, x: float) -> float:
        nonlocal kept
        if kept is None:
            kept = t, x, 0.0
            return x
        before, level, slope = kept
        dt = c(t - before)
        if not c(dt > 0):
            return level
        level = c(level + c(slope * dt))
        missed = c(x - level)
        level = c(level + c(a * missed))
        slope = c(slope + c(c(b * missed) / dt))
        kept = t, level, slope
        return level

    return step, 3


def reject_range(c: Count, lowest: float, highest: float) -> tuple[Step, int]:
    return lambda t, x: x if c(x >= lowest) and c(x <= highest) else None, 0


def reject_rate(c: Count, most: float, after: int) -> tuple[Step, int]:
    kept: tuple[float, float, int] | None = None

    def step(t: float, x: float) -> float | None:
        nonlocal kept
        if kept is not None:
            before, y, lost = kept
            far = c(abs(c(x - y)))
            if c(lost < after) and c(far > c(most * c(max(c(t - before), 0.0)))):
                kept = before, y, lost + 1
                return None
        kept = t, x, 0
        return x

    return step, 3


def deadband(c: Count, width: float) -> tuple[Step, int]:
    y: float | None = None

    def step(t: float, x: float) -> float:
        nonlocal y
        if y is None or c(c(abs(c(x - y))) > width):
            y = x
        return y

    return step, 1


def settling_gate(c: Count, n: int, width: float) -> tuple[Step, int]:
    ring: list[float] = []

    def step(t: float, x: float) -> float:
        ring.append(x)
        del ring[:-n]
        least = greatest = ring[0]
        for each in ring[1:]:
            least = each if c(each < least) else least
            greatest = each if c(each > greatest) else greatest
        c(c(greatest - least) > width)
        return x

    return step, n


def extreme(c: Count, greatest: bool, every: float) -> tuple[Step, int]:
    y: float | None = None
    ends = every

    def step(t: float, x: float) -> float:
        nonlocal y, ends
        if every and c(t > ends + 1e-9):
            ends += every * math.ceil((t - ends) / every - 1e-9)
            y = None
        if y is None or c(x > y if greatest else x < y):
            y = x
        return y

    return step, 2 if every else 1


def decimate(c: Count, n: int) -> tuple[Step, int]:
    left = 0

    def step(t: float, x: float) -> float | None:
        nonlocal left
        passes = c(left == 0)
        left = n - 1 if passes else c(left - 1)
        return x if passes else None

    return step, 1


PLAIN: list[tuple[str, dict[str, object], Callable[[Count], tuple[Step, int]]]] = [
    ("mean", {"samples": 16}, lambda c: mean(c, 16)),
    (
        "circular mean",
        {"samples": 8, "lowest": "-90 kg", "highest": "90 kg"},
        lambda c: circular_mean(c, 8, -90.0, 90.0),
    ),
    ("median", {"samples": 5}, lambda c: median(c, 5)),
    ("median", {"samples": 31}, lambda c: median(c, 31)),
    ("trimmed mean", {"samples": 10, "dropped": 2}, lambda c: trimmed_mean(c, 10, 2)),
    ("trimmed mean", {"samples": 25, "dropped": 1}, lambda c: trimmed_mean(c, 25, 1)),
    ("exponential", {"weight": "0.2"}, lambda c: exponential(c, 0.2)),
    ("time constant", {"time": "1 s", "interval": "0.1 s"}, lambda c: time_constant(c, 1.0)),
    ("low-pass", {"order": 2, "cutoff": "1 Hz", "rate": "10 Hz"}, lambda c: low_pass(c, 2, 1.0)),
    ("low-pass", {"order": 3, "cutoff": "1 Hz", "rate": "10 Hz"}, lambda c: low_pass(c, 3, 1.0)),
    ("tracking", {"level": "0.2", "slope": "0.02"}, lambda c: tracking(c, 0.2, 0.02)),
    ("reject range", {"lowest": "-9 kg", "highest": "9 kg"}, lambda c: reject_range(c, -9.0, 9.0)),
    ("reject rate", {"most": "15 kg/s", "after": 3}, lambda c: reject_rate(c, 15.0, 3)),
    ("deadband", {"width": "0.5 kg"}, lambda c: deadband(c, 0.5)),
    ("settling gate", {"samples": 10, "width": "1 kg"}, lambda c: settling_gate(c, 10, 1.0)),
    ("highest so far", {"every": "0 s"}, lambda c: extreme(c, True, 0.0)),
    ("lowest so far", {"every": "0 s"}, lambda c: extreme(c, False, 0.0)),
    ("lowest so far", {"every": "40 s"}, lambda c: extreme(c, False, 40.0)),
    ("decimate", {"n": 8}, lambda c: decimate(c, 8)),
]


def names() -> Iterator[str]:
    for kind, written, _ in PLAIN:
        yield f"{kind} {next(iter(written.values()))}"


@pytest.mark.parametrize(("kind", "written", "plain"), PLAIN, ids=list(names()))
def test_memory_and_operations_are_those_of_a_plain_filter(
    kind: str, written: dict[str, object], plain: Callable[[Count], tuple[Step, int]]
) -> None:
    """Counted over samples behind the first ones; a median's hang on the data, and are right to a third."""
    values, problems = read_table(calm.KINDS[kind].parameters, written, "f")
    assert not problems
    cost = calm.KINDS[kind].cost(values, 1 / RATE_HZ)
    counted = Count()
    step, kept = plain(counted)
    block = block_of(np.random.default_rng(8).standard_normal(SAMPLES), RATE_HZ)
    given = [step(t, x) for t, x in zip(block.t.tolist(), block.x.tolist(), strict=True)]
    before = counted.done
    again = [step(t, x) for t, x in zip((block.t + 60.0).tolist(), block.x.tolist(), strict=True)]
    assert len(again) == SAMPLES
    operations = (counted.done - before) / SAMPLES
    assert 4 * kept == cost.memory_bytes
    assert operations == pytest.approx(
        cost.operations, rel=0.34 if kind in ("median", "trimmed mean", "decimate") else 0.005
    )
    out = run_whole(chain_of(filter_of(kind, **written)), block)
    wanted = np.array([np.nan if each is None else each for each in given])
    settled = 40
    if kind == "decimate":
        np.testing.assert_array_equal(out.x, wanted[~np.isnan(wanted)])
    else:
        np.testing.assert_allclose(out.x[settled:], wanted[settled:], rtol=1e-9, atol=1e-9)


def test_filters_that_only_look_at_marks() -> None:
    """One test of the mark; a held value needs its time and the value, and two operations where a sample is bad."""
    assert calm.KINDS["reject mark"].cost({"marks": "held"}, 0.1).operations == 1
    assert calm.KINDS["hold"].cost({"timeout": 1.0}, 0.1).memory_bytes == 8
