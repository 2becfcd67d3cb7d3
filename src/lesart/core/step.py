"""The nine steps of the thread: one name for each, the same on the screen, in the project file and in the code."""

from __future__ import annotations

from enum import StrEnum


class Step(StrEnum):
    """The steps in order; each is its own name as text, so that JSON answers and table keys hold plain words."""

    WIRE = "wire"
    RAW = "raw"
    LAW = "law"
    TRUE = "true"
    CALM = "calm"
    FIT = "fit"
    GLASS = "glass"
    PACE = "pace"
    PACK = "pack"

    @property
    def number(self) -> int:
        """Its place in the thread, and the key that opens it: 1 to 9."""
        return _NUMBERS[self]

    @property
    def shown(self) -> str:
        """As a person reads it."""
        return self.value.capitalize()


_NUMBERS = {step: number for number, step in enumerate(Step, 1)}

COMPUTED = (Step.RAW, Step.LAW, Step.TRUE, Step.CALM)
"""Steps that produce a block of samples."""


def step_at(number: int) -> Step | None:
    """The step with that number; None for 0, the yard, where all channels are shown."""
    return tuple(Step)[number - 1] if 1 <= number <= len(Step) else None
