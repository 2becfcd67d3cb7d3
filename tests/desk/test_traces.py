"""Traces of panels at the desk: the model's own come back without a difference, broken ones with their verdicts."""

from __future__ import annotations

import threading
from pathlib import Path

import numpy as np
import pytest

from lesart.core.glass.bus.interpreter import interpret
from lesart.core.glass.faces.redraw import drawing_of
from lesart.core.glass.panels.frame import CharacterFrame, PixelFrame, SegmentFrame
from lesart.core.glass.panels.pixel_panel import PixelPanel
from lesart.core.raw.bus_bytes import Words
from lesart.core.step import Step
from lesart.desk.deeds.turning import turn_over
from lesart.desk.desk import Desk
from lesart.desk.opening import open_desk
from lesart.desk.picture import context_of, workspace_now
from lesart.desk.sheets.export import export_view
from lesart.project.captures.traces.vcd_write import vcd_text
from lesart.project.new.make import make_project
from lesart.study.wires.last_picture import last_frame
from lesart.study.wires.model_traces import LEAD_S, bus_trace, digits_trace
from lesart.study.wires.traced_frames import frame_shown
from lesart.study.wires.tracing import BusSeen, DigitsSeen, digits_shown, seen
from tests.desk.test_glass import added, tables, words

AT_S = 1500.06


@pytest.fixture
def pace(desk: Desk) -> Desk:
    """The yard with the leaf of traces turned up."""
    desk.open_step(Step.PACE)
    desk.choose_leaf("trace")
    return desk


def with_trace(desk: Desk, panel: str, drawings: int = 3) -> BusSeen:
    """The model's own trace of a panel written beside the project, and taken by its file's name alone."""
    moments = [AT_S + place / 5 for place in range(drawings)]
    lines = bus_trace(desk.state.project, desk.bench, panel, moments)
    (desk.folder / f"captures/{panel}.vcd").write_text(vcd_text(lines, 1e-8, "model"))
    desk.choose_panel(panel)
    added(desk, f"captures/{panel}.vcd")
    desk.edit(("panels", panel, "trace", "starts_at"), f"{AT_S - LEAD_S} s")
    found = seen(desk.state.project, desk.bench, panel)
    assert isinstance(found, BusSeen)
    return found


@pytest.mark.parametrize(("panel", "wires"), [("door", "two-wire"), ("lid", "two-wire"), ("mast", "four-wire")])
def test_the_models_own_trace_comes_back(pace: Desk, panel: str, wires: str) -> None:
    """Bytes on the wires, decoded and obeyed, leave what the face shows: cell by cell, drawing by drawing."""
    found = with_trace(pace, panel)
    assert found.trace.values["wires"] == wires
    assert [each.differs for each in found.against.redraws] == [0, 0, 0]
    assert not found.obeyed.unknown
    # From its start to its last byte a drawing takes what the model says, but for the commands and the last stop.
    drawing = drawing_of(pace.state.project.faces_on(panel)[0], pace.state.project.panels[panel])
    took = found.against.redraws[1].end_s - found.against.redraws[1].start_s
    assert took == pytest.approx(drawing.seconds, rel={"door": 1e-3, "lid": 0.06, "mast": 0.06}[panel])
    on = pace.state.project.panels[panel]
    frame = frame_shown(on, found.obeyed, len(found.obeyed), found.end_s)
    pace.put_cursor(AT_S + 0.4)
    glass = next(glass for glass in context_of(pace).glasses if glass.name == panel)
    assert frame == glass.frame


@pytest.mark.parametrize(
    ("drive", "wires", "changes"),
    [
        ("two-line driver", "two lines", {}),
        ("numbered driver", "four-wire", {}),
        ("scanned through registers", "four-wire", {}),
        (
            "scanned through registers",
            "four-wire",
            {"chosen": "the byte before", "chosen_low": "no", "common": "anode"},
        ),
        ("shift registers", "four-wire", {"common": "anode"}),
    ],
)
def test_digits_behind_registers_and_drivers(pace: Desk, drive: str, wires: str, changes: dict[str, str]) -> None:
    """Their bytes on the wires light what the face shows, however the digit is chosen."""
    for name, value in {"drive": drive, **changes}.items():
        pace.edit(("panels", "stand", name), value)
    pace.edit(("panels", "stand", "chain"), "3 1 4 2")
    found = with_trace(pace, "stand")
    assert found.trace.values["wires"] == wires
    assert not found.obeyed.unknown
    on = pace.state.project.panels["stand"]
    pace.put_cursor(AT_S + 0.4)
    glass = next(glass for glass in context_of(pace).glasses if glass.name == "stand")
    assert frame_shown(on, found.obeyed, len(found.obeyed), found.end_s) == glass.frame
    if drive in ("two-line driver", "numbered driver"):
        assert [each.differs for each in found.against.redraws] == [0, 0, 0]


def test_the_two_lines_of_a_driver(pace: Desk) -> None:
    """By hand: data fall while the clock is high, each byte its lowest bit first, an answer, data rise at the end."""
    pace.edit(("panels", "stand", "drive"), "two-line driver")
    assert "its scan and its trace of the drive before taken out" in pace.state.message
    assert pace.state.project.panels["stand"].scan is None
    lines = bus_trace(pace.state.project, pace.bench, "stand", [AT_S])
    clock, data = lines["clock"], lines["data"]
    rises = clock.t[(clock.level == 1)]
    bits = data.level_at(rises).tolist()
    falls = [
        float(t) for t, level in zip(data.t, data.level, strict=True) if not level and clock.level_at(np.array([t]))[0]
    ]
    assert len(falls) == 3
    starts = [int(np.searchsorted(rises, t)) for t in falls]
    ends = [*starts[1:], len(rises)]
    parts = []
    for start, end in zip(starts, ends, strict=True):
        whole = bits[start : start + (end - start) // 9 * 9]
        assert all(whole[at + 8] == 0 for at in range(0, len(whole), 9))
        parts.append(
            [sum(bit << place for place, bit in enumerate(whole[at : at + 8])) for at in range(0, len(whole), 9)]
        )
    panel = pace.state.project.panels["stand"]
    pace.put_cursor(AT_S)
    frame = next(glass.frame for glass in context_of(pace).glasses if glass.name == "stand")
    assert isinstance(frame, SegmentFrame)
    assert parts == [[0x40], [0xC0, *panel.sent(frame)], [0x8F]]  # type: ignore[attr-defined]


@pytest.mark.parametrize("hookup", ["4 lines", "8 lines"])
def test_letters_over_parallel_lines(pace: Desk, hookup: str) -> None:
    """A strobe for each byte, or for each half of one; the signals are known by their names."""
    pace.edit(("panels", "door", "hookup"), hookup)
    found = with_trace(pace, "door")
    assert found.trace.values["wires"] == "parallel"
    assert len(found.trace.values["data"].split()) == int(hookup[0])
    assert [each.differs for each in found.against.redraws] == [0, 0, 0]
    assert not found.obeyed.unknown
    shown = words(pace)
    assert "0 cells of its memory" in shown
    # Two rows of an address and 16 letters: 34 writes of 40 µs, the last one's strobe ends half way.
    took = found.against.redraws[0].end_s - found.against.redraws[0].start_s
    assert took == pytest.approx(33 * 40e-6, abs=45e-6)
    pace.edit(("panels", "door", "trace", "data"), "d4 d5")
    assert any("parallel data lines are 4 or 8; 2 are named" in note.text for note in pace.notes)


def test_pixels_over_parallel_lines(pace: Desk) -> None:
    """Eight lines and one that says what they carry."""
    pace.edit(("panels", "lid", "bus"), "parallel")
    pace.select(("panels", "lid", "trace", "capture"))
    pace.take_away()
    found = with_trace(pace, "lid")
    assert found.trace.values["wires"] == "parallel"
    assert [each.differs for each in found.against.redraws] == [0, 0, 0]


def test_the_clock_of_a_bus(pace: Desk) -> None:
    """As the panel says it: 400 kHz, and 2 MHz on four wires."""
    assert with_trace(pace, "lid").clock_hz == pytest.approx(400e3, rel=1e-2)
    assert with_trace(pace, "mast").clock_hz == pytest.approx(2e6, rel=1e-2)


def test_the_lid_draws_one_page_to_a_wrong_place(pace: Desk) -> None:
    """The third of four drawings is wrong until the fourth; a note leads there."""
    found = seen(pace.state.project, pace.bench, "lid")
    assert isinstance(found, BusSeen)
    differs = [each.differs for each in found.against.redraws]
    assert [each > 0 for each in differs] == [False, False, True, False]
    assert found.against.redraws[2].wrong_s == pytest.approx(0.2, abs=1e-3)
    index = next(place for place, note in enumerate(pace.notes) if "drawing 3 of the trace leaves" in note.text)
    pace.open_step(Step.WIRE)
    pace.go_to_note(index)
    assert (pace.state.step, pace.state.leaf_of(Step.PACE), pace.state.panel) == (Step.PACE, "trace", "lid")
    # The page that went wrong is page 4 now, and page 5 is as it was: no other row differs.
    panel = pace.state.project.panels["lid"]
    assert isinstance(panel, PixelPanel)
    third = found.against.redraws[2]
    drawn = frame_shown(panel, found.obeyed, third.behind, third.end_s)
    pace.put_cursor(1440.46)
    wanted = next(glass for glass in context_of(pace).glasses if glass.name == "lid").frame
    assert isinstance(drawn, PixelFrame)
    assert isinstance(wanted, PixelFrame)
    off = [place for place in range(64) if drawn.rows[place] != wanted.rows[place]]
    assert off
    assert set(off) <= set(range(32, 48))
    assert sum((drawn.rows[place] ^ wanted.rows[place]).bit_count() for place in off) == differs[2]


def test_going_through_a_trace(pace: Desk) -> None:
    """By transmissions and by drawings, from the last one back; x shows what should be there."""
    pace.choose_panel("lid")
    shown = words(pace)
    assert "transmission 64 of 64" in shown
    assert "0 bytes of its memory differ from the face" in shown
    pace.move_cursor(-1)
    shown = words(pace)
    assert "transmission 63 of 64" in shown
    assert "00 B7 00 10" in shown
    assert "page 7, column low 0, column high 0" in shown
    pace.move_screen(-1)
    shown = words(pace)
    assert "transmission 48 of 64" in shown
    assert "▌ 3" in shown
    before = workspace_now(pace)
    assert before.glass is not None
    assert {box[1] // 8 for box in before.glass.struck} == {4, 5}
    turn_over(pace)
    after = workspace_now(pace)
    assert after.glass is not None
    assert after.glass.frame != before.glass.frame
    assert "should leave" in after.subtitle
    turn_over(pace)
    for _ in range(5):
        pace.move_screen(-1)
    assert "transmission 16 of 64" in words(pace)
    pace.move_cursor(-99)
    assert "transmission 1 of 64" in words(pace)
    pace.move_cursor(1)
    assert "transmission 2 of 64" in words(pace)
    pace.move_cursor(999)
    assert "transmission 64 of 64" in words(pace)


def test_the_stands_digits(pace: Desk) -> None:
    """The third is cut short by 1.6 ms, the fourth dark 60 µs too late; what they show is the field."""
    found = seen(pace.state.project, pace.bench, "stand")
    assert isinstance(found, DigitsSeen)
    means = [digit.on_ms[1] for digit in found.traced.digits]
    assert means == pytest.approx([6.0, 6.0, 4.4, 6.16], abs=1e-3)
    assert found.traced.overlap_ms == pytest.approx(0.06, abs=1e-3)
    panel = pace.state.project.panels["stand"]
    pace.put_cursor(1440.0)
    glass = next(glass for glass in context_of(pace).glasses if glass.name == "stand")
    assert isinstance(glass.frame, SegmentFrame)
    assert digits_shown(panel, found) == glass.frame  # type: ignore[arg-type]
    assert (found.verdicts[0].name, found.verdicts[0].figure) == ("segments that differ", 0)
    pace.edit(("panels", "stand", "trace", "segments"), "b a c d e f g dp")
    # A 4 has b and no a, a 2 has both; the first digit is dark.
    wrong = seen(pace.state.project, pace.bench, "stand").verdicts[0]
    assert wrong.figure == 2
    assert wrong.note is not None
    assert "2 segments differ from its face, in digit 2" in wrong.note.text
    pace.undo()
    said = " ".join(note.text for note in pace.notes)
    assert "digit 3 is lit for 4.4 ms, the others for 6 to 6.16 ms; it is 27 % darker" in said
    assert "two digits are lit at once 20 times, for up to 60 µs" in said
    pace.choose_panel("stand")
    shown = words(pace)
    assert "abdeg." in shown
    assert shown.count("traced") > 5


def test_digits_as_the_model_has_them(pace: Desk) -> None:
    """Without spoiling nothing is uneven, nothing overlaps."""
    lines = digits_trace(pace.state.project, pace.bench, "stand", 1440.0, 0.5)
    (pace.folder / "captures/even.vcd").write_text(vcd_text(lines, 1e-6, "model"))
    pace.choose_panel("stand")
    added(pace, "captures/even.vcd")
    assert tables(pace)["panels"]["stand"]["trace"] == {
        "capture": "captures/even.vcd",
        "digits": "d1 d2 d3 d4",
        "segments": "a b c d e f g dp",
    }
    found = seen(pace.state.project, pace.bench, "stand")
    assert all(each.ok for each in found.verdicts)


def test_a_trace_is_taken_away(pace: Desk) -> None:
    """delete on one of its values."""
    pace.choose_panel("lid")
    pace.select(("panels", "lid", "trace", "capture"))
    pace.take_away()
    assert "trace" not in tables(pace)["panels"]["lid"]
    assert not any("drawing 3 of the trace" in note.text for note in pace.notes)


def test_a_trace_that_is_not_there(yard: Path) -> None:
    """One note with its place; the rest of the project is judged."""
    (yard / "captures/lid-bus.vcd").unlink()
    pace = open_desk(yard)
    pace.open_step(Step.PACE)
    pace.choose_leaf("trace")
    note = next(note for note in pace.notes if note.text.startswith("lid: its trace:"))
    assert "captures/lid-bus.vcd cannot be read" in note.text
    pace.choose_panel("lid")
    assert "cannot be read" in words(pace)
    pace.edit(("panels", "lid", "trace", "capture"), "captures/stand-digits.vcd")
    assert 'has no signal "clock"; it has d1, d2' in words(pace)


@pytest.mark.parametrize(
    ("key", "typed", "says"),
    [
        ("controller", "none such", "it must be pages or banks or windows or paper or letters"),
        ("address", "0x99", "0x00 to 0x7F"),
        ("rest", "0 s", "above 0 s"),
    ],
)
def test_a_wrong_value_of_a_trace(pace: Desk, key: str, typed: str, says: str) -> None:
    before = pace.state.history.text
    pace.edit(("panels", "lid", "trace", key), typed)
    assert pace.state.message_is_fault
    assert says in pace.state.message
    assert pace.state.history.text == before


def test_too_few_digit_lines(pace: Desk) -> None:
    pace.edit(("panels", "stand", "trace", "digits"), "d1 d2")
    note = next(note for note in pace.notes if note.text.startswith("stand: its trace:"))
    assert "2 digit lines named, stand has 4 digits; name a signal for each" in note.text


def test_a_controller_of_ones_own(pace: Desk, yard: Path) -> None:
    """A table of commands in the project file decodes what the built-in ones do not."""
    own = """
[controllers.mine]
columns = 128
pages = 8
order = 2

[[controllers.mine.commands]]
code = "0xB0"
bits = "0x0F"
does = "page"

[[controllers.mine.commands]]
code = "0x00"
bits = "0x0F"
does = "column low"

[[controllers.mine.commands]]
code = "0x10"
bits = "0x0F"
does = "column high"
"""
    path = yard / "lesart.toml"
    path.write_text(path.read_text().replace('address = "0x3C"', 'address = "0x3C"\ncontroller = "mine"') + own)
    from lesart.desk.opening import open_desk

    found = seen(open_desk(yard).state.project, pace.bench, "lid")
    assert isinstance(found, BusSeen)
    assert found.controller.name == "mine"
    assert [each.differs > 0 for each in found.against.redraws] == [False, False, True, False]
    path.write_text(path.read_text().replace('bits = "0x0F"\ndoes = "page"', 'bits = "0xF0"\ndoes = "page"'))
    with pytest.raises(Exception, match="leave them 0"):
        open_desk(yard)


def _sent(*told: bytes) -> Words:
    data = b"".join(told)
    part = np.repeat(np.arange(len(told)), [len(each) for each in told])
    t = np.arange(len(data)) / 1000
    return Words(t, np.frombuffer(data, np.uint8), np.ones(len(data), bool), part, t[:1], t[-1:])


def test_what_a_pixel_controller_shows(pace: Desk) -> None:
    """Rows moved up by the start row, all turned by inverting, nothing while it is dark."""
    from lesart.core.glass.bus.controllers import PAGES

    panel = PixelPanel("any", 8, 16, "white")
    data = bytes(range(1, 9))
    plain = interpret(PAGES, _sent(b"\x00\xb0\x00\x10", b"\x40" + data), 8, 2)
    frame = frame_shown(panel, plain, 8, 9.0)
    assert isinstance(frame, PixelFrame)
    # Bit 0 of each byte is on top: the first row is lit where a byte is odd.
    assert frame.rows[0] == 0b10101010
    moved = interpret(PAGES, _sent(b"\x00\xb0\x00\x10\x41", b"\x40" + data), 8, 2)
    shifted = frame_shown(panel, moved, 8, 9.0)
    assert isinstance(shifted, PixelFrame)
    assert shifted.rows == (*frame.rows[1:], frame.rows[0])
    inverted = frame_shown(panel, interpret(PAGES, _sent(b"\x00\xa7", b"\x40" + data), 8, 2), 8, 9.0)
    assert isinstance(inverted, PixelFrame)
    assert inverted.rows == tuple(row ^ 0xFF for row in frame.rows)
    dark = frame_shown(panel, interpret(PAGES, _sent(b"\x00\xae", b"\x40" + data), 8, 2), 8, 9.0)
    assert isinstance(dark, PixelFrame)
    assert dark.lit_count == 0
    full = frame_shown(panel, interpret(PAGES, _sent(b"\x00\xa5", b"\x40" + data), 8, 2), 8, 9.0)
    assert isinstance(full, PixelFrame)
    assert full.lit_count == 128


def test_glyphs_that_a_trace_brings(pace: Desk) -> None:
    """Rows of a glyph sent to the controller are what its code shows."""
    from lesart.core.glass.bus.controller import LINE
    from lesart.core.glass.bus.controllers import LETTERS

    letters = LETTERS.__class__("letters", LETTERS.commands, LINE, 128, 1)
    told = [(b"\x40", False), (bytes([1, 2, 4, 8, 16, 8, 4, 2]), True), (b"\x80", False), (b"\x00A", True)]
    data = b"".join(each for each, _ in told)
    part = np.repeat(np.arange(4), [len(each) for each, _ in told])
    is_data = np.repeat([flag for _, flag in told], [len(each) for each, _ in told]).astype(bool)
    t = np.arange(len(data)) / 1000
    found = interpret(letters, Words(t, np.frombuffer(data, np.uint8), is_data, part, t[:1], t[-1:]), 128, 1, fill=0x20)
    frame = frame_shown(pace.state.project.panels["door"], found, len(found), 9.0)
    assert isinstance(frame, CharacterFrame)
    assert frame.dots[0][0] == (1, 2, 4, 8, 16, 8, 4, 2)
    assert frame.codes[0][1] == ord("A")


def test_traces_on_paper(pace: Desk) -> None:
    """e draws what is looked at: lanes of model and trace for digits, the picture that was drawn for a bus."""
    said: list[str] = []
    for panel, name in (("stand", "digits"), ("lid", "bus")):
        pace.choose_panel(panel)
        export_view(pace, f"drawings/{name}.svg", lambda text, fault: said.append(text))
    for thread in threading.enumerate():
        if thread.name == "draw":
            thread.join()
    assert len(said) == 2
    digits = (pace.folder / "drawings/digits.svg").read_text()
    assert digits.count("traced</text>") >= 4
    assert "dark between digits, traced" in digits
    assert "lid, 128×64 pixels" in (pace.folder / "drawings/bus.svg").read_text()


def test_a_foreign_glass_follows_the_cursor(yard: Path, tmp_path: Path) -> None:
    """A panel without a face, of which there is a trace, shows what the trace had drawn by then."""
    made = make_project(yard / "captures/lid-bus.vcd", tmp_path / "lid")
    desk = open_desk(made.folder)
    desk.put_cursor(0.0)
    dark = next(glass for glass in context_of(desk).glasses if glass.name == "pixels")
    assert not any(dark.frame.rows)  # type: ignore[union-attr]
    desk.put_cursor(0.8)
    drawn = next(glass for glass in context_of(desk).glasses if glass.name == "pixels")
    assert drawn.frame == last_frame(desk.state.project, desk.bench, "pixels")
    assert sum(bin(row).count("1") for row in drawn.frame.rows) > 500  # type: ignore[union-attr]
    desk.close()
