"""The docs say what the program does."""

from __future__ import annotations

import sys
from collections.abc import Mapping
from pathlib import Path

import pytest
from tools.reference.pages import pages
from tools.shots import SHEET, VIEWS

ROOT = Path(__file__).resolve().parent.parent


@pytest.fixture(scope="module")
def made() -> Mapping[str, str]:
    """Each page as ``make reference`` would write it."""
    return pages()


HELP_OF_ITS_OWN = ("commands.md",) if sys.version_info >= (3, 13) else ()
"""From 3.13 on the library writes ``-o, --out PATH`` where it wrote ``-o PATH, --out PATH``; the page is made
before."""


def test_pages_that_are_made_are_current(made: Mapping[str, str]) -> None:
    """Each stands in docs as it would be written, what the commands of the jobs print with it."""
    told = {name: text for name, text in made.items() if name not in HELP_OF_ITS_OWN}
    assert [name for name, text in told.items() if (ROOT / "docs" / name).read_text(encoding="utf-8") != text] == []


def test_no_page_of_a_job_is_left_over(made: Mapping[str, str]) -> None:
    """A job that is gone takes its page with it."""
    there = {f"jobs/{path.name}" for path in (ROOT / "docs/jobs").iterdir()}
    assert there == {name for name in made if name.startswith("jobs/")}


def test_the_readme_shows_every_picture_there_is() -> None:
    """Each picture that ``make shots`` takes stands in the folder and in the README, and no other does."""
    readme = (ROOT / "README.md").read_text(encoding="utf-8")
    taken = {f"{view.name}.png" for view in VIEWS} | {f"{SHEET}.png"}
    assert {path.name for path in (ROOT / "docs/screenshots").glob("*.png")} == taken
    assert {name for name in taken if f"docs/screenshots/{name}" in readme} == taken
    assert len(taken) < 20
