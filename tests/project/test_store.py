"""Files: a write is whole or it did not happen, and unsaved work comes back."""

from __future__ import annotations

import os
import signal
import subprocess
import sys
import textwrap
import time
from pathlib import Path

import pytest

from lesart.core.errors import StorageError
from lesart.project.folder import store


def test_a_write_replaces_whole(tmp_path: Path) -> None:
    """The new text is there, nothing else is left, and the file's rights stay."""
    path = tmp_path / "lesart.toml"
    path.write_text("old")
    path.chmod(0o640)
    store.write_whole(path, "new\n")
    assert path.read_text() == "new\n"
    assert path.stat().st_mode & 0o777 == 0o640
    assert os.listdir(tmp_path) == ["lesart.toml"]


def test_a_failed_write_changes_nothing(tmp_path: Path, monkeypatch: pytest.MonkeyPatch) -> None:
    """The disk is full just before the end: the old text stands, no half file lies about, a sentence says why."""
    path = tmp_path / "lesart.toml"
    path.write_text("old")

    def full(_handle: int) -> None:
        raise OSError(28, "No space left on device")

    monkeypatch.setattr(os, "fsync", full)
    with pytest.raises(StorageError, match="No space left on device"):
        store.write_whole(path, "new")
    assert path.read_text() == "old"
    assert os.listdir(tmp_path) == ["lesart.toml"]


def test_killed_while_saving(tmp_path: Path) -> None:
    """Killed at any moment of saving again and again, the file is always one of the whole texts."""
    path = tmp_path / "lesart.toml"
    script = textwrap.dedent(
        f"""
        from pathlib import Path
        from lesart.project.folder.store import write_whole
        path, k = Path({str(path)!r}), 0
        while True:
            k += 1
            write_whole(path, ("%d\\n" % k) * 20_000)
            if k == 1:
                print("going", flush=True)
        """
    )
    for pause in (0.0, 0.003, 0.011, 0.02):
        process = subprocess.Popen([sys.executable, "-c", script], stdout=subprocess.PIPE)
        assert process.stdout is not None
        process.stdout.readline()
        end = time.monotonic() + pause
        while time.monotonic() < end:
            pass
        process.send_signal(signal.SIGKILL)
        process.wait()
        process.stdout.close()
        lines = path.read_text().splitlines()
        assert len(lines) == 20_000
        assert len(set(lines)) == 1


@pytest.mark.parametrize(
    ("content", "says"),
    [(b"\xff\xfe\x00", "not UTF-8"), (b"x" * (store.LARGEST_BYTES + 1), "more than 4 MB"), (None, "cannot be read")],
)
def test_texts_that_are_none(tmp_path: Path, content: bytes | None, says: str) -> None:
    """Binary, huge and missing files are refused with their reason."""
    path = tmp_path / "lesart.toml"
    if content is not None:
        path.write_bytes(content)
    with pytest.raises(StorageError, match=says):
        store.read_text(path)


def test_a_folder_without_a_project(tmp_path: Path) -> None:
    """The sentence says what would make one."""
    for path in (tmp_path, tmp_path / "nowhere"):
        with pytest.raises(StorageError, match="lesart new"):
            store.project_folder(path)
