"""The hook-up sheet: every connection once, columns and tracks apart, colours named, lists complete."""

from __future__ import annotations

import itertools
import re
from pathlib import Path
from xml.etree import ElementTree

import pytest
from hypothesis import given
from hypothesis import strategies as st

from lesart.core.wire.faults.inspect import inspect_hookup
from lesart.core.wire.hookup import Hookup
from lesart.core.wire.proposal.propose import propose
from lesart.draw.hookup_layout import layout, pulls_of
from lesart.project.model import Project
from lesart.study.drawable import Sheet, hookup_sheet
from lesart.study.drawing import draw_subject
from tests.core.wire.hookups import hookup

SENSORS = (
    "two-wire module",
    "single-wire sensor",
    "analog sensor",
    "echo ranger",
    "beam counter",
    "lamp",
    "thermistor",
)


def drawn(sheet: Sheet, path: Path) -> ElementTree.Element:
    path.write_bytes(draw_subject(sheet, path.suffix, "bench · hook-up"))
    return ElementTree.fromstring(path.read_text(encoding="utf-8"))


def texts(root: ElementTree.Element) -> list[str]:
    return [element.text or "" for element in root.iter("{http://www.w3.org/2000/svg}text")]


def ids(root: ElementTree.Element, start: str) -> set[str]:
    return {each.get("id", "") for each in root.iter() if each.get("id", "").startswith(start)}


def test_the_yard_on_paper(yard_project: Project, tmp_path: Path) -> None:
    """Pins and colours by name, faults first, parts with their values, sums with their formula."""
    sheet = hookup_sheet(yard_project)
    assert sheet is not None
    root = drawn(sheet, tmp_path / "yard.svg")
    words = texts(root)
    for each in (
        "bench · hook-up",
        "13 parts, 38 connections",
        "cannot work",
        "† out",
        "violet",
        "node.3V3",
        "stand resistors",
        "† gate.out (count out) does not work with node.p17 (digital); the edge pins of node are p1-p8.",
        "node.a2 to node.3V3 through brood half, red",
        "stand resistors: resistor, resistance 270 Ω, rating 250 mW, tolerance 5 % · 8 pieces",
        "door: two-wire character display at 0x27",
    ):
        assert each in words, each
    assert any(each.startswith("stand resistors, lamp resistor: R = (supply − drop") for each in words)
    # All but the one from the board to itself, which is told in words, are drawn.
    assert ids(root, "join-") == {f"join-{join.index}" for join in yard_project.hookup.joins if join.index != 15}


@pytest.mark.long
def test_pdf_and_the_same_bytes(yard_project: Project) -> None:
    sheet = hookup_sheet(yard_project)
    assert sheet is not None
    first, second = (draw_subject(sheet, ".pdf", "bench") for _ in range(2))
    assert first.startswith(b"%PDF")
    assert first == second


def test_pins_of_a_board_that_are_not_as_usual_stand_with_its_values(tmp_path: Path) -> None:
    parts = {"node": {"kind": "5 V board", "two_wire_pins": "a4 a5"}, "probe": "analog sensor"}
    sheet = Sheet(hookup(parts, "probe.out > node.a1"), (), ())
    (line,) = [each for each in texts(drawn(sheet, tmp_path / "pins.svg")) if each.startswith("node: 5 V board")]
    assert "two-wire pins a4 a5" in line
    assert "serial pins" not in line


def test_an_open_pin_is_said(tmp_path: Path) -> None:
    found = hookup({"node": "3.3 V board", "led": "lamp"}, "led.− > node.gnd")
    faults = tuple(note for note in inspect_hookup(found) if note.is_fault)
    words = texts(drawn(Sheet(found, (), faults), tmp_path / "a.svg"))
    assert "open" in words
    assert "† +" in words


def test_formulas_and_markup_in_names_stay_letters(tmp_path: Path) -> None:
    found = hookup({"node": "3.3 V board", "$x^2$ &[b]": "lamp"}, "$x^2$ &[b].− > node.gnd")
    assert "$x^2$ &[b]" in texts(drawn(Sheet(found, (), ()), tmp_path / "a.svg"))


def every(found: Hookup) -> set[int]:
    placed = layout(found)
    at_left = {pin.join.index for pin in placed.pins if pin.join is not None}
    return at_left | {join.index for join in pulls_of(found)}


@given(st.lists(st.sampled_from(SENSORS), min_size=1, max_size=6), st.sampled_from(["3.3 V board", "5 V board"]))
def test_every_connection_stands_once_and_no_two_share_a_track(kinds: list[str], board: str) -> None:
    parts = {"board": board, **{f"{kind} {index}": kind for index, kind in enumerate(kinds)}}
    found = propose(hookup(parts)).hookup
    placed = layout(found)
    assert every(found) == {join.index for join in found.joins}
    drawn_joins = [pin.join.index for pin in placed.pins if pin.join is not None]
    assert len(drawn_joins) == len(set(drawn_joins))
    rows = [pin.row for pin in placed.pins]
    assert all(later - earlier > 1 - 1e-9 for earlier, later in itertools.pairwise(rows))
    assert sorted(line.track for line in placed.lines) == list(range(placed.tracks))
    assert max([*rows, *(row for _, row in placed.board_pins)]) <= placed.rows


def crosses(one: tuple[float, float, int], other: tuple[float, float, int]) -> int:
    """Crossings of two wires, each a level stretch, a turn at its track, a level stretch: counted by hand."""
    (left, right, track), (o_left, o_right, o_track) = one, other
    low, high = sorted((left, right))
    o_low, o_high = sorted((o_left, o_right))
    # Where one stands upright, the other lies at its left row before its track and at its right row behind it.
    count = int(low < (o_left if track < o_track else o_right) < high)
    return count + int(o_low < (left if o_track < track else right) < o_high)


@given(st.lists(st.sampled_from(SENSORS), min_size=1, max_size=6))
def test_wires_in_order_do_not_cross(kinds: list[str]) -> None:
    """Two wires that lead the same way, in the same order at both ends, never cross."""
    parts = {"board": "3.3 V board", **{f"{kind} {index}": kind for index, kind in enumerate(kinds)}}
    lines = layout(propose(hookup(parts)).hookup).lines
    for index, one in enumerate(lines):
        for other in lines[:index]:
            same_order = (one.left - other.left) * (one.right - other.right) > 0
            same_way = (one.right < one.left) == (other.right < other.left)
            if same_order and same_way:
                pair = ((one.left, one.right, one.track), (other.left, other.right, other.track))
                assert crosses(*pair) == 0


@pytest.mark.parametrize("width_mm", [210])
def test_nothing_hangs_over_the_edge(yard_project: Project, tmp_path: Path, width_mm: float) -> None:
    """The sheet is as wide as paper is; its height follows the lists."""
    sheet = hookup_sheet(yard_project)
    assert sheet is not None
    root = drawn(sheet, tmp_path / "yard.svg")
    assert float(re.sub("[a-z]", "", root.get("width", ""))) == pytest.approx(width_mm / 25.4 * 72, rel=1e-3)
