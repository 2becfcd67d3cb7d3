"""A mistake of Lesart's own: what happened goes to a file, a sentence to the person."""

from __future__ import annotations

import traceback
from pathlib import Path

from lesart.core.errors import LesartError
from lesart.project.store import write_whole


def write_report(path: Path, error: BaseException) -> str:
    """Write the report and give the sentence; where it cannot be written, the sentence has all there is."""
    try:
        write_whole(path, "".join(traceback.format_exception(error)))
    except LesartError as unwritten:
        return f"Lesart made a mistake of its own ({error!r}), and could not write it down: {unwritten}"
    return f"Lesart made a mistake of its own; unsaved work is back next time, and {path} says what happened."
