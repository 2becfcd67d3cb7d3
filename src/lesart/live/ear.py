"""An ear: something that can be opened, listened to for a moment, and closed. One per kind of line."""

from __future__ import annotations

from collections.abc import Callable
from os.path import exists
from pathlib import Path
from typing import Protocol

from lesart.core.raw.lines.received import Received

Clock = Callable[[], float]
"""Seconds since one began to listen."""


class Ear(Protocol):
    """An ear. Used by one thread."""

    def open(self) -> None:
        """Raises LineError with a clause for a person: why it cannot be opened."""

    def hear(self) -> Received:
        """The data within a moment, at most about a tenth of a second. Raises LineError when the line is gone."""

    def close(self) -> None:
        """Never raises."""


def port_path(port: str, folder: Path) -> str:
    """The path of a port: an existing relative path is in the project's folder."""
    inside = folder / port
    return str(inside) if not Path(port).is_absolute() and exists(inside) else port
