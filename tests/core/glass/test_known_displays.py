"""The picture on an unknown device's glass: a display's bytes on lines that nobody names lead to the same picture."""

from __future__ import annotations

import random
from collections.abc import Mapping
from dataclasses import replace
from typing import Any

import numpy as np
import pytest

from lesart.core.fit.cells import Cell
from lesart.core.glass.bus.changes import changes_for, start_for
from lesart.core.glass.bus.controller import LINE
from lesart.core.glass.bus.controllers import CONTROLLERS, usual_controller
from lesart.core.glass.bus.interpreter import interpret
from lesart.core.glass.bus.known_display import KnownDisplay
from lesart.core.glass.bus.known_displays import known_displays
from lesart.core.glass.bus.transmissions import Transmission, transmissions_for
from lesart.core.glass.faces.hue import with_hue
from lesart.core.glass.panels.catalogue import CATALOGUE
from lesart.core.glass.panels.colour_panel import ColourPanel
from lesart.core.glass.panels.panel import Panel
from lesart.core.pace.edge_writer import evenly, four_wire, one_line, parallel, scanned, two_wire
from lesart.core.raw.bus_bytes import four_wire_words, parallel_words, two_wire_words
from lesart.core.raw.edges import Edges
from lesart.core.raw.talks.recognise import recognise
from lesart.project.tables.panels import check_panel
from lesart.study.wires.panel_cells import memory_shape
from lesart.study.wires.traced_frames import frame_shown
from lesart.study.wires.tracing import told_by_line


def panel_of(table: Mapping[str, Any]) -> Panel:
    panel, problems = check_panel("p", table, {}, {})
    assert panel is not None, problems
    return panel


def found_in(
    lines: Mapping[str, Edges], dice: random.Random, *, named: bool = False
) -> tuple[KnownDisplay, dict[str, Edges]]:
    """The one display that is found on lines under names that say nothing."""
    roles = list(lines)
    dice.shuffle(roles)
    shown = {role if named else f"{chr(0x71 + place)}": lines[role] for place, role in enumerate(roles)}
    found = [display for talk in recognise(shown) for display in known_displays(talk, shown)]
    assert len(found) == 1, found
    return found[0], shown


def picture(display: KnownDisplay, lines: Mapping[str, Edges]) -> tuple[Panel, object]:
    """What a project with these two tables shows at the end."""
    panel, trace = panel_of(display.panel), display.trace
    controller = CONTROLLERS[trace.get("controller", "") or usual_controller(panel)]
    if trace["wires"] in ("four-wire", "parallel") and trace.get("command"):
        controller = told_by_line(controller)
    if trace["wires"] == "four-wire":
        roles = {role: lines[trace[role]] for role in ("clock", "data", "select", "command") if role in trace}
        values = {"mode": 0, "first": "highest", "selected": "low", "shortest": 0.0, "rest": 1e-3}
        words = four_wire_words(roles, values | {key: trace[key] for key in ("mode", "selected") if key in trace})
    elif trace["wires"] == "parallel":
        data = [lines[name] for name in trace["data"].split()]
        words = parallel_words(lines[trace["clock"]], data, lines.get(trace.get("command", "")), 1e-3)
    else:
        address = int(trace["address"], 0) if "address" in trace else None
        words = two_wire_words(lines[trace["clock"]], lines[trace["data"]], address, bare=trace["wires"] == "two lines")
    columns, pages, fill = memory_shape(panel)
    obeyed = interpret(controller, words, columns, pages, fill=fill)
    return panel, frame_shown(panel, obeyed, len(obeyed), 1e9)


def any_pixels(panel: Panel, dice: random.Random) -> Any:
    """A picture of chance, with nothing of it even."""
    rng = np.random.default_rng(dice.randrange(1 << 30))
    width, height = panel.columns, panel.rows
    return (tuple(int("".join(map(str, rng.integers(0, 2, width))), 2) for _ in range(height)),)


PIXELS = ["128×64 pixels", "128×32 pixels", "64×48 pixels", "96×16 pixels"]


@pytest.mark.parametrize("name", PIXELS)
@pytest.mark.parametrize("at_once", [0, 16])
def test_a_panel_of_pixels_on_two_wires(name: str, at_once: int) -> None:
    """Its size, its address, its place in the controller's memory and every pixel, drawn three times over."""
    dice = random.Random(len(name) + at_once)
    panel = panel_of({**CATALOGUE[name], "at_once": at_once})
    controller = CONTROLLERS["pages"]
    memory = any_pixels(panel, dice)
    told = [(0.01, each) for each in start_for(panel, controller)]
    if panel.rows != 64:
        told.append((0.011, Transmission(bytes((0x00, 0xA8, panel.rows - 1)), False)))
    for place in range(3):
        told += [(0.02 + 0.2 * place, each) for each in transmissions_for(panel, controller, memory)]
    display, lines = found_in(two_wire(told, 0x3C, 400e3, 0.7), dice)
    assert display.trace["address"] == "0x3C"
    # Whoever sends pages fills the controller's, beside the glass too.
    wide = panel.columns + display.panel.get("offset", 0) + display.panel.get("beyond", 0)
    said = f"{3 * wide * panel.rows // 8} bytes go into cells of {name}, and 0 of "
    assert display.why.startswith(said)
    found, frame = picture(display, lines)
    assert (found.columns, found.rows) == (panel.columns, panel.rows)
    assert frame == panel.lit(memory)


COLOURED: dict[str, dict[str, Any]] = {
    "128×160 colours": {"ground": "blue", "colour": "yellow"},
    "160×80 colours": {},
    "135×240 colours": {"depth": "18"},
    "240×240 colours": {"ground": "white", "colour": "red"},
}


@pytest.mark.parametrize(
    "name",
    [
        pytest.param(name, marks=pytest.mark.long) if name.startswith("2") or name == "128×160 colours" else name
        for name in COLOURED
    ],
)
def test_a_panel_of_colours_on_four_wires(name: str) -> None:
    """Its size, where it lies in the controller's memory, how many bits its pixels have, and each in its colour."""
    dice = random.Random(name)
    panel = panel_of({**CATALOGUE[name], **COLOURED[name]})
    assert isinstance(panel, ColourPanel)
    controller = replace(CONTROLLERS["windows"], cell_bytes=panel.pixel_bytes)
    # Mostly ground, as faces are; then a box in colours that changes.
    rows = [0] * panel.rows
    rows[20:40] = any_pixels(panel, dice)[0][20:40]
    memory = (tuple(rows), *panel.blank()[1:])
    after = with_hue(memory, panel.columns, (5, 22, 40, 9), "green")
    told = [(0.01, each) for each in start_for(panel, controller)]
    told += [(0.02, each) for each in transmissions_for(panel, controller, memory)]
    told += [(0.5, each) for each in changes_for(panel, controller, memory, after)]
    display, lines = found_in(four_wire(told, 8e6, 0.7), dice)
    table = {key: value for key, value in {**CATALOGUE[name], **COLOURED[name]}.items() if key != "pitch"}
    assert display.panel == table
    assert display.why.startswith(
        f"2 windows of {panel.width}×{panel.height} pixels with {panel.depth} bits, and 0 of "
    )
    _, frame = picture(display, lines)
    assert frame == panel.lit(after)


def test_windows_that_never_fill_the_glass_leave_its_size_a_guess() -> None:
    """The smallest usual one that holds what was written, and less sure."""
    dice = random.Random(5)
    panel = panel_of(CATALOGUE["128×160 colours"])
    controller = CONTROLLERS["windows"]
    first = with_hue((((1 << 60) - 1,) * 50 + (0,) * 110, *panel.blank()[1:]), 128, (70, 10, 40, 20), "red")
    told = [(0.01, each) for each in start_for(panel, controller)]
    told += [(0.1, each) for each in changes_for(panel, controller, panel.blank(), first)]
    display, _ = found_in(four_wire(told, 8e6, 0.3), dice)
    # Columns 68 to 127 and rows 0 to 49: of glasses there are 160×80 is the smallest that has them.
    assert (display.panel["width"], display.panel["height"]) == (160, 80)
    assert display.sure < 0.9
    assert "written over 60×50 of them" in display.why


@pytest.mark.parametrize(("name", "controller"), [("128×64 pixels", "pages"), ("84×48 pixels", "banks")])
def test_a_panel_of_pixels_on_four_wires(name: str, controller: str) -> None:
    """Which controller it has is seen from its commands, by a line that tells them from data."""
    dice = random.Random(len(name))
    panel = panel_of({**CATALOGUE[name], "bus": "four-wire"})
    told_by = told_by_line(CONTROLLERS[controller])
    assert told_by.told_by == LINE
    memory = any_pixels(panel, dice)
    told = [(0.01, each) for each in start_for(panel, told_by)]
    for place in range(3):
        told += [(0.02 + 0.1 * place, each) for each in transmissions_for(panel, told_by, memory)]
    display, lines = found_in(four_wire(told, 2e6, 0.4), dice)
    assert display.trace.get("controller", "pages") == controller
    found, frame = picture(display, lines)
    assert (found.columns, found.rows) == (panel.columns, panel.rows)
    assert frame == panel.lit(memory)


TEXTS = ("Hive 2   42.50 kg", "lid 34.5 C  62 %", "syrup 31 L left", "gate 12/min")


@pytest.mark.parametrize("name", ["16×2 characters", "20×4 characters", "20×2 characters"])
@pytest.mark.parametrize("hookup", ["two-wire expander", "4 lines", "8 lines"])
def test_a_panel_of_letters(name: str, hookup: str) -> None:
    """Through an expander on two wires, over four lines in any order, over eight: every code in its place."""
    dice = random.Random(len(name) + len(hookup))
    panel = panel_of({**CATALOGUE[name], "hookup": hookup})
    memory = tuple(
        tuple(TEXTS[row].ljust(panel.columns)[: panel.columns].encode("ascii")) + (0x20,) * (panel.line - panel.columns)  # type: ignore[attr-defined]
        for row in range(panel.rows)
    )
    controller = CONTROLLERS["letters"] if hookup == "two-wire expander" else told_by_line(CONTROLLERS["letters"])
    sent = [*start_for(panel, controller)]
    told = [(0.01 + 2e-3 * place, each) for place, each in enumerate(sent)]
    told += [(0.5 + 0.5 * place, each) for place in range(2) for each in transmissions_for(panel, controller, memory)]
    if hookup == "two-wire expander":
        display, lines = found_in(two_wire(told, 0x27, 100e3, 2.0), dice)
    else:
        # Of four lines every order is tried; of eight their names have to say it.
        eight = hookup == "8 lines"
        display, lines = found_in(parallel(told, 8 if eight else 4, 50e-6, 2.0), dice, named=eight)
    found, frame = picture(display, lines)
    assert (found.columns, found.rows) == (panel.columns, panel.rows)
    assert frame == panel.lit(memory)
    written = 2 * sum(code != 0x20 for row in memory for code in row)
    said = f"100 % of {written} cells written are letters, in {panel.columns}×{panel.rows} places"
    assert display.why.partition(";")[0] == said
    assert display.sure == 0.99 or "orders" in display.why


@pytest.mark.parametrize("drive", ["two-line driver", "shift registers"])
def test_digits_behind_a_chip(drive: str) -> None:
    dice = random.Random(len(drive))
    panel = panel_of({"kind": "segments", "digits": 4, "drive": drive})
    controller = CONTROLLERS[usual_controller(panel)]
    told = []
    memory: Any = ()
    for place in range(12):
        memory = (tuple(dice.choice([0x3F, 0x06, 0x5B, 0x4F, 0x66, 0x6D, 0x7D, 0x07]) for _ in range(4)),)
        told += [(0.01 + 0.1 * place, each) for each in transmissions_for(panel, controller, memory)]
    if drive == "two-line driver":
        display, lines = found_in(two_wire(told, None, 100e3, 1.5, lowest_first=True), dice)
    else:
        made = {role: line for role, line in four_wire(told, 1e6, 1.5).items() if role != "command"}
        display, lines = found_in(made, dice)
    found, frame = picture(display, lines)
    assert display.panel["drive"] == drive
    assert found.columns == 4
    assert frame == panel.lit(memory)
    assert (
        display.why
        == {
            "two-line driver": "100 % of 48 bytes light a figure, in 4 digits",
            "shift registers": "100 % of the transmissions have 4 bytes, and 100 % of those light a figure",
        }[drive]
    )


@pytest.mark.parametrize(
    "told",
    [
        {"digits": 4},
        {"digits": 8},
        {"digits": 4, "points": False, "colons": "2", "chain": "1 2 - 3 4", "colons_at": "4 1"},
        {"digits": 4, "segments": "14"},
    ],
)
def test_digits_behind_a_driver_with_an_address(told: dict[str, Any]) -> None:
    """Which places have digits, where the colon is, how wide they are; what changes is sent alone."""
    dice = random.Random(str(told))
    panel = panel_of({"kind": "segments", "drive": "driver with an address", **told})
    controller = CONTROLLERS["addressed digits"]
    letters = "ACEFHLPU" if "segments" in told else ""
    memory, sent = panel.blank(), [(0.01, each) for each in start_for(panel, controller)]
    for place in range(14):
        # Numbers are right-aligned, and the first digits are never lit.
        short = panel.columns - 2 if place < 13 or "colons" in told else panel.columns
        digits = [0] * (panel.columns - short) + [
            panel.code(Cell(dice.choice(f"0123456789{letters}"))) or 0 for _ in range(short)
        ]
        if "colons" in told and place % 2:
            digits[1] = panel.code(Cell("5", colon=True)) or 0
        after = (tuple(digits),)
        found = changes_for(panel, controller, memory if place else None, after)
        sent += [(0.02 + 0.1 * place, each) for each in found]
        memory = after
    display, lines = found_in(two_wire(sent, 0x71, 100e3, 1.6), dice)
    assert display.trace["address"] == "0x71"
    assert {key: display.panel.get(key) for key in told} == told
    _, frame = picture(display, lines)
    assert frame == panel.lit(memory)


@pytest.mark.parametrize("high", [False, True])
@pytest.mark.parametrize("before", [False, True])
def test_digits_chosen_by_a_register_are_less_sure_the_fewer_figures_there_are(high: bool, before: bool) -> None:
    """Two bytes at a time, one of which chooses a digit, of four; the other is a figure, or nothing in particular."""
    found = []
    for strange in (0, 1, 2):
        told = []
        for place in range(48):
            lit = 0x15 if place % 4 < strange else (0x3F, 0x06, 0x5B)[place % 3]
            chosen = 1 << place // 4 % 4 if high else 0xFF ^ 1 << place // 4 % 4
            told.append((0.01 + 0.02 * place, Transmission(bytes((chosen, lit) if before else (lit, chosen)), False)))
        made = {role: line for role, line in four_wire(told, 1e6, 1.5).items() if role != "command"}
        display, _ = found_in(made, random.Random(strange))
        assert display.panel["drive"] == "scanned through registers"
        assert display.panel["digits"] == 4
        assert display.panel.get("chosen", "the byte behind") == ("the byte before" if before else "the byte behind")
        assert display.panel.get("chosen_low", True) is not high
        good = 100 - 25 * strange
        assert display.why == f"of two bytes each one chooses a digit, and {good} % of the others light a figure"
        found.append(display.sure)
    assert found[0] > found[1] > found[2] >= 0.6


@pytest.mark.parametrize("on_level", [0, 1])
@pytest.mark.parametrize("lit_level", [0, 1])
def test_digits_lit_in_turn_say_how_they_are_wired(on_level: int, lit_level: int) -> None:
    """Which level lights a segment is the one that makes figures."""
    bits = [0x5B, 0x4F, 0x66, 0x07]
    digits, segments = scanned(evenly(2e-3, 0.1e-3, bits, 0.4), 4, 8, 0.4, on_level=on_level, lit_level=lit_level)
    names = ["a", "b", "c", "d", "e", "f", "g", "dp"]
    lines = {f"dig{place}": line for place, line in enumerate(digits, 1)} | dict(zip(names, segments, strict=True))
    talk = recognise(lines)[0]
    (display,) = known_displays(talk, lines)
    assert (display.trace.get("digit_on", "high"), display.trace.get("segment_on", "high")) == (
        "high" if on_level else "low",
        "high" if lit_level else "low",
    )
    assert display.trace["segments"] == " ".join(names)


def test_a_sensor_is_no_display() -> None:
    """Bytes that are read, and commands of a sensor, are meant for no panel that there is."""
    dice = random.Random(5)
    told = [(0.01 * place, Transmission(bytes((0xF4, dice.randrange(256))), False)) for place in range(40)]
    lines = two_wire(told, 0x76, 100e3, 1.0)
    assert [display for talk in recognise(lines) for display in known_displays(talk, lines)] == []


@pytest.mark.parametrize(
    ("size", "count", "laid"), [(3, 60, {"width": 60}), (4, 7, {"width": 7}), (3, 600, {"width": 300, "height": 2})]
)
def test_lamps_are_counted_by_their_bits(size: int, count: int, laid: dict[str, int]) -> None:
    """Of random colours, and once fewer of them than there are; a lamp of four bytes has a white light."""
    dice = random.Random(count)
    told = [
        (0.01 + 0.05 * place, Transmission(dice.randbytes(size * (count if place != 2 else count // 2)), True))
        for place in range(8)
    ]
    found, _ = found_in(one_line(told, 800e3, 0.3e-3, 0.5), dice)
    wanted = {"kind": "lamps", **laid, **({"sent": "green, red, blue, white"} if size == 4 else {})}
    assert found.panel == wanted
    assert found.trace == {"wires": "one line", "data": "q"}
    assert found.why == f"7 of 8 transmissions have {8 * size * count} bits, of {count} lamps"


def test_bits_of_a_sensor_are_no_lamps() -> None:
    """Forty bits by their length, and 24 of a remote, are far longer than those of lamps."""
    told = [(0.05 * place, Transmission(bytes((place, 1, 2, 3, 4, 5)), True)) for place in range(1, 9)]
    lines = one_line(told, 10e3, 20e-3, 0.6)
    assert [display for talk in recognise(lines) for display in known_displays(talk, lines)] == []
