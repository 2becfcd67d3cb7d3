"""Lamps in a chain as people say them, with their part and its currents, and the trace of their line."""

from __future__ import annotations

import random
import re
import tomllib
from pathlib import Path

import pytest

from lesart.core.glass.bus.transmissions import Transmission
from lesart.core.glass.faces.redraw import drawing_of
from lesart.core.glass.panels.lamp_panel import LampPanel
from lesart.core.notes import FAULT
from lesart.core.pace.edge_writer import one_line
from lesart.core.step import Step
from lesart.core.wire.currents import loads_of
from lesart.desk.desk import Desk
from lesart.desk.opening import open_desk
from lesart.project.captures.traces.vcd_write import vcd_text
from lesart.project.new.make import make_project
from lesart.study.wires.model_traces import LEAD_S, bus_trace
from lesart.study.wires.traced_frames import frame_shown
from lesart.study.wires.tracing import BusSeen, seen
from tests.desk.test_recipes import opened

LAMPS = "glass 2"
"""Their name: a new project has a panel "glass"."""


def with_lamps(folder: Path, line: str) -> Desk:
    desk = opened(folder, 512)
    desk.open_step(Step.GLASS)
    desk.add(line)
    assert not desk.state.message_is_fault, desk.state.message
    return desk


@pytest.mark.parametrize(
    ("line", "told"),
    [
        ("60 colour lamps", {"width": 60}),
        ("strip of 60 addressable leds", {"width": 60}),
        ("addressable led strip 144 leds", {"width": 144}),
        ("led ring 24", {"width": 24}),
        ("ring of 16 rgb leds", {"width": 16}),
        ("led strip 1 m 60 leds/m", {"width": 60, "pitch": "16.7 mm"}),
        ("5 m strip of 30 leds per metre", {"width": 150, "pitch": "33.3 mm"}),
        ("led strip 50 cm 144 leds/m", {"width": 72, "pitch": "6.94 mm"}),
        ("rgbw led strip 30 leds", {"width": 30, "sent": "green, red, blue, white"}),
        (
            "strip of 30 leds, rgb order, 40 % brightness",
            {"width": 30, "sent": "red, green, blue", "backlight": "40 %"},
        ),
        ("16x16 rgb led matrix", {"width": 16, "height": 16, "to_and_fro": True, "assumed": "runs, to_and_fro"}),
        ("8x8 addressable led matrix, row by row", {"width": 8, "height": 8, "to_and_fro": False}),
        ("8x32 rgb matrix zigzag", {"width": 32, "height": 8, "to_and_fro": True, "assumed": "runs"}),
        ("strip of 20 leds starting bottom right", {"width": 20, "begins": "bottom right"}),
        ("strip of 12 addressable leds, green", {"width": 12, "colour": "green"}),
        ("led strip", {"width": 8, "assumed": "width"}),
        ("smart led stick 8, 5 V", {"width": 8}),
    ],
)
def test_they_are_what_was_said(line: str, told: dict[str, object], tmp_path: Path) -> None:
    desk = with_lamps(tmp_path, line)
    table = tomllib.loads(desk.state.history.text)["panels"][LAMPS]
    assert table["kind"] == "lamps"
    assert {key: table.get(key) for key in told} == told
    assert ("assumed" in table) == ("assumed" in told)
    desk.close()


@pytest.mark.parametrize(
    ("line", "says"),
    [
        ("60 addressable leds, purple", '"purple" is not understood of colour lamps; say how many there are,'),
        ("strip of 60 leds at 12 V", "The supply of colour lamps is 4.5 to 5.5 V, not 12 V."),
        ("led strip 1 m 00 leds/m", " is not understood of colour lamps; say how many there are,"),
        ("led strip 2 m", '"m" is not understood of colour lamps;'),
        ("3000 colour lamps", "width of panel glass 2 = 3000; it must be a whole number from 1 to 512."),
        ("64x32 rgb panel", '"64x32 rgb panel" is not a display Lesart knows;'),
        ("rgb led", '"rgb led" is a part;'),
    ],
)
def test_what_is_not_such_lamps_is_refused(line: str, says: str, tmp_path: Path) -> None:
    desk = opened(tmp_path, 512)
    desk.open_step(Step.GLASS)
    before = desk.state.history.text
    desk.add(line)
    assert desk.state.message_is_fault
    assert says in desk.state.message
    assert desk.state.history.text == before
    desk.close()


def test_a_bar_stands_where_no_letter_fits_and_a_name_is_kept(tmp_path: Path) -> None:
    desk = with_lamps(tmp_path, "60 colour lamps on one line porch")
    assert desk.state.message == "added: porch, 60 colour lamps on one line porch, with a bar of counts on it"
    (item,) = tomllib.loads(desk.state.history.text)["faces"]["porch"]["items"]
    assert item == {"kind": "bar", "channel": "counts", "width": 60, "tall": 1}
    desk.close()


def test_the_supply_carries_what_all_lamps_draw(tmp_path: Path) -> None:
    """At a fifth of 12 mA a light and 1 mA a lamp; an edit of the panel is one of the hook-up too."""
    desk = with_lamps(tmp_path, "strip of 100 addressable leds")

    def drawn() -> dict[str, tuple[float, float]]:
        part = desk.state.project.hookup.parts[LAMPS]
        return {LAMPS: (part.value("draws"), part.value("at_worst"))}

    assert drawn()[LAMPS] == pytest.approx((100 * 0.0082, 100 * 0.0082))
    desk.edit(("panels", LAMPS, "colour"), "green")
    assert drawn()[LAMPS] == pytest.approx((100 * 0.0034, 100 * 0.0082))
    desk.edit(("panels", LAMPS, "backlight"), "100 %")
    assert drawn()[LAMPS] == pytest.approx((100 * 0.013, 100 * 0.037))
    desk.edit(("parts", LAMPS, "at_worst"), "2 A")
    assert drawn()[LAMPS] == pytest.approx((100 * 0.013, 2.0))
    desk.close()


def test_a_board_that_cannot_feed_them_is_told(tmp_path: Path) -> None:
    desk = opened(tmp_path, 512)
    desk.open_step(Step.WIRE)
    desk.add("5 V board")
    desk.open_step(Step.GLASS)
    desk.add("strip of 30 addressable leds")
    load = next(each for each in loads_of(desk.state.project.hookup) if any(one.of == LAMPS for one in each.drawn))
    assert {one.of: one.peak_a for one in load.drawn}[LAMPS] == pytest.approx(30 * 0.0082)
    desk.edit(("panels", LAMPS, "backlight"), "100 %")
    faults = [each.text for each in desk.notes if each.mark == FAULT and LAMPS in each.text]
    assert any("1110 mA" in each or "1.11 A" in each or "1.1 A" in each for each in faults), faults
    desk.close()


def test_a_3_3_v_line_gets_a_level_shifter_and_is_too_low_without(tmp_path: Path) -> None:
    desk = opened(tmp_path, 512)
    desk.open_step(Step.WIRE)
    desk.add("3.3 V board")
    desk.open_step(Step.GLASS)
    desk.add("strip of 10 addressable leds")
    (join,) = (each for each in desk.state.project.hookup.joins if each.pin.pin == "data")
    assert desk.state.project.hookup.through_kind(join) == "level shifter"
    desk.edit(("wire", "joins", join.index, "through"), "")
    found = [each.text for each in desk.notes if each.mark == FAULT and f"{LAMPS}.data" in each.text]
    assert len(found) == 1, [each.text for each in desk.notes]
    assert "3.3 V" in found[0]
    assert "3.5 V" in found[0]
    desk.close()


def test_digits_scanned_beside_a_long_strip_are_uneven(tmp_path: Path) -> None:
    """Of 300 lamps a drawing takes 9.3 ms, in which no interrupt goes on to the next digit; sent by a peripheral it
    takes none."""
    desk = with_lamps(tmp_path, "strip of 300 addressable leds")
    desk.add("four scanned digits")
    desk.open_step(Step.PACE)
    (found,) = (each for each in desk.notes if "its brightness is uneven" in each.text)
    longest = re.search(r"to ([\d.]+) ms, because draw glass 2 lets no interrupt in;", found.text)
    assert longest is not None
    scan = desk.state.project.panels["digits"].scan
    assert scan is not None
    # A drawing begins at any moment of a digit, and the next one is lit behind it.
    assert 9.3 <= float(longest[1]) <= 9.31 + scan.on_time_ms + scan.blanking_ms
    assert found.remedy == "let a peripheral send it: draw glass 2 in background"
    desk.edit(found.mend[0].key, found.mend[0].value)
    assert not [each.text for each in desk.notes if "its brightness is uneven" in each.text]
    desk.close()


@pytest.mark.parametrize("line", ["strip of 60 addressable leds", "16x16 rgb led matrix", "rgbw led strip 12 leds"])
def test_the_trace_of_its_line_comes_back(line: str, tmp_path: Path) -> None:
    """Pulse by pulse, and one lamp another way where another is sent."""
    desk = with_lamps(tmp_path, line)
    panel = desk.state.project.panels[LAMPS]
    assert isinstance(panel, LampPanel)
    at_s = 2.0
    lines = bus_trace(desk.state.project, desk.bench, LAMPS, [at_s, at_s + 0.2])
    assert list(lines) == ["data"]
    desk.open_step(Step.PACE)
    desk.choose_leaf("trace")
    (desk.folder / "captures/lamps.vcd").write_text(vcd_text(lines, 1e-9, "model"))
    desk.choose_panel(LAMPS)
    desk.add("captures/lamps.vcd")
    assert not desk.state.message_is_fault, desk.state.message
    desk.edit(("panels", LAMPS, "trace", "starts_at"), f"{at_s - LEAD_S} s")
    found = seen(desk.state.project, desk.bench, LAMPS)
    assert isinstance(found, BusSeen)
    assert [each.differs for each in found.against.redraws] == [0, 0]
    drawing = drawing_of(desk.state.project.faces_on(LAMPS)[0], panel)
    took = found.against.redraws[0].end_s - found.against.redraws[0].start_s
    # The last pulse ends before its bit does, and the rest follows.
    assert took == pytest.approx(drawing.seconds - panel.bus.rest_s, abs=1.3e-6)
    frame = frame_shown(panel, found.obeyed, len(found.obeyed), found.end_s)
    assert frame == panel.shown(panel.sent(frame))
    desk.edit(("panels", LAMPS, "sent"), "blue, red, green" if panel.pixel_bytes == 3 else "red, green, blue, white")
    desk.edit(("panels", LAMPS, "colour"), "red")
    other = seen(desk.state.project, desk.bench, LAMPS)
    assert isinstance(other, BusSeen)
    assert other.against.redraws[0].differs > 0
    desk.close()


def test_a_trace_of_a_strip_alone_becomes_its_panel(tmp_path: Path) -> None:
    """As ``lesart new`` makes it, with what the strip showed at the end."""
    dice = random.Random(5)
    told = [(0.02 + 0.1 * place, Transmission(dice.randbytes(150), True)) for place in range(6)]
    path = tmp_path / "strip.vcd"
    path.write_text(vcd_text(one_line(told, 800e3, 0.3e-3, 0.8), 1e-8, "model"))
    made = make_project(path, tmp_path / "strip")
    assert any("a display of 50 colour lamps" in each for each in made.heard)
    desk = open_desk(tmp_path / "strip")
    panel = desk.state.project.panels["lamps"]
    assert isinstance(panel, LampPanel)
    found = seen(desk.state.project, desk.bench, "lamps")
    assert isinstance(found, BusSeen)
    assert frame_shown(panel, found.obeyed, len(found.obeyed), found.end_s) == panel.shown(told[-1][1].data)
    desk.close()


@pytest.mark.parametrize(
    ("line", "lamps", "pin"),
    [
        ("60 colour lamps", 60, ""),
        ("led ring 24 on pin 6", 24, "board.p6"),
        ("addressable led strip 30 leds on d6", 30, "board.p6"),
        ("16x16 rgb led matrix", 256, ""),
    ],
)
def test_the_part_alone_draws_by_the_number_of_its_lamps(line: str, lamps: int, pin: str, tmp_path: Path) -> None:
    """One light of each usually, 12 mA, and three at worst, with 1 mA that a dark lamp takes."""
    desk = opened(tmp_path, 512)
    desk.open_step(Step.WIRE)
    desk.add("5 V board")
    desk.add(line)
    assert not desk.state.message_is_fault, desk.state.message
    part = desk.state.project.hookup.parts["colour lamps"]
    assert part.value("lamps") == lamps
    assert part.value("draws") == pytest.approx(lamps * 0.013)
    assert part.value("at_worst") == pytest.approx(lamps * 0.037)
    assert [str(join.to) for join in desk.state.project.hookup.joins if join.pin.part == part.name] == [pin] * bool(pin)
    desk.close()
