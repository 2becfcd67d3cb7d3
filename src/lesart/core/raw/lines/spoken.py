"""Whether bytes are messages of a field bus, lines of text, or a device's own protocol."""

from __future__ import annotations

from collections.abc import Sequence

from lesart.core.raw.lines.spoken_lines import spoken_lines
from lesart.core.raw.messages.checksums import FrameCheck
from lesart.core.raw.messages.frames import ByteFrame
from lesart.core.raw.messages.modbus import ascii_frames, message_of

LETTERS = 0.8
"""Share of text in lines of text, allowing for boot messages at another rate."""
NOTHING_ELSE, OF_LETTERS, OF_ANY = 0.97, 10, 3
"""One line in this many has to have values; position receivers send much else."""
_BESIDE_LETTERS = b"\t\r\n\x1b"


def share_of_letters(data: bytes) -> float:
    """Share of bytes that occur in text, 0 to 1; 0 for no bytes."""
    return sum(32 <= byte < 127 or byte in _BESIDE_LETTERS for byte in data) / len(data) if data else 0.0


def messages_in(frames: Sequence[ByteFrame]) -> str:
    """The kind of message that most frames hold, as in a decoder's ``messages``; none where they hold something
    else."""
    whole = [frame for frame in frames if len(frame.data) >= 4]
    if whole and sum(message_of(frame.data) is not None for frame in whole) > len(whole) / 2:
        return "Modbus RTU"
    words = b"".join(frame.data for frame in frames)
    if b":" in words:
        letters = ascii_frames(frames)
        good = [frame for frame in letters if not frame.mark and FrameCheck("LRC").wrong(frame.data) == ""]
        if len(letters) > 1 and len(good) > len(letters) / 2:
            return "Modbus ASCII"
    share = share_of_letters(words)
    if share < LETTERS:
        return "none"  # numbers have line ends and figures among them by chance
    found = spoken_lines(frames)
    if len(found.frames) > 1 and found.columns:
        # Enough lines with numbers to rule out chance; among nothing but letters a few will do.
        with_values = len({place for places in found.from_frame.values() for place in places})
        least = len(found.frames) / (OF_LETTERS if share > NOTHING_ELSE else OF_ANY)
        return "text lines" if with_values >= max(2, least) else "none"
    return "none"
