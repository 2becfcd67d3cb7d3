"""Modbus RTU: requests and replies in frames, and the registers in them.

Source: Modbus application protocol, functions 3, 4, 6 and 16 and exceptions; Modbus over serial line for the frame.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import replace

import numpy as np

from lesart.core.block import Block, Mark
from lesart.core.dataclass_later import dataclass
from lesart.core.raw.messages.checksums import MODBUS, FrameCheck
from lesart.core.raw.messages.frames import ByteFrame

CHECK = FrameCheck("CRC-16", MODBUS, low_first=True)
READS = {3: "holding", 4: "input"}
WRITES = (6, 16)
EXCEPTIONS = {
    1: "function not known",
    2: "no such register",
    3: "value not allowed",
    4: "device failed",
    5: "acknowledged, busy",
    6: "busy",
    8: "memory parity",
    10: "gateway has no path",
    11: "device behind the gateway does not answer",
}
FAILED = 0x80


OF_ASCII = FrameCheck("LRC")
"""The check of Modbus ASCII: the two's complement of the sum of all bytes.

Source: Modbus over serial line, section 6.2.1.
"""


def ascii_frames(frames: Sequence[ByteFrame]) -> tuple[ByteFrame, ...]:
    """Frames of Modbus ASCII in serial bytes, whatever pauses are in between: from a colon to the end of its line, two
    characters per byte. Anything but pairs of hexadecimal digits breaks its frame."""
    letters = [(frame, byte) for frame in frames for byte in frame.data]
    found: list[ByteFrame] = []
    begun: list[tuple[ByteFrame, int]] | None = None
    for frame, byte in letters:
        if byte == ord(":"):
            begun = []
        elif byte in b"\r\n" and begun:
            found.append(_ascii_frame(begun))
            begun = None
        elif begun is not None:
            begun.append((frame, byte))
    return tuple(found)


def _ascii_frame(letters: Sequence[tuple[ByteFrame, int]]) -> ByteFrame:
    text, (first, _), (last, _) = bytes(byte for _, byte in letters), letters[0], letters[-1]
    broken = next((each for each, _ in letters if each.mark), None)
    try:
        data = bytes.fromhex(text.decode("ascii"))
    except ValueError:
        return ByteFrame(first.t, last.end, text, int(Mark.MISSING), "it is not made of pairs of hexadecimal digits")
    if broken is not None:
        return ByteFrame(first.t, last.end, data, broken.mark, broken.why)
    return ByteFrame(first.t, last.end, data)


@dataclass(frozen=True)
class Message:
    """The content of a frame: ``registers`` from ``address`` on where it carries values, else a request for ``count``
    of them."""

    unit: int
    function: int
    is_reply: bool
    address: int | None = None
    count: int = 0
    registers: tuple[int, ...] = ()
    exception: int = 0

    @property
    def says(self) -> str:
        """The message in a few words."""
        table = READS.get(self.function, "holding")
        if self.exception:
            return f"unit {self.unit} refuses: {EXCEPTIONS.get(self.exception, f'exception {self.exception}')}"
        if self.function in READS and not self.is_reply:
            return f"unit {self.unit}: read {self.count} {table} from {self.address}"
        if self.function in READS:
            return f"unit {self.unit}: {len(self.registers)} {table}"
        verb = "wrote" if self.is_reply else "write"
        return f"unit {self.unit}: {verb} {self.count} {table} from {self.address}"


def message_of(data: bytes, asked: Message | None = None, check: FrameCheck = CHECK) -> Message | None:
    """What a whole frame says, its check included; None where it is not a message of these functions.

    A reply is told from a request by its length, and where both fit by whether ``asked`` waits for one.
    """
    if len(data) < 3 + check.length or check.wrong(data):
        return None
    unit, function, body = data[0], data[1], data[2 : -check.length]
    waits = asked is not None and not asked.is_reply and asked.unit == unit and asked.function == function & 0x7F
    if function & FAILED:
        return Message(unit, function & 0x7F, True, exception=body[0]) if len(body) == 1 else None
    if function in READS:
        return _read(unit, function, body, waits)
    if function in WRITES:
        return _write(unit, function, body, waits)
    return None


def _words(data: bytes) -> tuple[int, ...]:
    return tuple(int.from_bytes(data[place : place + 2], "big") for place in range(0, len(data), 2))


def _read(unit: int, function: int, body: bytes, waits: bool) -> Message | None:
    is_reply = len(body) == 1 + body[0] and body[0] % 2 == 0 and body[0] > 0
    if is_reply and (waits or len(body) != 4):
        return Message(unit, function, True, registers=_words(body[1:]))
    if len(body) == 4:
        address, count = _words(body)
        return Message(unit, function, False, address, count)
    return None


def _write(unit: int, function: int, body: bytes, waits: bool) -> Message | None:
    if function == 6 and len(body) == 4:
        address, value = _words(body)
        return Message(unit, 6, waits, address, 1, (value,))
    if function == 16 and len(body) == 4:
        address, count = _words(body)
        return Message(unit, 16, True, address, count)
    if function == 16 and len(body) >= 5 and len(body) == 5 + body[4] == 5 + 2 * _words(body[:4])[1]:
        address, count = _words(body[:4])
        return Message(unit, 16, False, address, count, _words(body[5:]))
    return None


@dataclass(frozen=True, eq=False)
class Messages:
    """``frames`` with what they say, and a column for each register that came, unsigned, as ``unit 1 holding 0``.

    ``from_frame`` names for each sample of a column the frame it came with, by its place.
    """

    frames: tuple[ByteFrame, ...]
    columns: dict[str, Block]
    from_frame: dict[str, tuple[int, ...]]


@dataclass(frozen=True)
class _Sample:
    t: float
    value: float
    mark: int
    frame: int


def read_messages(frames: Sequence[ByteFrame], check: FrameCheck = CHECK) -> Messages:
    """All messages of a trace.

    Values count at the end of their frame. An unanswered request marks its registers MISSING, at the time of the next
    request.
    """
    said: list[ByteFrame] = []
    samples: dict[str, list[_Sample]] = {}
    asked: Message | None = None
    for place, frame in enumerate(frames):
        found = None if frame.mark else message_of(frame.data, asked, check)
        if found is None:
            said.append(_broken(frame, check))
            continue
        if not found.is_reply and asked is not None:
            _take(samples, asked, (frame.t, place), None)
        said.append(
            replace(
                frame,
                says=found.says,
                why=found.says if found.exception else "",
                mark=int(Mark.MISSING) if found.exception else 0,
            )
        )
        if found.is_reply:
            if asked is not None and (asked.unit, asked.function) == (found.unit, found.function):
                _take(samples, asked, (frame.end, place), found)
            asked = None
        else:
            asked = found
    in_order = dict(sorted(samples.items(), key=_in_order))
    columns = {name: _block(rows) for name, rows in in_order.items()}
    return Messages(tuple(said), columns, {name: tuple(each.frame for each in rows) for name, rows in in_order.items()})


def _broken(frame: ByteFrame, check: FrameCheck) -> ByteFrame:
    if frame.mark:
        return frame
    wrong = check.wrong(frame.data)
    mark = Mark.CHECKSUM if wrong else Mark.MISSING
    return replace(frame, mark=int(mark), why=wrong or "no message of functions 3, 4, 6 and 16")


def _take(samples: dict[str, list[_Sample]], asked: Message, at: tuple[float, int], reply: Message | None) -> None:
    """Take the values of the reply to a request; without one, or with an exception, they are missing.

    ``at`` is the time and the index of the frame.
    """
    if asked.address is None or asked.function in WRITES:
        return
    good = reply is not None and not reply.exception and len(reply.registers) == asked.count
    for place in range(min(asked.count, 125)):
        name = f"unit {asked.unit} {READS[asked.function]} {asked.address + place}"
        value = float(reply.registers[place]) if reply is not None and good else float("nan")
        samples.setdefault(name, []).append(_Sample(at[0], value, 0 if good else int(Mark.MISSING), at[1]))


def _in_order(entry: tuple[str, object]) -> tuple[int, str, int]:
    _, unit, table, address = entry[0].split()
    return int(unit), table, int(address)


def _block(rows: list[_Sample]) -> Block:
    t, x = (np.array([getattr(each, name) for each in rows], np.float64) for name in ("t", "value"))
    return Block(t, x, np.array([each.mark for each in rows], np.uint8))
