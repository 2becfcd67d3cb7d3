"""Faults of a rig device, and their durations."""

from __future__ import annotations

import random
from dataclasses import replace

from lesart.core.dataclass_later import dataclass

FAULTS = {
    "noise": "bytes among what it says are turned into others",
    "silence": "it says and answers nothing",
    "checksum": "its answers carry wrong checksums",
    "late": "its answers come a second late",
    "gone": "it is pulled out and plugged in again",
}
USUAL_S = 3.0


@dataclass(frozen=True)
class Faults:
    """``until`` are active faults, with the second each ends."""

    until: tuple[tuple[str, float], ...] = ()

    def began(self, name: str, now: float, lasts_s: float = USUAL_S) -> Faults:
        """The faults with one begun. Raises KeyError for an unknown one."""
        FAULTS[name]
        others = tuple(entry for entry in self.until if entry[0] != name)
        return replace(self, until=(*others, (name, now + lasts_s)))

    def on(self, name: str, now: float) -> bool:
        """True while it is active."""
        return any(fault == name and now < end for fault, end in self.until)


def noisy(data: bytes, dice: random.Random) -> bytes:
    """About one byte in ten replaced by a random one, control codes included."""
    return bytes(dice.randrange(256) if dice.random() < 0.1 else byte for byte in data)


def spoiled(frame: bytes) -> bytes:
    """A frame with its last byte wrong."""
    return frame[:-1] + bytes((frame[-1] ^ 0x55,))
