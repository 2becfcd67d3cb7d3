"""Several projects, or several captures of one: all cores, a file for each, and what could not be done said."""

from __future__ import annotations

import json
import shutil
from pathlib import Path

import pytest

from lesart.cli.main import main

PROJECT = """lesart = 1
name = "tank"

[sources.tank]
capture = "captures/monday.csv"
format = "csv"
header = 1
time = "t"
time_unit = "s"

[channels.level]
source = "tank"
column = "level"
raw_unit = "mm"
unit = "mm"
lowest = "0 mm"
highest = "100 mm"
"""
DAYS = ("monday", "tuesday", "wednesday")


@pytest.fixture
def tank(tmp_path: Path) -> Path:
    """A project over one of three days."""
    folder = tmp_path / "tank"
    (folder / "captures").mkdir(parents=True)
    (folder / "lesart.toml").write_text(PROJECT)
    for day, name in enumerate(DAYS):
        rows = "".join(f"{second},{10 * day + second}\n" for second in range(5))
        (folder / "captures" / f"{name}.csv").write_text("t,level\n" + rows)
    return folder


def captures(tank: Path, *names: str) -> list[str]:
    return [str(tank / "captures" / f"{name}.csv") for name in names]


def test_each_capture_into_a_file_of_its_own(tank: Path, tmp_path: Path, capsys: pytest.CaptureFixture[str]) -> None:
    """As if the project's source had read it alone; the project stays as it is."""
    into = tmp_path / "read"
    assert main(["read", str(tank), "level", "--over", *captures(tank, *DAYS), "--into", str(into), "--from", "3"]) == 0
    assert {path.name: path.read_text() for path in into.iterdir()} == {
        f"{name}.csv": f't_s,"calm_mm",mark\n3.0,{10 * day + 3}.0,\n4.0,{10 * day + 4}.0,\n'
        for day, name in enumerate(DAYS)
    }
    out, progress = capsys.readouterr()
    assert out.splitlines()[-1] == "3 of 3 captures read, 6 rows."
    assert progress.endswith("3 of 3 done\n")
    assert (tank / "lesart.toml").read_text() == PROJECT


def test_several_projects(tank: Path, tmp_path: Path, capsys: pytest.CaptureFixture[str]) -> None:
    """Each by its folder's name."""
    other = shutil.copytree(tank, tmp_path / "other")
    assert main(["read", str(tank), str(other), "level", "--into", str(tmp_path / "read"), "--json"]) == 0
    capsys.readouterr()
    read = {path.stem: json.loads(path.read_text()) for path in (tmp_path / "read").iterdir()}
    assert sorted(read) == ["other", "tank"]
    assert [each["value"] for each in read["other"]["readings"]] == [0.0, 1.0, 2.0, 3.0, 4.0]


def test_what_cannot_be_read_stops_none_of_the_others(
    tank: Path, tmp_path: Path, capsys: pytest.CaptureFixture[str]
) -> None:
    """It is said, leaves no file, and makes the exit code 2."""
    (tank / "captures" / "torn.csv").write_text("other,names\n1,2\n")
    into = tmp_path / "read"
    assert main(["read", str(tank), "level", "--over", *captures(tank, "monday", "torn"), "--into", str(into)]) == 2
    out = capsys.readouterr().out.splitlines()
    assert out[1].endswith('torn.csv: sources.tank.time = "t"; the columns of torn.csv are other, names.')
    assert out[2] == "1 of 2 captures read, 5 rows; 1 could not be read."
    assert [path.name for path in into.iterdir()] == ["monday.csv"]


@pytest.mark.parametrize(
    ("arguments", "said"),
    [
        (["read", "tank", "tank", "level"], "the rows of 2 captures would be mixed up; give --into FOLDER."),
        (["read", "tank", "level", "--source", "tank"], "--source tank: it goes with --over"),
        (["check", "tank", "tank", "--over", "a.csv"], "--over reads captures as one project does; name one project."),
        (["check", "tank", "--over", "a.csv", "--source", "well"], '--source "well" is not in tank, which has tank.'),
        (["read", "tank", "tank", "level", "--into", "o"], "both tank and tank would be written there"),
    ],
)
def test_what_does_not_fit_together(
    tank: Path, arguments: list[str], said: str, monkeypatch: pytest.MonkeyPatch, capsys: pytest.CaptureFixture[str]
) -> None:
    """One sentence, and nothing is written."""
    monkeypatch.chdir(tank.parent)
    assert main(arguments) == 2
    assert said in capsys.readouterr().err
    assert [path.name for path in tank.parent.iterdir()] == ["tank"]


def test_a_file_that_is_there_is_not_replaced(tank: Path, tmp_path: Path, capsys: pytest.CaptureFixture[str]) -> None:
    """Of a run before, or somebody's own."""
    (tmp_path / "monday.csv").write_text("mine")
    assert main(["read", str(tank), "level", "--over", *captures(tank, "monday"), "--into", str(tmp_path)]) == 2
    assert "it already exists" in capsys.readouterr().err
    assert (tmp_path / "monday.csv").read_text() == "mine"


def test_many_projects_checked(tank: Path, tmp_path: Path, capsys: pytest.CaptureFixture[str]) -> None:
    """The worst of them is the exit code; a broken one is said among the others."""
    full = shutil.copytree(tank, tmp_path / "full")
    (full / "captures" / "monday.csv").write_text("t,level\n" + "".join(f"{at},{400 + at}\n" for at in range(5)))
    broken = shutil.copytree(tank, tmp_path / "broken")
    (broken / "lesart.toml").write_text(PROJECT.replace('"tank"\ncolumn', '"well"\ncolumn'))
    assert main(["check", str(tank)]) == 0
    assert main(["check", str(tank), str(full)]) == 1
    capsys.readouterr()
    assert main(["check", str(tank), str(full), str(broken), "--json"]) == 2
    found = json.loads(capsys.readouterr().out)["projects"]
    assert [each["project"] for each in found] == [str(tank), str(full), str(broken)]
    assert [each["problem"] is None for each in found] == [True, True, False]
    assert any(note["mark"] == "†" for note in found[1]["notes"])
    main(["check", str(tank), str(full), str(broken)])
    assert capsys.readouterr().out.splitlines()[-1].endswith("1 with a fault; 1 could not be checked.")


def test_one_project_over_other_captures(tank: Path, capsys: pytest.CaptureFixture[str]) -> None:
    """A day on which the tank read what it cannot hold."""
    (tank / "captures" / "flood.csv").write_text("t,level\n" + "".join(f"{at},{400 + at}\n" for at in range(5)))
    assert main(["check", str(tank), "--over", *captures(tank, "tuesday", "flood")]) == 1
    out = capsys.readouterr().out
    assert out.splitlines()[-1].endswith("1 with a fault.")
