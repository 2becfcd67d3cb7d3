"""``lesart draw``: each view as a vector drawing, the hook-up, the calibration sheet and its points."""

from __future__ import annotations

import csv
import itertools
import re
from pathlib import Path

import pytest
from PIL import Image

from lesart.draw.paper import bound
from lesart.draw.text_page import LETTERS, text_pages
from tests.cli.spoken import read_json, refused, said

DRAWN = [
    pytest.param(view, ending, marks=[] if ending == "svg" or view == "raw" else pytest.mark.long)
    for view in ("raw", "law", "true", "calm", "glass")
    for ending in ("svg", "pdf")
]


@pytest.mark.parametrize(("view", "ending"), DRAWN)
def test_draw(yard_once: Path, tmp_path: Path, capsys: pytest.CaptureFixture[str], view: str, ending: str) -> None:
    """Each view as a vector drawing of its kind."""
    path = tmp_path / f"view.{ending}"
    assert str(path) in said(capsys, "draw", yard_once, view, "-o", path)
    head = path.read_bytes()[:600]
    assert head.startswith(b"%PDF") if ending == "pdf" else b"<svg" in head


@pytest.mark.parametrize(
    ("command", "work"),
    [
        (("draw", "{yard}", "raw", "-o", "{path}.svg"), "lesart.cli.draw.workspace_now"),
        (("draw", "{yard}", "report", "-o", "{path}.pdf"), "lesart.cli.draw.report_pages"),
        (("trace", "{yard}", "stand", "-o", "{path}.vcd"), "lesart.cli.trace.digits_trace"),
    ],
)
def test_nothing_is_worked_out_for_a_file_that_is_there(
    yard_once: Path,
    tmp_path: Path,
    capsys: pytest.CaptureFixture[str],
    monkeypatch: pytest.MonkeyPatch,
    command: tuple[str, ...],
    work: str,
) -> None:
    """It is refused before the seconds that a drawing takes, and stays as it is."""
    words = [each.format(yard=yard_once, path=tmp_path / "own") for each in command]
    path = Path(words[-1])
    path.write_text("mine")
    monkeypatch.setattr(work, lambda *_: pytest.fail("worked for nothing"))
    assert refused(capsys, *words) == f"lesart: {path}: it already exists; --force replaces it.\n"
    assert path.read_text() == "mine"


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


@pytest.mark.parametrize("panel", ["lid", pytest.param("mast", marks=pytest.mark.long)])
def test_a_picture_of_a_panel(yard_once: Path, tmp_path: Path, capsys: pytest.CaptureFixture[str], panel: str) -> None:
    """With a pixel to a dot it is the frame itself; with more, each dot has them all, and gaps."""
    path = tmp_path / "face.png"
    said(capsys, "draw", yard_once, "glass", "--panel", panel, "--dot", "1", "-o", path, "--at", "1400")
    lit = read_json(said(capsys, "glass", yard_once, panel, "--at", "1400", "--json"))["lit"]
    with Image.open(path) as picture:
        plain = picture.convert("RGB")
    colours = {plain.getpixel((x, y)) for y, row in enumerate(lit) for x, dot in enumerate(row) if dot == "#"}
    others = {plain.getpixel((x, y)) for y, row in enumerate(lit) for x, dot in enumerate(row) if dot != "#"}
    assert plain.size == (len(lit[0]), len(lit))
    assert len(colours) == len(others) == 1
    assert colours != others
    large = tmp_path / "large.png"
    said(capsys, "draw", yard_once, "glass", "--panel", panel, "--dot", "10", "-o", large, "--at", "1400")
    with Image.open(large) as picture:
        big = picture.convert("RGB")
    assert big.size == (10 * (len(lit[0]) + 2), 10 * (len(lit) + 2))
    assert all(
        (big.getpixel((10 * x + 14, 10 * y + 14)) in colours) == (dot == "#")
        for y, row in enumerate(lit)
        for x, dot in enumerate(row)
    )


def test_a_face_over_time(yard_once: Path, tmp_path: Path, capsys: pytest.CaptureFixture[str]) -> None:
    """Each picture stands as long as nothing changed; all of them together last as long as was asked for."""
    path = tmp_path / "face.gif"
    said(capsys, "draw", yard_once, "glass", "--panel", "lid", "-o", path, "--at", "1400", "--for", "4s", "--dot", "2")
    with Image.open(path) as moving:
        lasts = 0
        pictures = []
        for place in range(moving.n_frames):
            moving.seek(place)
            lasts += moving.info["duration"]
            pictures.append(moving.convert("RGB").tobytes())
    assert lasts == 4000
    assert len(pictures) > 1
    assert all(one != other for one, other in itertools.pairwise(pictures))
    refused(capsys, "draw", yard_once, "glass", "-o", path, "--force", "--for", "1000000 s")
    assert "ends in .svg or .pdf" in refused(capsys, "draw", yard_once, "raw", "-o", tmp_path / "raw.png")
    assert "a dot has from 1 to 64 pixels" in refused(capsys, "draw", yard_once, "glass", "-o", path, "--dot", "0")


def test_a_panel_is_drawn_at_its_own_size(yard: Path, tmp_path: Path, capsys: pytest.CaptureFixture[str]) -> None:
    """The ruler is 10 mm, and 128 dots of 0.17 mm are 21.76 mm: both measured in the file, in points of 1/72 inch."""
    file = tmp_path / "lid.svg"
    said(capsys, "draw", yard, "face", "--panel", "lid", "-o", file)
    text = file.read_text()
    strokes = [float(x) for x in re.findall(r'<g id="ruler">\s*<path d="M ([\d.]+) [\d.]+ \nL \1 ', text)]
    assert len(strokes) == 11
    assert (max(strokes) - min(strokes)) * 25.4 / 72 == pytest.approx(10.0, abs=0.01)
    (ground,) = re.findall(r'<g id="ground">\s*<path d="([^"]*)"', text)
    xs = [float(x) for x in re.findall(r"[ML] ([\d.]+)", ground)]
    # Two dots of border on either side.
    assert (max(xs) - min(xs)) * 25.4 / 72 == pytest.approx((128 + 4) * 0.17, abs=0.01)
    assert len(re.findall(r'id="cut-out', text)) == 8
    refused(capsys, "draw", yard, "face", "--panel", "lid", "-o", tmp_path / "lid.png")


@pytest.mark.long
def test_a_report_has_all_of_it(yard_once: Path, tmp_path: Path, capsys: pytest.CaptureFixture[str]) -> None:
    """Contents, notes, what is open, hook-up, a list of channels, their charts, every panel, the loop."""
    file = tmp_path / "one.pdf"
    out = said(capsys, "draw", yard_once, "report", "-o", file)
    pages = len(re.findall(rb"/Type /Page\b(?!s)", file.read_bytes()))
    assert f"{pages} pages" in out
    assert pages > 40
    assert "ends in .pdf" in refused(capsys, "draw", yard_once, "report", "-o", tmp_path / "r.svg")


@pytest.mark.long
def test_pages_of_text_hold_every_line_and_are_the_same_bytes() -> None:
    """As many pages as the lines need; a long one goes on below."""
    lines = [(f"line {number} " + "word " * (number % 40), "text") for number in range(120)]
    pages = list(text_pages("all of them", lines))
    shown = [text.get_text() for page in pages for text in page.texts]
    assert len(pages) > 3
    assert all(
        any(each.startswith(f"line {number} ") or each == f"line {number}" for each in shown) for number in range(120)
    )
    assert sum(each.split().count("word") for each in shown) == sum(number % 40 for number in range(120))
    assert max(map(len, shown)) <= LETTERS
    assert bound(pages) == bound(text_pages("all of them", lines))
