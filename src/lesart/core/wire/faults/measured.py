"""Notes on values measured during bring-up: a wrong one, and what it usually means."""

from __future__ import annotations

from collections.abc import Iterable, Iterator, Mapping

from lesart.core.notes import FAULT, Note
from lesart.core.step import Step
from lesart.core.wire.check import Check, judge


def inspect_measured(checks: Iterable[Check], measured: Mapping[str, str]) -> Iterator[Note]:
    """A note on the first wrong value only: those after it in the list follow from it."""
    for check in checks:
        if check.key not in measured:
            continue
        judged = judge(check, measured[check.key])
        if not judged.good:
            yield _wrong(check, measured[check.key], judged.value, judged.says)
            return


def _wrong(check: Check, written: str, value: float | None, says: str) -> Note:
    limit = None if value is None else check.lowest if value < check.lowest else check.highest
    right = f", where {check.expects} would be right" if check.unit else ""
    return Note(
        FAULT,
        Step.WIRE,
        None,
        f"{check.key}: {written}{right}. {says}",
        part=check.part,
        figure=value,
        unit=check.unit or None,
        limit=limit,
        remedy="find out why, then measure again",
        place=("wire", "measured", check.key),
    )
