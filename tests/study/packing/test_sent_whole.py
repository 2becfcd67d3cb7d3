"""Panels that are sent whole, lamps in a chain and paper with a third ink, by the C of a pack: what the desk shows."""

from __future__ import annotations

import random
import subprocess
from dataclasses import replace
from pathlib import Path

import pytest

from lesart.core.fit.field import Reading
from lesart.core.glass.bus.controller import Controller
from lesart.core.glass.bus.controllers import PAGES, PAPER, WINDOWS
from lesart.core.glass.bus.transmissions import transmissions_for
from lesart.core.glass.faces.face import Face, compose
from lesart.core.glass.faces.hue import AS_EVER, Hue
from lesart.core.glass.faces.items import AlarmMark
from lesart.core.glass.faces.shapes import Box
from lesart.core.glass.panels.colour_panel import ColourPanel
from lesart.core.glass.panels.ink_panel import InkPanel
from lesart.core.glass.panels.lamp_panel import LampPanel
from lesart.core.glass.panels.pixel_colours import PLACES
from lesart.core.pack.written.c_inks import Inked
from lesart.core.pack.written.c_lamps import Strung
from lesart.core.pack.written.c_panel import RUNS, PanelTables, panel_header, panel_source
from lesart.project.check import check_project
from lesart.study.packing.redraws import frame_bytes, redraw_of
from lesart.study.wires.panel_stream import PanelStream
from lesart.study.wires.stand_in import MOST_KEPT, StandInPanel
from lesart.study.wires.tracing import controller_of
from tests.core.pack.programs import CHECKED, PRINTS_SENT, STRICT
from tests.small import small_project

OF_LAMPS = {
    "a strip": "width = 30",
    "a mat": 'width = 16\nheight = 9\nto_and_fro = true\nsent = "red, green, blue"',
    "a long mat from below": 'width = 19\nheight = 8\nruns = "column by column"\nto_and_fro = true\n'
    'begins = "bottom right"\nbacklight = "30 %"',
    "with white lights": 'width = 5\nheight = 4\nbegins = "top right"\nsent = "green, red, blue, white"',
}
OF_INKS = {
    "paper with red": "width = 24\nheight = 12",
    "paper on its side": 'width = 21\nheight = 34\nturned = "a quarter"\nthird = "yellow"',
    "paper whose third ink is a 0": 'width = 12\nheight = 9\nturned = "half"\nthird_low = true',
}
PANELS = {
    **{name: f'kind = "lamps"\n{table}' for name, table in OF_LAMPS.items()},
    **{name: f'kind = "inks"\n{table}' for name, table in OF_INKS.items()},
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
)


def face_of(chance: random.Random, panel: ColourPanel) -> Face:
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
def test_every_pixel_is_sent_what_it_shows(kind: str, tmp_path: Path) -> None:
    """With alarms going on and off; and nothing where nothing has changed."""
    project = check_project(f"{small_project()}\n[panels.probe]\n{PANELS[kind]}\n")
    panel, chance = project.panels["probe"], random.Random(kind)
    assert isinstance(panel, ColourPanel)
    controller = controller_of(project, panel, "")
    face = face_of(chance, panel)
    redraw = redraw_of(panel, controller, [("face", face)])
    assert redraw is not None
    assert isinstance(redraw.way, Strung if isinstance(panel, LampPanel) else Inked)
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
    there = StandInPanel(PanelStream(panel, controller, None))
    sent = out.split("frame\n")[:-1]
    assert len(sent) == STEPS
    for said, memory in zip(sent, memories, strict=True):
        assert isinstance(panel, InkPanel) or said.count("\n") <= 1, "the line of lamps has no pauses"
        for line in said.splitlines():
            is_data, data = line.split(" ")
            there.take(bytes((int(is_data),)) + bytes.fromhex(data))
        assert there.shown() == panel.lit(memory)
    assert "" in sent


@pytest.mark.parametrize(("kind", "controller"), [("lamps", WINDOWS), ("inks", WINDOWS), ("inks", PAGES)])
def test_a_controller_without_what_it_takes_is_none_for_it(kind: str, controller: Controller) -> None:
    project = check_project(f'{small_project()}\n[panels.probe]\nkind = "{kind}"\n')
    assert redraw_of(project.panels["probe"], controller, []) is None


def test_bytes_beyond_what_is_kept_are_summed_up() -> None:
    """Of paper too: after hundreds of frames it shows the last one, and holds no more bytes than ever."""
    panel = check_project(f'{small_project()}\n[panels.probe]\nkind = "inks"\n').panels["probe"]
    assert isinstance(panel, InkPanel)
    controller = replace(PAPER, memories=2)
    there = StandInPanel(PanelStream(panel, controller, None))
    chance = random.Random(5)
    for _ in range(2 * MOST_KEPT // panel.frame_size):
        rows = tuple(chance.getrandbits(panel.columns) for _ in range(panel.rows))
        memory = (rows, rows[::-1], *panel.blank()[2:])
        for each in transmissions_for(panel, controller, memory):
            assert there.take(bytes((int(each.is_data),)) + each.data)
    assert there.shown() == panel.lit(memory)
    assert there.passed_by == 0
