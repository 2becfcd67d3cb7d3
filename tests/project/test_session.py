"""Several at one folder: each keeps its unsaved work, and what a killed one left is found by the next, by nobody
else."""

from __future__ import annotations

import os
import subprocess
import sys
from pathlib import Path

import pytest

from lesart.core.errors import StorageError
from lesart.project.folder.session import Session, Unsaved


def test_unsaved_work_is_found_after_a_kill(tmp_path: Path) -> None:
    """It knows whether the saved file is still the same, stays until it is in good hands, and goes when it is saved."""
    first = Session(tmp_path)
    first.keep("mine", "saved")
    assert Session(tmp_path).left_behind("saved") == []  # the first one lives
    first.close()
    second = Session(tmp_path)
    path = tmp_path / ".lesart/unsaved.toml"
    assert second.left_behind("saved") == [Unsaved(path, "mine", True)]
    assert second.left_behind("changed since") == [Unsaved(path, "mine", False)]
    assert second.left_behind("mine") == []
    second.keep("saved", "saved")
    assert not path.exists()


def test_each_has_a_file_of_its_own(tmp_path: Path) -> None:
    """Three at once; the second is killed, the third takes nothing from the first, and the next one takes its place."""
    first, second, third = (Session(tmp_path) for _ in range(3))
    assert [each.number for each in (first, second, third)] == [1, 2, 3]
    assert first.others() == 2
    for session, text in ((first, "one"), (second, "two"), (third, "three")):
        session.keep(text, "saved")
    second.close()
    (left,) = first.left_behind("saved")
    assert (left.text, left.fits) == ("two", True)
    first.forget(left)
    assert first.left_behind("saved") == []
    assert sorted(path.name for path in (tmp_path / ".lesart").glob("unsaved*")) == ["unsaved-3.toml", "unsaved.toml"]
    assert Session(tmp_path).number == 2


def test_the_lock_goes_with_the_process(tmp_path: Path) -> None:
    """Killed hard, with no chance to let go."""
    script = (
        f"from pathlib import Path; from lesart.project.folder.session import Session; import sys\n"
        f"s = Session(Path({str(tmp_path)!r})); s.keep('mine', 'saved'); print(s.number, flush=True); sys.stdin.read()"
    )
    process = subprocess.Popen([sys.executable, "-c", script], stdin=subprocess.PIPE, stdout=subprocess.PIPE)
    assert process.stdout is not None
    assert process.stdout.readline() == b"1\n"
    here = Session(tmp_path)
    assert (here.number, here.others(), here.left_behind("saved")) == (2, 1, [])
    process.kill()
    process.communicate()
    assert here.others() == 0
    assert [each.text for each in here.left_behind("saved")] == ["mine"]


def test_work_that_is_no_text_is_set_aside(tmp_path: Path) -> None:
    """It is only a spare copy: it keeps nobody from opening the project, and is not thrown away."""
    kept = tmp_path / ".lesart/unsaved.toml"
    kept.parent.mkdir()
    kept.write_bytes(b"# unsaved \xff\xfe")
    session = Session(tmp_path)
    (left,) = session.left_behind("saved")
    assert left.text is None
    assert session.set_aside(left) == Path(".lesart/unreadable-unsaved.toml")
    assert session.left_behind("saved") == []
    assert (tmp_path / ".lesart/unreadable-unsaved.toml").read_bytes() == b"# unsaved \xff\xfe"


def test_where_nothing_can_be_written(tmp_path: Path, monkeypatch: pytest.MonkeyPatch) -> None:
    """A project on a read-only disk opens; that unsaved work cannot be kept is an error for whoever asks for it."""

    def refuse(*_: object, **__: object) -> int:
        raise PermissionError(30, "Read-only file system")

    (tmp_path / ".lesart").mkdir()
    monkeypatch.setattr(os, "open", refuse)
    session = Session(tmp_path)
    assert (session.number, session.others()) == (0, 0)
    with pytest.raises(StorageError, match="Read-only file system"):
        session.keep("mine", "saved")
