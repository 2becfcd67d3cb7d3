"""How wide what is printed may be: a page has no terminal to ask."""

from __future__ import annotations

import os
from collections.abc import Iterator
from contextlib import contextmanager


@contextmanager
def columns(count: int) -> Iterator[None]:
    """Help is wrapped to the terminal, and a page has none."""
    before = os.environ.get("COLUMNS")
    os.environ["COLUMNS"] = str(count)
    try:
        yield
    finally:
        if before is None:
            del os.environ["COLUMNS"]
        else:
            os.environ["COLUMNS"] = before
