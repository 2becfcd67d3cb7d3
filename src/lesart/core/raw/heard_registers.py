"""Values spanning several registers, heard on a field bus: floating-point numbers, and integers of 32 and 64 bits."""

from __future__ import annotations

from dataclasses import replace

import numpy as np

from lesart.core.block import Block, Mark
from lesart.core.dataclass_later import dataclass
from lesart.core.parameters import Parameter
from lesart.core.raw.lines.line import REGISTER
from lesart.core.raw.messages.modbus import READS, Messages
from lesart.core.raw.messages.registers import RegisterSpec

HEARD_REGISTER = (
    REGISTER[0],
    Parameter("unit", "unit", "integer", "address of the device on the bus", 1, lowest=1, highest=247),
    replace(REGISTER[1], choices=tuple(READS.values())),
    *REGISTER[2:],
)
"""Parameters of a value in registers of a source's messages, one of ``registers``."""


@dataclass(frozen=True)
class HeardRegister:
    """A value in the registers of one of the units on a bus."""

    unit: int
    register: RegisterSpec

    @property
    def words(self) -> tuple[str, ...]:
        """The message columns of its registers."""
        spec = self.register
        return tuple(f"unit {self.unit} {spec.table} {spec.address + place}" for place in range(spec.words))


def heard(messages: Messages, wanted: HeardRegister) -> tuple[Block, tuple[int, ...]] | None:
    """The value from each reply that holds all its registers, NaN with the mark where one is missing or a float is not
    finite; and the index of each frame. None where they never came together."""
    if any(name not in messages.columns for name in wanted.words):
        return None
    columns = [messages.columns[name] for name in wanted.words]
    places = [
        dict(zip(messages.from_frame[name], range(len(block)), strict=True))
        for name, block in zip(wanted.words, columns, strict=True)
    ]
    frames = tuple(frame for frame in places[0] if all(frame in each for each in places))
    if not frames:
        return None
    rows = [np.array([each[frame] for frame in frames]) for each in places]
    mark = np.bitwise_or.reduce([block.mark[at] for block, at in zip(columns, rows, strict=True)])
    words = np.array([block.x[at] for block, at in zip(columns, rows, strict=True)]).T
    x = np.array([
        np.nan if bad else wanted.register.value([int(word) for word in row])
        for row, bad in zip(words, mark, strict=True)
    ])  # fmt: skip
    mark = np.where(np.isnan(x) & (mark == 0), np.uint8(Mark.MISSING), mark)
    return Block(columns[0].t[rows[0]], x, mark), frames
