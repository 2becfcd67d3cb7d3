"""A table of a page."""

from __future__ import annotations

from collections.abc import Iterable


def table(heads: tuple[str, ...], rows: Iterable[tuple[str, ...]]) -> str:
    """In Markdown; a bar in a cell is no border."""
    lines = [f"| {' | '.join(heads)} |", f"| {' | '.join('---' for _ in heads)} |"]
    lines += [f"| {' | '.join(cell.replace('|', chr(92) + '|') for cell in row)} |" for row in rows]
    return "\n".join(lines) + "\n"
