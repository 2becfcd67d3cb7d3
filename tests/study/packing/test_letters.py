"""Numbers drawn into frames by the C of a pack: the same pixels that the desk composes, however a panel is built in."""

from __future__ import annotations

import random
import re
import subprocess
from collections.abc import Mapping
from pathlib import Path

import pytest

from lesart.core.block import Mark
from lesart.core.fit.field import Reading
from lesart.core.fit.fill import fill
from lesart.core.glass.faces.face import Face, compose
from lesart.core.glass.faces.items import AlarmMark, FieldItem
from lesart.core.glass.panels.panel import Panel
from lesart.core.glass.panels.pixel_panel import PixelPanel
from lesart.core.pack.field_forms.wanted import most_code
from lesart.core.pack.written.c_panel import RUNS, PanelTables, panel_header, panel_source
from lesart.project.check import check_project
from lesart.project.folder.store import FILE
from lesart.project.model import Project
from lesart.study.bench import Bench
from lesart.study.packing.letters import letters_of
from lesart.study.packing.made import packed
from lesart.study.packing.redraws import frame_bytes
from lesart.study.packing.wanted import field_wanted
from lesart.study.wires.panel_stream import stream_of
from lesart.study.wires.stand_in import StandInPanel
from tests.core.pack.programs import CHECKED, STRICT
from tests.small import make_small, small_project

PANELS = {
    "pages": 'kind = "pixels"\nwidth = 128\nheight = 64',
    "rows, turned": 'kind = "pixels"\nwidth = 64\nheight = 132\nturned = "a quarter"\nbytes = "rows of eight columns"\n'
    "low_first = false",
    "every order": 'kind = "pixels"\nwidth = 129\nheight = 63\nmirror = true\nlow_first = false\nfrom_bottom = true\n'
    "from_right = true\ninverted = true\noffset = 2\nbeyond = 3",
    "mirrored and turned": 'kind = "pixels"\nwidth = 66\nheight = 130\nturned = "three quarters"\nmirror = true\n'
    'bytes = "rows of eight columns"\nfrom_right = true\noffset = 5',
    "modules": 'kind = "pixels"\nwidth = 136\nheight = 72\nbus = "four-wire"\nbytes = "rows of chained modules"\n'
    "low_first = false\nfrom_right = true",
    "modules by columns": 'kind = "pixels"\nwidth = 136\nheight = 72\nbus = "four-wire"\nmirror = true\n'
    'turned = "half"\nbytes = "columns of chained modules"\nfrom_bottom = true\ninverted = true',
    "colours": 'kind = "colours"\nwidth = 130\nheight = 70\nturned = "half"',
}
FACES = """
[[faces.main.items]]
kind = "label"
text = "m"
row = 2
column = 60

[[faces.main.items]]
kind = "field"
channel = "in °C"
row = 2
column = 1
width = 7
decimals = 1
unit_text = "°C"

[[faces.main.items]]
kind = "field"
channel = "in kg"
row = 14
column = 0
font = "text 14"
width = 6
align = "left"
overflow = "WMWM"
stale = "old"
invalid = "?!"

[[faces.main.items]]
kind = "field"
channel = "in Ω"
row = 30
column = 3
font = "text 7 fixed"
width = 9
align = "centre"
unit_text = " Ω"
sign = "always"

[[faces.main.items]]
kind = "field"
channel = "in Pa"
row = 40
column = 40
font = "numerals 21"
width = 5

[[faces.main.items]]
kind = "field"
channel = "in hPa"
row = 2
column = 80
font = "tiny 4"
width = 9
shows = "word"
words = "low < 40 hPa; half full < 60 hPa; MMMM"

[[faces.main.items]]
kind = "alarm"
channel = "in kg"
row = 50
column = 2
text = "HI µ"
"""
BARS = """
[[faces.main.items]]
kind = "bar"
channel = "in kg"
row = 55
column = 60
width = 41
tall = 7

[[faces.main.items]]
kind = "bar"
channel = "in Ω"
row = 50
column = 60
width = 30
tall = 4
lowest = "20 Ω"
highest = "90 Ω"

[[faces.main.items]]
kind = "bar"
channel = "in V"
row = 44
column = 60
width = 9

[[faces.main.items]]
kind = "bar"
channel = "in kg"
row = 62
column = 3
width = 52
tall = 2
"""
"""The third one is of a channel that never has a reading; the last one is too low for an outline."""
STEPS = 25
LONGER = [pytest.param(kind, marks=pytest.mark.long) for kind in ("pages", "every order", "modules by columns")]
MAIN = """
#include <stdio.h>
static uint8_t frame[{size}];
static const uint8_t before[{size}] = {{ {before} }};
{cells}
int main(void)
{{
    int i, j;
    for (i = 0; i < {steps}; i++) {{
        if (i == 0 || {bare}) for (j = 0; j < {size}; j++) frame[j] = before[j];
{calls}
        for (j = 0; j < {size}; j++) printf("%02X", frame[j]);
        printf("\\n");
    }}
    return 0;
}}
"""


def project_of(kind: str, writes: str) -> Project:
    face = f'[panels.probe]\n{PANELS[kind]}\n\n[faces.main]\npanel = "probe"\nwrites = "{writes}"\n{FACES}'
    return check_project(f"{small_project()}\n{face}")


def readings_of(chance: random.Random, face: Face) -> Mapping[str, Reading]:
    """Good ones of every length, bad ones, old ones and none; alarms on and off."""

    def one() -> Reading:
        value = chance.choice((0.0, 1.0, -1.0)) * 10 ** chance.uniform(-2, 6)
        age_s = 1e6 if chance.random() < 0.1 else 0.0
        mark = int(Mark.MISSING) if chance.random() < 0.1 else 0
        return Reading(value, age_s=age_s, mark=mark, alarms=("high",) * chance.randrange(2))

    return {name: one() for name in face.channels}


def codes_of(panel: Panel, face: Face, item: FieldItem, reading: Reading) -> list[int]:
    wanted = field_wanted(panel, "x", "x", face, item)
    return [wanted.code_of(cell) for cell in fill(item.field, reading, joined=panel.joined).cells]


@pytest.mark.parametrize("kind", PANELS)
@pytest.mark.parametrize("writes", ["over, padded", pytest.param("over, as it comes", marks=pytest.mark.long)])
def test_every_reading_is_drawn_as_the_desk_draws_it(kind: str, writes: str, tmp_path: Path) -> None:
    """Pixel by pixel, over what stood there; where it is written as it comes, on a frame that was cleared."""
    project, chance = project_of(kind, writes), random.Random(kind)
    panel, face = project.panels["probe"], project.faces["main"]
    assert isinstance(panel, PixelPanel)
    letters = letters_of(project, panel, "glass_probe", {"main": "main"})
    tables = PanelTables("glass_probe", "A panel.", {}, {}, (), letters=letters)
    is_bare = writes != "over, padded"
    given = [readings_of(chance, face) for _ in range(STEPS)]
    fields = [item for item in face.items if isinstance(item, FieldItem)]
    memory, wanted = compose(face, panel, {}).memory, []
    blank = compose(Face("none", "probe", face.items[:1]), panel, {}).memory
    for readings in given:
        memory = compose(face, panel, readings, blank if is_bare else memory).memory
        wanted.append(frame_bytes(panel, memory))
    before = frame_bytes(panel, blank if is_bare else compose(face, panel, {}).memory)
    cells, calls = [], []
    for item, drawn in zip(fields, letters.fields, strict=True):
        bits = 8 if most_code(field_wanted(panel, "x", "x", face, item)) <= 0xFF else 16
        rows = [codes_of(panel, face, item, readings[item.channel]) for readings in given]
        held = ", ".join("{" + ", ".join(map(str, row)) + "}" for row in rows)
        cells.append(f"static const uint{bits}_t {drawn.name}_cells[{STEPS}][{item.field.width}] = {{ {held} }};")
        calls.append(f"        {drawn.name}(frame, {drawn.name}_cells[i]);")
    marks = [item for item in face.items if isinstance(item, AlarmMark)]
    for mark, shown in zip(marks, letters.marks, strict=True):
        on = ", ".join(str(len(readings[mark.channel].alarms)) for readings in given)
        cells.append(f"static const uint8_t {shown.name}_on[{STEPS}] = {{ {on} }};")
        calls.append(f"        {shown.name}(frame, {shown.name}_on[i]);")
    (tmp_path / "glass.h").write_text(f"#include <stdint.h>\n{RUNS}\n{panel_header(tables)}\n")
    (tmp_path / "glass.c").write_text(panel_source(tables, "glass.h"))
    main = MAIN.format(
        size=len(before),
        before=", ".join(map(str, before)),
        cells="\n".join(cells),
        calls="\n".join(calls),
        steps=STEPS,
        bare=int(is_bare),
    )
    (tmp_path / "main.c").write_text(f'#include "glass.h"\n{main}')
    subprocess.run(["gcc", *STRICT, *CHECKED, "-c", "glass.c"], cwd=tmp_path, check=True)
    subprocess.run(["gcc", *CHECKED, "main.c", "glass.o", "-o", "probe"], cwd=tmp_path, check=True)
    out = subprocess.run(["./probe"], cwd=tmp_path, check=True, capture_output=True, text=True).stdout
    assert [bytes.fromhex(line) for line in out.split()] == wanted
    assert len(set(wanted)) > STEPS // 2


RUN = """
#include <stdio.h>
void send(uint8_t is_data, const uint8_t *bytes, uint16_t count)
{{
    uint16_t i;
    printf("%d ", is_data);
    for (i = 0; i < count; i++) printf("%02X", bytes[i]);
    printf("\\n");
}}
void wait_ms(uint16_t ms)
{{
    if (ms != 120) printf("bad");
}}
int main(void)
{{
    begin();
{steps}
    draw(1000);
    return 0;
}}
"""


@pytest.mark.parametrize("kind", ["colours", *LONGER])
def test_the_program_of_the_readme_shows_the_face(kind: str, tmp_path: Path) -> None:
    """As it stands there, with a raw number of each channel: what it sends lights the glass as the desk has it."""
    folder = make_small(tmp_path)
    face = f'[panels.probe]\n{PANELS[kind]}\n\n[faces.main]\npanel = "probe"\n{FACES}{BARS}'
    raws = {"in V": None, "in °C": 42, "in kg": 7, "in Ω": 99, "in Pa": 0, "in hPa": 55}
    others = re.compile(rf'\[channels\."(?!(?:{"|".join(raws)})")[^\[]*')
    (folder / FILE).write_text(f"{others.sub('', small_project())}\n{face}")
    project = check_project((folder / FILE).read_text())
    assert list(project.channels) == sorted(raws, key=list(project.channels).index)
    pack = packed(project, Bench(folder), project.pack)
    assert not pack.left_out
    (program,) = re.findall(r"### probe: .*?```c\n(.*?)```", pack.files["README.md"], re.DOTALL)
    for name, text in pack.files.items():
        if name.endswith((".c", ".h")) and name != "test_pack.c":
            (tmp_path / name).write_text(text)
    steps = []
    for each in pack.channels:
        assert each.form.wanted.raw.step == 1
        raw, own = raws[each.form.wanted.title], each.form.wanted.name
        steps += [f"    {own}_step(&{own}, {raw}, 0, 999);"] if raw is not None else []
    (tmp_path / "main.c").write_text(program + RUN.format(steps="\n".join(steps)))
    sources = [name for name in pack.files if name.endswith(".c") and name != "test_pack.c"]
    subprocess.run(["gcc", "-std=c99", *CHECKED, "main.c", *sources, "-o", "probe"], cwd=tmp_path, check=True)
    out = subprocess.run(["./probe"], cwd=tmp_path, check=True, capture_output=True, text=True).stdout
    stream = stream_of(project, "probe")
    there = StandInPanel(stream)
    for line in out.splitlines():
        is_data, data = line.split(" ")
        head = stream.address << 1 if stream.address is not None else int(is_data)
        there.take(bytes((head,)) + bytes.fromhex(data))
    readings = {name: Reading(float(raw)) for name, raw in raws.items() if raw is not None}
    panel = project.panels["probe"]
    assert there.shown() == panel.lit(compose(project.faces["main"], panel, readings).memory)
