"""Colours: dark, and a light twin on parchment. A tone of a view gets its colour here and nowhere else."""

from __future__ import annotations

from functools import lru_cache

from rich.style import Style
from textual.theme import Theme

from lesart.core.dataclass_later import dataclass


@dataclass(frozen=True)
class Palette:
    """Hex colours. ``faint`` is as faint as 4.5:1 on ``raised`` allows."""

    ink: str
    raised: str
    hairline: str
    text: str
    faint: str
    rubric: str
    lapis: str
    ochre: str
    verdigris: str
    dark: bool


DARK = Palette(
    ink="#14120f",
    raised="#1b1814",
    hairline="#3a342b",
    text="#e8dfcc",
    faint="#978b7a",
    rubric="#e0634a",
    lapis="#7aa5db",
    ochre="#dba945",
    verdigris="#6fb59a",
    dark=True,
)
LIGHT = Palette(
    ink="#f3ead7",
    raised="#e9dfc8",
    hairline="#cdbfa3",
    text="#2a241b",
    faint="#6a5f4e",
    rubric="#a93a1e",
    lapis="#245a99",
    ochre="#7d5600",
    verdigris="#256b50",
    dark=False,
)


def theme_of(palette: Palette, name: str) -> Theme:
    """The theme of the framework's own widgets: the command list, the input in place."""
    return Theme(
        name=name,
        primary=palette.rubric,
        secondary=palette.lapis,
        accent=palette.verdigris,
        foreground=palette.text,
        background=palette.ink,
        surface=palette.raised,
        panel=palette.raised,
        warning=palette.ochre,
        error=palette.rubric,
        success=palette.verdigris,
        dark=palette.dark,
        variables={
            "block-cursor-background": palette.rubric,
            "block-cursor-foreground": palette.ink,
            "input-cursor-background": palette.rubric,
            "input-selection-background": f"{palette.lapis} 40%",
            "border": palette.hairline,
        },
    )


@lru_cache(maxsize=256)
@lru_cache(maxsize=512)
def style(palette: Palette, tone: str, ground: str = "ink", bold: bool = False, chosen: bool = False) -> Style:
    """The style of a tone on one of the two grounds. ``cells`` are reversed; chosen text is underlined."""
    back = palette.raised if ground == "raised" else palette.ink
    if tone == "cells":
        return Style(color=palette.ink, bgcolor=palette.text, bold=bold)
    return Style(color=getattr(palette, tone), bgcolor=back, bold=bold, underline=chosen)
