"""What notes say of laws, each with its figure, and nothing where nothing is wrong."""

from __future__ import annotations

import itertools

import numpy as np
import pytest

from lesart.core import law
from lesart.core.block import Block, block_of
from lesart.core.chain import compile_chain
from lesart.core.law.inspect import Seen, inspect_laws
from lesart.core.law.record import Beside, LawEntry
from lesart.core.law.stage import stage_of
from lesart.core.notes import DOUBT, FAULT, REMARK, Note
from lesart.core.parameters import read_table
from lesart.core.step import Step
from lesart.core.units import parse_unit
from tests.mistakes.mistake import said_rightly


def notes_on(
    raw: Block, unit: str, laws: list[dict[str, object]], lowest: float, highest: float, unit_raw: str = "ct"
) -> list[tuple[str, str, float | None]]:
    """Mark, text and figure of each note on a channel with these laws."""
    made = noted(raw, unit, laws, lowest, highest, unit_raw)
    return [(note.mark, note.text, note.figure) for note in made]


def noted(
    raw: Block, unit: str, laws: list[dict[str, object]], lowest: float, highest: float, unit_raw: str
) -> list[Note]:
    """The notes themselves."""
    stages, entries = [], []
    for index, table in enumerate(laws):
        kind = law.KINDS[str(table["kind"])]
        values, problems = read_table(kind.parameters, table, "l", also=("kind",))
        assert not problems, problems
        stages.append((Step.LAW, f"law[{index}]", stage_of(kind.name, kind.build(values))))
        entries.append(LawEntry(kind, values, table))
    chain = compile_chain(parse_unit(unit_raw), stages, parse_unit(unit))
    quantity = chain.run(chain.initial(), raw)[1][-1]
    seen = Seen("c", ("channels", "c", "law"), chain, raw, quantity)
    return inspect_laws(seen, entries, lowest, highest)


SURE = {"kind": "converter", "reference": "3.3 V ± 1 %"}


def test_a_good_channel_has_no_note() -> None:
    """The whole of a converter, its reference with a tolerance, nothing at its ends."""
    assert notes_on(block_of(np.arange(100.0, 4000.0)), "V", [SURE], 0, 3.3) == []


def test_saturated_counts_and_those_outside_say_how_many() -> None:
    """Two in a hundred are a doubt, two in ten thousand a remark."""
    counts = np.full(100, 2000.0)
    counts[[3, 50]] = 4095
    ((mark, text, figure),) = notes_on(block_of(counts), "V", [SURE], 0, 3.3)
    assert (mark, figure) == (DOUBT, 2)
    assert "2 of 100 samples (2 %) are at an end of the converter, as 4095 ct" in text
    many = np.concatenate([counts, np.full(9900, 2000.0)])
    assert notes_on(block_of(many), "V", [SURE], 0, 3.3)[0][0] == REMARK
    loop = {"kind": "current loop", "low": "0 bar", "high": "10 bar"}
    ((mark, text, figure),) = notes_on(block_of([4.0, 2.0, 12.0, 22.0]), "bar", [loop], 0, 10, "mA")
    assert (mark, figure) == (DOUBT, 2)
    assert "2 of 4 samples (50 %) lie outside what law 1, current loop, holds for: 0.0036 A to 0.021 A" in text


def test_a_converter_hardly_used() -> None:
    """0.1 V of 3.3 V is 124 codes of 4096: 3 %."""
    found = notes_on(block_of([60.0, 70.0]), "V", [SURE], 0, 0.1)
    ((mark, text, figure),) = found
    assert mark == REMARK
    assert "uses 3 % of the converter's codes, 124 of them" in text
    assert figure == pytest.approx(100 * 0.1 / 3.3 * 4096 / 4095, rel=1e-6)
    # A fine converter may leave codes idle.
    assert notes_on(block_of([60.0]), "V", [{**SURE, "bits": 24}], 0, 0.1) == []


def test_a_reference_without_a_tolerance() -> None:
    """It is said once, with how to write it."""
    ((mark, text, _),) = notes_on(block_of([60.0]), "V", [{"kind": "converter", "reference": "3.3 V"}], 0, 3.3)
    assert mark == REMARK
    assert "no tolerance is stated for the reference of 3.3 V, so" in text


def test_an_angle_of_one_axis_alone() -> None:
    """It is 90 degrees or none at all, and two axes are enough to lean by."""
    mg = block_of([400.0, 450.0, 500.0])
    tilt: dict[str, object] = {"kind": "tilt", "unit": "m/s²", "second": "0", "third": "0"}
    assert notes_on(mg, "°", [tilt], -90, 90, "m/s²") == [
        (FAULT, "c: no other axis is read, so its tilt is one of two values, whatever the sensor does.", None)
    ]
    assert notes_on(mg, "°", [tilt | {"third": "9 m/s²"}], -90, 90, "m/s²") == []
    (note,) = noted(mg, "°", [tilt], -90, 90, "m/s²")
    assert note.remedy == "name the channels of the other axes"
    (note,) = noted(mg, "°", [{"kind": "direction", "unit": "m/s²", "second": "0"}], 0, 360, "m/s²")
    assert note.remedy == "name the channel of the other axis"
    direction: dict[str, object] = {"kind": "direction", "unit": "m/s²", "second": "0"}
    assert notes_on(mg, "°", [direction], 0, 360, "m/s²") == [
        (FAULT, "c: the axis at 0° is not read, so its direction is one of two values, whatever the sensor does.", None)
    ]
    assert notes_on(mg, "°", [direction | {"second": "3 m/s²"}], 0, 360, "m/s²") == []


@pytest.mark.parametrize("kind", law.KINDS)
def test_ends_of_what_a_law_gives_are_reached_and_never_passed(kind: str) -> None:
    """Of those that say them, by every choice they have, over axes of any direction."""
    record = law.KINDS[kind]
    choices = [each for each in record.parameters if each.kind == "choice"]
    for chosen in itertools.product(*[each.choices for each in choices]):
        told = dict(zip([each.name for each in choices], chosen, strict=True))
        ends = record.ends(told)
        if ends is None:
            continue
        written = {"unit": "m/s²", "second": "0", "third": "0", **told}
        known = {each.name for each in record.parameters}
        table = {name: value for name, value in written.items() if name in known}
        built = record.build(read_table(record.parameters, table, "", also=("kind",))[0])
        assert isinstance(built, Beside)
        round_ = np.radians(np.arange(0.0, 360.0, 0.5))
        others = [np.cos(round_)] * len(built.arguments)
        given = built.law.forward(np.sin(round_), *others)
        assert ends[0] <= given.min() <= ends[0] + 1
        assert ends[1] - 1 <= given.max() <= ends[1]


def test_whole_numbers_that_drop_too_much() -> None:
    """Two shifts by 12 of small numbers lose up to a step at each; of 16 bits the product of 3000 × 20 is too wide."""
    trimmed = {"kind": "trimmed compensation", "coefficients": "0; 5; 3000", "shift": 12, "step": "0.1 Pa"}
    counts = block_of(np.arange(0.0, 4000.0, 7.0))
    found = notes_on(counts, "Pa", [trimmed], 0, 300)
    u = np.arange(0, 4000, 7)
    whole = ((((3000 * u) >> 12) + 5) * u) >> 12
    lost = np.abs(whole - (3000 * u / 4096 + 5) * u / 4096).max()
    assert [(mark, figure) for mark, _, figure in found] == [(DOUBT, pytest.approx(lost))]
    assert "cost up to" in found[0][1]
    narrow = notes_on(counts, "Pa", [{**trimmed, "bits": "16"}], 0, 300)
    assert narrow[1][0] == FAULT or narrow[0][0] == FAULT
    assert any("overflow 16 bits at 14 ct" in text for _, text, _ in narrow)
    assert notes_on(counts, "Pa", [{**trimmed, "shift": 0, "coefficients": "0; 5"}], 0, 300) == []


def test_the_gain_that_is_proposed_fits() -> None:
    """The chip's range uses 5.41 % of the codes: sixteen times are 87 %, thirty-two would be beyond the end."""
    (note,) = (each for each in said_rightly("chip").notes if "of the converter's codes" in each.text)
    assert note.figure == pytest.approx(5.41, abs=0.005)
    assert note.remedy.startswith("16 times the gain")


def line_to(input_v: float, output: str, slope: str) -> list[dict[str, object]]:
    """A converter of 10 bits at 5 V, and a line behind it."""
    converter = {"kind": "converter", "bits": 10, "reference": "5 V ± 1 %"}
    return [converter, {"kind": "linear", "input": f"{input_v} V", "output": output, "slope": slope}]


def test_a_range_beyond_the_converter_says_how_far_it_reads() -> None:
    """0 to 10 V on 5 V: half of it; and from −1 V on what is below 0 V."""
    counts = block_of(np.arange(100.0, 900.0))
    tenths = line_to(0.0, "0 °C", "10 °C/V")
    full = 1023 / 1024 * 5  # V
    ((mark, text, figure),) = notes_on(counts, "°C", tenths, 0, 100)
    assert (mark, figure) == (DOUBT, pytest.approx(10 * full))
    assert text == "c: 100 °C would be 2048 ct, and the converter ends at 1023 ct: it reads up to 49.95 °C."
    both = notes_on(counts, "°C", tenths, -10, 100)
    assert [text for _, text, _ in both] == [
        "c: 100 °C would be 2048 ct, and the converter ends at 1023 ct: it reads up to 49.95 °C.",
        "c: −10 °C would be −205 ct, and the converter begins at 0 ct: it reads down to 0 °C.",
    ]
    assert both[1][2] == 0.0


def test_a_range_that_ends_where_the_converter_does_is_in_reach() -> None:
    """50 °C would be one count more than there is; a falling line ends at the other end."""
    counts = block_of(np.arange(100.0, 900.0))
    assert notes_on(counts, "°C", line_to(0.0, "0 °C", "10 °C/V"), 0, 50) == []
    assert notes_on(counts, "°C", line_to(0.0, "50 °C", "-10 °C/V"), 0, 50) == []
    ((_, text, figure),) = notes_on(counts, "°C", line_to(0.0, "50 °C", "-10 °C/V"), -20, 50)
    assert text == "c: −20 °C would be 1434 ct, and the converter ends at 1023 ct: it reads down to 0.04883 °C."
    assert figure == pytest.approx(50 - 10 * 1023 / 1024 * 5)
