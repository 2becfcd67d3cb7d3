"""What ``x`` toggles, by the open step and leaf."""

from __future__ import annotations

from collections.abc import Callable, Mapping
from typing import TYPE_CHECKING

from lesart.core.step import Step
from lesart.desk.deeds.glass import before_or_after, turn_dot
from lesart.desk.deeds.pace import drawn_or_wanted, figures_kept, next_sweep
from lesart.desk.deeds.packing import write_firmware
from lesart.desk.deeds.why import write_answer, write_look, write_time

if TYPE_CHECKING:
    from lesart.desk.desk import Desk


def _keep_figures(desk: Desk) -> None:
    desk.turn(lambda state: figures_kept(state, desk.bench))


def _rule(desk: Desk) -> None:
    from lesart.desk.deeds.fit import own_or_channels

    own_or_channels(desk)


TURNS: Mapping[tuple[Step | None, str], Callable[[Desk], None]] = {
    (Step.FIT, "field"): _rule,
    (Step.FIT, "rules"): _rule,
    (Step.GLASS, "items"): lambda desk: desk.turn(before_or_after),
    (Step.GLASS, "glyphs"): turn_dot,
    (Step.TRUE, "why"): write_answer,
    (Step.GLASS, "why"): write_look,
    (Step.PACE, "why"): write_time,
    (Step.PACE, "loop"): _keep_figures,
    (Step.PACE, "tasks"): _keep_figures,
    (Step.PACE, "digits"): _keep_figures,
    (Step.PACE, "what if"): lambda desk: desk.turn(next_sweep),
    (Step.PACK, "this channel"): write_firmware,
    (Step.PACK, "firmware"): write_firmware,
    (Step.PACE, "trace"): lambda desk: desk.turn(drawn_or_wanted),
}


def turn_over(desk: Desk) -> None:
    """Toggle a dot of a glyph, a face before and after an edit, or figures of Pace."""
    at = desk.state.step, desk.state.leaf_of(desk.state.step)
    if at in TURNS:
        TURNS[at](desk)
    else:
        desk.say(
            "x writes an answer of why in 4 True; it makes a rule this field's own in 6 Fit; in 7 Glass it turns a dot "
            "of a glyph, or before and after; in 8 Pace it keeps figures; in 9 Pack it writes the firmware."
        )
