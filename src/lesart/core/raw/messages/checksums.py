"""Checks of frames: sums, and remainders of a polynomial (CRC) with free parameters."""

from __future__ import annotations

from collections.abc import Mapping
from functools import lru_cache
from typing import Any, Literal

from lesart.core.dataclass_later import dataclass
from lesart.core.parameters import Parameter
from lesart.core.quantity import counted

Check = Literal["none", "sum", "sum-16", "xor", "LRC", "CRC-8", "CRC-16"]
CHECKS: tuple[Check, ...] = ("none", "sum", "sum-16", "xor", "LRC", "CRC-8", "CRC-16")
OF_CHECK = (
    Parameter("check", "check", "choice", "at the end of each frame", "none", choices=CHECKS),
    Parameter("poly", "polynomial", "text", "of a CRC, without its highest bit", "0x31", longest=6, code_bits=16),
    Parameter("init", "start value", "text", "of a CRC", "0xFF", longest=6, code_bits=16),
    Parameter("reflected", "reflected", "flag", "are the bits of a CRC taken lowest first", False),
    Parameter("xor", "xor at the end", "text", "of a CRC", "0x00", longest=6, code_bits=16),
    Parameter("low_first", "low byte first", "flag", "does the low byte of a check of two bytes come first", False),
)
"""Parameters of the check at the end of a frame."""


@dataclass(frozen=True)
class Crc:
    """A CRC by the usual six parameters. ``poly`` is written without its highest bit, most significant bit first.

    Source: long division of polynomials over two elements; the parameters are named as is usual in the trade.
    """

    width: int
    poly: int
    init: int = 0
    reflect_in: bool = False
    reflect_out: bool = False
    xor_out: int = 0

    def of(self, data: bytes) -> int:
        """The CRC of some bytes."""
        table, mask, shift = _table(self), (1 << self.width) - 1, self.width - 8
        if self.reflect_in:
            value = _reflected(self.init, self.width)
            for byte in data:
                value = (value >> 8) ^ table[(value ^ byte) & 0xFF]
        else:
            value = self.init
            for byte in data:
                value = ((value << 8) & mask) ^ table[(value >> shift) ^ byte]
        if self.reflect_in != self.reflect_out:
            value = _reflected(value, self.width)
        return value ^ self.xor_out


@lru_cache(maxsize=64)
def _table(crc: Crc) -> tuple[int, ...]:
    """Remainders of single bytes."""
    return tuple(_reflected_entry(crc, byte) if crc.reflect_in else _entry(crc, byte) for byte in range(256))


def _entry(crc: Crc, byte: int) -> int:
    value, top, mask = byte << (crc.width - 8), 1 << (crc.width - 1), (1 << crc.width) - 1
    for _ in range(8):
        value = ((value << 1) ^ crc.poly if value & top else value << 1) & mask
    return value


def _reflected_entry(crc: Crc, byte: int) -> int:
    value, poly = byte, _reflected(crc.poly, crc.width)
    for _ in range(8):
        value = (value >> 1) ^ poly if value & 1 else value >> 1
    return value


def _reflected(value: int, width: int) -> int:
    """The same bits in reverse order."""
    return int(f"{value:0{width}b}"[::-1], 2)


MODBUS = Crc(16, 0x8005, 0xFFFF, reflect_in=True, reflect_out=True)
"""The check of Modbus RTU; low byte first on the line. Source: Modbus over serial line, section 6.2.2."""


@dataclass(frozen=True)
class FrameCheck:
    """What stands at the end of a frame. ``crc`` is that of the CRC kinds; two bytes are low first where ``low_first``.

    Of sums, ``sum`` is the lowest byte of that of all bytes, ``sum-16`` its lowest two, and ``LRC`` what is missing to
    zero in one byte.
    """

    kind: Check = "none"
    crc: Crc | None = None
    low_first: bool = False

    @property
    def length(self) -> int:
        """Number of bytes of the check at the end of a frame."""
        return {"none": 0, "sum-16": 2, "CRC-16": 2}.get(self.kind, 1)

    def expected(self, data: bytes) -> bytes:
        """The check bytes that belong after ``data``."""
        if self.kind == "none":
            return b""
        if self.kind == "sum":
            return bytes((sum(data) & 0xFF,))
        if self.kind == "sum-16":
            return (sum(data) & 0xFFFF).to_bytes(2, "little" if self.low_first else "big")
        if self.kind == "LRC":
            return bytes((-sum(data) & 0xFF,))
        if self.kind == "xor":
            value = 0
            for byte in data:
                value ^= byte
            return bytes((value,))
        assert self.crc is not None
        return self.crc.of(data).to_bytes(self.length, "little" if self.low_first else "big")

    def wrong(self, frame: bytes) -> str:
        """What is wrong with a frame's check, in a few words; empty where it is right."""
        if self.kind == "none":
            return ""
        if len(frame) <= self.length:
            return f"{counted(len(frame), 'byte')}, too few for a {self.kind}"
        data, came = frame[: -self.length], frame[-self.length :]
        expected = self.expected(data)
        return "" if came == expected else f"{self.kind} is 0x{came.hex().upper()}, not 0x{expected.hex().upper()}"


NO_CHECK = FrameCheck()


def check_from(values: Mapping[str, Any]) -> FrameCheck:
    """The check from values of ``OF_CHECK``. Raises ValueError with a clause where a number is not valid."""
    kind = values["check"]
    if kind not in ("CRC-8", "CRC-16"):
        return FrameCheck(kind, None, values["low_first"] and kind == "sum-16")
    width = 8 if kind == "CRC-8" else 16
    poly, init, xor = (_number(name, values[name], width) for name in ("poly", "init", "xor"))
    crc = Crc(width, poly, init, values["reflected"], values["reflected"], xor)
    return FrameCheck(kind, crc, values["low_first"])


def _number(name: str, written: str, width: int) -> int:
    try:
        number = int(written, 0)
    except ValueError:
        number = -1
    if not 0 <= number < 1 << width:
        raise ValueError(f'{name} = "{written}"; it must be a number of {width} bits, like "0x31"')
    return number
