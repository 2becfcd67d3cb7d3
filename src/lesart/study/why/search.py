"""The search: every suspect alone, then likely ones in pairs, compared with all true values."""

from __future__ import annotations

from collections.abc import Iterator, Mapping, Sequence

import numpy as np

from lesart.core.block import Floats
from lesart.core.dataclass_later import dataclass
from lesart.core.notes import Key, Written
from lesart.study.why.suspect import Suspect
from lesart.study.why.thread_model import NEVER, ThreadModel
from lesart.study.why.truth import Truth

PAIRED = 90
"""Number of the likeliest suspects tried in pairs."""
LAWS = ("law", "part")
WHOLE = ("part", "field", "decode")
"""Slots that are rebuilt as a whole, whichever value is changed."""
PAIR = -2.0
"""How much less likely two mistakes are than one."""
MOST_AGAINST, AGAINST = 0.9, 2.0
"""Share of the capture outside the channel's range above which it contradicts, and its weight below."""
SIGMAS = 2.0
"""Standard deviations per tolerance: a misfit of a whole tolerance is worse than none."""


@dataclass(frozen=True, eq=False)
class Explanation:
    """``suspects`` that together explain every true value: ``reads`` at each of them, ``curve`` over the raw values
    considered. ``score`` is their likelihood minus their misfit."""

    suspects: tuple[Suspect, ...]
    reads: Floats
    curve: Floats
    score: float

    @property
    def edits(self) -> tuple[tuple[Key, Written], ...]:
        """The edits that mend all of it in the project."""
        return tuple(edit for each in self.suspects for edit in each.edits)

    @property
    def sentence(self) -> str:
        """The explanation in a sentence."""
        return ", and ".join(each.sentence for each in self.suspects)


@dataclass(frozen=True, eq=False)
class Searched:
    """The search space: ``raw`` values between the least and the greatest, shape (n,), and readings of other
    channels."""

    model: ThreadModel
    truths: tuple[Truth, ...]
    raw: Floats
    others: Mapping[str, Floats]
    seen: Floats
    """A sample of the capture's raw values, shape (m,)."""
    range: tuple[float, float]
    """The range in which its readings should be."""

    def off(self, model: ThreadModel) -> Floats:
        """Misfits of its readings, in tolerances of each true value."""
        wanted = np.array([each.reading for each in self.truths])
        allowed = np.array([each.tolerance for each in self.truths])
        return np.asarray((model.at(self.truths) - wanted) / allowed)

    def contradicted(self, model: ThreadModel) -> float:
        """The share of the capture that it would read outside the channel's range, or not at all."""
        if not len(self.seen) or self._reads_elsewhere(model):
            return 0.0
        others = {name: np.full(len(self.seen), each[0]) for name, each in self.others.items()}
        x = model.read(self.seen, others)
        return float(np.mean(~((x >= self.range[0]) & (x <= self.range[1]))))

    def curve(self, model: ThreadModel) -> Floats:
        """Its readings over the raw values considered; none where it takes others from the same bytes."""
        if self._reads_elsewhere(model):
            return np.full(len(self.raw), np.nan)
        return model.read(self.raw, self.others)

    def _reads_elsewhere(self, model: ThreadModel) -> bool:
        elsewhere = model.spec is not self.model.spec or model.column != self.model.column
        return elsewhere or model.acquire is not None


def explained(searched: Searched, suspects: Sequence[Suspect]) -> list[Explanation]:
    """Explanations that meet every true value, the likeliest first; pairs where none does alone."""
    singles = [found for each in suspects if (found := _tried(searched, (each,), 0.0)) is not None]
    if singles:
        return sorted(singles, key=lambda each: -each.score)
    pairs = [found for each in _pairs(suspects) if (found := _tried(searched, each, PAIR)) is not None]
    return sorted(pairs, key=lambda each: -each.score)


def _pairs(suspects: Sequence[Suspect]) -> Iterator[tuple[Suspect, Suspect]]:
    likely = sorted(suspects, key=lambda each: -each.weight)[:PAIRED]
    for place, one in enumerate(likely):
        for other in likely[place + 1 :]:
            if one.slot != other.slot and not _within(one.slot, other.slot):
                yield one, other


def _within(one: str, other: str) -> bool:
    """True where one change overrides the other: a missing law has no values, and shifts those after it; two values of
    one law, or of one field, are rebuilt from the project's statements."""
    slots = [each.split(" ") for each in (one, other)]
    groups = [slot[0] for slot in slots]
    if any(slot[-1] == "itself" for slot in slots):
        return groups[0] in LAWS and groups[1] in LAWS
    same_law = groups == ["law", "law"] and slots[0][1] == slots[1][1]
    return same_law or (groups[0] == groups[1] and groups[0] in WHOLE)


def _tried(searched: Searched, suspects: tuple[Suspect, ...], less: float) -> Explanation | None:
    try:
        model = searched.model
        for each in suspects:
            model = each.change(model)
        off = searched.off(model)
        if not np.all(np.abs(off) <= 1.0):
            return None
        reads, curve = model.at(searched.truths), searched.curve(model)
        against = searched.contradicted(model)
    except NEVER:
        return None
    if against > MOST_AGAINST:
        return None
    weight = sum(each.weight for each in suspects) + less - AGAINST * against
    return Explanation(suspects, reads, curve, weight - 0.5 * float(np.sum((SIGMAS * off) ** 2)))
