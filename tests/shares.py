"""Which of many like cases every run tries; the others go with the tests that take long."""

from __future__ import annotations

from collections.abc import Iterable
from typing import Any

import pytest

EVERY = 3
PARAM = type(pytest.param(None))


def a_third(cases: Iterable[Any]) -> list[Any]:
    """Every third of them from the first on; all are in ``make proof``.

    For cases that go one way through the code, and that all have a quicker test of their own as well.
    """
    return [case if place % EVERY == 0 else _later(case) for place, case in enumerate(cases)]


def _later(case: Any) -> Any:
    if isinstance(case, PARAM):
        return pytest.param(*case.values, marks=[*case.marks, pytest.mark.long], id=case.id)
    return pytest.param(case, marks=pytest.mark.long)
