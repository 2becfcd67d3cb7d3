"""A file that goes out replaces none that a project reads, ever, and no other without being told so."""

from __future__ import annotations

from pathlib import Path

import pytest

from lesart.core.errors import StorageError
from lesart.project.exported import TakenError, write_export
from lesart.project.folder.store import FILE
from tests.conftest import yard_once  # noqa: F401

READ = (
    FILE,
    "captures/hive-2-morning.csv",
    "captures/yard-air.vcd",
    "captures/lid-sound.wav",
    "captures/mast-node.csv",
    "pictures/leaf.png",
    "captures/lid-bus.vcd",
    "captures/stand-digits.vcd",
)


@pytest.mark.parametrize("name", READ)
@pytest.mark.parametrize("told", [True, False])
def test_what_the_project_reads_is_safe(yard: Path, name: str, told: bool) -> None:
    """By its own path, by one with detours, by a link; whether the project is named or only lies around the file."""
    before = (yard / name).read_bytes()
    (yard / "link.svg").symlink_to(yard / name)
    for path in (yard / name, yard / "drawings" / ".." / name, yard / "link.svg"):
        with pytest.raises(StorageError, match="the project in yard reads this file; name another one"):
            write_export(path, "x", yard if told else None, replace=True)
    assert (yard / name).read_bytes() == before


def test_a_capture_outside_the_folder_is_safe_too(yard: Path, tmp_path: Path) -> None:
    """The project reads it, wherever it lies."""
    outside = tmp_path / "far.csv"
    outside.write_text("t,x\n0,1\n")
    text = (yard / FILE).read_text().replace("captures/hive-2-morning.csv", str(outside))
    (yard / FILE).write_text(text)
    with pytest.raises(StorageError, match="reads this file"):
        write_export(outside, "x", yard, replace=True)
    assert outside.read_text() == "t,x\n0,1\n"


@pytest.mark.parametrize(
    "broken", ["sources = 3\n", "lesart = ", "[sources]\nx = 1\n[panels]\np = 2\n", "[sources.a]\ncapture = 3\n"]
)
def test_of_a_broken_project_its_file_is_safe(tmp_path: Path, broken: str) -> None:
    (tmp_path / FILE).write_text(broken)
    with pytest.raises(StorageError, match="reads this file"):
        write_export(tmp_path / FILE, "x", replace=True)
    write_export(tmp_path / "drawings/a.svg", "x")
    assert (tmp_path / "drawings/a.svg").read_text() == "x"


def test_another_file_only_when_told(yard: Path) -> None:
    """A drawing of before, or anything else that is there."""
    path = yard / "drawings/a.svg"
    write_export(path, "first", yard)
    with pytest.raises(TakenError, match="it already exists"):
        write_export(path, "second", yard)
    assert path.read_text() == "first"
    write_export(path, "second", yard, replace=True)
    assert path.read_text() == "second"
    with pytest.raises(StorageError, match="not a file that can be replaced"):
        write_export(yard / "captures", "x", yard, replace=True)
    with pytest.raises(StorageError, match="Lesart keeps its own files there"):
        write_export(yard / ".lesart/unsaved.toml", "x", yard, replace=True)
