"""Modules of eight by eight in a chain: each told a number and the pixels of that row, or column."""

from __future__ import annotations

import random
from typing import Any

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from lesart.core.glass.bus.changes import changes_for, start_for
from lesart.core.glass.bus.controllers import NUMBERED_ROWS, usual_controller
from lesart.core.glass.bus.known_displays import known_displays
from lesart.core.glass.bus.transmissions import transmissions_for
from lesart.core.glass.faces.face import Face
from lesart.core.glass.faces.items import Label
from lesart.core.glass.faces.partial_redraw import bytes_touched
from lesart.core.glass.faces.redraw import drawing_of
from lesart.core.glass.panels.kinds import KINDS
from lesart.core.glass.panels.packing import BYTES, MODULE_COLUMNS, MODULE_ROWS, Packing, pack, unpack
from lesart.core.glass.panels.panel_kind import Given
from lesart.core.glass.panels.pixel_panel import PixelPanel
from lesart.core.glass.panels.pixels import frame_of
from lesart.core.pace.edge_writer import four_wire
from lesart.core.parameters import read_table
from lesart.core.raw.talks.recognise import recognise


def panel_of(**told: Any) -> PixelPanel:
    usual = {"width": 32, "height": 8, "bytes": MODULE_ROWS, "bus": "four-wire", "clock": "1 MHz", "low_first": False}
    values, problems = read_table(KINDS["pixels"].parameters, {**usual, **told}, "p")
    assert not problems
    panel = KINDS["pixels"].build("p", values, Given())
    assert isinstance(panel, PixelPanel)
    return panel


@given(data=st.data(), bytes_=st.sampled_from(BYTES[2:]), flags=st.tuples(*[st.booleans()] * 4))
def test_a_pixel_goes_where_a_plain_loop_puts_it(
    data: st.DataObject, bytes_: str, flags: tuple[bool, bool, bool, bool]
) -> None:
    """Number, module and bit, worked out pixel by pixel; and back again."""
    across, down = data.draw(st.integers(1, 4)), data.draw(st.integers(1, 3))
    seed = data.draw(st.integers(0, 1 << 30))
    low_first, from_bottom, from_right, inverted = flags
    packing = Packing(bytes_, low_first, from_bottom, from_right, inverted)
    pixels = np.random.default_rng(seed).integers(0, 2, (8 * down, 8 * across)).astype(bool)
    count = across * down
    wanted = [[0] * count for _ in range(8)]
    for y in range(8 * down):
        for x in range(8 * across):
            module = y // 8 * across + x // 8
            module = count - 1 - module if from_right else module
            number, bit = (y % 8, x % 8) if bytes_ == MODULE_ROWS else (x % 8, y % 8)
            number = 7 - number if from_bottom else number
            bit = bit if low_first else 7 - bit
            wanted[number][module] |= (bool(pixels[y, x]) != inverted) << bit
    told = b"".join(bytes((number + 1, bits)) for number, row in enumerate(wanted) for bits in row)
    frame = frame_of(pixels)
    assert pack(frame, packing) == told
    assert packing.size(8 * across, 8 * down) == len(told)
    assert unpack(told, 8 * across, 8 * down, packing) == frame


def test_all_modules_are_told_a_number_at_once() -> None:
    """Two bytes a module and a transmission a number; what sets them up is told to each of them."""
    panel = panel_of()
    assert usual_controller(panel) == "numbered rows"
    said = [each.data.hex(" ") for each in start_for(panel, NUMBERED_ROWS)]
    assert said == [" ".join([each] * 4) for each in ("0f 00", "09 00", "0b 07", "0a 01", "0c 01")]
    blank = panel.blank()
    lit = ((0, 0, 1 << 31 | 1, 0, 0, 0, 0, 0),)
    assert len(transmissions_for(panel, NUMBERED_ROWS, lit)) == 8
    assert [each.data.hex(" ") for each in changes_for(panel, NUMBERED_ROWS, blank, lit)] == ["03 80 03 00 03 00 03 01"]
    # 64 bytes of eight clocks at 1 MHz.
    drawing = drawing_of(Face("f", "p", ()), panel)
    assert (drawing.data, drawing.bus) == (64, "")
    assert drawing.seconds == pytest.approx(512e-6)


def test_an_item_costs_every_number_that_it_touches() -> None:
    """Seven rows of four modules; by columns eight numbers, whatever is in them."""
    item = Label("AB", 0, 0)
    high = panel_of().font("text 7").height
    assert bytes_touched(panel_of(), item) == min(high, 8) * 8
    assert bytes_touched(panel_of(bytes=MODULE_COLUMNS), item) == 64


@pytest.mark.parametrize(
    ("told", "says"),
    [
        ({"bus": "two-wire"}, "use three of four wires"),
        ({"width": 36}, "36×8 pixels; chained modules have eight by eight each"),
        ({"offset": 2}, "chained modules have eight by eight each"),
    ],
)
def test_what_modules_cannot_be_is_said(told: dict[str, Any], says: str) -> None:
    with pytest.raises(ValueError, match=says):
        panel_of(**told)


@pytest.mark.parametrize("count", [2, 4, 5])
def test_modules_are_found_on_unknown_lines(count: int) -> None:
    """How many there are; which way round they lie is left to a person, and said."""
    dice = random.Random(count)
    panel = panel_of(width=8 * count)
    memory, told = panel.blank(), [(0.01 + 0.001 * at, each) for at, each in enumerate(start_for(panel, NUMBERED_ROWS))]
    for place in range(6):
        after = (tuple(dice.getrandbits(8 * count) for _ in range(8)),)
        told += [
            (0.05 + 0.1 * place + 0.001 * at, each)
            for at, each in enumerate(transmissions_for(panel, NUMBERED_ROWS, after))
        ]
        memory = after
    lines = {role: line for role, line in four_wire(told, 1e6, 0.8).items() if role != "command"}
    (display,) = [each for talk in recognise(lines) for each in known_displays(talk, lines)]
    assert (display.panel["width"], display.panel["height"], display.panel["bytes"]) == (8 * count, 8, MODULE_ROWS)
    assert display.why == (
        f"100 % of the transmissions have the same number for {count} modules; no byte says which way round they lie"
    )
    assert memory != panel.blank()
