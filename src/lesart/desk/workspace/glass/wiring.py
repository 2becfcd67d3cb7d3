"""Glass, the leaf of wiring: which line lights what, how to find out, and the packing of bytes."""

from __future__ import annotations

from functools import singledispatch

import numpy as np

from lesart.core.glass.bus.patterns import pattern
from lesart.core.glass.panels.character_panel import CharacterPanel
from lesart.core.glass.panels.colour_panel import MEMORY, ColourPanel
from lesart.core.glass.panels.ink_panel import PARAMETERS as OF_INKS
from lesart.core.glass.panels.ink_panel import InkPanel
from lesart.core.glass.panels.lamp_panel import PARAMETERS, LampPanel
from lesart.core.glass.panels.packing import PARAMETERS as PACKING
from lesart.core.glass.panels.panel import Panel
from lesart.core.glass.panels.pixel_colours import COLOURS, rgb
from lesart.core.glass.panels.pixel_panel import PixelPanel
from lesart.core.glass.panels.segment_panel import SegmentPanel
from lesart.core.glass.panels.segment_wiring import BYTE
from lesart.core.notes import Key
from lesart.core.quantity import plain_number
from lesart.desk.workspace.context import Context, label, rows_of, text, value
from lesart.study.glass import glass_of
from lesart.study.views import Glass, Line

IN_LINE = 16


@singledispatch
def wiring_lines(panel: Panel, context: Context) -> list[Line]:
    """The map from bits to segments, and how to find it."""
    return [(label(f"Nothing about the wires of {panel.says()} can be set."),)]


@singledispatch
def wiring_glass(panel: Panel, context: Context) -> Glass | None:
    """The large drawing on this leaf; None for the panel as it is."""
    return None


@wiring_lines.register
def _(panel: CharacterPanel, context: Context) -> list[Line]:
    place: Key = ("panels", panel.name)
    rows = [f"row {row + panel.counted_from} from 0x{panel.address(row, 0):02X}" for row in range(panel.rows)]
    return [
        (label("hooked up by "), value(context.project, (*place, "hookup"))),
        (),
        *((label("   "), text(each)) for each in rows),
        (),
        (label("row addresses "), value(context.project, (*place, "addresses"))),
    ]


@wiring_lines.register
def _(panel: PixelPanel, context: Context) -> list[Line]:
    first = panel.sent(panel.lit(pattern(panel, "frame and corner", 0)))[:IN_LINE].hex(" ").upper()
    return [
        (label("how its pixels lie in bytes"),),
        *rows_of(context.project, ("panels", panel.name), PACKING),
        (),
        (label("a frame with a lit corner begins with "), text(first, "lapis")),
        (text("p", "ochre"), label(" shows that pattern: strips upside down are a wrong order of bits,")),
        (label("  strips in wrong places a wrong order of pages."),),
    ]


@wiring_lines.register
def _(panel: ColourPanel, context: Context) -> list[Line]:
    return [
        (label("what a pixel is sent as, the first byte first"),),
        *_sent_lines(panel),
        (),
        *rows_of(context.project, ("panels", panel.name), MEMORY),
        (),
        (text("p", "ochre"), label(" shows all red, all green, all blue: red for blue is a wrong order of colours,")),
        (label("  a yellow for blue a missing inversion, a strip at an edge a wrong offset."),),
    ]


@wiring_lines.register
def _(panel: InkPanel, context: Context) -> list[Line]:
    third = int(not panel.third_low)
    bits = {"black": (0, 1 - third), "white": (1, 1 - third), panel.third: (1, third)}
    return [
        (label("bits of a pixel in its two memories"),),
        *(
            (text(f"   {name:<8}", "faint"), text(f"{first} {second}", "lapis"))
            for name, (first, second) in bits.items()
        ),
        (),
        *rows_of(context.project, ("panels", panel.name), [each for each in OF_INKS if each.name == "third_low"]),
        (),
        (text("p", "ochre"), label(f" shows all on, all off, all {panel.third}: {panel.third} for what should be")),
        (label("  black or white is a wrong bit of the second memory."),),
    ]


@wiring_lines.register
def _(panel: LampPanel, context: Context) -> list[Line]:
    place: Key = ("panels", panel.name)
    rows = [each for each in PARAMETERS if each.name in ("sent", "runs", "to_and_fro", "begins")]
    return [
        (label(f"what a lamp is sent as at {plain_number(panel.backlight, 3)} %, the first byte first"),),
        *_sent_lines(panel),
        (),
        *rows_of(context.project, place, rows if panel.height > 1 else [rows[0], rows[-1]]),
        (),
        (text("p", "ochre"), label(" shows all red, all green, all blue: green for red is a wrong order of bytes;")),
        (label("  a line that jumps back where it should go on, or the other way, is a wrong run."),),
    ]


def _sent_lines(panel: ColourPanel) -> list[Line]:
    names = ("red", "green", "blue", "white")
    return [(text(f"   {name:<8}", "faint"), text(_sent_as(panel, name), "lapis")) for name in names]


def _sent_as(panel: ColourPanel, name: str) -> str:
    colour = np.array(rgb(COLOURS[name]), np.uint8)
    return panel.encoded(colour).tobytes().hex(" ").upper()


@wiring_lines.register
def _(panel: SegmentPanel, context: Context) -> list[Line]:
    place: Key = ("panels", panel.name)
    wiring, found = panel.wiring, context.state.glass.lines_found
    lines: list[Line] = [
        (label("bits light "), value(context.project, (*place, "order"))),
        (
            label("sent first "),
            value(context.project, (*place, "chain")),
            label("   common "),
            value(context.project, (*place, "common")),
            label("   inverted "),
            value(context.project, (*place, "inverted")),
        ),
        (),
        (label(f"bit   {'by the map':<12}{'found':<10}byte that lights it alone"),),
    ]
    for bit in range(wiring.bytes_a_digit * BYTE):
        name = wiring.order[bit] if bit < len(wiring.order) else "-"
        alone = 1 << bit if wiring.lit_by else (1 << bit) ^ ((1 << BYTE * wiring.bytes_a_digit) - 1)
        heard = found[bit] if bit < len(found) else "now lit" if bit == len(found) else ""
        mark = text(" ▌ ", "rubric") if bit == len(found) else text("   ")
        lines.append(
            (
                mark,
                text(f"{bit:<3}"),
                text(f"{name:<12}", "verdigris"),
                text(f"{heard:<10}", "ochre"),
                text(f"0x{alone:0{2 * wiring.bytes_a_digit}X}", "lapis"),
            )
        )
    how = " says which segment is lit on yours while that byte is sent;"
    return [*lines, (), (text("i", "ochre"), label(how)), (label("  the last one writes the map."),)]


@wiring_glass.register
def _(panel: SegmentPanel, context: Context) -> Glass | None:
    """One line of each digit lit, by the present map."""
    bits = 1 << len(context.state.glass.lines_found)
    sent = bits if panel.wiring.lit_by else bits ^ ((1 << BYTE * panel.wiring.bytes_a_digit) - 1)
    return glass_of(panel, panel.lit(((panel.wiring.mask(sent),) * panel.digits,)))
