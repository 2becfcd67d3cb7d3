"""Pack: a channel as the firmware computes it, and the whole firmware: written, compiled, compared."""

from __future__ import annotations

from collections.abc import Callable

from lesart.core.step import Step
from lesart.desk.state import LEAVES
from lesart.desk.workspace.context import Context
from lesart.desk.workspace.pack.channel import channel_leaf
from lesart.desk.workspace.pack.firmware import firmware_leaf
from lesart.study.views import Chart, Leaf, Line, Workspace

_LEAVES: dict[str, Callable[[Context], tuple[str, Chart | None, list[Line]]]] = {
    "this channel": channel_leaf,
    "firmware": firmware_leaf,
}

ADDS = "say the processor, like 16 bit, no divider; or within 10 %, in whole numbers: "


def build(context: Context) -> Workspace:
    """Build the open leaf."""
    leaf = context.state.leaf_of(Step.PACK)
    subtitle, chart, lines = _LEAVES[leaf](context)
    return Workspace(
        Step.PACK,
        subtitle,
        chart=chart,
        lines=tuple(lines),
        leaves=tuple(Leaf(name, name == leaf) for name in LEAVES[Step.PACK]),
        adds=ADDS,
        hints=(("l", "turns"), ("x", "writes it, compiles and compares")),
    )
