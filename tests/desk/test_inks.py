"""Paper with a third ink as people say it, with its part, and the trace of its lines."""

from __future__ import annotations

import json
import random
import tomllib
from collections.abc import Sequence
from pathlib import Path

import numpy as np
import pytest

from lesart.core.glass.bus.changes import start_for
from lesart.core.glass.bus.controllers import PAPER
from lesart.core.glass.bus.known_papers import papers
from lesart.core.glass.bus.transmissions import Transmission, transmissions_for
from lesart.core.glass.panels.catalogue import CATALOGUE, has_third_ink, is_paper
from lesart.core.glass.panels.ink_panel import InkPanel
from lesart.core.glass.panels.pixel_colours import PLACES
from lesart.core.glass.panels.pixel_panel import PixelPanel
from lesart.core.pace.edge_writer import four_wire
from lesart.core.raw.bus_bytes import Words
from lesart.core.step import Step
from lesart.desk.opening import open_desk
from lesart.project.captures.traces.vcd_write import vcd_text
from lesart.project.check import check_project
from lesart.project.new.make import make_project
from lesart.study.wires.traced_frames import frame_shown
from lesart.study.wires.tracing import BusSeen, seen
from tests.desk.test_recipes import opened
from tests.small import small_project

INK = "glass 2"
"""Its name: a new project has a panel "glass"."""


@pytest.mark.parametrize(
    ("line", "told"),
    [
        ("2.9 inch e-paper red black white", {"width": 128, "height": 296, "pitch": "0.228 mm"}),
        ('2.13" e-ink tri-color', {"width": 122, "height": 250}),
        ("4.2 inch epaper bwr", {"width": 400, "height": 300}),
        ("4.2 inch e-paper black/white/yellow", {"width": 400, "third": "yellow"}),
        ("three colour e-paper 200x200", {"width": 200, "height": 200}),
        ("128×296 e-paper red on four wires", {"width": 128}),
        ("296x128 e-paper red, black and white, landscape", {"width": 128, "turned": "a quarter"}),
        ("e-paper 296x128 with red", {"width": 128, "turned": "a quarter"}),
        ("212x104 e-paper yellow", {"width": 104, "turned": "a quarter", "third": "yellow"}),
        ("2.66 inch 296x152 e-paper red", {"width": 296, "height": 152, "pitch": "0.203 mm"}),
        ("7.5 inch e-paper red", {"width": 800, "height": 480}),
        ("red e-paper 2.9 inch, upside down", {"width": 128, "turned": "half"}),
        ("2.9 inch e-paper 3-colour", {"width": 128}),
    ],
)
def test_they_are_what_was_said(line: str, told: dict[str, object], tmp_path: Path) -> None:
    desk = opened(tmp_path, 512)
    desk.open_step(Step.GLASS)
    desk.add(line)
    assert not desk.state.message_is_fault, desk.state.message
    tables = tomllib.loads(desk.state.history.text)
    assert tables["panels"][INK]["kind"] == "inks"
    assert {key: tables["panels"][INK].get(key) for key in told} == told
    assert tables["parts"][INK]["kind"] == "e-paper display"
    assert tables["faces"][INK]["redraw"] == "0.02 Hz"
    assert not [note.text for note in desk.notes if "in 1 Wire" in note.text]
    desk.close()


@pytest.mark.parametrize("name", [each for each, table in CATALOGUE.items() if is_paper(table) and "800" not in each])
def test_a_trace_of_paper_becomes_its_panel_and_shows_what_it_showed(name: str, tmp_path: Path) -> None:
    """Of every size, in two inks and in three, as ``lesart new`` makes it."""
    table = CATALOGUE[name]
    lines = "\n".join(f"{key} = {json.dumps(value)}" for key, value in table.items())
    panel = check_project(f"{small_project()}\n[panels.probe]\n{lines}\n").panels["probe"]
    assert isinstance(panel, PixelPanel)
    chance = random.Random(name)
    lit, in_ink = (
        tuple(chance.getrandbits(panel.columns) & chance.getrandbits(panel.columns) for _ in range(panel.rows))
        for _ in range(2)
    )
    planes = [in_ink if PLACES.index("red") >> bit & 1 else (0,) * panel.rows for bit in range(panel.planes)]
    memory = (lit, *planes)
    told = [*start_for(panel, PAPER), *transmissions_for(panel, PAPER, memory)]
    path = tmp_path / "wires.vcd"
    path.write_text(vcd_text(four_wire([(0.02, each) for each in told], 4e6, 1.0), 1e-8, "model"))
    made = make_project(path, tmp_path / "made")
    assert any(f"a display of {panel.width}×{panel.height} pixels" in each for each in made.heard), made.heard
    desk = open_desk(tmp_path / "made")
    kind = "paper" if has_third_ink(table) else "pixels"
    same = {key: value for key, value in table.items() if key != "kind"}
    assert {key: desk.state.project.tables["panels"][kind].get(key) for key in same} == same
    found = seen(desk.state.project, desk.bench, kind)
    assert isinstance(found, BusSeen)
    shown = frame_shown(desk.state.project.panels[kind], found.obeyed, len(found.obeyed), found.end_s)
    assert shown == panel.lit(memory)
    desk.close()


def words_of(sent: Sequence[Transmission]) -> Words:
    sizes = [len(each.data) for each in sent]
    part, starts = np.repeat(np.arange(len(sent)), sizes), np.arange(len(sent), dtype=np.float64)
    data = np.frombuffer(b"".join(each.data for each in sent), np.uint8)
    return Words(part.astype(np.float64), data, np.repeat([each.is_data for each in sent], sizes), part, starts, starts)


@pytest.mark.parametrize(("second", "kind"), [(b"", "pixels"), (b"same", "pixels"), (b"\0", "inks")])
def test_a_second_memory_like_the_first_holds_the_picture_before(second: bytes, kind: str) -> None:
    """Nothing in it, the same, or nothing of the third ink yet."""
    panel = check_project(f'{small_project()}\n[panels.probe]\nkind = "inks"\nwidth = 16\nheight = 32\n').panels[
        "probe"
    ]
    assert isinstance(panel, InkPanel)
    sent = list(transmissions_for(panel, PAPER, panel.blank()))
    at = next(place for place, each in enumerate(sent) if each.data == b"\x26")
    if second:
        data = sent[9].data if second == b"same" else second * len(sent[9].data)
        sent[at + 1] = Transmission(data, True)
    else:
        del sent[at : at + 2]
    (found,) = papers(words_of(sent), {})
    assert (found.panel["kind"], found.panel["width"], found.panel["height"]) == (kind, 16, 32)
    assert found.sure == pytest.approx(0.99)


@pytest.mark.parametrize("part", ["the commands that show it", "a window", "what is written"])
def test_without_all_that_paper_takes_it_is_none(part: str) -> None:
    panel = check_project(f'{small_project()}\n[panels.probe]\nkind = "inks"\n').panels["probe"]
    sent = transmissions_for(panel, PAPER, panel.blank())
    codes = {"the commands that show it": (0x20,), "a window": (0x45,), "what is written": (0x24, 0x26)}[part]
    left = [each for each in sent if each.is_data or each.data[0] not in codes]
    assert list(papers(words_of(left), {})) == []
