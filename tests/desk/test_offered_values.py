"""Every choice that a value shows can be taken: over all values of the yard."""

from __future__ import annotations

from lesart.core.step import Step
from lesart.desk.desk import Desk
from lesart.desk.entries.edits import parameter_at, typed_value
from lesart.desk.entries.offered_files import files_in
from lesart.desk.entries.offered_values import offers_of_value
from lesart.desk.picture import workspace_now
from lesart.desk.state import LEAVES
from lesart.project.schema import parameters_at, tables_in


def test_every_choice_can_be_typed(desk: Desk) -> None:
    """Of every parameter in every table that the yard has."""
    project, count = desk.state.project, 0
    files = files_in(desk.folder, (".vcd", ".csv", ".png", ".wav", ".bdf", ".parquet", ".jsonl"))
    for table in tables_in(project.tables):
        for parameter in parameters_at(project, table):
            key = (*table, parameter.name)
            for offer in offers_of_value(project, desk.folder, key):
                if offer.text in files:
                    assert (desk.folder / offer.text).is_file()
                typed_value(project, key, offer.text)  # raises for what cannot be
                count += 1
    assert count > 500


def test_a_choice_has_its_list_and_a_number_has_none(desk: Desk) -> None:
    """In the picture, for the value that is selected."""
    desk.open_step(Step.FIT)
    desk.choose_leaf(LEAVES[Step.FIT][1])
    for edit in workspace_now(desk).edits:
        parameter = parameter_at(desk.state.project, edit.key)
        found = offers_of_value(desk.state.project, desk.folder, edit.key)
        assert bool(found) is (parameter.kind in ("choice", "flag", "unit")), parameter


def test_files_are_those_of_the_folder(desk: Desk) -> None:
    """As they are typed, none that is hidden."""
    (desk.folder / ".lesart").mkdir(exist_ok=True)
    (desk.folder / ".lesart" / "kept.vcd").write_text("")
    names = files_in(desk.folder, (".vcd",))
    assert "captures/mast-cups.vcd" in names
    assert not [name for name in names if name.startswith(".")]
