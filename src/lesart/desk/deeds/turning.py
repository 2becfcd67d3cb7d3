"""What ``x`` turns over, by the step and leaf that are open."""

from __future__ import annotations

from collections.abc import Callable, Mapping
from typing import TYPE_CHECKING

from lesart.core.step import Step
from lesart.desk.deeds.glass import before_or_after, turn_dot
from lesart.desk.deeds.pace import drawn_or_wanted, keep_figures, next_sweep

if TYPE_CHECKING:
    from lesart.desk.desk import Desk

TURNS: Mapping[tuple[Step | None, str], Callable[[Desk], None]] = {
    (Step.GLASS, "items"): before_or_after,
    (Step.GLASS, "glyphs"): turn_dot,
    (Step.PACE, "loop"): keep_figures,
    (Step.PACE, "tasks"): keep_figures,
    (Step.PACE, "digits"): keep_figures,
    (Step.PACE, "what if"): next_sweep,
    (Step.PACE, "trace"): drawn_or_wanted,
}


def turn_over(desk: Desk) -> None:
    """A dot of a glyph, a face before and after an edit, figures of Pace."""
    at = desk.state.step, desk.state.leaf_of(desk.state.step)
    if at in TURNS:
        TURNS[at](desk)
    else:
        desk.say("x turns a dot on the glyphs of 7 Glass, before and after on its items, figures in 8 Pace.")
