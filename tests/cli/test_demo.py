"""``lesart demo``: jobs are listed and made."""

from __future__ import annotations

from pathlib import Path

import pytest

from lesart.cli.main import main
from lesart.demo.jobs.job import Job
from lesart.demo.jobs.listed import JOBS
from tests.cli.spoken import refused, said


def test_every_job_is_listed_with_what_it_is(capsys: pytest.CaptureFixture[str]) -> None:
    """By the name that makes it."""
    lines = said(capsys, "demo", "--list").splitlines()
    assert [line.split(maxsplit=1) for line in lines[: len(JOBS)]] == [[job.folder, job.title] for job in JOBS]
    assert len({job.folder for job in JOBS}) == len({job.title for job in JOBS}) == 21


@pytest.mark.parametrize("job", JOBS, ids=lambda job: job.folder)
def test_a_job_is_made_and_has_no_fault(
    job: Job, tmp_path: Path, capsys: pytest.CaptureFixture[str], monkeypatch: pytest.MonkeyPatch
) -> None:
    """Into a folder of its name; made again it stays as it is, what was changed in it too."""
    monkeypatch.chdir(tmp_path)
    name = job.folder
    assert name in said(capsys, "demo", "--job", name, "--make")
    assert main(["check", name]) == 0
    text = (tmp_path / name / "lesart.toml").read_text()
    (tmp_path / name / "lesart.toml").write_text(f"# mine\n{text}")
    said(capsys, "demo", "--job", name, "--make")
    assert (tmp_path / name / "lesart.toml").read_text() == f"# mine\n{text}"


def test_what_is_no_job_is_refused_with_those_there_are(tmp_path: Path, capsys: pytest.CaptureFixture[str]) -> None:
    """In a sentence; a folder that holds something else is left alone."""
    sentence = refused(capsys, "demo", "--job", "cellar", "--make")
    assert '"cellar" is not a job' in sentence
    assert all(job.folder in sentence for job in JOBS)
    (tmp_path / "mine.txt").write_text("mine")
    assert str(tmp_path) in refused(capsys, "demo", tmp_path, "--job", "hut", "--make")
    assert [path.name for path in tmp_path.iterdir()] == ["mine.txt"]
