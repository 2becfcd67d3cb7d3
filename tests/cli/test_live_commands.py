"""Recording and the rig without a screen, as processes: killed at any moment, nothing older than a second is lost."""

from __future__ import annotations

import contextlib
import json
import os
import random
import re
import signal
import subprocess
import sys
import threading
from collections.abc import Iterator
from datetime import UTC, datetime
from itertools import pairwise
from pathlib import Path

import pytest

from lesart.cli.main import main
from lesart.core.raw.source import Source
from lesart.live.rig.rig import Rig
from lesart.live.rig.terminal import Terminal
from lesart.project.captures.capture_read import read_capture
from lesart.project.check import check_project
from tests.live.waiting import wait_for

PROJECT = """lesart = 1
# A comment that stays.
[sources.scale.line]
kind = "text line"
port = "rig/scale"

[sources.still]
capture = "x.csv"

[channels.mass]
source = "scale"
column = "count"
raw_unit = "ct"
unit = "ct"
lowest = "0 ct"
highest = "1000000 ct"
"""


@pytest.fixture
def yard(tmp_path: Path) -> Iterator[Path]:
    (tmp_path / "lesart.toml").write_text(PROJECT)
    rig = Rig(tmp_path / "rig", rate_hz=200.0)
    rig.start()
    yield tmp_path
    rig.stop()


def capture_of(yard: Path) -> Path:
    return yard / check_project((yard / "lesart.toml").read_text()).sources["scale"].capture


def test_a_recording_becomes_the_capture_of_its_source(yard: Path, capsys: pytest.CaptureFixture[str]) -> None:
    assert main(["record", str(yard), "scale", "--for", "0.5s"]) == 0
    assert re.search(r"captures/scale-\d{8}-\d{6}\.csv: \d+ rows safe\.\n", capsys.readouterr().out)
    assert "# A comment that stays." in (yard / "lesart.toml").read_text()
    assert main(["read", str(yard), "mass", "--json"]) == 0
    readings = json.loads(capsys.readouterr().out)["readings"]
    assert len(readings) > 20  # of a hundred; a busy machine sends some late
    assert all(reading["mark"] is None for reading in readings)


def test_two_recordings_stand_beside_each_other(yard: Path, capsys: pytest.CaptureFixture[str]) -> None:
    for _ in range(2):
        assert main(["record", str(yard), "scale", "--for", "0.6s", "--json"]) == 0
        assert json.loads(capsys.readouterr().out)["rows"] > 10
    assert len(list((yard / "captures").iterdir())) == 2


def test_a_recording_to_a_file_leaves_the_project_as_it_is(yard: Path) -> None:
    assert main(["record", str(yard), "scale", "--for", "0.2s", "--to", str(yard / "mine.csv")]) == 0
    assert (yard / "mine.csv").exists()
    assert (yard / "lesart.toml").read_text() == PROJECT


def test_where_nothing_comes_there_is_no_recording(tmp_path: Path, capsys: pytest.CaptureFixture[str]) -> None:
    (tmp_path / "lesart.toml").write_text(PROJECT)
    assert main(["record", str(tmp_path), "scale", "--for", "0.2s"]) == 1
    assert "Nothing came (rig/scale is not there; the rig makes it: lesart rig)" in capsys.readouterr().out
    assert not list((tmp_path / "captures").iterdir())


@pytest.mark.parametrize(
    ("arguments", "said"),
    [
        (["still"], 'source "still" has no line to listen to; those with one are scale.'),
        (["gate"], 'source "gate" is not in the project; those with one are scale.'),
        (["scale", "--for", "-1 s"], "it must be above 0 s, like 10s or 5 min"),
        (["scale", "--for", "5 kg"], "kg"),
    ],
)
def test_a_wrong_request_is_said(
    tmp_path: Path, arguments: list[str], said: str, capsys: pytest.CaptureFixture[str]
) -> None:
    (tmp_path / "lesart.toml").write_text(PROJECT)
    assert main(["record", str(tmp_path), *arguments]) == 2
    assert said in capsys.readouterr().err


def test_killed_at_any_moment_a_recording_is_complete_to_its_last_second(yard: Path) -> None:
    """Killed again and again: its rows go on, whole and without a gap, to less than a second before."""
    dice = random.Random(7)
    for turn in range(3):
        path = yard / f"killed-{turn}.csv"
        command = [sys.executable, "-m", "lesart", "record", str(yard), "scale", "--to", str(path)]
        process = subprocess.Popen(command, stderr=subprocess.PIPE, text=True)
        wait_for(lambda path=path: path.exists() and path.stat().st_size > 500, "it began")  # type: ignore[misc]
        with contextlib.suppress(subprocess.TimeoutExpired):
            process.wait(timeout=dice.uniform(0.1, 1.1))
        process.kill()
        killed_at = datetime.now(UTC)
        process.communicate()
        count = read_capture(path, Source("s", path.name, format="recording")).columns["count"]
        began = datetime.fromisoformat(path.read_text().splitlines()[2].rpartition(" ")[2])
        assert count.usable.all()
        assert max(later - earlier for earlier, later in pairwise(count.t)) < 1.0
        # The last second, and half a one more for a machine that is busy with other tests.
        assert (killed_at - began).total_seconds() - count.t[-1] < 1.5


def test_the_rig_is_a_command_that_leaves_nothing_behind(tmp_path: Path) -> None:
    command = [sys.executable, "-m", "lesart", "rig", str(tmp_path), "--port", "0"]
    process = subprocess.Popen(
        command, stdin=subprocess.PIPE, stdout=subprocess.PIPE, stderr=subprocess.PIPE, text=True
    )
    assert process.stdout is not None
    said = [process.stdout.readline() for _ in range(4)]
    assert (tmp_path / "rig" / "scale").is_symlink()
    assert re.search(r"127\.0\.0\.1:\d+: Modbus TCP, unit 7", said[2])
    assert process.stdin is not None
    process.stdin.write("fire\nsilence 2\n")
    process.stdin.flush()
    assert process.stderr is not None
    assert '"fire" is not a fault of the rig' in process.stderr.readline()
    process.send_signal(signal.SIGTERM)
    assert process.wait(timeout=30) == 0
    assert not (tmp_path / "rig" / "scale").exists()
    for stream in (process.stdin, process.stdout, process.stderr):
        stream.close()


def test_a_port_that_is_taken_is_said(tmp_path: Path, capsys: pytest.CaptureFixture[str]) -> None:
    rig = Rig(tmp_path / "a")
    rig.start()
    assert main(["rig", str(tmp_path / "b"), "--port", str(rig.port)]) == 2
    rig.stop()
    assert "0 takes a free one" in capsys.readouterr().err


def test_a_survey_of_the_rig(tmp_path: Path, capsys: pytest.CaptureFixture[str]) -> None:
    rig = Rig(tmp_path / "rig")
    rig.start()
    where = str(tmp_path / "rig" / "mast")
    assert main(["survey", where, "--units", "5-8", "--expect", "7"]) == 0
    assert "the expected one at 7 answered, of 4 asked." in capsys.readouterr().out
    assert main(["survey", f"127.0.0.1:{rig.port}", "--units", "6,7", "--expect", "6", "--json"]) == 1
    found = json.loads(capsys.readouterr().out)
    assert [each["address"] for each in found["answered"]] == [7]
    assert "where no device answered; 7 answered: its address is set differently" in found["verdicts"][0]["text"]
    rig.fault("silence", 30.0)
    wait_for(lambda: main(["survey", where, "--units", "7"]) == 1, "silence")
    assert "† No device answered, of 1 unit asked" in capsys.readouterr().out
    rig.stop()


@pytest.mark.parametrize(
    ("arguments", "said"),
    [
        (["nowhere", "--units", "0-3"], "write units from 1 to 247 as 1-20 or 3,5,9"),
        (["nowhere"], "nowhere is not there; is it plugged in?"),
        (["nowhere", "--expect", "x"], '--expect "x"; it must be an address like 7 or 0x27.'),
        (["nowhere", "--timeout", "1 ms"], "it must be from 5 ms to 60 s"),
        (["nowhere", "--baud", "5"], "baud = 5; it must be a whole number from 50 to 4 000 000."),
        (["mast", "--project", "."], "lesart.toml"),
    ],
)
def test_a_wrong_survey_is_said(arguments: list[str], said: str, capsys: pytest.CaptureFixture[str]) -> None:
    assert main(["survey", *arguments]) == 2
    assert said in capsys.readouterr().err


def test_a_project_from_a_line_that_talks(tmp_path: Path, capsys: pytest.CaptureFixture[str]) -> None:
    """It asks nothing: columns, units and limits are found in what came, and the line stays to be listened to."""
    rig = Rig(tmp_path / "rig", rate_hz=200.0)
    rig.start()
    port, folder = os.path.realpath(tmp_path / "rig" / "scale"), tmp_path / "mine"
    assert main(["new", port, str(folder), "--for", "0.6 s", "--json"]) == 0
    assert json.loads(capsys.readouterr().out)["channels"] == ["count", "lid_mv"]
    project = check_project((folder / "lesart.toml").read_text())
    source = project.sources["capture"]
    assert source.line is not None
    assert (source.line["port"], source.format, source.capture) == (port, "recording", "captures/line.csv")
    assert [channel.unit_raw.symbol for channel in project.channels.values()] == ["ct", "mV"]
    assert main(["read", str(folder), "count"]) == 0
    assert main(["new", port, str(folder)]) == 2
    rig.stop()
    assert main(["new", str(tmp_path / "rig" / "scale")]) == 2
    assert "it already exists" in capsys.readouterr().err


def test_a_project_from_a_port_that_sends_frames(tmp_path: Path, capsys: pytest.CaptureFixture[str]) -> None:
    """No line of text comes: what stands at the same place in each frame, and the sum at its end, tell them apart."""
    rig = Rig(tmp_path / "rig", frames_hz=100.0)
    rig.start()
    port, folder = os.path.realpath(tmp_path / "rig" / "smoke"), tmp_path / "mine"
    assert main(["new", port, str(folder), "--for", "0.6 s", "--baud", "9600", "--json"]) == 0
    rig.stop()
    assert json.loads(capsys.readouterr().out)["channels"] == ["bytes 4 and 5", "bytes 6 to 9", "frame count"]
    project = check_project((folder / "lesart.toml").read_text())
    counter = project.channels["frame count"]
    assert (counter.lowest, counter.highest) == (0, 255)
    source = project.sources["capture"]
    assert source.line is not None
    told = [source.line[name] for name in ("begins", "length", "check", "unchecked")]
    assert (source.line.kind.name, told) == ("serial frames", ["5A A5", 11, "sum-16", 0])
    columns = read_capture(folder / source.capture, source).columns
    assert {(later - earlier) % 256 for earlier, later in pairwise(columns["frame count"].x)} == {1.0}
    assert (abs(columns["bytes 4 and 5"].x - 85) < 20).all()
    assert (abs(columns["bytes 6 to 9"].x - 27) < 0.5).all()


def test_the_rate_of_a_port_is_found(tmp_path: Path, capsys: pytest.CaptureFixture[str]) -> None:
    """Nobody says that the smoke sensor speaks at 9600 baud: at 115 200 other bytes come, and no check is right."""
    rig = Rig(tmp_path / "rig", frames_hz=60.0)
    rig.start()
    port, folder = os.path.realpath(tmp_path / "rig" / "smoke"), tmp_path / "mine"
    assert main(["new", port, str(folder), "--for", "1 s"]) == 0
    said = capsys.readouterr().err
    assert "frames of bytes at 9600 baud" in said.splitlines()
    source = check_project((folder / "lesart.toml").read_text()).sources["capture"]
    assert source.line is not None
    assert [source.line[name] for name in ("baud", "begins", "length", "check")] == [9600, "5A A5", 11, "sum-16"]
    assert main(["new", port, str(tmp_path / "other"), "--for", "0.3 s", "--baud", "38400"]) == 2
    rig.stop()
    said = f"lesart: {port}: no lines with numbers came, and no frames of bytes that could be told apart; is the baud rate right?"
    assert said in capsys.readouterr().err.splitlines()


@pytest.mark.long
def test_lines_of_text_at_another_rate_are_found(tmp_path: Path, capsys: pytest.CaptureFixture[str]) -> None:
    """As a device speaks that was made twenty years ago: at 2400 baud."""
    port, ended = Terminal(tmp_path / "old", 2400), threading.Event()
    port.plug()

    def speak() -> None:
        count = 0
        while not ended.wait(0.02):
            count += 1
            port.say(f"{count} {20 + count % 7}.5\r\n".encode())

    speaking = threading.Thread(target=speak, daemon=True)
    speaking.start()
    try:
        assert main(["new", os.path.realpath(port.link), str(tmp_path / "mine"), "--for", "0.3 s"]) == 0
    finally:
        ended.set()
        speaking.join()
        port.pull()
    assert "lines of text at 2400 baud" in capsys.readouterr().err.splitlines()
    line = check_project((tmp_path / "mine" / "lesart.toml").read_text()).sources["capture"].line
    assert line is not None
    assert (line.kind.name, line["baud"]) == ("text line", 2400)


def test_a_line_that_says_nothing_makes_no_project(tmp_path: Path, capsys: pytest.CaptureFixture[str]) -> None:
    rig = Rig(tmp_path / "rig")
    rig.start()
    port = os.path.realpath(tmp_path / "rig" / "mast")
    assert main(["new", port, str(tmp_path / "mine"), "--for", "0.2 s"]) == 2
    rig.stop()
    said = (
        f"lesart: {port}: not a byte came; the device may have to be asked first, or its send line is on another pin."
    )
    assert said in capsys.readouterr().err.splitlines()
    assert not (tmp_path / "mine").exists()
