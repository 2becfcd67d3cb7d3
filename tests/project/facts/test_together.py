"""What two laws take from one rail moves together: a ratio is as sure as if the rail were exact.

Held against draws that know nothing of the code: R = fixed × x ÷ (2^bits × supply ÷ reference − x), 1/T by beta.
"""

from __future__ import annotations

from pathlib import Path

import numpy as np
import pytest

from lesart.core.law.budget import budget_of, simulated
from lesart.project.check import check_project
from lesart.project.facts.tolerances import Tolerances, tolerances_of
from lesart.study.sureness import sureness_in_the_middle
from tests.benches import bench_of, notes_of
from tests.project.facts.benches import BENCH

RAW, DRAWS = 1500.0, 400_000
LAWS = """[[channels.room.law]]
kind = "thermistor by beta"
beta = "3950 K ± 1 %"
resistance = "4.7 kΩ ± 2 %"
"""
TEXT = BENCH.replace('[[channels.room.law]]\nkind = "thermistor by beta"\n', LAWS)
ONE_RAIL_SEEN_TWICE = TEXT.replace('kind = "converter"', 'kind = "converter"\nreference = "3.3 V ± 2 %"').replace(
    'part = "fix"\n[[', 'part = "fix"\nsupply = "3.3 V ± 2 %"\n[['
)
WITHOUT = TEXT.replace('rails_within = "2 %"\n', "")
OF_REFERENCE_ALONE = WITHOUT.replace('kind = "converter"', 'kind = "converter"\nreference = "3.3 V ± 2 %"')
OF_SUPPLY_ALONE = WITHOUT.replace('part = "fix"\n[[', 'part = "fix"\nsupply = "3.3 V ± 2 %"\n[[')
RATIO = """lesart = 1
name = "bench"

[sources.log]
capture = "bench.csv"
header = 1
rate = "1 Hz"

[channels.room]
source = "log"
column = "raw"
unit = "%"
lowest = "0 %"
highest = "100 %"
[[channels.room.law]]
kind = "converter"
reference = "5 V ± 2 %"
bits = 12
[[channels.room.law]]
kind = "ratiometric"
"""
OTHER_REFERENCE = TEXT.replace('kind = "3.3 V board"', 'kind = "3.3 V board"\nreference = "3 V"').replace(
    'kind = "converter"', 'kind = "converter"\nreference = "3 V ± 2 %"'
)


def tolerances(text: str) -> Tolerances:
    project = check_project(text)
    room = project.channels["room"]
    return tolerances_of(project, room, room, {})


def drawn(*, reference_v: float, is_one: bool) -> float:
    """Standard deviation in °C."""
    chance = np.random.default_rng(4)

    def off(share: float) -> np.ndarray:
        return 1 + share * chance.uniform(-1, 1, DRAWS)

    supply = 3.3 * off(0.02)
    reference = supply if is_one else reference_v * off(0.02)
    volts = RAW / 4096 * reference
    ohm = 10_000 * off(0.05) * volts / (supply - volts)
    kelvin = 1 / (1 / 298.15 + np.log(ohm / (4700 * off(0.02))) / (3950 * off(0.01)))
    return float(kelvin.std())


@pytest.mark.parametrize(
    "text",
    [TEXT, ONE_RAIL_SEEN_TWICE, OF_REFERENCE_ALONE, OF_SUPPLY_ALONE],
    ids=["taken", "stated twice", "of the reference alone", "of the supply alone"],
)
def test_a_rail_in_both_places_cancels(text: str) -> None:
    """By slopes and by draws, whether both take it from the hook-up or say it again; and the budget says so."""
    found = tolerances(text)
    budget = budget_of(lambda shares: found.evaluate(RAW, shares), found.doubts)
    expected = drawn(reference_v=3.3, is_one=True)
    assert budget.standard == pytest.approx(expected, rel=0.02)
    by_draws = simulated(lambda shares: found.evaluate(RAW, shares), found.doubts, 4000, np.random.default_rng(1))
    assert by_draws.standard == pytest.approx(expected, rel=0.04)
    (rail,) = [share for share in budget.shares if share.cancels]
    assert rail.name in ("reference and supply", "supply and reference")
    assert abs(rail.half_width) < 1e-6


@pytest.mark.parametrize(
    ("second", "cancels"),
    [("", True), ('supply = "5 V"\n', True), ('supply = "5 V ± 1 %"\n', False), ('supply = "4.9 V"\n', False)],
)
def test_a_share_of_the_supply_needs_no_supply(second: str, cancels: bool) -> None:
    """2048 of 4096 is 50 %, whatever both are; of another supply, or of one known otherwise, it is not."""
    found = tolerances(RATIO + second)
    budget = budget_of(lambda shares: found.evaluate(2048.0, shares), found.doubts)
    assert [share.cancels for share in budget.shares] == [cancels] * (2 if "± 1 %" in second else 1)
    assert (budget.standard < 1e-9) is cancels


@pytest.mark.parametrize("raw", [0.0, 1.0, 2048.0, 4095.0])
def test_what_cancels_leaves_nothing_even_at_nothing(raw: float) -> None:
    """At 0 % too, where rounding has no reading to be measured against; to the digit, or 4e-16 bar were certain."""
    found = tolerances(RATIO)
    budget = budget_of(lambda shares: found.evaluate(raw, shares), found.doubts, one_count=100 / 4096)
    (rail,) = [share for share in budget.shares if share.kind == "tolerance"]
    assert (rail.cancels, rail.half_width) == (True, 0.0)


def test_where_all_tolerances_cancel_nothing_is_known(tmp_path: Path) -> None:
    """Not that the reading is exact: of what the sensor itself may be off nobody has said anything."""
    columns = {"raw": [2000.0, 2010.0, 1990.0] * 20}
    for text, is_known in ((RATIO, False), (RATIO + 'supply = "4.9 V ± 1 %"\n', True)):
        project, bench = bench_of(tmp_path, text, columns)
        sure = sureness_in_the_middle(project, project.channels["room"], bench)
        assert sure is not None
        assert (sure.off is not None) is is_known


def test_two_sources_do_not_cancel() -> None:
    """A reference of its own and a rail are two doubts."""
    found = tolerances(OTHER_REFERENCE)
    budget = budget_of(lambda shares: found.evaluate(RAW, shares), found.doubts)
    assert budget.standard == pytest.approx(drawn(reference_v=3.0, is_one=False), rel=0.02)
    assert not any(share.cancels for share in budget.shares)
    assert budget.standard > 1.2 * drawn(reference_v=3.3, is_one=True)


def test_a_reference_that_cancels_needs_no_tolerance(tmp_path: Path) -> None:
    """One that does not is still asked for."""
    plain = TEXT.replace('rails_within = "2 %"\n', "")
    other = OTHER_REFERENCE.replace('rails_within = "2 %"\n', "").replace('"3 V ± 2 %"', '"3 V"')
    for text, asked in ((plain, 0), (other, 1)):
        said = notes_of(tmp_path, text, {"raw": [1500.0] * 20, "bridge": [0.0] * 20})
        assert len([note for note in said if note.place is not None and note.place[-1] == "reference"]) == asked
