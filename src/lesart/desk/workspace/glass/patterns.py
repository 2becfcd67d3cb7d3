"""Glass, the leaves of bringing a display up: which line lights what, and test patterns with their bytes."""

from __future__ import annotations

from collections.abc import Sequence

from lesart.core.glass.bus.patterns import pattern, patterns_of, steps_of
from lesart.core.glass.bus.sending import Sent, bytes_on_bus, glyphs_sent, sent_for
from lesart.core.glass.panels.character_panel import CharacterPanel
from lesart.core.glass.panels.packing import PARAMETERS as PACKING
from lesart.core.glass.panels.panel import Memory, Panel, PixelPanel, SegmentPanel
from lesart.core.glass.panels.segment_wiring import BYTE
from lesart.core.notes import Key
from lesart.core.quantity import counted, grouped
from lesart.desk.workspace.context import Context, label, rows_of, text, value
from lesart.study.views import Line

IN_LINE = 16
MOST_LINES = 12


def wiring_memory(context: Context, panel: SegmentPanel) -> Memory:
    """What the panel shows while one line of each digit is held as lit: by the map as it is now."""
    bits = 1 << len(context.state.found)
    sent = bits if panel.wiring.lit_by else bits ^ ((1 << BYTE * panel.wiring.bytes_a_digit) - 1)
    return ((panel.wiring.mask(sent),) * panel.digits,)


def wiring_lines(context: Context, panel: Panel) -> list[Line]:
    """The map from bits to segments, and how it is found."""
    if isinstance(panel, CharacterPanel):
        lines: list[Line] = [(label("hooked up by "), value(context.project, ("panels", panel.name, "hookup"))), ()]
        rows = [f"row {row + panel.counted_from} from 0x{panel.address(row, 0):02X}" for row in range(panel.rows)]
        lines += [(label("   "), text(each)) for each in rows]
        return [*lines, (), (label("row addresses "), value(context.project, ("panels", panel.name, "addresses")))]
    if isinstance(panel, PixelPanel):
        return _packing_lines(context, panel)
    assert isinstance(panel, SegmentPanel)
    place: Key = ("panels", panel.name)
    wiring, found = panel.wiring, context.state.found
    lines = [
        (label("bits light "), value(context.project, (*place, "order"))),
        (label("sent first "), value(context.project, (*place, "chain")), label("   common "),
         value(context.project, (*place, "common")), label("   inverted "),
         value(context.project, (*place, "inverted"))),
        (), (label(f"bit   {'by the map':<12}{'found':<10}byte that lights it alone"),),
    ]  # fmt: skip
    for bit in range(wiring.bytes_a_digit * BYTE):
        name = wiring.order[bit] if bit < len(wiring.order) else "-"
        alone = 1 << bit if wiring.lit_by else (1 << bit) ^ ((1 << BYTE * wiring.bytes_a_digit) - 1)
        heard = found[bit] if bit < len(found) else "now lit" if bit == len(found) else ""
        mark = text(" ▌ ", "rubric") if bit == len(found) else text("   ")
        lines.append(
            (mark, text(f"{bit:<3}"), text(f"{name:<12}", "verdigris"), text(f"{heard:<10}", "ochre"),
             text(f"0x{alone:0{2 * wiring.bytes_a_digit}X}", "lapis"))
        )  # fmt: skip
    how = " says which segment is lit on yours while that byte is sent;"
    return [*lines, (), (text("i", "ochre"), label(how)), (label("  the last one writes the map."),)]


def _packing_lines(context: Context, panel: PixelPanel) -> list[Line]:
    """How its pixels lie in bytes, and how a wrong order is seen."""
    first = panel.sent(panel.lit(pattern(panel, "frame and corner", 0)))[:IN_LINE].hex(" ").upper()
    return [
        (label("how its pixels lie in bytes"),), *rows_of(context.project, ("panels", panel.name), PACKING), (),
        (label("a frame with a lit corner begins with "), text(first, "lapis")),
        (text("p", "ochre"), label(" shows that pattern: strips upside down are a wrong order of bits,")),
        (label("  strips in wrong places a wrong order of pages."),),
    ]  # fmt: skip


def test_lines(context: Context, panel: Panel) -> list[Line]:
    """The patterns, and what is sent for the one that is shown."""
    names = patterns_of(panel)
    name = context.state.pattern if context.state.pattern in names else names[0]
    steps = steps_of(panel, name)
    step = context.state.pattern_step % steps
    chosen = [text(f"{each}   ", "verdigris" if each == name else "faint", bold=each == name) for each in names]
    lines: list[Line] = [tuple(chosen[:5]), tuple(chosen[5:]),
                         (label("step "), text(f"{step + 1} of {grouped(str(steps))}")), ()]  # fmt: skip
    sent = sent_for(panel, pattern(panel, name, step))
    lines.append((label("what is sent   "), text(f"{counted(bytes_on_bus(panel, sent), 'byte')} on the wires"),
                  label("   pace and drive as the panel's leaf says")))  # fmt: skip
    lines += _bytes(sent)
    if isinstance(panel, CharacterPanel) and panel.glyphs:
        lines += [(), (label("once, for glyphs of one's own"),), *_bytes(glyphs_sent(panel))]
    return lines


def _bytes(sent: Sequence[Sent]) -> list[Line]:
    lines: list[Line] = []
    for each in sent:
        for start in range(0, len(each.data), IN_LINE):
            row = each.data[start : start + IN_LINE].hex(" ").upper()
            what = f"{each.what}{', command' if each.command else ''}" if start == 0 else ""
            lines.append((label(f"   {what[:24]:<25}"), text(row, "ochre" if each.command else "lapis")))
    return lines[:MOST_LINES]
