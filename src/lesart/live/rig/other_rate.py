"""A serial line heard at the wrong baud rate: not silence, but other bytes.

The line is high when idle; a byte is a low bit, eight bits from the lowest on, and a high bit.
"""

from __future__ import annotations

BITS = 8
FRAME = BITS + 2
BROKEN = 0
"""The byte that the operating system delivers for a missing stop bit."""


def as_heard(data: bytes, sent_baud: float, heard_baud: float) -> bytes:
    """Bytes sent one after another at one rate, as a receiver at another one reads them: each bit at its middle."""
    level = [bit for byte in data for bit in (0, *((byte >> place) & 1 for place in range(BITS)), 1)]
    step = sent_baud / heard_baud
    found, at = bytearray(), 0.0

    def line(place: float) -> int:
        return level[int(place)] if place < len(level) else 1

    while True:
        # To the next falling edge: where the line is high, then low.
        place = int(at)
        while place < len(level) and level[place]:
            place += 1
        if place >= len(level):
            return bytes(found)
        start = max(at, float(place))
        bits = [line(start + (each + 0.5) * step) for each in range(FRAME)]
        end = start + (FRAME - 0.5) * step
        if bits[0]:
            at = start + 1.0
            continue
        is_whole = bits[-1] == 1
        found.append(sum(bit << place for place, bit in enumerate(bits[1:-1])) if is_whole else BROKEN)
        # After a broken one the line has to be high before it can fall again.
        while not is_whole and int(end) < len(level) and not level[int(end)]:
            end = int(end) + 1.0
        at = end
