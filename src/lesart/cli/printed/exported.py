"""Files that commands write: with ``--force`` they replace others, but never one that a project reads."""

from __future__ import annotations

import argparse
from collections.abc import Iterator
from contextlib import contextmanager
from pathlib import Path

from lesart.project.exported import TakenError, check_free, write_export


def write_out(
    options: argparse.Namespace, content: str | bytes, project: Path | None = None, path: Path | None = None
) -> None:
    """Write to ``path``, or where ``-o`` says. Raises StorageError, with what would do."""
    with _told_of_force():
        write_export(path or options.output, content, project, replace=options.force)


def before_work(options: argparse.Namespace, project: Path | None = None) -> None:
    """Check that the file of ``-o`` may be written, before spending seconds on it. Raises StorageError."""
    with _told_of_force():
        check_free(options.output, project, replace=options.force)


@contextmanager
def _told_of_force() -> Iterator[None]:
    try:
        yield
    except TakenError as error:
        raise TakenError(f"{str(error).rstrip('.')}; --force replaces it.") from error
