"""Files that were read are watched: another content, a shorter one, none at all, and one that comes back."""

from __future__ import annotations

from pathlib import Path

from lesart.project.folder.watched import Changes, WatchedFiles


def test_every_way_a_file_changes(tmp_path: Path) -> None:
    """It is told once; a file that grows is read again when it rests."""
    path = tmp_path / "a.csv"
    path.write_text("1")
    files = WatchedFiles()
    files.note(path)
    assert files.look() == Changes()
    path.write_text("1\n2")
    assert files.look() == Changes(growing=(path,))
    path.write_text("1\n2\n3")
    assert files.look() == Changes()
    assert files.look() == Changes(changed=(path,))
    assert files.look() == Changes()  # until it is read again
    files.note(path)
    kept = path.stat()
    path.unlink()
    assert files.look() == Changes(gone=(path,))
    assert files.look() == Changes()
    assert files.gone == {path}
    path.write_text("another")
    assert kept.st_size != path.stat().st_size
    assert files.look() == Changes(growing=(path,))
    assert files.gone == set()
    assert files.look() == Changes(changed=(path,))


def test_a_file_that_was_moved_away_and_back(tmp_path: Path) -> None:
    path = tmp_path / "a.csv"
    path.write_text("1")
    files = WatchedFiles()
    files.note(path)
    path.rename(tmp_path / "b.csv")
    assert files.look().gone == (path,)
    (tmp_path / "b.csv").rename(path)
    assert files.look() == Changes(back=(path,))


def test_what_is_said() -> None:
    """A sentence for each thing that happened, the files by name."""
    a, b = Path("x/a.csv"), Path("x/b.csv")
    assert not Changes().any
    assert Changes(changed=(a, b)).sentence == "a.csv, b.csv was changed outside and is read again."
    both = Changes(gone=(a,)) + Changes(back=(b,))
    assert both.sentence == "a.csv is gone; what was read of it is still shown. b.csv is back, as it was."
