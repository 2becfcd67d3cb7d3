"""Pace: figures kept beside those to come, the figure that is swept, a trace as it draws or as it should."""

from __future__ import annotations

from dataclasses import replace
from typing import TYPE_CHECKING

from lesart.study.loop_verdicts import verdicts_known

if TYPE_CHECKING:
    from lesart.desk.desk import Desk


def next_sweep(desk: Desk) -> None:
    """The next figure is swept."""
    desk.state = replace(desk.state, pace_sweep=desk.state.pace_sweep + 1)


def drawn_or_wanted(desk: Desk) -> None:
    """What a trace draws, or what it should have drawn."""
    wanted = not desk.state.pace_wanted
    desk.state = replace(desk.state, pace_wanted=wanted)
    desk.say("As it should be; x shows what the trace draws." if wanted else "As the trace draws it.")


def keep_figures(desk: Desk) -> None:
    """Verdicts are kept, to stand beside those to come; or let go of."""
    state = desk.state
    if state.pace_beside:
        desk.state = replace(state, pace_beside=())
        desk.say("The figures kept for comparison are gone.")
        return
    kept = tuple((each.name, each.figure) for each in verdicts_known(state.project, desk.bench))
    desk.state = replace(state, pace_beside=kept)
    desk.say(f"{len(kept)} figures are kept, to compare with what you change from now on; x lets go of them.")
