"""A silent part: the checks of the bring-up list that concern it, in the order in which they are done."""

from __future__ import annotations

from collections.abc import Iterator, Mapping, Sequence

from lesart.core.dataclass_later import dataclass
from lesart.core.errors import QuantityError, UnitError
from lesart.core.wire.check import Check, Judged, judge
from lesart.core.wire.hookup import Hookup, supply_of

DEEPEST = 8
"""Most supplies in series that are followed."""


@dataclass(frozen=True)
class Stop:
    """A check on the path; ``judged`` is the verdict on the measured value, None while nothing is measured."""

    check: Check
    judged: Judged | None


@dataclass(frozen=True)
class Path:
    """``stops`` in order; the first wrong one explains the silence, else the next to measure is the first without a
    value."""

    stops: tuple[Stop, ...]

    @property
    def wrong(self) -> Stop | None:
        """The check that explains the silence."""
        return next((each for each in self.stops if each.judged is not None and not each.judged.good), None)

    @property
    def next(self) -> Stop | None:
        """The check to measure next; None where one is wrong already, or all are right."""
        return None if self.wrong is not None else next((each for each in self.stops if each.judged is None), None)


def silent_path(hookup: Hookup, checks: Sequence[Check], measured: Mapping[str, str], part: str) -> Path:
    """The path of a part: its rails from the outermost on, ground, its own supply, its lines, then what it should
    do."""
    rails = {str(each) for each in _rails(hookup, part)}
    found = [each for each in checks if _concerns(hookup, each, part, rails)]
    return Path(tuple(Stop(each, _judged(each, measured.get(each.key))) for each in found))


def _rails(hookup: Hookup, part: str) -> Iterator[object]:
    for _ in range(DEEPEST):
        fed = supply_of(hookup, part)
        if fed is None:
            return
        yield fed[1]
        part = fed[1].part


def _concerns(hookup: Hookup, check: Check, part: str, rails: set[str]) -> bool:
    if check.part == part or check.key == "ground":
        return True
    place = check.key.rpartition(" ")[0]
    if place in rails:
        return True
    if check.part == "" or " idle" in check.key:
        return _names(check.does, part) or _is_joined(hookup, place, part)
    return _names(check.does, part)


def _names(does: str, part: str) -> bool:
    """True where the text names this part, and not only one whose name begins alike."""
    before, found, behind = does.partition(part)
    return bool(found) and not behind[:1].isalnum() and not before[-1:].isalnum()


def _is_joined(hookup: Hookup, place: str, part: str) -> bool:
    """True where a wire leads from the part to that place."""
    ends = [(str(join.pin), str(join.to), join.pin.part, join.to.part) for join in hookup.joins]
    return any(place in (one, other) and part in parts for one, other, *parts in ends)


def _judged(check: Check, measured: str | None) -> Judged | None:
    if measured is None:
        return None
    try:
        return judge(check, measured)
    except (QuantityError, UnitError):
        return None
