"""Notes in the forms that build servers read: SARIF 2.1.0 (OASIS), and test cases as XML."""

from __future__ import annotations

import json
from collections.abc import Iterable, Mapping, Sequence
from xml.etree import ElementTree

from lesart import __version__
from lesart.core.notes import DOUBT, FAULT, Note
from lesart.core.step import Step
from lesart.core.visible import visible
from lesart.project.folder.store import FILE

LEVELS = {FAULT: "error", DOUBT: "warning"}
PROJECT = "project"
"""Placeholder for the channel of a note without one."""


def sarif(notes: Mapping[str, Sequence[Note]]) -> str:
    """One run; each note a result at the project file of its project. Rules are the nine steps."""
    results = [_result(project, note) for project, found in notes.items() for note in found]
    driver = {
        "name": "Lesart",
        "version": __version__,
        "rules": [{"id": step.value, "shortDescription": {"text": step.shown}} for step in Step],
    }
    run = {"tool": {"driver": driver}, "columnKind": "unicodeCodePoints", "results": results}
    return json.dumps({"version": "2.1.0", "runs": [run]}, indent=1, ensure_ascii=False)


def _result(project: str, note: Note) -> dict[str, object]:
    remedy = f" {note.remedy}." if note.remedy else ""
    place: dict[str, object] = {"physicalLocation": {"artifactLocation": {"uri": f"{project}/{FILE}"}}}
    if note.channel:
        place["logicalLocations"] = [{"name": note.channel, "kind": "member"}]
    return {
        "ruleId": str(note.step),
        "level": LEVELS.get(note.mark, "note"),
        "message": {"text": visible(f"{note.text}{remedy}")},
        "locations": [place],
    }


def test_cases(notes: Mapping[str, Sequence[Note]], channels: Mapping[str, Iterable[str]]) -> str:
    """A suite for each project, a case for each of its channels at each step: failed by a †, with its sentences.

    The cases are the same whatever is wrong, so that a build server sees which of them turned.
    """
    suites = ElementTree.Element("testsuites", name="Lesart")
    for project, found in notes.items():
        cases = [(channel, step) for channel in (*channels[project], PROJECT) for step in Step]
        suite = ElementTree.SubElement(suites, "testsuite", name=project, tests=str(len(cases)))
        failures = 0
        for channel, step in cases:
            own = [note for note in found if note.step == step and (note.channel or PROJECT) == channel]
            failures += _case(suite, channel, step, own)
        suite.set("failures", str(failures))
    ElementTree.indent(suites, " ")
    return ElementTree.tostring(suites, encoding="unicode", xml_declaration=True)


def _case(suite: ElementTree.Element, channel: str, step: Step, notes: Sequence[Note]) -> int:
    """Add a case; True where it failed."""
    case = ElementTree.SubElement(suite, "testcase", classname=visible(channel), name=step.shown)
    faults = [_said(note) for note in notes if note.mark == FAULT]
    others = [_said(note) for note in notes if note.mark != FAULT]
    if faults:
        failure = ElementTree.SubElement(case, "failure", message=faults[0])
        failure.text = "\n".join(faults)
    if others:
        ElementTree.SubElement(case, "system-out").text = "\n".join(others)
    return int(bool(faults))


def _said(note: Note) -> str:
    return visible(f"{note.mark} {note.text}" + (f" {note.remedy}." if note.remedy else ""))
