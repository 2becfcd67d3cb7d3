"""The firmware of every display that can be had by name, with one reading on it and nothing else."""

from __future__ import annotations

from pathlib import Path

import pytest

from lesart.core.glass.faces.items import Bar, FieldItem, Label
from lesart.core.step import Step
from lesart.desk.entries.recipes.shown.displays import displays
from lesart.desk.opening import open_desk
from lesart.project.new.make import make_project
from tests.cli.spoken import read_json, said


@pytest.mark.parametrize("line", displays())
def test_a_lone_field_is_built_with_every_warning_an_error(
    line: str, tmp_path: Path, capsys: pytest.CaptureFixture[str]
) -> None:
    """And draws what the model draws: the rows of its vectors are equal. What is called once is inlined, and then a
    compiler sees more."""
    (tmp_path / "log.csv").write_text("t,air\n" + "".join(f"{k},{20 + k % 30 / 10}\n" for k in range(60)))
    made = make_project(tmp_path / "log.csv", tmp_path / "log")
    desk = open_desk(made.folder)
    desk.open_step(Step.GLASS)
    desk.add(line)
    panel = desk.state.panel or next(reversed(desk.state.project.panels))
    (face,) = desk.state.project.faces_on(panel)
    if isinstance(face.items[0], Label):
        desk.select(("faces", face.name, "items", 0, "row"))
        desk.take_away()
    (face,) = desk.state.project.faces_on(panel)
    # No letter fits a row of lamps.
    assert [type(item) for item in face.items] == [Bar if "lamps" in line else FieldItem]
    desk.save()
    desk.close()
    told = read_json(said(capsys, "pack", made.folder, "--json"))
    assert told["compiled"]["ok"] is True, told["compiled"]
