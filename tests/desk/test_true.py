"""True at the desk: references with spread and tolerance, every fit beside each other, a tare by one key."""

from __future__ import annotations

import tomllib
from datetime import date

import pytest

from lesart.core.step import Step
from lesart.desk.deeds.adopting import adopt
from lesart.desk.desk import Desk
from lesart.desk.picture import workspace_now
from tests.conftest import AIR, MASS


def words(desk: Desk) -> str:
    """The lines of the workspace."""
    lines = workspace_now(desk).lines
    return "\n".join("".join(span.text for span in line) for line in lines)


def true_of(desk: Desk, channel: str) -> dict[str, object]:
    """The table of a channel's references."""
    found = tomllib.loads(desk.state.history.text)["channels"][channel].get("true", {})
    assert isinstance(found, dict)
    return found


def test_a_reference_is_kept_with_its_spread_and_how_well_it_is_known(desk: Desk) -> None:
    """Typed with a tolerance; scatter and drift of the samples beside it."""
    desk.choose_channel(AIR)
    desk.open_step(Step.TRUE)
    desk.put_cursor(900.0)
    desk.add("33.9 °C ± 0.2 °C")
    assert not desk.state.message_is_fault, desk.state.message
    (entry,) = true_of(desk, AIR)["references"]  # type: ignore[misc]
    assert entry["true"] == "33.9 °C ± 0.2 °C"
    assert entry["spread"].endswith("Δ°C")
    (reference,) = desk.state.chosen.references
    assert reference.tolerance == pytest.approx(0.2)
    assert 0.05 < reference.spread < 0.5
    assert reference.has_settled
    assert entry["date"] == f"{date.today():%Y-%m-%d}"
    desk.add("34.2 °C ± 0.1 °C up")
    assert not desk.state.message_is_fault, desk.state.message
    assert [reference.way for reference in desk.state.chosen.references] == ["", "up"]
    desk.add("33 °C ± 2 kg")
    assert desk.state.message_is_fault
    assert "neither a share" in desk.state.message


def test_every_fit_stands_beside_the_others(desk: Desk) -> None:
    """The line that is fitted to the scale is the simplest that is not worse; another is one edit away."""
    desk.open_step(Step.TRUE)
    desk.choose_leaf("fits")
    shown = words(desk)
    assert "▌ line" in shown
    assert "proposed" in shown.split("▌ line")[1].splitlines()[0]
    desk.edit(("channels", MASS, "true", "kind"), "monotone cubic")
    assert "▌ monotone cubic" in words(desk)
    chart = workspace_now(desk).chart
    assert chart is not None
    fit = next(each for each in chart.series if each.name == "fit")
    for reference in desk.state.chosen.references:
        near = min(range(len(fit.x)), key=lambda place: abs(fit.x[place] - reference.indicated))
        assert fit.y[near] == pytest.approx(reference.indicated - reference.true, abs=0.01)
    assert any("left out is missed" in note.text for note in desk.notes if note.channel == MASS)


def test_a_tare_is_one_key(desk: Desk) -> None:
    """What stands on the scale at the cursor is nothing from then on; twice changes little; undo takes it back."""
    before = desk.state.history.text
    desk.put_cursor(1439.9)
    desk.tare()
    assert "tare: 42.2" in desk.state.message
    run = desk.bench.run(desk.state.project, desk.state.chosen)
    assert abs(run.reading_at(Step.CALM, 1439.9).value) < 0.1
    assert any("tare 42.20" in line for line in _at_true(desk))
    first = desk.state.chosen.correction.tare
    desk.tare()
    assert desk.state.chosen.correction.tare == pytest.approx(first, abs=1e-6)
    residual = next(line for line in _at_true(desk) if "40.000 kg" in line)
    assert "+0.449" in residual
    desk.undo()
    assert desk.state.history.text == before


def _at_true(desk: Desk) -> list[str]:
    desk.open_step(Step.TRUE)
    return words(desk).splitlines()


def calibrations_of(desk: Desk) -> dict[str, object]:
    """The table of those kept."""
    found = tomllib.loads(desk.state.history.text)["channels"][desk.state.channel].get("calibrations", {})
    assert isinstance(found, dict)
    return found


def test_a_calibration_is_put_away_and_adopted_again(desk: Desk) -> None:
    """Its references move as they are; the channel is uncorrected in between, and to the bit as before after that."""
    desk.choose_channel(MASS)
    desk.open_step(Step.TRUE)
    desk.choose_leaf("calibrations")
    before = desk.bench.run(desk.state.project, desk.state.chosen).calm.x.tobytes()
    references, kept = true_of(desk, MASS)["references"], calibrations_of(desk)
    assert list(kept) == ["before winter"]
    assert "zero moves by" in words(desk)
    desk.add("spring")
    assert not desk.state.message_is_fault, desk.state.message
    assert calibrations_of(desk)["spring"] == {"kind": "line", "references": references}
    assert desk.state.chosen.correction.kind == "none"
    desk.add("again")
    assert "no reference to put away" in desk.state.message
    desk.select(("channels", MASS, "calibrations", "spring", "kind"))
    adopt(desk)
    assert not desk.state.message_is_fault, desk.state.message
    assert true_of(desk, MASS)["references"] == references
    assert list(calibrations_of(desk)) == ["before winter"]
    assert desk.bench.run(desk.state.project, desk.state.chosen).calm.x.tobytes() == before


def test_what_is_replaced_by_adopting_is_kept_by_its_day(desk: Desk) -> None:
    """Nothing is lost; a name twice is refused; one selected is taken away, the adopted one never is so."""
    desk.choose_channel(MASS)
    desk.open_step(Step.TRUE)
    desk.choose_leaf("calibrations")
    adopt(desk)
    assert "Select one that is kept" in desk.state.message
    desk.select(("channels", MASS, "calibrations", "before winter", "kind"))
    adopt(desk)
    assert list(calibrations_of(desk)) == ["2026-05-14"]
    assert desk.state.chosen.adopted.day == date(2025, 10, 11).toordinal()
    desk.add("2026-05-14")
    assert "already; give this one another name" in desk.state.message
    desk.select(("channels", MASS, "calibrations", "2026-05-14", "kind"))
    desk.take_away()
    assert calibrations_of(desk) == {}
    desk.undo()
    desk.undo()
    assert list(calibrations_of(desk)) == ["before winter"]


def test_references_taken_elsewhere_are_typed_or_read_from_a_file(desk: Desk) -> None:
    """As pairs, the true value first; all of them or none."""
    desk.choose_channel(AIR)
    desk.open_step(Step.TRUE)
    desk.add("20 °C ± 0.1 °C = 20.6; 30 = 30.9 °C")
    assert not desk.state.message_is_fault, desk.state.message
    assert [(each.true, each.indicated, each.tolerance) for each in desk.state.chosen.references] == [
        (20.0, 20.6, pytest.approx(0.1)),
        (30.0, 30.9, 0.0),
    ]
    assert desk.state.chosen.correction.gain == pytest.approx(10 / 10.3)
    (desk.folder / "captures/baths.csv").write_text("true;shown\n40,0;41,2\n50,0;51,7\n", "utf-8")
    desk.add("< captures/baths.csv")
    assert [each.indicated for each in desk.state.chosen.references] == [20.6, 30.9, 41.2, 51.7]
    for wrong, says in (
        ("1 kg = 2", "kg"),
        ("20 =", "is not a pair"),
        ("20 = 21; x = 3", '"x"'),
        ("< captures/none.csv", "is not in the"),
    ):
        before = desk.state.history.text
        desk.add(wrong)
        assert desk.state.message_is_fault
        assert says in desk.state.message, desk.state.message
        assert desk.state.history.text == before
