"""How long it takes to draw a face on a panel, and which bytes go over which wires."""

from __future__ import annotations

from functools import singledispatch

from lesart.core.dataclass_later import dataclass
from lesart.core.glass.bus.sent_bytes import Sent, bytes_on_bus, sent_for
from lesart.core.glass.faces.face import CLEARED, Face, compose
from lesart.core.glass.panels.character_panel import CharacterPanel
from lesart.core.glass.panels.panel import Panel
from lesart.core.glass.panels.pixel_panel import PixelPanel
from lesart.core.glass.panels.segment_panel import DRIVER, SegmentPanel
from lesart.core.glass.panels.transfer import ENDS, FOUR_WIRE, TWO_WIRE, Bus

DRIVER_HZ = 100_000.0
"""Default clock of segment drivers and chained registers: what firmware reaches by toggling pins."""


SLOT_HZ = 1_000_000.0
"""Default clock of registers that digits are scanned through: that of the processor's own four-wire bus."""


@dataclass(frozen=True)
class Drawing:
    """Duration in seconds, bytes sent, and their bus; empty for wires of its own. ``changes_s`` is what the panel takes
    afterwards to show them."""

    seconds: float
    data: int
    bus: str
    changes_s: float = 0.0


def drawing_of(face: Face, panel: Panel) -> Drawing:
    """The drawing of a whole face."""
    sent = sent_for(panel, compose(face, panel, {}).memory)
    return _drawing(panel, sent, clears=face.writes == CLEARED)


@singledispatch
def _drawing(panel: Panel, sent: tuple[Sent, ...], *, clears: bool) -> Drawing:
    data = bytes_on_bus(panel, sent)
    return Drawing(Bus(FOUR_WIRE, DRIVER_HZ).transfer_s(data), data, "")


@_drawing.register
def _(panel: SegmentPanel, sent: tuple[Sent, ...], *, clears: bool) -> Drawing:
    data = bytes_on_bus(panel, sent)
    if panel.is_addressed:
        # Two transmissions, for its brightness and for its memory, each with the address.
        clocks = 9 * (data + 2) + 2 * ENDS
        return Drawing(clocks / panel.clock_hz, data, f"{TWO_WIRE} bus")
    if panel.drive == DRIVER:
        # A start and a stop around each command and around the digits with their address, an acknowledge per byte.
        parts = sum(each.command for each in sent) or 1
        clocks = 9 * data + ENDS * parts
        return Drawing(clocks / DRIVER_HZ, data, "")
    return Drawing(Bus(FOUR_WIRE, DRIVER_HZ).transfer_s(data), data, "")


@_drawing.register
def _(panel: PixelPanel, sent: tuple[Sent, ...], *, clears: bool) -> Drawing:
    data = bytes_on_bus(panel, sent)
    bus = f"{panel.bus.kind} bus" if panel.bus.kind == TWO_WIRE else ""
    return Drawing(panel.bus.transfer_s(data), data, bus, panel.change.usual_s)


@_drawing.register
def _(panel: CharacterPanel, sent: tuple[Sent, ...], *, clears: bool) -> Drawing:
    data = bytes_on_bus(panel, sent)
    strobes = sum(len(each.data) for each in sent)
    # The controller needs time for each write; over an expander the bus is slower than that, unless its clock is high.
    waits = strobes * panel.write_us / 1e6 + (panel.clear_ms / 1e3 if clears else 0.0)
    if panel.bus is None:
        return Drawing(waits, data, "")
    return Drawing(max(panel.bus.transfer_s(data), waits), data, f"{TWO_WIRE} bus")
