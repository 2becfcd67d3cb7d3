"""What a changed drive of digits removes: scan times that no longer apply, a trace of other lines."""

from __future__ import annotations

from collections.abc import Mapping
from typing import Any

from lesart.core.glass.panels.segment_panel import SCANNED, THROUGH
from lesart.core.notes import Key
from lesart.project.text import Editor

IN_TURN = (SCANNED, THROUGH)


def with_drive(
    editor: Editor, text: str, tables: Mapping[str, Any], key: Key, value: str | int | bool
) -> tuple[str, str]:
    """The text after a drive was changed, without what belonged to the old one, and what was removed."""
    if key[0] != "panels" or len(key) != 3 or key[2] != "drive":
        return text, ""
    table = tables["panels"][key[1]]
    before, gone = table.get("drive", SCANNED), []
    if value not in IN_TURN and "scan" in table:
        text = editor.without(text, (*key[:2], "scan"))
        gone.append("its scan")
    if "trace" in table and SCANNED in (before, value) and before != value:
        text = editor.without(text, (*key[:2], "trace"))
        gone.append("its trace")
    return text, f"; {' and '.join(gone)} of the drive before taken out" if gone else ""
