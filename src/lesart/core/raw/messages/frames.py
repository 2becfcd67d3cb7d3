"""Frames: runs of bytes that belong together, and the values in them by position."""

from __future__ import annotations

import math
import struct
from collections.abc import Mapping, Sequence
from typing import Any

import numpy as np

from lesart.core.block import Block, Mark
from lesart.core.dataclass_later import dataclass
from lesart.core.parameters import Parameter
from lesart.core.raw.messages.checksums import FrameCheck

OF_TENTHS = "sign bit of the tenths"
SIGNS = ("none", "two's complement", "sign bit", OF_TENTHS)
MOST_TENTHS = 9
ORDERS = ("high first", "low first")


@dataclass(frozen=True)
class ByteFrame:
    """``data`` from ``t`` to ``end`` in seconds; ``mark`` with ``why`` where it is broken.

    ``says`` is what the bus tells beside the bytes: an address, an acknowledge that did not come.
    """

    t: float
    end: float
    data: bytes
    mark: int = 0
    why: str = ""
    says: str = ""


FIELD = (
    Parameter("name", "name", "text", "of the column it gives", longest=60),
    Parameter(
        "first_bit",
        "first bit",
        "integer",
        "from the frame's first byte on, highest bit first",
        0,
        lowest=0,
        highest=65535,
    ),
    Parameter("bits", "bits", "integer", "of the value", 16, lowest=1, highest=64),
    Parameter("order", "order", "choice", "of the bytes of a value of whole bytes", "high first", choices=ORDERS),
    Parameter("word_swap", "words swapped", "flag", "does the lower word of two come first", False),
    Parameter("byte_swap", "bytes swapped", "flag", "does the lower byte of each word come first", False),
    Parameter("sign", "sign", "choice", "how a negative value is sent", "none", choices=SIGNS),
    Parameter("scale", "scale", "quantity", "what one step is, in the column's unit", "1", lowest=-1e12, highest=1e12),
    Parameter("offset", "offset", "quantity", "added after that", "0", lowest=-1e12, highest=1e12),
    Parameter("tenths", "tenths", "flag", "is the second half of the bits the tenths of the first", False),
    Parameter("floating", "floating point", "flag", "are its 32 or 64 bits a floating-point number", False),
)
"""Parameters of a value in a source's frames, one of ``fields``."""


@dataclass(frozen=True)
class FieldSpec:
    """A value in a frame.

    ``first_bit`` counts from the first byte of the frame, highest bit first; ``bits`` 1 to 64. ``order`` is the byte
    order of a value of whole bytes. value = number × ``scale`` + ``offset``. With ``tenths`` the first half of the bits
    is the integer and the second half its tenths, as some sensors send them. With ``floating`` its 32 or 64 bits are a
    floating-point number. Source: IEEE 754.
    """

    name: str
    first_bit: int
    bits: int
    order: str = "high first"
    sign: str = "none"
    scale: float = 1.0
    offset: float = 0.0
    tenths: bool = False
    word_swap: bool = False
    byte_swap: bool = False
    floating: bool = False

    def number(self, data: bytes) -> float | None:
        """The value in some bytes; None where they hold none."""
        return self.read(data)[0]

    def read(self, data: bytes) -> tuple[float | None, str]:
        """The value in some bytes, or None and why they hold none."""
        if self.first_bit + self.bits > 8 * len(data):
            return None, f"it ends before bit {self.first_bit + self.bits}"
        whole = int.from_bytes(data, "big") >> (8 * len(data) - self.first_bit - self.bits)
        raw = whole & ((1 << self.bits) - 1)
        if self.bits % 8 == 0:
            raw = _reordered(raw, self.bits // 8, self)
        if self.floating:
            value, why = _floating(raw, self.bits), "what its bits say is not a number"
            if value is None:
                return None, why
        elif self.tenths:
            value, why = _with_tenths(raw, self.bits, self.sign)
            if value is None:
                return None, why
        else:
            value = float(signed(raw, self.bits, self.sign))
        # By division where the step is a unit fraction, so that 127 tenths are 12.7 and not 12.700000000000001.
        parts = round(1 / self.scale) if self.scale and abs(self.scale) <= 1 else 0
        exact = parts and abs(self.scale * parts - 1) < 1e-12
        return (value / parts if exact else value * self.scale) + self.offset, ""


FLOATS = {32: ">f", 64: ">d"}
"""Sizes of floating-point numbers, bits."""


def _floating(raw: int, bits: int) -> float | None:
    """The floating-point value; None where it is not finite."""
    value = float(struct.unpack(FLOATS[bits], raw.to_bytes(bits // 8, "big"))[0])
    if not math.isfinite(value):
        return None
    return shortest(value) if bits == 32 else value


def shortest(value: float) -> float:
    """The shortest decimal of a 32-bit float: 20.1, and not 20.100000381."""
    return float(str(np.float32(value)))


def byte_places(spec: FieldSpec) -> tuple[int, ...]:
    """The bytes of a value by their places in its own field, the highest of the number first; none where it is no whole
    bytes.

    Bytes low first are turned round; words of two bytes low first put the other way round, and bytes within them.
    """
    count = spec.bits // 8 if spec.bits % 8 == 0 else 0
    places = list(range(count))
    if spec.order == "low first":
        places = places[::-1]
    if (spec.word_swap or spec.byte_swap) and count % 2 == 0:
        words = [places[place : place + 2] for place in range(0, count, 2)]
        words = [word[::-1] for word in words] if spec.byte_swap else words
        places = [place for word in (reversed(words) if spec.word_swap else words) for place in word]
    return tuple(places)


def _reordered(raw: int, count: int, spec: FieldSpec) -> int:
    data = raw.to_bytes(count, "big")
    return int.from_bytes(bytes(data[place] for place in byte_places(spec)), "big")


def signed(raw: int, bits: int, sign: str) -> int:
    """The signed value of a ``bits``-bit number."""
    top = 1 << (bits - 1)
    if sign == "two's complement" and raw & top:
        return raw - (1 << bits)
    if sign == "sign bit" and raw & top:
        return -(raw ^ top)
    return raw


def _with_tenths(raw: int, bits: int, sign: str) -> tuple[float | None, str]:
    """Half of the bits are the integer, half the tenths; the sign bit is in the integer's half, or in that of the
    tenths. More than nine tenths are not valid: the field is elsewhere, or signed differently."""
    half = bits // 2
    whole, tenths = raw >> half, raw & ((1 << half) - 1)
    top = 1 << (half - 1) if half else 0
    negative = bool(tenths & top) if sign == OF_TENTHS else False
    if sign == OF_TENTHS:
        tenths &= ~top
    if tenths > MOST_TENTHS:
        return None, f"{tenths} tenths are more than {MOST_TENTHS}"
    number = signed(whole, bits - half, sign)
    negative = negative or number < 0 or (sign == "sign bit" and bool(whole >> (bits - half - 1)))
    size = (
        abs(number) + tenths / 10
        if sign != "two's complement"
        else abs(number - tenths / 10 if negative else number + tenths / 10)
    )
    return -size if negative else size, ""


def beginning(frames: Sequence[ByteFrame], begins: bytes) -> tuple[ByteFrame, ...]:
    """The frames that begin with these bytes, without them; and empty frames, which are silences."""
    if not begins:
        return tuple(frames)
    return tuple(
        ByteFrame(frame.t, frame.end, frame.data[len(begins) :], frame.mark, frame.why, frame.says)
        for frame in frames
        if frame.data.startswith(begins) or not frame.data
    )


def checked(frames: Sequence[ByteFrame], check: FrameCheck) -> tuple[ByteFrame, ...]:
    """The frames, with those marked CHECKSUM whose check fails."""
    found = []
    for frame in frames:
        wrong = "" if frame.mark else check.wrong(frame.data)
        if wrong:
            frame = ByteFrame(frame.t, frame.end, frame.data, int(Mark.CHECKSUM), wrong, frame.says)
        found.append(frame)
    return tuple(found)


def values_of(frames: Sequence[ByteFrame], spec: FieldSpec) -> tuple[Block, dict[int, str]]:
    """One sample a frame, at its end, because only then it is known; and why a whole frame has none, by its place.

    A broken frame's sample is NaN with the frame's mark; one that holds no such value is MISSING.
    """
    t = np.array([frame.end for frame in frames], np.float64)
    x = np.full(len(frames), np.nan)
    mark = np.zeros(len(frames), np.uint8)
    wrong: dict[int, str] = {}
    for place, frame in enumerate(frames):
        value, why = (None, "") if frame.mark else spec.read(frame.data)
        if value is None:
            mark[place] = frame.mark or int(Mark.MISSING)
            if why:
                wrong[place] = why
        else:
            x[place] = value
    return Block(t, x, mark), wrong


def field_from(values: Mapping[str, Any]) -> FieldSpec:
    """A field from values of ``FIELD``."""
    return FieldSpec(
        name=values["name"],
        first_bit=values["first_bit"],
        bits=values["bits"],
        order=values["order"],
        sign=values["sign"],
        scale=values["scale"],
        offset=values["offset"],
        tenths=values["tenths"],
        word_swap=values["word_swap"],
        byte_swap=values["byte_swap"],
        floating=values["floating"],
    )
