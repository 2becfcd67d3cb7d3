"""Which files are traces of edges, and how a source says so."""

from __future__ import annotations

from pathlib import Path
from typing import Any

from lesart.project.assumed import without_assumed
from lesart.project.new.format import format_of
from lesart.project.new.source import found_source


def trace_table(path: Path, written: str) -> dict[str, Any] | None:
    """The keys of a source that say the file and how its edges are read; None for what is no trace of edges. Raises
    CaptureError where it cannot be read."""
    format_ = format_of(path)
    if format_ == "vcd":
        return {"capture": written, "format": "vcd"}
    # What the rows of levels are is found out as for any other rows.
    return without_assumed(found_source(path, written).table) if format_ == "csv" else None
