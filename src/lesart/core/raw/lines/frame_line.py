"""A serial line over which a device sends frames of bytes: found by what they begin with, by their length, or by the
pause after them; accepted where their check is right.

Bytes in, rows out, in pieces of any size, as for a text line. No byte is dropped silently.
"""

from __future__ import annotations

import math
from dataclasses import replace

from lesart.core.block import Mark
from lesart.core.dataclass_later import dataclass
from lesart.core.quantity import counted
from lesart.core.raw.lines.line import Line
from lesart.core.raw.lines.received import Event, Happened, Received, visible_bytes
from lesart.core.raw.messages.checksums import NO_CHECK, FrameCheck, check_from
from lesart.core.raw.messages.frames import FieldSpec

LONGEST = 4096
"""More bytes than this without a frame, or without a pause, are given up."""
LEAST_STEP_S = 1e-6
IN_PARTS = 5.0
"""Times the pause: how late the second part of a frame may be."""


@dataclass(frozen=True)
class FrameShape:
    """``begins`` are the bytes that each frame begins with, by which it is found; ``length`` is its total length, 0
    where a pause of ``rest_s`` ends it. The check covers everything before it except the first ``unchecked`` bytes."""

    begins: bytes = b""
    length: int = 0
    rest_s: float = 0.05
    check: FrameCheck = NO_CHECK
    unchecked: int = 0

    def wrong(self, frame: bytes) -> str:
        """What is wrong with a frame, in a few words; empty where nothing is."""
        if not frame.startswith(self.begins):
            return f"it does not begin with {self.begins.hex(' ').upper()}"
        return self.check.wrong(frame[self.unchecked :])


def shape_of(line: Line) -> FrameShape:
    """The shape of a line's frames. The project has already checked the values."""
    values = dict(line.values)
    return FrameShape(
        bytes.fromhex(line["begins"]), line["length"], line["rest"], check_from(values), line["unchecked"]
    )


@dataclass(frozen=True)
class FrameState:
    """``rest`` are bytes of an incomplete frame; ``is_found``: the last frame ended right before them.

    ``last_read`` and ``last_t`` are the times of the last bytes and the last row, in seconds.
    """

    shape: FrameShape
    fields: tuple[FieldSpec, ...]
    byte_s: float = 0.0
    rest: bytes = b""
    is_found: bool = False
    last_read: float = -math.inf
    last_t: float = -math.inf

    @property
    def columns(self) -> tuple[str, ...]:
        """One column per field."""
        return tuple(field.name for field in self.fields)


@dataclass(frozen=True)
class _Piece:
    """A piece cut off the bytes, with what is wrong with it; a frame where nothing is."""

    data: bytes
    wrong: str = ""
    is_frame: bool = True
    ended_s: float | None = None
    """Time of its last byte, where that was not now."""


def opened(state: FrameState, now: float) -> FrameState:
    """The state when the line was just opened, or reopened: the first bytes may be the end of a frame."""
    return replace(state, rest=b"", is_found=False, last_read=now)


def take(state: FrameState, data: bytes, now: float) -> tuple[FrameState, Received]:
    """Take the bytes that came by ``now``; without any, a pause may end a frame."""
    # A frame of known length may come in parts, depending on the adapter.
    rest_s = state.shape.rest_s * (IN_PARTS if state.shape.length else 1.0)
    is_rest = now - state.last_read >= max(rest_s, 2.0 * state.byte_s)
    pieces: list[_Piece] = []
    buffer, is_found = state.rest, state.is_found
    if is_rest and buffer:
        pieces.append(replace(_ended(state.shape, buffer, is_found), ended_s=state.last_read))
        buffer, is_found = b"", True
    buffer += data
    if state.shape.length:
        buffer, is_found = _cut(state.shape, buffer, is_found, pieces)
    elif len(buffer) > LONGEST:
        pieces.append(_Piece(buffer, "no rest between frames", is_frame=False))
        buffer = b""
    kept = replace(state, rest=buffer, is_found=is_found, last_read=now if data else state.last_read)
    return _rows(kept, pieces, now)


def _ended(shape: FrameShape, data: bytes, is_found: bool) -> _Piece:
    """What a pause has ended: a frame, for frames that end by a pause."""
    if shape.length and len(data) < shape.length:
        few = f"{counted(len(data), 'byte')} of {shape.length}, and no more"
        return _Piece(data, few, is_frame=is_found and data.startswith(shape.begins[: len(data)]))
    # What comes first may be the end of a frame, which does not count as damaged.
    wrong = shape.wrong(data)
    return _Piece(data, wrong, is_frame=is_found or not wrong)


def _cut(shape: FrameShape, buffer: bytes, is_found: bool, pieces: list[_Piece]) -> tuple[bytes, bool]:
    """Cut frames of a fixed length, and what is between them, into ``pieces``; gives the rest, and whether a frame
    begins there."""
    between = b""
    while len(buffer) >= shape.length:
        frame = buffer[: shape.length]
        wrong = shape.wrong(frame)
        if not wrong:
            if between:
                pieces.append(_Piece(between, "no frame", is_frame=False))
                between = b""
            pieces.append(_Piece(frame))
            buffer, is_found = buffer[shape.length :], True
            continue
        if is_found and frame.startswith(shape.begins):
            # Where a frame was to begin one did, and it is spoiled. Where bytes are lost the next begins within it, and
            # not behind it; which of both is seen when that has come.
            behind = buffer[shape.length :]
            if len(behind) < len(shape.begins):
                break
            is_found = bool(shape.begins) and behind.startswith(shape.begins)
            at = shape.length if is_found or not shape.begins else min(_next(shape, buffer, 1), shape.length)
            pieces.append(_Piece(buffer[:at], wrong))
            buffer = buffer[at:]
            continue
        at = _next(shape, buffer, 1)
        between, buffer, is_found = between + buffer[:at], buffer[at:], False
    if len(between) > LONGEST:
        pieces.append(_Piece(between, "no frame", is_frame=False))
        between = b""
    return between + buffer, is_found and not between


def _next(shape: FrameShape, buffer: bytes, at: int) -> int:
    """Where the next frame may begin."""
    if not shape.begins:
        return at
    found = buffer.find(shape.begins, at)
    return found if found >= 0 else max(len(buffer) - len(shape.begins) + 1, at)


def _rows(state: FrameState, pieces: list[_Piece], now: float) -> tuple[FrameState, Received]:
    """One row per frame, without values for a damaged one; the last byte came now, and each took its time."""
    behind = len(state.rest) + sum(len(each.data) for each in pieces)
    t: list[float] = []
    values: list[tuple[float, ...]] = []
    marks: list[int] = []
    events: list[Event] = []
    last = state.last_t
    for each in pieces:
        behind -= len(each.data)
        ended_s = each.ended_s if each.ended_s is not None else now - behind * state.byte_s
        moment = max(ended_s, last + LEAST_STEP_S)
        if each.wrong:
            what: Happened = "checksum" if each.is_frame else "garbage"
            events.append(Event(moment, what, f'"{visible_bytes(each.data)}", {each.wrong}'))
        if not each.is_frame:
            continue
        row = tuple(math.nan if each.wrong else _value(field, each.data) for field in state.fields)
        t.append(round(moment, 6))
        values.append(row)
        marks.append(int(Mark.CHECKSUM if each.wrong else Mark.MISSING))
        last = t[-1]
    heard = Received(state.columns, tuple(t), tuple(values), tuple(marks), tuple(events))
    return replace(state, last_t=last), heard


def _value(field: FieldSpec, frame: bytes) -> float:
    value = field.number(frame)
    return math.nan if value is None else value
