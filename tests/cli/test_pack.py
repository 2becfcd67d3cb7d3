"""``lesart pack``: what it prints, writes and returns."""

from __future__ import annotations

from pathlib import Path

import pytest

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
