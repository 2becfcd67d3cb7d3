"""Notes on filters, each with its figure and what mends it; none where nothing is wrong."""

from __future__ import annotations

from dataclasses import replace

import numpy as np
import pytest

from lesart.core import calm
from lesart.core.block import Mark, block_of
from lesart.core.calm.inspect import PLAIN_AVERAGES, Filtered, inspect_filters
from lesart.core.calm.record import FilterEntry
from lesart.core.notes import DOUBT, REMARK, Note
from lesart.core.parameters import read_table
from lesart.core.units import parse_unit

BLOCK = block_of(np.zeros(1000), 10.0)
GOOD = Filtered("c", ("channels", "c", "calm"), BLOCK, BLOCK, 0.1, 0.75, 0.0, 2.0, True, parse_unit("kg"), 0.0, 10.0)


def told(kind: str, **written: object) -> FilterEntry:
    """A filter with what it is told, the rest as usual."""
    values, problems = read_table(calm.KINDS[kind].parameters, written, "")
    assert not problems
    return FilterEntry(calm.KINDS[kind], values, {"kind": kind, **written})


MEAN = told("mean", samples=16)


def test_nothing_is_said_of_good_filters() -> None:
    """Nor where there is none."""
    assert inspect_filters(GOOD, [MEAN]) == []
    assert inspect_filters(replace(GOOD, most_lag_s=1.0), [MEAN]) == []
    assert inspect_filters(replace(GOOD, lag_s=9.0, most_lag_s=1.0), []) == []


def test_too_late() -> None:
    """By how much, and how much was allowed."""
    (note,) = inspect_filters(replace(GOOD, most_lag_s=0.5), [MEAN])
    assert (note.mark, note.figure, note.limit) == (DOUBT, 0.75, 0.5)
    assert note.text == "c: its filters lag by 0.75 s; 0.5 s is allowed."


def test_samples_that_filters_take_away() -> None:
    """Two in a hundred; what was lost before them is not theirs."""
    mark = BLOCK.mark.copy()
    mark[:20] = Mark.RATE
    lost = BLOCK.with_values(BLOCK.x, mark)
    (note,) = inspect_filters(replace(GOOD, after=lost), [MEAN])
    assert (note.mark, note.figure) == (DOUBT, pytest.approx(2.0))
    assert note.text == "c: filters drop 20 good samples, 2 %."
    assert inspect_filters(replace(GOOD, before=lost, after=lost), [MEAN]) == []


def test_a_filter_that_is_told_another_rate() -> None:
    """And is told the right one by one key."""
    low = told("low-pass", cutoff="1 Hz", rate="20 Hz")
    (note,) = inspect_filters(GOOD, [low])
    assert (note.figure, note.limit) == (20.0, pytest.approx(10.0))
    assert note.text == "c: filter 1, low-pass, is told 20 Hz; samples come at 10 Hz."
    assert note.remedy == "write rate = 10 Hz"
    assert (note.mend[0].key, note.mend[0].value) == (("channels", "c", "calm", 0, "rate"), "10 Hz")
    slow = told("time constant", interval="1 s")
    (note,) = inspect_filters(GOOD, [MEAN, slow])
    assert note.text == "c: filter 2, time constant, is told 1 Hz; samples come at 10 Hz."
    assert note.remedy == "write interval = 0.1 s"
    assert (note.mend[0].key, note.mend[0].value) == (("channels", "c", "calm", 1, "interval"), "0.1 s")
    assert inspect_filters(GOOD, [told("low-pass", cutoff="1 Hz", rate="10.2 Hz")]) == []


def test_a_filter_that_cannot_be_told_the_right_rate() -> None:
    """A cut-off of 6 Hz is beyond half of 10 Hz: nothing is offered that would be refused."""
    (note,) = inspect_filters(GOOD, [told("low-pass", cutoff="6 Hz", rate="20 Hz")])
    assert note.mend == ()
    assert note.remedy.startswith("write rate = 10 Hz, and mind that ")
    assert "5 Hz" in note.remedy


def test_averaging_what_is_quieter_than_its_counts() -> None:
    """A median is not an average, and a voltage has no counts."""
    quiet = replace(GOOD, noise_counts=0.1)
    (note,) = inspect_filters(quiet, [MEAN])
    assert (note.mark, note.figure) == (REMARK, 0.1)
    assert note.text == "c: its noise is 0.1 counts; averaging finds nothing between two counts."
    assert inspect_filters(quiet, [told("median", samples=5)]) == []
    assert inspect_filters(replace(quiet, is_counts=False), [MEAN]) == []


def test_a_mean_beside_whole_periods_of_the_mains() -> None:
    """At 1 kHz 16 samples are 16 ms; 20 are a period. At 10 Hz nobody can say."""
    fast = replace(GOOD, interval_s=0.001)
    (note,) = inspect_filters(fast, [MEAN])
    assert (note.mark, note.mend[0].value) == (REMARK, 20)
    assert note.text == "c: a mean of 16 is 16 ms, not a whole number of periods of 50 Hz, so some hum is left."
    assert note.remedy == "take 20 samples"
    assert inspect_filters(fast, [told("mean", samples=40)]) == []


VANE = replace(GOOD, unit=parse_unit("°"), lowest=0.0, highest=360.0, before=block_of([350.0, 10.0, 355.0, 5.0, 8.0]))
"""Three times over north, among them once from 10° to 355°."""
AVERAGES = {
    "mean": {"samples": 4},
    "median": {"samples": 5},
    "trimmed mean": {"samples": 5, "dropped": 1},
    "exponential": {"weight": "0.2"},
    "time constant": {"time": "1 s", "interval": "0.1 s"},
    "low-pass": {"cutoff": "1 Hz", "rate": "10 Hz"},
    "tracking": {},
}


def test_every_filter_that_averages_is_tried_on_a_circle() -> None:
    """And a median, whose middle one is any where there is no order."""
    averaging = {name for name, kind in calm.KINDS.items() if kind.averages} - {"circular mean"}
    assert averaging | {"median"} == set(PLAIN_AVERAGES) == set(AVERAGES)


@pytest.mark.parametrize("kind", PLAIN_AVERAGES)
def test_a_direction_is_not_averaged_on_a_line(kind: str) -> None:
    """One key makes a circular mean of what has as many samples."""
    filtered = replace(VANE, noise_counts=2.0)
    article = "an" if kind[0] == "e" else "a"
    (note,) = inspect_filters(filtered, [told(kind, **AVERAGES[kind])])
    assert (note.mark, note.figure) == (DOUBT, 3.0)
    assert note.text == f"c: it comes round 3 times, and of 350° and 10° {article} {kind} makes 180°."
    assert note.remedy == "use a circular mean from 0° to 360°"
    wanted = [("kind", "circular mean"), ("lowest", "0°"), ("highest", "360°")] if "samples" in AVERAGES[kind] else []
    wanted = [("dropped", None), *wanted] if kind == "trimmed mean" else wanted  # a circular mean takes none
    assert [(mend.key[-1], mend.value) for mend in note.mend] == wanted


@pytest.mark.parametrize(
    "changes",
    [
        {"unit": parse_unit("kg")},
        {"highest": 270.0},  # a part of a turn has two ends
        {"before": block_of([10.0, 100.0, 200.0, 300.0, 200.0])},
        {"before": block_of([350.0, float("nan"), 340.0])},
    ],
)
def test_what_does_not_come_round_may_be_averaged(changes: dict[str, object]) -> None:
    assert inspect_filters(replace(VANE, **changes), [MEAN]) == []  # type: ignore[arg-type]


def test_a_circle_may_begin_anywhere_and_be_told_in_any_unit() -> None:
    """From −180° on, and in radians; a vane that never reads its last degrees comes round too."""
    half = replace(VANE, lowest=-180.0, highest=180.0, before=block_of([170.0, -170.0]))
    (note,) = inspect_filters(half, [MEAN])
    assert note.text == "c: it comes round once, and of 170° and −170° a mean makes 0°."
    assert note.remedy == "use a circular mean from −180° to 180°"
    gap = replace(VANE, highest=345.0)
    assert inspect_filters(gap, [MEAN])[0].remedy == "use a circular mean from 0° to 360°"
    radians = replace(VANE, unit=parse_unit("rad"), highest=6.2832, before=block_of([6.2, 0.1]))
    assert inspect_filters(replace(radians, highest=6.28), [MEAN])[0].remedy == (
        "use a circular mean from 0 rad to 6.28 rad"
    )


def test_a_circular_mean_is_not_complained_of() -> None:
    assert inspect_filters(VANE, [told("circular mean", lowest="0 °", highest="360 °")]) == []


def kept(*filters: FilterEntry, spike: float = 85.0) -> list[Note]:
    """What is said of an hour about 21 kg with one spike in it, behind such filters."""
    x = 21.0 + 0.1 * np.random.default_rng(3).standard_normal(3600)
    x[600] = spike
    seen = replace(GOOD, before=block_of(x), after=block_of(x), interval_s=1.0, lowest=-200.0, highest=200.0)
    return [note for note in inspect_filters(seen, filters) if "so far" in note.text]


def test_a_highest_that_is_a_spike_is_told() -> None:
    """One glitch is all that such a channel shows from then on."""
    (note,) = kept(told("highest so far"))
    x = 21.0 + 0.1 * np.random.default_rng(3).standard_normal(3600)
    off = 85.0 - float(np.median([*x[598:600], *x[601:603], 85.0]))
    assert note.text == (
        f"c: the highest so far, 85 kg at 00:10:00.0, is a spike, {off:.2f} kg away from its neighbours, and is kept for "
        "good."
    )
    assert note.figure == pytest.approx(off)
    assert note.remedy == "median 5 before it removes spikes"
    (note,) = kept(told("hold"), told("lowest so far", every="24 h"), spike=-127.0)
    assert "the lowest so far, −127 kg at 00:10:00.0, is a spike, 147.9 kg away" in note.text
    assert note.text.endswith(" and is kept for 24 h at most.")
    assert note.place == ("channels", "c", "calm", 1)


def test_a_highest_that_was_reached_is_not() -> None:
    """Nor a spike on the other side, nor one that a median before it has taken away."""
    assert not kept(told("highest so far"), spike=21.0)
    assert not kept(told("highest so far"), spike=-127.0)
    assert not kept(told("median", samples=5), told("highest so far"))
