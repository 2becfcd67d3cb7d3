"""Sources of lines that tests listen to."""

from __future__ import annotations

from typing import Any

from lesart.core.raw.source import Source
from lesart.project.tables.sources import check_source


def source_of(line: dict[str, Any]) -> Source:
    """As the project file has the line."""
    source, problems = check_source("s", {"line": line})
    assert source is not None, problems
    return source
