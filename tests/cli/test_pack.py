"""``lesart pack``: what it prints, writes and returns."""

from __future__ import annotations

import io
import os
import pty
import select
import shutil
import socket
import subprocess
import threading
import tty
from collections.abc import Callable, Iterator
from contextlib import AbstractContextManager, contextmanager
from pathlib import Path

import pytest

from lesart.cli.main import main
from tests.cli.spoken import read_json, refused, said


def test_a_pack_is_written_checked_and_compared(yard: Path, tmp_path: Path, capsys: pytest.CaptureFixture[str]) -> None:
    """0 where all is well, 1 where it is older than the project or a device differs."""
    folder = tmp_path / "fw"
    told = read_json(said(capsys, "pack", yard, "--channel", "lid air", "--to", folder, "--json"))
    assert [each["name"] for each in told["channels"]] == ["lid air"]
    assert told["compiled"]["ok"] is True
    assert sorted(path.name for path in folder.iterdir()) == [
        "README.md", "computed.md", "lid_air.c", "linden_yard.h", "linden_yard.py", "pack.json", "test_pack.c", "vectors",
    ]  # fmt: skip
    check = ("pack", yard, "--channel", "lid air", "--to", folder, "--check")
    assert "as the project gives it" in said(capsys, *check)
    file = yard / "lesart.toml"
    file.write_text(file.read_text() + '\n[pack]\nword = "16"\n')
    assert "pack it again" in said(capsys, *check, code=1)
    (tmp_path / "rows").write_text("lid_air_law,0,1,0\n")
    differs = said(capsys, "pack", yard, "--channel", "lid air", "--compare", tmp_path / "rows", code=1)
    assert differs.startswith("lid air, Law and True, vector 0 (raw ")


def test_what_is_left_out_is_told(yard: Path, capsys: pytest.CaptureFixture[str]) -> None:
    out = said(capsys, "pack", yard, "--channel", "stand lean", "--channel", "battery", "--no-compile", code=1)
    assert "left out: stand lean: its laws read stand x and stand y" in out


def test_wrong_use_is_a_sentence(yard: Path, capsys: pytest.CaptureFixture[str]) -> None:
    assert '"no such" is not in the project' in refused(capsys, "pack", yard, "--channel", "no such")
    assert "--check needs --to FOLDER" in refused(capsys, "pack", yard, "--channel", "lid air", "--check")
    assert "--within" in refused(capsys, "pack", yard, "--within", "500 %")
    file = yard / "lesart.toml"
    file.write_text(file.read_text() + '\n[pack]\nword = "12"\n')
    assert 'pack.word = "12"; it must be one of "16", "32"' in refused(capsys, "pack", yard)


@pytest.fixture(scope="module")
def rows(yard_once: Path, tmp_path_factory: pytest.TempPathFactory) -> bytes:
    """What a device prints that runs the vectors of one channel."""
    folder = tmp_path_factory.mktemp("fw") / "pack"
    assert main(["pack", str(yard_once), "--channel", "lid air", "--to", str(folder), "--no-compile"]) == 0
    sources = [str(each) for each in folder.glob("*.c")]
    program = folder / "device"
    subprocess.run(["gcc", "-std=c99", "-DPRINT_ROWS", *sources, "-o", str(program)], check=True)
    return subprocess.run([str(program)], check=True, capture_output=True).stdout


@contextmanager
def on_a_serial_port(text: bytes) -> Iterator[str]:
    """A pseudo-terminal on which a device prints without end."""
    ours, theirs = pty.openpty()
    tty.setraw(theirs)
    stop = threading.Event()

    def prints() -> None:
        while not stop.is_set():
            _, can_write, _ = select.select([], [ours], [], 0.1)
            if can_write:
                os.write(ours, text[:512])
                rest = text[512:]
                while rest and not stop.is_set():
                    if select.select([], [ours], [], 0.1)[1]:
                        rest = rest[os.write(ours, rest[:512]) :]

    device = threading.Thread(target=prints)
    device.start()
    try:
        yield os.ttyname(theirs)
    finally:
        stop.set()
        device.join()
        os.close(ours)
        os.close(theirs)


@contextmanager
def on_a_connection(text: bytes) -> Iterator[str]:
    """A device that prints once and hangs up."""
    with socket.create_server(("127.0.0.1", 0)) as server:

        def prints() -> None:
            connection, _ = server.accept()
            with connection:
                connection.sendall(text)

        device = threading.Thread(target=prints)
        device.start()
        yield f"127.0.0.1:{server.getsockname()[1]}"
        device.join()


@pytest.mark.parametrize("line", [on_a_serial_port, on_a_connection])
def test_a_device_is_compared_while_it_prints(
    line: Callable[[bytes], AbstractContextManager[str]], rows: bytes, yard: Path, capsys: pytest.CaptureFixture[str]
) -> None:
    """Equal; and with one figure changed the first step that differs, without waiting for the rest."""
    compare = ("pack", yard, "--channel", "lid air", "--compare")
    count = rows.count(b"\n", rows.index(b"lid_air_law,0"))
    with line(b"begun\n" + rows) as where:
        assert said(capsys, *compare, where).startswith("equal in all ")
    at = rows.index(b"lid_air_law,9,")
    value = rows[at:].split(b"\n")[0].split(b",")[2]
    wrong = rows.replace(b"lid_air_law,9," + value + b",", b"lid_air_law,9," + value + b"1,")
    with line(wrong) as where:
        told = said(capsys, *compare, where, code=1)
    assert told.startswith("lid air, Law and True, vector 9 (raw ")
    assert f"the device gives {value.decode()}1, " in told
    assert count > 100


def test_a_pipe_is_compared(
    rows: bytes, yard: Path, capsys: pytest.CaptureFixture[str], monkeypatch: pytest.MonkeyPatch
) -> None:
    monkeypatch.setattr("sys.stdin", io.StringIO(rows.decode()))
    assert said(capsys, "pack", yard, "--channel", "lid air", "--compare", "-").startswith("equal in all ")


def test_a_line_that_is_not_there_is_a_sentence(yard: Path, capsys: pytest.CaptureFixture[str]) -> None:
    compare = ("pack", yard, "--channel", "lid air", "--compare")
    assert "127.0.0.1:1 cannot be reached" in refused(capsys, *compare, "127.0.0.1:1")
    assert "no-such-rows" in refused(capsys, *compare, "no-such-rows")
    assert "/dev/null cannot be opened" in refused(capsys, *compare, "/dev/null")


@pytest.mark.long
def test_a_device_that_computes_otherwise_is_explained(
    yard: Path, tmp_path: Path, capsys: pytest.CaptureFixture[str]
) -> None:
    """The firmware of a project with half the gain, held against the pack of the right one."""
    other = tmp_path / "other"
    shutil.copytree(yard, other)
    file = other / "lesart.toml"
    file.write_text(file.read_text().replace('gain = "128"', 'gain = "64"', 1))
    folder = tmp_path / "fw"
    said(capsys, "pack", other, "--channel", "hive 2 mass", "--to", folder, "--no-compile")
    sources = [str(each) for each in folder.glob("*.c")]
    subprocess.run(["gcc", "-std=c99", "-DPRINT_ROWS", *sources, "-o", str(folder / "device")], check=True)
    printed = subprocess.run([str(folder / "device")], check=True, capture_output=True).stdout
    (tmp_path / "rows").write_bytes(printed)
    told = said(capsys, "pack", yard, "--channel", "hive 2 mass", "--compare", tmp_path / "rows", code=1)
    assert "hive 2 mass, why: gain of bridge converter is 128; 64 would explain it." in told
