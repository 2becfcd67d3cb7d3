"""A further kind is a module with its record and a line that registers it: every screen and command takes it."""

from __future__ import annotations

import json
from pathlib import Path

import pytest

from lesart.cli.main import main
from lesart.core import calm, law
from lesart.core.glass.panels import kinds
from lesart.core.raw import decode
from lesart.core.step import Step
from lesart.desk.deeds import glass as glass_deeds
from lesart.desk.deeds.turning import turn_over
from lesart.desk.desk import Desk
from lesart.desk.opening import open_desk
from lesart.desk.picture import move_value, picture_of, workspace_now
from lesart.desk.state import LEAVES
from lesart.project.folder.store import FILE
from tests.lamps import LAMPS
from tests.small import make_small
from tests.toys import EDGE_COUNT, LIMIT, RECIPROCAL

FACE = """
[panels.row]
kind = "lamps"
lamps = 10

[faces.row]
panel = "row"

[[faces.row.items]]
kind = "field"
channel = "in kg"
row = 0
column = 2
"""


@pytest.fixture
def folder(tmp_path: Path, monkeypatch: pytest.MonkeyPatch) -> Path:
    """A small project with a row of lamps that shows a channel."""
    monkeypatch.setitem(kinds.KINDS, LAMPS.name, LAMPS)
    made = make_small(tmp_path)
    (made / FILE).write_text((made / FILE).read_text() + FACE)
    return made


@pytest.fixture
def desk(folder: Path) -> Desk:
    """That project, with the lamps brought forward."""
    opened = open_desk(folder)
    opened.choose_channel("in kg")
    opened.choose_panel("row")
    return opened


def words(desk: Desk) -> str:
    """All lines of the workspace as text."""
    return "\n".join("".join(span.text for span in line) for line in workspace_now(desk).lines)


def test_every_screen_takes_it(desk: Desk) -> None:
    """Each step and leaf draws, by the capture and by hand, and every value in place can be gone to."""
    for hand in ("", "41"):
        if hand:
            desk.take_hand(hand)
        for step in (None, *Step):
            for leaf in LEAVES.get(step, ("",)):
                desk.open_step(step)
                desk.choose_leaf(leaf)
                picture = picture_of(desk)
                assert picture.workspace.step is step
                assert picture.workspace.lines, (step, leaf)
                for _ in picture.workspace.edits[:4]:
                    move_value(desk, 1)
    desk.open_step(Step.GLASS)
    desk.choose_leaf("items")
    glass = workspace_now(desk).glass
    assert glass is not None
    # The capture stands at 40 to 46 kg: a field of ten cells from the third lamp on, and a digit lights its odd ones.
    assert (glass.name, glass.says) == ("row", "10 lamps")


def test_a_lamp_is_lit_where_the_digit_is_odd(desk: Desk) -> None:
    """By hand 13 kg: 1 and 3 are odd, and so nothing else is lit."""
    desk.open_step(Step.GLASS)
    desk.choose_leaf("items")
    desk.edit(("faces", "row", "items", 0, "width"), "2")
    desk.edit(("faces", "row", "items", 0, "decimals"), "0")
    desk.edit(("faces", "row", "items", 0, "unit_text"), "")
    desk.take_hand("13")
    glass = workspace_now(desk).glass
    assert glass is not None
    assert glass.frame.rows == (0b0011000000,), desk.state.message


def test_every_deed_of_glass_takes_it(desk: Desk) -> None:
    """Patterns, moving, aligning, snapping, spreading, glyphs, adding and taking away: done, or a sentence says why
    not."""
    desk.open_step(Step.GLASS)
    for _ in range(4):
        desk.turn(glass_deeds.next_pattern)
        assert workspace_now(desk).glass is not None
    for leaf in LEAVES[Step.GLASS]:
        desk.choose_leaf(leaf)
        for deed in (
            lambda: glass_deeds.move(desk, "right"),
            lambda: glass_deeds.move(desk, "down", "cell"),
            lambda: glass_deeds.snap(desk, "left"),
            lambda: glass_deeds.align(desk),
            lambda: glass_deeds.space_evenly(desk),
            lambda: turn_over(desk),
            lambda: desk.turn(glass_deeds.look_closely),
            lambda: desk.turn(glass_deeds.look_from_behind),
            lambda: desk.turn(glass_deeds.next_face),
            lambda: glass_deeds.lit_line(desk, "a"),
            lambda: desk.add("label 42"),
            lambda: desk.add("bar in kg"),
            lambda: desk.add("arrange"),
            lambda: desk.add("° "),
            lambda: desk.add("box"),
            lambda: desk.take_away(),
            desk.undo,
            desk.redo,
            desk.undo,
        ):
            deed()
            picture_of(desk)
    desk.choose_leaf("items")
    assert glass_deeds.lit_line(desk, "a") is None
    assert (desk.state.message, desk.state.message_is_fault) == (
        "row has no segments whose lines could be found.",
        True,
    )


def test_commands_take_it(folder: Path, capsys: pytest.CaptureFixture[str], tmp_path: Path) -> None:
    """Lit by hand, a test pattern with its bytes, a drawing, the notes, the loop."""
    assert main(["glass", str(folder), "row", "--json", "--pattern", "counting", "--step", "14"]) == 0
    answer = json.loads(capsys.readouterr().out)
    # The fourteenth step counts to 13, at the right of ten lamps.
    assert (answer["kind"], answer["lit"], answer["sent"][0]["bytes"]) == (
        "lamps",
        ["........##"],
        "00 00 00 00 00 00 00 00 01 01",
    )
    assert main(["hand", str(folder), "in kg", "--raw", "13", "--panel", "row"]) in (0, 1)
    assert "row" in capsys.readouterr().out
    drawing = tmp_path / "row.svg"
    assert main(["draw", str(folder), "glass", "--panel", "row", "-o", str(drawing)]) == 0
    assert drawing.read_text().count("<svg") == 1
    for command in ("check", "pace"):
        assert main([command, str(folder)]) == 0
        assert "row" in capsys.readouterr().out


def test_a_kind_that_is_none_names_those_there_are(folder: Path, capsys: pytest.CaptureFixture[str]) -> None:
    """With the one that was registered."""
    (folder / FILE).write_text((folder / FILE).read_text().replace('kind = "lamps"', 'kind = "lights"'))
    assert main(["check", str(folder)]) == 2
    assert '"segments", "characters", "pixels", "colours", "inks", "lamps"' in capsys.readouterr().err


def test_a_further_law(folder: Path, monkeypatch: pytest.MonkeyPatch, capsys: pytest.CaptureFixture[str]) -> None:
    """It is offered, added by its name, computed, and spoken by the command line."""
    monkeypatch.setitem(law.KINDS, RECIPROCAL.name, RECIPROCAL)
    desk = open_desk(folder)
    desk.choose_channel("in s")
    desk.open_step(Step.LAW)
    desk.choose_leaf("what fits")
    assert "reciprocal" in words(desk)
    desk.add("reciprocal")
    assert not desk.state.message_is_fault, desk.state.message
    assert desk.state.chosen.unit.symbol == "Hz"
    # The capture says 40 to 46 s.
    assert desk.bench.run(desk.state.project, desk.state.chosen).calm.x[:3].tolist() == [1 / 40, 1 / 41, 1 / 42]
    assert main(["law", "reciprocal", "0.5 s"]) == 0
    assert "2 Hz" in capsys.readouterr().out


def test_a_further_filter(folder: Path, monkeypatch: pytest.MonkeyPatch) -> None:
    """It is offered with its cost, added with a value behind its name, and cuts."""
    monkeypatch.setitem(calm.KINDS, LIMIT.name, LIMIT)
    desk = open_desk(folder)
    desk.choose_channel("in kg")
    desk.open_step(Step.CALM)
    desk.choose_leaf("what there is")
    assert "cut at the top" in words(desk)
    desk.add("limit 43")
    assert not desk.state.message_is_fault, desk.state.message
    assert desk.state.chosen.says == "limit 43"
    assert desk.bench.run(desk.state.project, desk.state.chosen).calm.x[:7].tolist() == [40, 41, 42, 43, 43, 43, 43]
    desk.choose_leaf("filters")
    assert "limit" in words(desk)
    assert "×1.00" in words(desk)


def test_a_further_decoder(folder: Path, monkeypatch: pytest.MonkeyPatch, capsys: pytest.CaptureFixture[str]) -> None:
    """The command line decodes by it, and a project reads a channel by it."""
    monkeypatch.setitem(decode.KINDS, EDGE_COUNT.name, EDGE_COUNT)
    trace = folder / "pulses.vcd"
    trace.write_text(
        "$timescale 1 ms $end\n$scope module m $end\n$var wire 1 ! p $end\n$upscope $end\n$enddefinitions $end\n"
        "#0\n0!\n#10\n1!\n#20\n0!\n#30\n1!\n#40\n0!\n#50\n1!\n#60\n0!\n"
    )
    assert main(["decode", str(trace), "--as", "edge count", "--json"]) == 0
    assert '"edges"' in capsys.readouterr().out
    (folder / FILE).write_text(
        (folder / FILE).read_text()
        + '\n[sources.pulses]\ncapture = "pulses.vcd"\nformat = "vcd"\n\n[sources.pulses.decode]\nkind = "edge count"\n'
        'line = "p"\n\n[channels.pulses]\nsource = "pulses"\ncolumn = "edges"\nunit = "ct"\nlowest = "0 ct"\n'
        'highest = "9 ct"\n'
    )
    desk = open_desk(folder)
    desk.choose_channel("pulses")
    desk.open_step(Step.RAW)
    assert desk.bench.run(desk.state.project, desk.state.chosen).calm.x.tolist() == [1, 2, 3]
    assert workspace_now(desk).lines
