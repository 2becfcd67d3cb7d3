"""How long it takes to draw a face on a panel, and what goes over which wires meanwhile."""

from __future__ import annotations

from dataclasses import dataclass

from lesart.core.glass.bus.sending import bytes_on_bus, sent_for
from lesart.core.glass.bus.telling import PORT_BYTES
from lesart.core.glass.faces.face import CLEARED, Face, compose
from lesart.core.glass.panels.character_panel import CharacterPanel
from lesart.core.glass.panels.panel import Panel
from lesart.core.glass.panels.pixel_panel import PixelPanel
from lesart.core.glass.panels.segment_panel import SegmentPanel
from lesart.core.glass.panels.transfer import TWO_WIRE, Bus

EXPANDER = "two-wire expander"
DRIVER_HZ = 100_000.0
"""Of drivers of segments and of chained registers, where nobody says: what a program makes by setting pins."""


@dataclass(frozen=True)
class Drawing:
    """Seconds that all of it takes, bytes that are sent, and the bus they go over; empty for wires of its own."""

    seconds: float
    data: int
    bus: str


def drawing_of(face: Face, panel: Panel) -> Drawing:
    """All of a face, as it is written each time."""
    data = bytes_on_bus(panel, sent_for(panel, compose(face, panel, {}).memory))
    if isinstance(panel, PixelPanel):
        return Drawing(panel.bus.transfer_s(data), data, f"{panel.bus.kind} bus" if panel.bus.kind == TWO_WIRE else "")
    if isinstance(panel, SegmentPanel):
        return Drawing(Bus("four-wire", DRIVER_HZ).transfer_s(data), data, "")
    assert isinstance(panel, CharacterPanel)
    strobes = sum(len(each.data) for each in sent_for(panel, compose(face, panel, {}).memory))
    # The controller takes its time for each write; over an expander the bus is slower than that, unless it is fast.
    waits = strobes * panel.write_us / 1e6 + (panel.clear_ms / 1e3 if face.writes == CLEARED else 0.0)
    if panel.hookup != EXPANDER:
        return Drawing(waits, data, "")
    return Drawing(max(expander_bus(panel).transfer_s(data), waits), data, f"{TWO_WIRE} bus")


def expander_bus(panel: CharacterPanel) -> Bus:
    """Six bytes of the port for each byte of the panel, in a transmission of their own behind the address alone."""
    return Bus(TWO_WIRE, panel.clock_hz, at_once=PORT_BYTES, head=1)
