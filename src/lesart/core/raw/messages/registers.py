"""Registers of a polled Modbus device: which requests fetch them, and what their words mean.

Source: Modbus application protocol, functions 1 to 4: at most 125 registers or 2000 bits per request, words high byte
first. The word order of a longer value is not part of the standard, so it is a parameter.
"""

from __future__ import annotations

import math
import struct
from collections.abc import Mapping, Sequence

from lesart.core.dataclass_later import dataclass
from lesart.core.raw.messages.frames import shortest

TABLES = ("holding", "input", "coil", "discrete")
TYPES = ("uint16", "int16", "uint32", "int32", "float32", "uint64", "int64", "float64")
_CODES = {
    "uint16": "H",
    "int16": "h",
    "uint32": "I",
    "int32": "i",
    "float32": "f",
    "uint64": "Q",
    "int64": "q",
    "float64": "d",
}
MOST = {"holding": 125, "input": 125, "coil": 2000, "discrete": 2000}


@dataclass(frozen=True)
class RegisterSpec:
    """A value in the registers of a unit: ``address`` from 0, as it goes over the line.

    value = number × ``scale`` + ``offset``, in the unit of its channel.
    """

    name: str
    table: str
    address: int
    type: str = "uint16"
    word_swap: bool = False
    byte_swap: bool = False
    scale: float = 1.0
    offset: float = 0.0

    @property
    def words(self) -> int:
        """Number of registers it takes, or of bits in a table of bits."""
        return struct.calcsize(">" + _CODES[self.type]) // 2 if self.table in ("holding", "input") else 1

    def value(self, words: Sequence[int]) -> float:
        """The value of its words, 0 to 65535 each; NaN where a float is not finite."""
        if self.table in ("coil", "discrete"):
            number = float(bool(words[0]))
        else:
            ordered = words[::-1] if self.word_swap else words
            data = b"".join(word.to_bytes(2, "little" if self.byte_swap else "big") for word in ordered)
            number = float(struct.unpack(">" + _CODES[self.type], data)[0])
            if self.type == "float32":
                number = shortest(number)
        value = number * self.scale + self.offset
        # By division where a step is one part of a whole, so that 127 tenths are 12.7.
        parts = round(1 / self.scale) if self.scale and abs(self.scale) <= 1 else 0
        if parts and abs(self.scale * parts - 1) < 1e-12:
            value = number / parts + self.offset
        return value if math.isfinite(value) else math.nan


@dataclass(frozen=True)
class Request:
    """``count`` registers or bits of a table from ``address`` on."""

    table: str
    address: int
    count: int

    @property
    def says(self) -> str:
        """The request in words."""
        last = self.address + self.count - 1
        return f"{self.table} {self.address}" + (f" to {last}" if self.count > 1 else "")


def requests_for(registers: Sequence[RegisterSpec]) -> tuple[Request, ...]:
    """The fewest requests that touch no other register: a device may refuse an address that it does not have."""
    found: list[Request] = []
    for table in TABLES:
        spans = sorted((each.address, each.address + each.words) for each in registers if each.table == table)
        start = end = -1
        for low, high in spans:
            if start >= 0 and low <= end and max(high, end) - start <= MOST[table]:
                end = max(end, high)
                continue
            found += [Request(table, start, end - start)] if start >= 0 else []
            start, end = low, high
        found += [Request(table, start, end - start)] if start >= 0 else []
    return tuple(found)


def values_in(registers: Sequence[RegisterSpec], replies: Mapping[Request, Sequence[int]]) -> tuple[float, ...]:
    """A value for each register; NaN for those whose request was not answered."""
    return tuple(_value_in(each, replies) for each in registers)


def _value_in(register: RegisterSpec, replies: Mapping[Request, Sequence[int]]) -> float:
    for request, words in replies.items():
        first = register.address - request.address
        if request.table == register.table and first >= 0 and first + register.words <= len(words):
            return register.value(words[first : first + register.words])
    return math.nan


EXCEPTIONS = {
    1: "it does not know this function",
    2: "it has no such address",
    3: "it does not take this count or value",
    4: "it failed inside",
    5: "it is still working on it",
    6: "it is busy",
    8: "its memory is faulty",
    10: "the gateway has no path to it",
    11: "the device behind the gateway does not answer",
}
"""What an exception of a device means. Source: Modbus application protocol, section 7."""


def exception_says(code: int) -> str:
    """An exception code in words."""
    return f"exception {code}: {EXCEPTIONS.get(code, 'one that is not in the standard')}"
