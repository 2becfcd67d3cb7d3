"""Notes of the present project, computed part by part, so that an edit need not wait for all of them."""

from __future__ import annotations

from collections.abc import Callable, Iterable
from datetime import date

from lesart.core.notes import Note
from lesart.project.model import Project
from lesart.study.bench import Bench


class Inspected:
    """``last`` are the notes at hand, perhaps from before the last edit."""

    def __init__(self) -> None:
        self.last: tuple[Note, ...] = ()
        self._of: Project | None = None
        self._begun: tuple[Project, list[Callable[[], Iterable[Note]]], list[Note]] | None = None

    def are_of(self, project: Project) -> bool:
        """True where the notes at hand are of this project."""
        return self._of is project

    def forget(self) -> None:
        """Drop the notes: what they were inspected from has changed."""
        self._of = self._begun = None

    def go_on(self, project: Project, bench: Bench, wanted: Callable[[], bool]) -> bool:
        """Inspect while that is ``wanted``, one part at least, and go on with it the next time. Is it all inspected?

        A part that NotWanted breaks off is begun again the next time; those before it are not.
        """
        # Nobody who looks at a reading waits for what looks for faults.
        from lesart.study.inspect import as_printed, parts_of

        if self._begun is None or self._begun[0] is not project:
            self._begun = (project, parts_of(project, bench, date.today()), [])
        _, left, found = self._begun
        while left:
            found += left[0]()
            del left[0]
            if not wanted():
                return False
        self.last, self._of, self._begun = as_printed(project, found), project, None
        return True
