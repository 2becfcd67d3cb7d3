"""A hook-up proposed from the parts' roles: rails, grounds, pins, and the parts needed in between.

What is joined already stays as it is.
"""

from __future__ import annotations

from collections.abc import Collection

from lesart.core.dataclass_later import dataclass
from lesart.core.notes import Mend
from lesart.core.wire.entry import JOINS, join_entry
from lesart.core.wire.hookup import End, Hookup, is_pull
from lesart.core.wire.proposal.draft import DraftHookup
from lesart.core.wire.proposal.lamps import lamps
from lesart.core.wire.proposal.levels import between, pull_ups
from lesart.core.wire.proposal.power import addresses, sources, supplies
from lesart.core.wire.proposal.signals import bridges, fixed_ends, signals
from lesart.core.wire.role import is_rail

ORDER = (addresses, sources, supplies, bridges, fixed_ends, signals, lamps, between, pull_ups)
"""Power before signals, because levels follow from it; parts between levels last."""


@dataclass(frozen=True)
class Plan:
    """``hookup`` with all additions, ``mends`` that make them, and a sentence for each pin that found no place."""

    hookup: Hookup
    mends: tuple[Mend, ...]
    unplaced: tuple[str, ...]


def propose(hookup: Hookup) -> Plan:
    """Join what is not joined. Optional pins stay open."""
    grow = DraftHookup(hookup)
    for step in ORDER:
        step(grow)
    return Plan(grow.hookup, tuple(grow.mends), tuple(grow.unplaced))


def mends_for(hookup: Hookup, plan: Plan, ends: Collection[End]) -> tuple[Mend, ...]:
    """The edits of a plan that join some pins of a hook-up, with the parts they need in between."""
    there = {join.index for join in hookup.joins}
    new = [join for join in plan.hookup.joins if join.index not in there]
    first = [join for join in new if set(ends) & set(join.ends)]
    # A resistive sensor at a converter brings its fixed resistor, a bus its pull-ups.
    pins = {end for join in first for end in join.ends if not is_rail(plan.hookup.pin(end).roles)}
    joins = [join for join in new if join in first or (pins & set(join.ends) and is_pull(plan.hookup, join))]
    needed = {join.through for join in joins if join.through and join.through not in hookup.parts}
    mends = [mend for mend in plan.mends if mend.key[0] == "parts" and len(mend.key) == 2 and mend.key[1] in needed]
    return (*mends, *(Mend(JOINS, join_entry(join)) for join in joins))
