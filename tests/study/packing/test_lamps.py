"""Lamps in a chain drawn by the C of a pack: each is sent what the desk shows there, as its line runs."""

from __future__ import annotations

import random
import subprocess
from dataclasses import replace
from pathlib import Path

import pytest

from lesart.core.fit.field import Reading
from lesart.core.glass.bus.controllers import CHAIN, WINDOWS
from lesart.core.glass.faces.face import Face, compose
from lesart.core.glass.faces.hue import AS_EVER, Hue
from lesart.core.glass.faces.items import AlarmMark
from lesart.core.glass.faces.shapes import Box
from lesart.core.glass.panels.lamp_panel import LampPanel
from lesart.core.glass.panels.pixel_colours import PLACES
from lesart.core.pack.written.c_lamps import Strung
from lesart.core.pack.written.c_panel import RUNS, PanelTables, panel_header, panel_source
from lesart.project.check import check_project
from lesart.study.packing.redraws import frame_bytes, redraw_of
from lesart.study.wires.panel_stream import PanelStream
from lesart.study.wires.stand_in import StandInPanel
from tests.core.pack.programs import CHECKED, STRICT
from tests.small import small_project

PANELS = {
    "a strip": "width = 30",
    "a mat": 'width = 16\nheight = 9\nto_and_fro = true\nsent = "red, green, blue"',
    "a long mat from below": 'width = 19\nheight = 8\nruns = "column by column"\nto_and_fro = true\n'
    'begins = "bottom right"\nbacklight = "30 %"',
    "with white lights": 'width = 5\nheight = 4\nbegins = "top right"\nsent = "green, red, blue, white"',
}
STEPS = 12
MAIN = """
#include <stdio.h>
static const uint8_t frames[{count}][{size}] = {{ {frames} }};
static const uint8_t alarms[{count}][{boxes}] = {{ {alarms} }};
static void sent(uint8_t is_data, const uint8_t *bytes, uint16_t count)
{{
    uint16_t i;
    printf("%d ", is_data);
    for (i = 0; i < count; i++) printf("%02X", bytes[i]);
    printf("\\n");
}}
int main(void)
{{
    static uint8_t shown[{size}];
    int i, j;
    for (i = 0; i < {count}; i++) {{
        int same = i > 0;
        for (j = 0; j < {boxes} && same; j++) same = alarms[i][j] == alarms[i - 1][j];
        if (same) {{
            probe_changed(shown, frames[i], face_boxes, {boxes}, alarms[i], sent);
        }} else {{
            probe_all(frames[i], face_boxes, {boxes}, alarms[i], sent);
            for (j = 0; j < {size}; j++) shown[j] = frames[i][j];
        }}
        for (j = 0; j < {size}; j++) if (shown[j] != frames[i][j]) return 1;
        printf("frame\\n");
    }}
    return 0;
}}
"""


def face_of(chance: random.Random, panel: LampPanel) -> Face:
    """Marks and lines in colours of their own, one over another."""
    items: list[Box | AlarmMark] = []
    for place in range(5):
        row, column = chance.randrange(panel.height), chance.randrange(panel.width)
        hue = Hue(chance.choice(PLACES), chance.choice((AS_EVER, "red", "cyan")))
        if place % 2:
            items.append(AlarmMark(f"channel {place}", row, column, "M!", hue=hue, font="tiny 4"))
        else:
            items.append(Box(row=row, column=column, width=4, tall=1, filled=True, hue=Hue(hue.colour)))
    return Face("face", "probe", tuple(items))


@pytest.mark.parametrize("kind", PANELS)
def test_every_lamp_is_sent_what_it_shows(kind: str, tmp_path: Path) -> None:
    """In one run, with alarms going on and off; and nothing where nothing has changed."""
    project = check_project(f'{small_project()}\n[panels.probe]\nkind = "lamps"\n{PANELS[kind]}\n')
    panel, chance = project.panels["probe"], random.Random(kind)
    assert isinstance(panel, LampPanel)
    face = face_of(chance, panel)
    redraw = redraw_of(panel, CHAIN, [("face", face)])
    assert redraw is not None
    assert isinstance(redraw.way, Strung)
    alarms, memories, on = [], [], set[str]()
    for step in range(STEPS):
        if step % 3:
            on = {f"channel {place}" for place in (1, 3) if chance.random() < 0.5}
        readings = {f"channel {place}": Reading(0.0, alarms=("a",) * (f"channel {place}" in on)) for place in range(5)}
        memories.append(compose(face, panel, readings).memory)
        alarms.append([int(bool(set(item.reads) & on)) for item in face.items])
    tables = PanelTables("probe", "A panel.", {}, {}, (), redraw=redraw)
    (tmp_path / "glass.h").write_text(f"#include <stdint.h>\n{RUNS}\n{panel_header(tables)}\n")
    (tmp_path / "glass.c").write_text(panel_source(tables, "glass.h"))
    main = MAIN.format(
        count=STEPS,
        size=redraw.size,
        boxes=len(face.items),
        frames=", ".join("{" + ", ".join(map(str, frame_bytes(panel, each))) + "}" for each in memories),
        alarms=", ".join("{" + ", ".join(map(str, each)) + "}" for each in alarms),
    )
    (tmp_path / "main.c").write_text(f'#include "glass.h"\n{main}')
    subprocess.run(["gcc", *STRICT, *CHECKED, "-c", "glass.c"], cwd=tmp_path, check=True)
    subprocess.run(["gcc", *CHECKED, "main.c", "glass.o", "-o", "probe"], cwd=tmp_path, check=True)
    out = subprocess.run(["./probe"], cwd=tmp_path, check=True, capture_output=True, text=True).stdout
    there = StandInPanel(PanelStream(panel, replace(CHAIN, cell_bytes=panel.pixel_bytes), None))
    sent = out.split("frame\n")[:-1]
    assert len(sent) == STEPS
    for said, memory in zip(sent, memories, strict=True):
        assert said.count("\n") <= 1
        for line in said.splitlines():
            is_data, data = line.split(" ")
            there.take(bytes((int(is_data),)) + bytes.fromhex(data))
        assert there.shown() == panel.lit(memory)
    assert "" in sent


def test_a_controller_of_commands_is_none_for_lamps() -> None:
    project = check_project(f'{small_project()}\n[panels.probe]\nkind = "lamps"\n')
    assert redraw_of(project.panels["probe"], WINDOWS, []) is None
