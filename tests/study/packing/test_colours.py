"""Panels of colours drawn by the C of a pack: frames of a bit a pixel come out in the colours that the desk shows."""

from __future__ import annotations

import random
import subprocess
from dataclasses import replace
from pathlib import Path

import pytest

from lesart.core.fit.field import Reading
from lesart.core.glass.bus.controller import LINE, Command, Controller
from lesart.core.glass.bus.controllers import WINDOWS
from lesart.core.glass.bus.patterns import pattern
from lesart.core.glass.faces.face import Face, compose
from lesart.core.glass.faces.hue import AS_EVER, Hue
from lesart.core.glass.faces.items import AlarmMark, Label
from lesart.core.glass.panels.colour_panel import ColourPanel
from lesart.core.glass.panels.frame import ColourFrame
from lesart.core.glass.panels.pixel_colours import PLACES
from lesart.core.glass.panels.pixels import colours_of
from lesart.core.pack.written.c_colours import Coloured
from lesart.core.pack.written.c_panel import RUNS, PanelTables, panel_header, panel_source
from lesart.project.check import check_project
from lesart.study.packing.panels import panel_tables
from lesart.study.packing.redraws import frame_bytes, redraw_of
from lesart.study.wires.panel_stream import PanelStream
from lesart.study.wires.stand_in import MOST_KEPT, StandInPanel
from tests.core.pack.programs import CHECKED, PRINTS_SENT, STRICT
from tests.small import small_project

BYTES = Controller(
    "bytes",
    (Command(0x15, "columns from to", 0, 2), Command(0x75, "pages from to", 0, 2)),
    LINE,
    cell_bytes=2,
)
PANELS = {
    "plain": ("width = 50\nheight = 30", WINDOWS),
    "three bytes, turned": ('width = 30\nheight = 50\nturned = "a quarter"\ndepth = "18"\nground = "grey"', WINDOWS),
    "before its memory": ('width = 30\nheight = 50\nturned = "three quarters"\noffset = 300\nrow_offset = 1', WINDOWS),
    "windows of bytes": ('width = 50\nheight = 30\nturned = "half"\noffset = 3', BYTES),
}
STEPS = 12
MAIN = (
    """
#include <stdio.h>
static const uint8_t frames[{count}][{size}] = {{ {frames} }};
static const uint8_t alarms[{count}][{boxes}] = {{ {alarms} }};
"""
    + PRINTS_SENT
    + """
int main(void)
{{
    static uint8_t shown[{size}];
    int i, j;
    for (i = 0; i < {count}; i++) {{
        if (i == 0 || i % 3 == 0) {{
            probe_part(frames[i], face_boxes, {boxes}, alarms[i], 0, 0, {width}, {height}, sent);
            for (j = 0; j < {size}; j++) shown[j] = frames[i][j];
        }} else {{
            probe_changed(shown, frames[i], face_boxes, {boxes}, alarms[i], sent);
            for (j = 0; j < {boxes}; j++) {{
                const probe_box *box = face_boxes + j;
                if (alarms[i][j] != alarms[i - 1][j])
                    probe_part(frames[i], face_boxes, {boxes}, alarms[i], box->left, box->top, box->right, box->foot,
                        sent);
            }}
        }}
        printf("frame\\n");
    }}
    return 0;
}}
"""
)


def face_of(chance: random.Random) -> Face:
    """Labels and marks in colours of their own, some over others and some over the edge."""
    items: list[Label | AlarmMark] = []
    for place in range(5):
        at = chance.randrange(25), chance.randrange(40)
        hue = Hue(chance.choice(PLACES), chance.choice((AS_EVER, "red", "cyan")))
        items.append(
            AlarmMark(f"channel {place}", *at, "M!", hue=hue) if place % 2 else Label("HM", *at, hue=Hue(hue.colour))
        )
    return Face("face", "probe", tuple(items))


@pytest.mark.parametrize("kind", PANELS)
def test_every_frame_is_shown_in_its_colours(kind: str, tmp_path: Path) -> None:
    """As the desk composes it, alarms going on and off."""
    table, controller = PANELS[kind]
    project = check_project(f'{small_project()}\n[panels.probe]\nkind = "colours"\n{table}\n')
    panel, chance = project.panels["probe"], random.Random(kind)
    assert isinstance(panel, ColourPanel)
    controller = replace(controller, cell_bytes=panel.pixel_bytes)
    face = face_of(chance)
    redraw = redraw_of(panel, controller, [("face", face)])
    assert redraw is not None
    assert isinstance(redraw.way, Coloured)
    alarms, memories = [], []
    for _ in range(STEPS):
        on = {f"channel {place}" for place in range(5) if place % 2 and chance.random() < 0.5}
        readings = {f"channel {place}": Reading(0.0, alarms=("a",) * (f"channel {place}" in on)) for place in range(5)}
        memories.append(compose(face, panel, readings).memory)
        alarms.append([int(bool(set(item.reads) & on)) for item in face.items])
    tables = PanelTables("probe", "A panel.", {}, {}, (), redraw=redraw)
    (tmp_path / "glass.h").write_text(f"#include <stdint.h>\n{RUNS}\n{panel_header(tables)}\n")
    (tmp_path / "glass.c").write_text(panel_source(tables, "glass.h"))
    frames = [frame_bytes(panel, each) for each in memories]
    main = MAIN.format(
        count=STEPS,
        size=redraw.size,
        boxes=len(face.items),
        width=panel.width,
        height=panel.height,
        frames=", ".join("{" + ", ".join(map(str, each)) + "}" for each in frames),
        alarms=", ".join("{" + ", ".join(map(str, each)) + "}" for each in alarms),
    )
    (tmp_path / "main.c").write_text(f'#include "glass.h"\n{main}')
    subprocess.run(["gcc", *STRICT, *CHECKED, "-c", "glass.c"], cwd=tmp_path, check=True)
    subprocess.run(["gcc", *CHECKED, "main.c", "glass.o", "-o", "probe"], cwd=tmp_path, check=True)
    out = subprocess.run(["./probe"], cwd=tmp_path, check=True, capture_output=True, text=True).stdout
    there = StandInPanel(PanelStream(panel, controller, None))
    sent = out.split("frame\n")[:-1]
    assert len(sent) == STEPS
    for said, memory in zip(sent, memories, strict=True):
        for line in said.splitlines():
            is_data, data = line.split(" ")
            there.take(bytes((int(is_data),)) + bytes.fromhex(data))
        assert there.shown() == panel.lit(memory)


def test_its_start_is_cut_where_it_has_to_rest() -> None:
    """Behind the reset and behind the command that wakes it; no whole picture is among its tables."""
    own = 'start = "01; 11; 36 60; 29"'
    project = check_project(f'{small_project()}\n[panels.own]\nkind = "colours"\n{own}\n')
    tables = {each.says.split(":")[0]: each for each in panel_tables(project)}

    def runs(name: str) -> list[tuple[str, str]]:
        return [(says, b"".join(part.data for part in parts).hex()) for says, parts in tables[name].runs.values()]

    assert runs("lid") == [
        ("sets it up, 1 of 2; then it rests for 120 ms", "11"),
        ("sets it up, 2 of 2", "3a55132029"),
    ]
    assert runs("own") == [
        ("sets it up, 1 of 3; then it rests for 120 ms", "01"),
        ("sets it up, 2 of 3; then it rests for 120 ms", "11"),
        ("sets it up, 3 of 3", "366029"),
    ]


def test_a_stand_in_goes_on_for_as_long_as_pictures_come() -> None:
    """Many more bytes than it keeps, with a setting and a strip beside the glass from long before."""
    project = check_project(f'{small_project()}\n[panels.probe]\nkind = "colours"\nwidth = 240\nheight = 320\n')
    panel = project.panels["probe"]
    assert isinstance(panel, ColourPanel)
    stream = PanelStream(panel, WINDOWS, None)
    there, sent = StandInPanel(stream), 0
    memories = [pattern(panel, name, 0) for name in ("all red", "checkerboard", "all blue", "frame and corner")]
    there.take(b"\x00\x21")
    for memory in memories * 10:
        stream, found = stream.after(memory)
        for each in found:
            sent += len(each.data)
            assert there.take(bytes((int(each.is_data),)) + each.data)
    assert sent > 2 * MOST_KEPT
    assert there.passed_by == 0
    negative = there.shown()
    assert isinstance(negative, ColourFrame)
    assert (colours_of(negative) == 255 - colours_of(panel.lit(memories[-1]))).all()
    there.take(b"\x00\x20")
    assert there.shown() == panel.lit(memories[-1])
