"""Answers: JSON with its version, notes in text and JSON, NaN as null."""

from __future__ import annotations

import json
import math
import sys
from collections.abc import Iterable, Mapping
from typing import Any

from lesart import FORMAT_VERSION
from lesart.cli.printed.outlet import Outlet
from lesart.core.errors import QuantityError, RequestError, UnitError
from lesart.core.notes import Note
from lesart.core.raw.spelled.unit_typed import quantity_typed
from lesart.core.units import parse_unit
from lesart.core.visible import visible
from lesart.project.toml_values import dotted


def print_json(content: Mapping[str, Any]) -> None:
    """One object with ``lesart`` first."""
    whole = {"lesart": FORMAT_VERSION, **content}
    print(json.dumps(whole, ensure_ascii=needs_escapes(), indent=2, allow_nan=False))


def needs_escapes() -> bool:
    """True where standard output lacks letters. Substitutes would do for a person, but not for a script."""
    return not getattr(sys.stdout, "writes_all", True)


def over(text: str) -> None:
    """Replace the last line on standard error."""
    if isinstance(sys.stderr, Outlet):
        sys.stderr.over(text)


def number(value: float | None) -> float | None:
    """A finite number, or null."""
    return value if value is not None and math.isfinite(value) else None


def note_object(note: Note) -> dict[str, Any]:
    """A note as in the output contract."""
    return {
        "mark": note.mark,
        "step": note.step,
        "channel": note.channel,
        "text": note.text,
        "figure": number(note.figure),
        "unit": note.unit,
        "limit": number(note.limit),
        "remedy": note.remedy,
    }


def note_lines(notes: Iterable[Note]) -> list[str]:
    """A line per note, with the project key of its limit; control characters are shown."""
    lines = []
    for note in notes:
        remedy = f" Remedy: {note.remedy}." if note.remedy else ""
        remedy += f" Its limit is at {dotted(note.limit_at)}." if note.limit_at is not None else ""
        line = f"{note.mark} {note.step.capitalize():<6}{note.text}{remedy}"
        lines.append(visible(line))
    return lines


def exit_code(notes: Iterable[Note]) -> int:
    """1 with a fault among them, else 0."""
    return int(any(note.is_fault for note in notes))


def quantity_of(text: str, option: str, unit: str, *, lowest: float, highest: float) -> float:
    """The quantity of an option, in a unit. Raises RequestError with the option, the value and what would be right."""
    try:
        found = quantity_typed(text, parse_unit(unit)).to(parse_unit(unit))
    except (QuantityError, UnitError) as error:
        raise RequestError(f"{option} {text}: {error}") from error
    if not lowest <= found <= highest:
        raise RequestError(f"{option} {text}: it must be from {lowest:g} to {highest:g} {unit}.")
    return found
