"""Glass, what only chains of lamps have: the current of what they show."""

from __future__ import annotations

from lesart.core.glass.panels.frame import ColourFrame
from lesart.core.glass.panels.lamp_panel import LampPanel
from lesart.desk.workspace.context import Context, label, number, text
from lesart.study.views import Line


def drawn_at_most(panel: LampPanel) -> Line:
    """The current of all lamps at their whitest."""
    return label("all white they draw "), text(number(panel.most_a, "A", 3))


def drawn_now(panel: LampPanel, context: Context) -> Line:
    """The current of what they show now, beside the most."""
    frames = (glass.frame for glass in context.glasses if glass.name == panel.name)
    frame = next((each for each in frames if isinstance(each, ColourFrame)), None)
    if frame is None:
        return drawn_at_most(panel)
    return label("they draw "), text(number(panel.current_a(frame), "A", 3)), label(", "), *drawn_at_most(panel)
