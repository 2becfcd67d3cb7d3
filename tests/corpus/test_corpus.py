"""Any file becomes a project without a question; what cannot be read rightly is said, never guessed in silence."""

from __future__ import annotations

from pathlib import Path

import pytest

from tests.corpus.counters import COUNTERS
from tests.corpus.formats import FORMATS
from tests.corpus.habit import Habit, outcome
from tests.corpus.heads import HEADS
from tests.corpus.shapes import SHAPES
from tests.corpus.spoken import SPOKEN
from tests.corpus.times import TIMES

HABITS: list[Habit] = [*TIMES, *COUNTERS, *SHAPES, *HEADS, *FORMATS, *SPOKEN]


def _is_long(habit: Habit) -> bool:
    """A process of its own reads these; one of them is enough each time."""
    return habit.name.startswith("Parquet") and habit.name != "Parquet, moments with a zone"


CASES = [pytest.param(each, id=each.name, marks=[pytest.mark.long] if _is_long(each) else []) for each in HABITS]


@pytest.mark.parametrize("habit", CASES)
def test_habit_is_read_as_a_careful_person_reads_it(tmp_path: Path, habit: Habit) -> None:
    """Its rate, its columns with their units, its first and last values; what is doubtful is said."""
    found = outcome(habit, tmp_path)
    assert found.right, found.why


def test_the_page_says_how_many_habits_there_are() -> None:
    """And how many of them are right by saying what is in doubt, or why they are refused."""
    said = sum(bool(habit.refused or habit.said or (habit.wanted and not habit.wanted.rate_hz)) for habit in HABITS)
    page = (Path(__file__).parents[2] / "docs/files.md").read_text(encoding="utf-8")
    assert f"{len(HABITS)} habits of writing; read correctly: {len(HABITS)}, of which {said} by saying" in page
