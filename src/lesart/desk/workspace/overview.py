"""The yard, 0: every channel's thread in one line, every panel, and the number of notes."""

from __future__ import annotations

import math

from lesart.core.fit.fill import fill
from lesart.core.glass.faces.face import Face
from lesart.core.quantity import beside_unit
from lesart.core.step import COMPUTED
from lesart.desk.workspace.context import Context, cut, label, number, text
from lesart.desk.workspace.raw.live import overview_lines
from lesart.project.model import Channel
from lesart.study.views import Line, Workspace

SHOWN_WIDTH = 21
"""Columns for the channels of a face."""


def build(context: Context) -> Workspace:
    """Build the view of all channels and panels."""
    heads = f"{'raw':>13}{'law':>12}{'true':>12}{'calm':>12}"
    lines: list[Line] = [(label(f"   {'channel':<15}{heads} cells"),)]
    lines += [_thread(context, channel) for channel in context.project.channels.values()]
    # No blank line: twenty channels, two lines and four panels fill the screen.
    lines += overview_lines(context)
    lines.append((label(f"   {'panel':<16}{'is':<24}{'face':<16}shows"),))
    for glass in context.glasses:
        faces = context.project.faces_on(glass.name)
        shown = _shown(faces[0]) if faces else ""
        name = faces[0].name if faces else "no face"
        lines.append((text(f"   {glass.name[:15]:<16}"), label(f"{glass.says:<24}{name[:15]:<16}"), text(shown)))
    counts = {mark: sum(note.mark == mark for note in context.notes) for mark in "†‡·"}
    said = f"notes † {counts['†']}  ‡ {counts['‡']}  · {counts['·']}" if context.notes else ""
    return Workspace(None, f"every channel and panel at once   {said}".rstrip(), lines=tuple(lines))


def _shown(face: Face) -> str:
    """The channels of a face."""
    return cut(", ".join(face.channels), SHOWN_WIDTH)


def _thread(context: Context, channel: Channel) -> Line:
    """One channel's line at the cursor, or by hand, from raw value to cells."""
    here = channel.name == context.channel.name
    raw, law, true, calm = (context.at[channel.name][step].value for step in COMPUTED)
    cells = fill(channel.field, context.readings[channel.name])
    return (
        text(" ▌ " if here else "   ", "rubric"),
        text(f"{channel.name[:14]:<15}", bold=here),
        text(f"{number(raw, channel.unit_raw.symbol, 7):>13}", "lapis"),
        text(f"{_reading(law, channel):>12}", "ochre"),
        text(f"{_reading(true, channel):>12}", "ochre"),
        text(f"{_reading(calm, channel):>12}", "verdigris"),
        text(" "),
        text(cells.text, "cells"),
    )


def _reading(value: float, channel: Channel) -> str:
    """A reading with one decimal more than the field shows, so that the effect of rounding is visible."""
    if not math.isfinite(value):
        return "—"
    return beside_unit(f"{value:.{channel.field.decimals + 1}f}".replace("-", "−"), str(channel.unit))
