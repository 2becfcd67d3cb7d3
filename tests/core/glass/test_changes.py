"""Start bytes and changes: put through the stand-in panel they give the frame, of every panel and controller."""

from __future__ import annotations

import itertools
import random
from collections.abc import Sequence
from dataclasses import replace

import pytest

from lesart.core.fit.cells import Cell
from lesart.core.glass.bus.changes import changes_for, runs, start_for, window_of
from lesart.core.glass.bus.controller import Command, Controller
from lesart.core.glass.bus.controllers import BANKS, CHAIN, DIGITS, LETTERS, PAGES
from lesart.core.glass.bus.transmissions import Transmission
from lesart.core.glass.panels.character_panel import CharacterPanel, usual_addresses
from lesart.core.glass.panels.packing import Packing
from lesart.core.glass.panels.panel import Memory, Panel
from lesart.core.glass.panels.pixel_panel import PixelPanel
from lesart.core.glass.panels.segment_panel import SegmentPanel
from lesart.core.glass.panels.segment_wiring import SegmentWiring, usual_order
from lesart.core.glass.panels.start_bytes import read_start
from lesart.study.wires.panel_stream import PanelStream
from lesart.study.wires.stand_in import StandInPanel
from lesart.study.wires.tracing import told_by_line

WINDOWS = Controller(
    "windows",
    (Command(0x2A, "columns from to", 0, 2), Command(0x2B, "pages from to", 0, 2), Command(0xAF, "light")),
)
LID = PixelPanel("lid", 128, 64, "white")
DOOR = CharacterPanel("door", 16, 2, "grey", addresses=usual_addresses(16, 2))
STAND = SegmentPanel("stand", 4, True, "red", None, drive="two-line driver")
WIDE = SegmentPanel(
    "wide",
    6,
    True,
    "red",
    None,
    segments="16",
    drive="shift registers",
    wiring=SegmentWiring("16", tuple(usual_order("16").split()), (5, 4, 3, 2, 1, 0), 0),
)
CASES: dict[str, tuple[Panel, Controller, int | None]] = {
    "pages": (LID, PAGES, 0x3C),
    "pages beside": (replace(LID, width=64, height=48, packing=Packing(offset=32, beyond=32)), PAGES, 0x3D),
    "turned": (replace(LID, turns=1, mirror=True, packing=Packing(low_first=False, inverted=True)), PAGES, 0x3C),
    "windows": (LID, WINDOWS, 0x3C),
    "banks": (replace(LID, width=84, height=48, light="grey"), BANKS, None),
    "letters": (replace(DOOR, glyphs={"♥": (0, 10, 31, 31, 14, 4, 0, 0)}), LETTERS, 0x27),
    "letters by lines": (replace(DOOR, hookup="8 lines"), told_by_line(LETTERS), None),
    "four rows": (replace(DOOR, columns=20, rows=4, addresses=usual_addresses(20, 4)), LETTERS, 0x27),
    "digits": (STAND, DIGITS, None),
    "chain": (WIDE, CHAIN, None),
}


def memories(panel: Panel, count: int, seed: int) -> list[Memory]:
    """Some that a face could write, each a little different from the one before."""
    dice = random.Random(seed)
    memory = panel.blank()
    found = []
    for _ in range(count):
        rows = [list(row) for row in memory]
        for _ in range(dice.randrange(4)):
            row = dice.randrange(panel.rows) if panel.grid is None else 0
            if panel.grid is not None:
                at = dice.randrange(panel.rows)
                rows[0][at] = dice.getrandbits(panel.columns)
            elif isinstance(panel, CharacterPanel):
                rows[row][dice.randrange(panel.columns)] = panel.code(Cell(dice.choice("hive 2.5kg"))) or 0x20
            else:
                rows[0][dice.randrange(panel.columns)] = dice.getrandbits(8)
        memory = tuple(tuple(row) for row in rows)
        found.append(memory)
    return found


@pytest.mark.parametrize("name", CASES)
@pytest.mark.parametrize("seed", [1, 2])
def test_the_stand_in_shows_the_face(name: str, seed: int) -> None:
    """After each change its glass shows what the panel shows of that memory; what is the same sends nothing."""
    panel, controller, address = CASES[name]
    stream = PanelStream(panel, controller, address)
    there = StandInPanel(stream)
    for each in stream.start():
        assert there.take(bytes((stream.head(each),)) + each.data)
    whole = 0
    for place, memory in enumerate(memories(panel, 12, seed)):
        stream, sent = stream.after(memory)
        size = sum(len(each.data) for each in sent)
        whole = whole or size
        if place:
            assert size <= whole
        for each in sent:
            assert there.take(bytes((stream.head(each),)) + each.data)
        assert there.shown() == panel.lit(memory), place
        assert stream.after(memory)[1] == ()
    assert there.obeyed().unknown == ()
    assert there.obeyed().beside == 0


def test_another_address_is_passed_by() -> None:
    """What is not meant for it changes nothing."""
    stream = PanelStream(LID, PAGES, 0x3C)
    there = StandInPanel(stream)
    assert not there.take(bytes((0x3D << 1, 0x40, 0xFF)))
    assert there.shown() == LID.lit(LID.blank())
    assert there.passed_by == 1


TOLD = {1: [0x20, 0x0C, 0x06, 0x01], 2: [0x28, 0x0C, 0x06, 0x01]}
"""By rows: of how many lines of four wires it is told, then lit, going on, cleared, as such controllers define it."""


@pytest.mark.parametrize("rows", [1, 2])
def test_a_panel_of_letters_is_started_by_the_sequence_of_its_kind(rows: int) -> None:
    """Three times told of eight lines, so that it stands right however it stood before; then of four, where it has
    four."""
    panel = replace(DOOR, rows=rows, addresses=usual_addresses(16, rows))
    eight = [0x30, 0x30, 0x30, TOLD[rows][0] | 0x10, *TOLD[rows][1:]]
    assert _bytes_of(start_for(replace(panel, hookup="8 lines"), LINED)) == eight
    assert _bytes_of(start_for(replace(panel, hookup="4 lines"), LINED)) == [0x30, 0x30, 0x30, 0x20, *TOLD[rows]]
    halves = [half for byte in TOLD[rows] for half in (byte >> 4, byte & 15)]
    assert _halves_of(start_for(panel, LETTERS)) == [3, 3, 3, 2, *halves]


LINED = told_by_line(LETTERS)


def _bytes_of(sent: Sequence[Transmission]) -> list[int]:
    assert not any(each.is_data for each in sent)
    return [byte for each in sent for byte in each.data]


def _halves_of(sent: Sequence[Transmission]) -> list[int]:
    """Halves of bytes as an expander's port gives them, taken where enable falls; the data line is low throughout."""
    bit = {name: 1 << place for place, name in enumerate(LETTERS.lines)}
    ports = [byte for each in sent for byte in each.data]
    taken = [was for was, now in itertools.pairwise(ports) if was & bit["enable"] and not now & bit["enable"]]
    assert not any(port & bit["data"] for port in taken)
    return [sum(1 << place for place, name in enumerate("4567") if port & bit[name]) for port in taken]


def test_a_persons_own_start() -> None:
    """Typed in hex; what is no byte is named."""
    panel = replace(LID, start=read_start("AE, 0xA8 3f AF"))
    assert [each.data for each in start_for(panel, PAGES)] == [bytes((0x00, 0xAE, 0xA8, 0x3F, 0xAF))]
    assert [each.data for each in start_for(replace(panel, height=48, width=84), told_by_line(BANKS))] == [
        b"\xae\xa8\x3f\xaf"
    ]
    for wrong in ("AE 1FF", "AE x", "-1"):
        with pytest.raises(ValueError, match=r"is not a byte in hex, like AE or 0x3F"):
            read_start(wrong)


def test_what_changed_is_found() -> None:
    """By hand: cells 3, 4 and 9 of two rows of eight."""
    was, now = bytearray(16), bytearray(16)
    now[3] = now[4] = now[9] = 1
    assert list(runs(was, now, 1)) == [(3, 5), (9, 10)]
    assert list(runs(was, now, 5)) == [(3, 10)]
    assert window_of(bytes(was), bytes(now), 8, 2) == (1, 0, 5, 2)
    assert window_of(bytes(was), bytes(was), 8, 2) is None
    assert list(runs(was, was, 1)) == []


def test_a_small_change_is_small() -> None:
    """One pixel of a page: a command byte and three commands for the place, a data byte and the pixel's."""
    rows = [0] * 64
    before = (tuple(rows),)
    rows[20] = 1 << (127 - 70)
    sent = changes_for(LID, PAGES, before, (tuple(rows),))
    assert [each.data for each in sent] == [bytes((0x00, 0xB2, 0x06, 0x14)), bytes((0x40, 0x10))]
