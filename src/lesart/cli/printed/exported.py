"""Files that commands write: with ``--force`` in place of another one, never in place of one that a project reads."""

from __future__ import annotations

import argparse
from pathlib import Path

from lesart.project.exported import TakenError, write_export


def write_out(
    options: argparse.Namespace, content: str | bytes, project: Path | None = None, path: Path | None = None
) -> None:
    """Write to ``path``, or where ``-o`` says. Raises StorageError, with what would do."""
    try:
        write_export(path or options.output, content, project, replace=options.force)
    except TakenError as error:
        raise TakenError(f"{str(error).rstrip('.')}; --force replaces it.") from error
