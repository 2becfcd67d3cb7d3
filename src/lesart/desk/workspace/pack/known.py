"""The chosen channel in integers, cached per setting."""

from __future__ import annotations

from typing import TYPE_CHECKING

from lesart.core.errors import LesartError
from lesart.core.step import Step
from lesart.desk.workspace.context import Context

if TYPE_CHECKING:
    from lesart.study.packing.made import PackedChannel

UNKNOWN = "Its capture cannot be read, so it is not known which raw numbers come."


def packed_here(context: Context) -> PackedChannel | str | None:
    """The packed channel, or why not; None while not computed."""
    if context.run is None:
        return context.problem or UNKNOWN
    from lesart.study.packing.made import channel_packed_alone  # only loaded for this step

    settings = context.project.pack

    def compute() -> PackedChannel | str:
        try:
            return channel_packed_alone(context.project, context.bench, context.channel, settings)
        except LesartError as error:
            return str(error)

    return context.in_time(_what(context), context.channel, context.run.blocks[Step.RAW], compute)


def packed_before(context: Context) -> PackedChannel | str | None:
    """The same where it is already known, or the open step needs it; else None."""
    if context.run is None:
        return None
    raw = context.run.blocks[Step.RAW]
    if context.state.step is Step.PACK or context.bench.knows(_what(context), context.channel, raw):
        return packed_here(context)
    return None


def _what(context: Context) -> str:
    return f"pack {context.project.pack}"
