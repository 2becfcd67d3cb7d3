"""Reading a dump of frames: a time in seconds, then bytes in hexadecimal, one frame per line; or lines of a CAN bus."""

from __future__ import annotations

import re
from pathlib import Path

from lesart.core.block import Mark
from lesart.core.errors import CaptureError
from lesart.core.raw.messages.frames import ByteFrame
from lesart.project.captures.times import FURTHEST_S
from lesart.project.captures.traces.can_read import can_frames, is_can
from lesart.project.folder.files import read_whole

SAMPLE_LETTERS = 1 << 14
_TIMED = re.compile(r"\s*(\d+(?:\.\d*)?(?:[eE][+-]?\d+)?)\s*(?:s\b)?\s*[:,;]?\s+(.*)$")


def read_hex(path: Path) -> tuple[ByteFrame, ...]:
    """Frames of a file; ``#`` begins a comment. A line that is none is a broken frame that says its line.

    Raises CaptureError where no line is a frame.
    """
    text = read_whole(path).decode("utf-8", "replace")
    if is_can(text[:SAMPLE_LETTERS]):
        return _of_bus(path, text)
    frames: list[ByteFrame] = []
    latest = 0.0
    for number, line in enumerate(text.splitlines(), 1):
        line = line.partition("#")[0]
        if not line.strip():
            continue
        frame = _frame(line, number, latest)
        latest = frame.t
        frames.append(frame)
    if not any(frame.data for frame in frames):
        raise CaptureError(
            f'{path}: no line is a frame; one is a time in seconds and bytes, like "0.125  01 03 04 1f".'
        )
    first = frames[0].t
    return tuple(
        ByteFrame(frame.t - first, frame.end - first, frame.data, frame.mark, frame.why, frame.says) for frame in frames
    )


def _of_bus(path: Path, text: str) -> tuple[ByteFrame, ...]:
    """Frames of a CAN bus. Raises CaptureError where none has a time."""
    frames = can_frames(text)
    if not any(frame.data for frame in frames):
        raise CaptureError(f"{path}: its frames have no times; let them be printed, like (0.125) can0 123#00C8.")
    return frames


def _frame(line: str, number: int, latest: float) -> ByteFrame:
    timed = _TIMED.match(line)
    if timed is None:
        return ByteFrame(latest, latest, b"", int(Mark.MISSING), f"line {number} has no time and bytes")
    t = max(float(timed[1]), latest)
    if t > FURTHEST_S:
        return ByteFrame(latest, latest, b"", int(Mark.MISSING), f"line {number}: {timed[1][:20]} s is not a time")
    digits = re.sub(r"0x|[\s,:-]", "", timed[2])
    if not digits or len(digits) % 2 or not re.fullmatch(r"[0-9A-Fa-f]+", digits):
        shown = "".join(letter if letter.isprintable() else "·" for letter in timed[2])[:30]
        return ByteFrame(t, t, b"", int(Mark.MISSING), f'line {number}: "{shown}" is not a run of bytes')
    return ByteFrame(t, t, bytes.fromhex(digits))
