"""``lesart fit`` and ``lesart glass``: what the screens of Fit and Glass show, for scripts and for a bench."""

from __future__ import annotations

import math
import re
import shutil
import subprocess
import sys
from pathlib import Path

import pytest

from lesart.cli.hand import lit_object
from lesart.cli.project import opened
from lesart.cli.rig import lit_rows
from lesart.desk.opening import look_at
from lesart.desk.picture import memory_at
from lesart.live.slip import frames
from lesart.study.glass import glass_of
from lesart.study.wires.panel_stream import stream_of
from lesart.study.wires.stand_in import StandInPanel
from tests.cli.spoken import read_json, refused, said
from tests.conftest import MASS


def test_a_field_swept(capsys: pytest.CaptureFixture[str], yard: Path) -> None:
    """Borders are neighbouring floats, said by the one that has few digits; where a value of the range does not fit the
    exit code is 1."""
    shown = said(capsys, "fit", yard, MASS)
    strip, pieces = (re.sub(" +", " ", part) for part in shown.split("the range in "))
    assert "before a longer text 9.95 kg [ 9.9]\na longer text from here > 9.95 kg [ 10.0]\n" in strip
    assert "a longer text from here −0.05 kg [ -0.1]\nbefore a longer text > −0.05 kg [ 0.0]\n" in strip
    assert "sample marked bad [" in strip
    assert [line[: line.index(" [")].strip() for line in pieces.splitlines()[1:]] == [
        "−2 kg … −0.05 kg",
        "> −0.05 kg … 9.95 kg",
        "> 9.95 kg … < 99.95 kg",
        "99.95 kg … 120 kg",
    ]
    exact = [(each["from"], each["to"]) for each in read_json(said(capsys, "fit", yard, MASS, "--json"))["sweep"]]
    assert exact[1:3] == [(math.nextafter(-0.05, 1), 9.95), (math.nextafter(9.95, 99), math.nextafter(99.95, 0))]
    found = read_json(said(capsys, "fit", yard, MASS, "--panel", "door", "--json"))
    assert (found["channel"], found["unit"], found["width"]) == (MASS, "kg", 8)
    assert found["sweep"][0]["from"] == -2.0
    assert found["sweep"][-1]["last"] == " 120.0kg"
    assert all(len(each["text"]) == 8 for each in found["strip"])
    text = (yard / "lesart.toml").read_text("utf-8")
    (yard / "lesart.toml").write_text(
        text.replace('[channels."hive 2 mass".fit]\ndecimals = 1', '[channels."hive 2 mass".fit]\ndecimals = 3'),
        "utf-8",
    )
    assert "overflow" in said(capsys, "fit", yard, MASS, code=1)
    assert "door, lid does" in refused(capsys, "fit", yard, "lid air", "--panel", "stand")


def test_a_panel_lit(capsys: pytest.CaptureFixture[str], yard: Path) -> None:
    """What stands on it at a moment, dot by dot and as text, and the bytes that put it there."""
    found = read_json(said(capsys, "glass", yard, "door", "--at", "1400", "--json"))
    assert [row[:7] for row in found["text"]] == ["hive 2 ", "lid    "]
    assert (len(found["lit"]), len(found["lit"][0])) == (16, 80)
    first, row, *_ = found["sent"]
    assert (first["bytes"], first["command"]) == ("80", True)
    assert bytes.fromhex(row["bytes"]).startswith(b"hive 2 ")
    assert found["on_wires"] == 34 * 6  # by an expander: two halves a byte, three bytes on the bus for each
    assert "digits in chain order: " in said(capsys, "glass", yard)


def test_test_patterns_as_bytes(capsys: pytest.CaptureFixture[str], yard: Path) -> None:
    """To send to a real panel; an unknown pattern or step says what there is."""
    assert "digits in chain order: 04 04 04 04" in said(
        capsys, "glass", yard, "stand", "--pattern", "each segment in turn", "--step", "3"
    )
    assert "it has all on, all off" in refused(capsys, "glass", yard, "stand", "--pattern", "snow")
    assert "from 1 to 8" in refused(capsys, "glass", yard, "stand", "--pattern", "each segment in turn", "--step", "9")
    assert "which has stand, door, lid, mast, gate" in refused(capsys, "glass", yard, "loft")
    shutil.rmtree(yard)
    assert "there is no such folder" in refused(capsys, "glass", yard)


@pytest.mark.parametrize(
    "name", ["lid", "gate", *(pytest.param(each, marks=pytest.mark.long) for each in ("door", "mast"))]
)
def test_bytes_through_the_stand_in_give_the_face(
    capsys: pytest.CaptureFixture[str], yard_once: Path, tmp_path: Path, name: str
) -> None:
    """Sent over twelve seconds of the capture and obeyed, they show what the face shows at their end."""
    _, project = opened(yard_once)
    path = tmp_path / "sent.slip"
    found = read_json(said(capsys, "glass", yard_once, name, "--to", path, "--for", "12s", "--at", "1400", "--json"))
    rate_hz = max(face.redraw_hz for face in project.faces_on(name))
    assert found["drawings"] == round(12 * rate_hz)
    stand_in = StandInPanel(stream_of(project, name))
    whole, rest = frames(b"", path.read_bytes())
    assert rest == b""
    assert all(stand_in.take(each) for each in whole)
    last_s = 1400 + (found["drawings"] - 1) / rate_hz
    shown = read_json(said(capsys, "glass", yard_once, name, "--at", str(last_s), "--json"))
    assert lit_object(stand_in.shown()) == shown["lit"]
    assert found["most_for_a_change"] <= found["bytes"]


def test_what_is_sent_is_asked_for_rightly(capsys: pytest.CaptureFixture[str], yard_once: Path) -> None:
    """A scanned panel has no bytes; an address is one that a device can have."""
    assert "stand is scanned" in refused(capsys, "glass", yard_once, "stand", "--to", "x.slip")
    said_so = refused(capsys, "glass", yard_once, "lid", "--to", "x.slip", "--address", "0x78")
    assert "--address 0x78: it is from 0x08 to 0x77, like 0x3C." in said_so


def test_the_rig_has_a_panel(yard_once: Path, tmp_path: Path) -> None:
    """Two programs: one sends a face over a port, the other obeys and prints what its glass shows."""
    rig = [sys.executable, "-m", "lesart", "rig", str(tmp_path), "--port", "0", "--glass", str(yard_once), "door"]
    with subprocess.Popen(rig, stdin=subprocess.PIPE, stdout=subprocess.PIPE, text=True) as running:
        assert running.stdout is not None
        while not running.stdout.readline().startswith("Type a fault"):
            pass
        send = [sys.executable, "-m", "lesart", "glass", str(yard_once), "door", "--to", str(tmp_path / "rig/glass")]
        subprocess.run([*send, "--for", "0.1s", "--at", "1400"], check=True, capture_output=True)
        # What was cleared by the start may be shown by itself before.
        shown = [[running.stdout.readline().rstrip("\n") for _ in range(11)]]
        if not any(map(str.strip, shown[0])):
            shown.append([running.stdout.readline().rstrip("\n") for _ in range(11)])
        running.terminate()
    _, project = opened(yard_once)
    desk = look_at(yard_once)
    desk.put_cursor(1400)
    panel = project.panels["door"]
    wanted = lit_rows(glass_of(panel, panel.lit(memory_at(desk, "door"))))
    assert shown[-1] == wanted


def test_arranged_and_refitted_without_a_screen(capsys: pytest.CaptureFixture[str], yard: Path) -> None:
    """Written into the project file, comments kept; the same as on the screen, rules of the face taken over."""
    before = (yard / "lesart.toml").read_text("utf-8")
    shown = said(capsys, "glass", yard, "lid", "--arrange")
    assert shown.startswith("arranged: ")
    after = (yard / "lesart.toml").read_text("utf-8")
    assert after != before
    assert [line for line in before.splitlines() if line.startswith("#")] == [
        line for line in after.splitlines() if line.startswith("#")
    ]
    assert "refitted: face lid on mast" in said(capsys, "glass", yard, "lid", "--refit", "mast")
    _, project = opened(yard)
    old, new = project.faces["lid"], project.faces["lid on mast"]
    assert (new.redraw_hz, new.writes, new.seen_from_m) == (old.redraw_hz, old.writes, old.seen_from_m)
    assert new.items
    assert all(face.items for face in project.faces_on("mast"))
    assert '"none" is not a panel' in refused(capsys, "glass", yard, "lid", "--refit", "none")
    assert '--face "x" is not on lid' in refused(capsys, "glass", yard, "lid", "--arrange", "--face", "x")


def test_a_count_and_a_light_without_a_screen(capsys: pytest.CaptureFixture[str], yard_once: Path) -> None:
    """A step of a count, and what the light is at a moment."""
    found = read_json(
        said(capsys, "glass", yard_once, "door", "--count", "0 to 99 at column 3 padded 0", "--step", "8", "--json")
    )
    assert found["text"][0].rstrip() == "   07"
    assert found["light"] is None
    lit = read_json(said(capsys, "glass", yard_once, "door", "--at", "1400", "--json"))["light"]
    assert lit["says"].endswith("100 %")
    assert lit["behind"].startswith("#")
    assert "has steps from 1 to 100" in refused(
        capsys, "glass", yard_once, "door", "--count", "0 to 99", "--step", "101"
    )
