"""Waiting for what another thread or process does: until it is so, never for a fixed time."""

from __future__ import annotations

import time
from collections.abc import Callable

LONGEST_S = 20.0


def wait_for(is_so: Callable[[], object], what: str) -> None:
    """Fails with ``what`` where it does not become so."""
    until = time.monotonic() + LONGEST_S
    while not is_so():
        assert time.monotonic() < until, f"{what} did not happen within {LONGEST_S:g} s"
        time.sleep(0.01)
