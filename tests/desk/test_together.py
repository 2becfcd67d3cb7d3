"""Two desks at one folder, an editor beside one, captures that change under it: nothing is lost, and each is told."""

from __future__ import annotations

from pathlib import Path

import pytest

from lesart.core.errors import StorageError
from lesart.core.notes import FAULT
from lesart.core.step import Step
from lesart.desk.desk import Desk
from lesart.desk.opening import look_at, open_desk
from lesart.desk.picture import look
from lesart.desk.sheets.export import export_view
from lesart.project.folder.store import FILE
from tests.conftest import AIR, MASS, killed

CAPACITY = ("channels", MASS, "law", 1, "capacity")
DECIMALS = ("channels", MASS, "fit", "decimals")
CAPTURE = "captures/hive-2-morning.csv"


def capacity(desk: Desk) -> str:
    """As the desk has it."""
    return str(desk.state.project.tables["channels"][MASS]["law"][1]["capacity"])


def test_two_desks_each_keep_their_work(desk: Desk, yard: Path) -> None:
    """Each is told of the other. One saves: the other takes it in, and what it had unsaved outlives its own kill."""
    assert not desk.look_outside()
    other = open_desk(yard)
    assert desk.look_outside()
    assert other.look_outside()
    for each in (desk, other):
        assert each.state.message.startswith("Another Lesart has this project open too.")
    desk.edit(DECIMALS, "2")
    desk.keep_work()
    other.edit(CAPACITY, "250 kg")
    other.save()
    assert desk.look_outside()
    assert capacity(desk) == "250 kg"
    (mine,) = (yard / ".lesart").glob("mine-*.toml")
    assert "decimals = 2" in mine.read_text()
    assert mine.name in desk.state.message
    other.close()
    assert desk.look_outside()
    assert desk.state.message == "The other Lesart has left this project."


def test_the_work_of_two_that_were_killed_is_back(desk: Desk, yard: Path) -> None:
    """The last one as an edit, the one before in a file that is named."""
    other = open_desk(yard)
    desk.edit(DECIMALS, "2")
    desk.keep_work()
    other.edit(CAPACITY, "250 kg")
    other.keep_work()
    killed(desk)
    killed(other)
    again = open_desk(yard)
    assert capacity(again) == "250 kg"
    assert again.state.message.startswith("Unsaved work of the last run is back")
    (kept,) = (yard / ".lesart").glob("earlier-*.toml")
    assert kept.name in again.state.message
    assert "decimals = 2" in kept.read_text()
    killed(again)
    assert capacity(open_desk(yard)) == "250 kg"  # and again, without an edit in between


def test_commands_look_at_what_is_saved(desk: Desk, yard: Path) -> None:
    """They hold no place at the folder and take nobody's unsaved work."""
    desk.edit(CAPACITY, "250 kg")
    desk.keep_work()
    killed(desk)
    assert capacity(look_at(yard)) == "200 kg"
    assert (yard / ".lesart/unsaved.toml").exists()


@pytest.mark.parametrize("content", [b"\xff\xfe\x00l\x00e", b"#" * 4_100_000])
def test_saving_over_what_is_no_project_text(desk: Desk, yard: Path, content: bytes) -> None:
    """Whatever somebody put there is kept aside byte for byte, and the way out is said while it is there."""
    desk.edit(DECIMALS, "2")
    (yard / FILE).write_bytes(content)
    assert desk.look_outside()
    assert desk.state.message.endswith("ctrl+s puts it aside and writes yours.")
    assert not desk.look_outside()
    desk.save()
    (aside,) = (yard / ".lesart").glob("outside-*.toml")
    assert aside.read_bytes() == content
    assert "decimals = 2" in (yard / FILE).read_text()
    assert not desk.state.unsaved


def test_work_that_cannot_be_kept_is_not_promised(desk: Desk, monkeypatch: pytest.MonkeyPatch) -> None:
    """On a disk that takes nothing, leaving says that what is unsaved is lost; where it can be kept, that it is
    back."""
    desk.edit(DECIMALS, "2")
    desk.ask_to_leave()
    assert desk.state.message == "Not saved yet: ctrl+s saves. ctrl+q again leaves, and it is back next time."

    def refuse(*_: object) -> None:
        raise StorageError("unsaved.toml: it cannot be written (Read-only file system); nothing was changed.")

    monkeypatch.setattr("lesart.project.folder.session.write_whole", refuse)
    desk.edit(DECIMALS, "3")
    desk.keep_work()
    assert desk.state.message.endswith("If Lesart were killed now, unsaved work would be lost.")
    desk.ask_to_leave()
    assert desk.state.message.endswith("ctrl+q again leaves, and it is lost: it cannot be kept here.")
    assert desk.state.message_is_fault


def test_a_capture_that_changes_is_read_again(desk: Desk, yard: Path) -> None:
    """Shortened, taken away, and back: said each time, and what is shown is what is there."""
    path, whole = yard / CAPTURE, (yard / CAPTURE).read_bytes()
    assert len(desk.bench.raw(desk.state.project, desk.state.chosen)) == 72_000
    path.write_bytes(whole[: len(whole) // 2].rpartition(b"\n")[0] + b"\n")
    assert desk.look_outside()
    assert "is being written to" in desk.state.message
    assert desk.look_outside()
    assert desk.state.message == "hive-2-morning.csv was changed outside and is read again."
    shortened = len(desk.bench.raw(desk.state.project, desk.state.chosen))
    assert 30_000 < shortened < 42_000
    path.unlink()
    assert desk.look_outside()
    assert desk.state.message_is_fault
    gone = [note for note in desk.notes if "is gone" in note.text]
    assert {name for note in gone for name in note.channels} >= {MASS, AIR}
    assert all(note.mark == FAULT and note.step == Step.RAW for note in gone)
    assert len(desk.bench.raw(desk.state.project, desk.state.chosen)) == shortened
    path.write_bytes(whole)
    assert desk.look_outside()
    assert desk.look_outside()
    assert len(desk.bench.raw(desk.state.project, desk.state.chosen)) == 72_000
    assert not any("is gone" in note.text for note in desk.notes)


def test_a_capture_that_becomes_nonsense_is_a_note(desk: Desk, yard: Path) -> None:
    """Binary where numbers were: the channel says so, and every step is still drawn."""
    desk.bench.raw(desk.state.project, desk.state.chosen)
    (yard / CAPTURE).write_bytes(bytes(range(256)) * 20)
    desk.look_outside()
    desk.look_outside()
    assert any(note.channel == MASS and note.mark == FAULT and "hive-2-morning.csv" in note.text for note in desk.notes)


def test_a_picture_that_changes_is_drawn_anew(desk: Desk, yard: Path) -> None:
    """Without an edit; what it showed before is gone from the project and from the panel that shows it."""
    from PIL import Image

    def mast() -> object:
        return next(glass.frame for glass in look(desk).glass if glass.name == "mast")

    before, seen = desk.state.project.pictures["leaf"], mast()
    Image.new("L", (24, 24), 255).save(yard / "pictures/leaf.png")
    assert desk.look_outside()
    assert desk.look_outside()
    assert desk.state.project.pictures["leaf"].frames != before.frames
    assert mast() != seen
    assert "leaf.png was changed outside" in desk.state.message


def test_an_export_asks_before_it_replaces(desk: Desk, yard: Path) -> None:
    """A capture never; a drawing that is there after a yes."""
    said: list[tuple[str, bool]] = []
    capture = (yard / CAPTURE).read_bytes()
    desk.open_step(Step.TRUE)
    export_view(desk, CAPTURE, lambda *what: said.append(what))
    assert desk.state.message_is_fault
    assert desk.state.message.endswith("the project in yard reads this file; name another one.")
    assert (yard / CAPTURE).read_bytes() == capture
    export_view(desk, "points.csv", lambda *what: said.append(what))
    points = (yard / "points.csv").read_text()
    (yard / "points.csv").write_text("mine")
    export_view(desk, "points.csv", lambda *what: said.append(what))
    assert desk.state.asks == "points.csv"
    assert (yard / "points.csv").read_text() == "mine"
    export_view(desk, "points.csv", lambda *what: said.append(what), replaces=True)
    assert (desk.state.asks, (yard / "points.csv").read_text()) == ("", points)
