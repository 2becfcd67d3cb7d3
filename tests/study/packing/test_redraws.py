"""Panels redrawn by the C of a pack: whatever stands on them and whatever comes, the glass shows what the desk
would."""

from __future__ import annotations

import random
import subprocess
from dataclasses import replace
from pathlib import Path

import pytest

from lesart.core.glass.bus.controller import CHOICE, Controller
from lesart.core.glass.bus.controllers import (
    ADDRESSED_DIGITS,
    BANKS,
    CHAIN,
    CONTROLLERS,
    DIGITS,
    LETTERS,
    NUMBERED_ROWS,
    NUMBERS,
    PAGES,
    PAPER,
)
from lesart.core.glass.bus.transmissions import transmissions_for
from lesart.core.glass.panels.character_panel import CharacterPanel
from lesart.core.glass.panels.panel import Memory, Panel
from lesart.core.glass.panels.pixel_panel import PixelPanel
from lesart.core.pack.written.c_panel import RUNS, PanelTables, panel_header, panel_source
from lesart.project.check import check_project
from lesart.study.packing.redraws import frame_bytes, redraw_of
from lesart.study.wires.panel_stream import PanelStream
from lesart.study.wires.stand_in import StandInPanel
from lesart.study.wires.tracing import told_by_line
from tests.core.pack.programs import CHECKED, PRINTS_SENT, STRICT
from tests.small import small_project

WINDOWS = replace(
    PAGES,
    name="windows",
    order=0,
    commands=tuple(each for each in PAGES.commands if each.does not in ("page", "column low", "column high")),
)
"""A controller that has no pages to set, as many have."""
PANELS: dict[str, tuple[str, Controller, int | None]] = {
    "letters by an expander": ('kind = "characters"\ncolumns = 16\nrows = 2', LETTERS, 0x27),
    "letters by lines": (
        'kind = "characters"\ncolumns = 20\nrows = 4\nhookup = "4 lines"',
        told_by_line(LETTERS),
        None,
    ),
    "pages": ('kind = "pixels"\nwidth = 128\nheight = 64', PAGES, 0x3C),
    "windows": ('kind = "pixels"\nwidth = 128\nheight = 64', WINDOWS, 0x3C),
    "paper": (
        'kind = "pixels"\nwidth = 122\nheight = 250\nlight = "paper"\nbus = "four-wire"\n'
        'bytes = "rows of eight columns"\nlow_first = false\ninverted = true',
        PAPER,
        None,
    ),
    "banks": ('kind = "pixels"\nwidth = 84\nheight = 48\nbus = "four-wire"', BANKS, None),
    "a driver": (
        'kind = "segments"\ndigits = 6\ndrive = "two-line driver"\nchain = "right to left"\nbegins_by = "0xC0"',
        DIGITS,
        None,
    ),
    "a driver of wide digits": (
        'kind = "segments"\ndigits = 4\nsegments = "14"\ndrive = "two-line driver"\nbegins_by = "0xC0"',
        DIGITS,
        None,
    ),
    "a numbered driver": (
        'kind = "segments"\ndigits = 8\ndrive = "numbered driver"\nchain = "right to left"',
        NUMBERS,
        None,
    ),
    "a driver with an address": (
        'kind = "segments"\ndigits = 4\ndrive = "driver with an address"\nchain = "4 3 - 2 1"',
        ADDRESSED_DIGITS,
        0x70,
    ),
    "wide digits with an address": (
        'kind = "segments"\ndigits = 6\nsegments = "14"\ndrive = "driver with an address"',
        ADDRESSED_DIGITS,
        0x72,
    ),
    "chained modules": (
        'kind = "pixels"\nwidth = 32\nheight = 8\nbus = "four-wire"\nbytes = "rows of chained modules"\n'
        "from_right = true",
        NUMBERED_ROWS,
        None,
    ),
    "chained modules by columns": (
        'kind = "pixels"\nwidth = 16\nheight = 16\nbus = "four-wire"\nbytes = "columns of chained modules"\n'
        "low_first = false\nfrom_bottom = true",
        NUMBERED_ROWS,
        None,
    ),
    "registers": ('kind = "segments"\ndigits = 5\ndrive = "shift registers"\ncommon = "anode"', CHAIN, None),
}
FRAMES = 24
LATER = ("a driver of wide digits", "wide digits with an address", "chained modules by columns", "letters by lines")
"""Of a kind with another one that is tried each time."""
KINDS = [pytest.param(kind, marks=pytest.mark.long if kind in LATER else ()) for kind in PANELS]


def panel_of(table: str) -> Panel:
    return check_project(f"{small_project()}\n[panels.probe]\n{table}\n").panels["probe"]


def memories(panel: Panel, chance: random.Random) -> list[Memory]:
    """What stands there, changed in one cell, in some, in all, and not at all."""
    most = 255 if isinstance(panel, CharacterPanel) else 1 if isinstance(panel, PixelPanel) else 127
    rows = [list(row) for row in panel.blank()]
    found = [panel.blank()]
    cells = [(row, column) for row, each in enumerate(rows) for column in range(len(each))]
    for _ in range(FRAMES):
        for row, column in chance.sample(cells, min(chance.choice((0, 1, 2, 5, len(cells))), len(cells))):
            rows[row][column] = _code(panel, chance, most)
        found.append(tuple(tuple(row) for row in rows))
    return found


def _code(panel: Panel, chance: random.Random, most: int) -> int:
    if isinstance(panel, PixelPanel):
        return chance.getrandbits(len(panel.blank()) and panel.columns)
    return chance.randrange(32, 127) if isinstance(panel, CharacterPanel) else chance.randrange(most + 1)


MAIN = (
    """
#include <stdio.h>
static const uint8_t frames[{count}][{size}] = {{ {frames} }};
"""
    + PRINTS_SENT
    + """
int main(void)
{{
    static uint8_t shown[{size}];
    int i, j;
    for (j = 0; j < {size}; j++) shown[j] = frames[0][j];
    for (i = 1; i < {count}; i++) {{
        probe_changed(shown, frames[i], sent);
        for (j = 0; j < {size}; j++) if (shown[j] != frames[i][j]) return 1;
        printf("frame\\n");
    }}
    return 0;
}}
"""
)


@pytest.mark.parametrize("kind", KINDS)
def test_every_way_to_redraw_shows_every_frame(kind: str, tmp_path: Path) -> None:
    """And never sends more bytes of data than the whole frame has."""
    table, controller, address = PANELS[kind]
    panel = panel_of(table)
    redraw = redraw_of(panel, controller, ())
    assert redraw is not None
    wanted = memories(panel, random.Random(kind))
    frames = [frame_bytes(panel, each) for each in wanted]
    tables = PanelTables("probe", "A panel.", {}, {}, (), redraw=redraw)
    (tmp_path / "glass.h").write_text(f"#include <stdint.h>\n{RUNS}\n{panel_header(tables)}\n")
    (tmp_path / "glass.c").write_text(panel_source(tables, "glass.h"))
    arrays = ", ".join("{" + ", ".join(map(str, each)) + "}" for each in frames)
    main = MAIN.format(count=len(frames), size=redraw.size, frames=arrays)
    (tmp_path / "main.c").write_text(f'#include "glass.h"\n{main}')
    strict = ["gcc", *STRICT, *CHECKED, "-c", "glass.c"]
    subprocess.run(strict, cwd=tmp_path, check=True)
    subprocess.run(["gcc", *CHECKED, "main.c", "glass.o", "-o", "probe"], cwd=tmp_path, check=True)
    out = subprocess.run(["./probe"], cwd=tmp_path, check=True, capture_output=True, text=True).stdout
    there = StandInPanel(PanelStream(panel, controller, address))
    for each in (*PanelStream(panel, controller, address).start(), *transmissions_for(panel, controller, wanted[0])):
        _take(there, each.is_data, each.data)
    sent = out.split("frame\n")[:-1]
    assert len(sent) == FRAMES
    before = wanted[0]
    for said, memory in zip(sent, wanted[1:], strict=True):
        lines = [line.split(" ") for line in said.splitlines()]
        for is_data, data in lines:
            _take(there, is_data == "1", bytes.fromhex(data))
        assert there.shown() == panel.lit(memory)
        assert bool(lines) == (frame_bytes(panel, before) != frame_bytes(panel, memory))
        before = memory


def _take(there: StandInPanel, is_data: bool, data: bytes) -> None:
    head = there.stream.address << 1 if there.stream.address is not None else int(is_data)
    assert there.take(bytes((head,)) + data)


@pytest.mark.parametrize(
    "kind", [kind for kind in PANELS if 'kind = "pixels"' not in PANELS[kind][0] and kind not in LATER]
)
def test_cells_stand_where_the_desk_has_them(kind: str, tmp_path: Path) -> None:
    """Each cell put by itself gives the frame of the desk with that code in it."""
    table, controller, _ = PANELS[kind]
    panel = panel_of(table)
    redraw = redraw_of(panel, controller, ())
    assert redraw is not None
    tables = PanelTables("probe", "A panel.", {}, {}, (), redraw=redraw)
    (tmp_path / "glass.h").write_text(f"#include <stdint.h>\n{RUNS}\n{panel_header(tables)}\n")
    (tmp_path / "glass.c").write_text(panel_source(tables, "glass.h"))
    blank = panel.blank()
    code = 0x35
    puts = "".join(
        f"for (j = 0; j < {redraw.size}; j++) frame[j] = blank[j]; "
        f"probe_put(frame, {row}, {column}, {panel.sent_code(code)}u); shown();\n"
        for row in range(panel.rows)
        for column in range(panel.columns)
    )
    plain = ", ".join(map(str, frame_bytes(panel, blank)))
    (tmp_path / "main.c").write_text(
        f'#include "glass.h"\n#include <stdio.h>\nstatic uint8_t frame[{redraw.size}];\n'
        f"static const uint8_t blank[{redraw.size}] = {{ {plain} }};\nstatic void shown(void) {{ int i; "
        f'for (i = 0; i < {redraw.size}; i++) printf("%02X", frame[i]); printf("\\n"); }}\n'
        f"int main(void) {{ int j;\n{puts}return 0; }}\n"
    )
    subprocess.run(["gcc", *CHECKED, "main.c", "glass.c", "-o", "probe"], cwd=tmp_path, check=True)
    out = subprocess.run(["./probe"], cwd=tmp_path, check=True, capture_output=True, text=True).stdout.split()
    wanted = []
    for row in range(panel.rows):
        for column in range(panel.columns):
            cells = [list(each) for each in blank]
            cells[row][column] = code
            wanted.append(frame_bytes(panel, tuple(tuple(each) for each in cells)).hex().upper())
    assert out == wanted


def test_every_controller_that_is_known_is_tried() -> None:
    """But for those whose digits are scanned: they have no frame that stays."""
    tried = {controller.name for _, controller, _ in PANELS.values()}
    assert {name for name, each in CONTROLLERS.items() if each.told_by != CHOICE} <= tried
