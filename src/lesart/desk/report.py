"""A bug in Lesart itself: details go to a file, a sentence to the person."""

from __future__ import annotations

import os
import tempfile
import traceback
from pathlib import Path

from lesart.core.errors import LesartError
from lesart.project.folder.store import write_whole

OWN_MISTAKE = "Lesart made a mistake of its own"


def write_report(path: Path, error: BaseException, *, work_is_safe: bool) -> str:
    """Write the report of a bug while a project is open, and give the sentence, which has all details where the report
    cannot be written. ``work_is_safe``: nothing was unsaved, or it could be put aside."""
    try:
        write_whole(path, _told(error))
    except LesartError as unwritten:
        return f"{OWN_MISTAKE} ({error!r}), and could not write it down: {unwritten}"
    work = "unsaved work is back next time" if work_is_safe else "unsaved work could not be kept"
    return f"{OWN_MISTAKE}; {work}, and {path} says what happened."


def temporary_report(error: BaseException) -> str:
    """The same where no project is open, into a temporary file."""
    try:
        handle, path = tempfile.mkstemp(prefix="lesart-", suffix=".txt")
        with os.fdopen(handle, "w", encoding="utf-8") as file:
            file.write(_told(error))
    except OSError as unwritten:
        return f"{OWN_MISTAKE} ({error!r}), and could not write it down ({unwritten.strerror})."
    return f"{OWN_MISTAKE}; {path} says what happened."


def _told(error: BaseException) -> str:
    return "".join(traceback.format_exception(error)).encode("utf-8", "backslashreplace").decode()
