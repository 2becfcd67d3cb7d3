"""The nine steps: their order, their numbers, the words they are written as."""

from __future__ import annotations

import json
from pathlib import Path

import lesart.core
from lesart.core.notes import DOUBT, FAULT, Note, ordered
from lesart.core.step import COMPUTED, Step, step_at


def test_numbers_are_the_keys_that_open_them() -> None:
    """1 to 9 both ways; 0 is not a step, and neither is anything else."""
    assert [step.number for step in Step] == list(range(1, 10))
    assert [step_at(number) for number in range(1, 10)] == list(Step)
    assert [step_at(number) for number in (-1, 0, 10)] == [None] * 3


def test_each_has_a_room_of_its_name() -> None:
    """Every step is a folder of the core, and there is no other folder beside those that all steps share."""
    rooms = {path.parent.name for path in Path(lesart.core.__file__).parent.glob("*/__init__.py")}
    assert {str(step) for step in Step} <= rooms


def test_a_step_is_written_as_its_name() -> None:
    """In answers to programs, and in sentences."""
    assert json.dumps({"step": Step.CALM}) == '{"step": "calm"}'
    assert f"{Step.CALM} {Step.CALM.shown}" == "calm Calm"


def test_steps_with_samples_are_in_the_order_of_the_thread() -> None:
    """Each is computed from the one before it."""
    assert list(COMPUTED) == sorted(COMPUTED, key=lambda step: step.number)


def test_notes_stand_in_the_order_of_the_thread() -> None:
    """Faults first; among those alike, from Wire to Pack."""
    notes = [Note(mark, step, None, "") for step in reversed(Step) for mark in (DOUBT, FAULT)]
    assert [(note.mark, note.step) for note in ordered(notes)] == [
        (mark, step) for mark in (FAULT, DOUBT) for step in Step
    ]
