"""The kind that a table names, or a problem with the existing ones."""

from __future__ import annotations

from collections.abc import Mapping
from difflib import get_close_matches
from typing import TypeVar

from lesart.core.errors import Problem
from lesart.core.parameters import shown
from lesart.project.model import Table

Kind = TypeVar("Kind")


def kind_of(table: Table, kinds: Mapping[str, Kind], place: str) -> tuple[Kind | None, list[Problem]]:
    """The kind of a table at ``place``, or a problem."""
    written = table.get("kind")
    kind = kinds.get(written) if isinstance(written, str) else None
    if kind is not None:
        return kind, []
    near = get_close_matches(str(written), kinds, 1)
    hint = f"did you mean {near[0]}?" if near else f"it must be one of {', '.join(kinds)}"
    return None, [Problem(f"{place}.kind", "" if written is None else shown(written), hint)]
