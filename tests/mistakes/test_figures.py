"""The figure of a note is the number that its sentence says: of every note that any mistake of any job brings."""

from __future__ import annotations

import math
import re
from collections.abc import Iterator

import pytest

from lesart.core.notes import Note
from lesart.demo.jobs.job import Job
from tests.mistakes.jobs import JOBS
from tests.mistakes.mistake import Mistake, said_of, said_rightly

NUMBER = re.compile(r"0x[0-9A-Fa-f]+|[−-]?\d+(?:\.\d+)?(?:e[−-]?\d+)?")
SHARE = re.compile(r"(\d+) of (\d+)")
COUNTED = ("parts", "pins", "cells")
"""Units of notes that name each of the things they count, in place of their number."""
BESIDE = ("the mark of thousands lights",)
"""Sentences about an example of what is wrong; their figure says from where on it is."""
SCALES = (1.0, 1e3, 1e-3, 1e6, 1e-6, 100.0)
"""A figure may be told in a neighbouring unit, and a share in percent."""


def numbers_in(text: str) -> Iterator[float]:
    """All of them; with and without the gaps between groups of three."""
    for written in (text, re.sub(r"(?<=\d)[ \u00a0\u202f](?=\d{3}\b)", "", text)):
        for match in NUMBER.findall(written):
            yield float(int(match, 16)) if match.startswith("0x") else float(match.replace("−", "-"))
    for part, whole in SHARE.findall(text):
        yield 100 * int(part) / int(whole)


def says_its_figure(note: Note) -> bool:
    """Is one of its numbers the figure, rounded to two digits or more?"""
    assert note.figure is not None
    figure = abs(note.figure)
    for scale in SCALES:
        told = {float(f"{figure * scale:.{digits}g}") for digits in range(2, 10)} | {round(figure * scale)}
        if any(
            math.isclose(abs(number), each, rel_tol=1e-9, abs_tol=1e-12)
            for number in numbers_in(note.text)
            for each in told
        ):
            return True
    return False


@pytest.mark.parametrize(("job", "mistakes"), JOBS, ids=[job.folder for job, _ in JOBS])
def test_a_sentence_has_the_figure_of_its_note(job: Job, mistakes: tuple[Mistake, ...]) -> None:
    """What a script reads and what a person reads are the same number."""
    notes = [*said_rightly(job.name).notes, *(note for each in mistakes for note in said_of(job, each).notes)]
    with_figure = {note.text: note for note in notes if note.figure is not None and math.isfinite(note.figure)}
    assert with_figure
    assert [
        (note.figure, text)
        for text, note in with_figure.items()
        if note.unit not in COUNTED and not any(each in text for each in BESIDE) and not says_its_figure(note)
    ] == []
