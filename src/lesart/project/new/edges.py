"""Recognising traces of edges, and the keys of their sources."""

from __future__ import annotations

from pathlib import Path
from typing import Any

from lesart.project.assumed import without_assumed
from lesart.project.new.format import format_of
from lesart.project.new.source import found_source


def trace_table(path: Path, written: str) -> dict[str, Any] | None:
    """The keys of a source for a trace of edges; None for any other file.

    Raises CaptureError where it cannot be read.
    """
    format_ = format_of(path)
    if format_ == "vcd":
        return {"capture": written, "format": "vcd"}
    # The shape of rows of levels is found as for any other rows.
    return without_assumed(found_source(path, written).table) if format_ == "csv" else None
