"""The bytes that put a memory on a display: segments in the order of the chain, characters after their addresses."""

from __future__ import annotations

from functools import singledispatch

from lesart.core.dataclass_later import dataclass
from lesart.core.glass.panels.character_panel import SET_ADDRESS, SET_GLYPH, CharacterPanel
from lesart.core.glass.panels.colour_panel import ColourPanel
from lesart.core.glass.panels.ink_panel import InkPanel
from lesart.core.glass.panels.lamp_panel import LampPanel
from lesart.core.glass.panels.panel import Memory, Panel
from lesart.core.glass.panels.pixel_panel import PixelPanel
from lesart.core.glass.panels.segment_panel import SegmentPanel

DECODED, BRIGHT, LAST_DIGIT, LIGHT, ALL_LIT = 0x09, 0x0A, 0x0B, 0x0C, 0x0F
"""Settings of a numbered driver: digits that it decodes itself, brightness, number of digits minus one, on, and a lamp
test. Source: the data sheets of such drivers."""
EACH = 8
"""Numbers of a module: rows, or columns."""
SIXTEEN_STEPS = 0xE0
"""Command of a driver with an address to which its brightness is added."""


@dataclass(frozen=True)
class Sent:
    """A run of bytes: ``command`` or data, and what it is in a few words."""

    what: str
    data: bytes
    command: bool = False


@singledispatch
def sent_for(panel: Panel, memory: Memory) -> tuple[Sent, ...]:
    """Everything sent for a memory, on a panel that is already set up."""
    return (Sent("cells", bytes(panel.sent_code(code) & 0xFF for row in memory for code in row)),)


@sent_for.register
def _(panel: SegmentPanel, memory: Memory) -> tuple[Sent, ...]:
    if panel.is_shifted:
        masks = panel.lit(memory).masks
        return tuple(Sent(f"digit {digit + 1}", panel.slot(digit, masks[digit])) for digit in panel.wiring.digits)
    if panel.is_numbered:
        told = Sent(f"brightness {panel.brightness}", bytes(dimmed_to(panel)), True)
        numbered = panel.numbered(panel.lit(memory).masks)
        return told, *(
            Sent(f"digit {panel.wiring.digits[number - 1] + 1}", bytes((number, bits))) for number, bits in numbered
        )
    if panel.is_addressed:
        dims = Sent(f"brightness {panel.brightness}", bytes((SIXTEEN_STEPS | 2 * panel.brightness + 1,)), True)
        return dims, Sent("from byte 0 on", b"\0", True), Sent("its memory", panel.sent(panel.lit(memory)))
    digits = Sent("digits in chain order", panel.sent(panel.lit(memory)))
    dimmed, begins = panel.commands
    first = [] if dimmed is None else [Sent(f"brightness {panel.brightness}", _byte(dimmed + panel.brightness), True)]
    second = [] if begins is None else [Sent("first digit", _byte(begins), True)]
    return (*first, *second, digits)


@sent_for.register
def _(panel: PixelPanel, memory: Memory) -> tuple[Sent, ...]:
    if panel.modules:
        runs = numbered_runs(panel, panel.sent(panel.lit(memory)))
        return tuple(Sent(f"number {number} of each module", run) for number, run in enumerate(runs, 1))
    return (Sent(f"frame, {panel.packing.bytes}", panel.sent(panel.lit(memory))),)


def numbered_runs(panel: PixelPanel, data: bytes) -> list[bytes]:
    """The bytes of a frame of chained modules, number by number, as they are latched."""
    size = len(data) // EACH
    return [data[at : at + size] for at in range(0, len(data), size)]


@sent_for.register
def _(panel: ColourPanel, memory: Memory) -> tuple[Sent, ...]:
    return (Sent(f"frame, {panel.depth} bits a pixel", panel.sent(panel.lit(memory))),)


@sent_for.register
def _(panel: InkPanel, memory: Memory) -> tuple[Sent, ...]:
    data, half = panel.sent(panel.lit(memory)), panel.frame_size // 2
    return Sent("what is white", data[:half]), Sent(f"what is {panel.third}", data[half:])


@sent_for.register
def _(panel: LampPanel, memory: Memory) -> tuple[Sent, ...]:
    return (Sent(f"all lamps, {panel.order}", panel.sent(panel.lit(memory))),)


@sent_for.register
def _(panel: CharacterPanel, memory: Memory) -> tuple[Sent, ...]:
    found = []
    for row in range(panel.rows):
        cells = bytes(memory[row][: panel.columns])
        what = f"row {row + panel.counted_from}" + (", second enable" if panel.controller(row) else "")
        found.append(Sent(what, bytes([SET_ADDRESS | panel.address(row, 0)]), command=True))
        found.append(Sent(what, cells))
    return tuple(found)


def dimmed_to(panel: SegmentPanel) -> tuple[int, int]:
    """The brightness setting of a numbered driver, in sixteen steps."""
    return BRIGHT, 2 * panel.brightness + 1


def _byte(value: int) -> bytes:
    return bytes([value & 0xFF])


@singledispatch
def glyphs_sent(panel: Panel) -> tuple[Sent, ...]:
    """The bytes that load a person's own glyphs, once, after set-up."""
    return ()


@glyphs_sent.register
def _(panel: CharacterPanel) -> tuple[Sent, ...]:
    if not panel.glyphs:
        return ()
    rows = b"".join(bytes(dots) for dots in list(panel.glyphs.values())[:8])
    return Sent("glyphs from slot 0 on", bytes([SET_GLYPH]), command=True), Sent("their rows", rows)


@singledispatch
def bytes_on_bus(panel: Panel, sent: tuple[Sent, ...]) -> int:
    """Number of bytes on the wires: four lines take two strobes per byte, an expander three bytes per strobe."""
    return sum(len(each.data) for each in sent)


@bytes_on_bus.register
def _(panel: CharacterPanel, sent: tuple[Sent, ...]) -> int:
    return sum(len(each.data) for each in sent) * {"8 lines": 1, "4 lines": 2}.get(panel.hookup, 6)
