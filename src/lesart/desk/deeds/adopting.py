"""What ``a`` adopts: a calibration on its leaf, else the variant looked at."""

from __future__ import annotations

from lesart.core.step import Step
from lesart.desk.deeds.variants import adopt_variant
from lesart.desk.desk import Desk
from lesart.desk.entries.true.calibrations import LEAF, adopted_again, named_by


def adopt(desk: Desk) -> None:
    """Adopt the selected calibration on its leaf, else the variant looked at."""
    state = desk.state
    if state.step != Step.TRUE or state.leaf_of(Step.TRUE) != LEAF:
        adopt_variant(desk)
        return
    name = named_by(state.selected_at(Step.TRUE), state.chosen)
    if name is None:
        desk.say("Select one that is kept; tab goes to the values, + puts the adopted one away.")
        return
    desk.change(lambda: adopted_again(desk.editor, state, name))
