"""Every panel that can be chosen by its name, packed with a field on it: its cells can be kept, and its frames are sent
or it is said why not."""

from __future__ import annotations

import json
from collections.abc import Mapping
from pathlib import Path

import pytest

from lesart.core.fit.cells import Cell
from lesart.core.glass.panels.catalogue import CATALOGUE
from lesart.core.glass.panels.inspect_panel import inspect_panel
from lesart.core.pace.trace import is_scanned
from lesart.core.pack.machine import Machine
from lesart.core.pack.settings import PackSettings
from lesart.project.check import check_project
from lesart.project.model import Project
from lesart.study.packing.compiled import compiled_and_run
from lesart.study.packing.made import Pack, packed
from lesart.study.whole_bench import bench_at

OF_MANY_KINDS = ("800×480 e-paper", "800×480 e-paper with red")
"""Panels whose controllers have little in common: the person names theirs."""
TOO_LARGE = {"kind": "segments", "digits": 8, "segments": "16", "drive": "two-line driver"}
"""Three bytes a digit, 24 of them: more than the sixteen places of a driver."""


def project_with(panel: Mapping[str, object]) -> Project:
    """A count of 0 to 9 on a panel."""
    lines = "\n".join(f"{key} = {json.dumps(value)}" for key, value in panel.items())
    return check_project(
        'lesart = 1\nname = "one"\n\n[sources.log]\ncapture = "log.csv"\n\n'
        '[channels.bees]\nsource = "log"\ncolumn = "column 1"\nraw_unit = "1"\nunit = "1"\nlowest = "0"\nhighest = "9"\n'
        "\n[channels.bees.fit]\nwidth = 1\ndecimals = 0\n\n"
        f'[panels.glass]\n{lines}\n\n[faces.face]\npanel = "glass"\n\n'
        '[[faces.face.items]]\nkind = "field"\nchannel = "bees"\n'
    )


def pack_of(project: Project, folder: Path) -> Pack:
    (folder / "log.csv").write_text("n\n1\n2\n3\n4\n5\n6\n7\n8\n9\n0\n")
    return packed(project, bench_at(folder), PackSettings(machine=Machine(32)))


@pytest.mark.parametrize("name", CATALOGUE)
def test_a_field_on_it_is_packed(name: str, tmp_path: Path) -> None:
    project = project_with(CATALOGUE[name])
    pack = pack_of(project, tmp_path)
    assert pack.left_out == {}
    (panel,) = pack.panels
    assert (panel.redraw is not None) == (not is_scanned(project.panels["glass"]) and name not in OF_MANY_KINDS)
    assert panel.undrawn.startswith("glass: no frame of it can be sent.") == (name in OF_MANY_KINDS)
    (field,) = pack.channels[0].form.fields
    codes = [project.panels["glass"].code(Cell(str(digit), point=False)) for digit in range(10)]
    assert field.kept[0].low == 0
    assert field.kept[0].high >= max(code for code in codes if code is not None)


def test_what_cannot_be_sent_is_said_everywhere(tmp_path: Path) -> None:
    """In its header, in the README and beside what was packed; and the rest of it is built and equal."""
    project = project_with(TOO_LARGE)
    pack = pack_of(project, tmp_path)
    said = "glass: its controller, digits, has no command that reaches every place of it."
    assert [each.startswith(said) for each in pack.undrawn.values()] == [True]
    assert said in pack.files["README.md"]
    assert any(said in text for name, text in pack.files.items() if name.endswith(".h"))
    (note,) = inspect_panel(project.panels["glass"])
    assert note.text == "glass: 8 digits of 3 bytes take 24; a driver over two lines holds 16."
    assert note.remedy == "drive it through shift registers, or give it 5 digits"
    done = compiled_and_run(pack.files)
    assert done is None or (done.ok, done.says.partition(";")[0]) == (True, "equal")
