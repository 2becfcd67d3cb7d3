"""What can be wrong with colours on paper that has three inks: a colour that none of them is."""

from __future__ import annotations

from collections.abc import Iterator

from lesart.core.glass.faces.face import Face
from lesart.core.glass.panels.ink_panel import InkPanel
from lesart.core.glass.panels.pixel_colours import COLOURS
from lesart.core.notes import DOUBT, Mend, Note
from lesart.core.step import Step


def inspect_inks(face: Face, panel: InkPanel) -> Iterator[Note]:
    """Notes on items in a colour that becomes another one."""
    for index, item in enumerate(face.items):
        hues = (("colour", item.hue.colour, ""), ("alarm_colour", item.hue.alarm, " in an alarm"))
        for key, colour, when in hues:
            ink = panel.ink_of(colour) if colour in COLOURS else colour
            if ink == colour:
                continue
            place = ("faces", face.name, "items", index, key)
            yield Note(
                DOUBT,
                Step.GLASS,
                item.reads[0] if item.reads else None,
                f"{face.panel}: the {item.named()} is {ink}{when}, not {colour}; "
                f"its inks are black, white and {panel.third}.",
                remedy=f"say {ink}, as it will look",
                mend=(Mend(place, ink),),
                panel=face.panel,
                place=place,
            )
