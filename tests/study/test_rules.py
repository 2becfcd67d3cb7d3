"""Every figure of Pace has a rule that says how it is worked out and what it is held against."""

from __future__ import annotations

from pathlib import Path

import pytest

from lesart.core.pace.rules import RULES, rule_of
from lesart.core.pace.verdict import Verdict
from lesart.demo.jobs.listed import JOBS
from lesart.desk.project_folders import make_job
from lesart.project.assets.named import Assets
from lesart.project.check import check_project
from lesart.project.folder.store import FILE, read_text
from lesart.study.loop_verdicts import paced
from lesart.study.whole_bench import bench_at


@pytest.fixture(scope="module")
def verdicts(yard_once: Path, tmp_path_factory: pytest.TempPathFactory) -> list[Verdict]:
    """Of the yard and of all jobs."""
    folder = tmp_path_factory.mktemp("jobs")
    folders = [yard_once, *(make_job(job.folder, folder / job.folder) for job in JOBS)]
    found: list[Verdict] = []
    for each in folders:
        paced_there = paced(check_project(read_text(each / FILE), assets=Assets(each)), bench_at(each), 2.0)
        found += [*paced_there.verdicts, *paced_there.traced]
    return found


def test_every_figure_has_a_rule(verdicts: list[Verdict]) -> None:
    """In its unit; with a limit where the figure has one, and with none where not."""
    assert len(verdicts) > 200
    for verdict in verdicts:
        rule = rule_of(verdict.name)
        assert rule is not None, verdict.name
        assert rule.unit == verdict.unit, verdict.name
        assert bool(rule.limit) or verdict.limit is None, verdict.name


def test_names_are_told_apart() -> None:
    """No two rules have one name, and each is its own."""
    assert len({rule.name for rule in RULES}) == len(RULES)
    for rule in RULES:
        found = rule_of(rule.name.replace("…", "a b"))
        assert found is rule, rule.name
