"""Any file becomes a project without a question; what cannot be read rightly is said, never guessed in silence."""

from __future__ import annotations

from pathlib import Path

import pytest

from tests.corpus.formats import FORMATS
from tests.corpus.habit import Habit, outcome
from tests.corpus.shapes import SHAPES
from tests.corpus.times import TIMES

HABITS: list[Habit] = [*TIMES, *SHAPES, *FORMATS]


@pytest.mark.parametrize("habit", HABITS, ids=lambda habit: habit.name)
def test_habit_is_read_as_a_careful_person_reads_it(tmp_path: Path, habit: Habit) -> None:
    """Its rate, its columns with their units, its first and last values; what is doubtful is said."""
    found = outcome(habit, tmp_path)
    assert found.right, found.why
