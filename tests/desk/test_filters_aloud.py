"""Filters as people say them, held against the entries that they become."""

from __future__ import annotations

import tomllib
from collections.abc import Iterator
from pathlib import Path
from typing import Any

import pytest

from lesart.core.calm import KINDS
from lesart.core.step import Step
from lesart.core.units import parse_unit
from lesart.desk.desk import Desk
from lesart.desk.entries.aloud.filters import filter_plainly
from lesart.desk.entries.aloud.instead.filters import INSTEAD
from tests.desk.test_recipes import opened

SAID: list[tuple[str, dict[str, Any]]] = [
    ("moving average 16", {"kind": "mean", "samples": 16}),
    ("a moving average of 16 samples", {"kind": "mean", "samples": 16}),
    ("Average of the last 10", {"kind": "mean", "samples": 10}),
    ("rolling mean 8", {"kind": "mean", "samples": 8}),
    ("average of the last 10 readings", {"kind": "mean", "samples": 10}),
    ("oversample 16", {"kind": "mean", "samples": 16}),
    ("tau 2 s", {"kind": "time constant", "time": "2 s"}),
    ("RC filter 1 s", {"kind": "time constant", "time": "1 s"}),
    ("rc low-pass of 200 ms", {"kind": "time constant", "time": "200 ms"}),
    ("add a median of 5", {"kind": "median", "samples": 5}),
    ("please use a moving average of 8", {"kind": "mean", "samples": 8}),
    ("alpha 0.1", {"kind": "exponential", "weight": "0.1"}),
    ("LP 2 Hz", {"kind": "low-pass", "cutoff": "2 Hz"}),
    ("butterworth 2nd order 1 Hz", {"kind": "low-pass", "cutoff": "1 Hz", "order": 2}),
    ("third order low-pass 1 Hz", {"kind": "low-pass", "cutoff": "1 Hz", "order": 3}),
    ("RC 10k 47 uF", {"kind": "time constant", "time": "0.47 s"}),  # 10 kΩ × 47 µF
    ("R 10k C 10uF", {"kind": "time constant", "time": "0.1 s"}),
    ("low pass 0.5 s", {"kind": "time constant", "time": "0.5 s"}),
    ("63.2 % in 1 s", {"kind": "time constant", "time": "1.00033 s"}),  # 1 − 1/e is 63.2121 %
    ("reaches 90 % in 2 s", {"kind": "time constant", "time": "0.868589 s"}),  # 2 s ÷ ln 10
    ("bandwidth 1 Hz", {"kind": "low-pass", "cutoff": "1 Hz"}),
    ("two stage low pass 1 Hz", {"kind": "low-pass", "cutoff": "1 Hz", "order": 2}),
    ("mean without outliers", {"kind": "trimmed mean"}),
    ("reject anything above 90 %", {"kind": "reject range", "highest": "90 %"}),
    ("throw out all values < 5 %", {"kind": "reject range", "lowest": "5 %"}),
    ("reject anything under 5 % or over 90 %", {"kind": "reject range", "lowest": "5 %", "highest": "90 %"}),
    ("drop values above 90 % and below 5 %", {"kind": "reject range", "lowest": "5 %", "highest": "90 %"}),
    ("remove outliers above 90 %", {"kind": "reject range", "highest": "90 %"}),
    ("low pass filter, cutoff 0.5 Hz", {"kind": "low-pass", "cutoff": "0.5 Hz"}),
    ("lowpass with a cut-off frequency of 1 Hz", {"kind": "low-pass", "cutoff": "1 Hz"}),
    ("exponential smoothing 0.2", {"kind": "exponential", "weight": "0.2"}),
    ("ema 10 s", {"kind": "time constant", "time": "10 s"}),
    ("exponential average over 3 s", {"kind": "time constant", "time": "3 s"}),
    ("deadband of half a %", {"kind": "deadband", "width": "0.5 %"}),
    ("median of 5", {"kind": "median", "samples": 5}),
    ("a median filter of 7", {"kind": "median", "samples": 7}),
    ("remove outliers", {"kind": "median"}),
    ("remove the spikes", {"kind": "median"}),
    ("low pass 1 Hz", {"kind": "low-pass", "cutoff": "1 Hz"}),
    ("a low-pass filter at 0.5 Hz, order 2", {"kind": "low-pass", "cutoff": "0.5 Hz", "order": 2}),
    ("lowpass 0.5 Hz order 2", {"kind": "low-pass", "cutoff": "0.5 Hz", "order": 2}),
    ("ema 0.1", {"kind": "exponential", "weight": "0.1"}),
    ("exponential moving average 0.2", {"kind": "exponential", "weight": "0.2"}),
    ("tau = 2 s", {"kind": "time constant", "time": "2 s"}),
    ("a time constant of 2 s", {"kind": "time constant", "time": "2 s"}),
    ("dead band 0.5 %", {"kind": "deadband", "width": "0.5 %"}),
    ("every 10th sample", {"kind": "decimate", "n": 10}),
    ("ignore values above 90 %", {"kind": "reject range", "highest": "90 %"}),
    ("drop readings below 5 %", {"kind": "reject range", "lowest": "5 %"}),
    ("range 5 to 90 %", {"kind": "reject range", "lowest": "5 %", "highest": "90 %"}),
    ("a Kalman filter", {"kind": "tracking"}),
    ("alpha-beta", {"kind": "tracking"}),
    ("iir 0.2", {"kind": "exponential", "weight": "0.2"}),
    ("first order low pass 1 Hz", {"kind": "low-pass", "cutoff": "1 Hz", "order": 1}),
    ("a third-order low-pass filter at 0.5 Hz", {"kind": "low-pass", "cutoff": "0.5 Hz", "order": 3}),
    ("smooth 5", {"kind": "mean", "samples": 5}),
    ("smooth over 8 samples", {"kind": "mean", "samples": 8}),
    ("despike", {"kind": "median"}),
    ("an outlier filter", {"kind": "median"}),
    ("only every 10th sample", {"kind": "decimate", "n": 10}),
    ("hold the last good value for 5 s", {"kind": "hold", "timeout": "5 s"}),
    ("hold for 5 s", {"kind": "hold", "timeout": "5 s"}),
    ("hold 5 s", {"kind": "hold", "timeout": "5 s"}),
    ("max", {"kind": "highest so far", "every": "0 s"}),
    ("the maximum since power-up", {"kind": "highest so far", "every": "0 s"}),
    ("peak hold", {"kind": "highest so far"}),
    ("max over 3 s", {"kind": "highest so far", "every": "3 s"}),
    ("gust 3 s", {"kind": "highest so far", "every": "3 s"}),
    ("minimum of 2 minutes", {"kind": "lowest so far", "every": "2 min"}),
    ("peak hold 10 s", {"kind": "highest so far", "every": "10 s"}),
    ("Daily minimum", {"kind": "lowest so far", "every": "24 h"}),
    ("keep the highest reading of each day", {"kind": "highest so far", "every": "24 h"}),
    ("min every 6 hours", {"kind": "lowest so far", "every": "6 h"}),
    ("hold the minimum for an hour", {"kind": "lowest so far", "every": "1 h"}),
    ("median of three", {"kind": "median", "samples": 3}),
    ("iir alpha 0.1", {"kind": "exponential", "weight": "0.1"}),
    ("lowpass filter with 2 s time constant", {"kind": "time constant", "time": "2 s"}),
    ("only change when it moves by 0.2", {"kind": "deadband", "width": "0.2 %"}),
    ("lowest so far 12 h", {"kind": "lowest so far", "every": "12 h"}),
    ("avg of 10", {"kind": "mean", "samples": 10}),
    ("keep 0-50", {"kind": "reject range", "lowest": "0 %", "highest": "50 %"}),
    ("between -40 and 85", {"kind": "reject range", "lowest": "-40 %", "highest": "85 %"}),
    ("valid range 5 .. 90 %", {"kind": "reject range", "lowest": "5 %", "highest": "90 %"}),
    ("reject everything outside 0..50", {"kind": "reject range", "lowest": "0 %", "highest": "50 %"}),
    ("ignore if > 50", {"kind": "reject range", "highest": "50 %"}),
    ("skip it when below 5 %", {"kind": "reject range", "lowest": "5 %"}),
    ("if (x > 85) ignore", {"kind": "reject range", "highest": "85 %"}),
    ("if value < 3 then drop it", {"kind": "reject range", "lowest": "3 %"}),
    ("only if it changes by 0.2", {"kind": "deadband", "width": "0.2 %"}),
    ("report on change > 0.5 %", {"kind": "deadband", "width": "0.5 %"}),
    ("change threshold 0.2", {"kind": "deadband", "width": "0.2 %"}),
    ("keep the last value for 5 s when missing", {"kind": "hold", "timeout": "5 s"}),
    ("alpha = 0.1", {"kind": "exponential", "weight": "0.1"}),
    ("fc = 2 Hz", {"kind": "low-pass", "cutoff": "2 Hz"}),
    ("2 s time constant", {"kind": "time constant", "time": "2 s"}),
    ("y = 0.9*y + 0.1*x", {"kind": "exponential", "weight": "0.1"}),
    ("float filtered = 0.8f * filtered + 0.2f * raw;", {"kind": "exponential", "weight": "0.2"}),
    ("filtered += 0.05 * (raw - filtered);", {"kind": "exponential", "weight": "0.05"}),
    ("avg = (avg * 7 + sample) / 8", {"kind": "exponential", "weight": "0.125"}),
    ("y -= (y - x) / 16", {"kind": "exponential", "weight": "0.0625"}),
    ("10 point moving average", {"kind": "mean", "samples": 10}),
    ("5-sample median", {"kind": "median", "samples": 5}),
    ("exponential smoothing alpha 0.2", {"kind": "exponential", "weight": "0.2"}),
    ("1/8 of new value", {"kind": "exponential", "weight": "0.125"}),
    ("fc 2 Hz", {"kind": "low-pass", "cutoff": "2 Hz"}),
    ("trimmed mean", {"kind": "trimmed mean", "samples": 10, "dropped": 2}),
    ("trimmed mean 12, 3", {"kind": "trimmed mean", "samples": 12, "dropped": 3}),
    ("trimmed mean 8 drop 1", {"kind": "trimmed mean", "samples": 8, "dropped": 1}),
    ("trim mean 12, 3 at each end", {"kind": "trimmed mean", "samples": 12, "dropped": 3}),
    ("drop min and max", {"kind": "trimmed mean", "samples": 10, "dropped": 1}),
    ("drop highest and lowest of 6", {"kind": "trimmed mean", "samples": 6, "dropped": 1}),
    ("average of 9 without min and max", {"kind": "trimmed mean", "samples": 9, "dropped": 1}),
    (
        "drop the 2 highest and 2 lowest of 12 readings and average the rest",
        {"kind": "trimmed mean", "samples": 12, "dropped": 2},
    ),
    ("sort 10 readings, drop 3 at each end, average the rest", {"kind": "trimmed mean", "samples": 10, "dropped": 3}),
]


BY_TIME: list[tuple[str, dict[str, Any]]] = [  # ten samples a second
    ("average over 2 s", {"kind": "mean", "samples": 20}),
    ("a moving average over the last 500 ms", {"kind": "mean", "samples": 5}),
    ("5 seconds average", {"kind": "mean", "samples": 50}),
    ("mean of 1 minute", {"kind": "mean", "samples": 600}),
    ("average per minute", {"kind": "mean", "samples": 600}),
    ("mean every 30 s", {"kind": "mean", "samples": 300}),
    ("median over 1 s", {"kind": "median", "samples": 11}),
    ("median of 0.5 s", {"kind": "median", "samples": 5}),
    ("reject jumps over 2 %", {"kind": "reject rate", "most": "20 %/s"}),
    ("ignore spikes of more than 0.5 %", {"kind": "reject rate", "most": "5 %/s"}),
    ("ignore jumps over 5", {"kind": "reject rate", "most": "50 %/s"}),
    ("remove spikes larger than 2 %", {"kind": "reject rate", "most": "20 %/s"}),
    ("downsample to 2 Hz", {"kind": "decimate", "n": 5}),
    ("downsample 2 Hz", {"kind": "decimate", "n": 5}),
    ("resample to 500 mHz", {"kind": "decimate", "n": 20}),
    ("rolling average 60 s", {"kind": "mean", "samples": 600}),
    ("smooth over 2 s", {"kind": "mean", "samples": 20}),
    ("one per minute", {"kind": "decimate", "n": 600}),
    ("once every 2 s", {"kind": "decimate", "n": 20}),
    ("hysteresis 0.5 %", {"kind": "deadband", "width": "0.5 %"}),
    ("a reading every 10 s", {"kind": "decimate", "n": 100}),
    ("every 10 s", {"kind": "decimate", "n": 100}),
    ("one sample every second", {"kind": "decimate", "n": 10}),
    ("reject readings that change more than 5 per second", {"kind": "reject rate", "most": "5 %/s"}),
    ("ignore values that jump faster than 2 %/min", {"kind": "reject rate", "most": "2 %/min"}),
    ("exclude values outside 0 to 100", {"kind": "reject range", "lowest": "0 %", "highest": "100 %"}),
    ("only accept values between 10 and 60 %", {"kind": "reject range", "lowest": "10 %", "highest": "60 %"}),
    ("lowpass filter at 0.5 Hz second order", {"kind": "low-pass", "cutoff": "0.5 Hz", "order": 2}),
    ("low pass 1 Hz, first order", {"kind": "low-pass", "cutoff": "1 Hz", "order": 1}),
    ("oversample 16x", {"kind": "mean", "samples": 16}),
    ("ignore small changes below 1 %", {"kind": "deadband", "width": "1 %"}),
]


@pytest.mark.parametrize(
    ("line", "says"),
    [
        (
            "ignore -127",
            '"ignore -127" is one value; + in 2 Raw takes it as no reading, and a filter drops one side',
        ),
        (
            "throw out 0",
            '"throw out 0" is one value; + in 2 Raw takes it as no reading, and a filter drops one side',
        ),
        ("drop zeros", '"drop zeros" is one value; + in 2 Raw takes it as no reading, and a filter drops one side'),
        ("throw away first 5 readings", "settles in, in 2 Raw"),
        ("trimmed mean 10, 5", "of 10 samples at most 4 can be dropped at each end, not 5."),
        ("ignore the first 10 s", "settles in, in 2 Raw"),
        ("skip first 5 samples", "settles in, in 2 Raw"),
        (
            "mean over 3 h",
            '"mean over 3 h": that is 108000 samples, and 4096 are the most; write decimate 27 then mean over 3 h, or '
            "time constant 1 h.",
        ),
        (
            "average 100 ms",
            '"average 100 ms": samples are 0.1 s apart here, so that is one alone, which changes nothing; say a longer',
        ),
        ("downsample to 10 Hz", "samples come at 10 Hz here, and none is too many"),
    ],
)
def test_what_says_too_little_is_told_what_would_do(line: str, says: str, knob: Desk) -> None:
    knob.add(line)
    assert knob.state.message_is_fault
    assert says in knob.state.message


@pytest.fixture
def knob(tmp_path: Path) -> Iterator[Desk]:
    """In per cent, its filters taken away."""
    desk = opened(tmp_path, 512)
    desk.add("a knob")
    desk.open_step(Step.CALM)
    yield desk
    desk.close()


def last_of(desk: Desk, section: str) -> dict[str, Any]:
    """The entry that came last."""
    assert not desk.state.message_is_fault, desk.state.message
    found: dict[str, Any] = tomllib.loads(desk.state.history.text)["channels"]["counts"][section][-1]
    return found


@pytest.mark.parametrize(("line", "wanted"), [*SAID, *BY_TIME], ids=[line for line, _ in [*SAID, *BY_TIME]])
def test_a_filter_is_what_was_said(line: str, wanted: dict[str, Any], knob: Desk) -> None:
    knob.add(line)
    entry = last_of(knob, "calm")
    assert {key: entry.get(key) for key in wanted} == wanted
    kind = KINDS[entry["kind"]]
    told = [f"{each.title} {entry[each.name]}" for each in kind.parameters if entry[each.name] != "0 s"]
    assert knob.state.message == ", ".join((f"added: {kind.title}", *told))


@pytest.mark.parametrize(
    ("line", "says"),
    [
        ("notch 50 Hz", "a mean over whole periods removes hum"),
        ("remove the hum", "a mean over whole periods removes hum"),
        ("high pass 0.1 Hz", "that would remove the level, which is the reading itself"),
        ("clamp 0 to 50", "no filter clamps a reading; reject range drops what is beyond its limits"),
        ("rms", "a filter cannot do that; + in 3 Law has windowed RMS"),
        (
            "total per day",
            "a filter cannot do that; + in 3 Law has total over time, sum and counter rise",
        ),
        ("derivative", "a filter cannot do that; + in 3 Law has change over time"),
        ("slew rate 1 %/s", "no filter slows a reading down to a rate; reject rate drops what jumps"),
        ("limit rate to 1 per second", "no filter slows a reading down to a rate; reject rate drops what jumps"),
        ("0.1", "say which filter, like mean 8, median 5, exponential 0.2 or deadband 0.1 %"),
        ("centred average", "a filter cannot know readings that are still to come; a mean lags by half of its samples"),
        ("savitzky golay", "mean, median and low-pass come nearest"),
        ("mad filter", "median 5 takes single wrong values out"),
        ("no filter", "select the filter with tab, then press delete"),
        ("remove the filters", "select the filter with tab, then press delete"),
        ("lag under 1 s", "each filter shows its lag; fewer samples are quicker, enter changes them"),
        (
            "one reading per second",
            "decimate 10 keeps every 10th sample; how often a display is drawn is set in 8 Pace",
        ),
        (
            "outlier removal 3 sigma",
            "median 5 takes single wrong values out, and ignore jumps over so much drops what changes too fast",
        ),
        (
            "wait until it is stable",
            "settling gate marks a reading until the last few samples agree; write it like settling gate 10",
        ),
        ("double exponential", "two of them do it: exponential 0.2 then exponential 0.2"),
        ("too noisy", "noise asks for the cheapest filters that leave no more than that; write it like noise 0.02"),
        ("kalman q 0.01 r 1", "tracking has two weights, level and slope, each above 0 and up to 1"),
        ("rolling maximum 5", "highest so far, every = 5 s begins again every 5 s, and so does lowest so far"),
        ("max of last minute", "highest so far, every = 5 s begins again every 5 s, and so does lowest so far"),
        (
            "peak to peak",
            "highest so far and lowest so far keep the extremes of a reading, for good or, with every = 24 h, by the day",
        ),
        ("round to 0.5", "only a field rounds; + in 6 Fit takes decimals"),
        ("debounce", "filters work on numbers; for a contact use debounce, a sum in 1 Wire"),
        ("smoother", "write it like noise 0.02 %"),
    ],
)
def test_of_what_there_is_not_it_is_said_what_does_instead(line: str, says: str, knob: Desk) -> None:
    """A list of all filters helps nobody who asked for one of them by another name."""
    before = knob.state.history.text
    knob.add(line)
    assert knob.state.message_is_fault
    assert knob.state.message.startswith(f'"{line}": ')
    assert says in knob.state.message
    assert knob.state.history.text == before


@pytest.mark.parametrize(
    "line",
    [
        "y = 2 * y + 0.1 * x",
        "y = 0.5 * y + 0.4 * x",
        "y = a * y + b * x",
        "y = y * x",
        "y = 0.9 * y + 0.1 * x + 3",
        "z = 0.9 * y + 0.1 * x",
        "y += 2 * (x - y)",
    ],
)
def test_what_is_no_mean_of_old_and_new_is_no_filter(line: str, knob: Desk) -> None:
    """Gains of another sum than one would change the reading."""
    before = knob.state.history.text
    knob.add(line)
    assert knob.state.message_is_fault
    assert knob.state.history.text == before


@pytest.mark.parametrize("name", KINDS)
def test_no_filter_is_told_to_be_none(name: str, knob: Desk) -> None:
    """What begins as one that there is has its own sentence, on what is wrong with its value."""
    knob.add(f"{name} 5 parsecs")
    assert knob.state.message_is_fault
    sentences = [text.partition("{")[0] for _, text in INSTEAD]
    assert not [each for each in sentences if each in knob.state.message], knob.state.message


@pytest.mark.parametrize("name", KINDS)
def test_the_names_of_filters_stay_as_they_are(name: str) -> None:
    assert filter_plainly(name) == name
    assert filter_plainly(f"{name} 3") == f"{name} 3"
    assert filter_plainly(f"{name} samples = 3") == f"{name} samples = 3"


def test_filters_that_follow_one_another_are_one_edit(knob: Desk) -> None:
    """In the order in which they were said, and one undo takes both back; of two of which one is wrong none is
    there."""
    before = knob.state.history.text
    knob.add("median 3, then an average of 8 samples")
    assert knob.state.message == "added: median of the last n, samples 3, then mean of the last n, samples 8"
    entries = tomllib.loads(knob.state.history.text)["channels"]["counts"]["calm"]
    assert [entry["kind"] for entry in entries[-2:]] == ["median", "mean"]
    knob.undo()
    knob.add("oversampling and decimation 16x")
    assert knob.state.message == "added: mean of the last n, samples 16, then every n-th sample, every 16"
    knob.undo()
    knob.add("average 4 readings then send one")
    assert knob.state.message == "added: mean of the last n, samples 4, then every n-th sample, every 4"
    knob.undo()
    assert knob.state.history.text == before
    for line, every in (("oversample 8 and decimate", 8), ("average 8 and report every 2 s", 20)):  # ten a second
        knob.add(line)
        said = f"added: mean of the last n, samples 8, then every n-th sample, every {every}"
        assert knob.state.message == said
        knob.undo()
    knob.add("median 3 followed by mean 5 parsecs")
    assert knob.state.message_is_fault
    assert knob.state.history.text == before


def test_a_time_at_which_nothing_happens_is_not_told(knob: Desk) -> None:
    knob.add("peak hold")
    assert knob.state.message == "added: keep the highest"
    knob.add("minimum per hour")
    assert knob.state.message == "added: keep the lowest, anew every 1 h"


def test_what_may_be_meant_otherwise_is_left() -> None:
    """A limit to the rate holds a reading back, and Lesart's rejects it; smoothing is of the old or of the new."""
    for line in ("rate limit 5 %/s", "smoothing 0.9", "noise 0.02 kg"):
        assert filter_plainly(line) == line


@pytest.mark.parametrize(
    ("line", "plain"),
    [
        ("hysteresis of half a degree", "deadband 0.5 °C"),
        ("ignore values above 60 degrees", "reject range highest = 60 °C"),
        ("deadband 0.5 deg", "deadband 0.5 °C"),
        ("deadband 0.5 degrees F", "deadband 0.5 degrees F"),
    ],
)
def test_degrees_are_those_of_the_reading(line: str, plain: str) -> None:
    assert filter_plainly(line, 0.1, parse_unit("°C")) == plain


@pytest.mark.parametrize(
    ("line", "kinds"),
    [
        # Ten a second: of every tenth one five are 5 s, as 50 of all are.
        ("decimate 10 then average 5 s", [("decimate", 10), ("mean", 5)]),
        ("average 5 s then decimate 10", [("mean", 50), ("decimate", 10)]),
        ("decimate 10 then median 3 s then average 10 s", [("decimate", 10), ("median", 3), ("mean", 10)]),
        ("decimate 27 then mean over 3 h", [("decimate", 27), ("mean", 4000)]),
        ("mean of every 10", [("mean", 10), ("decimate", 10)]),
    ],
)
def test_a_time_is_as_many_samples_as_come_there(line: str, kinds: list[tuple[str, int]], knob: Desk) -> None:
    """Behind a decimation they are fewer: ten times as long a mean was made of it."""
    knob.add(line)
    assert not knob.state.message_is_fault, knob.state.message
    entries = tomllib.loads(knob.state.history.text)["channels"]["counts"]["calm"]
    assert [(each["kind"], each.get("samples", each.get("n"))) for each in entries[-len(kinds) :]] == kinds
