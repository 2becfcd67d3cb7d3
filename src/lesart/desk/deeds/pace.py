"""Deeds in Pace: keeping figures for comparison, the swept figure, a trace as it draws or as it should."""

from __future__ import annotations

from dataclasses import replace

from lesart.desk.state import State
from lesart.study.bench import Bench
from lesart.study.loop_verdicts import verdicts_known


def next_sweep(state: State) -> State:
    """Sweep the next figure."""
    return replace(state, pace=replace(state.pace, sweep=state.pace.sweep + 1))


def drawn_or_wanted(state: State) -> State:
    """Toggle between what a trace draws and what it should draw."""
    said = "As the trace draws it." if state.pace.wanted else "As it should be; x shows what the trace draws."
    return replace(state, pace=replace(state.pace, wanted=not state.pace.wanted)).says(said)


def figures_kept(state: State, bench: Bench) -> State:
    """Keep the present figures beside later ones, or drop them again."""
    if state.pace.kept:
        return replace(state, pace=replace(state.pace, kept=())).says("The figures kept for comparison are dropped.")
    kept = tuple((each.name, each.figure) for each in verdicts_known(state.project, bench))
    figures = "1 figure is" if len(kept) == 1 else f"{len(kept)} figures are"
    said = f"{figures} kept, to compare with what you change from now on; x drops them."
    return replace(state, pace=replace(state.pace, kept=kept)).says(said)
