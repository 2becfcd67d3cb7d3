"""0: every channel's thread in one line, and every panel's one line."""

from __future__ import annotations

import math

from lesart.core.fit.field import Reading
from lesart.desk.views import Line, Workspace
from lesart.desk.workspace.context import Context, label, number, text
from lesart.project.model import Channel


def _reading(reading: Reading | None, channel: Channel) -> str:
    if reading is None or not math.isfinite(reading.value):
        return "—"
    return f"{reading.value:.{channel.field.decimals + 1}f} {channel.unit}".replace("-", "−")


def build(context: Context) -> Workspace:
    """Channels and panels of the whole project."""
    lines: list[Line] = [(label(f"   {'channel':<22}{'raw':>18}   {'reading':>16}   on"),)]
    for channel in context.project.channels.values():
        reading = context.readings.get(channel.name)
        raw = context.raw_readings.get(channel.name)
        here = channel.name == context.channel.name
        panels = ", ".join(context.project.panels_showing(channel.name)) or "no panel"
        lines.append(
            (
                text(" ▌ " if here else "   ", "rubric"),
                text(f"{channel.name[:21]:<22}", bold=here),
                text(f"{number(raw, channel.unit_raw.symbol, 9):>18}", "lapis"),
                text(f"   {_reading(reading, channel):>16}", "verdigris"),
                label(f"   {panels}"),
            )
        )
    lines += [(), (label("   panel"),)]
    for glass in context.glasses:
        faces = ", ".join(face.name for face in context.project.faces_on(glass.name)) or "no face"
        lines.append((text(f"   {glass.name:<22}"), label(f"{glass.says:<24}{faces}")))
    counts = {mark: sum(note.mark == mark for note in context.notes) for mark in "†‡·"}
    lines += [
        (),
        (
            label("   notes   "), text(f"† {counts['†']}", "rubric"),
            text(f"   ‡ {counts['‡']}", "ochre"), text(f"   · {counts['·']}"),
        ),
    ]  # fmt: skip
    return Workspace(0, "All", "every channel and panel at once", lines=tuple(lines))
