"""A folder is made whole or not at all, and nothing hidden stays of one whose maker was killed."""

from __future__ import annotations

import subprocess
import sys
import time
from pathlib import Path

import pytest

from lesart.core.errors import StorageError
from lesart.desk.opening import open_desk
from lesart.desk.project_folders import is_half_a_yard, make_yard
from lesart.project.folder.made import leftover_of, made_beside, workplace
from lesart.project.folder.store import FILE

CSV = "t_s,mass_kg\n" + "".join(f"{second},{second % 7}.5\n" for second in range(60))


def names(folder: Path) -> set[str]:
    """All files in a folder, those that are hidden too; without copies of captures that Lesart keeps to open sooner."""
    found = {path.relative_to(folder).as_posix() for path in folder.rglob("*") if path.is_file()}
    return {name for name in found if not name.startswith(".lesart/read/")}


def contents(folder: Path) -> dict[str, bytes]:
    """Of its files, without what Lesart keeps for itself where somebody has opened it."""
    return {name: (folder / name).read_bytes() for name in names(folder) if not name.startswith(".lesart/")}


def test_it_takes_its_place_at_the_end(tmp_path: Path) -> None:
    """Until then there is nothing of its name; an empty folder is not a hindrance, a full one is."""
    place = tmp_path / "deep" / "new"
    with made_beside(place) as making:
        (making / "a").write_text("x")
        assert not place.exists()
    assert names(tmp_path) == {"deep/new/a"}
    (tmp_path / "empty").mkdir()
    with made_beside(tmp_path / "empty") as making:
        (making / "b").write_text("x")
    assert names(tmp_path / "empty") == {"b"}
    with pytest.raises(StorageError, match="it already exists"), made_beside(place):
        pass


def spoiled(folder: Path, name: str) -> None:
    """Write one file where it can be written, then fail."""
    with made_beside(folder) as making:
        (making / name).write_text("x")
        raise RuntimeError("on the way")


def test_a_mistake_on_the_way_leaves_nothing(tmp_path: Path) -> None:
    """One of our own, or a file that cannot be written."""
    with pytest.raises(RuntimeError, match="on the way"):
        spoiled(tmp_path / "new", "a")
    with pytest.raises(StorageError, match="No such file"):
        spoiled(tmp_path / "new", "no/folder")
    assert list(tmp_path.iterdir()) == []


def test_what_a_killed_one_left_is_taken_away(tmp_path: Path) -> None:
    """Of one that is still at work nothing is."""
    dead = tmp_path / ".new.abcd1234"
    dead.mkdir()
    (dead / ".making").write_text("")
    foreign = tmp_path / ".new.notes"
    foreign.mkdir()
    with workplace(tmp_path / "new") as alive:
        assert not dead.exists()
        with workplace(tmp_path / "new") as another:
            assert alive.exists()
            assert another != alive
    assert list(tmp_path.iterdir()) == [foreign]


def test_names_of_leftovers() -> None:
    assert leftover_of(".hive-2-morning.csv.x7_kq2ab") == "hive-2-morning.csv"
    assert [leftover_of(name) for name in (".gitignore", "a.csv", ".a.csv", ".lesart.toml.swp")] == [None] * 4


LATER = [pytest.param(files, marks=pytest.mark.long) for files in (1, 13)]


@pytest.mark.parametrize("files", [6, *LATER])
def test_the_demo_killed_while_it_is_made(tmp_path: Path, files: int) -> None:
    """The operating system kills it at its n-th file: nothing of its name is there, and the next run makes it whole."""
    command = [sys.executable, "-m", "lesart", "demo", "--make", "yard"]
    process = subprocess.Popen(command, cwd=tmp_path, stdout=subprocess.DEVNULL)
    until = time.monotonic() + 60
    while len(names(tmp_path)) < 1 + files and process.poll() is None:
        assert time.monotonic() < until
        time.sleep(0.002)
    process.kill()
    process.wait()
    if not (tmp_path / "yard").exists():  # else it was faster than the kill, and is whole
        assert all(path.name.startswith(".yard.") for path in tmp_path.iterdir())
        make_yard(tmp_path / "yard")
    assert [path.name for path in tmp_path.iterdir()] == ["yard"]
    assert len(names(tmp_path / "yard")) == 14
    assert open_desk(tmp_path / "yard").notes


def test_a_half_made_yard_is_made_whole_by_open(yard_once: Path, yard: Path) -> None:
    """As versions before this one left it: files missing, one half written under a hidden name, with the project file
    or without."""
    whole = contents(yard_once)
    for gone in (
        ("captures/stand-digits.vcd",),
        ("captures/stand-digits.vcd", "captures/lid-bus.vcd", FILE, "pictures/leaf.png"),
    ):
        for name in gone:
            (yard / name).unlink()
        (yard / "captures/.lid-bus.vcd.ab12cd34").write_text("half")
        assert is_half_a_yard(yard)
        desk = open_desk(yard)
        assert desk.state.message == "The linden yard was half made here; it is complete now."
        desk.close()
        assert contents(yard) == whole


def test_a_yard_that_somebody_changed_is_left_alone(yard: Path) -> None:
    """A trace thrown away on purpose, a file of one's own beside: that is a project, not half a yard."""
    (yard / "captures/stand-digits.vcd").unlink()
    (yard / FILE).write_text((yard / FILE).read_text().replace("200 kg", "250 kg"))
    assert not is_half_a_yard(yard)
    (yard / FILE).unlink()
    (yard / "notes.txt").write_text("mine")
    assert not is_half_a_yard(yard)
    with pytest.raises(StorageError, match="it holds other files; name another folder"):
        make_yard(yard)


def test_a_half_made_new_project_is_made_by_open(tmp_path: Path) -> None:
    """The capture was copied, then somebody was killed: the project file follows from it, and is written."""
    place = tmp_path / "scale"
    (place / "captures").mkdir(parents=True)
    (place / "captures/scale.csv").write_text(CSV)
    desk = open_desk(place)
    assert list(desk.state.project.channels) == ["mass_kg"]
    assert "Is captures/scale.csv complete?" in desk.state.message
    assert (place / "captures/scale.csv").read_text() == CSV
    assert {name for name in names(tmp_path) if ".lesart/" not in name} == {
        "scale/lesart.toml",
        "scale/captures/scale.csv",
    }


def test_a_folder_of_which_nothing_can_be_made(tmp_path: Path) -> None:
    (tmp_path / "captures").mkdir()
    (tmp_path / "captures/prose.csv").write_text("once upon a time\n")
    with pytest.raises(StorageError, match=r"there is no lesart\.toml in it, and none can be made of its capture"):
        open_desk(tmp_path)
    (tmp_path / "captures/two.csv").write_text(CSV)
    with pytest.raises(StorageError, match=r"there is no lesart\.toml in it; lesart new"):
        open_desk(tmp_path)
