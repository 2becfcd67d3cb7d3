"""Is the rig there? Its links stay when it is killed, and the terminal they led to may be somebody else's by then.

So a rig holds a lock in its folder while it runs: the operating system lets go of it however the rig ends.
"""

from __future__ import annotations

import contextlib
import os
from pathlib import Path

NAME = ".running"


def hold(folder: Path) -> int | None:
    """A handle that says a rig runs here; None where one does already. Raises OSError."""
    import fcntl  # not every system has it, and those that have not have no rig either

    folder.mkdir(parents=True, exist_ok=True)
    handle = os.open(folder / NAME, os.O_RDWR | os.O_CREAT, 0o644)
    try:
        fcntl.flock(handle, fcntl.LOCK_EX | fcntl.LOCK_NB)
    except OSError:
        os.close(handle)
        return None
    return handle


def is_abandoned(folder: Path) -> bool:
    """Was there a rig in this folder that runs no more?"""
    import fcntl

    with contextlib.suppress(OSError):
        handle = os.open(folder / NAME, os.O_RDWR)
        try:
            fcntl.flock(handle, fcntl.LOCK_EX | fcntl.LOCK_NB)
        except OSError:
            return False
        finally:
            os.close(handle)
        return True
    return False
