"""What can be wrong with how an item moves: too slow or too fast for the eye, or for the panel."""

from __future__ import annotations

from lesart.core.glass.faces.face import Face
from lesart.core.glass.faces.items import Item
from lesart.core.glass.faces.motion import STANDS
from lesart.core.glass.panels.panel import Panel
from lesart.core.notes import DOUBT, FAULT, Mend, Note
from lesart.core.quantity import plain_number
from lesart.core.step import Step

CALMEST_HZ, FASTEST_HZ = 0.3, 4.0
"""Slower, a blink looks like a loose wire; faster, it flickers and cannot be read."""


def inspect_motion(face: Face, panel: Panel, item: Item, index: int, channel: str | None) -> list[Note]:
    """Notes on an item that blinks badly, or that changes sooner than its panel can."""
    change_s = panel.change.usual_s
    if change_s and not item.motion.is_still:
        return _on_slow_panel(face, item, index, channel, change_s)
    return _blinks(face, item, index, channel)


def _on_slow_panel(face: Face, item: Item, index: int, channel: str | None, change_s: float) -> list[Note]:
    hz, moves = item.motion.blink_hz, item.motion.moves != STANDS
    step_s = min(0.5 / hz if hz else item.motion.step_s, item.motion.step_s if moves else 0.5 / hz)
    if step_s > change_s:
        return []
    key = "moves" if moves else "blink"
    place = ("faces", face.name, "items", index, key)
    return [
        Note(
            FAULT,
            Step.GLASS,
            channel,
            f"{face.panel}: the {item.named()} changes every {plain_number(step_s, 3)} s, "
            f"but the panel takes {plain_number(change_s, 3)} s to change.",
            figure=step_s,
            unit="s",
            limit=change_s,
            remedy="let it stand still",
            mend=(Mend(place, STANDS if moves else "0 Hz"),),
            panel=face.panel,
            place=place,
        )
    ]


def _blinks(face: Face, item: Item, index: int, channel: str | None) -> list[Note]:
    hz = item.motion.blink_hz
    if not hz or CALMEST_HZ <= hz <= FASTEST_HZ:
        return []
    why = "is taken for a loose wire" if hz < CALMEST_HZ else "cannot be read"
    return [
        Note(
            DOUBT,
            Step.GLASS,
            channel,
            f"{face.panel}: the {item.named()} blinks at {plain_number(hz, 2)} Hz, which {why}.",
            figure=hz,
            unit="Hz",
            limit=FASTEST_HZ if hz > FASTEST_HZ else CALMEST_HZ,
            remedy="blink at 1 Hz",
            mend=(Mend(("faces", face.name, "items", index, "blink"), "1 Hz"),),
            panel=face.panel,
            place=("faces", face.name, "items", index, "blink"),
        )
    ]
