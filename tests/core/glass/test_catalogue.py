"""The panels that can be had by name are what their names say."""

from __future__ import annotations

import re
from typing import Any

import pytest

from lesart.core.glass.panels.catalogue import CATALOGUE


@pytest.mark.parametrize(("name", "table"), CATALOGUE.items())
def test_a_panel_is_as_large_as_its_name_says(name: str, table: dict[str, Any]) -> None:
    """Columns and rows, dots, digits and their segments, lamps."""
    counts = [int(each) for each in re.findall(r"\d+", name)]
    kind = table["kind"]
    if table["kind"] == "lamps":
        assert counts == [], "of any number: it is said before"
    elif kind == "characters":
        assert [table["columns"], table["rows"]] == counts
    elif kind in ("pixels", "colours", "inks"):
        side_by_side = {"two": 2, "four": 4, "eight": 8}.get(name.rpartition(", ")[2], 1)
        assert [table["width"], table["height"]] == [counts[0] * side_by_side, counts[1]]
    elif kind == "segments":
        assert [table.get("digits", 4), *([int(table["segments"])] if "segments" in table else [])] == (
            counts if counts and not name.startswith("one") else [1]
        )
    else:
        assert kind == "lamps"
        assert [table["lamps"]] == counts[:1]
