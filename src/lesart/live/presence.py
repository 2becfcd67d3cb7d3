"""Is the rig there? Its links stay when it is killed, and the terminal they led to may be somebody else's by then.

So a rig holds a lock in its folder while it runs: the operating system lets go of it however the rig ends.
"""

from __future__ import annotations

from os.path import exists
from pathlib import Path

from lesart.project.folder import locks

NAME = ".running"


def hold(folder: Path) -> int | None:
    """A handle that marks a running rig; None where one already runs here. Raises OSError."""
    return locks.hold(folder / NAME)


def is_abandoned(folder: Path) -> bool:
    """True where a rig was in this folder and no longer runs."""
    return exists(folder / NAME) and not locks.is_held(folder / NAME)
