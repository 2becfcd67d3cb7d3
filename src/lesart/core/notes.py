"""A note: one finding, said in a sentence with its number, at the place where it is wrong, and what would mend it."""

from __future__ import annotations

from collections.abc import Iterable, Mapping

from lesart.core.dataclass_later import dataclass
from lesart.core.step import Step

FAULT = "†"
DOUBT = "‡"
REMARK = "·"

Key = tuple[str | int, ...]
"""Where something stands in the project file: ``("channels", "hive 2 mass", "fit", "decimals")``."""


Written = str | int | bool
"""A value as the project file has it."""


@dataclass(frozen=True)
class Mend:
    """One edit that a key applies: ``value`` as it will stand in the project file; None takes away what stands there,
    so that it is taken from its home again.

    A table as value is a new table at ``key``, or a new entry where ``key`` names a list.
    """

    key: Key
    value: Written | Mapping[str, Written] | None


@dataclass(frozen=True)
class Note:
    """``figure`` and ``limit`` are in ``unit``; ``remedy`` is a clause for a person, ``mend`` the edits it means.

    ``panel`` or ``part`` name what it speaks of where that is no channel; ``pins`` are those of the hook-up it stands
    at, written ``part.pin``. ``place`` is where it stands in the project file, where no remedy says so. ``ways`` are
    the variants of its channel that it holds for; the empty one is the channel itself. ``shown_by`` is another step
    whose workspace shows why: Law, how sure a reading is. ``limit_at`` is where its limit is stated, for one that a
    person sets. ``m_does``: what the key with its remedy does, where that is no mending.
    """

    mark: str
    step: Step
    channel: str | None
    text: str
    figure: float | None = None
    unit: str | None = None
    limit: float | None = None
    remedy: str | None = None
    mend: tuple[Mend, ...] = ()
    panel: str | None = None
    part: str | None = None
    pins: tuple[str, ...] = ()
    place: Key | None = None
    ways: tuple[str, ...] = ("",)
    shown_by: Step | None = None
    limit_at: Key | None = None
    m_does: str = "mends it"
    of: tuple[Note, ...] = ()
    """The notes that this one sums up, of several channels and panels, each as it would stand alone."""

    @property
    def channels(self) -> tuple[str, ...]:
        """All of them that it is about."""
        return tuple(dict.fromkeys(each.channel for each in self.of or (self,) if each.channel is not None))

    @property
    def panels(self) -> tuple[str, ...]:
        """All of them that it is about."""
        return tuple(dict.fromkeys(each.panel for each in self.of or (self,) if each.panel is not None))

    def holds(self, other: Note) -> bool:
        """True where the other is this note, or one of those it sums up."""
        return any(each.text == other.text for each in (self, *self.of))

    @property
    def is_fault(self) -> bool:
        """True for a fault: something will be wrong."""
        return self.mark == FAULT


def ordered(notes: Iterable[Note]) -> tuple[Note, ...]:
    """Faults first, then in the order of the thread."""
    severity = {FAULT: 0, DOUBT: 1, REMARK: 2}
    return tuple(sorted(notes, key=lambda note: (severity[note.mark], note.step.number)))
