"""A verdict: one figure of a loop, its limit, and what to change by how much where it is not met."""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import replace

from lesart.core.dataclass_later import dataclass
from lesart.core.notes import FAULT, Key, Mend, Note
from lesart.core.step import Step


@dataclass(frozen=True)
class Verdict:
    """``figure`` and ``limit`` in ``unit``; ``at_least``: the figure must not be below its limit, else not above.

    ``limit`` is None where there is nothing to hold it against. ``note`` says what is wrong.
    """

    name: str
    figure: float
    unit: str
    limit: float | None = None
    at_least: bool = False
    note: Note | None = None
    of: str = ""
    """The panel or channel that it is about."""

    @property
    def ok(self) -> bool:
        """Within its limit, or without one."""
        if self.limit is None:
            return True
        return self.figure >= self.limit if self.at_least else self.figure <= self.limit

    @property
    def margin(self) -> float | None:
        """Distance within the limit, as a share of it; negative beyond it. None without a limit or for a limit of 0."""
        if not self.limit:
            return None
        share = self.figure / self.limit - 1.0
        return share if self.at_least else -share

    @property
    def rank(self) -> int:
        """0 for a fault, 1 for a doubt, 2 for a limit that is met, 3 without a limit."""
        if self.note is not None:
            return 0 if self.note.mark == FAULT else 1
        return 3 if self.limit is None else 2 if self.ok else 1


def judged(
    name: str,
    figure: float,
    unit: str,
    limit: float,
    panel: str,
    says: str,
    remedy: str,
    *,
    at_least: bool = False,
    mark: str = FAULT,
    mend: tuple[Mend, ...] = (),
    limit_at: Key | None = None,
) -> Verdict:
    """A verdict on a panel, with a note of what it ``says`` where the limit is not met; ``limit_at`` is where a person
    sets it."""
    verdict = Verdict(name=name, figure=figure, unit=unit, limit=limit, at_least=at_least, note=None, of=panel)
    if verdict.ok:
        return verdict
    note = Note(
        mark=mark,
        step=Step.PACE,
        channel=None,
        text=f"{panel}: {says}",
        figure=figure,
        unit=unit or None,
        limit=limit,
        remedy=remedy,
        mend=mend,
        panel=panel,
        limit_at=limit_at,
    )
    return replace(verdict, note=note)


def tightest(verdicts: Iterable[Verdict]) -> Verdict | None:
    """The verdict nearest to failing: faults before doubts, then the least margin; one without a margin counts as 0."""
    judged = [each for each in verdicts if each.limit is not None]
    return min(judged, key=lambda each: (each.rank, each.margin or 0.0), default=None)
