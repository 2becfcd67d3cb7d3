"""A suspect: one statement that may be wrong, and what would be right."""

from __future__ import annotations

from collections.abc import Callable

from lesart.core.dataclass_later import dataclass
from lesart.core.notes import Key, Written
from lesart.study.why.thread_model import ThreadModel

USUAL, OFTEN, RARE, SELDOM = -1.0, -1.5, -2.5, -4.0
"""Likelihood of a mistake, as a logarithm: another round data-sheet value, a confused unit, a value off by an
unexplained power of ten, one that nobody would have written."""


@dataclass(frozen=True, eq=False)
class Suspect:
    """``slot`` is what it changes: of two with one slot only one can be.

    ``what`` names the statement, ``has`` what it says and ``would`` what would explain, as they are written. ``key`` is
    where; None where the project has no place for it, and ``says`` tells it to whom writes the firmware.

    ``weight`` is how usual the mistake is, as a logarithm. ``change`` raises one of NEVER where it cannot be.
    """

    slot: str
    what: str
    has: str
    would: str
    weight: float
    change: Callable[[ThreadModel], ThreadModel]
    key: Key | None = None
    value: Written | None = None
    says: str = ""
    more: tuple[tuple[Key, Written], ...] = ()
    """Further edits to be made at the same time."""
    is_solved: bool = False
    """True where its value was solved from the true values: a usual value of the same statement is better."""

    @property
    def sentence(self) -> str:
        """The explanation in a clause."""
        if self.says:
            return self.says
        return f"{self.what} is {self.has}; {self.would} would explain it"

    @property
    def brief(self) -> str:
        """The explanation in a few words."""
        if self.says:
            return self.says
        return f"{self.what} {self.has} → {self.would}"

    @property
    def edits(self) -> tuple[tuple[Key, Written], ...]:
        """The edits that mend it in the project; none where it has no place there."""
        if self.key is None or self.value is None:
            return ()
        return ((self.key, self.value), *self.more)
