"""What came over a live line: rows of values as they arrived, and events."""

from __future__ import annotations

from typing import Literal

from lesart.core.dataclass_later import dataclass

Happened = Literal["garbage", "chatter", "no reply", "checksum", "exception", "joined", "gone", "lost", "units"]


@dataclass(frozen=True)
class Event:
    """Something that is not a value: said, counted, and written into a recording as a comment.

    ``t`` in seconds of the listener's clock; ``says`` may hold anything that came, control characters made visible.
    """

    t: float
    what: Happened
    says: str


@dataclass(frozen=True)
class Received:
    """A batch. ``t`` in seconds, strictly rising; ``values`` a row each, as long as ``columns``.

    Promise: a value is NaN where it is not to be trusted, and ``marks`` says for each row why.
    """

    columns: tuple[str, ...] = ()
    t: tuple[float, ...] = ()
    values: tuple[tuple[float, ...], ...] = ()
    marks: tuple[int, ...] = ()
    events: tuple[Event, ...] = ()


def visible_bytes(data: bytes, most: int = 48) -> str:
    """Bytes as a person can read them: what is printable as it is, all else as ``\\x`` and two digits."""
    shown = "".join(chr(byte) if 0x20 <= byte < 0x7F else f"\\x{byte:02x}" for byte in data[:most])
    return shown + ("…" if len(data) > most else "")
