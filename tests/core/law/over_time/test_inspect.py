"""What is said of totals: each slip with its figures, and nothing where there is none."""

from __future__ import annotations

from typing import Any

import numpy as np
import pytest

from lesart.core import law
from lesart.core.block import Block
from lesart.core.chain import compile_chain
from lesart.core.law.over_time.inspect import inspect_over_time
from lesart.core.law.stage import stage_of
from lesart.core.notes import Note
from lesart.core.parameters import read_table
from lesart.core.raw.codes import full_at, is_counter
from lesart.core.step import Step
from lesart.core.units import parse_unit

KEY = ("channels", "c", "law")


def notes(raw_unit: str, t: list[float], x: list[float], *laws: tuple[str, dict[str, Any]]) -> list[Note]:
    """Of a channel ``c`` with these laws over these samples."""
    stages = []
    for place, (kind, written) in enumerate(laws):
        values, problems = read_table(law.KINDS[kind].parameters, written, "l")
        assert not problems, problems
        stages.append((Step.LAW, f"law[{place}]", stage_of(kind, law.KINDS[kind].build(values))))
    chain = compile_chain(parse_unit(raw_unit), stages, stages[-1][2].unit_out)
    raw = Block(np.array(t, float), np.array(x, float), np.zeros(len(t), np.uint8))
    return inspect_over_time("c", KEY, chain, raw, chain.run(chain.initial(), raw)[1][-1])


def said(found: list[Note]) -> list[tuple[str, str]]:
    return [(note.mark, note.text) for note in found]


HOURS = [3600.0 * hour for hour in range(48)]
GAPPED = [*HOURS[:20], *HOURS[30:]]


def test_a_gap_that_was_bridged_is_told_with_what_it_made() -> None:
    """2 A all the time: of 94 Ah the 11 h from one sample to the next made 22 Ah, 23 %."""
    found = notes("A", GAPPED, [2.0] * 38, ("total over time", {"unit": "A", "begin": "0 Ah"}))
    assert said(found) == [
        ("‡", "c: 1 gap, of 11 h, is bridged by a straight line: of what adds up, 22 Ah or 23 % comes of that.")
    ]
    assert found[0].figure == pytest.approx(100 * 22 / 94)
    assert found[0].place == (*KEY, 0, "longest_gap")


def test_a_small_one_is_a_remark() -> None:
    """Two of 2 h in 95: 4.2 %."""
    t = [*HOURS, *(3600.0 * hour for hour in range(49, 70)), *(3600.0 * hour for hour in range(71, 96))]
    found = notes("A", t, [2.0] * len(t), ("total over time", {"unit": "A", "begin": "0 Ah"}))
    assert said(found) == [
        (
            "·",
            "c: 2 gaps, the longest of 2 h, are bridged by straight lines: of what adds up, 8 Ah or 4.2 % come of that.",
        )
    ]


def test_a_gap_that_was_left_out_is_told_and_no_bridge() -> None:
    written = {"unit": "A", "begin": "0 Ah", "longest_gap": "90 min"}
    assert said(notes("A", GAPPED, [2.0] * 38, ("total over time", written))) == [
        ("·", "c: 1 gap of more than 1.5 h, 11 h in all, is left out of its total.")
    ]


def test_a_longest_gap_that_leaves_all_out_is_a_fault_that_a_key_mends() -> None:
    written = {"unit": "A", "begin": "0 Ah", "longest_gap": "10 min"}
    (note,) = notes("A", HOURS, [2.0] * 48, ("total over time", written))
    assert (note.mark, note.text) == (
        "†",
        "c: from sample to sample it is 1 h, longer than the longest gap of 10 min that its total counts over: next to "
        "nothing adds up.",
    )
    assert [(mend.key, mend.value) for mend in note.mend] == [((*KEY, 0, "longest_gap"), "0 s")]


def test_a_day_without_gaps_is_no_note() -> None:
    """Nor one whose total begins anew."""
    for written in ({}, {"every": "24 h"}, {"longest_gap": "2 h"}):
        assert not notes("A", HOURS, [2.0] * 48, ("total over time", {"unit": "A", "begin": "0 Ah", **written}))


def test_of_a_day_that_begins_anew_the_gap_makes_what_lies_in_it() -> None:
    """11 h bridged at 2 A, of which 6 h in the day that begins: 36 Ah, 28 Ah till the gap and 12 of it, and 34."""
    found = notes("A", GAPPED, [2.0] * 38, ("total over time", {"unit": "A", "begin": "0 Ah", "every": "24 h"}))
    made = [2.0 * 19, 12.0, 2.0 * 17]
    assert found[0].figure == pytest.approx(100 * made[1] / sum(made))


def test_a_total_that_begins_anew_at_each_sample() -> None:
    for kind, begin in (("sum", "0 mm"), ("counter rise", "0 mm")):
        assert said(notes("mm", HOURS, [0.2, 0.0] * 24, (kind, {"begin": begin, "every": "1 min"}))) == [
            (
                "‡",
                "c: its total begins again every 1 min, and from sample to sample it is 1 h: none adds up to more than "
                "one sample.",
            )
        ]


def test_a_sum_of_a_rate() -> None:
    (note,) = notes("mA", HOURS, [120.0, 130.0] * 24, ("sum", {"begin": "0 mA"}))
    assert note.text == "c: its sum adds mA once a sample, however long it is from one to the next."
    assert note.remedy == "total over time instead of sum makes an amount of mA"


@pytest.mark.parametrize("unit", ["A", "mW", "L/min", "km/h", "rpm", "Hz", "mm/h"])
def test_what_is_a_rate(unit: str) -> None:
    assert notes(unit, HOURS, [1.0, 2.0] * 24, ("sum", {"begin": f"0 {unit}"}))


@pytest.mark.parametrize("unit", ["mm", "L", "ct", "kWh", "Ah", "m/s²", "mV/V"])
def test_what_is_none(unit: str) -> None:
    assert not notes(unit, HOURS, [1.0, 2.0] * 24, ("sum", {"begin": f"0 {unit}"}))


def test_a_running_counter_that_is_summed() -> None:
    """Seen behind the laws before it, too."""
    counter = [100.0 + 7 * place for place in range(48)]
    counter[30:] = [7.0 * place for place in range(18)]
    to_mm = ("linear", {"input": "0 ct", "output": "0 mm", "slope": "0.2 mm/ct"})
    (note,) = notes("ct", HOURS, counter, to_mm, ("sum", {"begin": "0 mm"}))
    assert note.text == (
        "c: what its sum adds up rises all along, but for 1 fall, as a running counter does: all that it has ever "
        "counted is added again with each sample."
    )
    assert note.place == (*KEY, 1, "begin")


def test_a_counter_that_comes_round_is_no_restart() -> None:
    """65 520 and then 4: 16 counts to the end of 16 bits are lost."""
    counter = [65_100.0 + 20 * place for place in range(22)] + [4.0 + 20 * place for place in range(26)]
    (note,) = notes("ct", HOURS, counter, ("counter rise", {"begin": "0 ct"}))
    assert note.text == (
        "c: its counter goes from 65 520 ct to 4 ct, as one does that is full at 65536; taken for a restart, 16 ct are "
        "lost."
    )
    assert [(mend.key, mend.value) for mend in note.mend] == [((*KEY, 0, "full"), "65536")]
    assert not notes("ct", HOURS, counter, ("counter rise", {"begin": "0 ct", "full": "65536"}))
    restarted = [300.0 + 20 * place for place in range(22)] + [4.0 + 20 * place for place in range(26)]
    assert not notes("ct", HOURS, restarted, ("counter rise", {"begin": "0 ct"}))


def test_what_is_a_running_counter() -> None:
    rising = np.arange(100.0) % 60 * 3
    assert is_counter(rising)
    assert not is_counter(np.tile([0.0, 1.0, 0.0, 2.0], 30))
    assert not is_counter(np.full(50, 7.0))
    assert not is_counter(np.empty(0))
    assert full_at(rising) == 0.0
    assert full_at(np.arange(99_990.0, 100_050.0) % 100_000) == 100_000.0
    assert full_at(np.arange(60.0)) == 0.0
