"""The docs say what the program does."""

from __future__ import annotations

from pathlib import Path

from tools.reference import page
from tools.shots import SHEET, VIEWS

ROOT = Path(__file__).resolve().parent.parent


def test_the_reference_is_current() -> None:
    """docs/project-file.md is what ``make reference`` would write."""
    assert (ROOT / "docs/project-file.md").read_text(encoding="utf-8") == page()


def test_the_readme_shows_every_picture_there_is() -> None:
    """Each picture that ``make shots`` takes stands in the folder and in the README, and no other does."""
    readme = (ROOT / "README.md").read_text(encoding="utf-8")
    taken = {f"{view.name}.png" for view in VIEWS} | {f"{SHEET}.png"}
    assert {path.name for path in (ROOT / "docs/screenshots").glob("*.png")} == taken
    assert {name for name in taken if f"docs/screenshots/{name}" in readme} == taken
    assert len(taken) < 20
