"""What the text of a new project takes from the file."""

from __future__ import annotations

from pathlib import Path

import pytest

from lesart.project.check import check_project
from lesart.project.new.make import make_project
from lesart.project.new.text import USUAL_AGE_S
from lesart.project.tables.channels import STALE_AFTER


@pytest.mark.parametrize(("step_s", "age_s"), [(1, 5.0), (2, 5.0), (10, 25.0), (60, 150.0), (600, 1500.0)])
def test_a_reading_of_a_slow_source_is_not_stale_before_the_next(tmp_path: Path, step_s: int, age_s: float) -> None:
    """The file says how often there is one; where that is often the usual age of five seconds stays."""
    path = tmp_path / "slow.csv"
    path.write_text("t,temp\n" + "".join(f"{k * step_s},{20 + k / 10}\n" for k in range(30)))
    made = make_project(path, tmp_path / "made")
    project = check_project((made.folder / "lesart.toml").read_text(encoding="utf-8"))
    assert project.channels["temp"].field.stale_after_s == age_s


def test_the_usual_age_is_that_of_a_field() -> None:
    assert STALE_AFTER.default == f"{USUAL_AGE_S:g} s"
