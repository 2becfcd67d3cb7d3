"""The parts of every decoder: a record that describes it, and what it makes of the lines of a trace."""

from __future__ import annotations

from collections.abc import Callable, Mapping
from dataclasses import field
from typing import Any

import numpy as np

from lesart.core.block import Block, Floats, Marks
from lesart.core.dataclass_later import dataclass
from lesart.core.parameters import Parameter
from lesart.core.raw.edges import Edges
from lesart.core.raw.messages.frames import ByteFrame


@dataclass(frozen=True, eq=False)
class Bits:
    """Bits as they were read: from ``t`` to ``end`` in seconds, ``value`` 0 or 1, all shape (n,).

    ``margin`` is the distance of each from being read as the other, as a share of the threshold; NaN for bits not
    decided by a length.
    """

    t: Floats
    end: Floats
    value: Marks
    margin: Floats


@dataclass(frozen=True, eq=False)
class Decoded:
    """``columns`` of values by name with their ``units``, or ``frames``; ``removed`` edges were glitches.

    ``found`` are figures that the decoder worked out itself, such as a baud rate. ``from_frame`` names for the samples
    of columns to which not every frame gives one the frame that each came with, by its place.
    """

    columns: Mapping[str, Block] = field(default_factory=dict)
    units: Mapping[str, str] = field(default_factory=dict)
    frames: tuple[ByteFrame, ...] | None = None
    bits: Bits | None = None
    removed: int = 0
    found: Mapping[str, float] = field(default_factory=dict)
    from_frame: Mapping[str, tuple[int, ...]] = field(default_factory=dict)


NARROW = 0.2
"""A margin below this is a doubt: with a little more jitter the bit flips."""


def least_margin(decoded: Decoded) -> float | None:
    """The least margin of a bit in an intact frame; None where no bit was decided by a length."""
    bits, whole = decoded.bits, [frame for frame in decoded.frames or () if not frame.mark]
    if bits is None or not whole or not len(bits.t):
        return None
    place = np.searchsorted([frame.t for frame in whole], bits.t, side="right") - 1
    own = (place >= 0) & (bits.end <= np.array([frame.end for frame in whole])[place] + 1e-9)
    margins = bits.margin[own & np.isfinite(bits.margin)]
    return float(margins.min()) if len(margins) else None


@dataclass(frozen=True)
class DecoderKind:
    """The record of a decoder. ``lines`` are the signals it reads, by what each is for, the first ones needed.

    ``decode`` takes the edges by that name and the values of ``parameters``; any trace is decoded without raising.
    ``gives_values``: it makes columns itself; else frames, whose fields become columns.
    """

    name: str
    title: str
    says: str
    lines: tuple[str, ...]
    needed: int
    parameters: tuple[Parameter, ...]
    decode: Callable[[Mapping[str, Edges], Mapping[str, Any]], Decoded]
    gives_values: bool = False


def seconds(name: str, title: str, says: str, default: str, *, above: bool = False) -> Parameter:
    """A parameter that is a time."""
    return Parameter(name, title, "quantity", says, default, unit="s", lowest=0.0, above=above, highest=1e6)


FIRST_EDGE, LAST_EDGE = DATED_BY = ("first edge", "last edge")
DATED = Parameter(
    "dated",
    "bounce dated by",
    "choice",
    "the edge of what bounces from which its new level counts; much firmware acts at the first",
    LAST_EDGE,
    choices=DATED_BY,
)
GLITCH = seconds("shortest", "shortest pulse", "shorter ones are glitches: removed and counted", "0 s")
