"""A finding: what is wrong in a hook-up, and the ways in which it might be mended, all still to be proven."""

from __future__ import annotations

from collections.abc import Callable, Iterable
from typing import Any

from lesart.core.dataclass_later import dataclass
from lesart.core.notes import Mend, Note
from lesart.core.step import Step
from lesart.core.wire.hookup import End


@dataclass(frozen=True)
class Way:
    """One remedy: a clause for a person, and its edits."""

    remedy: str
    mend: tuple[Mend, ...]


def none_known() -> tuple[Way, ...]:
    """No ways: a person has to find one."""
    return ()


@dataclass(frozen=True)
class Finding:
    """``rule`` is broken at the pins of ``note``, whose remedy holds where none of the ``ways`` turns out to mend it.

    Ways are looked for only when they are wanted, since that takes longer than to see what is wrong. ``pieces`` are
    findings to tell in its place, where some of its pins can be mended and others not.
    """

    rule: str
    note: Note
    ways: Callable[[], Iterable[Way]] = none_known
    pieces: Callable[[], tuple[Finding, ...]] | None = None

    def is_same_as(self, other: Finding) -> bool:
        """True where it is the same rule, broken by the same part at some of the same pins."""
        if (self.rule, self.note.part) != (other.rule, other.note.part):
            return False
        mine, others = set(self.note.pins), set(other.note.pins)
        return bool(mine & others) or not (mine or others)

    def is_among(self, others: Iterable[Finding]) -> bool:
        """True where these cover it: the same rule, broken by the same part at each of its pins."""
        like = [each for each in others if (each.rule, each.note.part) == (self.rule, self.note.part)]
        return bool(like) and set(self.note.pins) <= {pin for each in like for pin in each.note.pins}


def found(
    rule: str,
    mark: str,
    part: str,
    text: str,
    *,
    at: Iterable[End] = (),
    ways: Callable[[], Iterable[Way]] = none_known,
    **more: Any,
) -> Finding:
    """A finding on a part, and on the pins where it shows."""
    pins = tuple(str(end) for end in at)
    return Finding(rule, Note(mark, Step.WIRE, None, text, part=part, pins=pins, **more), ways)
