"""When two findings are the same, and when one is among others: what decides whether a remedy mends, or brings more."""

from __future__ import annotations

import pytest

from lesart.core.notes import FAULT
from lesart.core.wire.faults.finding import Finding, found
from lesart.core.wire.hookup import End


def of(rule: str, part: str, *pins: str) -> Finding:
    """A finding of a rule on some pins of a part."""
    return found(rule, FAULT, part, "it is said", at=[End(part, pin) for pin in pins])


ONE = of("level", "lid", "data", "clock")


@pytest.mark.parametrize(
    ("other", "same"),
    [
        (of("level", "lid", "data", "clock"), True),
        (of("level", "lid", "clock", "reset"), True),  # at one pin both
        (of("level", "lid", "reset"), False),
        (of("level", "lid"), False),
        (of("open", "lid", "data", "clock"), False),
        (of("level", "door", "data", "clock"), False),
    ],
)
def test_the_same_rule_broken_by_the_same_part(other: Finding, same: bool) -> None:
    assert ONE.is_same_as(other) is same
    assert other.is_same_as(ONE) is same


def test_findings_that_name_no_pin() -> None:
    """They are the same by rule and part alone."""
    assert of("weak", "pack").is_same_as(of("weak", "pack"))
    assert not of("weak", "pack").is_same_as(of("weak", "node"))


@pytest.mark.parametrize(
    ("others", "among"),
    [
        ((), False),
        ((of("level", "lid", "data"),), False),
        ((of("level", "lid", "data"), of("level", "lid", "clock", "reset")), True),  # two say all of it
        ((of("open", "lid", "data", "clock"),), False),
        ((of("level", "lid", "data"), of("level", "door", "clock")), False),
    ],
)
def test_some_say_all_of_one(others: tuple[Finding, ...], among: bool) -> None:
    assert ONE.is_among(others) is among
    assert of("level", "lid").is_among(others) is any(
        each.rule == "level" and each.note.part == "lid" for each in others
    )
