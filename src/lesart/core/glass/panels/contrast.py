"""Contrast: whether lit pixels can be told from what is behind them."""

from __future__ import annotations

from functools import singledispatch

from lesart.core.glass.panels.colour_panel import ColourPanel
from lesart.core.glass.panels.lamp_panel import LampPanel
from lesart.core.glass.panels.panel import Panel
from lesart.core.glass.panels.pixel_colours import COLOURS
from lesart.core.glass.panels.pixel_panel import BEHIND, LIGHTS, PixelPanel
from lesart.core.notes import DOUBT, Mend, Note
from lesart.core.quantity import plain_number
from lesart.core.step import Step

LEAST = 3.0
"""Least contrast of text (ISO 9241-303)."""
LEAST_OF_LAMPS = 1.1
FLARE = 0.05
"""Ambient light added to everything, as a share of the brightest (as in WCAG)."""


def luminance(colour: str) -> float:
    """Relative luminance of ``#rrggbb``, 0 black to 1 white.

    Source: IEC 61966-2-1, the standard colour space of screens.
    """
    parts = [int(colour[at : at + 2], 16) / 255 for at in (1, 3, 5)]
    red, green, blue = (part / 12.92 if part <= 0.04045 else ((part + 0.055) / 1.055) ** 2.4 for part in parts)
    return 0.2126 * red + 0.7152 * green + 0.0722 * blue


def contrast(one: str, other: str) -> float:
    """Contrast ratio from 1, equal, to 21, black and white."""
    dark, bright = sorted((luminance(one), luminance(other)))
    return (bright + FLARE) / (dark + FLARE)


@singledispatch
def inspect_contrast(panel: Panel) -> list[Note]:
    """A note on a see-through panel in front of something bright."""
    return []


@inspect_contrast.register
def _(panel: ColourPanel) -> list[Note]:
    """A note on its own colour on its ground; those of items are checked face by face."""
    found = contrast_on(panel, panel.colour)
    mend = (Mend(("panels", panel.name, "colour"), readable_on(panel.ground)),)
    says = said_contrast(panel.colour, panel.ground, found)
    return _hardly_seen(panel, says, found, "colour", "choose another colour or another ground", mend)


@inspect_contrast.register
def _(panel: LampPanel) -> list[Note]:
    """A note on lamps whose own colour is dark."""
    found = contrast(COLOURS[panel.colour], COLOURS[panel.ground])
    if found >= least_contrast(panel):
        return []
    mend = (Mend(("panels", panel.name, "colour"), readable_on(panel.ground)),)
    says = said_contrast(panel.colour, panel.ground, found)
    return _hardly_seen(panel, says, found, "colour", "choose another colour", mend)


def least_contrast(panel: ColourPanel) -> float:
    """Least contrast of what is shown: of lamps, which shine by themselves, any is enough."""
    return LEAST_OF_LAMPS if isinstance(panel, LampPanel) else LEAST


def contrast_on(panel: ColourPanel, colour: str) -> float:
    """Contrast of a named colour on the panel's ground, as both are seen."""
    return contrast(panel.as_seen(colour), panel.as_seen(panel.ground))


def said_contrast(colour: str, ground: str, found: float) -> str:
    """A sentence on two colours and the contrast they lack."""
    if colour == ground:
        return f"{colour} on {ground} cannot be seen."
    return f"{colour} on {ground} {_lacks(found)}"


def _lacks(found: float) -> str:
    return f"has a contrast of {plain_number(found, 2)}; {plain_number(LEAST, 2)} is needed to be read."


def _hardly_seen(
    panel: Panel, says: str, found: float, key: str, remedy: str, mend: tuple[Mend, ...] = ()
) -> list[Note]:
    """A note where a contrast is too low."""
    if found >= LEAST:
        return []
    return [
        Note(
            DOUBT,
            Step.GLASS,
            None,
            f"{panel.name}: {says}",
            figure=found,
            limit=LEAST,
            remedy=remedy,
            mend=mend,
            panel=panel.name,
            place=("panels", panel.name, key),
        )
    ]


def readable_on(ground: str) -> str:
    """White or black, whichever is more readable on a colour."""
    return max(("white", "black"), key=lambda each: contrast(COLOURS[each], COLOURS[ground]))


@inspect_contrast.register
def _(panel: PixelPanel) -> list[Note]:
    if not panel.see_through or not panel.is_self_lit:
        return []
    found = contrast(LIGHTS[panel.light][1], BEHIND[panel.behind])
    says = f"its {panel.light} light before something {panel.behind} {_lacks(found)}"
    return _hardly_seen(panel, says, found, "behind", "put something dark behind it")
