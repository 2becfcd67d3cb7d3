"""Displays in a line, as the catalogue has them and as people say them: the panel and the part that they become."""

from __future__ import annotations

import tomllib
from pathlib import Path

import pytest

from lesart.core.glass.panels.catalogue import CATALOGUE
from lesart.core.glass.panels.pixel_panel import PixelPanel
from lesart.core.notes import FAULT
from lesart.core.step import Step
from lesart.desk.desk import Desk
from lesart.desk.entries.recipes.shown.displays import displays, ways_of
from lesart.desk.entries.recipes.shown.displays_aloud import OFINCHES, display_plainly
from lesart.desk.entries.recipes.shown.displays_told import told_aloud
from tests.desk.test_recipes import opened

SAID = [
    ("tft 240x320", "240×320 colours", "on four wires"),
    ("color display 128x160 spi", "128×160 colours", "on four wires"),
    ("led matrix 32x8", "8×8 modules, four", "in a chain"),
    ("oled 128x64 i2c", "128×64 pixels", "on two wires"),
    ("two 7 segment digits", "2 digits", "scanned"),
    ("8 digit 7-segment with spi driver", "8 digits", "on a numbered driver"),
    ("a 16x2 character display", "16×2 characters", "on two wires"),
    ("a 20x4 LCD over I2C", "20×4 characters", "on two wires"),
    ("a 20 by 4 lcd with a backpack", "20×4 characters", "on two wires"),
    ("a 16x2 lcd, parallel", "16×2 characters", "on four lines"),
    ("a 16x2 lcd in 4-bit mode", "16×2 characters", "on four lines"),
    ("a 20x2 character display on eight lines", "20×2 characters", "on eight lines"),
    ("16x2 lcd", "16×2 characters", "on two wires"),
    ("a 128x64 OLED", "128×64 pixels", "on two wires"),
    ("a 0.96 inch 128 x 64 oled, SPI", "128×64 pixels", "on four wires"),
    ("an 84x48 lcd", "84×48 pixels", "on two wires"),
    ("a 256x64 oled", "256×64 pixels", "on four wires"),
    ("a 240x240 colour TFT over SPI", "240×240 colours", "on four wires"),
    ("a 128x160 color display", "128×160 colours", "on four wires"),
    ("a 4 digit 7 segment display", "4 digits", "scanned"),
    ("a four-digit display on a two-line driver", "4 digits", "on a two-line driver"),
    ("a 4-digit clock display, i2c", "4 digits with colon", "on two wires"),
    ("an 8 digit display on shift registers", "8 digits", "on shift registers"),
    ("a single digit", "1 digit", "direct"),
    ("a display of 4 digits, 14 segments, i2c", "4 digits of 14 segments", "on two wires"),
    ("a 32x8 led matrix", "8×8 modules, four", "in a chain"),
    ("four chained 8x8 modules", "8×8 modules, four", "in a chain"),
    ("4 matrices 8x8", "8×8 modules, four", "in a chain"),
    ("led matrix 8x8", "8×8 module", "in a chain"),
    ("8x8 led matrix", "8×8 module", "in a chain"),
    ("a matrix of 16x8", "8×8 modules, two", "in a chain"),
    ("eight 8x8 modules", "8×8 modules, eight", "in a chain"),
    ("64x8 dot matrix", "8×8 modules, eight", "in a chain"),
    ("a 296x128 e-paper display", "128×296 e-paper", "on four wires"),
    ("epaper 200x200 spi", "200×200 e-paper", "on four wires"),
    ("e-ink 400x300", "400×300 e-paper", "on four wires"),
    ("20x4 i2c", "20×4 characters", "on two wires"),
    ("i2c 20x4", "20×4 characters", "on two wires"),
    ("16x2 on two wires 0x3f", "16×2 characters", "on two wires"),
    ("16x2 blue backlight", "16×2 characters", "on two wires"),
    ("128x64 spi", "128×64 pixels", "on four wires"),
    ("panel 16x2", "16×2 characters", "on two wires"),
    ("8x2 lcd, parallel", "8×2 characters", "on four lines"),
    ("8x32 led matrix", "8×8 modules, four", "in a chain"),
    ("4 digits 14 segments", "4 digits of 14 segments", "on a two-line driver"),
    ("four alphanumeric digits", "4 digits of 14 segments", "on a two-line driver"),
    ("8 digits, alphanumeric", "8 digits of 16 segments", "on a two-line driver"),
    ("4 digits clock", "4 digits with colon", "on a two-line driver"),
]


@pytest.mark.parametrize(("line", "kind", "how"), SAID)
def test_a_display_is_what_was_said(line: str, kind: str, how: str, tmp_path: Path) -> None:
    assert display_plainly(line) == f"{kind} {how}"
    desk = opened(tmp_path, 512)
    desk.open_step(Step.GLASS)
    before = set(desk.state.project.panels)
    desk.add(line)
    assert not desk.state.message_is_fault, desk.state.message
    assert f"{kind} {how}" in desk.state.message
    tables = tomllib.loads(desk.state.history.text)["panels"]
    name = next(iter(set(tables) - before), "glass")
    wanted = {**CATALOGUE[kind], **ways_of(kind)[how].table}
    assert {key: tables[name].get(key) for key in wanted} == wanted
    desk.close()


@pytest.mark.parametrize("line", displays())
def test_what_the_catalogue_calls_a_display_stays_as_it_is(line: str) -> None:
    assert display_plainly(line) == line
    assert display_plainly(f"a {line}") == f"a {line}"


@pytest.mark.parametrize("line", displays())
def test_what_describes_it_is_not_its_name(line: str, tmp_path: Path) -> None:
    """``128x64 pixels on two wires upside down`` had become a panel called "upside down"."""
    desk = opened(tmp_path, 512)
    desk.open_step(Step.GLASS)
    there, named = set(desk.state.project.panels), list[set[str]]()
    for said in (line, f"{line} white", f"{line} landing"):
        desk.add(said)
        assert not desk.state.message_is_fault, desk.state.message
        named.append(set(desk.state.project.panels) - there)
        desk.undo()
    desk.close()
    assert named[0] == named[1] != named[2] == {"landing"}


def test_what_it_is_anyway_may_be_its_name(tmp_path: Path) -> None:
    desk = opened(tmp_path, 512)
    desk.open_step(Step.GLASS)
    desk.add("128x64 pixels on two wires oled")
    assert list(desk.state.project.panels) == ["glass", "oled"]
    desk.close()


@pytest.mark.parametrize(
    "line",
    [
        "round 240x320 tft",
        "128x128 oled, grey",
        "200x200 e-paper red yellow",
        "900x200 tft",
        "16x16 matrix",
        "6 digits 14 segments",
        "4 digits scanned with 14 segments",
        "two digits, 16 segments",
    ],
)
def test_what_no_such_panel_has_is_not_dropped(line: str, tmp_path: Path) -> None:
    desk = opened(tmp_path, 512)
    desk.open_step(Step.GLASS)
    before = desk.state.history.text
    desk.add(line)
    assert desk.state.message_is_fault
    assert desk.state.history.text == before
    desk.close()


@pytest.mark.parametrize(
    ("line", "kind", "told"),
    [
        ("a blue 16x2 lcd", "16×2 characters", {"light": "blue light"}),
        ("a 16x2 lcd, grey", "16×2 characters", {"light": "grey"}),
        ("a yellow 20x4 lcd", "20×4 characters", {"light": "amber light"}),
        ("a blue 128x64 oled", "128×64 pixels", {"light": "blue"}),
        ("a 128x64 graphic lcd, blue", "128×64 pixels", {"light": "blue light"}),
        ("a white 128x64 graphic lcd", "128×64 pixels", {"light": "white"}),
        ("a red common anode 4 digit display", "4 digits", {"colour": "red", "common": "anode"}),
        ("a 4 digit display, common cathode", "4 digits", {"common": "cathode"}),
        ("a white 240x240 tft", "240×240 colours", {}),
        ("a 320x240 tft", "240×320 colours", {"turned": "a quarter"}),
        ("320x240", "240×320 colours", {"turned": "a quarter"}),
        ("a 64x128 oled", "128×64 pixels", {"turned": "a quarter"}),
        ("240x320 tft, landscape", "240×320 colours", {"turned": "a quarter"}),
        ("a 128x64 oled in portrait", "128×64 pixels", {"turned": "a quarter"}),
        ("a 320x240 tft, landscape", "240×320 colours", {"turned": "a quarter"}),
        ("0.96 inch oled", "128×64 pixels", {"width": 128, "height": 64}),
        ("0.96 oled", "128×64 pixels", {"width": 128, "height": 64}),
        ("oled 0.91", "128×32 pixels", {"width": 128, "height": 32}),
        ("2.4 tft", "240×320 colours", {"width": 240, "height": 320}),
        ("eink 2.13", "122×250 e-paper", {"width": 122, "height": 250}),
        ("a 1.8 inch tft", "128×160 colours", {"width": 128, "height": 160}),
        ("a yellow-green 16x2 lcd", "16×2 characters", {"light": "green light"}),
        ("16x2 lcd, white on blue", "16×2 characters", {"light": "blue light"}),
        ("16x2 lcd black on grey", "16×2 characters", {"light": "grey"}),
        ("white on black 128x64 oled", "128×64 pixels", {"light": "white"}),
        (
            "0.96 inch yellow blue oled",
            "128×64 pixels",
            {"light": "blue", "stripe": 16, "stripe_light": "amber", "pitch": "0.17 mm"},
        ),
        ("2.42 inch 128x64 oled", "128×64 pixels", {"pitch": "0.43 mm"}),
        ("a 0.56 inch 4 digit display", "4 digits", {"digit_height": "14.2 mm"}),
        ("oled 128x64 upside down", "128×64 pixels", {"turned": "half"}),
        ("oled 128x64 rotated 90", "128×64 pixels", {"turned": "a quarter"}),
        ("240x320 tft turned by 270°", "240×320 colours", {"turned": "three quarters"}),
        ("240x320 tft, spi at 27 MHz", "240×320 colours", {"clock": "27 MHz"}),
        ("see-through 128x64 oled, mirrored", "128×64 pixels", {"see_through": True, "mirror": True}),
        ("16x2 lcd, brightness 40 %", "16×2 characters", {"backlight": "40 %"}),
        ("2.13 inch e-paper 250x122", "122×250 e-paper", {"turned": "a quarter", "light": "paper", "keeps": True}),
        ("2.9 inch e-paper, black and white", "128×296 e-paper", {"change": "2 s", "quick_change": "0.3 s"}),
        ("7.5 inch e-paper", "800×480 e-paper", {"change": "5 s", "quick_change": "0 s"}),
        ("400x300 e-paper upside down", "400×300 e-paper", {"turned": "half"}),
        ("128x64 pixels upside down", "128×64 pixels", {"turned": "half"}),
        ("16x2 blue", "16×2 characters", {"light": "blue light"}),
        ("16x2 white on blue", "16×2 characters", {"light": "blue light"}),
        ("16x2 characters on two wires blue", "16×2 characters", {"light": "blue light"}),
        ("20x1 lcd", "16×2 characters", {"columns": 20, "rows": 1}),
        ("24x2", "16×2 characters", {"columns": 24, "rows": 2}),
        ("132x64 oled", "256×64 pixels", {"width": 132, "height": 64, "light": "white"}),
        ("0.49 inch oled", "64×32 pixels", {"offset": 32, "beyond": 32}),
        ("100x50 oled, blue", "128×64 pixels", {"width": 100, "height": 50, "light": "blue"}),
        ("1.9 inch tft", "170×320 colours", {"width": 170, "offset": 35, "inverts": True, "pitch": "0.133 mm"}),
        ("320x172 tft", "172×320 colours", {"turned": "a quarter", "offset": 34}),
        ("200x100 colour display", "240×320 colours", {"width": 200, "height": 100}),
        ("152x152 e-paper", "200×200 e-paper", {"width": 152, "height": 152, "keeps": True}),
        ("6 digit clock", "6 digits", {"colons": "2 4"}),
        ("240x240 round tft", "240×240 colours", {"disc": True, "pitch": "0.1 mm"}),
        ("1.28 inch round display", "240×240 colours", {"disc": True, "pitch": "0.135 mm"}),
        ("round 128x128", "128×128 colours", {"disc": True}),
    ],
)
def test_what_else_is_said_of_it_is_there(line: str, kind: str, told: dict[str, str], tmp_path: Path) -> None:
    """Its light, and what the segments of a digit share."""
    assert {**CATALOGUE[kind], **told_aloud(line, kind), **told} == {**CATALOGUE[kind], **told_aloud(line, kind)}
    desk = opened(tmp_path, 512)
    desk.open_step(Step.GLASS)
    before = set(desk.state.project.panels)
    desk.add(line)
    assert not desk.state.message_is_fault, desk.state.message
    tables = tomllib.loads(desk.state.history.text)["panels"]
    name = next(iter(set(tables) - before), "glass")
    assert {key: tables[name][key] for key in told} == told
    desk.close()


def test_a_display_lies_as_it_is_said_to() -> None:
    """One that lies that way anyway is not turned."""
    for line, kind in (("a 240x320 tft, portrait", "240×320 colours"), ("a 128x64 oled, landscape", "128×64 pixels")):
        assert "turned" not in told_aloud(line, kind)


@pytest.mark.parametrize("of", OFINCHES)
@pytest.mark.parametrize("behind", ["", " on four wires", " upside down"])
def test_a_size_in_inches_has_the_pixels_that_it_usually_has(of: str, behind: str, tmp_path: Path) -> None:
    """Of every kind and size: the same width and height as in the list, whichever way it lies."""
    desk = opened(tmp_path, 512)
    desk.open_step(Step.GLASS)
    for inches, pixels in OFINCHES[of].items():
        desk.add(f"{inches} inch {of}{behind}")
        assert not desk.state.message_is_fault, desk.state.message
        panel = list(desk.state.project.panels.values())[-1]
        assert sorted((panel.columns, panel.rows)) == sorted(map(int, pixels.split("x"))), inches
        desk.undo()
    desk.close()


@pytest.mark.parametrize("line", ["label panel", "text clock", "field counts", "logo 16x16 < logo.png", "bar counts"])
def test_items_are_no_displays(line: str) -> None:
    assert display_plainly(line) == line


@pytest.mark.parametrize("line", displays())
def test_a_display_in_a_line(line: str, thermometer: Desk) -> None:
    """A panel with the reading on it; a part of the hook-up, joined, where one is in the catalogue."""
    new = thermometer
    panels = set(new.state.project.panels)
    text = new.state.history.text
    new.add(line)
    assert not new.state.message_is_fault, new.state.message
    project = new.state.project
    name = next(iter(set(project.panels) - panels), "glass")
    assert any("counts" in face.channels for face in project.faces_on(name))
    panel = project.panels[name]
    is_narrow = panel.columns < (3 if panel.grid is None else 12)  # three digits of the smallest letters
    wrong = [note.text for note in new.notes if note.mark == FAULT]
    is_slow = isinstance(panel, PixelPanel) and panel.change.usual_s > 0  # what waits for it misses readings
    known = [*(["does not fit"] if is_narrow else []), *(["and was left out"] if is_slow else [])]
    new.undo()
    assert all(any(each in said for each in known) for said in wrong), wrong
    assert new.state.history.text == text


@pytest.mark.parametrize("line", ["four scanned digits", "4 digits scanned", "a four digits scanned tank"])
def test_four_scanned_digits_are_judged(line: str, tmp_path: Path) -> None:
    """By keys alone, in a project of one's own: Pace has its digits, and the lamps their resistors."""
    new = opened(tmp_path)
    new.open_step(Step.GLASS)
    new.add(line)
    name = "tank" if line.endswith("tank") else "digits"
    panel = new.state.project.panels[name]
    assert panel.scan is not None
    assert new.state.project.hookup.parts[name].kind.name == "four digits"
    assert {join.to.part for join in new.state.project.hookup.joins} | {
        join.pin.part for join in new.state.project.hookup.joins
    } >= {name, "board"}
    new.close()


def test_a_panel_of_another_size_is_none_that_is_there(tmp_path: Path) -> None:
    """A new project has 16×2 characters without a part: 20×1 are others, and 16×2 are those."""
    desk = opened(tmp_path, 512)
    desk.open_step(Step.GLASS)
    desk.add("20x1 lcd")
    tables = tomllib.loads(desk.state.history.text)["panels"]
    assert {name: (table["columns"], table["rows"]) for name, table in tables.items()} == {
        "glass": (16, 2),
        "glass 2": (20, 1),
    }
    desk.undo()
    desk.add("16x2 lcd")
    assert list(tomllib.loads(desk.state.history.text)["panels"]) == ["glass"]
    desk.close()


@pytest.mark.parametrize(("line", "how"), [("100x50 oled", "two wires"), ("256x128 oled", "four wires")])
def test_more_pixels_than_two_wires_carry_are_on_four(line: str, how: str, tmp_path: Path) -> None:
    desk = opened(tmp_path, 512)
    desk.open_step(Step.GLASS)
    desk.add(line)
    assert f"{line.split()[0].replace('x', '×')} pixels on {how}, " in desk.state.message
    desk.close()


@pytest.mark.parametrize("kind", [kind for kind in CATALOGUE if "×" in kind])
def test_a_size_of_the_catalogue_brings_its_drive_and_the_reading(kind: str, tmp_path: Path) -> None:
    """As people type it; with an empty face and no drive came what was typed in the catalogue's own words."""
    desk = opened(tmp_path, 501)
    desk.open_step(Step.GLASS)
    before = set(desk.state.project.panels)
    desk.add(kind.replace("×", "x"))
    assert not desk.state.message_is_fault, desk.state.message
    if kind == "16×2 characters":  # the panel that a new project has
        assert desk.state.message == "glass: 16×2 characters on two wires, with its part and the face that it has"
    else:
        (name,) = set(desk.state.project.panels) - before
        assert desk.state.message.startswith(f"added: {name}, {kind} ")
        (face,) = desk.state.project.faces_on(name)
        assert len(face.fields_of(desk.state.channel)) == 1
    desk.close()
