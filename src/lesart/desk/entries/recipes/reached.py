"""Whether a raw value gives a reading, and at which law it fails where it does not."""

from __future__ import annotations

import math

import numpy as np

from lesart.core.block import Block, block_of
from lesart.core.chain import Stage
from lesart.core.law.stage import LawStage
from lesart.core.quantity import format_quantity
from lesart.core.step import Step
from lesart.project.model import Channel


def is_read(channel: Channel, reading: float) -> bool:
    """True where some raw value gives that reading."""
    block = block_of([channel.chain.raw_for(reading)])
    for link in (link for link in channel.chain.links if link.step is not Step.CALM):
        block = link.settled(block)
    return bool(block.usable[0])


def where_it_ends(channel: Channel, raw: Block) -> str:
    """The law whose range the median raw value leaves, and that range."""
    good = raw.x[raw.usable]
    if not len(good):
        return "the capture has no value"
    middle = float(np.sort(good)[len(good) // 2])
    block, unit, shown = block_of([middle]), channel.unit_raw, format_quantity(middle, channel.unit_raw, 5)
    for link in (link for link in channel.chain.links if link.step is not Step.CALM):
        given = format_quantity(float(block.x[0]), unit, 4)
        block = link.settled(block)
        if not block.usable[0]:
            said = shown if given == shown else f"{shown} is {given}"
            return f"{said}; {link.stage.kind} {_holds(link.stage) or 'gives no reading'}{_more_bits(link.stage, raw)}"
        unit = link.stage.unit_out
    return "no value in the capture gives a reading this way"


def _more_bits(stage: Stage, raw: Block) -> str:
    """Fewest bits of a converter that gave these values."""
    if not isinstance(stage, LawStage) or "converter" not in stage.kind:
        return ""
    most = float(raw.x[raw.usable].max(initial=0.0))
    bits = max(int(most), 1).bit_length()
    return f"; a converter that gives {most:g} has {bits} bits at least" if most > max(stage.law.valid_in) else ""


def _holds(stage: Stage) -> str:
    if not isinstance(stage, LawStage):
        return ""
    ends = [format_quantity(end, stage.unit_in, 4) for end in sorted(stage.law.valid_in) if math.isfinite(end)]
    return f"holds from {ends[0]} to {ends[1]}" if len(ends) == 2 else ""
