"""A line of a face as programs print it, at + of 7 Glass: a label, a field and its unit in one edit, and what they
show."""

from __future__ import annotations

import tomllib
from collections.abc import Iterator
from pathlib import Path
from typing import Any

import pytest

from lesart.core.fit.field import Reading
from lesart.core.glass.faces.face import compose
from lesart.core.glass.faces.inspect_face import inspect_face
from lesart.core.step import Step
from lesart.desk.desk import Desk
from lesart.desk.entries.aloud.templates import Hole, template_said
from lesart.desk.opening import open_desk
from lesart.project.new.make import make_project


@pytest.fixture
def hut(tmp_path: Path) -> Iterator[Desk]:
    """A temperature and a humidity; the face in front is empty."""
    rows = [f"{k},{20 + k % 5 * 0.25:.2f},{55 + k % 3}" for k in range(60)]
    (tmp_path / "hut.csv").write_text("\n".join(["time [s],temp [°C],hum [%]", *rows]) + "\n")
    make_project(tmp_path / "hut.csv", tmp_path / "hut")
    desk = open_desk(tmp_path / "hut")
    desk.open_step(Step.GLASS)
    yield desk
    desk.close()


def items(desk: Desk, face: str) -> list[dict[str, Any]]:
    found: list[dict[str, Any]] = tomllib.loads(desk.state.history.text)["faces"][face].get("items", [])
    return found


@pytest.mark.parametrize(
    ("line", "wanted"),
    [
        (
            "Temp: {temp:.1f} C",
            [
                {"kind": "label", "text": "Temp:", "row": 0, "column": 0},
                {"kind": "field", "channel": "temp [°C]", "row": 0, "column": 6, "decimals": 1, "unit_text": " C"},
            ],
        ),
        (
            "T={temp:.0f}C H={hum:.0f}%",
            [
                {"kind": "label", "text": "T=", "column": 0},
                {"kind": "field", "channel": "temp [°C]", "column": 2, "decimals": 0},
                {"kind": "label", "text": "C H="},
                {"kind": "field", "channel": "hum [%]", "decimals": 0, "unit_text": "%"},
            ],
        ),
        ("%6.2f", [{"kind": "field", "channel": "temp [°C]", "decimals": 2, "column": 0}]),
        ("{}% on line 2", [{"kind": "field", "channel": "temp [°C]", "row": 1, "column": 0, "unit_text": "%"}]),
    ],
)
def test_a_line_is_its_items(line: str, wanted: list[dict[str, Any]], hut: Desk) -> None:
    """Each behind the other; one step back takes all of them away."""
    hut.add("face lines")
    before = hut.state.history.text
    hut.add(line)
    assert not hut.state.message_is_fault, hut.state.message
    found = items(hut, "lines")
    assert [{key: item[key] for key in want} for item, want in zip(found, wanted, strict=True)] == wanted
    ends = [item["column"] + item.get("width", len(item.get("text", ""))) for item in found]
    assert all(end <= item["column"] for end, item in zip(ends, found[1:], strict=False))
    hut.undo()
    assert hut.state.history.text == before


@pytest.mark.parametrize(
    ("value", "printed"), [(20.75, "Temp: 20.8 C"), (-3.04, "Temp: -3.0 C"), (7.0, "Temp:  7.0 C")]
)
def test_it_reads_as_it_was_printed(value: float, printed: str, hut: Desk) -> None:
    """What stands on the glass is what the program would print, ``%4.1f`` of what a cell's blank is left before."""
    hut.add("face lines")
    hut.add("Temp: {temp:.1f} C")
    project = hut.state.project
    panel = project.panels["glass"]
    rows = compose(project.faces["lines"], panel, {"temp [°C]": Reading(value)}).memory
    line = "".join(chr(code) for code in rows[0]).rstrip()
    assert " ".join(line.split()) == " ".join(printed.split())
    assert line.startswith("Temp:")
    assert line.endswith(" C")


@pytest.mark.parametrize(
    ("line", "says"),
    [
        ("{nothing}", '"{nothing}" is not an item; '),
        ("T {temp} and a long text", "16×2 characters has 16 columns free in row 0, and this takes "),
    ],
)
def test_what_cannot_stand_there_is_told(line: str, says: str, hut: Desk) -> None:
    hut.add("face lines")
    before = hut.state.history.text
    hut.add(line)
    assert hut.state.message_is_fault
    assert hut.state.message.startswith(says)
    assert hut.state.history.text == before


def test_on_pixels_too(hut: Desk) -> None:
    """Letters are as wide as they are drawn: nothing stands on anything."""
    hut.add("0.96 inch oled")
    hut.add("face lines")
    hut.add("T: {temp:.1f} C  H: {hum}")
    assert not hut.state.message_is_fault, hut.state.message
    project = hut.state.project
    assert not inspect_face(project.faces["lines"], project.panels[project.faces["lines"].panel])
    assert len(items(hut, "lines")) == 4


def test_texts_and_holes() -> None:
    """Names, widths and places of both ways to print; a percent sign alone is none."""
    channels = ["temp", "hum"]
    said = template_said("a {temp:5.2f} b %d", channels, "hum", str)
    assert said == ["a ", Hole("temp", 2, 5), " b ", Hole("hum")]
    for line in ("100 %", "50 % off", "label {temp}", "{other}", "plain"):
        assert template_said(line, channels, "hum", str) is None
