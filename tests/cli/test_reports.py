"""``lesart check`` for build servers: SARIF, and test cases as XML, from the same notes as the text."""

from __future__ import annotations

import json
from pathlib import Path
from xml.etree import ElementTree

import pytest

from lesart.core.step import Step
from tests.cli.spoken import read_json, refused, said

LEVELS = {"†": "error", "‡": "warning", "·": "note"}


def test_sarif_has_a_result_for_each_note(yard: Path, capsys: pytest.CaptureFixture[str]) -> None:
    """In the order of the notes, at the project's file, with the exit code of the text."""
    notes = read_json(said(capsys, "check", yard, "--json", code=1))["notes"]
    told = json.loads(said(capsys, "check", yard, "--form", "sarif", code=1))
    assert told["version"] == "2.1.0"
    (run,) = told["runs"]
    assert [rule["id"] for rule in run["tool"]["driver"]["rules"]] == [step.value for step in Step]
    assert [(each["ruleId"], each["level"]) for each in run["results"]] == [
        (note["step"], LEVELS[note["mark"]]) for note in notes
    ]
    for each, note in zip(run["results"], notes, strict=True):
        assert each["message"]["text"].startswith(note["text"])
        place = each["locations"][0]["physicalLocation"]["artifactLocation"]["uri"]
        assert place == f"{yard}/lesart.toml"


@pytest.mark.long
def test_cases_are_the_same_whatever_is_wrong(yard: Path, capsys: pytest.CaptureFixture[str]) -> None:
    """One for each channel at each step; those with a fault fail, with its sentence."""
    notes = read_json(said(capsys, "check", yard, "--json", code=1))["notes"]
    before = ElementTree.fromstring(said(capsys, "check", yard, "--form", "xml", code=1))
    cases = [(case.get("classname"), case.get("name")) for case in before.iter("testcase")]
    assert len(cases) == len(set(cases)) == 21 * len(Step)
    failed = {
        (case.get("classname"), case.get("name"))
        for case in before.iter("testcase")
        if case.find("failure") is not None
    }
    faults = {(note["channel"] or "project", note["step"].capitalize()) for note in notes if note["mark"] == "†"}
    assert failed == faults
    assert before.find("testsuite").get("failures") == str(len(faults))  # type: ignore[union-attr]
    file = yard / "lesart.toml"
    file.write_text(file.read_text().replace('supply = "3.3 V"', 'supply = "5 V"', 1))
    after = ElementTree.fromstring(said(capsys, "check", yard, "--form", "xml", code=1))
    assert [(case.get("classname"), case.get("name")) for case in after.iter("testcase")] == cases


def test_json_by_form_is_the_same_as_by_option(yard: Path, capsys: pytest.CaptureFixture[str]) -> None:
    assert said(capsys, "check", yard, "--form", "json", code=1) == said(capsys, "check", yard, "--json", code=1)
    assert "lesart.toml" in refused(capsys, "check", yard / "captures", "--form", "xml")
