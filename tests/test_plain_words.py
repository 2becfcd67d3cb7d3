"""What every sentence keeps to, whoever writes it: looked for in the sources, where each of them stands."""

from __future__ import annotations

import re
from pathlib import Path

import pytest

from lesart.core.quantity import format_quantity, plain_number
from lesart.core.units import parse_unit

SOURCES = Path(__file__).resolve().parent.parent / "src/lesart"
UNIT_BEHIND = re.compile(r"\} \{[\w.]*(unit|symbol)[\w.]*\}")
"""A number and a unit put side by side by hand: of a count, whose unit is 1, that makes "9999 1"."""
BY_HAND = {
    "core/quantity.py": "what puts them side by side",
    "core/calm/gates.py": "a variable's comment",
    "core/pack/law_forms/law_form.py": "asks for the unit 1 before",
    "core/wire/entry.py": "written for a part, none of whose values is a count",
    "core/raw/lines/text_line.py": "a column's name and its unit",
    "core/pace/bus_traced.py": "dots or cells that differ",
    "cli/printed/answer.py": "an option's own unit",
    "cli/why/time.py": "a figure of time",
    "study/project_loop.py": "a time",
    "study/timing.py": "a figure of time",
    "desk/workspace/pace/trace.py": "dots or cells that differ",
    "desk/workspace/pace/why.py": "a figure of time",
    "desk/workspace/calm/variants.py": "a key, which nobody reads",
    "desk/entries/edits.py": "a value of a parameter, written for the project file",
    "desk/entries/recipes/phrases/briefly.py": "what a person wrote",
    "desk/entries/recipes/phrases/phrase.py": "what a person wrote",
    "desk/entries/recipes/phrases/ranges_said.py": "what a person wrote",
    "desk/entries/aloud/reckoned/arithmetic.py": "what a person wrote",
    "desk/entries/recipes/kinds/signals.py": "a value of a parameter, written for the project file",
    "desk/entries/aloud/tasks.py": "a time",
    "core/raw/spelled/unit_typed.py": "what a person wrote",
    "desk/entries/typed_values.py": "what a person may have meant",
    "demo/jobs/pieces.py": "a project file",
    "project/captures/traces/vcd_write.py": "a clock's unit",
    "project/tables/list_tables.py": "of what needs a unit",
}


def test_a_unit_stands_behind_its_number_as_the_quantity_says() -> None:
    """By ``format_quantity`` or ``beside_unit``, which leave out the unit 1."""
    found = {
        path.relative_to(SOURCES).as_posix()
        for path in SOURCES.rglob("*.py")
        for line in path.read_text(encoding="utf-8").splitlines()
        if UNIT_BEHIND.search(line) and 'removesuffix(" 1")' not in line
    }
    assert found <= set(BY_HAND)
    assert set(BY_HAND) <= {path.relative_to(SOURCES).as_posix() for path in SOURCES.rglob("*.py")}


@pytest.mark.parametrize(
    ("value", "unit", "said"),
    [
        (9999.0, "1", "9999"),
        (10_000.0, "1", "10 000"),
        (-2.5, "kg", "−2.5 kg"),
        (27.0, "°", "27°"),
        (float("nan"), "V", "—"),
        (float("inf"), "V", "∞ V"),
    ],
)
def test_a_quantity_as_it_is_said(value: float, unit: str, said: str) -> None:
    """A value that is not there is a dash, whatever its unit."""
    assert format_quantity(value, parse_unit(unit)).replace("\u00a0", " ").replace("\u202f", " ") == said
    assert plain_number(value) in said.replace(" ", "")


COUNT = re.compile(
    r"\{len\([^{}]*\)\} (?!of\b)(?:[a-z]+ ){0,2}?[a-z]+s\b"
    r"|\{[a-z_]+(?:\.[a-z_]+)*\} (?:samples|readings|frames|gaps|vectors|positions|digits|times|cells|pulses|turns|lines|parts|"
    r"pins|steps|days|places|columns|pages|notes|channels|panels|faces|points|references|keys)\b"
)
"""How many there are, before the word for many of them: of one, that makes "1 gaps"."""
NEVER_ONE = {
    "{len(jobs)} captures": "of one the rows do not run into each other",
    "{len(facts.changes_s)} changes": "one does not chatter",
    "{len(digits)} digits": "of a driver with several",
    "{len(text)} characters": "too many",
    "{len(entries)} entries": "too many",
    "{len(table.values)} entries": "of a table, and the mistake is ours",
    "{len(digits)} lines": "one is not in turn",
    "{len(used)} references": "one is said apart",
    "{len(found) - 1} lights": "the number of a bit",
    "{len(found)} is": "the number of a bit",
    "{len(kept)} figures": "one is said apart",
    "{len(found)} items": "three at least have distances that can be equal",
    "{len(pairs)} pairs": "none, or too many",
    "{len(typed)} letters": "too many",
    "{len(rows)} rows": "more than are named",
    "{len(names)} channels": "one is not gathered",
    "{len(tasks)} conversions": "one has its own name",
    "{len(question.looks)} looks": "the mistake is ours",
    "{count} times": "one is once",
    "{facts.went_on} times": "one is once",
    "{asked.asked} times": "one is not said",
    "{step} times": "one is as fine as the part has it",
    "{heads} cells": "the head of a column",
    "{each.samples} samples": "one gains nothing",
    "{count} lines": "two at least stand still together",
    "{digits} digits": "scanned ones are several",
    "{panel.digits} digits": "more than a driver holds",
    "{most} digits": "five at least",
    "{rows} places": "columns times rows",
    "{use.count} pins": "two at least",
    "{resistor.name} turns": "a name, and what it does",
    "{parts} parts": "too many",
    "{days} days": "many",
    "{file.frames} samples": "too many",
    "{shift} cells": "one is said apart",
}


def test_what_may_be_one_is_counted() -> None:
    """By ``counted``, which knows one from many."""
    found = {
        match[0]
        for path in SOURCES.rglob("*.py")
        for line in path.read_text(encoding="utf-8").splitlines()
        if (match := COUNT.search(line))
    }
    assert {each for each in found if not any(each.startswith(known) for known in NEVER_ONE)} == set()
