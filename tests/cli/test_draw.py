"""``lesart draw``: each view as a vector drawing, the hook-up, the calibration sheet and its points."""

from __future__ import annotations

import csv
from pathlib import Path

import pytest

from tests.cli.spoken import refused, said


@pytest.mark.parametrize("ending", ["svg", "pdf"])
@pytest.mark.parametrize("view", ["raw", "law", "true", "calm", "glass"])
def test_draw(yard_once: Path, tmp_path: Path, capsys: pytest.CaptureFixture[str], view: str, ending: str) -> None:
    """Each view as a vector drawing of its kind."""
    path = tmp_path / f"view.{ending}"
    assert str(path) in said(capsys, "draw", yard_once, view, "-o", path)
    head = path.read_bytes()[:600]
    assert head.startswith(b"%PDF") if ending == "pdf" else b"<svg" in head


@pytest.mark.parametrize("ending", ["svg", "pdf"])
def test_draw_the_hookup(yard_once: Path, tmp_path: Path, capsys: pytest.CaptureFixture[str], ending: str) -> None:
    path = tmp_path / f"sheet.{ending}"
    said(capsys, "draw", yard_once, "wire", "-o", path)
    assert path.stat().st_size > 10_000


@pytest.mark.parametrize("ending", ["svg", "pdf"])
def test_draw_a_calibration_sheet(
    yard_once: Path, tmp_path: Path, capsys: pytest.CaptureFixture[str], ending: str
) -> None:
    """Points, residuals, fit and coverage on one page; the points as a table for other programs."""
    path = tmp_path / f"sheet.{ending}"
    said(capsys, "draw", yard_once, "sheet", "-o", path)
    if ending == "svg":
        text = path.read_text(encoding="utf-8")
        for words in ("calibration", "40.449", "−0.00671", "known from 0 kg to 40.002 kg", "chosen, proposed", "08:27"):
            assert words in text, words
    else:
        assert path.read_bytes().startswith(b"%PDF")


def test_the_points_of_a_calibration_as_csv(
    yard_once: Path, tmp_path: Path, capsys: pytest.CaptureFixture[str]
) -> None:
    """One row a reference, with the unit in the heading; residuals are those of the fit."""
    path = tmp_path / "points.csv"
    said(capsys, "draw", yard_once, "sheet", "-o", path)
    rows = list(csv.DictReader(path.read_text(encoding="utf-8").splitlines()))
    assert [float(row["true / kg"]) for row in rows] == [0.0, 10.0, 20.0, 40.0]
    assert [row["taken"] for row in rows] == ["08:10", "08:14", "08:19", "08:27"]
    for row in rows:
        assert float(row["before / kg"]) == pytest.approx(float(row["indicated / kg"]) - float(row["true / kg"]))
        assert abs(float(row["after / kg"])) < 0.01
    assert "there is nothing to draw" in refused(
        capsys, "draw", yard_once, "sheet", "--channel", "lid air", "-o", tmp_path / "x.svg"
    )
