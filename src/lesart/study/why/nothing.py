"""Nothing comes, or always the same value: the symptom, and the path of checks through the hook-up."""

from __future__ import annotations

import numpy as np

from lesart.core.errors import LesartError, RequestError
from lesart.core.quantity import counted_of, format_quantity
from lesart.core.wire.silent_part import Path, silent_path
from lesart.project.model import Channel, Project
from lesart.study.bench import Bench
from lesart.study.why.of_raw import at_its_end
from lesart.study.why.truth import Truth

MOSTLY = 0.5


def symptom(project: Project, bench: Bench, channel: Channel) -> str:
    """What the capture shows, in a sentence: nothing, one value, a saturated converter, or real readings."""
    try:
        block = bench.raw(project, channel)
    except LesartError as error:
        return str(error)
    if not len(block):
        return f"{channel.name}: no sample came."
    good = block.x[block.usable]
    if len(good) < (1 - MOSTLY) * len(block):
        if not len(good):
            return f"{channel.name}: no sample is a number."
        return f"{channel.name}: {counted_of(len(block) - len(good), len(block), 'sample')} are no numbers."
    if np.all(good == good[0]):
        said = format_quantity(float(good[0]), channel.unit_raw, 7)
        end = at_its_end(channel, [Truth(float(good[0]), 0.0, 1.0)])
        return f"{channel.name}: it says {said} all the time" + (f"; {end}." if end else ".")
    end = at_its_end(channel, [Truth(float(x), 0.0, 1.0) for x in good[:1000].tolist()])
    if end:
        return f"{channel.name}: {end}."
    low, high = (format_quantity(float(each), channel.unit_raw, 7) for each in (good.min(), good.max()))
    return f"{channel.name}: it does say something, from {low} to {high}."


def path_of(project: Project, part: str) -> Path:
    """The checks for a part. Raises RequestError where the hook-up has no such part."""
    if part not in project.hookup.parts:
        known = ", ".join(project.hookup.parts) or "none; + in Wire adds one"
        raise RequestError(f'part "{part}" is not in the hook-up, which has {known}.')
    return silent_path(project.hookup, project.checks, project.measured, part)


def part_of(channel: Channel) -> str:
    """The part that a channel is read from. Raises RequestError where not stated."""
    if not channel.part:
        raise RequestError(
            f"{channel.name}: which part it is read from is not said; set {channel.name}'s part in 2 Raw, "
            "or name the part."
        )
    return channel.part
