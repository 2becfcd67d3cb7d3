"""Which of many like cases every run tries; the others go with the tests that take long."""

from __future__ import annotations

from collections.abc import Iterable
from typing import Any

import pytest

EVERY = 3


def a_third(cases: Iterable[Any]) -> list[Any]:
    """Every third of them from the first on; all are in ``make proof``.

    For cases that go one way through the code, and that all have a quicker test of their own as well.
    """
    return [
        case if place % EVERY == 0 else pytest.param(case, marks=pytest.mark.long) for place, case in enumerate(cases)
    ]
