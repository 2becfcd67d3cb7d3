"""Controllers by their tables: what a display is sent comes back as the memory it was sent for; odd commands obeyed."""

from __future__ import annotations

from dataclasses import replace
from typing import Any

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from lesart.core.glass.bus.controller import BY_COLUMNS, BY_ROWS, CONTROLLER, Controller, build_controller
from lesart.core.glass.bus.controllers import BANKS, CHAIN, CONTROLLERS, DIGITS, LETTERS, NUMBERS, PAGES
from lesart.core.glass.bus.interpreter import GLYPHS, interpret
from lesart.core.glass.bus.transmissions import Transmission, cells_of, transmissions_for
from lesart.core.glass.panels.character_panel import CharacterPanel, build_character_panel
from lesart.core.glass.panels.kinds import KINDS
from lesart.core.glass.panels.packing import Packing
from lesart.core.glass.panels.pixel_panel import PixelPanel
from lesart.core.glass.panels.segment_panel import SegmentPanel
from lesart.core.parameters import read_table
from lesart.core.raw.bus_bytes import Words


def words(*told: Transmission | bytes | tuple[bytes, bool]) -> Words:
    """Bytes a millisecond apart, each given transmission one of its own."""
    sent = [
        each
        if isinstance(each, Transmission)
        else Transmission(*each)
        if isinstance(each, tuple)
        else Transmission(each, True)
        for each in told
    ]
    data = b"".join(each.data for each in sent)
    part = np.repeat(np.arange(len(sent)), [len(each.data) for each in sent])
    is_data = np.repeat([each.is_data for each in sent], [len(each.data) for each in sent]).astype(bool)
    t = np.arange(len(data)) / 1000.0
    starts = np.array([t[part == place][0] if (part == place).any() else 0.0 for place in range(len(sent))])
    return Words(t, np.frombuffer(data, np.uint8), is_data, part, starts, starts)


def test_digits_by_their_numbers() -> None:
    """By the data sheets of such drivers: 0x30 lights b and c, 0x6D a, b, d, e and g, 0x80 the point; settings are
    numbers from 9 on, and a number alone says nothing."""
    told = [b"\x0f\x00", b"\x0c\x01", b"\x0b\x03", b"\x0a\x08", b"\x09\x00", b"\x01\x30", b"\x02\xed", b"\x08\x7e"]
    found = interpret(NUMBERS, words(*told, b"\x00\x00", b"\x03"), 8, 1)
    assert list(zip(found.cell.tolist(), found.value.tolist(), strict=True)) == [(0, 0x30), (1, 0xED), (7, 0x7E)]
    assert (found.unknown, found.beside) == ((), 0)
    assert found.setting("light", 1.0, 0) == 1


@pytest.mark.parametrize("is_told", [True, False])
def test_digits_that_a_driver_works_out_itself(is_told: bool) -> None:
    """Four bits are a figure, a dash, E, H, L, P or nothing, the highest bit its point; seen from the bytes alone
    too."""
    settings = [b"\x09\xff"] if is_told else []
    told = [bytes((1 + place % 8, place | (0x80 if place == 3 else 0))) for place in range(16)]
    found = interpret(NUMBERS, words(*settings, *told), 8, 1)
    lit = ["".join(name for name, bit in zip("abcdefg.", (6, 5, 4, 3, 2, 1, 0, 7), strict=True) if value >> bit & 1)
           for value in found.value.tolist()]  # fmt: skip
    assert lit == [
        "abcdef", "bc", "abdeg", "abcdg.", "bcfg", "acdfg", "acdefg", "abc", "abcdefg", "abcdfg",
        "g", "adefg", "bcefg", "def", "abefg", "",
    ]  # fmt: skip


def test_a_driver_may_work_out_some_of_its_digits() -> None:
    """Of 0x0F the first four; the fifth lights what its bits say."""
    found = interpret(NUMBERS, words(b"\x09\x0f", b"\x04\x01", b"\x05\x01"), 8, 1)
    assert found.value.tolist() == [0x30, 0x01]


def door(columns: int = 16, rows: int = 2) -> CharacterPanel:
    """A panel of letters with usual values."""
    values, _ = read_table(KINDS["characters"].parameters, {"columns": columns, "rows": rows}, "")
    return build_character_panel("door", values, {}, {})


@given(
    st.sampled_from(("pages", "banks")),
    st.integers(8, 100),
    st.integers(1, 64),
    st.integers(0, 4),
    st.integers(0, 3),
    st.sampled_from((0, 16, 50)),
    st.booleans(),
    st.booleans(),
    st.data(),
)
def test_pixels_come_back(
    name: str,
    width: int,
    height: int,
    offset: int,
    turns: int,
    at_once: int,
    mirror: bool,
    inverted: bool,
    data: st.DataObject,
) -> None:
    """Frame to transmissions to memory to frame is the identity, for any packing that pages allow."""
    packing = Packing(
        offset=offset,
        inverted=inverted,
        from_bottom=data.draw(st.booleans()),
        from_right=data.draw(st.booleans()),
        low_first=data.draw(st.booleans()),
    )
    panel = PixelPanel("lid", width, height, "white", turns, mirror, packing=packing)
    panel = replace(panel, bus=replace(panel.bus, at_once=at_once))
    rows = tuple(data.draw(st.integers(0, (1 << panel.columns) - 1)) for _ in range(panel.rows))
    controller = CONTROLLERS[name]
    obeyed = interpret(controller, words(*transmissions_for(panel, controller, (rows,))), *cells_of(panel))
    assert not obeyed.unknown
    assert not obeyed.beside
    columns, pages = cells_of(panel)
    cells = obeyed.memory(len(obeyed))[: columns * pages]
    assert panel.shown(bytes(cells.astype(np.uint8))).rows == rows


@given(st.sampled_from(((16, 2), (20, 4), (8, 1), (40, 2))), st.data())
def test_letters_come_back_over_an_expander(size: tuple[int, int], data: st.DataObject) -> None:
    """Halves of bytes, addresses of rows: what was written stands at its address."""
    panel = door(*size)
    memory = tuple(tuple(data.draw(st.integers(0, 255)) for _ in range(panel.line)) for _ in range(panel.rows))
    obeyed = interpret(LETTERS, words(*transmissions_for(panel, LETTERS, memory)), panel.line, panel.rows, fill=0x20)
    cells = obeyed.memory(len(obeyed))
    assert not obeyed.unknown
    for row in range(panel.rows):
        start = panel.address(row, 0)
        assert tuple(cells[start : start + panel.columns]) == memory[row][: panel.columns]


@given(st.integers(1, 8), st.booleans(), st.data())
def test_digits_come_back(digits: int, chained: bool, data: st.DataObject) -> None:
    """By an address, or through a chain of registers."""
    values, _ = read_table(KINDS["segments"].parameters, {"digits": digits, "drive": "shift registers"}, "")
    panel = SegmentPanel("gate", digits, True, "red", None, wiring=_wiring(values))
    masks = tuple(data.draw(st.integers(0, 255)) for _ in range(digits))
    controller = CHAIN if chained else DIGITS
    obeyed = interpret(controller, words(*transmissions_for(panel, controller, (masks,))), digits, 1)
    cells = obeyed.memory(len(obeyed))[:digits]
    assert panel.wiring.lit(bytes(cells.astype(np.uint8))) == masks


def _wiring(values: dict[str, Any]) -> Any:
    from lesart.core.glass.panels.segment_panel import build_segment_panel

    return build_segment_panel("gate", values, None, {}).wiring


def cells(controller: Controller, *told: bytes | tuple[bytes, bool], columns: int = 8, pages: int = 4) -> list[int]:
    """What stands in a small memory after it."""
    return [int(cell) for cell in interpret(controller, words(*told), columns, pages).memory(10**6)[: columns * pages]]


def test_a_window_goes_round() -> None:
    """Columns 2 to 3 of pages 1 to 2, five bytes by columns: the fifth is at the first place again."""
    small = replace(PAGES, pages=0)
    found = cells(small, b"\x00\x20\x00\x21\x02\x03\x22\x01\x02", b"\x40\x0a\x0b\x0c\x0d\x0e")
    assert {place: value for place, value in enumerate(found) if value} == {10: 0x0E, 11: 0x0B, 18: 0x0C, 19: 0x0D}
    # By pages first: down, then the next column.
    found = cells(small, b"\x00\x20\x01\x21\x02\x03\x22\x01\x02", b"\x40\x0a\x0b\x0c\x0d")
    assert {place: value for place, value in enumerate(found) if value} == {10: 0x0A, 18: 0x0B, 11: 0x0C, 19: 0x0D}
    # Within the page: round in it, whatever the window says.
    found = cells(small, b"\x00\x20\x02\xb3\x06\x10", b"\x40\x0a\x0b\x0c")
    assert {place: value for place, value in enumerate(found) if value} == {30: 0x0A, 31: 0x0B, 24: 0x0C}
    assert (BY_COLUMNS, BY_ROWS) == (0, 1)


def test_single_bytes_and_a_split_command() -> None:
    """A byte before that announces one only; a command whose second byte comes in another transmission."""
    small = replace(PAGES, pages=0, order=0)
    # 0x80: one command, then another byte before: 0xC0 is one of data.
    found = cells(small, b"\x80\xb1\x80\x03\x80\x10\xc0\x55")
    assert found[8 + 3] == 0x55
    found = cells(small, b"\x80\x21\x80\x04\x80\x05\x40\x66")
    assert found[4] == 0x66


def test_what_is_shown() -> None:
    """Inverted, dark and all lit come into force at their moment; the start row is kept."""
    obeyed = interpret(PAGES, words(b"\x00\xa7\xae", b"\x00\xa5\x45\xaf"), 8, 1)
    assert obeyed.setting("inverted", 10.0, 0) == 1
    assert obeyed.setting("light", 0.0025, 1) == 0
    assert obeyed.setting("light", 10.0, 1) == 1
    assert obeyed.setting("all lit", 10.0, 0) == 1
    assert obeyed.setting("start row", 10.0, 0) == 5
    banks = interpret(BANKS, words((b"\x0d", False)), 8, 1)
    assert (banks.setting("inverted", 1.0, 0), banks.setting("light", 1.0, 0)) == (1, 1)


@pytest.mark.parametrize(("order", "there"), [(0x02, b"HIVE"), (0x03, b"HIVE"), (0x01, b"    ")])
def test_home_leaves_what_stands_there_and_clear_does_not(order: int, there: bytes) -> None:
    """Both begin at the first cell again, shifted by nothing."""
    told = _bytes(0x80, data=b"HIVE") + _bytes(0x18) + _bytes(order)
    obeyed = interpret(LETTERS, words(told), 40, 2, fill=0x20)
    assert not obeyed.unknown
    assert bytes(obeyed.memory(len(obeyed))[:4].astype(np.uint8)) == there
    assert obeyed.setting("shift", 10.0, 7) == 0
    again = interpret(LETTERS, words(told + _bytes(data=b"b")), 40, 2, fill=0x20)
    assert bytes(again.memory(len(again))[:4].astype(np.uint8)) == b"b" + there[1:]


def test_a_shift_moves_the_place_or_the_display() -> None:
    """Bit 2 to the right or to the left, bit 3 the display and not the place."""
    told = _bytes(0x80, data=b"H") + _bytes(0x14, data=b"V") + _bytes(0x10) + _bytes(0x10, data=b"I")
    obeyed = interpret(LETTERS, words(told), 40, 2, fill=0x20)
    assert bytes(obeyed.memory(len(obeyed))[:4].astype(np.uint8)) == b"HIV "
    for code, shift in ((0x18, 1), (0x1C, -1)):
        assert interpret(LETTERS, words(_bytes(code)), 40, 2).setting("shift", 10.0, 7) == shift


def test_what_is_no_command() -> None:
    """It is kept with its moment, and the rest goes on; data beside the memory are counted."""
    obeyed = interpret(PAGES, words(b"\x00\xff\xb0", b"\x40\x11"), 8, 1)
    assert [byte for _, byte in obeyed.unknown] == [0xFF]
    assert obeyed.memory(1)[0] == 0x11
    beside = interpret(replace(BANKS, pages=0), words((b"\x47\x83", False), (b"\x11", True)), 8, 4)
    assert (len(beside), beside.beside) == (0, 1)


def _expanded(*parts: tuple[int, bool]) -> bytes:
    """Nibbles strobed by hand: data bit 0, enable bit 2, light bit 3, nibble from bit 4 on."""
    found = bytearray()
    for nibble, is_data in parts:
        port = nibble << 4 | 0x08 | is_data
        found += bytes((port | 0x04, port))
    return bytes(found)


def _bytes(*orders: int, data: bytes = b"") -> bytes:
    """Whole bytes in halves."""
    told = [(order, False) for order in orders] + [(byte, True) for byte in data]
    return _expanded(*((nibble, is_data) for byte, is_data in told for nibble in (byte >> 4, byte & 0x0F)))


def test_an_expander_from_power_on() -> None:
    """Three times 3 and a 2 of one half each, then whole bytes: clear, a glyph's row, an address, a letter."""
    setup = _expanded((3, False), (3, False), (3, False), (2, False))
    orders = _expanded((2, False), (8, False), (0, False), (1, False), (4, False), (0, False))
    letters = _expanded((1, True), (5, True), (0xC, False), (2, False), (4, True), (1, True))
    obeyed = interpret(LETTERS, words(setup, orders, letters), 40, 2, fill=0x20)
    assert not obeyed.unknown
    held = obeyed.memory(len(obeyed))
    assert held[0x42] == 0x41
    assert held[128] == 0x15  # the first row of the first glyph, behind the 128 addresses
    assert GLYPHS in obeyed.cell
    assert (held[:128] == 0x20).sum() == 127


def test_a_table_of_ones_own() -> None:
    """Exact commands go before those with free bits, however they are written down."""
    values, _ = read_table(CONTROLLER, {"columns": 4, "pages": 2}, "")
    commands = [
        {"code": "0x80", "bits": "0x7F", "does": "address", "more": 0},
        {"code": "0x80", "bits": "", "does": "clear", "more": 0},
    ]
    mine = build_controller("mine", values, commands)
    assert [command.does for command in mine.commands] == ["clear", "address"]
    assert cells(mine, b"\x00\x85", b"\x40\x77", columns=4, pages=2)[5] == 0x77


@pytest.mark.parametrize(
    ("table", "command", "says"),
    [
        ({"lines": "data enable 4 5"}, {}, "must have"),
        ({}, {"code": "0x1FF"}, "a byte from 0x00 to 0xFF"),
        ({}, {"code": "0xB1", "bits": "0x0F"}, "leave them 0"),
        ({}, {"code": "none"}, "a byte"),
    ],
)
def test_a_wrong_table(table: dict[str, Any], command: dict[str, Any], says: str) -> None:
    values, problems = read_table(CONTROLLER, table, "")
    assert not problems
    with pytest.raises(ValueError, match=says):
        build_controller("mine", values, [{"code": "0xB0", "bits": "", "does": "page", "more": 0, **command}])


@given(
    st.sampled_from(sorted(CONTROLLERS)),
    st.lists(st.binary(max_size=24), max_size=6),
    st.integers(1, 20),
    st.integers(1, 10),
)
def test_any_bytes_are_taken(name: str, sent: list[bytes], columns: int, pages: int) -> None:
    """Whatever comes over a bus is obeyed without an error, and nothing is written where no cell is."""
    told = [(data, bool(len(data) % 2)) for data in sent if data]
    obeyed = interpret(CONTROLLERS[name], words(*told) if told else words(b""), columns, pages)
    size = obeyed.columns * obeyed.pages
    assert all(0 <= cell < size or GLYPHS <= cell < GLYPHS + 64 for cell in obeyed.cell.tolist())
    assert len(obeyed.memory(len(obeyed))) == size + 64
    assert len(obeyed) + obeyed.beside + len(obeyed.unknown) <= sum(map(len, sent)) + size * sum(map(len, sent))
