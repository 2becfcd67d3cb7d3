"""Frames of a CAN bus (ISO 11898-1) in lines of text: a time in brackets, the bus, an identifier, and its bytes."""

from __future__ import annotations

import re
from datetime import datetime, timedelta
from decimal import Decimal

from lesart.core.block import Mark
from lesart.core.dataclass_later import dataclass
from lesart.core.raw.messages.frames import ByteFrame
from lesart.project.captures.times import FURTHEST_S

_TIME = r"\((?P<t>\d[\d.:\sT-]*)\)"
_ID = r"(?P<id>[0-9A-Fa-f]{8}|[0-9A-Fa-f]{3})"
_COMPACT = re.compile(
    rf"\s*{_TIME}\s+\S+\s+{_ID}#(?:#[0-9A-Fa-f])?(?P<data>(?:[0-9A-Fa-f]{{2}}\.?){{0,64}}|R\d?)(?:\s+[RT])?\s*$"
)
_SPACED = re.compile(
    rf"\s*(?:{_TIME}\s+)?[^\s\d]\S*\s+{_ID}\s+\[\d{{1,2}}\]"
    r"(?P<data>(?:\s+[0-9A-Fa-f]{2}){0,64}|\s+remote request)\s*(?:'.*')?$"
)
"""``(0.125) can0 123#00C8`` and ``(0.125)  can0  123   [2]  00 C8``, which may have no time."""
LONG, IS_LONG = 8, 1 << 31
"""Hexadecimal digits of an identifier of 29 bits, and the bit that tells its four bytes from the two of one of 11."""
SAMPLE, MOST_STRANGE = 50, 0.2


@dataclass(frozen=True)
class CanFrame:
    """Seconds, None where the line has none; the identifier as two or four bytes; its data, empty for a request."""

    t: Decimal | None
    identifier: bytes
    data: bytes


def can_frame(line: str) -> CanFrame | None:
    """The frame of a line; None where it is none."""
    found = _COMPACT.match(line) or _SPACED.match(line)
    if found is None:
        return None
    written = re.sub(r"[\s.]", "", found["data"])
    data = bytes.fromhex(written) if re.fullmatch(r"(?:[0-9A-Fa-f]{2})*", written) else b""
    return CanFrame(_seconds(found["t"]), identifier_from(found["id"]), data)


def identifier_from(written: str) -> bytes:
    """Of its hexadecimal digits, the bytes that its frames begin with."""
    if len(written) == LONG:
        return (IS_LONG | int(written, 16)).to_bytes(4, "big")
    return int(written, 16).to_bytes(2, "big")


def identifier_of(frame: bytes) -> bytes:
    """The bytes of a frame's identifier, with which it begins."""
    return frame[: 4 if frame[0] & (IS_LONG >> 24) else 2]


def identifier_said(begins: bytes) -> str:
    """``123``, or ``18FEF100`` of 29 bits."""
    number = int.from_bytes(begins, "big")
    return f"{number & ~IS_LONG:08X}" if len(begins) == 4 else f"{number:03X}"


def _seconds(written: str | None) -> Decimal | None:
    """Of ``1767225600.5``, or of a date with a time; to the microsecond, which a float of so many seconds is not."""
    if written is None:
        return None
    if re.fullmatch(r"\d{1,15}(?:\.\d{0,9})?", written):
        return Decimal(written)
    try:
        since = datetime.fromisoformat(written.strip()) - datetime(1970, 1, 1)
    except (ValueError, TypeError):
        return None
    return Decimal(since // timedelta(microseconds=1)) / 1_000_000


def is_can(text: str) -> bool:
    """True where nearly all of its first lines are frames of a CAN bus."""
    lines = [line for line in text.splitlines() if line.strip()][:SAMPLE]
    strange = sum(can_frame(line) is None for line in lines)
    return len(lines) > strange and strange <= MOST_STRANGE * len(lines)


def can_frames(text: str) -> tuple[ByteFrame, ...]:
    """Each identifier with its bytes behind it, from the first time on; a line that is none is a broken frame.

    A request for data has none, and is left out.
    """
    frames: list[ByteFrame] = []
    first: Decimal | None = None
    latest = 0.0
    for number, line in enumerate(text.splitlines(), 1):
        if not line.strip():
            continue
        found, why = can_frame(line), ""
        if found is None:
            why = "is no frame of a CAN bus"
        elif found.t is None:
            why = "has no time"
        else:
            first = found.t if first is None else first
            since = float(found.t - first)
            why = f"is {since:.6g} s behind the first" if since > FURTHEST_S else ""
            latest = latest if why else max(since, latest)
        if why:
            frames.append(ByteFrame(latest, latest, b"", int(Mark.MISSING), f"line {number} {why}"))
        elif found is not None and found.data:
            says = f"identifier {identifier_said(found.identifier)}"
            frames.append(ByteFrame(latest, latest, found.identifier + found.data, says=says))
    return tuple(frames)
