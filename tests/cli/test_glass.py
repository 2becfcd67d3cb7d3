"""``lesart fit`` and ``lesart glass``: what the screens of Fit and Glass show, for scripts and for a bench."""

from __future__ import annotations

import shutil
from pathlib import Path

import pytest

from tests.cli.spoken import read_json, refused, said
from tests.conftest import MASS


def test_a_field_swept(capsys: pytest.CaptureFixture[str], yard: Path) -> None:
    """Borders are neighbouring floats; where a value of the range does not fit the exit code is 1."""
    shown = said(capsys, "fit", yard, MASS)
    assert "[  9.9]" in shown
    assert "9.9499999999999993 kg" in shown
    assert "sample marked bad" in shown
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
