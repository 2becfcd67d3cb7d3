"""Displays that cannot be as they are said: addresses, supplies, sizes and inks, and words that say nothing of them."""

from __future__ import annotations

import tomllib
from pathlib import Path

import pytest

from lesart.core.step import Step
from lesart.desk.desk import Desk
from tests.desk.test_displays import SAID
from tests.desk.test_recipes import opened


@pytest.mark.parametrize(
    ("line", "kind", "address"),
    [
        ("20x4 lcd at 0x3f", "two-wire character display", "0x3F"),
        ("a 16x2 lcd with a backpack, address 0x26", "two-wire character display", "0x26"),
        ("oled 128x64 at 0x3d", "two-wire pixel display", "0x3D"),
        ("4 digit display at 0x71", "digits with an address", "0x71"),
    ],
)
def test_the_address_of_a_display_is_that_of_its_part(line: str, kind: str, address: str, thermometer: Desk) -> None:
    """Two displays on one bus need it; one that its straps cannot set is refused."""
    before = set(thermometer.state.project.hookup.parts)
    thermometer.add(line)
    assert not thermometer.state.message_is_fault, thermometer.state.message
    parts = tomllib.loads(thermometer.state.history.text)["parts"]
    (new,) = (table for name, table in parts.items() if name not in before and table["kind"] == kind)
    assert new["address"] == address
    thermometer.undo()


@pytest.mark.parametrize(
    ("line", "says"),
    [
        ("oled 128x64 at 0x55", "0x55 is no address of a two-wire pixel display; it can have 0x3C and 0x3D."),
        (
            "240×320 colours on four wires at 0x3c",
            '"240×320 colours on four wires" is on no bus with addresses; 0x3C says nothing there.',
        ),
    ],
)
def test_an_address_that_it_cannot_have_is_refused(line: str, says: str, thermometer: Desk) -> None:
    text = thermometer.state.history.text
    thermometer.add(line)
    assert thermometer.state.message == says
    assert thermometer.state.history.text == text


@pytest.mark.parametrize("line", [line for line, *_ in SAID])
@pytest.mark.parametrize(
    "tail", [" upside up", ", 3 times", " (not used)", ", gain 7", " or 20", ", 47 ohm", ", minus 3"]
)
def test_no_word_of_a_display_is_dropped(line: str, tail: str, thermometer: Desk) -> None:
    text = thermometer.state.history.text
    thermometer.add(f"{line}{tail}")
    assert thermometer.state.message_is_fault, thermometer.state.message
    assert thermometer.state.history.text == text


@pytest.mark.parametrize(
    ("line", "says"),
    [
        ("16x2 lcd at 3.3 V", "The supply of a two-wire character display is 4.5 to 5.5 V, not 3.3 V."),
        ("oled 128x64 at 12 V", "The supply of a two-wire pixel display is 3 to 5.5 V, not 12 V."),
        (
            "4 digit display, 5 V",
            '"5 V" is not understood of 4 digits; say its size, how it is driven, its light or its address.',
        ),
        (
            "a 16x2 lcd upside down",
            '"upside down" is not understood of 16×2 characters; say its size, how it is driven, its light or its '
            "address.",
        ),
        (
            "oled 128x64 with fast pixels",
            '"fast" is not understood of 128×64 pixels; say its size, how it is driven, its light, its address or how '
            "it is turned.",
        ),
        (
            "2.9 inch e-paper, black white red yellow",
            '"2.9 inch e-paper, black white red yellow" has four inks; Lesart knows e-paper in black, white and one of '
            "red and yellow.",
        ),
        (
            "a 128x64 oled, parallel",
            '"a 128x64 oled, parallel": Lesart knows 128×64 pixels only on two wires or on four wires, not on four lines.',
        ),
        (
            "240x320 tft on two wires",
            '"240x320 tft on two wires": Lesart knows 240×320 colours only on four wires, not on two wires.',
        ),
        (
            "e-paper",
            '"e-paper" is not an item; say how large it is, like 2.9 inch e-paper; Lesart knows 200×200 e-paper, '
            "122×250 e-paper, 128×296 e-paper, 176×264 e-paper, 400×300 e-paper and 800×480 e-paper; red or yellow "
            "behind it is a third ink.",
        ),
    ],
)
def test_what_is_not_understood_of_a_display_is_named(line: str, says: str, thermometer: Desk) -> None:
    thermometer.add(line)
    assert (thermometer.state.message_is_fault, thermometer.state.message) == (True, says)


@pytest.mark.parametrize(
    "line", ["16x2 lcd, 5 V", "white 128x64 oled 3v3", "oled 128x64 from 3.3 V", "16x2 lcd at 0x26, 5 volts"]
)
def test_a_supply_that_it_takes_is_no_fault(line: str, thermometer: Desk) -> None:
    thermometer.add(line)
    assert not thermometer.state.message_is_fault, thermometer.state.message
    thermometer.undo()


@pytest.mark.parametrize(
    "line",
    [
        "a 16x16 matrix",
        "a 100x50 panel",
        "a 64x32 rgb panel",
        "a display",
        "a 3 1/2 digit display",
        "a 5 inch tft",
    ],
)
def test_what_there_is_not_is_told_with_what_there_is(line: str, tmp_path: Path) -> None:
    desk = opened(tmp_path, 512)
    desk.open_step(Step.GLASS)
    before = desk.state.history.text
    desk.add(line)
    assert desk.state.message.startswith(f'"{line}" is not a display Lesart knows; write one of 1 digit, ')
    assert desk.state.history.text == before
    desk.close()
