"""The tables of a panel: its physics, how it is scanned, and a person's own glyphs."""

from __future__ import annotations

from collections.abc import Mapping

from lesart.core.errors import Problem
from lesart.core.glass.panels.kinds import KINDS, kind_parameter
from lesart.core.glass.panels.panel import Panel
from lesart.core.glass.panels.panel_kind import Given
from lesart.core.glass.panels.scan import PARAMETERS as SCAN
from lesart.core.glass.panels.scan import build_scan
from lesart.core.glyphs.charsets import CharacterSet
from lesart.core.glyphs.fonts import Font
from lesart.core.parameters import read_table, shown
from lesart.project.model import Table

LONGEST_GLYPH = 60


def check_panel(
    name: str, table: Table, charsets: Mapping[str, CharacterSet], fonts: Mapping[str, Font]
) -> tuple[Panel | None, list[Problem]]:
    """The panel, or every problem of its tables."""
    place = f"panels.{name}"
    kind = table.get("kind")
    if not isinstance(kind, str) or kind not in KINDS:
        return None, [Problem(f"{place}.kind", shown(kind) if kind is not None else "", kind_parameter().wanted)]
    record = KINDS[kind]
    also = ("kind", "trace", *(["glyphs"] if record.has_glyphs else []), *(["scan"] if record.may_be_scanned else []))
    values, problems = read_table(record.parameters, table, place, also=also)
    scan = None
    if record.may_be_scanned and ("scan" in table or record.is_scanned(values)):
        # Scanned digits take some time each, whether it is written or not.
        times, found = read_table(SCAN, table.get("scan", {}), f"{place}.scan")
        problems += found
        if not found:
            scan = build_scan(times)
    glyphs = _glyphs(table.get("glyphs", {}), f"{place}.glyphs", problems)
    if problems:
        return None, problems
    try:
        return record.build(name, values, Given(scan, glyphs, charsets, fonts)), []
    except ValueError as error:
        return None, [Problem(place, "", str(error))]


def _glyphs(table: object, place: str, problems: list[Problem]) -> dict[str, str]:
    """Drawings by letter."""
    if not isinstance(table, Mapping):
        problems.append(Problem(place, shown(table), 'it must be a table of letters, like "k" = "a b g"'))
        return {}
    found = {}
    for letter, drawn in table.items():
        if len(letter) != 1 or not letter.isprintable():
            problems.append(Problem(place, shown(letter), "a glyph is named by the one letter that it stands for"))
        elif not isinstance(drawn, str) or len(drawn) > LONGEST_GLYPH:
            problems.append(Problem(f"{place}.{letter}", shown(drawn), "it must be a drawing, as text"))
        else:
            found[letter] = drawn
    return found
