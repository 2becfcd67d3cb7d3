"""Frames on a byte stream: an end mark after each, with mark bytes escaped.

Source: RFC 1055, transmission of IP datagrams over serial lines.
"""

from __future__ import annotations

END, ESCAPE, ESCAPED_END, ESCAPED_ESCAPE = 0xC0, 0xDB, 0xDC, 0xDD


def framed(data: bytes) -> bytes:
    """One frame, with a mark before it too, to resynchronise after noise."""
    plain = data.replace(bytes((ESCAPE,)), bytes((ESCAPE, ESCAPED_ESCAPE)))
    return bytes((END,)) + plain.replace(bytes((END,)), bytes((ESCAPE, ESCAPED_END))) + bytes((END,))


def frames(waiting: bytes, data: bytes) -> tuple[list[bytes], bytes]:
    """Whole frames, and the incomplete rest. Empty frames are dropped."""
    *whole, rest = (waiting + data).split(bytes((END,)))
    return [_plain(each) for each in whole if each], rest


def _plain(frame: bytes) -> bytes:
    plain = frame.replace(bytes((ESCAPE, ESCAPED_END)), bytes((END,)))
    return plain.replace(bytes((ESCAPE, ESCAPED_ESCAPE)), bytes((ESCAPE,)))
