"""The table of what the project file may hold, against what is read: nothing more in either of the two."""

from __future__ import annotations

import copy
import tomllib
from collections.abc import Iterator
from pathlib import Path
from typing import Any

import pytest

from lesart.core.calm import KINDS as FILTERS
from lesart.core.errors import ProjectError
from lesart.core.glass.panels.kinds import KINDS as PANELS
from lesart.core.law import KINDS as LAWS
from lesart.core.notes import Key
from lesart.core.raw.decode import KINDS as DECODERS
from lesart.core.raw.lines.line import LINES
from lesart.core.wire.sums import SUMS
from lesart.demo.yard import project_text
from lesart.project.check import check_project, check_tables
from lesart.project.model import Project
from lesart.project.schema import INDEX, NAME, SCHEMA, parameters_at
from lesart.project.toml_values import dotted, value_at
from tests.small import small_project

NAMES_A_KIND = {"kind", "format"}
"""Keys that say which parameters the others are; in some tables the schema has them, in others check reads them."""
RARE = """
[[channels."in kg".alarms]]
name = "full"
limit = "43 kg"

[panels.door.glyphs]
"♥" = ".#.#./#####"

[pack]
word = "16"

[channels."in kg".pack]
computed = "whole numbers"

[sources.smoke.line]
kind = "serial frames"
port = "rig/smoke"

[[sources.smoke.line.fields]]
name = "smoke"

[sources.meter]
capture = "captures/meter.hex"
format = "hex"

[sources.meter.decode]
messages = "Modbus RTU"

[[sources.meter.registers]]
name = "volts"
address = 0
type = "float32"
"""
"""Tables that a small project has not by itself."""


def tables_in(value: Any, key: Key = ()) -> Iterator[Key]:
    """Every table of a file that is no list, outer ones first."""
    if isinstance(value, dict):
        yield key
        for name, each in value.items():
            yield from tables_in(each, (*key, name))
    elif isinstance(value, list):
        for index, each in enumerate(value):
            yield from tables_in(each, (*key, index))


def is_value(value: Any) -> bool:
    """Is it written in place, and no table or list of tables?"""
    return not isinstance(value, dict) and not (isinstance(value, list) and value and isinstance(value[0], dict))


def kind_of(project: Project, table: Key) -> tuple[object, ...]:
    """What two tables have in common that are read alike: their place without names and numbers, and their kind."""
    words = (part for part in table[2:] if isinstance(part, str))
    return (*table[:1], *words, value_at(project.tables, (*table, "kind")))


@pytest.fixture(params=["yard", "small"], scope="module")
def project(request: pytest.FixtureRequest) -> Project:
    """Two projects that between them have a table of most patterns."""
    return check_project(project_text() if request.param == "yard" else small_project() + RARE)


def test_all_that_is_read_is_in_the_schema(project: Project) -> None:
    """Each value that stands in a file which check takes has its parameter."""
    unknown = []
    for table in tables_in(project.tables):
        known = {parameter.name for parameter in parameters_at(project, table)}
        for name, value in value_at(project.tables, table).items() if table else ():
            if is_value(value) and name not in known | NAMES_A_KIND and not str(name).startswith("x_"):
                unknown.append(dotted((*table, name)))
    assert unknown == []


def test_all_that_is_in_the_schema_is_read(project: Project) -> None:
    """Each default, written out, is taken; a key that no parameter has is refused at its place."""
    tried, seen = 0, set()
    for table in tables_in(project.tables):
        parameters = parameters_at(project, table)
        kind = kind_of(project, table)
        if not parameters or kind in seen:
            continue
        seen.add(kind)
        written = value_at(project.tables, table)
        more = copy.deepcopy(project.tables)
        into = value_at(more, table)
        for parameter in parameters:
            is_missing = parameter.name not in {*written, *NAMES_A_KIND}
            if is_missing and parameter.default is not None and not parameter.optional:
                into[parameter.name] = parameter.default
                tried += 1
        assert check_tables(more, ""), dotted(table)
    assert tried > 60


def with_misspelt(tables: dict[str, Any], table: Key) -> dict[str, Any]:
    """Tables with a key that nobody knows in one of them."""
    value_at(tables, table)["misspelt"] = 1
    return tables


def test_what_no_parameter_has_is_refused() -> None:
    """In every kind of table of the yard that the schema knows, at its place; two of one kind are read alike."""
    text = project_text()
    project = check_project(text)
    tried = set()
    for table in tables_in(project.tables):
        if not parameters_at(project, table) or table[-1:] in (("glyphs",), ("measured",)):
            continue
        kind = kind_of(project, table)
        if kind in tried:
            continue
        tried.add(kind)
        with pytest.raises(ProjectError, match="misspelt") as refused:
            check_tables(with_misspelt(tomllib.loads(text), table), text, project)
        assert any("misspelt" in str(problem.place) for problem in refused.value.problems), dotted(table)


def test_every_pattern_is_met() -> None:
    """Between them the projects have a table of each, but for those that are rare."""
    met = set()
    for text in (project_text(), small_project() + RARE):
        for table in tables_in(tomllib.loads(text)):
            met.add(tuple(INDEX if isinstance(part, int) else part for part in table))
    patterns = {
        pattern
        for pattern in SCHEMA
        if any(
            len(each) == len(pattern) and all(of in (NAME, part) for part, of in zip(each, pattern, strict=True))
            for each in met
        )
    }
    rare = {("controllers", NAME), ("controllers", NAME, "commands", INDEX), ("fonts", NAME)}
    assert set(SCHEMA) - patterns <= rare


def test_the_page_on_the_project_file_names_all_of_it() -> None:
    """Every parameter of every table, and of every kind that a table may be of, stands on the page."""
    page = (Path(__file__).resolve().parents[2] / "docs/project-file.md").read_text()
    fixed = [parameter for rule in SCHEMA.values() if isinstance(rule, tuple) for parameter in rule]
    registries = (LAWS, FILTERS, DECODERS, LINES, PANELS, SUMS)
    of_kinds = [parameter for kinds in registries for kind in kinds.values() for parameter in kind.parameters]
    assert len(fixed) > 100
    assert len(of_kinds) > 150
    assert [each.name for each in (*fixed, *of_kinds) if f"`{each.name}`" not in page] == []
