"""Ten classic mistakes of each of twenty-one jobs: every one is said where it is made, with its figure."""

from __future__ import annotations

import pytest

from lesart.core.notes import FAULT
from tests.mistakes.jobs import JOBS
from tests.mistakes.mistake import REFUSED, Job, Mistake, said_of, said_rightly, speaks_of

ROWS = [(job, mistake) for job, mistakes in JOBS for mistake in mistakes]


@pytest.mark.parametrize("job", [job for job, _ in JOBS], ids=lambda job: job.name)
def test_a_job_done_rightly_has_no_fault(job: Job) -> None:
    """Doubts and remarks it may have; none of them is what a mistake makes."""
    said = said_rightly(job.name)
    assert said.refused == ()
    assert [note.text for note in said.notes if note.mark == FAULT] == []


@pytest.mark.parametrize(("job", "mistake"), ROWS, ids=[f"{job.name}: {mistake.says}" for job, mistake in ROWS])
def test_a_mistake_is_said(job: Job, mistake: Mistake) -> None:
    """A note that was not there before: its step, its mark, of whom it speaks, and its figure."""
    before = {note.text for note in said_rightly(job.name).notes}
    said = said_of(job, mistake)
    if mistake.mark == REFUSED:
        assert any(mistake.at in place for place in said.refused), said
        return
    assert said.refused == ()
    new = [note for note in said.notes if note.text not in before]
    found = [
        note
        for note in new
        if (note.step, note.mark) == (mistake.step, mistake.mark) and mistake.at in {"", *speaks_of(note)}
    ]
    assert found, [f"{note.mark} {note.step} {note.text} {note.figure}" for note in new]
    if mistake.figure is not None:
        assert any(note.figure == pytest.approx(mistake.figure, rel=5e-3) for note in found), [
            note.figure for note in found
        ]


def test_ten_of_each() -> None:
    """Twenty-one jobs, ten mistakes each, none told twice."""
    assert len(JOBS) == 21
    for job, mistakes in JOBS:
        assert len(mistakes) >= 10, f"{job.name} has {len(mistakes)}"
        assert len({mistake.says for mistake in mistakes}) == len(mistakes)
