"""Suspects of a wrong glass: how it would look if one setting differed from the project's."""

from __future__ import annotations

from collections.abc import Callable, Iterator, Sequence
from dataclasses import replace
from functools import lru_cache, singledispatch
from itertools import combinations

import numpy as np

from lesart.core.glass.panels.character_panel import HOOKUPS, CharacterPanel
from lesart.core.glass.panels.colour_panel import ColourPanel
from lesart.core.glass.panels.frame import CharacterFrame, Frame, PixelFrame
from lesart.core.glass.panels.ink_panel import InkPanel
from lesart.core.glass.panels.lamp_panel import LampPanel
from lesart.core.glass.panels.packing import BYTES
from lesart.core.glass.panels.panel import Memory, Panel
from lesart.core.glass.panels.pixel_panel import PixelPanel
from lesart.core.glass.panels.pixels import frame_of, pixels_of
from lesart.core.glass.panels.segment_panel import SegmentPanel
from lesart.core.glass.panels.segment_wiring import OPEN, SegmentWiring
from lesart.core.glass.panels.set_up import ORDERS
from lesart.core.glyphs.charsets import SETS
from lesart.core.notes import Key, Written
from lesart.study.why.glass_suspect import GlassSuspect
from lesart.study.why.of_colours import colour_suspects
from lesart.study.why.of_inks import ink_suspects
from lesart.study.why.of_lamps import lamp_suspects
from lesart.study.why.suspect import OFTEN, RARE, USUAL

OFFSETS = (2, 4, -2, -4, 1, 3, 8, -8, 16, 28, 32)
"""Extra columns of a controller at one side of its glass."""
STARTS = (8, 16, 32, 1)
"""Rows by which a start line may be off."""
TURNED = ("not", "a quarter", "half", "three quarters")
NIBBLE, BYTE_BITS = 4, 8


def glass_suspects(panel: Panel) -> list[GlassSuspect]:
    """All suspects: first that it is right, then everything that may be different."""
    return [GlassSuspect("it is as it should be", OFTEN, lambda memory: panel.seen(panel.lit(memory))), *_of(panel)]


@singledispatch
def _of(panel: Panel) -> Iterator[GlassSuspect]:
    yield from ()


# Segments


@_of.register
def _(panel: SegmentPanel) -> Iterator[GlassSuspect]:
    key: Key = ("panels", panel.name)
    wiring = panel.wiring

    def wired(says: str, other: SegmentWiring, weight: float, edits: Sequence[tuple[str, Written]]) -> GlassSuspect:
        def look(memory: Memory) -> Frame:
            return panel.lit((_through(wiring, other, panel.lit(memory).masks),))

        return GlassSuspect(says, weight, look, tuple(((*key, name), value) for name, value in edits))

    other = "anode" if wiring.lit_by else "cathode"
    says = f"the segments of a digit share their {other}: low and high are the other way round"
    yield wired(says, replace(wiring, lit_by=1 - wiring.lit_by), USUAL, [("common", other)])
    order = list(wiring.order)
    turned = list(reversed(order + ["-"] * (-len(order) % BYTE_BITS)))
    says = "the bits of a byte are in the other order, highest first"
    yield wired(says, replace(wiring, order=tuple(turned)), OFTEN, [("order", " ".join(turned))])
    digits = tuple(reversed(wiring.digits))
    if panel.digits > 1:
        says = "the digits are in the other order, from the right"
        yield wired(says, replace(wiring, digits=digits), USUAL, [("chain", _chain(panel, digits))])
    for one, two in combinations(range(panel.digits), 2):
        places = list(wiring.digits)
        places[one], places[two] = places[two], places[one]
        if tuple(places) != digits:
            says = f"the lines of digits {one + 1} and {two + 1} are swapped"
            yield wired(says, replace(wiring, digits=tuple(places)), OFTEN, [("chain", _chain(panel, places))])
    for one, two in combinations(range(len(order)), 2):
        names = list(order)
        names[one], names[two] = names[two], names[one]
        says = f"the lines of segments {order[one]} and {order[two]} are swapped"
        yield wired(says, replace(wiring, order=tuple(names)), OFTEN, [("order", " ".join(names))])
    if panel.scan is not None and panel.digits > 1:
        yield _all_but_one(panel, key)
    for place, name in enumerate(order):
        dead = tuple("-" if at == place else each for at, each in enumerate(order))
        says = f"the line of segment {name} is open"
        yield replace(wired(says, replace(wiring, order=dead), RARE, []), remedy=f"check the line of segment {name}")


def _through(meant: SegmentWiring, real: SegmentWiring, masks: Sequence[int]) -> tuple[int, ...]:
    """What lights up where bits are meant for one wiring, and the real one differs."""
    seen = [0] * len(masks)
    for place, digit in enumerate(meant.digits):
        seen[real.digits[place]] = _lit(real, _bits(meant, masks[digit]))
    return tuple(seen)


@lru_cache(maxsize=4096)
def _bits(wiring: SegmentWiring, mask: int) -> int:
    return wiring.bits(mask)


@lru_cache(maxsize=16_384)
def _lit(wiring: SegmentWiring, bits: int) -> int:
    return wiring.mask(bits)


def _all_but_one(panel: SegmentPanel, key: Key) -> GlassSuspect:
    """With the wrong level of the digit select, all other digits are lit in its turn."""

    def look(memory: Memory) -> Frame:
        masks = panel.lit(memory).masks
        seen = []
        for place in range(panel.digits):
            lit = 0
            for other, mask in enumerate(masks):
                lit |= mask if other != place else 0
            seen.append(lit)
        return panel.lit((tuple(seen),))

    edits: tuple[tuple[Key, Written], ...] = (((*key, "chosen_low"), not panel.chosen_low),) if panel.is_shifted else ()
    says = "a digit is chosen by the other level, so all the others light in its turn"
    remedy = "" if edits else "invert the level by which the firmware chooses a digit"
    return GlassSuspect(says, OFTEN, look, edits, remedy)


def _chain(panel: SegmentPanel, digits: Sequence[int]) -> str:
    """The chain as written, including a driver's positions without a digit."""
    if panel.places in ((), tuple(range(panel.digits))):
        return " ".join(str(digit + 1) for digit in digits)
    named = dict(zip(panel.places, digits, strict=True))
    return " ".join(str(named[place] + 1) if place in named else OPEN for place in range(panel.places[-1] + 1))


# Characters


@_of.register
def _(panel: CharacterPanel) -> Iterator[GlassSuspect]:
    yield from _of_codes(panel)
    yield from _of_rows(panel, ("panels", panel.name))
    yield from _of_looks(panel, ("panels", panel.name))


def _of_codes(panel: CharacterPanel) -> Iterator[GlassSuspect]:
    """Suspects in sending codes: wires, halves, a number for a letter, another character set."""

    def coded(says: str, weight: float, change: Callable[[int], int], remedy: str) -> GlassSuspect:
        def look(memory: Memory) -> Frame:
            return panel.lit(tuple(tuple(change(code) for code in row) for row in memory))

        return GlassSuspect(says, weight, look, (), remedy)

    step = "send both halves of each byte, the high one first, and begin with the sequence that finds the step again"
    yield GlassSuspect(
        "it is half a byte out of step", USUAL, lambda memory: panel.lit(tuple(map(_out_of_step, memory))), (), step
    )
    lines = range(BYTE_BITS) if panel.hookup == HOOKUPS[0] else range(NIBBLE)
    by_four = panel.hookup != HOOKUPS[0]
    for one, two in combinations(lines, 2):
        shown = (one + NIBBLE, two + NIBBLE) if by_four else (one, two)
        yield coded(
            f"its data lines {shown[0]} and {shown[1]} are swapped",
            OFTEN,
            lambda code, one=one, two=two: _swapped(code, one, two, by_four=by_four),  # type: ignore[misc]
            f"swap the wires of its data lines {shown[0]} and {shown[1]}",
        )
    yield coded(
        "its data lines are in the other order",
        OFTEN,
        lambda code: _turned_lines(code, by_four=by_four),
        "reverse the order of its data lines",
    )
    for line in lines:
        name = line + NIBBLE if by_four else line
        bits = (1 << line) | (1 << line + NIBBLE if by_four else 0)
        yield coded(
            f"its data line {name} is open or always low",
            RARE,
            lambda code, bits=bits: code & ~bits,  # type: ignore[misc]
            f"check its data line {name}",
        )
    yield coded(
        "digits are sent as numbers, not as letters",
        OFTEN,
        lambda code: code & 15 if ord("0") <= code <= ord("9") else code,
        "add 48 to each digit, or send texts",
    )
    for charset in SETS:
        if charset != panel.charset and panel.own_set is None:
            other = replace(panel, charset=charset)
            edits = ((("panels", panel.name, "charset"), charset),)
            yield GlassSuspect(f"its character set is {charset}", OFTEN, other.lit, edits)


def _of_looks(panel: CharacterPanel, key: Key) -> Iterator[GlassSuspect]:
    """Suspects of looks: shifted, too pale, never set up, too dark."""
    for cells in (1, 2, -1):
        shift = (panel.shift + cells) % panel.line
        other = replace(panel, shift=shift)
        says = f"the display is shifted by {shift} cells" if shift != 1 else "the display is shifted by a cell"
        yield GlassSuspect(says, RARE, other.lit, (((*key, "shift"), shift),))
    dark = "turn its contrast up: what is there cannot be seen, or nothing was written"
    yield GlassSuspect("its contrast is too low, or nothing is written", RARE, lambda memory: _even(panel, 0), (), dark)
    full = "its start sequence did not arrive: check its enable line, and wait longer before the first command"
    yield GlassSuspect("it was never set up: its first row is full", OFTEN, lambda memory: _first_full(panel), (), full)
    high = "turn its contrast down"
    yield GlassSuspect("its contrast is too high", RARE, lambda memory: _even(panel, 31), (), high)


def _out_of_step(row: tuple[int, ...]) -> tuple[int, ...]:
    """Each byte's low half combined with the high half of the next."""
    behind = (*row[1:], row[-1])
    return tuple((one & 15) << NIBBLE | (two >> NIBBLE & 15) for one, two in zip(row, behind, strict=True))


def _swapped(code: int, one: int, two: int, *, by_four: bool) -> int:
    for low in (0, NIBBLE) if by_four else (0,):
        a, b = code >> low + one & 1, code >> low + two & 1
        code = code & ~(1 << low + one | 1 << low + two) | b << low + one | a << low + two
    return code


def _turned_lines(code: int, *, by_four: bool) -> int:
    if by_four:
        return int(f"{code >> NIBBLE & 15:04b}"[::-1] + f"{code & 15:04b}"[::-1], 2)
    return int(f"{code & 255:08b}"[::-1], 2)


def _of_rows(panel: CharacterPanel, key: Key) -> Iterator[GlassSuspect]:
    """Suspects of rows: other addresses, and a start sequence for one row where there are two."""
    if panel.rows == 1:
        return
    blank = panel.blank()[0][0]
    own = panel.addresses
    columns = panel.columns
    others = {
        "one behind the other": tuple(row * columns for row in range(panel.rows)),
        "as on a panel of four rows of 20": (0, 64, 20, 84)[: panel.rows],
        "as on a panel of four rows of 16": (0, 64, 16, 80)[: panel.rows],
        "with rows two and three swapped": (own[0], own[2], own[1], *own[3:]) if panel.rows > 3 else own,
    }
    for says, addresses in others.items():
        if addresses == own:
            continue
        written = " ".join(f"0x{each:02X}" for each in addresses)

        def look(memory: Memory, addresses: tuple[int, ...] = addresses) -> Frame:
            held = {own[row] + column: code for row, cells in enumerate(memory) for column, code in enumerate(cells)}
            rows = tuple(tuple(held.get(first + column, blank) for column in range(panel.line)) for first in addresses)
            return panel.lit(rows)

        yield GlassSuspect(f"its rows lie {says}", OFTEN, look, (((*key, "addresses"), written),))
    yield GlassSuspect(
        "it was set up for one row, so every second one is empty",
        OFTEN,
        lambda memory: panel.lit(tuple(row if at % 2 == 0 else (blank,) * len(row) for at, row in enumerate(memory))),
        (),
        "set it up for two rows in its start sequence: the bit 0x08 of the command 0x20",
    )
    yield GlassSuspect(
        "all is written into its first row, because the address of the others is never set",
        RARE,
        lambda memory: panel.lit((memory[-1], *((blank,) * len(row) for row in memory[1:]))),
        (),
        "set the address of a row before writing into it",
    )


def _even(panel: CharacterPanel, dots: int) -> Frame:
    cells = tuple(((dots,) * 8,) * panel.columns for _ in range(panel.rows))
    return CharacterFrame(panel.lit(panel.blank()).codes, cells)


def _first_full(panel: CharacterPanel) -> Frame:
    full, none = ((31,) * 8,) * panel.columns, ((0,) * 8,) * panel.columns
    return CharacterFrame(panel.lit(panel.blank()).codes, tuple(none if row % 2 else full for row in range(panel.rows)))


# Pixels


@_of.register
def _(panel: ColourPanel) -> Iterator[GlassSuspect]:
    yield from colour_suspects(panel)


@_of.register
def _(panel: InkPanel) -> Iterator[GlassSuspect]:
    yield from ink_suspects(panel)


@_of.register
def _(panel: LampPanel) -> Iterator[GlassSuspect]:
    yield from lamp_suspects(panel)


@_of.register
def _(panel: PixelPanel) -> Iterator[GlassSuspect]:
    yield from _of_building(panel, ("panels", panel.name))
    yield from _of_set_up(panel, ("panels", panel.name))
    yield from _of_sending(panel)


def _of_building(panel: PixelPanel, key: Key) -> Iterator[GlassSuspect]:
    """Suspects of packing, and of orientation."""

    def built(says: str, weight: float, other: PixelPanel, edits: Sequence[tuple[str, Written]]) -> GlassSuspect:
        def look(memory: Memory) -> Frame:
            data = panel.sent(panel.lit(memory))
            wide = replace(other, packing=other.packing)
            return wide.seen(wide.shown(data))

        return GlassSuspect(says, weight, look, tuple(((*key, name), value) for name, value in edits))

    def packed(says: str, weight: float, name: str, value: Written) -> GlassSuspect:
        other = replace(panel, packing=replace(panel.packing, **{name: value}))  # type: ignore[arg-type]
        return built(says, weight, other, [(name, value)])

    packing = panel.packing
    side = "last" if packing.low_first else "first"
    yield packed(f"the lowest bit of a byte comes {side}", USUAL, "low_first", not packing.low_first)
    yield packed("pages or rows come in the other order", OFTEN, "from_bottom", not packing.from_bottom)
    yield packed("columns come in the other order: it is mirrored", USUAL, "from_right", not packing.from_right)
    yield packed("what is lit is dark: it is inverted", USUAL, "inverted", not packing.inverted)
    other_bytes = BYTES[BYTES.index(packing.bytes) ^ 1]
    yield packed(f"its bytes are {other_bytes}", OFTEN, "bytes", other_bytes)
    for name in TURNED:
        turns = TURNED.index(name)
        if turns != panel.turns and (turns - panel.turns) % 2 == 0:
            yield built(f"it is built in turned: {name}", OFTEN, replace(panel, turns=turns), [("turned", name)])


def _of_set_up(panel: PixelPanel, key: Key) -> Iterator[GlassSuspect]:
    """Suspects in its start sequence."""
    yield _set_up(panel, key, "the firmware sets it up for half of its rows", USUAL, "rows_told", panel.height // 2)
    for order in ORDERS:
        if order != panel.set_up.order:
            yield _set_up(panel, key, f"its start sequence says that its rows lie {order}", OFTEN, "order_told", order)
    for columns in OFFSETS:
        side = "right" if columns > 0 else "left"
        says = f"its picture is {abs(columns)} {'column' if abs(columns) == 1 else 'columns'} too far {side}"
        yield _set_up(panel, key, says, OFTEN if abs(columns) in (2, 4) else RARE, "columns_off", columns)
    for rows in STARTS:
        for sign in (1, -1):
            says = f"its start line is off by {sign * rows}"
            remedy = "set the start line to 0 in its start sequence"
            yield GlassSuspect(says, RARE, lambda memory, by=sign * rows: _rolled(panel, memory, by), (), remedy)  # type: ignore[misc]


def _of_sending(panel: PixelPanel) -> Iterator[GlassSuspect]:
    """Suspects in how a picture is sent, if at all."""
    yield GlassSuspect(
        "two bytes are swapped: words of its picture are the other way round",
        RARE,
        lambda memory: _pairs_swapped(panel, memory),
        (),
        "send the picture as bytes, not as words of sixteen bits",
    )
    yield GlassSuspect(
        "its picture is sent with another width: each row is a byte longer",
        RARE,
        lambda memory: _skewed(panel, memory),
        (),
        "say the width of the picture as it was made",
    )
    yield GlassSuspect(
        "nothing is written, or it was never lit",
        RARE,
        lambda memory: panel.lit(panel.blank()),
        (),
        "check its reset, its address and its supply; then the command that lights it",
    )


def _set_up(panel: PixelPanel, key: Key, says: str, weight: float, name: str, value: Written) -> GlassSuspect:
    """A suspect of a start sequence: the project can show it as it is, and the firmware has to be mended."""
    inside = {"rows_told": "told", "order_told": "order"}.get(name, name)
    other = replace(panel, set_up=replace(panel.set_up, **{inside: value}))  # type: ignore[arg-type]
    remedy = {
        "rows_told": "set all its rows in its start sequence",
        "order_told": "say in its start sequence how its rows lie",
        "columns_off": "add the difference to each column, or set the column offset of the panel",
    }[name]
    return GlassSuspect(says, weight, lambda memory: other.seen(other.lit(memory)), (((*key, name), value),), remedy)


def _rolled(panel: PixelPanel, memory: Memory, rows: int) -> Frame:
    return frame_of(np.roll(pixels_of(panel.lit(memory)), rows, axis=0))


def _pairs_swapped(panel: PixelPanel, memory: Memory) -> Frame:
    data = bytearray(panel.sent(panel.lit(memory)))
    even = len(data) // 2 * 2
    data[0:even:2], data[1:even:2] = data[1:even:2], data[0:even:2]
    return panel.shown(bytes(data))


def _skewed(panel: PixelPanel, memory: Memory) -> Frame:
    data = panel.sent(panel.lit(memory))
    wide = panel.width + panel.packing.offset + panel.packing.beyond
    rows = [data[place : place + wide] for place in range(0, len(data), wide)]
    skewed = b"".join(row + b"\x00" for row in rows)[: len(data)]
    frame: PixelFrame = panel.shown(skewed)
    return frame
