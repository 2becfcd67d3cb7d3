"""The kind that a table names, or a problem with the existing ones."""

from __future__ import annotations

from collections.abc import Mapping
from typing import TypeVar

from lesart.core.errors import Problem
from lesart.core.parameters import MOST_LISTED, near_names, shown
from lesart.core.quantity import listed
from lesart.project.model import Table

Kind = TypeVar("Kind")


def kind_of(table: Table, kinds: Mapping[str, Kind], place: str) -> tuple[Kind | None, list[Problem]]:
    """The kind of a table at ``place``, or a problem."""
    written = table.get("kind")
    kind = kinds.get(written) if isinstance(written, str) else None
    if kind is not None:
        return kind, []
    near = near_names(str(written), list(kinds), 1) if isinstance(written, str) else []
    few = len(kinds) <= MOST_LISTED
    some = ", ".join(kinds) if few else f"{len(kinds)}, such as {listed([*list(kinds)[:2], list(kinds)[-1]])}"
    hint = f"did you mean {near[0]}?" if near else f"it must be one of {some}"
    return None, [Problem(f"{place}.kind", "" if written is None else shown(written), hint)]
